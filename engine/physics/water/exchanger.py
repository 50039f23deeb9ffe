"""Water flow from the pressure drop across a unit's exchanger and the unit's own table; the published performance
tables.

Two-way interpolation in pressure drop and *entering* water temperature. A table belongs to a model: another is refused.
"""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from engine.constants import NEEDLE_GAUGE_ACCURACY
from engine.errors import EngineError, OutOfRange
from engine.physics.table import between


@dataclass(frozen=True)
class Grid:
    """A published table of one model: rows by `row_name`, columns by `column_name`, both rising;
    values[row][column].
    """

    model: str
    row_name: str
    rows: tuple[float, ...]
    column_name: str
    columns: tuple[float, ...]
    values: tuple[tuple[float, ...], ...]

    def __post_init__(self) -> None:
        shape = {len(row) for row in self.values}
        if len(self.values) != len(self.rows) or shape != {len(self.columns)}:
            raise EngineError(
                f"the table of {self.model} has {len(self.rows)} rows and {len(self.columns)} columns, "
                "its values do not"
            )
        for name, axis in ((self.row_name, self.rows), (self.column_name, self.columns)):
            if len(axis) < 2 or list(axis) != sorted(set(axis)):
                raise EngineError(f"the table of {self.model}: {name} must rise and have two or more values")

    def at(self, row: float, column: float) -> float:
        """The value between the table's lines, both ways; OutOfRange outside it: a table is not extended."""
        for name, value, axis in ((self.row_name, row, self.rows), (self.column_name, column, self.columns)):
            if not axis[0] <= value <= axis[-1]:
                raise OutOfRange(f"{name} in the table of {self.model}", value, "", axis[0], axis[-1])
        return float(between(self.rows, self.columns, self.values, row, column))


@dataclass(frozen=True)
class WaterFlow:
    """Water flow [GPM] with its 95 %."""

    gpm: float
    u95_gpm: float


def flow_from_drop(
    table: Grid, model: str, drop_psi: float, entering_f: float, table_accuracy: float = 0.05
) -> WaterFlow:
    """Water flow [GPM] through the exchanger, from its pressure drop and the unit's own table.

    table: pressure drop [psi], rows by flow [GPM], columns by entering water [°F]. model: the unit's, which must be the
    table's. drop_psi: [psi]. entering_f: *entering* water [°F], within the table. table_accuracy: share, 95 %.
    Equation: the drop at this entering temperature, linear between the columns, inverted along flow. One needle gauge
    moved from port to port: its offset cancels, 0.2 psi of reading remains [1].

    [1] The maker's table; the gauge's figure MEM.
    """
    _same_model(table, model)
    if not table.columns[0] <= entering_f <= table.columns[-1]:
        raise OutOfRange("entering water", entering_f, "°F", table.columns[0], table.columns[-1])
    drops = [table.at(row, entering_f) for row in table.rows]
    if not all(later > earlier for earlier, later in pairwise(drops)):
        raise EngineError(f"the table of {model} is wrong: more flow must drop more pressure")
    if not drops[0] <= drop_psi <= drops[-1]:
        raise OutOfRange(f"pressure drop in the table of {model}", drop_psi, "psi", drops[0], drops[-1])
    gpm = float(np.interp(drop_psi, drops, table.rows))
    slope = float(np.interp(min(drop_psi + NEEDLE_GAUGE_ACCURACY.value, drops[-1]), drops, table.rows)) - gpm
    return WaterFlow(gpm, (slope**2 + (table_accuracy * gpm) ** 2) ** 0.5)


def published(table: Grid, model: str, entering_f: float, gpm: float) -> float:
    """A published capacity [BTU/h], rejection or extraction, like with like: rows by entering water [°F], columns by
    GPM.
    """
    _same_model(table, model)
    return table.at(entering_f, gpm)


def _same_model(table: Grid, model: str) -> None:
    if table.model.strip().upper() != model.strip().upper():
        raise EngineError(f"the table is of {table.model}, the unit is {model}: use the unit's own table")
