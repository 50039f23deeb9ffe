"""Heat of rejection and extraction, and what is delivered after the electrical heat."""

from dataclasses import dataclass
from math import hypot

from engine.constants import ANTIFREEZE_UNKNOWN, WATER_PROBE_PAIR_ACCURACY
from engine.errors import OutOfRange
from engine.physics.water.fluids import POCKET_FACTORS, heat_factor

DIFFERENCE_RANGE_F = (0.5, 45.0)  # the upper end is a flow of a fifth


@dataclass(frozen=True)
class WaterHeat:
    """Heat exchanged with the loop [BTU/h] with its 95 %, and the pocket figure beside it with its error here."""

    btuh: float
    u95_btuh: float
    factor: float
    pocket_btuh: float
    pocket_error_share: float
    takes_antifreeze: bool = False  # the plate says water; at this temperature it cannot be


LEAST_PLAIN_WATER_F = 35.0  # below it a loop of plain water would freeze in the coil


def loop_heat(
    gpm: float, u95_gpm: float, entering_f: float, leaving_f: float, fluid: str, share_by_mass: float
) -> WaterHeat:
    """Heat of rejection (cooling) or extraction (heating) = GPM x factor x difference; the factor from the fluid at its
    mean temperature.

    Temperatures [°F]. Pocket: 500 for water, 485 with antifreeze (common practice). Raises when the difference is
    outside 0.5 to 45 °F. What is said to be plain water and is near freezing holds antifreeze: 485 then, with a wider
    margin.
    """
    difference = abs(leaving_f - entering_f)
    if not DIFFERENCE_RANGE_F[0] <= difference <= DIFFERENCE_RANGE_F[1]:
        raise OutOfRange("water temperature difference", difference, "°F", *DIFFERENCE_RANGE_F)
    mean = 0.5 * (entering_f + leaving_f)
    takes_antifreeze = fluid == "water" and mean < LEAST_PLAIN_WATER_F
    factor = POCKET_FACTORS["antifreeze"] if takes_antifreeze else heat_factor(fluid, share_by_mass, mean)
    heat = gpm * factor * difference
    pocket = gpm * POCKET_FACTORS["water" if fluid == "water" else "antifreeze"] * difference
    unknown = ANTIFREEZE_UNKNOWN.value if takes_antifreeze else 0.0
    share = hypot(u95_gpm / gpm, WATER_PROBE_PAIR_ACCURACY.value / difference, unknown)
    return WaterHeat(heat, share * heat, factor, pocket, pocket / heat - 1.0, takes_antifreeze)
