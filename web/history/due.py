"""What is due: maintenance by the day that was left at closing, filters, leak searches and other follow-ups, fixes that
nobody read again, baselines that ended. It is read from the record; what is kept of it is only
that something was moved, and why.
"""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date, timedelta

from django.db.models import F, Max, OuterRef, Q, Subquery
from django.utils import timezone

from web.history.bridge.upkeep import weather_wanted
from web.history.models import VisitSummary
from web.houses.models import House, System
from web.visits.changes.refrigerant import UNSEARCHED
from web.visits.models import FINISHED, Baseline, Closing, DueMove, FollowUp, PlannedVisit, Visit

MAINTENANCE, FILTER, FOLLOW_UP, LEAK, RECHECK, BASELINE = (
    "maintenance", "filter", "follow_up", "leak_search", "recheck", "baseline",
)  # fmt: skip
KINDS = {
    MAINTENANCE: "Maintenance",
    FILTER: "Filter",
    LEAK: "Leak search",
    FOLLOW_UP: "Follow-up",
    RECHECK: "Read again after a fix",
    BASELINE: "A new baseline",
}
RECHECK_AFTER, BASELINE_AFTER = timedelta(days=14), timedelta(days=30)  # working figures
TESTS = (MAINTENANCE, RECHECK, BASELINE)  # which want their weather
MOST = 500  # of each kind, the longest due first
OVERDUE, THIS_WEEK, THIS_MONTH, LATER, NO_DAY = "Overdue", "This week", "This month", "Later", "No day set"


@dataclass(frozen=True)
class Due:
    """One thing that is due. ref: what of its kind it is, so that it can be moved; on: by when, None where nobody said;
    mode: of a test, '' where it is none or nobody said; moved: why it was, and by whom; planned: the visit to come;
    weather: what its test wants of it.
    """

    system: System
    kind: str
    ref: str
    why: str
    on: date | None
    person: str
    blocks: str = ""
    moved: str = ""
    mode: str = ""
    planned: PlannedVisit | None = None
    weather: str = ""

    @property
    def label(self) -> str:
        """What it is, in words."""
        return f"{KINDS[self.kind]} in {self.mode}" if self.mode else KINDS[self.kind]

    @property
    def area(self) -> str:
        """Where it is."""
        return area_of(self.system.house)


def area_of(house: House) -> str:
    """The part of the shop's country that a house is in: the place whose weather is asked for."""
    return house.weather_place or "No place given"


def due_of(user) -> list[Due]:
    """What is due in the person's shop, the longest due first; in a handful of queries."""
    found = [*_by_visit(user), *_filters(user), *_follow_ups(user), *_baselines(user)]
    moves, plans = _moves(user), _plans(user)
    rows = (replace(_moved(due, moves), planned=plans.get(due.system.pk)) for due in found)
    return sorted(rows, key=lambda due: (due.on or date.max, str(due.system)))


def areas_of(user) -> list[str]:
    """The areas in which the person's shop has houses."""
    of_shop = House.objects.visible_to(user).filter(is_practice=False).exclude(weather_place="")
    return list(of_shop.order_by("weather_place").values_list("weather_place", flat=True).distinct())


def with_weather(rows: Iterable[Due], rules) -> list[Due]:
    """With the weather that each one's test wants, by the house rules; what is no test wants none."""
    return [
        replace(due, weather=weather_wanted(due.system, due.mode, rules) if due.kind in TESTS else "") for due in rows
    ]


def grouped(rows: Iterable[Due], today: date) -> dict[str, list[Due]]:
    """By when: overdue, this week, this month, later, no day set."""
    week, month = today + timedelta(days=6 - today.weekday()), today + timedelta(days=31)
    until = {OVERDUE: today - timedelta(days=1), THIS_WEEK: week, THIS_MONTH: month, LATER: date.max}
    found: dict[str, list[Due]] = {when: [] for when in (*until, NO_DAY)}
    for due in rows:
        on = due.on
        found[NO_DAY if on is None else next(when for when, last in until.items() if on <= last)].append(due)
    return {when: of for when, of in found.items() if of}


def _by_visit(user) -> Iterable[Due]:
    """Maintenance, and fixes that nobody read again, as the last finished visit of each machine left them."""
    of = ("system__house__shop", "started_by", "with_person")
    visits = Visit.objects.visible_to(user).filter(is_practice=False).select_related(*of)
    for visit in visits.filter(next_due__isnull=False).order_by("next_due")[:MOST]:
        who = visit.holder.short_name
        yield Due(visit.system, MAINTENANCE, str(visit.public_id), "", visit.next_due, who, mode=visit.next_mode)
    ending = Closing.objects.filter(visit=OuterRef("pk"), did=FINISHED).order_by("-id")
    unread = visits.filter(left_unread=True).annotate(
        why=Subquery(ending.values("no_recheck_why")[:1]), finished_at=Subquery(ending.values("at")[:1])
    )
    for visit in unread.order_by("started_at")[:MOST]:
        on = timezone.localtime(visit.finished_at).date() + RECHECK_AFTER
        yield Due(visit.system, RECHECK, str(visit.public_id), visit.why, on, visit.holder.short_name)


def _filters(user) -> Iterable[Due]:
    """Of machines whose filter does not last until their maintenance, which looks at it anyway."""
    rows = VisitSummary.objects.visible_to(user).filter(filter_due__isnull=False, machine=F("system__machine"))
    before = Q(visit__next_due__isnull=True) | Q(filter_due__lt=F("visit__next_due"))
    rows = rows.filter(before, visit__is_practice=False).select_related("system__house__shop", "visit", "person")
    for row in rows.order_by("filter_due")[:MOST]:
        yield Due(row.system, FILTER, str(row.visit.public_id), row.filter_why, row.filter_due, row.person.short_name)


def _follow_ups(user) -> Iterable[Due]:
    rows = FollowUp.objects.visible_to(user).open().select_related("system__house__shop", "opened_by")
    for row in rows[:MOST]:
        blocks = row.blocks_words.lower() if row.blocks else ""
        kind = LEAK if row.text == UNSEARCHED else FOLLOW_UP
        yield Due(row.system, kind, str(row.public_id), row.text, row.due_on, row.opened_by.short_name, blocks)


def _baselines(user) -> Iterable[Due]:
    """Of machines whose baseline ended by what was done, and that have none since."""
    own = Baseline.objects.visible_to(user)
    newest = own.order_by().values("system", "mode").annotate(last=Max("pk")).values("last")
    rows = own.filter(pk__in=newest, live=None, system__house__is_practice=False)
    for row in rows.select_related("system__house__shop", "ended_by").order_by("ended_at")[:MOST]:
        on = timezone.localtime(row.ended_at).date() + BASELINE_AFTER
        person = row.ended_by.short_name if row.ended_by else ""
        yield Due(row.system, BASELINE, f"{row.public_id}", row.ended_why, on, person, mode=row.mode)


def _plans(user) -> dict[int, PlannedVisit]:
    """By machine: the first visit to come."""
    rows = PlannedVisit.objects.visible_to(user).to_come().filter(starts_at__gte=timezone.now() - timedelta(days=1))
    return {row.system_id: row for row in rows.select_related("person").order_by("-starts_at")}


def _moves(user) -> dict[tuple[str, str], DueMove]:
    """By kind and what of it: the last time it was moved."""
    rows = DueMove.objects.visible_to(user).select_related("person").order_by("pk")
    return {(row.kind, row.ref): row for row in rows}


def _moved(due: Due, moves: dict[tuple[str, str], DueMove]) -> Due:
    move = moves.get((due.kind, due.ref))
    if move is None:
        return due
    was = f" from {due.on:%b %-d, %Y}" if due.on else ""
    said = f"Moved{was} by {move.person.short_name}: {move.why}"
    return replace(due, on=move.until, moved=said)
