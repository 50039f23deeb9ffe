"""What finished visits came to, worked out of the record: what the lists of the due and of the lead choose by."""

from datetime import date, timedelta
from zoneinfo import ZoneInfo

from django.db.models import Exists, Max, OuterRef
from django.utils import timezone

from web.history.access import kept_of_system
from web.history.bridge import upkeep
from web.history.bridge.strings import drifts_said, headline_without_gauges
from web.history.models import VisitSummary
from web.houserules.services import rules_of
from web.houses.models import System
from web.shell.trace import or_else
from web.visits.bridge import vocabulary
from web.visits.load.current import read_by_slot, seen_by_id
from web.visits.load.gauges import steps_by_round
from web.visits.load.material import material_of, standing
from web.visits.models import (
    FINISHED,
    ON,
    REVIEWED,
    Action,
    Assessment,
    Closing,
    HookUp,
    Observation,
    Reading,
    Round,
    Visit,
)

LOOKED_BACK_AT = 200
CALLED_BACK_WITHIN = timedelta(days=30)
STILL_NEW = timedelta(days=7)  # a filter read so soon after it was put in is a clean one
FILTER_CHANGED, CLEAN, RECHECK = "filter_changed", "clean", "recheck"


def worked_out_to() -> int:
    """The key of the last step at the end of a visit that is worked out."""
    return VisitSummary.objects.aggregate(last=Max("closing"))["last"] or 0


def to_summarise(most: int) -> list[Closing]:
    """The oldest steps at the end of visits that are not worked out yet, but those that a later one of the visit
    replaced. Steps kept at the same moment are not always seen in the order of their keys: a few are looked back at.
    """
    steps = Closing.objects.exclude(did=REVIEWED)
    later = steps.filter(visit=OuterRef("visit"), pk__gt=OuterRef("pk"))
    done = VisitSummary.objects.filter(visit=OuterRef("visit"), closing__gte=OuterRef("pk"))
    lately = steps.filter(pk__gt=worked_out_to() - LOOKED_BACK_AT, visit__is_practice=False)
    of = ("visit__system__house__shop", "visit__started_by", "visit__with_person")
    return list(lately.filter(~Exists(later), ~Exists(done)).select_related(*of).order_by("pk")[:most])


def summarise(*steps: Closing) -> None:
    """Work out what visits came to by these steps of their ends, each on the clock of its shop. A machine's newest
    visit is looked for at the last of its steps: one that breaks off before has that step still to do.
    """
    last = {step.visit.system_id: step.pk for step in steps}
    for step in steps:
        _summarise(step, marks=step.pk == last[step.visit.system_id])


def _summarise(step: Closing, marks: bool) -> None:
    visit = step.visit
    with timezone.override(ZoneInfo(visit.shop.time_zone)):
        VisitSummary.objects.update_or_create(
            visit=visit, defaults=_came_to(visit) | {"closing": step, "finished": step.did == FINISHED}
        )
        if marks:
            _mark_last(visit.system)


def _came_to(visit: Visit) -> dict:
    """Of the visit alone, whatever came after it."""
    last, verdict = _last_verdict(visit)
    hooked = HookUp.objects.filter(round__visit=visit, did=ON).exists()
    without = or_else("summary: without gauges", lambda: _without_gauges(last, verdict), str) if hooked else ""
    return {
        "shop": visit.shop,
        "system": visit.system,
        "person": visit.holder,
        "machine": visit.rounds.aggregate(last=Max("machine"))["last"],
        "started_at": visit.started_at,
        "state": verdict.get("state", ""),
        "group": verdict.get("group", ""),
        "headline": verdict.get("headline", "")[:200],
        "fixed": _was_fixed(visit),
        "hooked": hooked,
        "without_gauges": without[:200],
        "calls_back": _calls_back(visit),
    }


def _last_verdict(visit: Visit) -> tuple:
    """The visit's last round of which something was said, and that verdict as it was stored; None and {} for none."""
    rounds = list(visit.rounds.order_by("-number"))
    said = Assessment.objects.newest_of(rounds)
    last = next((round_ for round_ in rounds if round_.pk in said), None)
    return last, said[last.pk].get("verdict", {}) if last else {}


def _without_gauges(last, verdict: dict) -> str:
    """What would have been said without the gauges, where it is another thing."""
    said = headline_without_gauges(material_of(last)) if last else ""
    return "" if said == verdict.get("headline") else said


def _was_fixed(visit: Visit) -> bool:
    done = standing(Action.objects.filter(round__visit=visit))
    known = (vocabulary.ACTIONS.get(row.done) for row in done if row.done != vocabulary.NOTHING_DONE)
    return any(action is None or action.mends for action in known) or bool(steps_by_round(visit))


def _calls_back(visit: Visit) -> bool:
    """Whether somebody had to come back soon after a fix. One who comes to read again was not called."""
    since = visit.started_at - CALLED_BACK_WITHIN
    before = VisitSummary.objects.filter(system=visit.system, started_at__lt=visit.started_at, started_at__gte=since)
    if not before.filter(fixed=True).exists():
        return False
    seen = Observation.objects.filter(round__visit=visit, seen="visit_kind").in_order()
    return getattr(seen.last(), "degree", "") != RECHECK


def _mark_last(system: System) -> None:
    """Let the newest finished visit of a machine speak for it, with its drifts and its filter."""
    of_system = VisitSummary.objects.filter(system=system)
    last = of_system.filter(finished=True).order_by("-started_at", "-pk").first()
    of_system.exclude(pk=last and last.pk).update(is_last=None, drifts="", filter_due=None, filter_why="")
    if last is None:
        return
    last.is_last = True
    last.drifts = or_else("summary: drifts", lambda: drifts_said(kept_of_system(system)), str)[:600]
    last.filter_due, last.filter_why = _filter(system)
    last.save(update_fields=["is_last", "drifts", "filter_due", "filter_why"])


def _filter(system: System) -> tuple[date | None, str]:
    """When the machine's filter is due, by what was read of it since it was changed or seen clean, and why; None where
    the machine is so new that nobody was there. An owner changes filters too, and nobody enters
    it: what is clean is new.
    """
    rounds = sorted(
        Round.objects.filter(visit__system=system, machine=system.machine).select_related("visit"), key=_in_order
    )
    if not rounds:
        return None, ""
    changed = {row.round_id for row in standing(Action.objects.filter(round__in=rounds, done=FILTER_CHANGED))}
    seen = _filters_seen(rounds)
    clean = [n for n, row in enumerate(rounds) if row.pk in changed or seen.get(row.pk) == CLEAN]
    first = clean[-1] if clean else 0
    drops = _drops([row.pk for row in rounds[first:] if row.pk not in changed])
    read = [(_day(row.started_at), drops[row.pk]) for row in rounds[first:] if row.pk in drops]
    since = _day(rounds[first].started_at)
    new = read and clean and read[0][0] - since <= STILL_NEW
    return upkeep.filter_due(since, read[0][1] if new else None, read, rules_of(system.house.shop))


def _filters_seen(rounds: list[Round]) -> dict[int, str]:
    """By round: how its filter was seen."""
    rows: dict[int, list[Observation]] = {}
    for row in Observation.objects.filter(round__in=rounds, seen="filter").in_order():
        rows.setdefault(row.round_id, []).append(row)
    return {pk: slot.current.degree for pk, of_round in rows.items() for slot in seen_by_id(of_round).values()}


def _in_order(round_: Round) -> tuple:
    return round_.visit.started_at, round_.visit_id, round_.number


def _drops(rounds: list[int]) -> dict[int, float]:
    """By round: the drop across the filter as it counts [in. w.c.]."""
    rows: dict[int, list[Reading]] = {}
    for row in Reading.objects.filter(round__in=rounds, place="filter", quantity="pressure_drop").in_order():
        rows.setdefault(row.round_id, []).append(row)
    counting = ((pk, slot.current) for pk, of_round in rows.items() for slot in read_by_slot(of_round).values())
    return {pk: abs(row.value) for pk, row in counting if row.value is not None}


def _day(moment) -> date:
    return timezone.localtime(moment).date()
