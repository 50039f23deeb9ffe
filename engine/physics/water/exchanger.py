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

# Beyond a drop table's entering water (working figures).
BEYOND_EDGE_F, FLOW_PER_F_BEYOND = 20.0, 0.003


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

    def carried_on(self, row: float, column: float) -> tuple[float, float]:
        """(value, what of it lies beyond the table's edge): the trend of the edge's last interval goes on, each way by
        as much as the table is wide. OutOfRange further out.
        """
        for name, value, axis in ((self.row_name, row, self.rows), (self.column_name, column, self.columns)):
            span = axis[-1] - axis[0]
            if not axis[0] - span <= value <= axis[-1] + span:
                raise OutOfRange(f"{name} in the table of {self.model}", value, "", axis[0], axis[-1])
        edge = self.at(min(max(row, self.rows[0]), self.rows[-1]), min(max(column, self.columns[0]), self.columns[-1]))
        beyond = self._beyond(row, column, self.rows, by_row=True) + self._beyond(
            row, column, self.columns, by_row=False
        )
        return edge + beyond, beyond

    def _beyond(self, row: float, column: float, axis: tuple[float, ...], by_row: bool) -> float:
        """What the trend adds past the edge of one axis, at the other's nearest value."""
        value, other, others = (row, column, self.columns) if by_row else (column, row, self.rows)
        if axis[0] <= value <= axis[-1]:
            return 0.0
        beside = min(max(other, others[0]), others[-1])
        near, next_ = (axis[0], axis[1]) if value < axis[0] else (axis[-1], axis[-2])
        at_near, at_next = (self.at(x, beside) if by_row else self.at(beside, x) for x in (near, next_))
        return (at_near - at_next) / (near - next_) * (value - near)

    def rises_by(self, share_per_row: float) -> bool:
        """Whether its values change from the first row to the last by more than this share of their mean for each unit
        of the rows.
        """
        first, last = sum(self.values[0]), sum(self.values[-1])
        return 2.0 * (last - first) > share_per_row * (last + first) * (self.rows[-1] - self.rows[0])


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
    table's. drop_psi: [psi]. entering_f: *entering* water [°F], up to 20 °F outside the table. table_accuracy: share,
    95 %. Equation: the drop at this entering temperature, linear between the columns, inverted along flow; outside, as
    at the edge, with 0.3 % of flow in doubt for each °F (what viscosity does). One needle gauge moved from port to
    port: its offset cancels, 0.2 psi of reading remains [1].

    [1] The maker's table; the gauge's figure MEM.
    """
    _same_model(table, model)
    nearest = min(max(entering_f, table.columns[0]), table.columns[-1])
    beyond = abs(entering_f - nearest)
    if beyond > BEYOND_EDGE_F:
        raise OutOfRange("entering water", entering_f, "°F", table.columns[0], table.columns[-1])
    drops = [table.at(row, nearest) for row in table.rows]
    if not all(later > earlier for earlier, later in pairwise(drops)):
        raise EngineError(f"the table of {model} is wrong: more flow must drop more pressure")
    if not drops[0] <= drop_psi <= drops[-1]:
        raise OutOfRange(f"pressure drop in the table of {model}", drop_psi, "psi", drops[0], drops[-1])
    gpm = float(np.interp(drop_psi, drops, table.rows))
    slope = float(np.interp(min(drop_psi + NEEDLE_GAUGE_ACCURACY.value, drops[-1]), drops, table.rows)) - gpm
    share = (table_accuracy**2 + (FLOW_PER_F_BEYOND * beyond) ** 2) ** 0.5
    return WaterFlow(gpm, (slope**2 + (share * gpm) ** 2) ** 0.5)


def published(table: Grid, model: str, entering_f: float, gpm: float) -> tuple[float, float]:
    """(published rejection or extraction [BTU/h], like with like; what of it is the table's trend carried on beyond its
    edge). Rows by entering water [°F], columns by GPM.
    """
    _same_model(table, model)
    return table.carried_on(entering_f, gpm)


def _same_model(table: Grid, model: str) -> None:
    """Nobody names the model: it is the unit's own table, as it was entered with its plate."""
    named = table.model.strip().upper(), model.strip().upper()
    if all(named) and named[0] != named[1]:
        raise EngineError(f"the table is of {table.model}, the unit is {model}: use the unit's own table")
