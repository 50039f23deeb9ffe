"""Customers and systems from a spreadsheet: what a file says, row by row, what would be made of it, and what is in
doubt. Nothing is kept here.
"""

import csv
import io
import re
from collections.abc import Callable, Iterator
from dataclasses import asdict, dataclass, field

from web.accounts.models import Shop
from web.houses.forms import HouseForm, SystemForm
from web.houses.models import (
    BLOWER_MOTORS,
    INDOOR_PLACES,
    KINDS,
    LOOP_FLUIDS,
    LOOPS,
    METERING_DEVICES,
    STAGES,
    UNITS,
    House,
    System,
)

MOST_ROWS, MOST_BYTES = 5_000, 4 * 2**20
NEW, KNOWN, WRONG = "new", "known", "wrong"
M_PER_FT = 0.3048
HOUSE = {
    "name": ("street", "street and number", "address", "house", "site"),
    "customer": ("customer", "name", "customer name", "owner"),
    "altitude_ft": ("altitude", "altitude ft", "elevation", "elevation ft"),
    "climate": ("climate",),
    "weather_place": ("weather", "weather place", "town", "city"),
    "access_note": ("access", "access note", "how to get in", "note"),
}
SYSTEM = {
    "name": ("system", "which system", "unit name", "zone"),
    "kind": ("kind", "type"),
    "nominal_tons": ("tons", "nominal tons", "size"),
    "capacity_btuh": ("capacity", "capacity btu/h", "btu/h", "btuh"),
    "refrigerant": ("refrigerant",),
    "metering_device": ("metering", "metering device"),
    "seer": ("seer", "efficiency", "eer"),
    "unit": ("indoor unit", "unit"),
    "indoor_place": ("stands in", "indoor place"),
    "stages": ("stages", "compressor", "compressor stages"),
    "model": ("model", "outdoor model"),
    "line": ("line", "maker's line"),
    "serial": ("serial", "outdoor serial", "serial number"),
    "indoor_model": ("indoor model",),
    "indoor_serial": ("indoor serial",),
    "year": ("year", "year made"),
    "factory_charge_oz": ("factory charge", "charge oz", "factory charge oz"),
    "target_subcooling_f": ("target subcooling", "subcooling", "target subcooling f"),
    "compressor_rla": ("rla", "compressor rla"),
    "outdoor_fan_fla": ("fla", "fan fla", "outdoor fan fla"),
    "blower_motor": ("blower motor", "motor"),
    "tap": ("tap", "blower tap"),
    "rating_static_inwc": ("maximum static", "rating static", "max esp"),
    "line_length_ft": ("line length", "line length ft"),
    "loop": ("water from", "loop"),
    "loop_fluid": ("loop fluid",),
}
CHOICES = {
    "kind": KINDS, "metering_device": METERING_DEVICES, "unit": UNITS, "indoor_place": INDOOR_PLACES, "stages": STAGES,
    "blower_motor": BLOWER_MOTORS, "loop": LOOPS, "loop_fluid": LOOP_FLUIDS,
    "climate": {"humid": "Humid", "dry": "Dry"},
}  # fmt: skip
USUAL = {
    "kind": "air_conditioner", "metering_device": "unknown", "blower_motor": "unknown", "unit": "air_handler",
    "loop_fluid": "water",
}  # fmt: skip
# Units that a column's head may name, by how its values become ours.
IN_UNITS: dict[str, Callable[[float], float]] = {
    "altitude m": lambda m: m / M_PER_FT,
    "elevation m": lambda m: m / M_PER_FT,
    "target subcooling c": lambda c: c * 1.8,
    "subcooling c": lambda c: c * 1.8,
    "target subcooling k": lambda k: k * 1.8,
    "line length m": lambda m: m / M_PER_FT,
    "factory charge g": lambda g: g / 28.349523125,
    "factory charge kg": lambda kg: kg / 0.028349523125,
    "capacity kw": lambda kw: kw * 3412.142,
}


class FileRefused(ValueError):
    """Why nothing of a file is shown, in words."""


@dataclass
class Row:
    """A row of the file: what it says of a house and of a system ({} where it says nothing), and what becomes of it:
    'new', 'known' (says: what is here already) or 'wrong' (says: why).
    """

    line: int
    house: dict[str, str]
    system: dict[str, str]
    becomes: str = NEW
    says: list[str] = field(default_factory=list)

    def kept(self) -> dict:
        """As it waits for a yes."""
        return asdict(self)


@dataclass(frozen=True)
class Read:
    """A file as it was understood: its rows, and the columns that mean nothing here."""

    rows: list[Row]
    left_out: list[str]


def read(shop: Shop, user, content: bytes) -> Read:
    """What a file of a shop's customers and systems says, each row checked as if it were typed, and held against what
    is here. Raises FileRefused.
    """
    heads, lines = _cells(content)
    columns, left_out = _columns(heads)
    if not any(of is HOUSE and name == "name" for of, name, _ in columns.values()):
        raise FileRefused("No column is called Street. Its first line has to name the columns.")
    rows = list(_rows(columns, lines, len(heads)))
    _check(shop, user, rows)
    return Read(rows, left_out)


def _cells(content: bytes) -> tuple[list[str], list[tuple[int, list[str]]]]:
    """The first line, and the others with their numbers; empty ones are passed by."""
    if len(content) > MOST_BYTES:
        raise FileRefused("The file has more than 4 MB: split it.")
    text = _text(content)
    if "\0" in text:
        raise FileRefused("This is no CSV. Save the sheet as CSV first.")
    first = text.split("\n", 1)[0]
    separator = max(";\t,", key=first.count)
    try:
        lines = [(n, row) for n, row in enumerate(csv.reader(io.StringIO(text), delimiter=separator), 1) if any(row)]
    except csv.Error as error:
        raise FileRefused(f"This is no CSV: {error}.") from error
    if len(lines) < 2:
        raise FileRefused("There is nothing under the first line.")
    if len(lines) - 1 > MOST_ROWS:
        raise FileRefused(f"At most {MOST_ROWS} rows at once: split it.")
    return lines[0][1], lines[1:]


def _text(content: bytes) -> str:
    """As text, in the encodings that spreadsheets write."""
    if content[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return content.decode("utf-16", "replace")
    try:
        return content.decode("utf-8-sig")
    except UnicodeDecodeError:
        return content.decode("cp1252", "replace")


def _columns(heads: list[str]) -> tuple[dict[int, tuple[dict, str, Callable | None]], list[str]]:
    """By place in a row: whose column it is, its name, and what makes its values ours; and the heads left out."""
    known = {alias: (of, name) for of in (HOUSE, SYSTEM) for name, aliases in of.items() for alias in aliases}
    found: dict[int, tuple[dict, str, Callable | None]] = {}
    left_out: list[str] = []
    for place, head in enumerate(heads):
        plain = re.sub(r"[^a-z0-9/' ]+", " ", head.lower().replace("°", " ")).strip()
        plain = re.sub(r"\s+", " ", plain)
        of = known.get(plain) or known.get(re.sub(r" (f|ft|oz|a|in w c|tons|m|c|k|g|kg|kw)$", "", plain))
        if of is None:
            left_out.append(head.strip() or f"column {place + 1}")
        elif of not in [(whose, name) for whose, name, _ in found.values()]:
            found[place] = (*of, IN_UNITS.get(plain))
    return found, left_out


def _rows(columns: dict, lines: list[tuple[int, list[str]]], width: int) -> Iterator[Row]:
    """Each row; one without a street is of the house above it."""
    above: dict[str, str] = {}
    for line, cells in lines:
        row = Row(line, {}, {})
        for place, (of, name, ours) in columns.items():
            given = cells[place].strip() if place < len(cells) else ""
            if given:
                (row.house if of is HOUSE else row.system)[name] = _ours(name, given, ours)
        if len(cells) > width and any(cell.strip() for cell in cells[width:]):
            row.becomes, row.says = WRONG, ["It has more cells than the first line: is a comma inside a value?"]
        if "name" not in row.house and above and row.system:
            row.house = above
        above = row.house or above
        yield row


def _ours(name: str, given: str, ours: Callable | None) -> str:
    """A value as its form takes it: a choice by its label, another unit as ours."""
    if name in CHOICES:
        labels = {label.casefold(): id_ for id_, label in CHOICES[name].items()}
        return labels.get(given.casefold(), given)
    if ours is None:
        return given
    try:
        return f"{ours(float(given.replace(',', '.'))):.6g}"
    except ValueError:
        return given


def _check(shop: Shop, user, rows: list[Row]) -> None:
    """Say of each row whether it is new, here already, or wrong, and why."""
    houses = {_plain(house.name): house for house in House.objects.visible_to(user).filter(is_practice=False)}
    systems = System.objects.visible_to(user).filter(house__is_practice=False).select_related("house")
    serials = {row.serial.casefold(): row for row in systems if row.serial}
    names = {(row.house_id, row.name.casefold()): row for row in systems}
    seen: dict[tuple, int] = {}
    for row in rows:
        if row.becomes != WRONG:
            row.says = [*_wrong(shop, row, houses)]
            row.becomes = WRONG if row.says else NEW
        if row.becomes == NEW:
            here = _here(row, houses, serials, names)
            row.becomes, row.says = (KNOWN, [here]) if here else (NEW, [])
        if row.becomes == NEW:
            what = (_plain(row.house["name"]), row.system.get("name", "").casefold())
            if what in seen:
                row.becomes, row.says = KNOWN, [f"The same as line {seen[what]}."]
            seen.setdefault(what, row.line)


def house_of(shop: Shop, says: dict[str, str]) -> House:
    """A new house as a checked row says it; what it does not say is as usual in the shop."""
    return _house_form(shop, says).save(commit=False)


def system_of(house: House, says: dict[str, str]) -> System:
    """A new system of a house as a checked row says it."""
    system = _system_form(says).save(commit=False)
    system.house = house
    return system


def _house_form(shop: Shop, says: dict[str, str]) -> HouseForm:
    usual = {"altitude_ft": shop.altitude_ft, "climate": shop.climate, "weather_place": shop.weather_place}
    return HouseForm({**{name: value for name, value in usual.items() if value is not None}, **says})


def _system_form(says: dict[str, str]) -> SystemForm:
    return SystemForm({**USUAL, "name": "main", **says})


def _wrong(shop: Shop, row: Row, houses: dict[str, House]) -> Iterator[str]:
    if "name" not in row.house:
        yield "No street: a house needs an address to be found by."
        return
    if _plain(row.house["name"]) not in houses:
        yield from _errors(_house_form(shop, row.house))
    if row.system:
        yield from _errors(_system_form(row.system))


def _errors(form) -> Iterator[str]:
    for name, errors in form.errors.items():
        label = form.fields[name].label if name in form.fields else ""
        yield f"{label}: {' '.join(errors)}" if label else " ".join(errors)


def _here(row: Row, houses: dict, serials: dict, names: dict) -> str:
    """What of a row is here already, in words; '' for nothing."""
    serial = row.system.get("serial", "").casefold()
    if serial and serial in serials:
        return f"A system with this serial is here: {serials[serial]}."
    house = houses.get(_plain(row.house["name"]))
    if house is not None and not row.system:
        return "This house is here."
    name = row.system.get("name", "main").casefold()
    if house is not None and (house.pk, name) in names:
        return f"{names[house.pk, name]} is here."
    return ""


def _plain(street: str) -> str:
    return re.sub(r"[\s.,]+", " ", street).strip().casefold()
