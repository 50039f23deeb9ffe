"""What is due: maintenance by the day that was left at closing, follow-ups, fixes that nobody read again, baselines
that ended. It is read from the record; what is kept of it is only that something was moved, and why.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, timedelta

from django.db.models import Max, OuterRef, Subquery
from django.utils import timezone

from web.houses.models import System
from web.visits.models import FINISHED, Baseline, Closing, DueMove, FollowUp, Visit

MAINTENANCE, FOLLOW_UP, RECHECK, BASELINE = "maintenance", "follow_up", "recheck", "baseline"
KINDS = {
    MAINTENANCE: "Maintenance",
    FOLLOW_UP: "Follow-up",
    RECHECK: "Read again after a fix",
    BASELINE: "A new baseline",
}
RECHECK_AFTER, BASELINE_AFTER = timedelta(days=14), timedelta(days=30)  # working figures
MOST = 500  # of each kind, the longest due first
OVERDUE, THIS_WEEK, THIS_MONTH, LATER, NO_DAY = "Overdue", "This week", "This month", "Later", "No day set"


@dataclass(frozen=True)
class Due:
    """One thing that is due. ref: what of its kind it is, so that it can be moved; on: by when, None where nobody said;
    moved: why it was, and by whom.
    """

    system: System
    kind: str
    ref: str
    why: str
    on: date | None
    person: str
    blocks: str = ""
    moved: str = ""

    @property
    def label(self) -> str:
        """What it is, in words."""
        return KINDS[self.kind]


def due_of(user) -> list[Due]:
    """What is due in the person's shop, the longest due first; in a handful of queries."""
    found = [*_by_visit(user), *_follow_ups(user), *_baselines(user)]
    moves = _moves(user)
    return sorted((_moved(due, moves) for due in found), key=lambda due: (due.on or date.max, str(due.system)))


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
    of = ("system__house", "started_by", "with_person")
    visits = Visit.objects.visible_to(user).filter(is_practice=False).select_related(*of)
    for visit in visits.filter(next_due__isnull=False).order_by("next_due")[:MOST]:
        yield Due(visit.system, MAINTENANCE, str(visit.public_id), "", visit.next_due, visit.holder.short_name)
    ending = Closing.objects.filter(visit=OuterRef("pk"), did=FINISHED).order_by("-id")
    unread = visits.filter(left_unread=True).annotate(
        why=Subquery(ending.values("no_recheck_why")[:1]), finished_at=Subquery(ending.values("at")[:1])
    )
    for visit in unread.order_by("started_at")[:MOST]:
        on = timezone.localtime(visit.finished_at).date() + RECHECK_AFTER
        yield Due(visit.system, RECHECK, str(visit.public_id), visit.why, on, visit.holder.short_name)


def _follow_ups(user) -> Iterable[Due]:
    rows = FollowUp.objects.visible_to(user).open().select_related("system__house", "opened_by")
    for row in rows[:MOST]:
        blocks = row.blocks_words.lower() if row.blocks else ""
        yield Due(row.system, FOLLOW_UP, str(row.public_id), row.text, row.due_on, row.opened_by.short_name, blocks)


def _baselines(user) -> Iterable[Due]:
    """Of machines whose baseline ended by what was done, and that have none since."""
    own = Baseline.objects.visible_to(user)
    newest = own.order_by().values("system", "mode").annotate(last=Max("pk")).values("last")
    rows = own.filter(pk__in=newest, live=None, system__house__is_practice=False)
    for row in rows.select_related("system__house", "ended_by").order_by("ended_at")[:MOST]:
        on = timezone.localtime(row.ended_at).date() + BASELINE_AFTER
        person = row.ended_by.short_name if row.ended_by else ""
        yield Due(row.system, BASELINE, f"{row.public_id}", f"For {row.mode}: {row.ended_why}", on, person)


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
    return Due(due.system, due.kind, due.ref, due.why, move.until, due.person, due.blocks, said)
