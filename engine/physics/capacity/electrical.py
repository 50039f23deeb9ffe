"""Electrical readings: watts from each leg, and efficiency."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot

from engine.constants import (
    BLOWER_POWER_FACTOR,
    BLOWER_POWER_FACTOR_SPREAD,
    CLAMP_AMPS_ACCURACY,
    COMPRESSOR_POWER_FACTOR,
    POWER_FACTOR_ACCURACY,
    POWER_FACTOR_SPREAD,
    VOLTS_ACCURACY,
    Constant,
)
from engine.errors import OutOfRange

VOLTS_RANGE, AMPS_RANGE, POWER_FACTOR_RANGE = (80.0, 300.0), (0.0, 80.0), (0.3, 1.0)


@dataclass(frozen=True)
class Power:
    """Electrical power [W] with its 95 %, the power factor, and whether that was measured or taken as usual."""

    watts: float
    u95_w: float
    power_factor: float
    factor_measured: bool


# A load's power factor where it is not measured, and its spread.
StandIn = tuple[Constant, Constant]
COMPRESSOR: StandIn = (COMPRESSOR_POWER_FACTOR, POWER_FACTOR_SPREAD)
BLOWER: StandIn = (BLOWER_POWER_FACTOR, BLOWER_POWER_FACTOR_SPREAD)


def power_w(
    volts_to_ground: Sequence[float],
    amps: Sequence[float],
    power_factor: float | None = None,
    stand_in: StandIn = COMPRESSOR,
) -> Power:
    """Power [W] of a load from each leg's volts to ground and amps.

    volts_to_ground: by leg [V], about 120 V each on a 240 V load, whose legs carry the same current. amps: by leg [A].
    power_factor: measured, 0 to 1; else the load's usual one is taken, with its spread.
    Equation: the sum of V x A x power factor over the legs [1].

    [1] Active power of a sinusoidal load, by definition; the stand-in is a working figure (engine.constants).
    """
    for volt, amp in zip(volts_to_ground, amps, strict=True):
        _check("volts to ground", volt, "V", VOLTS_RANGE)
        _check("amps", amp, "A", AMPS_RANGE)
    factor = stand_in[0].value if power_factor is None else power_factor
    _check("power factor", factor, "", POWER_FACTOR_RANGE)
    watts = sum(v * a for v, a in zip(volts_to_ground, amps, strict=True)) * factor
    spread = stand_in[1].value if power_factor is None else POWER_FACTOR_ACCURACY.value
    share = hypot(CLAMP_AMPS_ACCURACY.value, VOLTS_ACCURACY.value, spread)
    return Power(watts, share * watts, factor, power_factor is not None)


def eer(net_btuh: float, total_w: float) -> float:
    """Energy efficiency ratio [BTU/h per W].

    net_btuh: net capacity [BTU/h]. total_w: all electrical power - compressor, both fans, controls - [W, over 0].
    Equation: net_btuh / total_w, by the definition of ANSI/AHRI 210/240 (MEM).
    """
    if not total_w > 0:
        raise OutOfRange("total power", total_w, "W", 1.0, 50000.0)
    return net_btuh / total_w


def _check(name: str, value: float, unit: str, limits: tuple[float, float]) -> None:
    if not limits[0] <= value <= limits[1]:
        raise OutOfRange(name, value, unit, *limits)
