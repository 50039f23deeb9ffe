"""What can be read, seen and done, and how one typed value is judged alone."""

from dataclasses import dataclass

from engine.constants import WEATHER_SERVICE_ACCURACY
from engine.diagnosis.actions import BY_ID as ACTIONS
from engine.over_time.upkeep import modes_of, next_test
from engine.physics.airflow.methods import ASK_THE_PLANE, METHODS, PLANES, nominal_guess_cfm
from engine.readings.closing import last_looks
from engine.readings.entry import Accepted, check_entry
from engine.readings.observations import BY_ID as SIGHTS
from engine.readings.observations import OBSERVATIONS, Sight, sights
from engine.readings.ports import GAUGE_PLACES as PLACE_BY_SIDE
from engine.readings.ports import checks, ports
from engine.readings.round import GAUGES as GAUGE_PLACES
from engine.readings.vocabulary import QUANTITIES, ROOM, quantities_at
from engine.readings.walk import (
    GAUGES,
    MOST_STEPS,
    NOT_POSSIBLE,
    STEP_VARIANTS,
    VARIANTS,
    Slot,
    Stop,
    charge_stop,
    side_of,
    walk,
)
from engine.report.cautions import BY_ID as CAUTIONS
from engine.report.cautions import MILDLY_FLAMMABLE, PREVAIL, for_equipment
from engine.report.entry_words import entry_said
from engine.units import UNITS
from web.shell.bridge import words

__all__ = [
    "ACTIONS",
    "CAUTIONS",
    "GAUGES",
    "GAUGE_PLACES",
    "METHODS",
    "MOST_STEPS",
    "NOT_POSSIBLE",
    "OBSERVATIONS",
    "PLANES",
    "PREVAIL",
    "QUANTITIES",
    "ROOM",
    "SIGHTS",
    "STEP_VARIANTS",
    "UNITS",
    "Sight",
    "Slot",
    "Stop",
    "charge_stop",
    "last_looks",
    "modes_of",
    "next_test",
    "ports",
    "side_of",
    "sights",
    "walk",
]
GAUGE_SIDES = tuple(PLACE_BY_SIDE)  # low, high
SERVICE_WITHIN_F = WEATHER_SERVICE_ACCURACY.value
SYSTEM_SLOTS = (Slot("system", "running_time"), Slot("system", "time_available"))  # the clocks: of no stop of the walk
# The tap in use, in the words of the machine's own table; the action that changes it.
TAP, SPEED_SET, NOTHING_DONE = "blower_tap", "blower_speed_set", "nothing_done"
IN_CELSIUS = {"degF": "degC", "degF_diff": "degC_diff"}  # what a person who reads °C types, by the engine's unit
ASKS_THE_PLANE = ("flow_device", *ASK_THE_PLANE)  # ways to an airflow whose plane the person says


@dataclass(frozen=True)
class Checked:
    """One typed value after the engine's check: its value, or a message,
    or a question with the units to choose from.
    """

    value: float | None = None
    message: str = ""
    hint: str = ""
    units: tuple[str, ...] = ()


def check(place: str, quantity: str, typed: str, unit: str, confirmed: bool, instrument=None, system=None) -> Checked:
    """Judge one typed value. instrument: a row of houses.Instrument, or None; system: what it was read at."""
    limits = None
    if (
        instrument
        and instrument.lowest_f is not None
        and quantity in ("dry_bulb", "wet_bulb", "dew_point", "temperature")
    ):
        limits = (instrument.lowest_f, instrument.highest_f)
    kind, refrigerant = (system.kind, system.refrigerant) if system else ("", "")
    answer = check_entry(place, quantity, typed, unit, confirmed, limits, kind, refrigerant)
    if isinstance(answer, Accepted):
        return Checked(value=answer.value)
    said = entry_said(answer, words())
    return Checked(message=said.message, hint=said.hint, units=said.units)


def sign_of(unit: str) -> str:
    """A unit as printed; a code that is not known as it is."""
    return UNITS[unit].sign if unit in UNITS else unit


def slot_of(quantity: str, variant: str = "") -> str:
    """The slot a quantity fills at its place; '' when the quantity is unknown."""
    base = QUANTITIES[quantity].slot if quantity in QUANTITIES else ""
    return f"{base}@{variant}" if base and variant else base


def is_observation(seen: str, degree: str) -> bool:
    """Whether the vocabulary has this observation in this degree. A caution read is an observation of its own."""
    if seen.startswith("caution:"):
        return seen.removeprefix("caution:") in CAUTIONS and degree == "read"
    return degree in OBSERVATIONS.get(seen, {})


def is_place(place: str, quantity: str) -> bool:
    """Whether this quantity is read at this place."""
    return quantity in quantities_at(place)


def is_variant(place: str, quantity: str, variant: str) -> bool:
    """Whether there is this one of several: a leg, an airflow method, a traverse point; '' for the only one."""
    if (place, quantity) == ("blower", "airflow"):
        return variant in METHODS
    return variant in ("", *VARIANTS.get((place, quantity), ()))


def asks_the_plane(place: str, quantity: str) -> bool:
    """Whether a reading says in which air it was taken."""
    return (place, quantity) in (("blower", "airflow"), ("traverse", "gross_area"))


def guess_cfm(system) -> float:
    """The stated guess for a system [CFM]."""
    return nominal_guess_cfm(system.nominal_tons)


def checks_before_connecting(refrigerant: str) -> dict[str, str]:
    """What is seen to before a hose is connected, by id."""
    return checks(refrigerant in MILDLY_FLAMMABLE)


def machine_cautions(refrigerant: str, seen: dict[str, str]) -> tuple:
    """The cautions the machine itself calls for."""
    return for_equipment(refrigerant, seen)
