"""Planning a visit, moving it, calling it off; it is done by the visit that is started on its day."""

import uuid
from datetime import datetime, time, timedelta
from zoneinfo import ZoneInfo

from django.db import transaction
from django.utils import timezone

from web.accounts.access import need
from web.accounts.models import User
from web.accounts.rights import PLAN
from web.houses.access import need_not_erased
from web.houses.models import System
from web.shell.once import keep_once
from web.visits.models import PlanMove, PlannedVisit, Visit

FARTHEST_AHEAD = timedelta(days=550)  # a year and a half: beyond it, the year was mistyped


class PlanRefused(ValueError):
    """Why a visit is not planned so, in words for the person. field: which field of its form it is about."""

    def __init__(self, said: str, field: str | None = None):
        super().__init__(said)
        self.field = field


@transaction.atomic
def plan_visit(
    actor,
    system: System,
    person: User,
    starts_at: datetime,
    minutes: int,
    why: str,
    mode: str = "",
    number: uuid.UUID | None = None,
) -> PlannedVisit:
    """Plan a visit of a person to a machine. number: made by the page, so that sending it twice keeps one. Raises
    PlanRefused, NumberUsed.
    """
    need(actor, PLAN, system.house.shop_id)
    need_not_erased(system.house)
    row = PlannedVisit(
        shop=system.house.shop, system=system, person=person, starts_at=starts_at, minutes=minutes,
        mode=mode, why=why.strip()[:200], made_by=actor,
    )  # fmt: skip
    seen = PlannedVisit.objects.visible_to(actor)
    if not (number and seen.filter(public_id=number).exists()):
        _need_possible(row)
    return keep_once(seen, number, row, ("system_id", "person_id", "starts_at", "minutes"), row.save)


@transaction.atomic
def move_plan(actor, plan: PlannedVisit, person: User, starts_at: datetime, minutes: int, why: str) -> PlannedVisit:
    """Move a planned visit to another hour or person, with a reason; the same again changes nothing. Raises
    PlanRefused.
    """
    need(actor, PLAN, plan.shop_id)
    row = PlannedVisit.objects.select_for_update().get(pk=plan.pk)
    _need_to_come(row)
    if (row.person, row.starts_at, row.minutes) == (person, starts_at, minutes):
        return row
    if not why.strip():
        raise PlanRefused("Say why it is moved.", "moved_why")
    PlanMove.objects.create(plan=row, was_at=row.starts_at, was_with=row.person, why=why.strip()[:200], by=actor)
    row.person, row.starts_at, row.minutes = person, starts_at, minutes
    _need_possible(row)
    _changed(row)
    return row


@transaction.atomic
def call_off(actor, plan: PlannedVisit, why: str) -> PlannedVisit:
    """Call a planned visit off, with a reason; twice keeps the first. Raises PlanRefused."""
    need(actor, PLAN, plan.shop_id)
    row = PlannedVisit.objects.select_for_update().get(pk=plan.pk)
    if row.called_off_at:
        return row
    _need_to_come(row)
    if not why.strip():
        raise PlanRefused("Say why it is called off.", "called_off_why")
    row.called_off_at, row.called_off_by, row.called_off_why = timezone.now(), actor, why.strip()[:200]
    _changed(row)
    return row


def do_planned(visit: Visit) -> None:
    """A visit that was started does what was planned for its machine on that day; the first, of several."""
    zone = ZoneInfo(visit.shop.time_zone)
    day = timezone.localtime(visit.started_at, zone).date()
    begins = datetime.combine(day, time(), zone)
    todays = PlannedVisit.objects.to_come().filter(
        system=visit.system_id, starts_at__gte=begins, starts_at__lt=begins + timedelta(days=1)
    )
    if plan := todays.order_by("starts_at").first():
        plan.visit = visit
        _changed(plan)


def _changed(plan: PlannedVisit) -> None:
    plan.revision += 1
    plan.changed_at = timezone.now()
    plan.save()


def _need_to_come(plan: PlannedVisit) -> None:
    if plan.visit_id:
        raise PlanRefused("It is done: a visit was started that day.")
    if plan.called_off_at:
        raise PlanRefused("It was called off. Plan another visit.")


def _need_possible(plan: PlannedVisit) -> None:
    """Refuse what cannot be: a past hour, somebody who has left, two places at once."""
    person, now = plan.person, timezone.now()
    if person.shop_id != plan.shop_id or not person.is_active:
        raise PlanRefused(f"{person.short_name} has left the shop: choose who goes.", "person")
    if plan.starts_at <= now:
        raise PlanRefused("That hour has passed. Check the day and the year.", "day")
    if plan.starts_at > now + FARTHEST_AHEAD:
        raise PlanRefused("That is more than a year and a half away. Check the year.", "day")
    User.objects.select_for_update().get(pk=person.pk)  # so that two who plan at once see each other's
    others = PlannedVisit.objects.to_come().filter(person=person).exclude(pk=plan.pk).select_related("system__house")
    near = others.filter(starts_at__gt=plan.starts_at - timedelta(days=1), starts_at__lt=plan.ends_at)
    for other in near:
        if other.ends_at > plan.starts_at:
            hours = f"{timezone.localtime(other.starts_at):%H:%M} to {timezone.localtime(other.ends_at):%H:%M}"
            raise PlanRefused(
                f"{person.short_name} is at {other.system} from {hours}: choose another hour, or who else goes.", "hour"
            )
