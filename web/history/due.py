"""What is due: maintenance by the day that was left at closing, filters, leak searches and other follow-ups, fixes that
nobody read again, baselines that ended. It is read from the record; what is kept of it is only
that something was moved, and why.
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from typing import Any

from django.db.models import F, Max, OuterRef, Q, QuerySet, Subquery, Value
from django.db.models.functions import Coalesce, Concat
from django.utils import timezone

from web.accounts.models import User
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
MOST, MOST_READ = 5_000, 1_000  # of each kind, the longest due first; of all, by a calendar
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


@dataclass(frozen=True)
class Listed:
    """A thing that is due, as far as the order of the list needs it. place: house and system; pk: of its row."""

    on: date | None
    place: str
    kind: str
    pk: int
    ref: str


@dataclass(frozen=True)
class Narrowed:
    """Which part of the list is looked at: kind, public id of who was there, area, words of the place; '' for all."""

    kind: str = ""
    person: str = ""
    area: str = ""
    place: str = ""


@dataclass(frozen=True)
class Source:
    """One kind of thing that is due. rows: the shop's, with `who` (was there); on: the column of its day; after: what
    is added to it; of: what `made` needs beside the row.
    """

    kind: str
    rows: Callable[[User], QuerySet]
    on: str
    made: Callable[[Any], Due]
    of: tuple[str, ...]
    ref: str = "public_id"
    after: timedelta | None = None


def list_due(user, by: Narrowed | None = None) -> list[Listed]:
    """All that is due in the person's shop, the longest due first; a query for each kind, one for what was moved."""
    by, until = by or Narrowed(), dict(_moves_of(user).values_list("kind_ref", "until"))
    found = []
    for source in SOURCES:
        if by.kind in ("", source.kind):
            rows = _narrow(source.rows(user), by).order_by(source.on, "pk")
            told = rows.values_list("pk", source.on, source.ref, "system__house__name", "system__name")[:MOST]
            for pk, on, ref, house, system in told:
                day = until.get(f"{source.kind} {ref}") or _day(on, source.after)
                found.append(Listed(day, f"{house}, {system}", source.kind, pk, str(ref)))
    return sorted(found, key=lambda row: (row.on or date.max, row.place, row.kind))


def load(user, listed: Sequence[Listed]) -> list[Due]:
    """Things of the list with all that is shown of them, in its order; a query for each kind among them."""
    moves = {(move.kind, move.ref): move for move in _moves_of(user).select_related("person")} if listed else {}
    plans = _plans(user) if listed else {}
    made: dict[tuple[str, int], Due] = {}
    for source in SOURCES:
        keys = [row.pk for row in listed if row.kind == source.kind]
        if keys:
            rows = source.rows(user).filter(pk__in=keys).select_related("system__house__shop", *source.of)
            made |= {(source.kind, row.pk): source.made(row) for row in rows}
    shown = [(row, made[row.kind, row.pk]) for row in listed if (row.kind, row.pk) in made]
    return [replace(_moved(due, moves), on=row.on, planned=plans.get(due.system.pk)) for row, due in shown]


def due_of(user, by: Narrowed | None = None) -> list[Due]:
    """What is due in the person's shop, the longest due first, as far as anybody reads."""
    return load(user, list_due(user, by)[:MOST_READ])


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


def _maintained(user) -> QuerySet:
    """Visits that left a day for the maintenance."""
    return _visits(user).filter(next_due__isnull=False)


def _maintenance(visit: Visit) -> Due:
    return Due(
        visit.system, MAINTENANCE, str(visit.public_id), "", visit.next_due, visit.holder.short_name,
        mode=visit.next_mode,
    )  # fmt: skip


def _unread(user) -> QuerySet:
    """Visits that left a fix which nobody read again."""
    ending = Closing.objects.filter(visit=OuterRef("pk"), did=FINISHED).order_by("-id")
    return (
        _visits(user)
        .filter(left_unread=True)
        .annotate(why=Subquery(ending.values("no_recheck_why")[:1]), finished_at=Subquery(ending.values("at")[:1]))
    )


def _recheck(visit: Visit) -> Due:
    on = _day(visit.finished_at, RECHECK_AFTER)
    return Due(visit.system, RECHECK, str(visit.public_id), visit.why, on, visit.holder.short_name)


def _visits(user) -> QuerySet:
    visits = Visit.objects.visible_to(user).filter(is_practice=False)
    return visits.annotate(who=Coalesce("with_person", "started_by"))


def _filters(user) -> QuerySet:
    """Of machines whose filter does not last until their maintenance, which looks at it anyway."""
    rows = VisitSummary.objects.visible_to(user).filter(filter_due__isnull=False, machine=F("system__machine"))
    before = Q(visit__next_due__isnull=True) | Q(filter_due__lt=F("visit__next_due"))
    return rows.filter(before, visit__is_practice=False).annotate(who=F("person"))


def _filter(row: VisitSummary) -> Due:
    person = row.person.short_name
    return Due(row.system, FILTER, str(row.visit.public_id), row.filter_why, row.filter_due, person)


def _follow_ups(user) -> QuerySet:
    open_ = FollowUp.objects.visible_to(user).filter(closed_at__isnull=True, system__house__is_practice=False)
    return open_.annotate(who=F("opened_by"))


def _leak_searches(user) -> QuerySet:
    return _follow_ups(user).filter(text=UNSEARCHED)


def _other_follow_ups(user) -> QuerySet:
    return _follow_ups(user).exclude(text=UNSEARCHED)


def _follow_up(row: FollowUp) -> Due:
    blocks = row.blocks_words.lower() if row.blocks else ""
    kind = LEAK if row.text == UNSEARCHED else FOLLOW_UP
    return Due(row.system, kind, str(row.public_id), row.text, row.due_on, row.opened_by.short_name, blocks)


def _ended(user) -> QuerySet:
    """Baselines that ended by what was done, of machines that have none since."""
    own = Baseline.objects.visible_to(user)
    newest = own.order_by().values("system", "mode").annotate(last=Max("pk")).values("last")
    rows = own.filter(pk__in=newest, live=None, system__house__is_practice=False, system__house__erased_at=None)
    return rows.annotate(who=F("ended_by"))


def _baseline(row: Baseline) -> Due:
    person = row.ended_by.short_name if row.ended_by else ""
    on = _day(row.ended_at, BASELINE_AFTER)
    return Due(row.system, BASELINE, str(row.public_id), row.ended_why, on, person, mode=row.mode)


OF_VISIT = ("started_by", "with_person")
SOURCES = (
    Source(MAINTENANCE, _maintained, "next_due", _maintenance, OF_VISIT),
    Source(FILTER, _filters, "filter_due", _filter, ("visit", "person"), ref="visit__public_id"),
    Source(LEAK, _leak_searches, "due_on", _follow_up, ("opened_by",)),
    Source(FOLLOW_UP, _other_follow_ups, "due_on", _follow_up, ("opened_by",)),
    Source(RECHECK, _unread, "finished_at", _recheck, OF_VISIT, after=RECHECK_AFTER),
    Source(BASELINE, _ended, "ended_at", _baseline, ("ended_by",), after=BASELINE_AFTER),
)


def _day(on: date | datetime | None, after: timedelta | None) -> date | None:
    """The day by which it is due, on the shop's clock."""
    return timezone.localtime(on).date() + after if isinstance(on, datetime) and after else on


def _narrow(rows: QuerySet, by: Narrowed) -> QuerySet:
    for word in by.place.split():
        rows = rows.filter(Q(system__house__name__icontains=word) | Q(system__name__icontains=word))
    if by.person:
        rows = rows.filter(who=Subquery(User.objects.filter(public_id=by.person).values("pk")))
    if by.area:
        rows = rows.filter(system__house__weather_place=by.area)
    return rows


def _plans(user) -> dict[int, PlannedVisit]:
    """By machine: the first visit to come."""
    rows = PlannedVisit.objects.visible_to(user).to_come().filter(starts_at__gte=timezone.now() - timedelta(days=1))
    return {row.system_id: row for row in rows.select_related("person").order_by("-starts_at")}


def _moves_of(user) -> QuerySet:
    """The moves of the person's shop, the last of each thing last."""
    named = Concat("kind", Value(" "), "ref")
    return DueMove.objects.visible_to(user).annotate(kind_ref=named).order_by("pk")


def _moved(due: Due, moves: dict[tuple[str, str], DueMove]) -> Due:
    """With why it was moved, where it was."""
    move = moves.get((due.kind, due.ref))
    if move is None:
        return due
    was = f" from {due.on:%b %-d, %Y}" if due.on else ""
    return replace(due, moved=f"Moved{was} by {move.person.short_name}: {move.why}")
