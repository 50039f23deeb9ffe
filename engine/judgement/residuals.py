"""What the causes are judged by: each indicator's residual, measured less expected, with every error source that moves it.

Sources that move two indicators are what makes them move together: the covariance follows, and a reading that counts twice counts once.
"""

from dataclasses import dataclass, field, replace
from math import expm1, hypot

import numpy as np

from engine.constants import MODEL_SLOPE_SPREAD
from engine.uncertainty.propagation import K
from engine.uncertainty.sources import since
from engine.wording import signed_difference


@dataclass(frozen=True)
class Kind:
    """One kind of indicator: what it is called, its unit, how far a cause's shift may be off beside a third of itself, and how far sound units
    scatter about what is expected with ordinary instruments (both 95 %): what a reading not yet taken would be worth."""

    id: str
    label: str
    unit: str
    floor: float
    scatter: float


KINDS = {kind.id: kind for kind in (
    Kind("split", "Split at this airflow", "share", 0.04, 0.1), Kind("capacity", "Capacity", "share", 0.04, 0.13),
    Kind("airflow", "Airflow", "ln", 0.06, 0.14), Kind("approach", "Approach", "°F", 2.0, 6.0),
    Kind("suction", "Suction line at the coil", "°F", 4.0, 7.2), Kind("suction_rise", "Rise along the suction line", "°F", 3.0, 4.3),
    Kind("liquid_drop", "Drop along the liquid line", "°F", 1.0, 2.3), Kind("condenser_rise", "Condenser air rise", "ln", 0.1, 0.5),
    Kind("amps", "Compressor's draw", "ln", 0.06, 0.36), Kind("filter_drop", "Filter drop", "ln", 0.3, 0.72),
    Kind("coil_drop", "Coil drop", "ln", 0.3, 0.72), Kind("return_drop", "Drop of the return duct", "ln", 0.4, 0.72),
    Kind("supply_drop", "Drop of the supply duct", "ln", 0.4, 0.72), Kind("grille_to_unit", "Unit over grille", "°F", 1.0, 2.1),
    Kind("unit_to_register", "Register over plenum", "°F", 1.0, 2.6), Kind("superheat", "Superheat, by gauge", "°F", 3.0, 5.2),
    Kind("subcooling", "Subcooling, by gauge", "°F", 2.0, 3.4),
    Kind("rise", "Rise at this airflow", "share", 0.04, 0.26), Kind("heat_approach", "Liquid line over return air", "°F", 3.0, 11.0),
    Kind("true_suction", "Suction at the compressor", "°F", 3.0, 7.5), Kind("heat_moved", "Heat moved by the water", "share", 0.04, 0.15),
    Kind("water_flow", "Water flow", "ln", 0.06, 0.4), Kind("closure", "Air against water and power", "share", 0.04, 0.2),
)}  # fmt: skip


@dataclass(frozen=True)
class Residual:
    """One indicator of a round: its residual in its kind's unit (shares and natural logarithms are of what is expected).

    pushes: error source -> what it moves the residual by, signed, 95 %. model_u95: how sound units scatter about the expectation. repeat_u95: how
    far the same sound unit scatters from visit to visit, for a comparison with its baseline. slopes: reading -> change of the residual for one °F
    of error in it; and 'airflow' -> for one unit of ln airflow assumed too high, where the airflow is a guess.
    says: measured and expected, as words. lowest: what no cause of the machine can bring it under (a liquid line is never below outdoors).
    expected: what the residual is taken from, in its unit, so that a baseline knows how far the model itself has moved since.
    origin: where the expected value comes from, in words.
    weather: (outdoor air [°F], how much another unit's expectation may move for one °F of it, 95 %): what a baseline in other weather is worth.
    """

    kind: Kind
    value: float
    pushes: dict[str, float]
    model_u95: float
    repeat_u95: float
    slopes: dict[str, float] = field(default_factory=dict)
    says: str = ""
    lowest: float | None = None
    expected: float = 0.0
    origin: str = ""
    weather: tuple[float, float] = (0.0, 0.0)


def against_baseline(now: list[Residual], then: list[Residual], lasting: tuple[str, ...]) -> list[Residual]:
    """Residuals against the unit's own baseline: what it differed from the model then is no fault now. lasting: sources that are the same in both."""
    before = {r.kind.id: r for r in then}
    found = []
    for r in now:
        was = before.get(r.kind.id)
        if was is None:
            found.append(r)
            continue
        by_weather = r.weather[1] * (r.weather[0] - was.weather[0])
        repeat = hypot(r.repeat_u95, MODEL_SLOPE_SPREAD.value * (r.expected - was.expected), by_weather)
        off = {
            "value": r.value - was.value,
            "pushes": since(r.pushes, was.pushes, lasting),
            "model_u95": repeat,
            "repeat_u95": repeat,
        }
        lowest = None if r.lowest is None else min(r.lowest - was.value, 0.0)
        found.append(
            replace(r, **off, lowest=lowest, origin=f"its own baseline, corrected to today, stood {_stood(was)} from that")
        )
    return found


def _stood(r: Residual) -> str:
    if r.kind.unit == "°F":
        return signed_difference(r.value)
    return f"{100 * (r.value if r.kind.unit == 'share' else expm1(r.value)):+.0f} %".replace("-", "−")


def stacked(residuals: list[Residual]) -> tuple[np.ndarray, np.ndarray]:
    """(values, covariance of a sound unit's residuals) in standard terms, shapes (n,) and (n, n)."""
    sources = sorted({s for r in residuals for s in r.pushes})
    column = {s: i for i, s in enumerate(sources)}
    moves = np.zeros((len(residuals), len(sources)))
    for i, r in enumerate(residuals):
        for s, push in r.pushes.items():
            moves[i, column[s]] = push / K
    model = np.array([r.model_u95 / K for r in residuals])
    return np.array([r.value for r in residuals]), moves @ moves.T + np.diag(model**2)
