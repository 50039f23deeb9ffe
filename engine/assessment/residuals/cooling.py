"""Residuals in cooling, air source."""

from dataclasses import replace
from math import hypot, log

from engine.air import moist
from engine.assessment.residuals.air import airflow_residual, drops, ducts
from engine.assessment.residuals.electrical import watts_residual
from engine.assessment.residuals.gauges import gauge_residuals
from engine.assessment.residuals.sources import READINGS, airflow_accuracy, clamp, measured, minus, outdoor_sources, parts, pushed
from engine.assessment.result import RoundResult
from engine.constants import (
    AIRFLOW_SPREAD_SOUND,
    BTUH_PER_TON,
    CONDENSER_CFM_PER_TON_HIGH,
    CONDENSER_CFM_PER_TON_LOW,
    CONDENSER_RISE_REPEAT,
    CONDENSING_OVER_AMBIENT_SPREAD,
    DRY_BULB_REPEATABILITY,
    EVAPORATING_SPREAD,
    EVAPORATING_UNDER_APPARATUS,
    HEAT_REJECTED_RATIO,
    LIQUID_DROP_REPEAT,
    LIQUID_DROP_SPREAD,
    LIQUID_DROP_USUAL,
    NO_TARGET_SUPERHEAT,
    ORIFICE_APPROACH_PER_F,
    ORIFICE_REPEAT,
    ORIFICE_TARGET_SPREAD,
    POCKET_SENSIBLE,
    PUBLISHED_TABLE_SPREAD,
    RATING_OUTDOOR,
    ROUNDED_READINGS,
    SUBCOOLING_SPREAD,
    SUCTION_RISE_REPEAT,
    SUCTION_RISE_SPREAD,
    SUCTION_RISE_USUAL,
    SUPERHEAT_SPREAD,
    TXV_SUPERHEAT_AT_COIL,
    USUAL_SEER,
    WATTS_PER_OUTDOOR_F,
)
from engine.errors import EngineError
from engine.expected.authority import from_published
from engine.expected.cooling import power_fraction
from engine.judgement.cause import TXV
from engine.judgement.residuals import KINDS, Residual
from engine.readings.round import Round
from engine.refrigerant import charge, lines
from engine.wording import capacity, difference, signed_difference, temperature


def cooling_residuals(round_: Round, air: RoundResult) -> list[Residual]:
    """The residuals of a round in cooling, air source. air: its air side, assessed with the airflow it has."""
    found = [*_air_side(round_, air), *_lines(round_, air), *_outdoors(round_, air), *drops(round_, air), *ducts(round_)]
    found += gauge_residuals(round_, air)
    return [r for r in found if r is not None]


def _air_side(round_: Round, air: RoundResult) -> list[Residual | None]:
    return [_split(round_, air), _by_own_table(round_, air) or _capacity(round_, air), airflow_residual(round_, air)]


def _split(round_: Round, air: RoundResult) -> Residual | None:
    expected = air["expected_split_f"]
    if not (air["split_minus_expected_f"].known and expected.value > 0):
        return None
    says = f"{difference(air['split_f'].value)} against {difference(expected.value)}"
    repeat = (
        round_.rules.follow_up_split_f / expected.value
    )  # the follow-up's own tolerance: how far one sound unit scatters from visit to visit
    return _carried(
        round_, air, "split", "split_minus_expected_f", expected.value, repeat, says, "by the published curves at this airflow"
    )


def _capacity(round_: Round, air: RoundResult) -> Residual | None:
    expected = air["expected_total_btuh"]
    if not (air["total_minus_expected_btuh"].known and expected.value > 0):
        return None
    says = f"{capacity(air['total_btuh'].value)} against {capacity(expected.value)}"
    repeat = round_.rules.follow_up_capacity_share
    return _carried(round_, air, "capacity", "total_minus_expected_btuh", expected.value, repeat, says, "by the published curves")


def _by_own_table(round_: Round, air: RoundResult) -> Residual | None:
    """Capacity against the unit's own published table, which beats the curves; None without one, or outside it."""
    table, wet_bulb, outdoor, total = (
        round_.equipment.performance_table, air["return_wet_bulb_f"], round_.value("outdoor", "dry_bulb"), air["total_btuh"],
    )  # fmt: skip
    if table is None or outdoor is None or not (wet_bulb.known and total.known):
        return None
    try:
        expected = from_published(table, round_.equipment.model, wet_bulb.value, outdoor).value
    except EngineError:
        return None
    says = f"{capacity(total.value)} against {capacity(expected)}"
    repeat = round_.rules.follow_up_capacity_share
    found = _carried(round_, air, "capacity", "total_btuh", expected, repeat, says, "by its own published table")
    return replace(found, value=total.value / expected - 1.0, model_u95=PUBLISHED_TABLE_SPREAD.value)


def _carried(
    round_: Round, air: RoundResult, kind: str, quantity: str, scale: float, repeat: float, says: str, origin: str
) -> Residual:
    """A residual whose error sources the air side carries. quantity: of the air side, over scale; repeat: 95 %, of one unit from visit to visit."""
    pushes = {s: p / scale for s, p in parts(air, quantity).items() if p}
    slopes = {}
    for reading, sources in READINGS.items():
        moved, off_by = sum(pushes.get(s, 0.0) for s in sources), sum(pushed(air, s, reading) for s in sources)
        if off_by:
            slopes[reading] = moved / off_by
    if not measured(round_):
        slopes["airflow"] = pushes.pop("airflow_method", 0.0) / airflow_accuracy(round_)
        pushes["airflow_of_sound_systems"] = slopes["airflow"] * AIRFLOW_SPREAD_SOUND.value
    return Residual(
        KINDS[kind], air[quantity].value / scale, pushes, ROUNDED_READINGS.value, repeat, slopes, says, origin=origin
    )  # fmt: skip


def _load(round_: Round, air: RoundResult) -> float:
    """The heat a sound unit gives off today over that at rating."""
    total = air["expected_total_btuh"]
    load = total.value / (BTUH_PER_TON.value * round_.equipment.nominal_tons) if total.known else 1.0
    return min(max(load, lines.LOAD_RANGE[0]), lines.LOAD_RANGE[1])


def _lines(round_: Round, air: RoundResult) -> list[Residual | None]:
    liquid, indoor = (round_.value(f"liquid_line_{at}", "temperature") for at in ("outdoor", "indoor"))
    out, coil = (round_.value(f"suction_line_{at}", "temperature") for at in ("outdoor", "indoor"))
    found: list[Residual | None] = [_approach(round_, air, liquid)]
    if liquid is not None and indoor is not None:
        says = f"{temperature(liquid)} outdoors, {temperature(indoor)} at the metering device"
        spread, repeat = LIQUID_DROP_SPREAD.value, LIQUID_DROP_REPEAT.value
        found.append(
            _along(round_, "liquid", liquid - indoor - LIQUID_DROP_USUAL.value, spread, repeat, says, "no drop is usual")
        )
    if coil is not None or out is not None:
        found.append(_suction(round_, air, coil, out))
    if coil is not None and out is not None:
        says = f"{temperature(coil)} at the coil, {temperature(out)} outdoors"
        spread, repeat = SUCTION_RISE_SPREAD.value, _repeat(round_, SUCTION_RISE_REPEAT.value)
        usual = f"{difference(SUCTION_RISE_USUAL.value)} is usual along an insulated line"
        found.append(_along(round_, "suction", out - coil - SUCTION_RISE_USUAL.value, spread, repeat, says, usual))
    return found


def _along(round_: Round, line: str, off: float, spread: float, repeat: float, says: str, origin: str) -> Residual:
    """What a line changes by between its clamps, outdoors less indoors, over what is usual. line: liquid or suction."""
    kind = KINDS["liquid_drop" if line == "liquid" else "suction_rise"]
    pushes = minus(clamp(round_, f"{line}_line_outdoor"), clamp(round_, f"{line}_line_indoor"))
    return Residual(kind, off, pushes, spread, repeat, {f"{line}_line_outdoor": 1.0}, says, origin=origin)


def _approach(round_: Round, air: RoundResult, liquid: float | None) -> Residual | None:
    outdoor, plate = round_.value("outdoor", "dry_bulb"), round_.equipment
    if liquid is None or outdoor is None:
        return None
    efficiency = lines.class_of(plate.seer or USUAL_SEER.value)
    target, _ = charge.target_subcooling_f(plate.target_subcooling_f)
    over = lines.condensing_over_ambient_f(efficiency, _load(round_, air), round_.rules)
    spread = hypot(CONDENSING_OVER_AMBIENT_SPREAD.value * (1.0 if plate.seer else 2.0), SUBCOOLING_SPREAD.value)
    if plate.metering_device != TXV:
        spread = hypot(spread, ORIFICE_APPROACH_PER_F.value * (outdoor - RATING_OUTDOOR.value))
    pushes = minus(clamp(round_, "liquid_line_outdoor"), outdoor_sources(air))
    says = f"{signed_difference(liquid - outdoor)} against {signed_difference(over - target)}"
    origin = f"{difference(over)} over outdoors for its class and load, less {difference(target)} of subcooling"
    slopes = {"liquid_line_outdoor": 1.0, "outdoor": -1.0}
    repeat, off = _repeat(round_, round_.rules.follow_up_line_f, SUBCOOLING_SPREAD.value), liquid - outdoor - (over - target)
    return Residual(KINDS["approach"], off, pushes, spread, repeat, slopes, says, min(target - over, 0.0), over - target, origin)


def _suction(round_: Round, air: RoundResult, coil: float | None, out: float | None) -> Residual | None:
    """Suction line at the coil against evaporating + superheat; outdoors, less the usual rise, where only that was read."""
    surface = air["expected_apparatus_dew_point_f"]
    if not surface.known:
        return None
    evaporating = surface.value - EVAPORATING_UNDER_APPARATUS.value
    spread, line = EVAPORATING_SPREAD.value, coil if coil is not None else out - SUCTION_RISE_USUAL.value
    superheat, at = TXV_SUPERHEAT_AT_COIL.value, "suction_line_indoor" if coil is not None else "suction_line_outdoor"
    if round_.equipment.metering_device == "fixed_orifice":
        outdoor, wet_bulb = round_.value("outdoor", "dry_bulb"), air["return_wet_bulb_f"]
        target = charge.orifice_target_superheat_f(wet_bulb.value, outdoor) if wet_bulb.known and outdoor is not None else None
        superheat = max((target if target is not None else NO_TARGET_SUPERHEAT.value) - SUCTION_RISE_USUAL.value, 0.0)
        spread = hypot(spread, ORIFICE_TARGET_SPREAD.value * superheat)
    spread = hypot(spread, SUPERHEAT_SPREAD.value, 0.0 if coil is not None else SUCTION_RISE_SPREAD.value)
    expected = evaporating + superheat
    slopes = {} if coil is not None else {"suction_line_outdoor": 1.0}
    pushes, says = (
        minus(clamp(round_, at), parts(air, "expected_apparatus_dew_point_f")),
        f"{temperature(line)} against {temperature(expected)}",
    )
    return Residual(
        KINDS["suction"],
        line - expected,
        pushes,
        spread,
        _repeat(round_, SUPERHEAT_SPREAD.value),
        slopes,
        says,
        expected=expected,
        origin=f"the coil {temperature(evaporating)} by the air it has, and {difference(superheat)} of superheat",
    )


def _repeat(round_: Round, *spreads: float) -> float:
    """How far a line scatters from visit to visit; behind what is, or may be, a fixed orifice more."""
    return hypot(*spreads, 0.0 if round_.equipment.metering_device == TXV else ORIFICE_REPEAT.value)


def _outdoors(round_: Round, air: RoundResult) -> list[Residual | None]:
    return [_condenser_rise(round_, air), _amps(round_, air)]


def _condenser_rise(round_: Round, air: RoundResult) -> Residual | None:
    """Air rise over that of a sound condenser: its airflow is hardly ever known, so this is a relative sign."""
    leaving, outdoor, tons = (
        round_.value("condenser_air_out", "dry_bulb"),
        round_.value("outdoor", "dry_bulb"),
        round_.equipment.nominal_tons,
    )
    if leaving is None or outdoor is None or leaving - outdoor < 2.0:
        return None
    low, high = CONDENSER_CFM_PER_TON_LOW.value, CONDENSER_CFM_PER_TON_HIGH.value
    heat = _load(round_, air) * BTUH_PER_TON.value * tons * HEAT_REJECTED_RATIO.value
    thinner = air.pressure_psia / float(moist.pressure_psia(0.0))
    expected = heat / (POCKET_SENSIBLE.value * thinner * (low * high) ** 0.5 * tons)
    rise = leaving - outdoor
    pushes = {s: -p / rise for s, p in outdoor_sources(air).items()} | {
        "repeat condenser_air_out": DRY_BULB_REPEATABILITY.value * 2 / rise
    }
    says = f"{difference(rise)} against about {difference(expected, 0)}"
    return Residual(
        KINDS["condenser_rise"], log(rise / expected), pushes, log(high / low) / 2, CONDENSER_RISE_REPEAT.value, {"outdoor": -1.0 / rise}, says,
        expected=log(expected), origin="usual condenser airflow; a relative sign",
    )  # fmt: skip


def _amps(round_: Round, air: RoundResult) -> Residual | None:
    wet_bulb, flow, outdoor = air["expected_wet_bulb_used_f"], air["expected_flow_fraction"], round_.value("outdoor", "dry_bulb")
    if not (wet_bulb.known and flow.known) or outdoor is None:
        return None
    kind = "air_conditioner" if round_.equipment.kind == "air_conditioner" else "heat_pump"
    return watts_residual(round_, air, power_fraction(kind, wet_bulb.value, outdoor, flow.value), WATTS_PER_OUTDOOR_F.value)
