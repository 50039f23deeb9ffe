"""Rooms: the airflow a round duct carries at a friction rate, against what the room wants.

Darcy-Weisbach with the friction factor of Altshul and Tsal as in ASHRAE Handbook - Fundamentals, chapter "Duct Design"
(MEM); the Colebrook equation is its check in the tests. Flexible duct: a correction for being pulled less than tight
(MEM).
"""

from math import exp, pi, sqrt

from engine.constants import (
    AIR_DENSITY_STANDARD,
    AIR_VISCOSITY,
    INWC_PER_VELOCITY_PRESSURE,
    ROUGHNESS_FLEX,
    ROUGHNESS_METAL,
)
from engine.errors import OutOfRange

ROUGHNESS_FT = {"metal": ROUGHNESS_METAL, "flex": ROUGHNESS_FLEX}
DIAMETER_RANGE_IN = (3.0, 24.0)
FRICTION_RANGE = (0.01, 0.5)
FLEX_STRETCHED = 0.96  # how tight flexible duct is usually pulled (MEM)
_ROUNDS = 40


def friction_rate_inwc_per_100ft(cfm: float, diameter_in: float, duct: str = "metal", stretched: float = 1.0) -> float:
    """Friction of standard air in a round duct [in. w.c. per 100 ft].

    cfm: [CFM]. diameter_in: [in.], 3 to 24. duct: 'metal' or 'flex'. stretched: share of its full length that a
    flexible duct is pulled to, 0.7 to 1.
    Equation: Darcy-Weisbach, f (L / D) x velocity pressure [1].

    [1] ASHRAE Handbook - Fundamentals, "Duct Design" (MEM).
    """
    _check("diameter", diameter_in, "in.", DIAMETER_RANGE_IN)
    velocity = cfm / (pi / 4 * (diameter_in / 12) ** 2)
    factor = friction_factor(velocity, diameter_in, duct)
    loss = (
        factor
        * 100.0
        / (diameter_in / 12)
        * AIR_DENSITY_STANDARD.value
        * (velocity / INWC_PER_VELOCITY_PRESSURE.value) ** 2
    )
    if duct == "flex":
        _check("stretch", stretched, "of full length", (0.7, 1.0))
        loss *= flex_correction(diameter_in, stretched)
    return loss


def flex_correction(diameter_in: float, stretched: float) -> float:
    """Times more friction in a flexible duct not pulled tight: 1 + 0.58 r exp(-0.126 D), r the compression in %, D in
    inches.

    ASHRAE Handbook - Fundamentals, "Duct Design", pressure drop correction factor for flexible duct (MEM).
    """
    return 1.0 + 0.58 * 100.0 * (1.0 - stretched) * exp(-0.126 * diameter_in)


def friction_factor(velocity_fpm: float, diameter_in: float, duct: str) -> float:
    """Darcy friction factor of a round duct.

    velocity_fpm: [ft/min]. diameter_in: [in.]. duct: 'metal' or 'flex'.
    Equation: f' = 0.11 (roughness / diameter + 68 / Re)^0.25, and 0.85 f' + 0.0028 where f' < 0.018 [1].

    [1] Altshul-Tsal, as in ASHRAE Handbook - Fundamentals, "Duct Design" (MEM); Colebrook's equation checks it.
    """
    diameter_ft = diameter_in / 12
    reynolds = velocity_fpm / 60 * diameter_ft / AIR_VISCOSITY.value
    f = 0.11 * (ROUGHNESS_FT[duct].value / diameter_ft + 68.0 / reynolds) ** 0.25
    return f if f >= 0.018 else 0.85 * f + 0.0028


def duct_airflow_cfm(
    friction_inwc_per_100ft: float, diameter_in: float, duct: str = "metal", stretched: float = 1.0
) -> float:
    """The airflow [CFM] that a round duct carries at a friction rate.

    friction_inwc_per_100ft: [in. w.c. per 100 ft], 0.01 to 0.5. diameter_in: [in.], 3 to 24. duct: 'metal' or 'flex'.
    stretched: of a flexible duct, 0.7 to 1.
    Equation: `friction_rate_inwc_per_100ft` solved for the airflow by bisection.
    """
    _check("friction rate", friction_inwc_per_100ft, "in. w.c. per 100 ft", FRICTION_RANGE)
    low, high = 1.0, 20000.0
    for _ in range(_ROUNDS):
        middle = sqrt(low * high)
        if friction_rate_inwc_per_100ft(middle, diameter_in, duct, stretched) < friction_inwc_per_100ft:
            low = middle
        else:
            high = middle
    return low


def _check(name: str, value: float, unit: str, limits: tuple[float, float]) -> None:
    if not limits[0] <= value <= limits[1]:
        raise OutOfRange(name, value, unit, *limits)
