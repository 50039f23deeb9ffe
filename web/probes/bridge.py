"""A sample's value in the engine's unit, or why it cannot be one."""

from math import isfinite

from engine.errors import EngineError
from engine.readings.steadiness import STEADY_CHANGE, SWINGING, TOO_SHORT, Steadiness, steadiness
from engine.readings.vocabulary import QUANTITIES
from engine.units import UNITS, to_engine
from web.shell.bridge import words

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
    "pressure",
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


# Allowed in three minutes; else half a degree.
STEADY = {
    "static_pressure": 0.03,
    "pressure_drop": 0.03,
    "current": 0.3,
    "rh": 2.0,
    "airflow": 50.0,
    "flow": 0.3,
    "power": 40.0,
    "voltage": 3.0,
    "pressure": 3.0,
}


def steadiness_of(channel: str, trace: list) -> Steadiness:
    """Whether a channel is steady, from a trace of ten-second sums."""
    minutes = [start / 60.0 for start, _, _ in trace]
    return steadiness(minutes, [total / count for _, total, count in trace], STEADY.get(channel, STEADY_CHANGE))


def held_as(found: Steadiness) -> tuple[str, float]:
    """How a reading held from such a series is kept: its state, '' when it was watched too shortly to tell, and its
    swing.
    """
    return ("" if found.state == TOO_SHORT else found.state), ((found.range or 0.0) if found.state == SWINGING else 0.0)


DECIMALS = {"degF": 1, "pct": 0, "inwc": 2, "A": 1, "GPM": 1}


def shown(channel: str, value: float) -> tuple[str, str]:
    """A value as printed, with its unit: temperatures in the scale the person reads."""
    unit = QUANTITIES[channel].unit
    number = words().in_scale(value) if unit == "degF" else value
    return f"{number:.{DECIMALS.get(unit, 0)}f}".replace("-", "−"), words().sign("°F") if unit == "degF" else UNITS[
        unit
    ].sign


def unit_shown(channel: str) -> str:
    """The code of the unit that `shown` prints."""
    unit = QUANTITIES[channel].unit
    return "degC" if unit == "degF" and words().scale == "C" else unit


def said(newest, now) -> dict:
    """What a channel says, for a sheet: its value as printed, what a hold would take (of a swing the mean), age [s],
    how it stands, its trace.
    """
    text, sign = shown(newest.channel, newest.value)
    stands = steadiness_of(newest.channel, newest.trace)
    hold = text
    if stands.state == SWINGING and stands.mean is not None:
        hold = shown(newest.channel, stands.mean)[0]
    return {
        "channel": newest.channel,
        "text": text.replace("\u2212", "-"),
        "hold": hold.replace("\u2212", "-"),
        "sign": sign,
        "unit": unit_shown(newest.channel),
        "age": round((now - newest.taken_at).total_seconds(), 1),
        "state": stands.state,
        "trace": [round(total / count, 3) for _, total, count in newest.trace],
    }
