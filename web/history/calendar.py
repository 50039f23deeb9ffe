"""Plans and what is due as iCalendar (RFC 5545), for whatever calendar a person uses."""

from collections.abc import Iterable
from datetime import date, timedelta
from zoneinfo import ZoneInfo

from django.utils import timezone
from icalendar import Alarm, Calendar, Event

from web.accounts.models import Shop
from web.history.due_kinds import Due
from web.history.models import CalendarFeed
from web.shell.address import public_address
from web.visits.models import PlannedVisit

CONTENT_TYPE = "text/calendar; charset=utf-8"
REMIND_BEFORE = timedelta(minutes=45)
KEPT_FOR, AHEAD = timedelta(days=30), timedelta(days=400)  # what a feed reaches back and ahead
READ_AGAIN = timedelta(hours=1)


def of_plans(shop: Shop, plans: Iterable[PlannedVisit], due: Iterable[Due] = (), name: str = "") -> bytes:
    """A calendar of planned visits, each at its hour on the shop's clock, and of what is due, each on its day. Visits
    that were called off say so, so that a calendar takes them out.
    """
    zone = ZoneInfo(shop.time_zone)
    calendar = Calendar()
    calendar.add("prodid", "-//Ruddy Draft//Planned visits//EN")
    calendar.add("version", "2.0")
    calendar.add("method", "PUBLISH")
    if name:
        calendar.add("x-wr-calname", name)
        calendar.add("refresh-interval", READ_AGAIN, parameters={"VALUE": "DURATION"})
    for plan in plans:
        calendar.add_component(_visit(plan, zone))
    for row in due:
        if row.on is not None:
            calendar.add_component(_due(row, row.on))
    calendar.add_missing_timezones()
    return calendar.to_ical()


def feed_plans(feed: CalendarFeed) -> Iterable[PlannedVisit]:
    """The plans that a feed shows: its person's, or the shop's; those of the last weeks too, done or called off."""
    now = timezone.now()
    rows = PlannedVisit.objects.filter(
        shop=feed.shop, starts_at__gt=now - KEPT_FOR, starts_at__lt=now + AHEAD
    ).select_related("system__house", "person")
    return (rows.filter(person=feed.person) if feed.person else rows).order_by("starts_at", "pk")


def _visit(plan: PlannedVisit, zone: ZoneInfo) -> Event:
    house = plan.system.house
    event = Event()
    event.add("uid", f"{plan.public_id}@ruddy-draft")
    event.add("dtstamp", plan.changed_at)
    event.add("last-modified", plan.changed_at)
    event.add("sequence", plan.revision)
    event.add("dtstart", plan.starts_at.astimezone(zone))
    event.add("dtend", plan.ends_at.astimezone(zone))
    event.add("summary", f"{plan.system}: {plan.why}")
    event.add("location", house.name)
    event.add("url", public_address(plan.get_absolute_url()))
    said = [f"{plan.person.short_name}, {plan.system.plate}", house.access_note, plan.called_off_why]
    event.add("description", "\n".join(line for line in said if line))
    event.add("status", "CANCELLED" if plan.called_off_at else "CONFIRMED")
    if plan.is_to_come:
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", f"{plan.system}: {plan.why}")
        alarm.add("trigger", -REMIND_BEFORE)
        event.add_component(alarm)
    return event


def _due(row: Due, on: date) -> Event:
    event = Event()
    event.add("uid", f"{row.kind}-{row.ref}@ruddy-draft")
    event.add("dtstamp", timezone.now())
    event.add("dtstart", on)
    event.add("dtend", on + timedelta(days=1))
    event.add("summary", f"Due: {row.system}, {row.label.lower()}")
    event.add("location", row.system.house.name)
    event.add("description", ". ".join(line for line in (row.why, row.weather) if line))
    event.add("transp", "TRANSPARENT")
    return event
