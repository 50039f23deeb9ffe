"""From rounds to a visit bundle (JSON): what `reading` reads. Out and in again, the rounds are the same."""

from collections.abc import Sequence
from dataclasses import asdict, fields
from typing import Any

from engine.houserules.rules import DEFAULT, RULES, HouseRules
from engine.physics.water.exchanger import Grid
from engine.readings.round import Equipment, Reading, Round
from engine.readings.vocabulary import QUANTITIES

Json = dict[str, Any]
FORMAT = "ruddy-visit/2"
OF_A_READING = ("instrument", "method", "plane", "leg", "spot", "source", "steady", "swing")
OF_AN_INSTRUMENT = ("label", "dry_bulb_accuracy_f", "rh_accuracy_pct", "line_accuracy_f")


def bundle_of(name: str, system: str, rounds: Sequence[Round], baseline: Round | None = None) -> Json:
    """The bundle of a visit. rounds: in order, of one machine in one house under one set of house rules; baseline: the
    sealed round that they are held to.
    """
    last = rounds[-1]
    site: Json = {"altitude": {"value": last.altitude_ft, "unit": "ft"}}
    if last.climate:
        site["climate"] = last.climate
    found: Json = {
        "format": FORMAT,
        "name": name,
        "system": system,
        "site": site,
        "equipment": _equipment(last.equipment),
        "instruments": _instruments((*rounds, *([baseline] if baseline else []))),
        "house_rules": _choices(last.rules),
        "rounds": [
            _round(round_, f"round {n}", round_.done[len(before.done) :] if before else round_.done)
            for n, (before, round_) in enumerate(zip((None, *rounds), rounds, strict=False), 1)
        ],
    }
    if baseline is not None:
        found["baseline"] = _round(baseline)
    return found


def _instruments(rounds: Sequence[Round]) -> list[Json]:
    by_id = {instrument.id: instrument for round_ in rounds for instrument in round_.instruments}
    return [_given({"id": id_} | {name: getattr(i, name) for name in OF_AN_INSTRUMENT}) for id_, i in by_id.items()]


def _choices(rules: HouseRules) -> Json:
    """What of the house rules differs from the default."""
    chosen = {rule.id: getattr(rules, rule.id) for rule in RULES}
    return {name: value for name, value in chosen.items() if value != getattr(DEFAULT, name)}


def _round(round_: Round, name: str = "", since: Sequence[str] = ()) -> Json:
    """A round. since: what was done since the one before it, by id."""
    found: Json = {
        "readings": [_reading(r) for r in round_.readings],
        "observations": round_.observations,
        "mode": round_.mode,
    }
    if name:
        found["name"] = name
    if since:
        found["actions"] = list(since)
    if round_.not_possible:
        found["not_possible"] = [
            _given({"place": n.place, "because": n.because, "quantity": n.quantity}) for n in round_.not_possible
        ]
    return found


def _reading(r: Reading) -> Json:
    unit = QUANTITIES[r.quantity].unit
    return {"place": r.place, "quantity": r.quantity, "value": r.value, "unit": unit} | _given(
        {name: getattr(r, name) for name in OF_A_READING}
    )


def _equipment(plate: Equipment) -> Json:
    found: Json = {}
    for column in fields(Equipment):
        value = getattr(plate, column.name)
        if value in (None, "", ()):
            continue
        if isinstance(value, Grid):
            found[column.name] = {"rows": value.rows, "columns": value.columns, "values": value.values}
        elif column.name == "blower_table":
            found[column.name] = {tap: [list(point) for point in points] for tap, points in value.taps.items()}
        elif column.name == "rooms":
            found[column.name] = [_given(asdict(room)) for room in value]
        else:
            found[column.name] = value
    return found


def _given(what: Json) -> Json:
    """Without what nobody said."""
    return {name: value for name, value in what.items() if value not in (None, "", 0.0)}
