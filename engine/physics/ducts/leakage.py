"""How much of the return air leaked in on the way: mixing of the grille's air with the attic's.

A leak mixes: enthalpy and humidity ratio both move along the line to the attic's state. A gain moves dry bulb alone,
towards the attic's: dry bulb says the most that a leak can be.
"""

from collections.abc import Sequence
from math import hypot
from typing import NamedTuple

from engine.constants import DEW_POINT_ACCURACY, MATCHED_PAIR_ACCURACY
from engine.errors import EngineError
from engine.physics.air import moist
from engine.physics.air.state import AirState

LEAST_CONTRAST = 0.5  # the attic must differ from the grille by this many margins, or nothing can be told


class LeakShare(NamedTuple):
    """Share of the air at the unit that leaked in, with its 95 %."""

    share: float
    u95: float


def return_leak_share(grille: AirState, unit: AirState, attic: AirState) -> LeakShare:
    """Share of the air at the unit that leaked in from the attic [0 to 1].

    grille, unit, attic: air states. Dry bulbs within a matched pair, dew point within 1.5 °F. Raises an EngineError
    when the attic's air does not differ enough from the house's to tell.
    Equation: f = (x_unit - x_grille) / (x_attic - x_grille) for x = enthalpy and x = humidity ratio, weighted by their
    uncertainty [1]; for x = dry bulb too where that gives less, since a duct between the two only gains.

    [1] Adiabatic mixing of two streams: ASHRAE Handbook - Fundamentals (2017), chapter 1.
    """
    found = []
    doubts = [_u95(state) for state in (grille, unit, attic)]
    for i, name in enumerate(("enthalpy_btulb", "humidity_ratio")):
        low, mid, high = (getattr(state, name) for state in (grille, unit, attic))
        u_low, u_mid, u_high = (doubt[i] for doubt in doubts)
        contrast = high - low
        if abs(contrast) * LEAST_CONTRAST < hypot(u_low, u_high):
            continue
        f = (mid - low) / contrast
        found.append((f, hypot(u_mid, (1 - f) * u_low, f * u_high) / abs(contrast)))
    if not found:
        raise EngineError(
            "the attic's air is too like the house's to tell a leak: compare when the attic is hot or humid"
        )
    share = _weighted(found)
    contrast = attic.dry_bulb_f - grille.dry_bulb_f
    if abs(contrast) * LEAST_CONTRAST >= MATCHED_PAIR_ACCURACY.value:
        most = (unit.dry_bulb_f - grille.dry_bulb_f) / contrast
        if most < share.share:
            return _weighted([share, (most, MATCHED_PAIR_ACCURACY.value * hypot(1.0, 1 - most, most) / abs(contrast))])
    return share


def _weighted(found: Sequence[tuple[float, float]]) -> LeakShare:
    """The mean of shares, each with its 95 %, weighted by their uncertainty."""
    weights = [1 / u95**2 for _, u95 in found]
    return LeakShare(sum(f * w for (f, _), w in zip(found, weights, strict=True)) / sum(weights), sum(weights) ** -0.5)


def _u95(state: AirState) -> tuple[float, float]:
    """95 % of enthalpy [BTU/lb] and humidity ratio [lb/lb] from the pair's dry bulb and dew point."""
    slope = float(moist.saturated_with_slope(state.dew_point_f, state.pressure_psia)[1])
    u_w = slope * DEW_POINT_ACCURACY.value
    per_f, per_w = moist.specific_heat_btulbf(state.humidity_ratio), moist.vapor_enthalpy_btulb(state.dry_bulb_f)
    return hypot(per_f * MATCHED_PAIR_ACCURACY.value, per_w * u_w), u_w
