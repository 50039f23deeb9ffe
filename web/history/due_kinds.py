"""The kinds of things that are due, each with where it is read from and how it is told: maintenance by the day that was
left at closing, filters, leak searches and other follow-ups, fixes that nobody read again, baselines that ended.
"""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any

from django.db.models import F, Max, OuterRef, Q, QuerySet, Subquery
from django.db.models.functions import Coalesce
from django.utils import timezone

from web.accounts.models import User
from web.history.models import VisitSummary
from web.houses.models import System
from web.visits.changes.refrigerant import UNSEARCHED
from web.visits.models import FINISHED, Baseline, Closing, FollowUp, PlannedVisit, Visit

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
class Source:
    """One kind of thing that is due. rows: the shop's, with `who` (was there); on: the column of its day; after: what
    is added to it; of: what `made` needs beside the row. may_lack_day: whether nobody need have said when.
    """

    kind: str
    rows: Callable[[User], QuerySet]
    on: str
    made: Callable[[Any], Due]
    of: tuple[str, ...]
    ref: str = "public_id"
    after: timedelta | None = None
    may_lack_day: bool = False


def day_of(on: date | datetime | None, after: timedelta | None) -> date | None:
    """The day by which it is due, on the shop's clock."""
    return timezone.localtime(on).date() + after if isinstance(on, datetime) and after else on


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
    on = day_of(visit.finished_at, RECHECK_AFTER)
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
    on = day_of(row.ended_at, BASELINE_AFTER)
    return Due(row.system, BASELINE, str(row.public_id), row.ended_why, on, person, mode=row.mode)


OF_VISIT = ("started_by", "with_person")
SOURCES = (
    Source(MAINTENANCE, _maintained, "next_due", _maintenance, OF_VISIT),
    Source(FILTER, _filters, "filter_due", _filter, ("visit", "person"), ref="visit__public_id"),
    Source(LEAK, _leak_searches, "due_on", _follow_up, ("opened_by",), may_lack_day=True),
    Source(FOLLOW_UP, _other_follow_ups, "due_on", _follow_up, ("opened_by",), may_lack_day=True),
    Source(RECHECK, _unread, "finished_at", _recheck, OF_VISIT, after=RECHECK_AFTER),
    Source(BASELINE, _ended, "ended_at", _baseline, ("ended_by",), after=BASELINE_AFTER),
)
