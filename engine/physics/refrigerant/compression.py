"""Compression of refrigerant vapor: how hot it leaves the compressor. Units: °F, BTU/lb, shares.

Sources:
1. First law over a compressor at steady flow, and the definition of isentropic efficiency (any thermodynamics text).
2. Vapor properties: engine/data/refrigerants, generated from CoolProp.
"""

import numpy as np

from engine.errors import OutOfRange
from engine.physics.refrigerant.properties import Refrigerant, refrigerant

# What the discharge moves by for one °F of what the compressor draws in and works between: central differences of
# `discharge_f` at 25 to 50 °F evaporating and 95 to 125 °F condensing, good to two fifths over four refrigerants (R-32
# moves the most).
PER_SUCTION_F, PER_EVAPORATING_F, PER_CONDENSING_F = 1.15, -2.0, 1.65


def discharge_f(
    name: str, evaporating_f: float, suction_f: float, condensing_f: float, efficiency: float, shell_loss: float
) -> float:
    """Temperature of the vapor that leaves the compressor [°F].

    h2 = h1 + (h2s - h1) / efficiency x (1 - shell_loss), h2s at the entropy of the suction [1]; the temperature is that
    of h2 at condensing [2]. evaporating_f, condensing_f: saturation (dew) at suction and discharge [°F]. suction_f: of
    the vapor drawn in [°F], 0 to 150 °F over evaporating. efficiency: isentropic, over all of the input (0 to 1).
    shell_loss: share of the input that leaves by the shell. Raises OutOfRange outside the tables, which end 150 °F over
    condensing.
    """
    gas = refrigerant(name)
    drawn, pressed = _vapors(gas, evaporating_f), _vapors(gas, condensing_f)
    h1, s1 = (float(np.interp(suction_f - evaporating_f, gas.superheat_f, row, np.nan, np.nan)) for row in drawn)
    h2s = np.interp(s1, pressed[1], pressed[0], np.nan, np.nan)
    h2 = h1 + (h2s - h1) / efficiency * (1.0 - shell_loss)
    superheat = float(np.interp(h2, pressed[0], gas.superheat_f, np.nan, np.nan))
    if not np.isfinite(superheat):
        raise OutOfRange(f"{name} compressed from {evaporating_f:.0f} °F", condensing_f, "°F", *gas.dew_f[[0, -1]])
    return condensing_f + superheat


def _vapors(gas: Refrigerant, dew_f: float) -> tuple[np.ndarray, np.ndarray]:
    """Enthalpy and entropy of the vapors of one dew point, over the table's superheats; NaN outside it."""
    row = float(np.interp(dew_f, gas.dew_f, np.arange(len(gas.dew_f)), np.nan, np.nan))
    if not np.isfinite(row):
        return np.full_like(gas.superheat_f, np.nan), np.full_like(gas.superheat_f, np.nan)
    low = min(int(row), len(gas.dew_f) - 2)
    share = row - low
    enthalpy, entropy = (gas.vapor[column] for column in ("enthalpy_btulb", "entropy_btulbf"))
    return tuple((1.0 - share) * table[low] + share * table[low + 1] for table in (enthalpy, entropy))
