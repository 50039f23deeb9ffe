"""Whether gauges are warranted: the rule that decided, in the order of the work. Airflow before charge, always.

Schools differ and are house rules: clean and prove the air first (default), or gauges at once when a gaugeless check
fails. Common practice.
"""

from collections.abc import Callable
from dataclasses import dataclass

from engine.diagnosis.actions import BY_ID as ACTIONS
from engine.diagnosis.actions import seen_faults
from engine.diagnosis.cause import (
    AIR_GROUPS,
    CIRCUIT_OR_OUTDOORS,
    COLD_LIQUID,
    HEALTHY,
    IN_THE_CIRCUIT,
    PLATE,
    PROBE,
    WARM_LIQUID,
)
from engine.readings.round import Round
from engine.readings.vocabulary import GROUND_SOURCE
from engine.validity.conditions import is_restart

OFF, WARRANTED, ONCE_PROVED, NOT_ENOUGH = "off", "warranted", "warranted, once airflow is proved", "not enough to say"
AT_ONCE = "at_once"
BELOW_OUTDOOR = "below_outdoor"  # a rule that asks for the probes first
CLAMPS_FIRST = "clamps_first"  # and one that asks for a suction line
SURE_CIRCUIT = (
    0.80  # of all there may be: the causes of the circuit together, though none of them is told (working figure)
)


@dataclass(frozen=True)
class Case:
    """What the rules look at. group: what is told, the told cause's own, '' for nothing; suspected: the likeliest group
    where nothing is told. cause: what is told within the group, or ''.

    in_circuit: how likely a fault of the circuit is among them, whichever. airflow_proved: measured, and in range by
    the shop's limits, or near the upper one. counts: whether the circuit's readings count. stays_out: whether a line is
    out of range with all read that can be without gauges, and nothing tells why.
    below_outdoor: the liquid line is below outdoor air by more than its margin.
    """

    round: Round
    group: str
    suspected: str
    stopped: bool
    counts: bool
    airflow_proved: bool
    below_outdoor: bool
    in_circuit: float
    cause: str = ""
    stays_out: bool = False

    @property
    def air_first(self) -> bool:
        """Whether the shop proves the air before it connects."""
        return self.round.rules.gauge_school != AT_ONCE


def _mended(case: Case) -> bool:
    """Whether a fault was mended at this visit and the round read after it is sound: a stop asks for nothing any more."""
    mended = any(ACTIONS[done].mends for done in case.round.done if done in ACTIONS)
    return case.group == HEALTHY and mended


@dataclass(frozen=True)
class GaugeDecision:
    """off, warranted, warranted once airflow is proved, or not enough to say; and the rule that decided."""

    decides: str
    rule: str


# What a clamp tells before any hose is on: a coil that is not fed from air that is warmed past it, in two minutes; of a
# ground-source unit its draw, the circuit from the water coil.
BEFORE_HOSES = {
    "cooling": (("suction_line_indoor", "temperature"), ("suction_line_outdoor", "temperature")),
    "heating": (("true_suction", "temperature"),),
    GROUND_SOURCE: (("compressor", "current"), ("compressor", "power")),
}


def _clamps_first(case: Case) -> bool:
    """Whether the circuit is out of line and no clamp has told yet what one can."""
    round_, suspected = case.round, case.group in IN_THE_CIRCUIT or _somewhere_in_it(case)
    if not (suspected and case.airflow_proved and case.air_first) or round_.by_gauge:
        return False
    by_water = round_.equipment.kind == GROUND_SOURCE
    slots = [slot for slot in BEFORE_HOSES[GROUND_SOURCE if by_water else round_.mode] if round_.can_be_read(*slot)]
    return bool(slots) and all(round_.value(*slot) is None for slot in slots)


def _mended_without_hoses(case: Case) -> bool:
    """Whether what is told of the circuit was seen and is mended from outside it: a service valve half closed."""
    of_cause = any(case.cause in action.causes for action in seen_faults(case.round))
    return case.group in IN_THE_CIRCUIT and of_cause and not case.round.by_gauge


def _somewhere_in_it(case: Case) -> bool:
    return case.group == "" and case.airflow_proved and case.in_circuit >= SURE_CIRCUIT


def _seen(what: str, degree: str) -> Callable[[Case], bool]:
    return lambda case: case.round.observations.get(what) == degree


_HAD_TRIPPED, _PROBES_AGREE = _seen("tripped", "yes"), _seen("probes_together", "agree")


@dataclass(frozen=True)
class GaugeRule:
    """One rule: a permanent id, when it applies, what it decides. waits: it is warranted only once the airflow is
    proved.
    """

    id: str
    applies: Callable[[Case], bool]
    decides: str
    waits: bool = False


# The first that applies decides. What the visit itself asks for comes before "an airflow fault explains it".
RULES = (
    GaugeRule("stop_first", lambda c: c.stopped, NOT_ENOUGH),
    GaugeRule("withheld", lambda c: not c.counts, NOT_ENOUGH),
    GaugeRule("restart", lambda c: is_restart(c.round), NOT_ENOUGH),
    GaugeRule("commissioning", _seen("visit_kind", "commissioning"), WARRANTED, waits=True),
    GaugeRule("first_visit", _seen("visit_kind", "first"), WARRANTED, waits=True),
    GaugeRule("tripped", lambda c: _HAD_TRIPPED(c) and not _mended(c), WARRANTED, waits=True),
    GaugeRule("seen_first", _mended_without_hoses, NOT_ENOUGH),
    GaugeRule("below_outdoor_proved", lambda c: c.below_outdoor and c.group != PROBE and _PROBES_AGREE(c), WARRANTED, waits=True),
    GaugeRule(BELOW_OUTDOOR, lambda c: c.below_outdoor and c.group != PROBE, WARRANTED, waits=True),
    GaugeRule("airflow_first", lambda c: c.group in AIR_GROUPS, OFF),
    GaugeRule("condenser_first", lambda c: c.group == WARM_LIQUID, NOT_ENOUGH),
    GaugeRule("probe", lambda c: c.group in (PROBE, COLD_LIQUID), NOT_ENOUGH),
    GaugeRule("plate", lambda c: c.group == PLATE, NOT_ENOUGH),
    GaugeRule("gas_in_the_circuit", lambda c: c.cause == "non_condensables", WARRANTED, waits=True),
    GaugeRule("condenser", lambda c: c.group == "condenser", OFF),
    GaugeRule("outside_the_circuit", lambda c: c.group not in ("", HEALTHY, CIRCUIT_OR_OUTDOORS, *IN_THE_CIRCUIT), OFF),
    GaugeRule(CLAMPS_FIRST, _clamps_first, NOT_ENOUGH),
    GaugeRule("in_the_circuit", lambda c: c.group in IN_THE_CIRCUIT and (c.airflow_proved or not c.air_first), WARRANTED),
    GaugeRule("air_first", lambda c: c.group in IN_THE_CIRCUIT, ONCE_PROVED),
    GaugeRule("circuit_somewhere", _somewhere_in_it, WARRANTED),
    GaugeRule("stays_out", lambda c: c.stays_out and c.airflow_proved and not c.round.by_gauge, WARRANTED),
    GaugeRule("at_once", lambda c: not c.air_first and (c.suspected or c.group) in (*IN_THE_CIRCUIT, CIRCUIT_OR_OUTDOORS), WARRANTED),
    GaugeRule("lines_first", lambda c: c.group == CIRCUIT_OR_OUTDOORS, NOT_ENOUGH),
    GaugeRule("mended", lambda c: _HAD_TRIPPED(c) and _mended(c), OFF),
    GaugeRule("sound", lambda c: c.group == HEALTHY, OFF),
    GaugeRule("cannot_tell", lambda c: True, NOT_ENOUGH),
)  # fmt: skip


def gauge_decision(case: Case) -> GaugeDecision:
    """The decision of the first rule that applies."""
    rule = next(rule for rule in RULES if rule.applies(case))
    return GaugeDecision(ONCE_PROVED if rule.waits and not case.airflow_proved else rule.decides, rule.id)
