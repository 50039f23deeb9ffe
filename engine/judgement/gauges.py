"""Whether gauges are warranted: the rule that decided, in the order of the work. Airflow before charge, always.

Schools differ and are house rules: clean and prove the air first (default), or gauges at once when a gaugeless check fails. Common practice.
"""

from collections.abc import Callable
from dataclasses import dataclass

from engine.houserules.rules import HouseRules
from engine.judgement.cause import AIR_GROUPS

OFF, WARRANTED, NOT_ENOUGH = "off", "warranted", "not enough to say"
NO_REFRIGERANT = "Do not add refrigerant on these readings."
OUTSIDE_THE_CIRCUIT = (
    "condenser",
    "outdoor_coil",
    "water_flow",
    "exchanger",
    "return_duct",
    "supply_duct",
    "heat_on",
    "probe",
    "plate",
)
IN_THE_CIRCUIT = ("charge_low", "charge_high", "starved", "overfed", "compressor", "circuit")
CIRCUIT_OR_OUTDOORS = "short"


@dataclass(frozen=True)
class Case:
    """What the rules look at. group: what was concluded, '' for nothing; airflow_proved: measured, and not found out of range.

    suspected: the likeliest group where nothing is concluded, '' when too little was read for a suspicion.
    """

    state: str
    group: str
    airflow_proved: bool
    below_outdoor: bool
    seen: dict[str, str]
    rules: HouseRules
    suspected: str = ""


@dataclass(frozen=True)
class GaugeRule:
    """One rule: a permanent id, when it applies, what it decides, and why, in a sentence."""

    id: str
    applies: Callable[[Case], bool]
    decides: str
    says: str


RULES = (
    GaugeRule("withheld", lambda c: c.state == "withheld", NOT_ENOUGH, "The test does not count yet, so it cannot decide about gauges."),
    GaugeRule("airflow_first", lambda c: c.group in AIR_GROUPS, OFF, f"The airflow explains it: mend it, settle, read again. {NO_REFRIGERANT}"),
    GaugeRule("outside_the_circuit", lambda c: c.group in OUTSIDE_THE_CIRCUIT, OFF, f"What is wrong lies outside the circuit: mend it, settle, read again. {NO_REFRIGERANT}"),
    GaugeRule("commissioning", lambda c: c.seen.get("visit_kind") == "commissioning", WARRANTED, "Commissioning: the charge is set by its pressures, once the airflow is proved."),
    GaugeRule("first_visit", lambda c: c.seen.get("visit_kind") == "first", WARRANTED, "First visit to an unknown system: take its pressures once, after the airflow."),
    GaugeRule("tripped", lambda c: c.seen.get("tripped") == "yes", WARRANTED, "It tripped or does not cool: the pressures say why."),
    GaugeRule("below_outdoor", lambda c: c.below_outdoor, WARRANTED, "The liquid line is below outdoor air. If the probes agree side by side, the pressures say why."),
    GaugeRule("air_first", lambda c: c.group in IN_THE_CIRCUIT and not c.airflow_proved and c.rules.gauge_school == "air_first", NOT_ENOUGH,
              f"It looks like the circuit, but the airflow is not proved. Measure it, look at filter and coils, then decide. {NO_REFRIGERANT}"),
    GaugeRule("in_the_circuit", lambda c: c.group in IN_THE_CIRCUIT, WARRANTED, "The airflow is proved and the circuit is out of line: gauges are warranted, for licensed people."),
    GaugeRule("lines_first", lambda c: c.group == CIRCUIT_OR_OUTDOORS and c.rules.gauge_school == "air_first", NOT_ENOUGH,
              f"Capacity is short, and the air alone cannot tell the condenser from the circuit. Read the lines first. {NO_REFRIGERANT}"),
    GaugeRule("at_once", lambda c: (c.suspected or c.group) in (*IN_THE_CIRCUIT, CIRCUIT_OR_OUTDOORS) and c.rules.gauge_school == "at_once", WARRANTED,
              "The check without gauges does not pass, and the house rule is then to connect."),
    GaugeRule("sound", lambda c: c.state == "sound", OFF, "Nothing is out of line: leave the circuit closed."),
    GaugeRule("cannot_tell", lambda c: True, NOT_ENOUGH, "These readings do not decide it. Take the next one first."),
)  # fmt: skip


@dataclass(frozen=True)
class GaugeDecision:
    """off, warranted or not enough to say; the rule that decided; why."""

    decides: str
    rule: str
    says: str


def gauge_decision(case: Case) -> GaugeDecision:
    """The decision of the first rule that applies."""
    rule = next(rule for rule in RULES if rule.applies(case))
    return GaugeDecision(rule.decides, rule.id, rule.says)
