"""Residuals in heating, air source: the rise at this airflow, the liquid line over return air, the suction at the compressor, the draw."""

from dataclasses import replace
from math import hypot, log

from engine.assessment.heating import heating_expected
from engine.assessment.residuals.air import airflow_residual, drops, ducts
from engine.assessment.residuals.electrical import watts_residual
from engine.assessment.residuals.sources import airflow_accuracy, clamp, measured, minus, outdoor_sources, pushed
from engine.assessment.result import RoundResult
from engine.constants import (
    AIRFLOW_SPREAD_SOUND,
    BTUH_PER_TON,
    EVAPORATING_UNDER_OUTDOOR,
    HEATING_APPROACH_PER_F,
    HEATING_APPROACH_SPREAD,
    HEATING_COIL_EFFECTIVENESS,
    HEATING_RISE_PER_F,
    HEATING_SUBCOOLING,
    HEATING_WATTS_PER_F,
    NOMINAL_CFM_PER_TON,
    ORIFICE_SPREAD_IN_HEATING,
    ORIFICE_WEATHER_WIDER,
    SUBCOOLING_SPREAD,
    SUPERHEAT_IN_HEATING,
    TRUE_SUCTION_PER_F,
    TRUE_SUCTION_REPEAT,
    TRUE_SUCTION_SPREAD,
    Constant,
)
from engine.expected.heating import ExpectedHeating, heating_power_fraction, out_of_range
from engine.judgement.cause import TXV
from engine.judgement.residuals import KINDS, Residual
from engine.readings.round import Round
from engine.wording import difference, signed_difference, temperature

# indicator -> how much one sound heat pump's may move with the outdoor air beside another's [its unit/°F, 95 %]
WEATHER_SLOPES = {
    "rise": HEATING_RISE_PER_F.value, "heat_approach": HEATING_APPROACH_PER_F.value, "true_suction": TRUE_SUCTION_PER_F.value,
    "amps": HEATING_WATTS_PER_F.value,
}  # fmt: skip
STEP_F, STEP_LN = 1.0, 0.05  # for the slopes of what is expected


def heating_residuals(round_: Round, air: RoundResult) -> list[Residual]:
    """The residuals of a round in heating. air: the round as assessed, with the airflow it has."""
    found: list[Residual | None] = [airflow_residual(round_, air), *drops(round_, air), *ducts(round_)]
    returning, outdoor = round_.value("return_unit", "dry_bulb"), round_.value("outdoor", "dry_bulb")
    cfm = round_.value("blower", "airflow")
    if round_.equipment.kind == "heat_pump" and None not in (returning, outdoor, cfm):
        expected = heating_expected(round_, outdoor, cfm)
        usual, warmer = (
            heating_expected(round_, at, NOMINAL_CFM_PER_TON.value * round_.equipment.nominal_tons)
            for at in (outdoor, outdoor + STEP_F)
        )
        if not out_of_range(returning, outdoor, float(expected.flow_fraction)):
            found += [
                _rise(round_, air, expected),
                _approach(round_, air, usual, warmer),
                _suction(round_, air, usual),
                _amps(round_, air, expected),
            ]
    per_f = {
        kind: slope * (1.0 if round_.equipment.metering_device == TXV else ORIFICE_WEATHER_WIDER.value)
        for kind, slope in WEATHER_SLOPES.items()
    }
    return [replace(r, weather=(outdoor or 0.0, per_f.get(r.kind.id, 0.0))) for r in found if r is not None]


def _rise(round_: Round, air: RoundResult, expected: ExpectedHeating) -> Residual | None:
    supply, returning = round_.value("supply_plenum", "dry_bulb"), round_.value("return_unit", "dry_bulb")
    outdoor, cfm = round_.value("outdoor", "dry_bulb"), round_.value("blower", "airflow")
    if supply is None:
        return None
    rise, hoped = supply - returning, float(expected.rise_f)
    per_outdoor = -(log(float(heating_expected(round_, outdoor + STEP_F, cfm).rise_f)) - log(hoped)) / STEP_F
    per_flow = -(log(float(heating_expected(round_, outdoor, cfm * (1 + STEP_LN)).rise_f)) - log(hoped)) / log(1 + STEP_LN)
    pushes = {
        s.id: (pushed(air, s.id, "supply") - pushed(air, s.id, "return")) / hoped + per_outdoor * pushed(air, s.id, "outdoor")
        for s in air.carried.sources
    }
    slopes = {"supply": 1.0 / hoped, "return": -1.0 / hoped, "outdoor": per_outdoor}
    if measured(round_):
        pushes["airflow_method"] = per_flow * airflow_accuracy(round_)
    else:
        slopes["airflow"] = per_flow
        pushes["airflow_of_sound_systems"] = per_flow * AIRFLOW_SPREAD_SOUND.value
    pushes = {s: p for s, p in pushes.items() if p}
    says = f"{difference(rise)} against {difference(hoped)}"
    return Residual(
        KINDS["rise"], rise / hoped - 1.0, pushes, float(expected.spread), round_.rules.follow_up_capacity_share, slopes, says, expected=log(hoped),
        origin="by the published curves at this airflow",
    )  # fmt: skip


def _approach(round_: Round, air: RoundResult, usual: ExpectedHeating, warmer: ExpectedHeating) -> Residual | None:
    """Liquid line over return air, against condensing over return air less subcooling, both of a sound unit at its usual airflow."""
    liquid, returning = round_.value("liquid_line_indoor", "temperature"), round_.value("return_unit", "dry_bulb")
    if liquid is None:
        return None
    expected = _liquid_over_return(usual)
    per_outdoor = -(_liquid_over_return(warmer) - expected) / STEP_F
    pushes = minus(clamp(round_, "liquid_line_indoor"), outdoor_sources(air), -per_outdoor)
    for source in air.carried.sources:
        pushes[source.id] = pushes.get(source.id, 0.0) - pushed(air, source.id, "return")
    slopes = {"liquid_line_indoor": 1.0, "return": -1.0, "outdoor": per_outdoor}
    repeat = hypot(round_.rules.follow_up_line_f, SUBCOOLING_SPREAD.value)
    says = f"{signed_difference(liquid - returning)} against {signed_difference(expected)}"
    return Residual(
        KINDS["heat_approach"], liquid - returning - expected, {s: p for s, p in pushes.items() if p}, _spread(round_, HEATING_APPROACH_SPREAD),
        repeat, slopes, says, -expected, expected, "condensing by the rise, less the usual subcooling",
    )  # fmt: skip


def _liquid_over_return(usual: ExpectedHeating) -> float:
    return max(float(usual.rise_f) / HEATING_COIL_EFFECTIVENESS.value - HEATING_SUBCOOLING.value, 0.0)


def _suction(round_: Round, air: RoundResult, usual: ExpectedHeating) -> Residual | None:
    """Suction at the compressor against evaporating + superheat; evaporating stands under the outdoor air by the heat taken in there."""
    suction, outdoor = round_.value("true_suction", "temperature"), round_.value("outdoor", "dry_bulb")
    if suction is None:
        return None
    rated = float(usual.total_btuh) / (BTUH_PER_TON.value * round_.equipment.nominal_tons)
    expected = outdoor - EVAPORATING_UNDER_OUTDOOR.value * rated + SUPERHEAT_IN_HEATING.value
    pushes = minus(clamp(round_, "true_suction"), outdoor_sources(air))
    says = f"{temperature(suction)} against {temperature(expected)}, outdoors {temperature(outdoor)}"
    return Residual(
        KINDS["true_suction"], suction - expected, pushes, _spread(round_, TRUE_SUCTION_SPREAD), _spread(round_, TRUE_SUCTION_REPEAT),
        {"true_suction": 1.0, "outdoor": -1.0}, says, expected=expected, origin="evaporating by the heat taken in, and the usual superheat",
    )  # fmt: skip


def _spread(round_: Round, spread: Constant) -> float:
    """How sound units scatter; those with what is, or may be, a fixed piston more."""
    return hypot(spread.value, 0.0 if round_.equipment.metering_device == TXV else ORIFICE_SPREAD_IN_HEATING.value)


def _amps(round_: Round, air: RoundResult, expected: ExpectedHeating) -> Residual | None:
    returning, outdoor = round_.value("return_unit", "dry_bulb"), round_.value("outdoor", "dry_bulb")
    flow = float(expected.flow_fraction)
    fraction = heating_power_fraction(returning, outdoor, flow)
    per_outdoor = log(heating_power_fraction(returning, outdoor + STEP_F, flow) / fraction) / STEP_F
    return watts_residual(round_, air, fraction, per_outdoor, float(expected.spread))
