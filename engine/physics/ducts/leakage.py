"""How much of the return air leaked in on the way: mixing of the grille's air with the attic's.

A leak mixes: dry bulb and humidity ratio both move along the line to the attic's state. A gain moves dry bulb alone,
towards the attic's. So moisture says how much leaked, and dry bulb the most that it can be.
"""

from math import hypot
from typing import NamedTuple

from engine.constants import DEW_POINT_ACCURACY, MATCHED_PAIR_ACCURACY
from engine.errors import EngineError
from engine.physics.air import moist
from engine.physics.air.state import AirState

LEAST_CONTRAST = 0.5  # of what the attic differs by: a larger doubt, and nothing can be told
LEAST_DOUBT = 0.02  # of a share, 95 %: air is never mixed as evenly as two probes would have it (working figure)


class LeakShare(NamedTuple):
    """Share of the air at the unit that leaked in, with its 95 %."""

    share: float
    u95: float


def return_leak_share(grille: AirState, unit: AirState, attic: AirState) -> LeakShare:
    """Share of the air at the unit that leaked in from the attic [0 to 1].

    grille, unit, attic: air states. Dry bulbs within a matched pair, dew point within 1.5 °F. Raises an EngineError
    when the attic's air is not damp or dry enough against the house's to tell.
    Equation: f = (x_unit - x_grille) / (x_attic - x_grille) [1]: for x = humidity ratio what leaked, within its doubt;
    for x = dry bulb the most that can have, since a duct between the two only gains. The middle of what both leave.

    [1] Adiabatic mixing of two streams: ASHRAE Handbook - Fundamentals (2017), chapter 1.
    """
    grille_w, unit_w, attic_w = (state.humidity_ratio for state in (grille, unit, attic))
    doubt_grille, doubt_unit, doubt_attic = (_humidity_u95(state) for state in (grille, unit, attic))
    contrast = attic_w - grille_w
    if abs(contrast) * LEAST_CONTRAST < hypot(doubt_grille, doubt_attic):
        raise EngineError(
            "the attic's air is too like the house's to tell a leak: compare when the attic is humid or very dry"
        )
    leaked = (unit_w - grille_w) / contrast
    doubt = hypot(doubt_unit, (1 - leaked) * doubt_grille, leaked * doubt_attic) / abs(contrast)
    least, most = max(leaked - doubt, 0.0), leaked + doubt
    warming = attic.dry_bulb_f - grille.dry_bulb_f
    if abs(warming) * LEAST_CONTRAST >= MATCHED_PAIR_ACCURACY.value:
        most = min(most, (unit.dry_bulb_f - grille.dry_bulb_f) / warming + MATCHED_PAIR_ACCURACY.value / abs(warming))
    most = max(most, 0.0)
    least = min(least, most)
    return LeakShare((least + most) / 2, max((most - least) / 2, LEAST_DOUBT))


def _humidity_u95(state: AirState) -> float:
    """95 % of the humidity ratio [lb/lb] from the dew point's."""
    return float(moist.saturated_with_slope(state.dew_point_f, state.pressure_psia)[1]) * DEW_POINT_ACCURACY.value
