"""The heat ledger: heat taken from the house air + electrical heat = heat given out.

Where the rejected side is known (ground loop, or measured condenser airflow) it must close within the readings' uncertainty;
if not, the reading that closes it when moved least, in units of its own uncertainty, is named. Where it is not known, the
ledger gives the condenser airflow that the readings imply, and whether that is plausible.
"""

from collections.abc import Callable
from dataclasses import dataclass
from math import sqrt

from engine.constants import CONDENSER_CFM_PER_TON_HIGH, CONDENSER_CFM_PER_TON_LOW

OUT_OF_REACH = 8.0  # in units of a reading's 95 %: moved further than that it explains nothing
_STEPS = 60


@dataclass(frozen=True)
class Entry:
    """One reading in the ledger: what to call it, its value and 95 % uncertainty in its own unit."""

    name: str
    value: float
    u95: float
    unit: str


@dataclass(frozen=True)
class Suspect:
    """A reading that would close the ledger: its value then, and how far that is in units of its own 95 %."""

    name: str
    closes_at: float
    moved: float
    unit: str


@dataclass(frozen=True)
class Ledger:
    """Heat in and out [BTU/h], the gap with its 95 %, whether it closes, and the suspects, least moved first."""

    taken_btuh: float
    electrical_btuh: float
    given_btuh: float
    gap_btuh: float
    u95_btuh: float
    closes: bool
    suspects: tuple[Suspect, ...]

    @property
    def sentence(self) -> str:
        """What the ledger says, in words."""
        gap = f"{abs(self.gap_btuh):,.0f} BTU/h"
        if self.closes:
            return f"The ledger closes: {gap} apart, known within {self.u95_btuh:,.0f} BTU/h."
        side = "more is given out than goes in" if self.gap_btuh < 0 else "more goes in than is given out"
        text = f"The ledger does not close: {side}, by {gap} where {self.u95_btuh:,.0f} BTU/h could be."
        if self.suspects:
            first = self.suspects[0]
            text += f" {first.name.capitalize()} would close it at {first.closes_at:,.1f} {first.unit}: read it again."
        return text


Side = Callable[[dict[str, float]], float]


def close_ledger(readings: list[Entry], taken: Side, electrical: Side, given: Side) -> Ledger:
    """Balance a ledger. taken, electrical, given: heat [BTU/h] from the readings by name; every reading is its own error source.

    The gap's uncertainty is first order over the readings, so a reading on both sides counts once. Each suspect is found by moving
    that reading alone, up to 8 times its 95 %, until the gap is nothing.
    """
    values = {reading.name: reading.value for reading in readings}

    def gap(at: dict[str, float]) -> float:
        return taken(at) + electrical(at) - given(at)

    parts = [0.5 * (gap(values | {r.name: r.value + r.u95}) - gap(values | {r.name: r.value - r.u95})) for r in readings]
    u95 = sqrt(sum(part**2 for part in parts))
    now = gap(values)
    closes = abs(now) <= u95
    suspects = [] if closes else [s for r in readings if (s := _suspect(r, values, gap))]
    return Ledger(
        taken(values), electrical(values), given(values), now, u95, closes, tuple(sorted(suspects, key=lambda s: abs(s.moved)))
    )


def _suspect(reading: Entry, values: dict[str, float], gap: Callable[[dict[str, float]], float]) -> Suspect | None:
    """Where this reading alone would close the ledger, by bisection on each side; None when it cannot."""
    best = None
    for direction in (-1.0, 1.0):
        near, far = reading.value, reading.value + direction * OUT_OF_REACH * reading.u95
        if gap(values | {reading.name: near}) * gap(values | {reading.name: far}) > 0:
            continue
        sign = gap(values | {reading.name: near}) > 0
        for _ in range(_STEPS):
            middle = 0.5 * (near + far)
            if (gap(values | {reading.name: middle}) > 0) == sign:
                near = middle
            else:
                far = middle
        moved = (near - reading.value) / reading.u95
        if best is None or abs(moved) < abs(best.moved):
            best = Suspect(reading.name, near, moved, reading.unit)
    return best


@dataclass(frozen=True)
class Plausibility:
    """The condenser airflow [CFM] that the ledger implies, with its 95 %, the plausible band, and what that says."""

    cfm: float
    u95_cfm: float
    band_cfm: tuple[float, float]
    plausible: bool
    sentence: str


def implied_airflow_plausible(cfm: float, u95_cfm: float, nominal_tons: float) -> Plausibility:
    """Whether an implied condenser airflow can be: 500 to 1,300 CFM per nominal ton, its own uncertainty allowed for.

    Outside the band a reading is wrong (or the condenser's airflow is): it does not say which.
    """
    band = (CONDENSER_CFM_PER_TON_LOW.value * nominal_tons, CONDENSER_CFM_PER_TON_HIGH.value * nominal_tons)
    plausible = band[0] - u95_cfm <= cfm <= band[1] + u95_cfm
    limits = f"{band[0]:,.0f} to {band[1]:,.0f} CFM"
    if plausible:
        text = f"The readings imply {cfm:,.0f} CFM through the condenser, which can be ({limits})."
    else:
        text = f"The readings imply {cfm:,.0f} CFM through the condenser; {limits} can be. A reading is wrong, or air is blocked there."
    return Plausibility(cfm, u95_cfm, band, plausible, text)
