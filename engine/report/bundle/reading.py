"""From a visit bundle (JSON) to rounds the engine can assess. Every error names the field it is about."""

import json
from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import cache
from itertools import accumulate
from operator import add
from pathlib import Path
from typing import Any

from jsonschema import Draft202012Validator
from jsonschema.exceptions import ValidationError, best_match
from jsonschema_rs import Validator, validator_for

from engine.errors import EngineError
from engine.houserules.rules import choose
from engine.physics.airflow.blower_table import BlowerTable
from engine.physics.water.exchanger import Grid
from engine.readings.entry import Accepted, Refused, check_entry
from engine.readings.round import Equipment, Instrument, NotPossible, Reading, RoomDuct, Round
from engine.report.entry_words import entry_said
from engine.report.words import FAHRENHEIT
from engine.units import to_engine

SCHEMA = Path(__file__).with_name("visit.schema.json")


class BundleError(EngineError):
    """A bundle that cannot be read: the field's path and what is wrong with it."""

    def __init__(self, field: str, message: str):
        self.field = field
        super().__init__(message)


@dataclass(frozen=True)
class Before:
    """An earlier visit of the machine, as `engine.kinds.machine.Earlier` before it is worked out."""

    years: float
    round: Round
    sound: bool
    changed: bool


@dataclass(frozen=True)
class Visit:
    """A visit as read from a bundle: its named rounds in order, and the sealed baseline round if there is one. system:
    which machine; sound, confirmed: what learning goes by; earlier: the machine's visits since its baseline.
    """

    name: str
    rounds: list[tuple[str, Round]]
    baseline: Round | None
    system: str = ""
    sound: bool = False
    confirmed: bool = False
    earlier: tuple[Before, ...] = ()


def visit_of(bundle: Any) -> Visit:
    """The visit in a bundle, which may be anything that JSON can say; raises BundleError."""
    if not _quick_validator().is_valid(bundle):
        error = _first_fault(bundle)
        if error:
            raise BundleError(_path(error.absolute_path), error.message)
    done = accumulate((tuple(r.get("actions", ())) for r in bundle["rounds"]), add)
    named = [
        (r.get("name", f"round {n}"), replace(_round(bundle, r, f"rounds.{n - 1}"), done=so_far))
        for n, (r, so_far) in enumerate(zip(bundle["rounds"], done, strict=True), start=1)
    ]
    baseline = _round(bundle, bundle["baseline"], "baseline") if "baseline" in bundle else None
    earlier = tuple(
        Before(
            raw["years"],
            _round(bundle, raw["round"], f"earlier.{n}.round"),
            raw.get("sound", False),
            raw.get("changed", False),
        )
        for n, raw in enumerate(bundle.get("earlier", []))
    )
    told = (bundle.get("system", ""), bundle.get("sound", False), bundle.get("confirmed", False))
    return Visit(bundle.get("name", ""), named, baseline, *told, earlier)


def _round(bundle: dict[str, Any], raw: dict[str, Any], path: str) -> Round:
    altitude = bundle["site"]["altitude"]
    instruments = tuple(Instrument(**instrument) for instrument in bundle.get("instruments", []))
    try:
        rules = choose(bundle.get("house_rules", {}))
    except EngineError as fault:
        raise BundleError("house_rules", str(fault)) from fault
    return Round(
        equipment=_equipment(bundle["equipment"]),
        altitude_ft=_engine_value("site.altitude", altitude["value"], altitude["unit"], "length"),
        readings=_readings(raw["readings"], f"{path}.readings", {i.id for i in instruments}),
        observations=raw.get("observations", {}),
        instruments=instruments,
        climate=bundle["site"].get("climate"),
        rules=rules,
        mode=raw.get("mode", "cooling"),
        not_possible=tuple(
            NotPossible(n["place"], n["because"], n.get("quantity", "")) for n in raw.get("not_possible", [])
        ),
    )


# table -> what its rows and columns are
_GRIDS = {
    "performance_table": ("return wet bulb", "outdoor temperature"),
    "drop_table": ("GPM", "entering water"),
    "heat_table": ("entering water", "GPM"),
    "extraction_table": ("entering water", "GPM"),
    "superheat_table": ("outdoor temperature", "return wet bulb"),
}


def _equipment(raw: dict[str, Any]) -> Equipment:
    given, model = dict(raw), raw.get("model", "")
    try:
        for name, (rows, columns) in _GRIDS.items():
            if name in given:
                table = given[name]
                unit = "kW_heat" if table.get("unit") == "kW" else "BTU/h"
                heat = name in ("performance_table", "heat_table", "extraction_table")
                values = tuple(tuple(to_engine(v, unit, "heat") if heat else v for v in row) for row in table["values"])
                given[name] = Grid(model, rows, tuple(table["rows"]), columns, tuple(table["columns"]), values)
        if "blower_table" in given:
            taps = {tap: tuple(tuple(row) for row in rows) for tap, rows in given["blower_table"].items()}
            given["blower_table"] = BlowerTable(model, taps, raw.get("blower_motor", "unknown"))
    except EngineError as fault:
        raise BundleError("equipment", str(fault)) from fault
    if "rooms" in given:
        given["rooms"] = tuple(RoomDuct(**room) for room in given["rooms"])
    return Equipment(**given)


def _readings(items: list[dict[str, Any]], path: str, instruments: set[str]) -> tuple[Reading, ...]:
    readings = []
    for index, item in enumerate(items):
        field = f"{path}.{index}"
        answer = check_entry(item["place"], item["quantity"], f"{item['value']:.10f}", item["unit"], confirmed=True)
        if isinstance(answer, Accepted):
            value = answer.value
        elif isinstance(answer, Refused) and answer.value is not None:
            value = answer.value  # outside what can be read: left out later, by name
        else:
            said = entry_said(answer, FAHRENHEIT)
            raise BundleError(f"{field}.value", f"{said.message} {said.hint}".strip())
        if item.get("instrument") and item["instrument"] not in instruments:
            raise BundleError(
                f"{field}.instrument", f"instrument '{item['instrument']}' is not among the bundle's instruments"
            )
        more = {key: item[key] for key in _OF_A_READING if item.get(key) is not None}
        readings.append(Reading(item["place"], item["quantity"], value, **more))
    return tuple(readings)


_OF_A_READING = ("instrument", "method", "plane", "leg", "spot", "source", "steady", "swing")


def _engine_value(field: str, value: float, unit: str, kind: str) -> float:
    try:
        return to_engine(value, unit, kind)
    except EngineError as fault:
        raise BundleError(f"{field}.unit", str(fault)) from fault


@cache
def _quick_validator() -> Validator:
    return validator_for(json.loads(SCHEMA.read_text()))


def _first_fault(bundle: Any) -> ValidationError | None:
    """What is wrong, said best; slower than whether anything is."""
    return best_match(Draft202012Validator(json.loads(SCHEMA.read_text())).iter_errors(bundle))  # type: ignore[no-untyped-call]


def _path(parts: Iterable[object]) -> str:
    return ".".join(str(part) for part in parts) or "(top level)"
