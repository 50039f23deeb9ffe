"""A sample's value in the engine's unit, or why it cannot be one."""

from math import isfinite

from engine.errors import EngineError
from engine.judgement.steadiness import STEADY_CHANGE, steadiness
from engine.readings.vocabulary import QUANTITIES
from engine.units import UNITS, to_engine
from engine.wording import in_scale, scale

CHANNELS = (
    "dry_bulb",
    "rh",
    "wet_bulb",
    "dew_point",
    "temperature",
    "static_pressure",
    "pressure_drop",
    "current",
    "voltage",
    "power",
    "airflow",
    "flow",
)


def value_of(channel: str, raw: float, unit: str) -> tuple[float | None, str]:
    """(value in the engine's unit, '') or (None, why not)."""
    if channel not in CHANNELS:
        return None, f"There is no channel '{channel}'."
    what = QUANTITIES[channel]
    if not isfinite(raw):
        return None, "The value is no number."
    try:
        value = to_engine(raw, unit, what.kind)
    except EngineError as error:
        return None, f"{error}."
    if not what.low <= value <= what.high:
        return None, f"{what.label} is from {what.low:g} to {what.high:g} {UNITS[what.unit].sign}; this is {value:g}."
    return value, ""


def label_of(channel: str) -> str:
    """The channel in words."""
    return QUANTITIES[channel].label


STEADY = {
    "static_pressure": 0.03,
    "pressure_drop": 0.03,
    "current": 0.3,
    "rh": 2.0,
}  # allowed in three minutes; else half a degree


def steadiness_of(channel: str, trace: list) -> str:
    """'settled', 'swinging', 'not yet' or 'too short', from a trace of ten-second sums."""
    minutes = [start / 60.0 for start, _, _ in trace]
    return steadiness(minutes, [total / count for _, total, count in trace], STEADY.get(channel, STEADY_CHANGE)).state


DECIMALS = {"degF": 1, "pct": 0, "inwc": 2, "A": 1, "GPM": 1}


def shown(channel: str, value: float) -> tuple[str, str]:
    """A value as printed, with its unit: temperatures in the scale the person reads."""
    unit = QUANTITIES[channel].unit
    number = in_scale(value) if unit == "degF" else value
    return f"{number:.{DECIMALS.get(unit, 0)}f}".replace("-", "−"), f"°{scale()}" if unit == "degF" else UNITS[unit].sign


def unit_shown(channel: str) -> str:
    """The code of the unit that `shown` prints."""
    unit = QUANTITIES[channel].unit
    return "degC" if unit == "degF" and scale() == "C" else unit
