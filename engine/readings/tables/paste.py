"""Pasted text to a grid of numbers: tabs, commas or semicolons between cells, a header row and a header column.

Nothing is guessed silently: what is not a number is an error that names its line and cell.
"""

import csv
import re
from dataclasses import dataclass

from engine.errors import EngineError

MOST_ROWS, MOST_COLUMNS = 60, 30
_SEPARATORS = "\t;|,"


class TableError(EngineError):
    """A table that cannot be read, and where: line counts from 1, cell from 1, both 0 for the whole table."""

    def __init__(self, message: str, line: int = 0, cell: int = 0):
        self.line, self.cell = line, cell
        at = f"Line {line}" + (f", cell {cell}" if cell else "") + ": " if line else ""
        super().__init__(at + message)


@dataclass(frozen=True)
class Pasted:
    """A grid as pasted: the corner's words, the header row's cells as text, the first column and the values as numbers
    (None: empty).
    """

    corner: str
    header: tuple[str, ...]
    rows: tuple[float, ...]
    values: tuple[tuple[float | None, ...], ...]


def read_paste(text: str) -> Pasted:
    """Read a pasted grid; raises TableError naming the line and cell."""
    lines = [(number, line) for number, line in enumerate(text.splitlines(), start=1) if line.strip()]
    if len(lines) < 3:
        raise TableError("A table is a header row and at least two rows below it.")
    if len(lines) > MOST_ROWS + 1:
        raise TableError(f"A table has at most {MOST_ROWS} rows; this has {len(lines) - 1}.")
    separator = _separator(lines[0][1])
    cells = [(number, _cells(line, separator)) for number, line in lines]
    header = cells[0][1]
    while len(header) > 1 and not header[-1]:
        header = header[:-1]
    if not 2 <= len(header) <= MOST_COLUMNS + 1:
        raise TableError("The header row names the columns: a corner and at least one column.", cells[0][0])
    rows: list[float] = []
    values: list[tuple[float | None, ...]] = []
    for number, row in cells[1:]:
        if len(row) > len(header) and any(row[len(header) :]):
            raise TableError(f"{len(row)} cells where the header has {len(header)}.", number)
        row = (row + [""] * len(header))[: len(header)]
        rows.append(_required(row[0], number, 1))
        values.append(tuple(_number(cell, number, index) for index, cell in enumerate(row[1:], start=2)))
    return Pasted(header[0], tuple(header[1:]), tuple(rows), tuple(values))


def header_numbers(pasted: Pasted) -> tuple[float, ...]:
    """The header row as numbers; a unit written after one is allowed ('95 F')."""
    return tuple(_required(cell, 1, index) for index, cell in enumerate(pasted.header, start=2))


def _separator(line: str) -> str:
    found = max(_SEPARATORS, key=line.count)
    return found if found in line else " "


def _cells(line: str, separator: str) -> list[str]:
    if separator == " ":
        return line.split()
    return [cell.strip() for cell in next(csv.reader([line], delimiter=separator))]


def _required(cell: str, line: int, index: int) -> float:
    number = _number(cell, line, index)
    if number is None:
        raise TableError("This cell is empty; a number is needed here.", line, index)
    return number


def _number(cell: str, line: int, index: int) -> float | None:
    bare = re.sub(r"\s*(°?[FC]|CFM|cfm|GPM|gpm|psi|in\.? ?w\.?c\.?|BTU/h|Btu/h|kW|MBH)$", "", cell.strip())
    bare = bare.replace("\u2212", "-").replace("\u00a0", "")
    if bare in ("", "-", "–", "—"):
        return None
    if re.fullmatch(r"\d{1,3}(,\d{3})+(\.\d+)?", bare):
        bare = bare.replace(",", "")
    elif re.fullmatch(r"-?\d+,\d+", bare):
        bare = bare.replace(",", ".")
    try:
        return float(bare)
    except ValueError as error:
        raise TableError(f"'{cell[:20]}' is not a number.", line, index) from error
