"""What the lines should show, and what they predict of the inside. Predictions are `Predicted`, never measured values.

Approach = liquid line - outdoor = condensing over ambient - subcooling. Condensing over ambient belongs to the efficiency
class and grows with the heat to be given off. Classes and tolerances: common practice, no single source.
"""

from dataclasses import dataclass
from math import hypot

from engine.constants import (
    APPROACH_LIMIT_UNKNOWN_CLASS,
    COMPRESSOR_INLET_LIMIT,
    CONDENSING_OVER_AMBIENT_SPREAD,
    EVAPORATOR_DIFFERENCE,
    EVAPORATOR_DIFFERENCE_SPREAD,
    ICING_EVAPORATING,
    LINE_CLAMP_ACCURACY,
    LIQUID_LINE_DROP_LIMIT,
    SUCTION_RISE_LOOK,
)
from engine.errors import EngineError
from engine.houserules.rules import DEFAULT, HouseRules
from engine.uncertainty.estimate import Predicted
from engine.wording import difference, signed_difference, temperature

# class -> the house rule with its condensing over ambient
OVER_AMBIENT_RULES = {
    "old": "over_ambient_old_f",
    "low": "over_ambient_low_f",
    "mid": "over_ambient_mid_f",
    "high": "over_ambient_high_f",
}
# least seasonal efficiency rating of each class (MEM): which class a plate belongs to
CLASS_FROM_SEER = ((16.0, "high"), (13.0, "mid"), (10.0, "low"), (0.0, "old"))
LOAD_RANGE = (0.4, 1.5)


@dataclass(frozen=True)
class ExpectedLine:
    """An expected line value [°F] with its tolerance [°F], and what it rests on."""

    value_f: float
    tolerance_f: float
    basis: str


@dataclass(frozen=True)
class LineFinding:
    """Something the lines say: a permanent id, a sentence, what to do."""

    id: str
    message: str
    hint: str


def class_of(seer: float) -> str:
    """The efficiency class of a seasonal rating (5 to 30), as used for condensing over ambient."""
    if not 5.0 <= seer <= 30.0:
        raise EngineError(f"a seasonal rating of {seer:g} is outside 5 to 30")
    return next(name for least, name in CLASS_FROM_SEER if seer >= least)


def condensing_over_ambient_f(efficiency_class: str, load: float = 1.0, rules: HouseRules = DEFAULT) -> float:
    """Condensing over ambient [°F] of a class ('old', 'low', 'mid', 'high') at a load.

    load: heat rejected over heat rejected at rating, 0.4 to 1.5. The coil's temperature difference goes with the heat it
    gives off at a steady airflow (energy balance with a constant UA).
    """
    if efficiency_class not in OVER_AMBIENT_RULES:
        raise EngineError(f"class '{efficiency_class}' is unknown; known are {', '.join(OVER_AMBIENT_RULES)}")
    if not LOAD_RANGE[0] <= load <= LOAD_RANGE[1]:
        raise EngineError(f"a load of {load:g} is outside {LOAD_RANGE[0]} to {LOAD_RANGE[1]} of rating")
    return getattr(rules, OVER_AMBIENT_RULES[efficiency_class]) * load


def expected_approach(
    efficiency_class: str | None, target_subcooling_f: float, load: float = 1.0, rules: HouseRules = DEFAULT
) -> ExpectedLine:
    """Expected approach [°F] = condensing over ambient - target subcooling, within the house's tolerance.

    Without a class only the bare limit for modern equipment is left: up to 15 °F, and it says so.
    """
    if efficiency_class is None:
        half = APPROACH_LIMIT_UNKNOWN_CLASS.value / 2
        return ExpectedLine(
            half,
            half,
            f"class unknown: only the bare limit of {difference(APPROACH_LIMIT_UNKNOWN_CLASS.value, 0)} for modern equipment",
        )
    over = condensing_over_ambient_f(efficiency_class, load, rules)
    basis = (
        f"{difference(over, 0)} condensing over ambient ({efficiency_class}) less {difference(target_subcooling_f, 0)} subcooling"
    )
    return ExpectedLine(over - target_subcooling_f, rules.approach_tolerance_f, basis)


def expected_liquid_line(outdoor_f: float, approach: ExpectedLine) -> ExpectedLine:
    """Expected liquid line [°F] = outdoor + expected approach."""
    return ExpectedLine(outdoor_f + approach.value_f, approach.tolerance_f, f"outdoor plus {difference(approach.value_f, 0)}")


def predicted_condensing(outdoor_f: float, efficiency_class: str, load: float = 1.0, rules: HouseRules = DEFAULT) -> Predicted:
    """Condensing temperature [°F] from outdoor air and class. Can look normal on a broken system."""
    value = outdoor_f + condensing_over_ambient_f(efficiency_class, load, rules)
    return Predicted(value, CONDENSING_OVER_AMBIENT_SPREAD.value, "°F", "outdoor plus condensing over ambient of the class")


def predicted_evaporating(return_dry_bulb_f: float) -> Predicted:
    """Evaporating temperature [°F] from return air: about 35 °F below it at 400 CFM/ton and 50 %RH."""
    value = return_dry_bulb_f - EVAPORATOR_DIFFERENCE.value
    return Predicted(
        value, EVAPORATOR_DIFFERENCE_SPREAD.value, "°F", f"return dry bulb less {difference(EVAPORATOR_DIFFERENCE.value, 0)}"
    )


def predicted_superheat(suction_line_f: float, evaporating: Predicted) -> Predicted:
    """Superheat [°F] of a measured suction line over a *predicted* evaporating temperature."""
    u95 = hypot(evaporating.u95, LINE_CLAMP_ACCURACY.value)
    return Predicted(suction_line_f - evaporating.value, u95, "°F", f"suction line over {evaporating}", is_difference=True)


def predicted_subcooling(liquid_line_f: float, condensing: Predicted) -> Predicted:
    """Subcooling [°F] of a measured liquid line under a *predicted* condensing temperature."""
    u95 = hypot(condensing.u95, LINE_CLAMP_ACCURACY.value)
    return Predicted(condensing.value - liquid_line_f, u95, "°F", f"{condensing} less liquid line", is_difference=True)


def liquid_line_findings(
    outdoor_f: float | None,
    condenser_outlet_f: float,
    metering_inlet_f: float | None = None,
    drier_in_f: float | None = None,
    drier_out_f: float | None = None,
    drier_limit_f: float = DEFAULT.drier_drop_f,
) -> list[LineFinding]:
    """What the liquid line's temperatures say [°F]; None where not read. The pair's own accuracy is allowed for."""
    margin, found = LINE_CLAMP_ACCURACY.value, []
    if outdoor_f is not None and condenser_outlet_f < outdoor_f - margin:
        text = f"The liquid line is {difference(outdoor_f - condenser_outlet_f)} below outdoor air, which it cannot be."
        found.append(
            LineFinding(
                "liquid_below_outdoor", text, "Doubt the probes first, then look for a restriction upstream of the clamp."
            )
        )
    if metering_inlet_f is not None and condenser_outlet_f - metering_inlet_f > LIQUID_LINE_DROP_LIMIT.value + margin:
        text = f"The liquid line drops {difference(condenser_outlet_f - metering_inlet_f)} on its way to the metering device."
        found.append(LineFinding("liquid_line_drop", text, "Look for a kink, a drier or a valve not fully open."))
    if drier_in_f is not None and drier_out_f is not None and drier_in_f - drier_out_f > drier_limit_f + margin:
        text = f"The drier drops {difference(drier_in_f - drier_out_f)}."
        found.append(LineFinding("drier_drop", text, "The drier restricts. A clogged screen at the valve would show no drop."))
    return found


def suction_findings(
    compressor_inlet_f: float | None, evaporating_f: float | None, drawing_down: bool = False, at_coil_f: float | None = None
) -> list[LineFinding]:
    """What the suction line says. compressor_inlet_f [°F], settled; evaporating_f [°F], *measured*; drawing_down: a humid
    house is still being dried with superheat on target, which is no fault; at_coil_f: the same line at the evaporator outlet."""
    found = []
    if compressor_inlet_f is not None and at_coil_f is not None and compressor_inlet_f - at_coil_f > SUCTION_RISE_LOOK.value:
        text = f"The suction line warms {difference(compressor_inlet_f - at_coil_f, 0)} on its way outside."
        found.append(LineFinding("suction_rise", text, "Little flow, or a bare line."))
    if compressor_inlet_f is not None and compressor_inlet_f > COMPRESSOR_INLET_LIMIT.value and not drawing_down:
        text = f"Suction enters the compressor at {temperature(compressor_inlet_f, 0)}: above {temperature(COMPRESSOR_INLET_LIMIT.value, 0)} it overheats."
        found.append(LineFinding("compressor_inlet_hot", text, "Little flow, or a bare suction line: compare it along its way."))
    if evaporating_f is None and at_coil_f is not None and at_coil_f < ICING_EVAPORATING.value:
        text = f"The suction line leaves the coil at {temperature(at_coil_f, 0)}: below freezing, so the coil ices."
        found.append(LineFinding("icing", text, "Stop and thaw first; then prove the airflow."))
    if evaporating_f is not None and evaporating_f < ICING_EVAPORATING.value:
        text = f"Evaporating at {temperature(evaporating_f, 0)}: the coil ices."
        found.append(LineFinding("icing", text, "Stop and thaw first; then prove the airflow."))
    if evaporating_f is not None and compressor_inlet_f is not None and compressor_inlet_f - evaporating_f < 2.0:
        text = f"Superheat is {signed_difference(compressor_inlet_f - evaporating_f)}: liquid may reach the compressor."
        found.append(LineFinding("liquid_return", text, "Urgent: stop the compressor, then find out why."))
    return found
