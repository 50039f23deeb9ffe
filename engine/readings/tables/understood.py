"""What a pasted grid is: a blower table, a performance table, an exchanger table, a superheat chart. Checked against
the plate and against physics.
"""

from dataclasses import dataclass
from itertools import pairwise

from engine.constants import BTUH_PER_TON, NOMINAL_CFM_PER_TON
from engine.errors import EngineError
from engine.physics.airflow.blower_table import BlowerTable
from engine.physics.water.exchanger import Grid
from engine.readings.tables.paste import Pasted, TableError, header_numbers, read_paste

BLOWER, PERFORMANCE, DROP, HEAT, EXTRACTION = "blower", "performance", "drop", "heat", "extraction"
SUPERHEAT = "superheat"
NO_TARGET_F = 0.0  # an empty cell of a superheat chart, in a grid whose cells are all filled: under any target


@dataclass(frozen=True)
class TableKind:
    """One kind of table: id, title, what its rows, columns and values are, their plausible ranges, an example to start
    from, and what else to know.
    """

    id: str
    title: str
    row: str
    column: str
    value: str
    row_range: tuple[float, float]
    column_range: tuple[float, float]
    value_range: tuple[float, float]
    example: str
    note: str = ""


KINDS = {
    kind.id: kind
    for kind in (
        TableKind(BLOWER, "Blower table", "total external static, in. w.c.", "tap", "CFM", (0.0, 2.0), (0.0, 0.0), (100.0, 4000.0),
                  "static, low, medium, high\n0.1, 900, 1100, 1300\n0.3, 850, 1030, 1210\n0.5, 780, 940, 1100"),
        TableKind(PERFORMANCE, "Performance table", "return wet bulb, °F", "outdoor, °F", "net cooling, BTU/h", (50.0, 85.0), (55.0, 125.0), (5000.0, 150000.0),
                  "wet bulb, 85, 95, 105\n63, 34800, 32900, 30800\n67, 37500, 35500, 33400\n71, 40300, 38200, 36000"),
        TableKind(DROP, "Exchanger drop table", "water flow, GPM", "entering water, °F", "drop, psi", (0.5, 40.0), (20.0, 120.0), (0.01, 40.0),
                  "GPM, 50, 70, 90\n6, 1.5, 1.4, 1.3\n9, 3.2, 3.0, 2.8\n12, 5.5, 5.1, 4.8"),
        TableKind(HEAT, "Rejection table (cooling)", "entering water, °F", "water flow, GPM", "heat given to the water, BTU/h", (20.0, 120.0), (0.5, 40.0), (5000.0, 200000.0),
                  "entering, 6, 9, 12\n50, 45000, 45900, 46500\n70, 43600, 44600, 45200\n90, 41900, 43000, 43700"),
        TableKind(EXTRACTION, "Extraction table (heating)", "entering water, °F", "water flow, GPM", "heat taken from the water, BTU/h", (20.0, 120.0), (0.5, 40.0), (5000.0, 200000.0),
                  "entering, 6, 9, 12\n30, 19500, 21000, 21900\n45, 24400, 26300, 27400\n60, 29300, 31600, 32900"),
        TableKind(SUPERHEAT, "Superheat chart (fixed orifice)", "outdoor, °F", "return wet bulb, °F", "superheat, °F", (40.0, 130.0), (45.0, 80.0), (0.0, 50.0),
                  "outdoor, 63, 67, 71\n75, 17, 23, 29\n85, 12, 18, 24\n95, 7, 13, 19", "Leave a cell empty where the chart gives no target."),
    )
}  # fmt: skip


@dataclass(frozen=True)
class Understood:
    """A table as understood: kind, row values, column names, values[column][row] for the plot, and remarks that are no
    errors.
    """

    kind: str
    rows: tuple[float, ...]
    columns: tuple[str, ...]
    curves: tuple[tuple[tuple[float, float], ...], ...]
    remarks: tuple[str, ...]


def understand(kind: str, text: str, nominal_tons: float, motor: str = "psc") -> Understood:
    """Read and check a pasted table of a kind; raises TableError with what is wrong and where."""
    if kind not in KINDS:
        raise TableError(f"'{kind}' is no kind of table.")
    pasted, what = read_paste(text), KINDS[kind]
    columns = pasted.header if kind == BLOWER else tuple(f"{c:g}" for c in header_numbers(pasted))
    if len(set(columns)) != len(columns) or not all(columns):
        raise TableError(f"Every column needs its own name ({what.column}).", 1)
    _ranges(what, pasted, columns)
    curves = tuple(_column(pasted, index) for index in range(len(columns)))
    try:
        if kind == BLOWER:
            blower_table("this unit", pasted, motor)
        elif grid("this unit", kind, pasted).rises_by(0.0) and kind == SUPERHEAT:
            raise TableError("Superheat falls as the air outdoors gets warmer: are rows and columns swapped?")
    except TableError:
        raise
    except EngineError as error:
        raise TableError(f"{str(error)[:1].upper()}{str(error)[1:]}.") from error
    return Understood(kind, pasted.rows, columns, curves, _remarks(kind, pasted, nominal_tons))


def blower_table(model: str, pasted: Pasted, motor: str) -> BlowerTable:
    """The engine's blower table; a tap's empty cells at the ends are left out."""
    return BlowerTable(model, {tap: _column(pasted, index) for index, tap in enumerate(pasted.header)}, motor)


def _column(pasted: Pasted, index: int) -> tuple[tuple[float, float], ...]:
    """(row, value) of a column's filled cells."""
    cells = ((row, values[index]) for row, values in zip(pasted.rows, pasted.values, strict=True))
    return tuple((row, value) for row, value in cells if value is not None)


def grid(model: str, kind: str, pasted: Pasted) -> Grid:
    """The engine's grid of a kind. Every cell is needed; in a superheat chart an empty one says that there is no target."""
    what = KINDS[kind]
    values = tuple(
        tuple(_filled(kind, value, line, cell) for cell, value in enumerate(row, start=2))
        for line, row in enumerate(pasted.values, start=2)
    )
    return Grid(model, what.row, pasted.rows, what.column, header_numbers(pasted), values)


def _filled(kind: str, value: float | None, line: int, cell: int) -> float:
    if value is None and kind == SUPERHEAT:
        return NO_TARGET_F
    if value is None:
        raise TableError("This cell is empty. Empty cells are not filled in from their neighbours.", line, cell)
    return value


def _ranges(what: TableKind, pasted: Pasted, columns: tuple[str, ...]) -> None:
    for line, (row, values) in enumerate(zip(pasted.rows, pasted.values, strict=True), start=2):
        _inside(row, what.row_range, what.row, line, 1)
        for cell, value in enumerate(values, start=2):
            if value is not None:
                _inside(value, what.value_range, what.value, line, cell)
    if what.id != BLOWER:
        for cell, column in enumerate(columns, start=2):
            _inside(float(column), what.column_range, what.column, 1, cell)


def _inside(value: float, limits: tuple[float, float], name: str, line: int, cell: int) -> None:
    if not limits[0] <= value <= limits[1]:
        raise TableError(
            f"{value:g} is not a {name} ({limits[0]:g} to {limits[1]:g}). Is the unit right, are rows and columns swapped?",
            line,
            cell,
        )


def _remarks(kind: str, pasted: Pasted, nominal_tons: float) -> tuple[str, ...]:
    values = [value for row in pasted.values for value in row if value is not None]
    if kind == BLOWER:
        least, most, wanted = min(values), max(values), NOMINAL_CFM_PER_TON.value * nominal_tons
        if not least * 0.8 <= wanted <= most * 1.15:
            return (
                f"{wanted:.0f} CFM (400 for each of {nominal_tons:g} tons) is outside this table's {least:.0f} to {most:.0f}: does it belong to this unit?",
            )
        return tuple(
            f"Tap {tap} moves more air at more static between {a:g} and {b:g}: a constant-airflow motor, or a slip."
            for index, tap in enumerate(pasted.header)
            for (a, cfm), (b, later) in pairwise(_column(pasted, index))
            if later > cfm
        )
    if kind in (PERFORMANCE, HEAT, EXTRACTION):
        middle = sorted(values)[len(values) // 2]
        share = middle / (nominal_tons * BTUH_PER_TON.value)
        if not (0.4 if kind == EXTRACTION else 0.6) <= share <= 1.6:
            return (
                f"The table's middle, {middle:,.0f} BTU/h, is {share:.1f} times {nominal_tons:g} tons: does it belong to this unit?",
            )
    empty = sum(value is None for row in pasted.values for value in row)
    return (f"{empty} without a target: not charged by superheat there.",) if empty else ()
