"""What is wrong with one typed reading, in words: the cause and the likely fix."""

from dataclasses import dataclass

from engine.readings.entry import Asked, Refused
from engine.readings.vocabulary import QUANTITIES
from engine.report.words import Words
from engine.units import UNITS, f_from_c


@dataclass(frozen=True)
class EntrySaid:
    """What is wrong, what to do, and the units to choose from ('' and () for none)."""

    message: str
    hint: str = ""
    units: tuple[str, ...] = ()


def entry_said(answer: Refused | Asked, words: Words) -> EntrySaid:
    """A refused or doubted entry in words."""
    if isinstance(answer, Asked):
        return _asked(answer)
    if answer.id == "no_such_reading":
        return EntrySaid(f"There is no reading '{answer.quantity}' at '{answer.place}'.")
    if answer.id == "not_a_number":
        return EntrySaid(f"'{answer.text.strip()[:20]}' is not a number.", "Type digits, such as 72.4.")
    if answer.id == "unknown_unit":
        return EntrySaid(f"{answer.text}.")
    if answer.id == "not_a_humidity":
        return EntrySaid(
            f"Relative humidity is 0 to 100 %; this says {answer.value:g}.",
            "Is it a temperature, typed in the wrong field?",
        )
    numbers = (number for number in (answer.low, answer.high, answer.value) if number is not None)
    low, high, value = (figure_of(answer.quantity, number, words) for number in numbers)
    if answer.id == "outside_instrument":
        return EntrySaid(
            f"This instrument reads {low} to {high}; {value} is outside.",
            "Check the digits, or choose the instrument used.",
        )
    return EntrySaid(
        f"{QUANTITIES[answer.quantity].label} is taken from {low} to {high}; this is {value}.",
        "Check the digits and the unit.",
    )


def _asked(answer: Asked) -> EntrySaid:
    label = QUANTITIES[answer.quantity].label.lower()
    if answer.quantity == "pressure":
        first, typed = (UNITS[unit].sign for unit in answer.units)
        text = f"{answer.number:g} {typed} is no pressure of this refrigerant here; {answer.number:g} {first} would be. Which is it?"
        return EntrySaid(text, units=answer.units)
    if answer.units[0] == "degC":
        text = f"{answer.number:g} looks like °C: that would be {f_from_c(answer.number):.1f} °F. Which is it?"
    else:
        text = f"{answer.number:g} looks like °F: in °C no {label} is that high. Which is it?"
    return EntrySaid(text, units=answer.units)


def figure_of(quantity: str, value: float, words: Words) -> str:
    """A value of a quantity with its unit; temperatures in the scale shown."""
    what = QUANTITIES[quantity]
    if what.kind == "temperature":
        return f"{round(words.in_scale(value), 1):g} {words.sign('°F')}"
    return f"{value:g} {UNITS[what.unit].sign}"
