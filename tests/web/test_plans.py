"""Visits to come: planned, moved, called off, done; told to a calendar; the weather ahead."""

from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from django.core.exceptions import PermissionDenied
from django.urls import reverse
from django.utils import timezone
from icalendar import Calendar

from tests.web.conftest import words
from tests.web.test_due import finish, on_the_shops_clock  # noqa: F401
from web.accounts.models import User
from web.accounts.rights import LEAD
from web.history import plans, services
from web.history.models import CalendarFeed
from web.houses.weather import Weather
from web.visits import changes
from web.visits.models import PlanMove, PlannedVisit

ZONE = ZoneInfo("America/Denver")
NUMBER = "0b51a3a4-6b6e-4c8e-9f0e-6a3f4f0c1d11"


def at(days, hour=9):
    """An hour on the shop's clock, so many days ahead."""
    return (timezone.localtime(timezone.now(), ZONE) + timedelta(days=days)).replace(
        hour=hour, minute=0, second=0, microsecond=0
    )


def form(when, person, **more):
    sent = {"person": person.public_id, "day": f"{when:%Y-%m-%d}", "hour": f"{when:%H:%M}", "minutes": "60"}
    return sent | {"why": "Clean the coil", "number": NUMBER} | more


@pytest.fixture
def colleague(ours):
    return User.objects.create_user("cy", first_name="Cy", last_name="Roe", shop=ours.shop)


@pytest.fixture
def plan(ours):
    return changes.plan_visit(ours.person, ours.system, ours.person, at(2), 60, "Clean the coil", "cooling")


def new_page(ours):
    return reverse("history:plan_new", args=[ours.system.public_id])


def test_a_visit_is_planned_once_listed_in_order_and_done_by_the_visit_of_that_day(signed_in, ours, plan):
    soon = timezone.now() + timedelta(minutes=5)
    for _ in range(2):
        shown = signed_in.post(new_page(ours), form(at(3, 14), ours.person), follow=True)
    assert PlannedVisit.objects.count() == 2 and words(shown).count("Clean the coil") >= 2
    changes.plan_visit(ours.person, ours.system, ours.person, soon, 30, "Look at the filter")
    whys = [row.plan.why for row in plans.shown(ours.person, plans.plans_ahead(ours.person))]
    assert whys == ["Look at the filter", "Clean the coil", "Clean the coil"], "in the order of their hours"
    if timezone.localtime(soon, ZONE).date() == at(0).date():  # not in the last minutes of a day
        assert "Look at the filter" in words(signed_in.get("/"))
        visit = changes.start_visit(ours.person, ours.system)
        assert PlannedVisit.objects.get(why="Look at the filter").visit == visit
        assert "Look at the filter" not in words(signed_in.get("/"))
    plan.refresh_from_db()
    assert plan.is_to_come, "a visit of another day is not done by it"


@pytest.mark.parametrize(("change", "refused"), [
    ({"day": "2020-01-01"}, "That hour has passed. Check the day and the year."),
    ({"day": "2099-01-01"}, "more than a year and a half away"),
    ({"day": "31.12."}, "A day: like"), ({"hour": ""}, "Say at what hour."), ({"minutes": "0"}, "At least 10 minutes."),
    ({"minutes": "900"}, "is it a day"), ({"why": " "}, "Say what it is for."), ({"person": ""}, "Choose who goes."),
    ({"person": "not-an-id"}, "Choose who goes."), ({"person": NUMBER}, "Choose somebody of the shop."),
])  # fmt: skip
def test_what_cannot_be_is_said_beside_its_field_and_what_was_typed_stays(signed_in, ours, change, refused):
    shown = signed_in.post(new_page(ours), form(at(2), ours.person) | change)
    assert refused in words(shown) and PlannedVisit.objects.count() == 0
    assert 'value="Clean the coil"' in shown.content.decode() or "why" in change


def test_nobody_is_at_two_places_at_once_and_nobody_who_left_goes(signed_in, ours, plan, colleague):
    clash = changes.plan_visit
    with pytest.raises(changes.PlanRefused, match=r"Ana T\. is at Ours house, main from 09:00 to 10:00"):
        clash(ours.person, ours.system, ours.person, at(2) + timedelta(minutes=30), 60, "Again")
    clash(ours.person, ours.system, ours.person, at(2, 10), 60, "Straight after")
    clash(ours.person, ours.system, colleague, at(2), 60, "Somebody else")
    User.objects.filter(pk=colleague.pk).update(is_active=False)
    colleague.refresh_from_db()
    with pytest.raises(changes.PlanRefused, match=r"Cy R\. has left the shop"):
        clash(ours.person, ours.system, colleague, at(4), 60, "Too late")
    assert "Cy R., who has left" in words(signed_in.get(reverse("history:due")))


def test_it_is_moved_and_called_off_with_a_reason_and_both_are_kept(signed_in, ours, plan, colleague):
    moved = form(at(5, 13), colleague)
    assert "Say why it is moved." in words(signed_in.post(plan.get_absolute_url(), moved))
    for _ in range(2):
        shown = words(signed_in.post(plan.get_absolute_url(), moved | {"moved_why": "Rain"}, follow=True))
    assert PlanMove.objects.count() == 1 and "with Ana T.. Rain" in shown and "Cy Roe, 60 minutes" in shown
    assert "Say why it is called off." in words(signed_in.post(plan.get_absolute_url(), {"called_off_why": ""}))
    shown = words(signed_in.post(plan.get_absolute_url(), {"called_off_why": "They sold the house"}, follow=True))
    assert "Called off by Ana T." in shown and "They sold the house" in shown
    assert "It was called off" in words(signed_in.post(plan.get_absolute_url(), moved | {"moved_why": "Back"}))
    plan.refresh_from_db()
    assert plan.revision == 2 and not plans.plans_ahead(ours.person).exists()


def weather(house, when):
    """It rains on the second day, and the third is cool."""
    days = (timezone.localtime(when, ZONE).date() - at(0).date()).days
    return Weather("A field", when, 58.0 if days == 3 else 88.0, 29.9, is_wet=days == 2)


def test_weather_that_would_spoil_the_test_is_said_before_it_is_planned(signed_in, ours, plan, settings):
    ahead = reverse("history:plan_ahead", args=[ours.system.public_id])
    settings.WEATHER_SERVICE = "tests.web.test_plans.weather"
    said = {days: words(signed_in.get(ahead, form(at(days), ours.person))) for days in (1, 2, 3, 30)}
    assert "88 °F. It fits the test." in said[1] and "Rain is forecast: a wet outdoor coil spoils" in said[2]
    assert "58 °F is forecast: too cold to judge the circuit in cooling." in said[3] and "No forecast" in said[30]
    assert words(signed_in.get(ahead, {"day": "soon"})).strip() == ""
    assert "Rain is forecast" in words(signed_in.get(reverse("history:due")))
    assert "Rain is forecast" in words(signed_in.get(plan.get_absolute_url()))


def read_feed(client, address):
    client.logout()
    answer = client.get(address.removeprefix("http://testserver"))
    assert answer["Content-Type"] == "text/calendar; charset=utf-8" and "no-store" in answer["Cache-Control"]
    return Calendar.from_ical(answer.content)


def test_a_calendar_reads_the_plans_back_with_their_zone_alarm_and_end(signed_in, ours, plan, colleague):
    """Read with the library, as a calendar program would; RFC 5545 asks for one UID and a rising SEQUENCE."""
    changes.plan_visit(ours.person, ours.system, colleague, at(3), 90, "Not Ana's")
    gone = changes.plan_visit(ours.person, ours.system, ours.person, at(4), 60, "Sold; ceiling, attic\nand \\ more")
    changes.call_off(ours.person, gone, "They moved")
    finish(ours, ours.visit, next_due=at(40).date(), next_mode="cooling")
    _, token = services.make_feed(ours.person)
    calendar = read_feed(signed_in, reverse("history:feed", args=[token]))
    events = {str(event["UID"]): event for event in calendar.walk("VEVENT")}
    event = events[f"{plan.public_id}@ruddy-draft"]
    assert event.decoded("DTSTART") == at(2) and event.decoded("DTEND") == at(2, 10)
    assert event["DTSTART"].params["TZID"] == "America/Denver" and list(calendar.walk("VTIMEZONE"))
    assert str(event["SUMMARY"]) == "Ours house, main: Clean the coil" and str(event["STATUS"]) == "CONFIRMED"
    assert str(event["URL"]) == f"http://testserver{plan.get_absolute_url()}"
    [alarm] = event.walk("VALARM")
    assert alarm.decoded("TRIGGER") == -timedelta(minutes=45)
    off = events[f"{gone.public_id}@ruddy-draft"]
    assert str(off["STATUS"]) == "CANCELLED" and int(off["SEQUENCE"]) == 1 and not off.walk("VALARM")
    assert str(off["SUMMARY"]).endswith("Sold; ceiling, attic\nand \\ more"), "escaped and read back"
    [due] = [event for uid, event in events.items() if uid.startswith("maintenance")]
    assert due.decoded("DTSTART") == at(40).date() and "maintenance in cooling" in str(due["SUMMARY"])
    assert len(events) == 3, "not her colleague's"


def test_the_shops_calendar_is_the_leads_and_a_new_address_ends_the_old_one(client, signed_in, ours, plan, theirs):
    page = reverse("history:calendar")
    assert signed_in.post(page, {"of": "shop", "did": "make"}).status_code == 404, "a technician makes none for all"
    User.objects.filter(pk=ours.person.pk).update(role=LEAD)
    shown = [signed_in.post(page, {"of": "shop", "did": "make"}) for _ in range(2)]
    first, second = (answer.context["address"] for answer in shown)
    assert first != second and shown[0]["Cache-Control"] == "no-store"
    assert CalendarFeed.objects.get(ended_at=None).token_hash not in second, "only its hash is kept"
    assert first not in signed_in.get(page).content.decode(), "shown once"
    services.make_feed(theirs.person)
    assert client.get(first.removeprefix("http://testserver")).status_code == 404
    assert [str(e["UID"]) for e in read_feed(client, second).walk("VEVENT")] == [f"{plan.public_id}@ruddy-draft"]
    client.force_login(ours.person)
    client.post(page, {"of": "shop", "did": "end"})
    assert client.get(second.removeprefix("http://testserver")).status_code == 404


def test_who_has_left_has_no_calendar_and_one_event_is_a_file(client, signed_in, ours, plan):
    file = signed_in.get(reverse("history:plan_event", args=[plan.public_id]))
    assert len(Calendar.from_ical(file.content).walk("VEVENT")) == 1 and "attachment" in file["Content-Disposition"]
    ours.person.role = LEAD
    tokens = [services.make_feed(ours.person, of_shop)[1] for of_shop in (False, True)]
    User.objects.filter(pk=ours.person.pk).update(is_active=False)
    client.logout()
    assert [client.get(reverse("history:feed", args=[token])).status_code for token in tokens] == [404, 404]


def test_a_plan_of_another_shop_is_nobodys_business(ours, theirs, plan):
    with pytest.raises(PermissionDenied):
        changes.move_plan(theirs.person, plan, theirs.person, at(3), 60, "Mine")
    with pytest.raises(PermissionDenied):
        changes.call_off(theirs.person, plan, "Mine")
    with pytest.raises(changes.PlanRefused, match="has left the shop"):
        changes.plan_visit(ours.person, ours.system, theirs.person, at(3), 60, "Ours")


def test_clocks_go_forward_between_planning_and_the_visit(ours, monkeypatch):
    """09:00 stays 09:00 on the shop's clock over the change of March 14, 2027."""
    monkeypatch.setattr("web.visits.changes.plans.FARTHEST_AHEAD", timedelta(days=4000))
    spring = datetime(2027, 3, 14, 9, tzinfo=ZONE)
    if spring > timezone.now():
        plan = changes.plan_visit(ours.person, ours.system, ours.person, spring, 60, "After the change")
        plan.refresh_from_db()
        assert timezone.localtime(plan.starts_at, ZONE).hour == 9
