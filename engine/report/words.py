"""Numbers in sentences: the figures an instrument deserves, with their unit, in the temperature scale they are asked
in.

The engine thinks in °F. `Words` is given to whatever writes a sentence: only the words change with the scale, never a
value.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import floor, log10

from engine.uncertainty.estimate import Estimate
from engine.units import c_from_f

SCALES = ("F", "C")
MINUS, BLANK = "−", "–"
# unit -> (step a value is rounded to, decimals shown)
STEPS = {
    "°F": (0.1, 1), "%": (1.0, 0), "BTU/h": (100.0, 0), "CFM/ton": (1.0, 0), "CFM": (1.0, 0), "lb/h": (10.0, 0),
    "tons": (0.01, 2), "BTU/lb": (0.1, 1),
    "lb/lb": (0.0001, 4), "in. w.c.": (0.01, 2), "A": (0.1, 1), "W": (10.0, 0), "GPM": (0.1, 1), "psi": (0.1, 1),
    "BTU/h per W": (0.1, 1), "": (0.01, 2),
}  # fmt: skip
SPOKEN = {"CFM/ton": "CFM per ton"}


@dataclass(frozen=True)
class Words:
    """How to print numbers: scale 'F' or 'C'. Values are in the engine's units; difference says that °F are a
    difference of two temperatures.
    """

    scale: str = "F"

    def in_scale(self, value_f: float) -> float:
        """A temperature [°F] in the scale shown."""
        return c_from_f(value_f) if self.scale == "C" else value_f

    def difference_in_scale(self, value_f: float) -> float:
        """A temperature difference [°F] in the scale shown."""
        return value_f / 1.8 if self.scale == "C" else value_f

    def sign(self, unit: str) -> str:
        """The unit as printed."""
        return f"°{self.scale}" if unit == "°F" else SPOKEN.get(unit, unit)

    def plain(self, value: float | None, unit: str, difference: bool = False) -> str:
        """'36,200' for 36211.7 BTU/h; a dash for nothing; never a minus before zero."""
        if value is None:
            return BLANK
        if unit == "°F":
            value = self.difference_in_scale(value) if difference else self.in_scale(value)
        step, decimals = STEPS[unit]
        text = f"{round(value / step) * step:,.{decimals}f}"
        return text if text[0] != "-" else _with_minus(text)

    def spread(self, u95: float | None, unit: str) -> str:
        """An uncertainty or tolerance: of °F always a difference; one that would round to zero keeps a figure."""
        text = self.plain(u95, unit, difference=True)
        if not u95 or text.strip("0.,"):
            return text
        size = self.difference_in_scale(u95) if unit == "°F" else u95
        return f"{size:.{min(-floor(log10(size)), 6)}f}"

    def value(self, value: float, unit: str, difference: bool = False) -> str:
        """'72.4 °F', '402 CFM per ton', '36,200 BTU/h'."""
        return f"{self.plain(value, unit, difference)} {self.sign(unit)}".rstrip()

    def signed(self, value: float, unit: str) -> str:
        """A difference with its sign: '+4.5 °F'."""
        text = self.value(value, unit, difference=True)
        return text if text.startswith(MINUS) or value < 0 else f"+{text}"

    def size(self, value: float, unit: str) -> str:
        """A difference without its sign: '4.5 °F'."""
        return self.value(abs(value), unit, difference=True)

    def margin(self, found: Estimate, difference: bool = False) -> str:
        """'19.8 ± 2.2'; a dash for nothing."""
        if not found.known:
            return BLANK
        own = f" ± {self.spread(found.u95, found.unit)}" if found.u95 else ""
        return f"{self.plain(found.value, found.unit, difference)}{own}"

    def within(self, found: Estimate, difference: bool = False) -> str:
        """'19.8 ± 2.2 °F'; a dash for nothing."""
        return f"{self.margin(found, difference)} {self.sign(found.unit)}".rstrip() if found.known else BLANK

    def temperature(self, value_f: float, decimals: int = 1) -> str:
        """72.4 °F, or the same in °C."""
        return f"{rounded(self.in_scale(value_f), decimals)} °{self.scale}"

    def difference(self, value_f: float, decimals: int = 1) -> str:
        """A temperature difference without its sign: 4.5 °F, or the same in °C."""
        return f"{rounded(abs(self.difference_in_scale(value_f)), decimals)} °{self.scale}"


FAHRENHEIT = Words("F")


def words_in(scale: str) -> Words:
    """The words of a scale; anything that is no scale is °F."""
    return Words(scale if scale in SCALES else "F")


def rounded(value: float, decimals: int) -> str:
    """'−3.2' for -3.21 to one decimal; never a minus before zero."""
    text = f"{value:.{decimals}f}"
    return text if text[0] != "-" else _with_minus(text)


def _with_minus(text: str) -> str:
    """A printed number that begins with a hyphen, with a minus in its place; none before zero."""
    return text.replace("-", MINUS if text.strip("-0.,") else "")


VERY_LIKELY, LIKELY = 0.85, 0.6  # under the second what is told is told as a perhaps


def likelihood(probability: float) -> str:
    """'93 %'; never more than 99 %: nothing is certain."""
    return share(min(probability, 0.99))


def share(value: float) -> str:
    """'12 %'; never '−0 %'."""
    return f"{rounded(100 * value, 0)} %"


def listed(words: Sequence[str], last: str = "and") -> str:
    """'a', 'a and b', 'a, b and c'."""
    return "".join(words) if len(words) < 2 else f"{', '.join(words[:-1])} {last} {words[-1]}"


def capital(text: str) -> str:
    """The text with a capital first letter, the rest as it is."""
    return text[:1].upper() + text[1:]


def coils(mode: str) -> dict[str, str]:
    """What the coils are called in a mode: in heating they have changed places."""
    if mode == "heating":
        return {"inside": "indoor coil", "outside": "outdoor coil"}
    return {"inside": "evaporator", "outside": "condenser"}


def lower_first(text: str) -> str:
    """The text without a capital first letter, unless it is an abbreviation."""
    return text if text[1:2].isupper() else text[:1].lower() + text[1:]


def ended(text: str) -> str:
    """The text with one full stop at its end."""
    return f"{text.rstrip('.')}."
