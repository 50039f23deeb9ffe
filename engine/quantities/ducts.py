"""What the air gains in the ducts: grille to unit, plenum to register, and each room's register. In heating it loses as
much.
"""

from math import hypot

from engine.constants import (
    AIR_PAIR_DIFFERENCE,
    DEW_POINT_ACCURACY,
    DRY_BULB_ACCURACY,
    DUCT_CARRY_SPREAD,
    DUCT_PAIR_REPEAT,
    FRICTION_RATE_USUAL,
    RETURN_DEW_POINT_LIMIT,
    RETURN_GAIN_SPREAD,
    RETURN_GAIN_USUAL,
    RETURN_LEAK_LOOK,
    SUPPLY_GAIN_SPREAD,
    SUPPLY_GAIN_USUAL,
)
from engine.errors import EngineError
from engine.physics.ducts.leakage import return_leak_share
from engine.physics.ducts.rooms import FLEX_STRETCHED, duct_airflow_cfm
from engine.quantities.quantity import At, Quantity, compared, limited
from engine.readings.measured import Measured
from engine.readings.round import STAND_IN, SUBSTITUTE, Reading
from engine.readings.vocabulary import HUMIDITY_QUANTITIES, ROOM
from engine.uncertainty.estimate import Estimate, missing

_PAIRS = (
    (
        "grille_to_unit",
        "return_grille",
        "return_unit",
        RETURN_GAIN_USUAL.value,
        RETURN_GAIN_SPREAD.value,
        {"return": 1.0},
    ),
    (
        "unit_to_register",
        "supply_plenum",
        "supply_register",
        SUPPLY_GAIN_USUAL.value,
        SUPPLY_GAIN_SPREAD.value,
        {"supply": -1.0},
    ),
)


def duct_gains(m: Measured) -> list[Quantity | None]:
    """The gain [°F] along the return and the supply, over what is usual; expected as soon as the near end is read."""
    sign = -1.0 if m.round.mode == "heating" else 1.0
    return [_gain(m, id_, near, far, sign * usual, spread, slopes) for id_, near, far, usual, spread, slopes in _PAIRS]


def _gain(
    m: Measured, id_: str, near: str, far: str, usual: float, spread: float, slopes: dict[str, float]
) -> Quantity | None:
    one, other = m.round.reading(near, "dry_bulb"), m.round.reading(far, "dry_bulb")
    if one is None or one.is_taken or (other is not None and other.source == SUBSTITUTE):
        return None  # one of them is made of the other
    if other is not None and other.source == STAND_IN:
        other = None  # still to be read
    u95 = pair_u95_f(one, other) if other else 0.0
    measured = Estimate(other.value - one.value, u95, "°F") if other else missing("°F", "needs", id_)
    return compared(
        id_,
        "°F",
        measured,
        Estimate(usual, spread, "°F"),
        (spread, spread),
        pushes={f"pair {id_}": u95},
        authority="usual",
        at=At(far, "dry_bulb", one.value, own_u95=DRY_BULB_ACCURACY.value),
        residual={"model_u95": spread, "repeat_u95": DUCT_PAIR_REPEAT.value, "slopes": slopes},
    )


def pair_u95_f(one: Reading, other: Reading) -> float:
    """95 % of the difference of two air readings [°F]: one named probe's offset cancels."""
    same = one.instrument and one.instrument == other.instrument
    return AIR_PAIR_DIFFERENCE.value if same else hypot(DRY_BULB_ACCURACY.value, DRY_BULB_ACCURACY.value)


def room_gains(m: Measured) -> list[Quantity]:
    """Each room's register over the plenum [°F], against an ordinary duct run."""
    plenum, found = m.round.reading("supply_plenum", "dry_bulb"), []
    for duct in m.round.equipment.rooms:
        place = f"{ROOM}{duct.name}"
        register = m.round.reading(place, "dry_bulb")
        if plenum is None or plenum.is_taken:
            continue
        u95 = pair_u95_f(plenum, register) if register else 0.0
        measured = Estimate(register.value - plenum.value, u95, "°F") if register else missing("°F", "needs", place)
        usual = Estimate(
            SUPPLY_GAIN_USUAL.value * (-1.0 if m.round.mode == "heating" else 1.0), SUPPLY_GAIN_SPREAD.value, "°F"
        )
        spread = (SUPPLY_GAIN_SPREAD.value, SUPPLY_GAIN_SPREAD.value)
        at = At(place, "dry_bulb", plenum.value, own_u95=DRY_BULB_ACCURACY.value)
        found.append(
            compared(f"gain_{place}", "°F", measured, usual, spread, pushes={"pair": u95}, authority="usual", at=at)
        )
    return found


def return_leak(m: Measured) -> list[Quantity]:
    """Grille against unit in dew point [°F], and the share of the return air that leaked in where the attic's air was
    read.
    """
    grille = m.air_at("return_grille")
    unit = m.air_at("return_unit") if grille else None
    at_the_unit = (m.round.reading("return_unit", "dry_bulb"), m.round.reading("return_unit", *HUMIDITY_QUANTITIES))
    if not (grille and unit) or any(reading is not None and reading.is_taken for reading in at_the_unit):
        return []
    attic = m.air_at("attic")
    pushes = {"dew point at the grille": -DEW_POINT_ACCURACY.value, "dew point at the unit": DEW_POINT_ACCURACY.value}
    moved = Estimate(unit.dew_point_f - grille.dew_point_f, hypot(*pushes.values()), "°F")
    limit = RETURN_DEW_POINT_LIMIT.value
    found = [
        compared(
            "return_dew_point",
            "°F",
            moved,
            Estimate(0.0, 0.0, "°F"),
            (limit, limit),
            pushes=pushes,
            authority="no_leak",
        )
    ]
    if attic:
        try:
            share = return_leak_share(grille, unit, attic)
        except EngineError:
            return found
        measured = Estimate(100 * share.share, 100 * share.u95, "%")
        found.append(limited("return_leak_share", "%", measured, RETURN_LEAK_LOOK.value, authority="working_figure"))
    return found


def room_airflows(m: Measured) -> list[Quantity]:
    """What each room's duct carries at the usual friction rate [CFM], against what the room wants."""
    found = []
    for duct in m.round.equipment.rooms:
        try:
            carries = duct_airflow_cfm(FRICTION_RATE_USUAL.value, duct.diameter_in, duct.duct, FLEX_STRETCHED)
        except EngineError:
            continue
        measured = Estimate(carries, DUCT_CARRY_SPREAD.value * carries, "CFM")
        wanted = (
            Estimate(duct.wants_cfm, 0.0, "CFM") if duct.wants_cfm else missing("CFM", "needs", "what the room wants")
        )
        off = Estimate(carries - duct.wants_cfm, measured.u95, "CFM") if duct.wants_cfm else None
        tolerance = DUCT_CARRY_SPREAD.value * duct.wants_cfm if duct.wants_cfm else None
        found.append(
            compared(
                f"carries_{ROOM}{duct.name}",
                "CFM",
                measured,
                wanted,
                (tolerance, None),
                off=off,
                authority="friction_rate",
            )
        )
    return found
