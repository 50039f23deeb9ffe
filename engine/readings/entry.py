"""What one typed reading alone can get wrong: text, a limit, an instrument's range, °C in a °F field."""

import re
from dataclasses import dataclass

from engine.errors import EngineError
from engine.readings.vocabulary import CELSIUS_LOOKALIKES_F, QUANTITIES, Quantity, quantities_at
from engine.units import UNITS, f_from_c, to_engine
from engine.wording import in_scale, scale


@dataclass(frozen=True)
class Accepted:
    """A reading that can be taken: its value in the engine's unit."""

    value: float


@dataclass(frozen=True)
class Refused:
    """A reading that is impossible alone: what is wrong and what to do."""

    message: str
    hint: str = ""


@dataclass(frozen=True)
class Asked:
    """A reading that may be in another unit than its field: the question, and the units to choose from."""

    question: str
    units: tuple[str, ...]


def check_entry(
    place: str,
    quantity: str,
    text: str,
    unit: str,
    confirmed: bool = False,
    instrument_range: tuple[float, float] | None = None,
    kind: str = "",
) -> Accepted | Refused | Asked:
    """Judge one reading as typed.

    unit: a code of engine.units. confirmed: the person has said that the unit is right, so °C is not asked about.
    instrument_range: what the instrument can show, in the engine's unit of the quantity, or None. kind: of equipment; a heat pump is tested
    in the cold too, so that 36 °F outdoors is no cause to ask.
    """
    if quantity not in quantities_at(place):
        return Refused(f"There is no reading '{quantity}' at '{place}'.")
    what = QUANTITIES[quantity]
    number = _number(text)
    if number is None:
        return Refused(f"'{text.strip()[:20]}' is not a number.", "Type digits, such as 72.4.")
    try:
        value = to_engine(number, unit, what.kind)
    except EngineError as error:
        return Refused(f"{error}.")
    lookalike = None if (kind, place) == ("heat_pump", "outdoor") else CELSIUS_LOOKALIKES_F.get((place, quantity))
    if unit == "degF" and not confirmed and lookalike and lookalike[0] <= number <= lookalike[1]:
        return Asked(f"{number:g} looks like °C: that would be {f_from_c(number):.1f} °F. Which is it?", ("degC", "degF"))
    if unit == "degC" and not confirmed and not what.low <= value <= what.high and what.low <= number <= what.high:
        return Asked(f"{number:g} looks like °F: in °C no {what.label.lower()} is that high. Which is it?", ("degF", "degC"))
    if quantity == "rh" and not what.low <= value <= what.high:
        return Refused(
            f"Relative humidity is 0 to 100 %; this says {number:g}.", "Is it a temperature, typed in the wrong field?"
        )
    if not what.low <= value <= what.high:
        return Refused(
            f"{what.label} is taken from {_said(what, what.low)} to {_said(what, what.high)}; this is {_said(what, value)}.",
            "Check the digits and the unit.",
        )
    if instrument_range and not instrument_range[0] <= value <= instrument_range[1]:
        low, high = instrument_range
        return Refused(
            f"This instrument reads {_said(what, low)} to {_said(what, high)}; {_said(what, value)} is outside.",
            "Check the digits, or choose the instrument used.",
        )
    return Accepted(value)


def _said(what: Quantity, value: float) -> str:
    """A value of a quantity with its unit; temperatures in the scale shown."""
    if what.kind == "temperature":
        return f"{in_scale(value):g} °{scale()}"
    return f"{value:g} {UNITS[what.unit].sign}"


_THOUSANDS = re.compile(r"[0-9]{1,3}(,[0-9]{3})+(\.[0-9]*)?")
_PLAIN = re.compile(r"[+-]?([0-9]+[.,]?[0-9]*|[.,][0-9]+)")


def _number(text: str) -> float | None:
    """A typed number: '72.4', '72,4', '1,200'; None for anything else."""
    text = text.strip()
    if _THOUSANDS.fullmatch(text):
        return float(text.replace(",", ""))
    return float(text.replace(",", ".")) if _PLAIN.fullmatch(text) else None
