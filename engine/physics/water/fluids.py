"""Density and specific heat of loop fluids, from `engine/data/loop-fluids.csv` (source on its first line)."""

import csv
from functools import cache
from pathlib import Path
from typing import Any

import numpy as np

from engine.errors import EngineError, OutOfRange
from engine.physics.table import between

TABLE = Path(__file__).parent.parent.parent / "data" / "loop-fluids.csv"
FLUIDS = ("water", "propylene_glycol", "methanol")
BEYOND_EDGE_F = 15.0
GAL_PER_FT3 = 7.480519
POCKET_FACTORS = {"water": 500.0, "antifreeze": 485.0}  # BTU/h per GPM and °F; common practice, no single source


def fluid_properties(fluid: str, share_by_mass: float, temperature_f: float) -> tuple[float, float]:
    """Density [lb/ft3] and specific heat [BTU/lb°F] of a loop fluid.

    fluid: a name in the table. share_by_mass: of antifreeze, 0.1 to 0.4; 0 for water. temperature_f: [°F].
    Linear between the table's lines; its source - CoolProp - is named on the first line of engine/data/loop-fluids.csv.
    Antifreeze is taken as at the table's edge up to 15 °F beyond it, where its heat factor moves by some 0.3 %.
    """
    if fluid not in FLUIDS:
        raise EngineError(f"fluid '{fluid}' is unknown; known are {', '.join(FLUIDS)}")
    shares, temperatures, density, heat = _table()[fluid]
    if not shares[0] <= share_by_mass <= shares[-1]:
        raise OutOfRange(f"{fluid} share", share_by_mass, "by mass", shares[0], shares[-1])
    beyond = 0.0 if fluid == "water" else BEYOND_EDGE_F
    if not temperatures[0] - beyond <= temperature_f <= temperatures[-1] + beyond:
        raise OutOfRange("fluid temperature", temperature_f, "°F", temperatures[0], temperatures[-1])
    temperature_f = min(max(temperature_f, temperatures[0]), temperatures[-1])
    if len(shares) == 1:  # water has no share to go between
        shares, density, heat = (*shares, shares[0] + 1.0), np.vstack([density] * 2), np.vstack([heat] * 2)
    at = (shares, temperatures), (share_by_mass, temperature_f)
    return float(between(*at[0], density, *at[1])), float(between(*at[0], heat, *at[1]))


def heat_factor(fluid: str, share_by_mass: float, temperature_f: float) -> float:
    """BTU/h for each GPM and °F of a loop fluid: near 500 for water, 485 with antifreeze (common practice).

    fluid, share_by_mass, temperature_f [°F]: as in `fluid_properties`.
    Equation: 60 min/h x density [lb/ft3] / 7.48 gal/ft3 x specific heat: energy balance of the stream.
    """
    density, heat = fluid_properties(fluid, share_by_mass, temperature_f)
    return 60.0 * density / GAL_PER_FT3 * heat


@cache
def _table() -> dict[str, tuple[Any, ...]]:
    lines = [line for line in TABLE.read_text().splitlines() if not line.startswith("#")]
    rows = list(csv.DictReader(lines))
    tables = {}
    for fluid in FLUIDS:
        mine = [row for row in rows if row["fluid"] == fluid]
        shares = sorted({float(row["share_by_mass"]) for row in mine})
        temperatures = sorted({float(row["temperature_f"]) for row in mine})
        value = {(float(row["share_by_mass"]), float(row["temperature_f"])): row for row in mine}
        grids = [
            np.array([[float(value[share, t][column]) for t in temperatures] for share in shares])
            for column in ("density_lbft3", "specific_heat_btulbf")
        ]
        tables[fluid] = (shares, temperatures, *grids)
    return tables
