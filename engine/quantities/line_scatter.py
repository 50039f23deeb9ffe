"""How far the lines of sound machines scatter: one from another, by what they differ in, and one machine's from
visit to visit, by its metering device.
"""

from math import exp, hypot

from engine.constants import IN_RANGE_OF_SPREAD, ORIFICE_REPEAT, ORIFICE_SPREAD_IN_HEATING
from engine.readings.round import TXV, Round

# What sound machines differ in: each moves every quantity that rests on it, by gauge or by line, together.
CONDENSING_OF_SOUND, SUBCOOLING_OF_SOUND = "condensing of sound machines", "subcooling of sound machines"
EVAPORATING_OF_SOUND, SUPERHEAT_OF_SOUND = "evaporating of sound machines", "superheat of sound machines"
RISE_OF_SOUND, HEATING_COIL_OF_SOUND = "rise along sound suction lines", "indoor coil of sound heat pumps"


def as_tolerance(spread: float) -> tuple[float, float]:
    """Under and over what is expected, where nothing but the scatter of sound machines [95 %] says what is in range: 99
    of 100 of them are. With 95, of ten quantities of a sound one every second time one would be out.
    """
    return IN_RANGE_OF_SPREAD.value * spread, IN_RANGE_OF_SPREAD.value * spread


def as_ln_tolerance(level: float, spread: float) -> tuple[float, float]:
    """As `as_tolerance`, in the quantity's own unit: sound machines scatter by a share [ln, 95 %] of the level."""
    _, wide = as_tolerance(spread)
    return level * (1 - exp(-wide)), level * (exp(wide) - 1)


def repeat_f(round_: Round, *spreads: float) -> float:
    """95 % [°F] of a line from visit to visit; behind what is, or may be, a fixed orifice it goes more with weather and
    load.
    """
    return hypot(*spreads, 0.0 if round_.equipment.metering_device == TXV else ORIFICE_REPEAT.value)


def heating_spread_f(round_: Round, spread: float) -> float:
    """How a sound unit's lines scatter in heating from visit to visit [°F, 95 %]; behind what is, or may be, a fixed
    piston more.
    """
    return hypot(spread, 0.0 if round_.equipment.metering_device == TXV else ORIFICE_SPREAD_IN_HEATING.value)
