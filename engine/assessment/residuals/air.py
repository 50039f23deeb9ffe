"""What every machine has: its airflow, what each part of the ducts takes, and what the air gains or loses in them."""

from math import hypot, log

from engine.airflow.drop_ratio import manometer_u95_inwc
from engine.assessment.residuals.sources import measured, parts
from engine.assessment.result import RoundResult
from engine.constants import (
    AIR_PAIR_DIFFERENCE,
    AIRFLOW_REPEAT,
    AIRFLOW_SPREAD_SOUND,
    COIL_DROP_EXPONENT,
    COIL_DROP_USUAL,
    DRY_BULB_ACCURACY,
    DUCT_DROP_EXPONENT,
    DUCT_PAIR_REPEAT,
    FILTER_DROP_EXPONENT,
    FILTER_DROP_USUAL,
    NOMINAL_CFM_PER_TON,
    RETURN_DUCT_DROP_USUAL,
    RETURN_GAIN_SPREAD,
    RETURN_GAIN_USUAL,
    SUPPLY_DUCT_DROP_USUAL,
    SUPPLY_GAIN_SPREAD,
    SUPPLY_GAIN_USUAL,
    USUAL_DROP_REPEAT,
    USUAL_DROP_SPREAD,
)
from engine.judgement.residuals import KINDS, Residual
from engine.readings.round import Round
from engine.wording import airflow, signed_difference, temperature

LEAST_DROP_INWC, MOST_DROP_DOUBT = 0.01, 0.5  # a drop that no manometer reads; ln, 95 %, of the smallest one it does


def airflow_residual(round_: Round, air: RoundResult) -> Residual | None:
    """Measured airflow over the usual 400 CFM/ton; None where it is a guess."""
    if not (air["cfm_per_ton"].known and measured(round_)):
        return None
    flow, usual = air["cfm_per_ton"], NOMINAL_CFM_PER_TON.value
    pushes = {s: p / flow.value for s, p in parts(air, "cfm_per_ton").items() if p}
    return Residual(
        KINDS["airflow"],
        log(flow.value / usual),
        pushes,
        AIRFLOW_SPREAD_SOUND.value,
        AIRFLOW_REPEAT.value,
        {},
        f"{airflow(flow.value)}; {usual:.0f} is usual",
    )


def drops(round_: Round, air: RoundResult) -> list[Residual | None]:
    """Each part's drop over what is usual at this airflow: what takes more static than its airflow explains."""
    returning, supply = (round_.value(f"{side}_plenum", "static_pressure") for side in ("return", "supply"))
    filter_, coil = (round_.value(part, "pressure_drop") for part in ("filter", "coil"))
    filter_, coil = (None if d is None else abs(d) for d in (filter_, coil))
    found = [_drop(round_, air, "filter_drop", filter_, FILTER_DROP_USUAL.value, FILTER_DROP_EXPONENT.value),
             _drop(round_, air, "coil_drop", coil, COIL_DROP_USUAL.value, COIL_DROP_EXPONENT.value)]  # fmt: skip
    if returning is not None and filter_ is not None:
        duct = abs(returning) - filter_
        found.append(_drop(round_, air, "return_drop", duct, RETURN_DUCT_DROP_USUAL.value, DUCT_DROP_EXPONENT.value))
    inside = round_.equipment.unit != "furnace_with_cased_coil"
    if supply is not None and (inside or coil is not None):
        duct = abs(supply) - (0.0 if inside else coil)
        found.append(_drop(round_, air, "supply_drop", duct, SUPPLY_DUCT_DROP_USUAL.value, DUCT_DROP_EXPONENT.value))
    return found


def _drop(round_: Round, air: RoundResult, kind: str, drop: float | None, usual: float, exponent: float) -> Residual | None:
    if drop is None or drop < LEAST_DROP_INWC:
        return None
    flow = air["cfm_per_ton"].value / NOMINAL_CFM_PER_TON.value if air["cfm_per_ton"].known and measured(round_) else 1.0
    pushes = {f"manometer {kind}": min(manometer_u95_inwc(drop) / drop, MOST_DROP_DOUBT)}
    slopes = {}
    if measured(round_):
        pushes |= {s: -exponent * p / air["cfm_per_ton"].value for s, p in parts(air, "cfm_per_ton").items() if p}
    else:
        slopes["airflow"] = -exponent
        pushes["airflow_of_sound_systems"] = -exponent * AIRFLOW_SPREAD_SOUND.value
    expected = usual * flow**exponent
    return Residual(
        KINDS[kind],
        log(drop / expected),
        pushes,
        USUAL_DROP_SPREAD.value,
        USUAL_DROP_REPEAT.value,
        slopes,
        f"{drop:.2f} against about {expected:.2f} in. w.c.",
        origin="usual for sound ducts at this airflow" if measured(round_) else "usual for sound ducts at the guessed airflow",
    )


def ducts(round_: Round) -> list[Residual]:
    """What the air gains in the ducts over what it usually does; in heating it loses as much."""
    sign = -1.0 if round_.mode == "heating" else 1.0
    pairs = (
        ("grille_to_unit", "return_grille", "return_unit", sign * RETURN_GAIN_USUAL.value, RETURN_GAIN_SPREAD.value),
        ("unit_to_register", "supply_plenum", "supply_register", sign * SUPPLY_GAIN_USUAL.value, SUPPLY_GAIN_SPREAD.value),
    )
    found = []
    for kind, first, second, usual, spread in pairs:
        one, other = round_.reading(first, "dry_bulb"), round_.reading(second, "dry_bulb")
        if one is None or other is None:
            continue
        same = one.instrument and one.instrument == other.instrument
        pushes = {f"pair {kind}": AIR_PAIR_DIFFERENCE.value if same else hypot(DRY_BULB_ACCURACY.value, DRY_BULB_ACCURACY.value)}
        slopes = {"return": 1.0} if kind == "grille_to_unit" else {"supply": -1.0}
        says = f"{temperature(one.value)}, then {temperature(other.value)}"
        found.append(
            Residual(
                KINDS[kind],
                other.value - one.value - usual,
                pushes,
                spread,
                DUCT_PAIR_REPEAT.value,
                slopes,
                says,
                origin=f"{signed_difference(usual)} is usual",
            )
        )
    return found
