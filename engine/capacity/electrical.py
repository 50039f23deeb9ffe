"""Electrical readings: watts per leg, amps against plate and baseline, efficiency."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot

from engine.constants import (
    CLAMP_AMPS_ACCURACY,
    COMPRESSOR_POWER_FACTOR,
    POWER_FACTOR_SPREAD,
    VOLTS_ACCURACY,
)
from engine.errors import OutOfRange
from engine.houserules.rules import DEFAULT

VOLTS_RANGE, AMPS_RANGE, POWER_FACTOR_RANGE = (80.0, 300.0), (0.0, 80.0), (0.3, 1.0)


@dataclass(frozen=True)
class Power:
    """Electrical power [W] with its 95 %; `stated` says whether the power factor was measured or stands in."""

    watts: float
    u95_w: float
    stated: str


def power_w(volts_to_ground: Sequence[float], amps: Sequence[float], power_factor: float | None = None) -> Power:
    """Power [W] of a load from each leg's volts to ground and amps: the sum of V x A x power factor.

    On 240 V both legs carry the same current, each about 120 V to ground. power_factor: measured, else 0.95 stands in with its spread.
    """
    for volt, amp in zip(volts_to_ground, amps, strict=True):
        _check("volts to ground", volt, "V", VOLTS_RANGE)
        _check("amps", amp, "A", AMPS_RANGE)
    factor = COMPRESSOR_POWER_FACTOR.value if power_factor is None else power_factor
    _check("power factor", factor, "", POWER_FACTOR_RANGE)
    watts = sum(v * a for v, a in zip(volts_to_ground, amps, strict=True)) * factor
    spread = POWER_FACTOR_SPREAD.value if power_factor is None else 0.02
    share = hypot(CLAMP_AMPS_ACCURACY.value, VOLTS_ACCURACY.value, spread)
    return Power(watts, share * watts, f"power factor {factor:.2f} " + ("stands in" if power_factor is None else "measured"))


@dataclass(frozen=True)
class AmpsFinding:
    """Amps against plate or baseline: id, sentence, and whether to stop first."""

    id: str
    message: str
    urgent: bool = False


def amps_findings(
    what: str,
    amps: float,
    plate_amps: float | None,
    baseline_amps: float | None = None,
    tolerance: float = DEFAULT.amps_tolerance_share,
) -> list[AmpsFinding]:
    """Compressor or fan amps [A] against its plate (rated-load or full-load amps) and its weather-corrected baseline.

    Over the plate by more than the clamp's 2 %: urgent. Off baseline by more than `tolerance` (share): said. Common practice.
    """
    _check("amps", amps, "A", AMPS_RANGE)
    found = []
    if plate_amps and amps > plate_amps * (1 + CLAMP_AMPS_ACCURACY.value):
        text = f"{what.capitalize()} draws {amps:.1f} A, over its plate's {plate_amps:.1f} A: stop first, explain after."
        found.append(AmpsFinding("amps_over_plate", text, urgent=True))
    if baseline_amps and abs(amps / baseline_amps - 1) > tolerance:
        text = f"{what.capitalize()} draws {amps:.1f} A; baseline for today is {baseline_amps:.1f} A."
        found.append(AmpsFinding("amps_off_baseline", text))
    return found


def eer(net_btuh: float, total_w: float) -> float:
    """Energy efficiency ratio [BTU/h per W]: net capacity over all electrical power (compressor, both fans, controls)."""
    if not total_w > 0:
        raise OutOfRange("total power", total_w, "W", 1.0, 50000.0)
    return net_btuh / total_w


def _check(name: str, value: float, unit: str, limits: tuple[float, float]) -> None:
    if not limits[0] <= value <= limits[1]:
        raise OutOfRange(name, value, unit, *limits)
