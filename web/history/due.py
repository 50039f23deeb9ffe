"""The due list: what is due in a shop, the longest due first, moved where somebody moved it. It is read from the
record; what is kept of it is only that something was moved, and why.
"""

from collections import defaultdict
from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import cached_property

from django.db.models import Q, QuerySet, Subquery
from django.utils import timezone

from web.accounts.models import User
from web.history.bridge.upkeep import weather_wanted
from web.history.due_kinds import BASELINE, MAINTENANCE, RECHECK, SOURCES, Due, Source, day_of
from web.houses.models import House
from web.shell.forms import read_uuid
from web.visits.models import DueMove, PlannedVisit

TESTS = (MAINTENANCE, RECHECK, BASELINE)  # which want their weather
MOST_READ = 1_000  # the longest due first, by a calendar
MOVED_LATELY = timedelta(days=365)  # what was moved to a day before that is overdue by its own day as well
AT_ONCE = 200  # rows of a kind asked for at once: what a small shop has
OVERDUE, THIS_WEEK, THIS_MONTH, LATER, NO_DAY = "Overdue", "This week", "This month", "Later", "No day set"


@dataclass(frozen=True)
class Listed:
    """A thing that is due, as far as the order of the list needs it. pk: of its row."""

    on: date | None
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


class Listing(Sequence[Listed]):
    """All that is due in the person's shop, the longest due first, what has no day last; within a day by kind. It asks
    each kind for no more rows than a part of the list may take of it, so that its first page takes as long in a large
    shop as in a small one.
    """

    def __init__(self, user, by: Narrowed | None = None):
        by = by or Narrowed()
        sources = [source for source in SOURCES if by.kind in ("", source.kind)]
        self._known: dict[int, list[Listed]] = {}  # by how many were asked for
        self._rows = {source: narrow(source.rows(user), by) for source in sources}
        self._until: dict[str, dict[str, date]] = defaultdict(dict)  # what was moved: kind -> ref -> the day
        moves = DueMove.objects.visible_to(user).filter(until__gte=timezone.localdate() - MOVED_LATELY)
        for kind, ref, until in moves.order_by("pk").values_list("kind", "ref", "until"):
            self._until[kind][ref] = until

    def __len__(self) -> int:
        few = self._first(AT_ONCE)
        return len(few) if len(few) < AT_ONCE else sum(rows.count() for rows in self._rows.values())

    def __getitem__(self, part):
        most = part + 1 if isinstance(part, int) else len(self) if part.stop is None else part.stop
        return self._first(max(most, AT_ONCE))[part]

    def _first(self, most: int) -> list[Listed]:
        """The first so many of the list."""
        if most not in self._known:
            dated = [row for source in self._rows for row in self._dated(source, most)]
            found = sorted([*dated, *self._moved], key=_in_order)[:most]
            if len(found) < most:
                found += [row for source in self._rows for row in self._undated(source, most - len(found))]
            self._known[most] = found[:most]
        return self._known[most]

    @cached_property
    def _moved(self) -> list[Listed]:
        """What was moved and is still due, by the day it was moved to."""
        found = []
        for source, rows in self._rows.items():
            if until := self._until[source.kind]:
                of = _listed(source, rows.filter(**{f"{source.ref}__in": until}))
                found += [replace(row, on=until[row.ref]) for row in of]
        return found

    def _left(self, source: Source) -> QuerySet:
        """What was not moved."""
        return self._rows[source].exclude(**{f"{source.ref}__in": list(self._until[source.kind])})

    def _dated(self, source: Source, most: int) -> list[Listed]:
        rows = self._left(source).filter(**{f"{source.on}__isnull": False})
        return _listed(source, rows.order_by(source.on, "pk")[:most])

    def _undated(self, source: Source, most: int) -> list[Listed]:
        rows = self._left(source).filter(**{f"{source.on}__isnull": True})
        return _listed(source, rows.order_by("pk")[:most]) if source.may_lack_day else []


def _listed(source: Source, rows: QuerySet) -> list[Listed]:
    told = rows.values_list("pk", source.on, source.ref)
    return [Listed(day_of(on, source.after), source.kind, pk, str(ref)) for pk, on, ref in told]


def _in_order(row: Listed) -> tuple:
    return row.on, row.kind, row.pk


def find(user, kind: str, ref: str) -> Due | None:
    """A thing that is due, by its kind and its ref; None where it is not, or not any more."""
    sources = [source for source in SOURCES if source.kind == kind and read_uuid(ref)]
    rows = [row for source in sources for row in _listed(source, source.rows(user).filter(**{source.ref: ref}))]
    return next(iter(load(user, rows)), None)


def load(user, listed: Sequence[Listed]) -> list[Due]:
    """Things of the list with all that is shown of them, within a day by place; a query for each kind among them."""
    moves = _moves_of(user, [row.ref for row in listed])
    made: dict[tuple[str, int], Due] = {}
    for source in SOURCES:
        keys = [row.pk for row in listed if row.kind == source.kind]
        if keys:
            rows = source.rows(user).filter(pk__in=keys).select_related("system__house__shop", *source.of)
            made |= {(source.kind, row.pk): source.made(row) for row in rows}
    shown = [(row, made[row.kind, row.pk]) for row in listed if (row.kind, row.pk) in made]
    plans = _plans(user, {due.system.pk for _, due in shown})
    found = [replace(_moved(due, moves), on=row.on, planned=plans.get(due.system.pk)) for row, due in shown]
    return sorted(found, key=lambda due: (due.on or date.max, str(due.system)))


def due_of(user, by: Narrowed | None = None) -> list[Due]:
    """What is due in the person's shop, the longest due first, as far as anybody reads."""
    return load(user, Listing(user, by)[:MOST_READ])


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


def narrow(rows: QuerySet, by: Narrowed) -> QuerySet:
    """The rows of the part of the list that is looked at. rows: of systems, with `who` (was there, or goes there)."""
    for word in by.place.split():
        rows = rows.filter(Q(system__house__name__icontains=word) | Q(system__name__icontains=word))
    if by.person:
        rows = rows.filter(who=Subquery(User.objects.filter(public_id=by.person).values("pk")))
    if by.area:
        rows = rows.filter(system__house__weather_place=by.area)
    return rows


def _plans(user, systems: Collection[int]) -> dict[int, PlannedVisit]:
    """By machine: the first visit to come."""
    to_come = PlannedVisit.objects.visible_to(user).to_come().filter(system__in=systems)
    rows = to_come.filter(starts_at__gte=timezone.now() - timedelta(days=1))
    return {row.system_id: row for row in rows.select_related("person").order_by("-starts_at")}


def _moves_of(user, refs: Collection[str]) -> dict[tuple[str, str], DueMove]:
    """The last move of each of these things, by kind and ref."""
    rows = DueMove.objects.visible_to(user).filter(ref__in=refs).order_by("pk").select_related("person")
    return {(row.kind, row.ref): row for row in rows}


def _moved(due: Due, moves: dict[tuple[str, str], DueMove]) -> Due:
    """With why it was moved, where it was."""
    move = moves.get((due.kind, due.ref))
    if move is None:
        return due
    was = f" from {due.on:%b %-d, %Y}" if due.on else ""
    return replace(due, moved=f"Moved{was} by {move.person.short_name}: {move.why}")
