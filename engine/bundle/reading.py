"""From a visit bundle (JSON) to rounds the engine can assess. Every error names the field it is about."""

import json
from functools import cache
from pathlib import Path

from jsonschema import Draft202012Validator
from jsonschema.exceptions import best_match

from engine.errors import EngineError
from engine.houserules.rules import choose
from engine.readings.entry import Accepted, check_entry
from engine.readings.round import Equipment, Instrument, Reading, Round
from engine.units import to_engine

SCHEMA = Path(__file__).with_name("visit.schema.json")


class BundleError(EngineError):
    """A bundle that cannot be read: the field's path and what is wrong with it."""

    def __init__(self, field: str, message: str):
        self.field = field
        super().__init__(message)


def rounds_of(bundle: object) -> list[tuple[str, Round]]:
    """The named rounds of a bundle; raises BundleError."""
    error = best_match(_validator().iter_errors(bundle))
    if error:
        raise BundleError(_path(error.absolute_path), error.message)
    altitude = bundle["site"]["altitude"]
    altitude_ft = _engine_value("site.altitude", altitude["value"], altitude["unit"], "length")
    instruments = tuple(Instrument(**instrument) for instrument in bundle.get("instruments", []))
    try:
        rules = choose(bundle.get("house_rules", {}))
    except EngineError as fault:
        raise BundleError("house_rules", str(fault)) from fault
    return [
        (
            round_.get("name", f"round {number}"),
            Round(
                equipment=Equipment(**bundle["equipment"]),
                altitude_ft=altitude_ft,
                readings=_readings(round_["readings"], f"rounds.{number - 1}.readings", {i.id for i in instruments}),
                observations=round_.get("observations", {}),
                instruments=instruments,
                climate=bundle["site"].get("climate"),
                rules=rules,
            ),
        )
        for number, round_ in enumerate(bundle["rounds"], start=1)
    ]


def _readings(items: list[dict], path: str, instruments: set[str]) -> tuple[Reading, ...]:
    readings = []
    for index, item in enumerate(items):
        field = f"{path}.{index}"
        answer = check_entry(item["place"], item["quantity"], f"{item['value']:.10f}", item["unit"], confirmed=True)
        if not isinstance(answer, Accepted):
            raise BundleError(f"{field}.value", f"{answer.message} {answer.hint}".strip())
        if item.get("instrument") and item["instrument"] not in instruments:
            raise BundleError(f"{field}.instrument", f"instrument '{item['instrument']}' is not among the bundle's instruments")
        named = {key: item.get(key) for key in ("instrument", "method", "plane")}
        readings.append(Reading(item["place"], item["quantity"], answer.value, **named))
    return tuple(readings)


def _engine_value(field: str, value: float, unit: str, kind: str) -> float:
    try:
        return to_engine(value, unit, kind)
    except EngineError as fault:
        raise BundleError(f"{field}.unit", str(fault)) from fault


@cache
def _validator() -> Draft202012Validator:
    return Draft202012Validator(json.loads(SCHEMA.read_text()))


def _path(parts) -> str:
    return ".".join(str(part) for part in parts) or "(top level)"
