"""What one typed reading alone can get wrong: text, a limit, an instrument's range, °C in a °F field."""

import re
from dataclasses import dataclass

from engine.errors import EngineError
from engine.physics.refrigerant.properties import REFRIGERANTS
from engine.physics.refrigerant.properties import refrigerant as refrigerant_tables
from engine.readings.vocabulary import CELSIUS_LOOKALIKES_F, QUANTITIES, limits_at, quantities_at
from engine.units import OZ_PER_KG, OZ_PER_LB, to_engine


@dataclass(frozen=True)
class Accepted:
    """A reading that can be taken: its value in the engine's unit."""

    value: float


@dataclass(frozen=True)
class Refused:
    """A reading that is impossible alone: an id (words: engine.report.entry_words), what was typed, its quantity, and
    numbers in the engine's unit.

    ids: no_such_reading, not_a_number, unknown_unit, not_a_humidity, outside, outside_instrument.
    """

    id: str
    text: str
    quantity: str
    place: str = ""
    value: float | None = None
    low: float | None = None
    high: float | None = None


@dataclass(frozen=True)
class Asked:
    """A reading that may be in another unit than its field: the number, the unit it looks like first, then the one it
    was typed in.
    """

    number: float
    quantity: str
    units: tuple[str, ...]


def check_entry(
    place: str,
    quantity: str,
    text: str,
    unit: str,
    confirmed: bool = False,
    instrument_range: tuple[float, float] | None = None,
    kind: str = "",
    refrigerant: str = "",
) -> Accepted | Refused | Asked:
    """Judge one reading as typed.

    unit: a code of engine.units. confirmed: the person has said that the unit is right, so °C is not asked about.
    instrument_range: what the instrument can show, in the engine's unit of the quantity, or None. kind: of equipment; a
    heat pump is tested in the cold too, so that 36 °F outdoors is no cause to ask. refrigerant: a gauge pressure that
    fits it in another unit only is asked about.
    """
    if quantity not in quantities_at(place):
        return Refused("no_such_reading", text, quantity, place)
    what, number, (low, high) = QUANTITIES[quantity], _number(text), limits_at(place, quantity)
    if number is None:
        return Refused("not_a_number", text, quantity)
    try:
        value = to_engine(number, unit, what.kind)
    except EngineError as error:
        return Refused("unknown_unit", str(error), quantity)
    other = "" if confirmed else _other_unit_of_pressure(place, number, unit, refrigerant)
    if other:
        return Asked(number, quantity, (other, unit))
    lookalike = None if (kind, place) == ("heat_pump", "outdoor") else CELSIUS_LOOKALIKES_F.get((place, quantity))
    if unit == "degF" and not confirmed and lookalike and lookalike[0] <= number <= lookalike[1]:
        return Asked(number, quantity, ("degC", "degF"))
    if unit == "degC" and not confirmed and not low <= value <= high and low <= number <= high:
        return Asked(number, quantity, ("degF", "degC"))
    if not low <= value <= high:
        return Refused("not_a_humidity" if quantity == "rh" else "outside", text, quantity, place, value, low, high)
    if instrument_range and not instrument_range[0] <= value <= instrument_range[1]:
        return Refused("outside_instrument", text, quantity, place, value, *instrument_range)
    return Accepted(value)


# What a running machine evaporates and condenses at [°F] (working figures, wider than any fault).
_SATURATIONS_F = {"gauge_suction": ("dew", -30.0, 75.0), "gauge_liquid": ("bubble", 35.0, 150.0)}
_UNITS_OF_PRESSURE = ("psi", "kPa", "bar")
_SEA_LEVEL_PSIA = 14.696  # near enough to tell one unit from another


def _other_unit_of_pressure(place: str, number: float, unit: str, name: str) -> str:
    """The unit in which a gauge pressure fits the refrigerant, where it does not in its own; '' else."""
    if place not in _SATURATIONS_F or name not in REFRIGERANTS:
        return ""
    side, low, high = _SATURATIONS_F[place]

    def fits(code: str) -> bool:
        saturation = refrigerant_tables(name).temperature_f(to_engine(number, code, "pressure") + _SEA_LEVEL_PSIA, side)
        return bool(low <= saturation <= high)

    if fits(unit):
        return ""
    return next((code for code in _UNITS_OF_PRESSURE if code != unit and fits(code)), "")


_WEIGHTS_OZ = {"oz": 1.0, "lb": OZ_PER_LB, "kg": OZ_PER_KG, "g": OZ_PER_KG / 1000}
_WEIGHT = re.compile(
    r"(?P<whole>[0-9]+([.,][0-9]*)?)\s*(?P<unit>oz|lb|kg|g)?(\s*(?P<rest>[0-9]+([.,][0-9]*)?)\s*(oz)?)?"
)


def ounces(text: str) -> float | None:
    """A weight as a scale shows it, in ounces: '14 lb 2.5', '14 lb 2.5 oz', '226.5 oz', '6.42 kg'; a bare number is
    ounces. None for anything else.
    """
    found = _WEIGHT.fullmatch(text.strip().lower())
    if found is None or (found["rest"] and found["unit"] != "lb"):
        return None
    whole, rest = (float((found[name] or "0").replace(",", ".")) for name in ("whole", "rest"))
    return whole * _WEIGHTS_OZ[found["unit"] or "oz"] + rest


_THOUSANDS = re.compile(r"[0-9]{1,3}(,[0-9]{3})+(\.[0-9]*)?")
_PLAIN = re.compile(r"[+-]?([0-9]+[.,]?[0-9]*|[.,][0-9]+)")


def _number(text: str) -> float | None:
    """A typed number: '72.4', '72,4', '1,200'; None for anything else."""
    text = text.strip()
    if _THOUSANDS.fullmatch(text):
        return float(text.replace(",", ""))
    return float(text.replace(",", ".")) if _PLAIN.fullmatch(text) else None
