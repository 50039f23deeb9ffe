"""Rows of houses into the engine's equipment; pasted tables and plates judged by the engine."""

from dataclasses import dataclass
from typing import Any

from engine.errors import EngineError
from engine.expected.lines import class_of
from engine.readings import nameplate
from engine.readings.round import TXV, Equipment, RoomDuct
from engine.readings.tables import understood
from engine.readings.tables.paste import TableError, read_paste
from engine.readings.vocabulary import GROUND_SOURCE
from engine.report.charts.blower import BlowerChart
from engine.report.plate_words import defaults_said, plate_finding_said
from web.shell.bridge import words

TABLE_KINDS, TABLE_OF_TAPS = understood.KINDS, understood.BLOWER
__all__ = ["TABLE_KINDS", "BlowerChart", "TableError"]
_GRIDS = {
    "performance": "performance_table",
    "drop": "drop_table",
    "heat": "heat_table",
    "extraction": "extraction_table",
    "superheat": "superheat_table",
}


@dataclass(frozen=True)
class PlateSays:
    """What a plate contradicts in itself (field -> sentences) and what is taken where it is silent."""

    findings: dict[str, list[str]]
    defaults: tuple[str, ...]


def equipment(system, tables: dict, rooms) -> Equipment:
    """A system's row with its newest tables (kind -> row) and its rooms. A table that no longer reads is left out, as
    if not entered.
    """
    given: dict[str, Any] = {}
    for kind, row in tables.items():
        try:
            pasted = read_paste(row.text)
            if kind == understood.BLOWER:
                given["blower_table"] = understood.blower_table(system.model, pasted, system.blower_motor)
            elif kind in _GRIDS:
                given[_GRIDS[kind]] = understood.grid(system.model, kind, pasted)
        except EngineError:
            continue
    return Equipment(
        nominal_tons=system.nominal_tons,
        kind=system.kind,
        metering_device=system.metering_device,
        blower_motor=system.blower_motor,
        model=system.model,
        line=system.line,
        refrigerant=system.refrigerant,
        seer=system.seer,
        target_subcooling_f=system.target_subcooling_f,
        compressor_rla=system.compressor_rla,
        outdoor_fan_fla=system.outdoor_fan_fla,
        unit=system.unit,
        stages=system.stages,
        rating_static_inwc=system.rating_static_inwc,
        tap=system.tap or None,
        heating_btuh_47=system.heating_btuh_47,
        heating_btuh_17=system.heating_btuh_17,
        loop=system.loop,
        design_gpm=system.design_gpm,
        loop_fluid=system.loop_fluid or "water",
        loop_share=(system.loop_share_pct or 0.0) / 100.0,
        rooms=tuple(RoomDuct(room.name, room.diameter_in, room.duct, room.wants_cfm) for room in rooms),
        **given,
    )


def table_kinds(system) -> list[understood.TableKind]:
    """The kinds of table that the maker of this machine may give: a blower table first, water's for ground source, a
    superheat chart for what is not known to have a TXV.
    """
    if system.kind == GROUND_SOURCE:
        ids = [understood.BLOWER, understood.DROP, understood.HEAT, understood.EXTRACTION]
    else:
        ids = [understood.BLOWER, understood.PERFORMANCE]
        ids += [understood.SUPERHEAT] if system.metering_device != TXV else []
    return [TABLE_KINDS[id_] for id_ in ids]


def plate_says(plate: Equipment, year: int | None) -> PlateSays:
    """What the engine finds odd about a plate, by field, and the defaults it takes."""
    findings: dict[str, list[str]] = {}
    for found in nameplate.plate_findings(plate, year):
        findings.setdefault(found.field, []).append(plate_finding_said(found))
    return PlateSays(findings, defaults_said(plate, words()))


def tons_of(capacity_btuh: float) -> float:
    """Nominal tons of a capacity [BTU/h]."""
    return nameplate.tons_from_capacity(capacity_btuh)


def efficiency_class(seer: float | None) -> str:
    """The class an efficiency belongs to, in a word; '' when it is not known."""
    try:
        return class_of(seer) if seer else ""
    except EngineError:
        return ""


def understand(kind: str, text: str, system) -> understood.Understood:
    """A pasted table as understood; raises TableError."""
    return understood.understand(kind, text, system.nominal_tons, system.blower_motor)


def taps_of(text: str) -> tuple[str, ...]:
    """The taps a stored blower table names."""
    try:
        return read_paste(text).header
    except EngineError:
        return ()
