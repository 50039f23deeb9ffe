"""Rows into the engine's rounds."""

from dataclasses import replace

from engine.houserules.rules import HouseRules
from engine.readings.observations import OBSERVATIONS
from engine.readings.round import WEATHER_SERVICE, Equipment, Instrument, NotPossible, Reading, Round
from engine.readings.vocabulary import GROUND_SOURCE, QUANTITIES
from engine.report.air_words import mode_said
from web.shell.bridge import words
from web.visits.models import WEATHER

__all__ = ["Equipment", "HouseRules"]


def mode_for(system, outdoor_f: float | None, rules: HouseRules) -> tuple[str, str]:
    """The mode the weather asks for ('cooling' where it does not say) and why, in a sentence."""
    if system.kind == GROUND_SOURCE:
        return "cooling", "The loop decides, not the weather: test in the mode the house wants."
    if outdoor_f is None:
        return "cooling", "The weather decides the mode: read the outdoor air."
    return mode_said(outdoor_f, system.kind == "heat_pump", rules, words())


def stored_reading(row) -> Reading:
    """A row of visits.Reading as the engine takes it."""
    instrument = str(row.instrument.public_id) if row.instrument else None
    found = reading(row.place, row.quantity, row.value, instrument, row.variant, row.plane)
    return replace(found, source=WEATHER_SERVICE if row.source == WEATHER else "", steady=row.steady, swing=row.swing)


def reading(
    place: str, quantity: str, value: float, instrument_id: str | None, variant: str = "", plane: str = ""
) -> Reading:
    """An engine reading; value in the engine's unit. variant: an airflow's method, else the leg or the point."""
    if quantity == "airflow" and place == "blower":
        return Reading(place, quantity, value, instrument_id, method=variant or None, plane=plane or None)
    if quantity == "airflow":
        return Reading(place, quantity, value, instrument_id, method="flow_device")
    return Reading(place, quantity, value, instrument_id, plane=plane or None, leg=variant or None)


def not_possible(rows) -> tuple[NotPossible, ...]:
    """The readings that somebody said cannot be taken. rows: of visits.Reading, without a value, that count."""
    return tuple(NotPossible(row.place, row.reason, row.quantity) for row in rows if row.quantity in QUANTITIES)


def round_of(
    house,
    plate: Equipment,
    readings: list[Reading],
    seen: dict[str, str],
    instruments,
    rules: HouseRules,
    mode: str,
    standing: str = "",
    impossible: tuple[NotPossible, ...] = (),
    done: tuple[str, ...] = (),
) -> Round:
    """A round for the engine. instruments: rows of houses.Instrument; seen: observations, cautions left out; standing:
    inside or outside; done: ids of what was done before it.
    """
    known = tuple(
        Instrument(str(row.public_id), row.label, row.dry_bulb_accuracy_f, row.rh_accuracy_pct, row.line_accuracy_f)
        for row in instruments
    )
    observations = {name: degree for name, degree in seen.items() if degree in OBSERVATIONS.get(name, ())}
    return Round(
        plate,
        house.altitude_ft,
        tuple(readings),
        observations,
        known,
        house.climate or None,
        rules,
        mode,
        standing,
        impossible,
        done,
    )
