"""Numbers in sentences: the figures an instrument deserves, with their unit.

The engine thinks in °F. Whoever reads a sentence in °C sets that around the call (`shown_in`): only the words change, never a value.
"""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar

from engine.units import c_from_f

SCALES = ("F", "C")
_scale: ContextVar[str] = ContextVar("temperature_scale", default="F")


@contextmanager
def shown_in(scale: str) -> Iterator[None]:
    """Temperatures in sentences in °F or °C ('F', 'C') while this lasts; anything else is °F."""
    token = _scale.set(scale if scale in SCALES else "F")
    try:
        yield
    finally:
        _scale.reset(token)


def scale() -> str:
    """The scale sentences are written in now."""
    return _scale.get()


def in_scale(value_f: float) -> float:
    """A temperature [°F] as a number in the scale shown."""
    return round(c_from_f(value_f), 1) if scale() == "C" else value_f


def difference_in_scale(value_f: float) -> float:
    """A temperature difference [°F] as a number in the scale shown."""
    return value_f / 1.8 if scale() == "C" else value_f


def temperature(value_f: float, decimals: int = 1) -> str:
    """72.4 °F, or the same in °C."""
    return f"{in_scale(value_f):.{decimals}f} °{scale()}"


def difference(value_f: float, decimals: int = 1) -> str:
    """A temperature difference without its sign: 4.5 °F, or the same in °C."""
    return f"{abs(difference_in_scale(value_f)):.{decimals}f} °{scale()}"


def signed_difference(value_f: float) -> str:
    """A temperature difference with its sign: +4.5 °F."""
    return f"{difference_in_scale(value_f):+.1f} °{scale()}"


def capacity(value_btuh: float) -> str:
    """36,200 BTU/h."""
    return f"{round(value_btuh, -2):,.0f} BTU/h"


def airflow(value_cfm_per_ton: float) -> str:
    """298 CFM per ton."""
    return f"{value_cfm_per_ton:.0f} CFM per ton"


def amount(value: float, unit: str) -> str:
    """The size of a difference in its unit, to the figures it deserves: 2.2 °F, 50 CFM/ton, 3,500 BTU/h."""
    if unit == "BTU/h":
        return capacity(abs(value))
    if unit == "in. w.c.":
        return f"{abs(value):.2f} {unit}"
    if unit in ("A", "GPM"):
        return f"{abs(value):.1f} {unit}"
    return difference(value) if unit == "°F" else f"{abs(value):.0f} {unit}"


def share(value: float) -> str:
    """12 %."""
    return f"{100 * value:.0f} %"


def listed(words: list[str]) -> str:
    """'a', 'a and b', 'a, b and c'."""
    if len(words) < 2:
        return "".join(words)
    return f"{', '.join(words[:-1])} and {words[-1]}"
