"""Rows into engine objects, results into rows: the only file of the sheet that meets the engine.

(The renderers of the engine's charts and marks, web.visits.drawing, take its data as it is.)
"""

from dataclasses import dataclass

from engine.airflow.methods import METHODS, PLANES, nominal_guess_cfm
from engine.assessment.assess import assess
from engine.assessment.result import RoundResult
from engine.bundle.answer import answer_of
from engine.charts.psychrometric import Chart, chart_of
from engine.readings.entry import Accepted, Asked, check_entry
from engine.readings.round import Equipment, Instrument, Reading, Round
from engine.readings.vocabulary import OBSERVATIONS, QUANTITIES
from engine.units import UNITS
from web.visits.models import Assessment

__all__ = ["METHODS", "OBSERVATIONS", "PLANES", "QUANTITIES", "UNITS", "Assessed", "Checked"]  # the vocabulary the sheet shows


@dataclass(frozen=True)
class Checked:
    """One typed value after the engine's check: its value, or a message, or a question with the units to choose from."""

    value: float | None = None
    message: str = ""
    hint: str = ""
    units: tuple[str, ...] = ()


@dataclass(frozen=True)
class Assessed:
    """A round with its result and its chart."""

    round: Round
    result: RoundResult
    chart: Chart


def check(place: str, quantity: str, typed: str, unit: str, confirmed: bool, instrument=None) -> Checked:
    """Judge one typed value. instrument: a row of houses.Instrument, or None."""
    limits = None
    if instrument and quantity in ("dry_bulb", "wet_bulb", "dew_point"):
        limits = (instrument.lowest_f, instrument.highest_f)
    answer = check_entry(place, quantity, typed, unit, confirmed, limits)
    if isinstance(answer, Accepted):
        return Checked(value=answer.value)
    if isinstance(answer, Asked):
        return Checked(message=answer.question, units=answer.units)
    return Checked(message=answer.message, hint=answer.hint)


def slot_of(quantity: str) -> str:
    """The slot a quantity fills at its place; '' when the quantity is unknown."""
    return QUANTITIES[quantity].slot if quantity in QUANTITIES else ""


def is_observation(seen: str, degree: str) -> bool:
    """Whether the vocabulary has this observation in this degree."""
    return degree in OBSERVATIONS.get(seen, {})


def is_method(method: str) -> bool:
    """Whether this is a known way to an airflow."""
    return method in METHODS


def guess_cfm(system) -> float:
    """The stated guess for a system [CFM]."""
    return nominal_guess_cfm(system.nominal_tons)


def stored_reading(row) -> Reading:
    """A row of visits.Reading as the engine takes it."""
    instrument = str(row.instrument.public_id) if row.instrument else None
    return reading(row.place, row.quantity, row.value, instrument, row.method, row.plane)


def reading(place: str, quantity: str, value: float, instrument_id: str | None, method: str = "", plane: str = "") -> Reading:
    """An engine reading; value in the engine's unit."""
    return Reading(place, quantity, value, instrument_id, method or None, plane or None)


def assessed(system, readings: list[Reading], observations: dict[str, str], instruments) -> Assessed:
    """Assess readings of a system. instruments: rows of houses.Instrument. House rules: the defaults, so far."""
    house = system.house
    round_ = Round(
        equipment=Equipment(system.nominal_tons, system.kind, system.metering_device, system.blower_motor),
        altitude_ft=house.altitude_ft,
        readings=tuple(readings),
        observations=observations,
        instruments=tuple(
            Instrument(str(row.public_id), row.label, row.dry_bulb_accuracy_f, row.rh_accuracy_pct) for row in instruments
        ),
        climate=house.climate or None,
    )
    result = assess(round_)
    return Assessed(round_, result, chart_of(round_, result))


def assessment_row(round_row, assessed_: Assessed, entry_uuids: list[str]) -> Assessment:
    """A result as an unsaved row."""
    result = assessed_.result
    return Assessment(
        round=round_row,
        engine_version=result.engine_version,
        rules_version=result.rules_version,
        kind=result.verdict.kind,
        headline=result.verdict.headline,
        entries=entry_uuids,
        result=answer_of(result),
    )
