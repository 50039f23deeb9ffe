"""The schools of the expected temperature split: each a target, a tolerance and a reason.
A split alone never decides.
"""

from dataclasses import dataclass

import numpy as np

from engine.constants import NOMINAL_CFM_PER_TON, RATING_OUTDOOR, STANDARD_AIR_VOLUME
from engine.expected.cooling import Machine, expected_cooling
from engine.physics.air import moist
from engine.physics.capacity.delivered import fan_heat_btuh
from engine.uncertainty.estimate import Why
from engine.units import Numbers

COMPUTED, FLAT, CLIMATE, RETURN_AIR = "computed", "flat", "climate", "return_air"


@dataclass(frozen=True)
class SplitTarget:
    """What one school expects [°F]; target and tolerance are None when it cannot say, and `why` says why."""

    school: str
    target_f: float | None
    tolerance_f: float | None
    why: Why | None = None


FLAT_LOW_F, FLAT_HIGH_F = 18.0, 21.0


def flat() -> SplitTarget:
    """18 to 21 °F is good, 16 to 17 borderline, 15 and under wants service. Common practice."""
    return SplitTarget(FLAT, (FLAT_LOW_F + FLAT_HIGH_F) / 2, (FLAT_HIGH_F - FLAT_LOW_F) / 2)


def climate(kind: str | None) -> SplitTarget:
    """About 20 °F in a dry climate, 17 to 18 in a humid one. Common practice. kind: 'dry', 'humid' or None."""
    if kind == "dry":
        return SplitTarget(CLIMATE, 20.0, 2.0)
    if kind == "humid":
        return SplitTarget(CLIMATE, 17.5, 2.0)
    return SplitTarget(CLIMATE, None, None, Why("no_climate"))


def return_air_split_f(machine: Machine, return_dry_bulb_f: Numbers, return_wet_bulb_f: Numbers) -> Numbers:
    """The published curves' split [°F] for this return air [°F] at 400 CFM/ton, 95 °F outdoors and sea level.

    Arrays of shape (rows,), unchecked; machine.nominal_tons too.
    """
    cfm = machine.nominal_tons * NOMINAL_CFM_PER_TON.value
    p = moist.pressure_psia(0.0)
    w = moist.humidity_ratio_from_wet_bulb(return_dry_bulb_f, return_wet_bulb_f, p)
    flow = cfm * 60.0 / STANDARD_AIR_VOLUME.value
    fan = fan_heat_btuh(machine.fan_w_per_cfm * cfm)
    return expected_cooling(
        machine, return_dry_bulb_f, w, RATING_OUTDOOR.value, p, flow, fan, return_wet_bulb_f
    ).split_f


def return_air(split_f: float) -> SplitTarget:
    """Adjusted for return dry and wet bulb, within 3 °F; split_f from `return_air_split_f`, NaN when it cannot say.

    The two things this school adjusts for move, the rest stays at the rating. (Printed tables are not copied here.)
    """
    if np.isnan(split_f):
        return SplitTarget(RETURN_AIR, None, None, Why("needs", ("return dry bulb", "return humidity")))
    return SplitTarget(RETURN_AIR, float(split_f), 3.0)


def computed(split_f: float | None, tolerance_f: float, why_not: Why | None = None) -> SplitTarget:
    """The split of this machine with this air, airflow, weather and altitude."""
    return SplitTarget(COMPUTED, split_f, None if split_f is None else tolerance_f, why_not)
