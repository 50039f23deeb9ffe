"""The order of what comes next: the look or the clamp that goes before everything, what every judgement needs, then
what tells most for each minute.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from engine.diagnosis.actions import look_for
from engine.diagnosis.by_rule import reads_as_heated
from engine.diagnosis.cause import AIR_GROUPS, CIRCUIT_OR_OUTDOORS, HEALTHY, IN_THE_CIRCUIT
from engine.diagnosis.gauges import BELOW_OUTDOOR, CLAMPS_FIRST, WARRANTED, GaugeDecision
from engine.diagnosis.likelihood import Ranked, and_sound, within
from engine.diagnosis.next_steps import Advice, before_leaving, look_at, next_steps, still_to_read
from engine.diagnosis.steps import AIRFLOW, AMPS, DISCHARGE, READ_LINE_AGAIN, SUCTION_LINES
from engine.diagnosis.stop_first import liquid_not_ruled_out
from engine.diagnosis.verdict import (
    CANNOT_TELL,
    CAUSE,
    DOES_NOT_COUNT,
    GROUP,
    SOUND,
    STOP_FIRST,
    SUSPECTS,
    UNEXPLAINED,
    Verdict,
)
from engine.diagnosis.verdict_rules import out_of_range
from engine.quantities.residual import OF_THE_CIRCUIT, Residual
from engine.quantities.table import Table
from engine.readings.round import Round
from engine.uncertainty.margin import IN_RANGE
from engine.validity.finding import CIRCUIT, EVERYTHING

MOST_STEPS = 3  # what is shown at once
# What tells most about a quantity that is out of range and that no cause is judged by.
ABOUT = {
    "total_static": ("filter", "filter_drop", "coil_drop", "registers", "ducts", "evaporator_face"),
    "return_dew_point": ("grille", "ducts"),
    "return_leak_share": ("ducts",),
    "gain_room": ("ducts",),
    "supply_dew_point": ("evaporator_face",),
}
# Drops that show a look's answer without opening anything.
SHOWN_BY = {"filter": "filter_drop", "evaporator_face": "coil_drop"}


@dataclass(frozen=True)
class Judged:
    """What the order rests on. round: as it was read; basics: what every judgement needs and is not read yet; gauges:
    the decision.
    """

    round: Round
    table: Table
    residuals: tuple[Residual, ...]
    ranked: Ranked
    verdict: Verdict
    basics: tuple[Advice, ...]
    gauges: GaugeDecision

    @property
    def is_told(self) -> bool:
        """Whether a fault is told."""
        return self.verdict.state in (CAUSE, GROUP)

    @property
    def asked_about(self) -> tuple[str, ...]:
        """The steps that tell most about what is out of range and weighed by no cause."""
        verdict = self.verdict
        return ABOUT.get(verdict.quantities[0].split(":")[0], ()) if verdict.reason == UNEXPLAINED else ()


def what_next(judged: Judged) -> tuple[Advice, ...]:
    """What to read or look at next, best first. Nothing while it must stop, or while nothing that is read counts."""
    verdict, round_ = judged.verdict, judged.round
    if verdict.state == STOP_FIRST or EVERYTHING in verdict.withholds:
        return ()
    if liquid_not_ruled_out(judged.table):
        return (Advice(READ_LINE_AGAIN, READ_LINE_AGAIN.minutes),)
    telling = _telling(judged)
    ordered: dict[str, Advice] = {}
    for advice in (*_first(judged, telling), *_with_basics(judged, telling)):
        ordered.setdefault(advice.step.id, advice)
    steps = tuple(ordered.values())[:MOST_STEPS]
    last = before_leaving(round_) if verdict.state in (SOUND, DOES_NOT_COUNT) else []
    return (*steps, *(advice for advice in last if advice.step not in [s.step for s in steps]))


def _telling(judged: Judged) -> list[Advice]:
    """What tells most for each minute; about what is out of range and judged by no cause before all."""
    verdict, ranked = judged.verdict, judged.ranked
    have = [r.kind.id for r in judged.residuals] + (list(OF_THE_CIRCUIT) if CIRCUIT in verdict.withholds else [])
    with_gauges = judged.gauges.decides == WARRANTED and verdict.group in ("", *IN_THE_CIRCUIT)
    apart = _in_question(verdict, judged.table, ranked)
    told_of = apart if verdict.group else ranked
    # Before nothing more is to be read the walk is whole: what it does not tell today the next visit is held to.
    whole_walk = verdict.state in (SOUND, CANNOT_TELL)
    found = next_steps(apart, judged.round, have, with_gauges, told_of, whole_walk)
    if verdict.state == SOUND:  # readings, then what may be looked at besides
        return sorted((a for a in found if a.step is not DISCHARGE), key=lambda advice: not advice.left)
    return sorted(found, key=lambda advice: advice.step.id not in judged.asked_about)


def _with_basics(judged: Judged, telling: list[Advice]) -> tuple[Advice, ...]:
    """What tells most, after what every judgement needs. The circuit is doubted, and low airflow believed, once the air
    is measured, its flow first; what else is told is looked at itself.
    """
    if not judged.is_told:
        return (*judged.basics, *telling)
    flow_first = sorted(judged.basics, key=lambda advice: advice.step is not AIRFLOW)
    if judged.verdict.group in (*IN_THE_CIRCUIT, CIRCUIT_OR_OUTDOORS, *AIR_GROUPS):
        return (*flow_first, *telling)
    return (*telling, *flow_first)


def _first(judged: Judged, telling: list[Advice]) -> list[Advice]:
    """The clamp that is put on before any hose, or the look that is taken before any reading."""
    ranked, standing = judged.ranked, judged.round.standing
    if judged.gauges.rule == CLAMPS_FIRST:
        first = still_to_read((*SUCTION_LINES, AMPS), judged.round, ranked.hypotheses.setting)
    else:
        first = look_at(_looks_first(judged, telling), ranked, standing)
    return [first] if first else []


def _looks_first(judged: Judged, telling: list[Advice]) -> Sequence[str]:
    """The looks of which one goes before every reading: what shows the cause that is told, what a rule points at."""
    table, verdict, seen = judged.table, judged.verdict, judged.round.seen
    if judged.gauges.rule == BELOW_OUTDOOR and "probes_together" not in seen:
        return ("probes_together",)  # doubt the probes before the circuit
    if reads_as_heated(table, verdict.group) and "strip_heat" not in seen:
        return ("strip_heat",)
    about = judged.asked_about
    if about and not any(advice.step.id in about for advice in telling):  # what tells nothing is not looked at first
        return [look for look in about if look not in seen and not _is_cleared(look, table)]
    return look_for(verdict.cause, seen) if verdict.cause else ()


def _in_question(verdict: Verdict, table: Table, ranked: Ranked) -> Ranked:
    """The hypotheses that a step should tell apart: those of the group that is told or of the suspects, or that explain
    what is out of range (and that nothing is wrong, where that is the likeliest); else all.
    """
    if verdict.group not in ("", HEALTHY) and not verdict.cause:
        return within(ranked, verdict.group)
    if verdict.reason == SUSPECTS and len(verdict.suspects) > 1:
        return within(ranked, *verdict.suspects)
    if verdict.reason != UNEXPLAINED:
        return ranked
    among = out_of_range(verdict, table, ranked)
    return and_sound(among, ranked) if next(iter(ranked.by_group)) == HEALTHY else among


def _is_cleared(look: str, table: Table) -> bool:
    """Whether the drop across what would be looked at was read, and is in range."""
    drop = table.get(SHOWN_BY.get(look, ""))
    return drop is not None and drop.measured.known and drop.state == IN_RANGE
