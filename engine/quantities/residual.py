"""What the causes are judged by: each quantity's residual, measured less expected, with every error source that moves
it.

Sources that move two quantities are what makes them move together: the covariance follows, and a reading that counts
twice counts once.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import cached_property
from math import hypot

import numpy as np

from engine.uncertainty.propagation import K

# Measured - expected; measured / expected - 1; ln(measured / expected)
DIFFERENCE, SHARE, LN = "difference", "share", "ln"


@dataclass(frozen=True)
class Kind:
    """One kind of residual: the form it has, how far a cause's shift may be off beside a third of itself, and how far
    sound units scatter about what is expected with ordinary instruments (both 95 %, in the form's terms): what a
    reading not yet taken would be worth.
    """

    id: str
    form: str
    floor: float
    scatter: float


KINDS = {kind.id: kind for kind in (
    Kind("split", SHARE, 0.04, 0.1), Kind("capacity", SHARE, 0.04, 0.13), Kind("airflow", LN, 0.06, 0.14), Kind("approach", DIFFERENCE, 2.0, 6.0),
    Kind("suction", DIFFERENCE, 4.0, 7.2), Kind("suction_rise", DIFFERENCE, 3.0, 4.3), Kind("liquid_drop", DIFFERENCE, 1.0, 2.3),
    Kind("condenser_rise", LN, 0.1, 0.5), Kind("amps", LN, 0.06, 0.36), Kind("filter_drop", LN, 0.3, 0.72), Kind("coil_drop", LN, 0.3, 0.72),
    Kind("return_drop", LN, 0.4, 0.72), Kind("supply_drop", LN, 0.4, 0.72), Kind("grille_to_unit", DIFFERENCE, 1.0, 2.1),
    Kind("unit_to_register", DIFFERENCE, 1.0, 2.6), Kind("superheat", DIFFERENCE, 3.0, 5.2), Kind("subcooling", DIFFERENCE, 4.0, 3.4),
    Kind("evaporating", DIFFERENCE, 2.0, 5.5), Kind("condensing", DIFFERENCE, 2.0, 5.5),
    Kind("rise", SHARE, 0.04, 0.26), Kind("heat_approach", DIFFERENCE, 2.0, 8.5), Kind("true_suction", DIFFERENCE, 3.0, 7.5),
    Kind("heat_condensing", DIFFERENCE, 2.0, 4.5), Kind("discharge", DIFFERENCE, 10.0, 15.0), Kind("heat_moved", SHARE, 0.04, 0.15), Kind("water_flow", LN, 0.06, 0.4), Kind("closure", DIFFERENCE, 0.04, 0.2),
)}  # fmt: skip
# What the refrigerant circuit and the outdoor side are judged by: not where a finding withholds the circuit.
OF_THE_CIRCUIT = (
    "approach", "suction", "suction_rise", "liquid_drop", "condenser_rise", "amps", "superheat", "subcooling",
    "evaporating", "condensing", "heat_approach", "heat_condensing", "true_suction", "discharge",
)  # fmt: skip

# Error sources of what is expected that are differences between machines: how their capacity compares with the curves.
OF_THE_MACHINE = ("capacity_model", "sensible_share")


@dataclass(frozen=True)
class Residual:
    """One quantity's difference as the diagnosis uses it, in its kind's form (shares and natural logarithms are of what
    is expected).

    pushes: error source -> what it moves the residual by, signed, 95 %. machine: the same of what sound machines differ
    in (their condensing, their subcooling ...), where one such difference moves several quantities together.
    model_u95: how sound units scatter about the expectation beside that. repeat_u95: how far the same sound unit scatters from visit to visit, for a comparison with its
    baseline. slopes: reading -> change of the residual for one °F of error in it; and 'airflow' -> for one unit of ln
    airflow assumed too high, where the airflow is a guess.
    lowest, highest: what no cause of the machine can bring it under or over (a liquid line is never below outdoors, a
    suction line at its coil never above the air that feeds it).
    expected: what the residual is taken from, so that a baseline knows how far the model itself has moved since.
    weather: (outdoor air, or a loop's entering water [°F], how much another unit's expectation may move for one °F of it, 95 %): what a baseline in
    other weather is worth.
    at_baseline: where it is taken against a baseline, the residual that the baseline had. rests_on: of a baseline, how many
    visits it is worth.
    """

    kind: Kind
    value: float
    pushes: dict[str, float]
    model_u95: float
    repeat_u95: float
    slopes: dict[str, float] = field(default_factory=dict)
    lowest: float | None = None
    highest: float | None = None
    expected: float = 0.0
    weather: tuple[float, float] = (0.0, 0.0)
    at_baseline: float | None = None
    machine: dict[str, float] = field(default_factory=dict)
    rests_on: float = 1.0

    @property
    def differs_in(self) -> dict[str, float]:
        """All that sound machines differ in by name: what the air side carries of it as an error source among them."""
        return self.machine | {s: push for s, push in self.pushes.items() if s in OF_THE_MACHINE}

    @property
    def instruments(self) -> dict[str, float]:
        """What moves it that is no difference between machines."""
        return {s: push for s, push in self.pushes.items() if s not in OF_THE_MACHINE}

    @property
    def allowed_u95(self) -> float:
        """How far sound machines may be off the expectation, by all that they differ in."""
        return hypot(self.model_u95, *self.differs_in.values())

    @property
    def sound_u95(self) -> float:
        """How far sound machines scatter about the expectation, whatever they differ in."""
        return hypot(self.model_u95, *self.machine.values())

    @cached_property
    def own_variance(self) -> float:
        """Variance in a sound machine (one standard deviation squared, in the kind's form): readings and machines."""
        return (hypot(*self.pushes.values()) ** 2 + self.sound_u95**2) / K**2


def stacked(residuals: Sequence[Residual]) -> tuple[np.ndarray, np.ndarray]:
    """(values, covariance of a sound unit's residuals) in standard terms, shapes (n,) and (n, n)."""
    moved = [r.pushes | r.machine for r in residuals]
    sources = sorted({s for pushes in moved for s in pushes})
    column = {s: i for i, s in enumerate(sources)}
    moves = np.zeros((len(residuals), len(sources)))
    for i, pushes in enumerate(moved):
        for s, push in pushes.items():
            moves[i, column[s]] = push / K
    model = np.array([r.model_u95 / K for r in residuals])
    return np.array([r.value for r in residuals]), moves @ moves.T + np.diag(model**2)
