"""Static pressures: the total external static against its limit, and what filter, coil and ducts each take at this
airflow.
"""

from math import exp

from engine.constants import (
    AIRFLOW_SPREAD_SOUND,
    COIL_DROP_DRY,
    COIL_DROP_EXPONENT,
    COIL_DROP_USUAL,
    DUCT_DROP_EXPONENT,
    FILTER_DROP_EXPONENT,
    FILTER_DROP_USUAL,
    NOMINAL_CFM_PER_TON,
    RETURN_DUCT_DROP_USUAL,
    STATIC_HIGH,
    SUPPLY_DUCT_DROP_USUAL,
    USUAL_DROP_REPEAT,
    USUAL_DROP_SPREAD,
)
from engine.physics.airflow.drop_ratio import manometer_u95_inwc
from engine.physics.airflow.statics import at_standard_inwc
from engine.quantities.quantity import At, Quantity, compared, limited
from engine.quantities.residual import LN
from engine.readings.measured import Measured
from engine.readings.vocabulary import FURNACE
from engine.uncertainty.estimate import Estimate, missing

LEAST_DROP_INWC, MOST_DROP_DOUBT = 0.01, 0.5  # a drop that no manometer reads; ln, 95 %, of the smallest one it does
USUAL = {
    "filter_drop": (FILTER_DROP_USUAL.value, FILTER_DROP_EXPONENT.value, "filter"),
    "coil_drop": (COIL_DROP_USUAL.value, COIL_DROP_EXPONENT.value, "coil"),
    "return_drop": (RETURN_DUCT_DROP_USUAL.value, DUCT_DROP_EXPONENT.value, None),
    "supply_drop": (SUPPLY_DUCT_DROP_USUAL.value, DUCT_DROP_EXPONENT.value, None),
}


def total_static(m: Measured) -> Quantity | None:
    """Total external static [in. w.c.] at standard density, against the plate's maximum,
    else what is common and high.
    """
    if m.statics is None:
        return None
    total, u95 = (at_standard_inwc(x, m.volumes["supply"]) for x in (m.statics.total_inwc, m.statics.total_u95_inwc))
    rating = m.round.equipment.rating_static_inwc
    limit = rating or STATIC_HIGH.value
    return limited(
        "total_static",
        "in. w.c.",
        Estimate(total, u95, "in. w.c."),
        limit,
        authority="plate" if rating else "common_practice",
    )


def drops(m: Measured) -> list[Quantity | None]:
    """What each part takes of the static, over what is usual at this airflow: more than its airflow explains is dirt, a
    kink or a closed register.
    """
    round_ = m.round
    returning, supply = (round_.value(f"{side}_plenum", "static_pressure") for side in ("return", "supply"))
    filter_, coil = (round_.value(part, "pressure_drop") for part in ("filter", "coil"))
    filter_, coil = (None if d is None else abs(d) for d in (filter_, coil))
    found = [_drop(m, "filter_drop", filter_)]
    found.append(_drop(m, "coil_drop", coil, COIL_DROP_DRY.value if _is_dry(m) else 1.0))
    if returning is not None and filter_ is not None:
        found.append(_drop(m, "return_drop", abs(returning) - filter_))
    inside = round_.equipment.unit != FURNACE
    in_duct = 0.0 if inside else coil  # the coil's own part of the supply static
    if supply is not None and in_duct is not None:
        found.append(_drop(m, "supply_drop", abs(supply) - in_duct))
    return found


def _is_dry(m: Measured) -> bool:
    """Whether the indoor coil is dry: always in heating, in cooling where it was seen so."""
    return m.round.mode == "heating" or m.round.observations.get("coil") == "dry"


def _drop(m: Measured, id_: str, drop: float | None, of_usual: float = 1.0) -> Quantity | None:
    """One part's drop [in. w.c.]; expected before it is read, so that one knows the number first. of_usual: what share
    of the usual drop is usual now.
    """
    usual, exponent, place = USUAL[id_]
    at = At(place, "pressure_drop", own_u95=0.0 if drop is None else manometer_u95_inwc(drop)) if place else None
    if (drop is None and place is None) or (drop is not None and drop < LEAST_DROP_INWC):
        return None
    flow = 1.0 if not m.airflows.measured else m["cfm_per_ton"].value / NOMINAL_CFM_PER_TON.value
    level = of_usual * usual * flow**exponent
    spread = USUAL_DROP_SPREAD.value
    measured = (
        missing("in. w.c.", "needs", id_) if drop is None else Estimate(drop, manometer_u95_inwc(drop), "in. w.c.")
    )
    pushes, slopes = {}, {}
    if drop is not None:
        pushes[f"manometer {id_}"] = min(manometer_u95_inwc(drop) / drop, MOST_DROP_DOUBT)
        if m.airflows.measured:
            pushes |= {s: -exponent * p / m["cfm_per_ton"].value for s, p in m.parts("cfm_per_ton").items()}
        else:
            slopes["airflow"] = -exponent
            pushes["airflow_of_sound_systems"] = -exponent * AIRFLOW_SPREAD_SOUND.value
    off = None if drop is None else Estimate(drop - level, measured.u95, "in. w.c.")
    return compared(
        id_,
        "in. w.c.",
        measured,
        Estimate(level, spread * level, "in. w.c."),
        (None, level * (exp(spread) - 1.0)),
        form=LN,
        pushes=pushes,
        off=off,
        authority="usual_at_this_airflow" if m.airflows.measured else "usual",
        at=at,
        assumed_airflow=m.airflows.assumed,
        residual={"model_u95": spread, "repeat_u95": USUAL_DROP_REPEAT.value, "slopes": slopes},
    )
