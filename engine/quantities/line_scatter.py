"""How far the lines of one sound machine scatter from visit to visit, by its metering device."""

from math import hypot

from engine.constants import ORIFICE_REPEAT, ORIFICE_SPREAD_IN_HEATING
from engine.readings.round import TXV, Round


def repeat_f(round_: Round, *spreads: float) -> float:
    """95 % [°F] of a line from visit to visit; behind what is, or may be, a fixed orifice it goes more with weather and
    load.
    """
    return hypot(*spreads, 0.0 if round_.equipment.metering_device == TXV else ORIFICE_REPEAT.value)


def heating_spread_f(round_: Round, spread: float) -> float:
    """How sound units scatter in heating [°F, 95 %]; those with what is, or may be, a fixed piston more."""
    return hypot(spread, 0.0 if round_.equipment.metering_device == TXV else ORIFICE_SPREAD_IN_HEATING.value)
