"""Superheat at the outdoor unit, by gauge, against the TXV's usual band or the orifice's target. Cooling only: in
heating that line is hot gas.
"""

from math import hypot

from engine.constants import (
    DRY_BULB_ACCURACY,
    ORIFICE_TARGET_PER_OUTDOOR_F,
    ORIFICE_TARGET_PER_WET_BULB_F,
    ORIFICE_TARGET_SPREAD,
    SUPERHEAT_SPREAD,
    TXV_TOTAL_SUPERHEAT_HIGH,
    TXV_TOTAL_SUPERHEAT_LOW,
)
from engine.errors import OutOfRange
from engine.expected.lines import orifice_target_superheat_f
from engine.quantities.quantity import Quantity, compared
from engine.quantities.saturation import SATURATION_SOURCES, evaporating_at
from engine.readings.measured import Measured
from engine.readings.round import ORIFICE
from engine.uncertainty.estimate import Estimate, Why, missing, withheld


def orifice_target(m: Measured) -> Estimate:
    """Target superheat [°F] of a fixed orifice by the charging formula, with what its readings leave open; or why there
    is none today.
    """
    wet_bulb, outdoor = m["return_wet_bulb_f"], m.round.value("outdoor", "dry_bulb")
    if not wet_bulb.known or outdoor is None:
        return withheld("°F", wet_bulb.missing or Why("needs", ("outdoor temperature",)))
    try:
        target = orifice_target_superheat_f(wet_bulb.value, outdoor)
    except OutOfRange as error:
        return withheld("°F", Why("outside", (), ((error.name, error.value, error.unit, error.low, error.high),)))
    u95 = hypot(
        ORIFICE_TARGET_PER_WET_BULB_F.value * wet_bulb.u95, ORIFICE_TARGET_PER_OUTDOOR_F.value * DRY_BULB_ACCURACY.value
    )
    return missing("°F", "no_target_today") if target is None else Estimate(target, u95, "°F")


def superheat(m: Measured) -> Quantity | None:
    """Superheat [°F] = suction line at the outdoor unit less evaporating by gauge."""
    evaporating, line = evaporating_at(m), m.round.value("suction_line_outdoor", "temperature")
    if evaporating is None or line is None:
        return None
    device, rules = m.round.equipment.metering_device, m.round.rules
    low, high = TXV_TOTAL_SUPERHEAT_LOW.value, TXV_TOTAL_SUPERHEAT_HIGH.value
    expected, half, spread, authority = (
        Estimate((low + high) / 2, 0.0, "°F"),
        (high - low) / 2,
        (high - low) / 2,
        "txv_band",
    )
    if device == ORIFICE:
        expected, half, authority = orifice_target(m), rules.orifice_superheat_tolerance_f, "charging_formula"
        spread = hypot(
            SUPERHEAT_SPREAD.value, ORIFICE_TARGET_SPREAD.value * (expected.value if expected.known else 0.0)
        )
    pushes = m.clamp("suction_line_outdoor") | {SATURATION_SOURCES["dew"]: -evaporating.u95}
    value = line - evaporating.value
    measured = Estimate(value, hypot(*pushes.values()), "°F")
    off = Estimate(value - expected.value, hypot(measured.u95, expected.u95), "°F") if expected.known else None
    residual = {
        "model_u95": spread,
        "repeat_u95": SUPERHEAT_SPREAD.value,
        "slopes": {"suction_line_outdoor": 1.0},
        "lowest": -expected.value if expected.known else 0.0,
    }
    return compared(
        "superheat",
        "°F",
        measured,
        expected,
        (half, half),
        pushes=pushes,
        off=off,
        authority=authority,
        basis={"low_f": low, "high_f": high},
        residual=residual,
    )
