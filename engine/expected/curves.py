"""The published performance curves, read from `engine/data/residential-curves.csv` (source on its first lines)."""

import csv
from dataclasses import dataclass
from functools import cache
from pathlib import Path

from engine.uncertainty.estimate import Outside
from engine.units import Numbers, c_from_f

TABLE = Path(__file__).parent.parent / "data" / "residential-curves.csv"
# Ranges in which the cooling curves are taken to hold: about 58-75 °F wet bulb and 70-115 °F outdoors. Below the wet
# bulb at which the coil goes dry the polynomial turns up, which is an artefact.
WET_BULB_RANGE_F = (58.0, 75.0)
OUTDOOR_RANGE_F = (70.0, 115.0)
# The file states no range for the flow curve; half to one and a half of rated flow is our own guard.
FLOW_RANGE_PCT = (50.0, 150.0)
COOLING_CURVES = {"air_conditioner": "ac", "heat_pump": "hp"}


@dataclass(frozen=True)
class Biquadratic:
    """c1 + c2 x + c3 x2 + c4 y + c5 y2 + c6 xy, x and y in °C as published; called in °F."""

    c: tuple[float, ...]

    def __call__(self, x_f: Numbers, y_f: Numbers) -> Numbers:
        """Fraction of the rated value at x and y [°F]."""
        x, y = c_from_f(x_f), c_from_f(y_f)
        c1, c2, c3, c4, c5, c6 = self.c
        return c1 + x * (c2 + c3 * x) + y * (c4 + c5 * y) + c6 * x * y


@dataclass(frozen=True)
class Quadratic:
    """c1 + c2 f + c3 f2, f the flow as a fraction of rated flow."""

    c: tuple[float, ...]

    def __call__(self, f: Numbers) -> Numbers:
        """Fraction of the rated value at flow fraction f."""
        c1, c2, c3 = self.c
        return c1 + f * (c2 + c3 * f)


def outside(*checks: tuple[str, float, str, tuple[float, float]]) -> tuple[Outside, ...]:
    """Which of (name, value, unit, range) lies outside its range; a value that is not known (NaN) is not judged."""
    return tuple(
        (name, value, unit, low, high) for name, value, unit, (low, high) in checks if value < low or value > high
    )


def by_weather(name: str) -> Biquadratic:
    """The curve of two temperatures of that name; KeyError when the table has none."""
    return Biquadratic(_coefficients()["biquadratic", name])


def by_flow(name: str) -> Quadratic:
    """The curve of the flow of that name; KeyError when the table has none."""
    return Quadratic(_coefficients()["quadratic", name])


@cache
def _coefficients() -> dict[tuple[str, str], tuple[float, ...]]:
    """By kind and name of the curve."""
    lines = [line for line in TABLE.read_text().splitlines() if not line.startswith("#")]
    return {
        (row["kind"], row["curve"]): tuple(float(row[f"c{i}"]) for i in range(1, 7) if row[f"c{i}"])
        for row in csv.DictReader(lines)
    }
