"""Heat of rejection and extraction, and what is delivered after the electrical heat."""

from dataclasses import dataclass
from math import hypot

from engine.constants import WATER_PROBE_PAIR_ACCURACY
from engine.errors import OutOfRange
from engine.physics.water.fluids import POCKET_FACTORS, heat_factor

DIFFERENCE_RANGE_F = (0.5, 25.0)


@dataclass(frozen=True)
class WaterHeat:
    """Heat exchanged with the loop [BTU/h] with its 95 %, and the pocket figure beside it with its error here."""

    btuh: float
    u95_btuh: float
    factor: float
    pocket_btuh: float
    pocket_error_share: float


def loop_heat(
    gpm: float, u95_gpm: float, entering_f: float, leaving_f: float, fluid: str, share_by_mass: float
) -> WaterHeat:
    """Heat of rejection (cooling) or extraction (heating) = GPM x factor x difference; the factor from the fluid at its
    mean temperature.

    Temperatures [°F]. Pocket: 500 for water, 485 with antifreeze (common practice). Raises when the difference is
    outside 0.5 to 25 °F.
    """
    difference = abs(leaving_f - entering_f)
    if not DIFFERENCE_RANGE_F[0] <= difference <= DIFFERENCE_RANGE_F[1]:
        raise OutOfRange("water temperature difference", difference, "°F", *DIFFERENCE_RANGE_F)
    factor = heat_factor(fluid, share_by_mass, 0.5 * (entering_f + leaving_f))
    heat = gpm * factor * difference
    pocket = gpm * POCKET_FACTORS["water" if fluid == "water" else "antifreeze"] * difference
    share = hypot(u95_gpm / gpm, WATER_PROBE_PAIR_ACCURACY.value / difference)
    return WaterHeat(heat, share * heat, factor, pocket, pocket / heat - 1.0)
