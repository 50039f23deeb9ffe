"""Where air changes between grille and unit, plenum and register: leaks, gains, reheat. Each with its margin.

A leak mixes: enthalpy and humidity ratio both move along the line to the attic's state. A gain moves dry bulb alone.
"""

from dataclasses import dataclass
from math import hypot

from engine.air import moist
from engine.air.state import AirState
from engine.constants import DEW_POINT_ACCURACY, DUCT_RUN_GAIN_LIMIT, MATCHED_PAIR_ACCURACY, REHEAT_GAIN
from engine.errors import EngineError
from engine.wording import difference, signed_difference

LEAST_CONTRAST = 0.5  # the attic must differ from the grille by this many margins, or nothing can be told


@dataclass(frozen=True)
class DuctFinding:
    """What a stretch of duct shows: id, sentence, the size and its 95 % margin in `unit`, and whether it exceeds the margin."""

    id: str
    message: str
    value: float
    u95: float
    unit: str
    sure: bool


def return_leak_fraction(grille: AirState, unit: AirState, attic: AirState) -> DuctFinding:
    """Share of the air at the unit that leaked in from the attic, from mixing on enthalpy and on humidity ratio.

    f = (x_unit - x_grille) / (x_attic - x_grille) for x = enthalpy and x = humidity ratio, weighted by their uncertainty; air dry bulb within a
    matched pair, dew point within 1.5 °F. Raises when the attic's air does not differ enough from the house's to tell.
    """
    found = []
    for name in ("enthalpy_btulb", "humidity_ratio"):
        low, mid, high = (getattr(state, name) for state in (grille, unit, attic))
        u_low, u_mid, u_high = (_u95(state, name) for state in (grille, unit, attic))
        contrast = high - low
        if abs(contrast) * LEAST_CONTRAST < hypot(u_low, u_high):
            continue
        f = (mid - low) / contrast
        found.append((f, hypot(u_mid, (1 - f) * u_low, f * u_high) / abs(contrast)))
    if not found:
        raise EngineError("the attic's air is too like the house's to tell a leak: compare when the attic is hot or humid")
    weights = [1 / u95**2 for _, u95 in found]
    fraction = sum(f * w for (f, _), w in zip(found, weights, strict=True)) / sum(weights)
    u95 = sum(weights) ** -0.5
    sure = fraction > u95
    text = f"{100 * fraction:.0f} % of the return air comes from the attic, known within {100 * u95:.0f} %."
    return DuctFinding("return_leak", text if sure else "No return leak larger than the margin.", fraction, u95, "share", sure)


def return_side(grille: AirState, unit: AirState) -> DuctFinding:
    """Grille against unit: dew point differs = return leak; only dry bulb warmer = gain, or a leak of air with the house's dew point."""
    warmer, wetter = unit.dry_bulb_f - grille.dry_bulb_f, unit.dew_point_f - grille.dew_point_f
    u_dew = hypot(DEW_POINT_ACCURACY.value, DEW_POINT_ACCURACY.value)
    if abs(wetter) > u_dew:
        text = f"Dew point moves {signed_difference(wetter)} between grille and unit: air leaks into the return."
        return DuctFinding("return_leak_sign", text, wetter, u_dew, "°F", True)
    if warmer > MATCHED_PAIR_ACCURACY.value:
        text = f"Air warms {difference(warmer)} between grille and unit at one dew point: a hot return duct, or a leak of air as damp as the house."
        return DuctFinding("return_gain", text, warmer, MATCHED_PAIR_ACCURACY.value, "°F", True)
    return DuctFinding(
        "return_sound", "Grille and unit agree within the margin.", warmer, MATCHED_PAIR_ACCURACY.value, "°F", False
    )


def supply_side(plenum: AirState, register: AirState) -> DuctFinding:
    """Plenum against register: up to 3-4 °F is a hot duct run; far more is something reheating. Common practice, no single source."""
    gain, u95 = register.dry_bulb_f - plenum.dry_bulb_f, MATCHED_PAIR_ACCURACY.value
    if gain >= REHEAT_GAIN.value:
        text = f"Air warms {difference(gain)} from plenum to register: far more than a duct. Something reheats it downstream."
        return DuctFinding("reheat_downstream", text, gain, u95, "°F", True)
    if gain > DUCT_RUN_GAIN_LIMIT.value:
        text = f"Air warms {difference(gain)} from plenum to register: a hot duct run."
        return DuctFinding("duct_gain", text, gain, u95, "°F", gain > DUCT_RUN_GAIN_LIMIT.value + u95)
    return DuctFinding(
        "duct_sound", f"Air warms {difference(gain)} from plenum to register, as a duct does.", gain, u95, "°F", False
    )


def reheat_inside(
    plenum: AirState, expected_dry_bulb_f: float, expected_dew_point_f: float, expected_u95_f: float
) -> DuctFinding:
    """Dew point good, dry bulb warm at the plenum = heat added inside the unit (strips stuck on, a coil leaking through)."""
    warm, damp = plenum.dry_bulb_f - expected_dry_bulb_f, plenum.dew_point_f - expected_dew_point_f
    u_warm, u_damp = hypot(expected_u95_f, MATCHED_PAIR_ACCURACY.value), hypot(expected_u95_f, DEW_POINT_ACCURACY.value)
    if warm > u_warm and abs(damp) <= u_damp:
        text = f"The plenum is {difference(warm)} warm while its dew point is as expected: heat is added inside the unit; the coil is fine."
        return DuctFinding("reheat_inside", text, warm, u_warm, "°F", True)
    return DuctFinding("no_reheat_inside", "No heat added inside the unit beyond the margin.", warm, u_warm, "°F", False)


def _u95(state: AirState, name: str) -> float:
    """95 % of an enthalpy or humidity ratio from the pair's dry bulb and dew point."""
    slope = float(moist.saturated_with_slope(state.dew_point_f, state.pressure_psia)[1])
    u_w = slope * DEW_POINT_ACCURACY.value
    if name == "humidity_ratio":
        return u_w
    return hypot((0.240 + 0.444 * state.humidity_ratio) * MATCHED_PAIR_ACCURACY.value, (1061.0 + 0.444 * state.dry_bulb_f) * u_w)
