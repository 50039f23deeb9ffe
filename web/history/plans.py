"""Visits to come, as they are shown: what the forecast withholds, what is due there, what to bring."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta

from django.db.models import F, QuerySet
from django.utils import timezone

from web.history.bridge import upkeep
from web.history.models import VisitSummary
from web.houserules.services import rules_of
from web.houses.models import System
from web.houses.weather import forecast_for
from web.visits.models import FollowUp, PlannedVisit

AHEAD_SHOWN = timedelta(days=14)
SOON = timedelta(days=30)  # a filter due so soon is changed at the visit


@dataclass(frozen=True)
class Planned:
    """A visit to come. forecast: outdoor air in words, '' where nobody can say; withholds: what of the test it spoils;
    bring: beside the usual kit; open: the follow-ups of the machine.
    """

    plan: PlannedVisit
    forecast: str
    withholds: str
    bring: Sequence[str]
    open: Sequence[FollowUp]

    @property
    def person_left(self) -> bool:
        """Whether who was to go is no longer of the shop."""
        return not self.plan.person.is_active


def plans_of_day(user, day: date) -> list[PlannedVisit]:
    """The visits of a day in the person's shop that nobody has done yet, in the order of their hours."""
    return list(_to_come(user).filter(starts_at__gte=_begins(day), starts_at__lt=_begins(day + timedelta(days=1))))


def plans_ahead(user) -> QuerySet[PlannedVisit]:
    """The visits of the next days, today's among them, and those whose day passed without a visit."""
    until = _begins(timezone.localdate()) + AHEAD_SHOWN
    return _to_come(user).filter(starts_at__lt=until).annotate(who=F("person"))


def shown(user, plans: Sequence[PlannedVisit]) -> list[Planned]:
    """Visits to come with what is said of each; three queries for all of them, none where there are none."""
    if not plans:
        return []
    systems = {plan.system_id for plan in plans}
    rules = rules_of(user.shop)
    last = {row.system_id: row for row in VisitSummary.objects.filter(system__in=systems, is_last=True)}
    open_: dict[int, list[FollowUp]] = {}
    for row in FollowUp.objects.filter(system__in=systems).open():
        open_.setdefault(row.system_id, []).append(row)
    return [_shown(plan, last.get(plan.system_id), open_.get(plan.system_id, []), rules) for plan in plans]


def _shown(plan: PlannedVisit, last: VisitSummary | None, follow_ups: list[FollowUp], rules) -> Planned:
    forecast, withholds = ahead(plan.system, plan.mode, plan.starts_at, rules)
    return Planned(plan, forecast, withholds, bring(plan.system, last, follow_ups, plan.starts_at.date()), follow_ups)


def ahead(system: System, mode: str, when: datetime, rules) -> tuple[str, str]:
    """The forecast for a machine at an hour, in words, and what of its test that withholds; '' where nothing is known
    or withheld.
    """
    forecast = forecast_for(system.house, when)
    if forecast is None:
        return "", ""
    return upkeep.forecast_words(forecast), upkeep.forecast_says(system, mode, forecast, rules)


def bring(system: System, last: VisitSummary | None, follow_ups: Iterable[FollowUp], on: date) -> list[str]:
    """What a visit to a machine wants beside the usual kit, by its last visit and what is open."""
    charge = any(row.blocks == "charge" for row in follow_ups)
    filter_ = last is not None and last.filter_due is not None and last.filter_due <= on + SOON
    return upkeep.to_bring(system, [last.group] if last else [], filter_, charge)


def _to_come(user):
    rows = PlannedVisit.objects.visible_to(user).to_come().select_related("system__house__shop", "person")
    return rows.order_by("starts_at", "pk")


def _begins(day: date) -> datetime:
    return timezone.make_aware(datetime.combine(day, time()))
