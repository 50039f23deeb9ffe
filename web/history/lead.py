"""What a lead looks at, worst first: machines that are out of line, visits that are not done with, what came of the
work. Each number is the count of a list of visits.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from urllib.parse import urlencode

from django.db.models import Case, Count, Exists, F, OuterRef, Q, QuerySet, Value, When
from django.utils import timezone

from web.accounts.models import User
from web.history import ledger
from web.history.models import VisitSummary
from web.history.summaries import worked_out_to
from web.shell.forms import read_uuid
from web.visits.bridge.stored import FAULTS, SOUND, UNTOLD
from web.visits.models import FINISHED, RETURNED, Closing, Outcome, Visit
from web.visits.querysets import VisitQuerySet

OPEN_TOO_LONG = timedelta(hours=24)  # working figure: a visit is finished on its day
USUAL_DAYS, MOST_DAYS = 90, 1100
STRETCHES = {30: "30 days", 90: "90 days", 365: "A year", 1095: "Three years"}
TOLD = (*FAULTS, SOUND)
NOW, IN_TIME = "now", "in_time"


@dataclass(frozen=True)
class What:
    """One list of visits: its title, what it means, whether it is of now or of a stretch of time, and which summaries
    are in it; None for visits that are open.
    """

    title: str
    means: str
    of: str
    q: Q | None = None


# fmt: off
WHATS = {
    "out_of_line": What("Out of line now", "The machine's last visit left a fault.", NOW, Q(is_last=True, state__in=FAULTS)),
    "drifting": What("Drifting", "Its readings creep away from its baseline, visit by visit.", NOW, Q(is_last=True) & ~Q(drifts="")),
    "cannot_tell": What("Cannot tell", "The last visit could not tell, or its readings do not count.", NOW, Q(is_last=True, state__in=(*UNTOLD, ""))),
    "open": What("Open too long", "Begun more than a day ago and not finished.", NOW),
    "returned": What("Returned", "Sent back to be done again.", NOW),
    "finished": What("Finished", "Visits finished in this time.", IN_TIME, Q()),
    "without": What("Told without gauges", "A verdict, and no hose was connected.", IN_TIME, Q(hooked=False, state__in=TOLD)),
    "hooked": What("With gauges", "Hoses were connected.", IN_TIME, Q(hooked=True)),
    "changed": What("Gauges changed the verdict", "Without their readings it would have been another.", IN_TIME, Q(hooked=True) & ~Q(without_gauges="")),
    "called_back": What("Called back", "Unplanned, within 30 days of a fix of the same machine.", IN_TIME, Q(calls_back=True)),
    "known": What("Outcome recorded", "It was said later whether the verdict was right.", IN_TIME, Q(known=True)),
    "not_known": What("Outcome not recorded", "A verdict was told, and nobody said yet whether it was right.", IN_TIME, Q(known=False, state__in=TOLD)),
}
# fmt: on
BY_OUTCOME = ("known", "not_known")  # whether something is on record of them elsewhere
WORST_FIRST = Case(*(When(state=state, then=Value(n)) for n, state in enumerate(FAULTS)), default=Value(len(FAULTS)))
COUNTED = [id_ for id_, what in WHATS.items() if what.of == IN_TIME]


@dataclass(frozen=True)
class Narrowed:
    """Which part of the work is looked at. days: how far back; person: public id, model, area: '' for all."""

    days: int = USUAL_DAYS
    person: str = ""
    model: str = ""
    area: str = ""

    @property
    def since(self) -> datetime:
        """From when on, on the shop's clock."""
        day = timezone.localdate() - timedelta(days=self.days)
        return timezone.make_aware(datetime.combine(day, time()))

    def address(self, **more: str) -> str:
        """As the end of an address."""
        asked = {"days": str(self.days), "person": self.person, "model": self.model, "area": self.area} | more
        return urlencode({name: value for name, value in asked.items() if value})


def narrowed_by(asked: Mapping[str, str]) -> Narrowed:
    """As an address or a form says it; what cannot be read is left out."""
    days, person = asked.get("days", ""), read_uuid(asked.get("person"))
    return Narrowed(
        min(int(days), MOST_DAYS) if days.isdecimal() and int(days) else USUAL_DAYS,
        str(person or ""),
        asked.get("model", "")[:60].strip(),
        asked.get("area", "")[:60],
    )


def keys_of(user, what: str, by: Narrowed) -> QuerySet:
    """The keys of the visits in a list: of machines the worst first, then the longest so; of open ones the oldest first;
    of those in a stretch of time the newest first.
    """
    if WHATS[what].q is None:
        visits = Visit.objects.visible_to(user).filter(is_practice=False)
        person = Q(with_person__public_id=by.person)
        return _narrow(_unfinished(visits, what), by, person).order_by("started_at", "pk").values_list("pk", flat=True)
    found = _summaries(user, by).filter(_within(what, by)).values_list("visit", flat=True)
    return found.order_by(*(("-started_at", "-pk") if WHATS[what].of == IN_TIME else (WORST_FIRST, "started_at", "pk")))


def summaries_in_time(user, by: Narrowed) -> QuerySet[VisitSummary]:
    """The finished visits of the time, the newest first."""
    rows = _summaries(user, by).filter(started_at__gte=by.since).select_related("system__house", "person")
    return rows.order_by("-started_at", "-pk")


def not_worked_out(user) -> int:
    """How many visits were finished so lately that no number counts them yet."""
    finished = Closing.objects.visible_to(user).filter(did=FINISHED, visit__is_practice=False)
    return finished.filter(pk__gt=worked_out_to()).values("visit").distinct().count()


def counts_by_person(user, by: Narrowed) -> list[tuple[User, dict[str, int]]]:
    """How many visits of each list of the time each person has, by first name; a handful of queries."""
    rows = _summaries(user, by).filter(started_at__gte=by.since).order_by()
    plain = [id_ for id_ in COUNTED if id_ not in BY_OUTCOME]
    counts = {f"count_{id_}": Count("pk", filter=WHATS[id_].q) for id_ in plain}  # a column has the same name
    found = {
        person: dict.fromkeys(BY_OUTCOME, 0) | dict(zip(plain, of, strict=True))
        for person, *of in rows.values_list("person").annotate(**counts)
    }
    for id_ in BY_OUTCOME:
        for person, count in rows.filter(WHATS[id_].q).values_list("person").annotate(Count("pk")):
            found[person][id_] = count
    return [(person, found[person.pk]) for person in User.objects.filter(pk__in=found).order_by("first_name", "pk")]


def refrigerant_by_month(user, by: Narrowed) -> list[tuple[date, list[ledger.Sum]]]:
    """What went into machines, came out and was lost, by month and refrigerant, the newest month first."""
    months: dict[date, list[ledger.Line]] = {}
    for line in ledger.log_of(user.shop, by.since, timezone.now()).lines:
        if line.system and _is_wanted(line, by):
            months.setdefault(timezone.localtime(line.at).date().replace(day=1), []).append(line)
    return [(month, ledger.sums_of(lines)) for month, lines in sorted(months.items(), reverse=True)]


def _is_wanted(line: ledger.Line, by: Narrowed) -> bool:
    system = line.system
    if by.model.lower() not in system.model.lower() or by.area not in ("", system.house.weather_place):
        return False
    return not by.person or line.person_id == by.person


def _unfinished(visits: VisitQuerySet, what: str) -> QuerySet[Visit]:
    if what == "returned":
        return visits.filter(ended=RETURNED)
    return visits.open_still().exclude(ended=RETURNED).filter(started_at__lt=timezone.now() - OPEN_TOO_LONG)


def _summaries(user, by: Narrowed) -> QuerySet[VisitSummary]:
    """The summaries of finished visits in the part of the work that is looked at."""
    rows = VisitSummary.objects.visible_to(user).filter(finished=True)
    said = Outcome.objects.filter(round__visit=OuterRef("visit"))
    return _narrow(rows, by, Q(person__public_id=by.person)).annotate(known=Exists(said))


def _within(what: str, by: Narrowed) -> Q:
    here = Q(started_at__gte=by.since) if WHATS[what].of == IN_TIME else Q(machine=F("system__machine"))
    return (WHATS[what].q or Q()) & here


def _narrow(rows: QuerySet, by: Narrowed, person: Q) -> QuerySet:
    """Rows of machines of a model and an area, and of a person, where asked for."""
    asked = person if by.person else Q()
    asked &= Q(system__model__icontains=by.model) if by.model else Q()
    asked &= Q(system__house__weather_place=by.area) if by.area else Q()
    return rows.filter(asked)
