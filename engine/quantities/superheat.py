"""Superheat at the outdoor unit, by gauge, against the TXV's usual band or the orifice's target. Cooling only: in
heating that line is hot gas.
"""

from dataclasses import dataclass
from math import hypot

from engine.constants import (
    DRY_BULB_ACCURACY,
    NO_TARGET_SUPERHEAT,
    ORIFICE_TARGET_PER_OUTDOOR_F,
    ORIFICE_TARGET_PER_WET_BULB_F,
    ORIFICE_TARGET_SPREAD,
    SUCTION_RISE_SPREAD,
    SUPERHEAT_SPREAD,
    TXV_TOTAL_SUPERHEAT_HIGH,
    TXV_TOTAL_SUPERHEAT_LOW,
)
from engine.errors import OutOfRange
from engine.expected.lines import charted_superheat_f, orifice_target_superheat_f
from engine.quantities.line_scatter import RISE_OF_SOUND, SUPERHEAT_OF_SOUND
from engine.quantities.quantity import Quantity, compared
from engine.quantities.saturation import SATURATION_SOURCES, evaporating_at
from engine.readings.measured import Measured
from engine.readings.round import ORIFICE, TXV
from engine.uncertainty.estimate import Estimate, Why, missing, withheld
from engine.uncertainty.sources import less


def orifice_target(m: Measured) -> Estimate:
    """Target superheat [°F] of a fixed orifice by the maker's chart, else by the charging formula, with what its
    readings leave open (a chart's slopes are near the formula's); or why there is none today.
    """
    wet_bulb, outdoor = m["return_wet_bulb_f"], m.round.value("outdoor", "dry_bulb")
    if not wet_bulb.known or outdoor is None:
        return withheld("°F", wet_bulb.missing or Why("needs", ("outdoor temperature",)))
    chart = m.round.equipment.superheat_table
    try:
        target = (
            orifice_target_superheat_f(wet_bulb.value, outdoor)
            if chart is None
            else charted_superheat_f(chart, wet_bulb.value, outdoor)
        )
    except OutOfRange as error:
        return withheld("°F", Why("outside", (), ((error.name, error.value, error.unit, error.low, error.high),)))
    u95 = hypot(
        ORIFICE_TARGET_PER_WET_BULB_F.value * wet_bulb.u95, ORIFICE_TARGET_PER_OUTDOOR_F.value * DRY_BULB_ACCURACY.value
    )
    return missing("°F", "no_target_today") if target is None else Estimate(target, u95, "°F")


def orifice_target_slopes(m: Measured) -> dict[str, float]:
    """What one °F of error in a reading moves a fixed orifice's target by: the outdoor air, and the dry bulb that the
    return's wet bulb is worked out with. Nothing for a TXV, or where there is no target.
    """
    if m.round.equipment.metering_device != ORIFICE or not orifice_target(m).known:
        return {}
    by_wet_bulb = m.slopes(m.parts("return_wet_bulb_f"))
    slopes = {reading: ORIFICE_TARGET_PER_WET_BULB_F.value * slope for reading, slope in by_wet_bulb.items()}
    return slopes | {"outdoor": -ORIFICE_TARGET_PER_OUTDOOR_F.value}


@dataclass(frozen=True)
class _Target:
    """What superheat at the outdoor unit should be [°F]: shown, within `half` of it; what the causes are judged by, and
    how sound machines scatter about that, 95 %.
    """

    shown: Estimate
    half: float
    authority: str
    level: float
    spread: float


def _target(m: Measured) -> _Target:
    """A TXV's band; an orifice's chart or charging formula, or about nothing where that gives no target; either one's
    where nobody knows which it is.
    """
    low, high = TXV_TOTAL_SUPERHEAT_LOW.value, TXV_TOTAL_SUPERHEAT_HIGH.value
    device, held = m.round.equipment.metering_device, (high - low) / 2
    txv = _Target(Estimate((low + high) / 2, 0.0, "°F"), held, "txv_band", (low + high) / 2, held)
    if device == TXV:
        return txv
    formula, tolerance = orifice_target(m), m.round.rules.orifice_superheat_tolerance_f
    level = formula.value if formula.known else NO_TARGET_SUPERHEAT.value
    spread = hypot(SUPERHEAT_SPREAD.value, ORIFICE_TARGET_SPREAD.value * level)
    if device == ORIFICE:
        by = "charging_formula" if m.round.equipment.superheat_table is None else "superheat_chart"
        return _Target(formula, tolerance, by, level, spread)
    least, most = min(low, level - tolerance), max(high, level + tolerance)
    middle, half = (least + most) / 2, (most - least) / 2
    return _Target(Estimate(middle, 0.0, "°F"), half, "either_device", middle, max(half, spread))


def superheat(m: Measured) -> Quantity | None:
    """Superheat [°F] = suction line at the outdoor unit less evaporating by gauge."""
    evaporating, line = evaporating_at(m), m.round.value("suction_line_outdoor", "temperature")
    if evaporating is None or line is None:
        return None
    target = _target(m)
    pushes = m.clamp("suction_line_outdoor") | {SATURATION_SOURCES["dew"]: -evaporating.u95}
    value, shown = line - evaporating.value, target.shown
    measured = Estimate(value, hypot(*pushes.values()), "°F")
    off = Estimate(value - shown.value, hypot(measured.u95, shown.u95), "°F") if shown.known else None
    residual = {
        "machine": {SUPERHEAT_OF_SOUND: target.spread, RISE_OF_SOUND: SUCTION_RISE_SPREAD.value}, "model_u95": 0.0,
        "repeat_u95": SUPERHEAT_SPREAD.value, "lowest": -target.level, "against": target.level,
        "slopes": less({"suction_line_outdoor": 1.0}, orifice_target_slopes(m)),
    }  # fmt: skip
    band = {"low_f": TXV_TOTAL_SUPERHEAT_LOW.value, "high_f": TXV_TOTAL_SUPERHEAT_HIGH.value}
    return compared(
        "superheat", "°F", measured, shown, (target.half, target.half), pushes=pushes, off=off,
        authority=target.authority, basis=band, residual=residual,
    )  # fmt: skip
