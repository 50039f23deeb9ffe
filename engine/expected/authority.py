"""The expected value with the best authority at hand: the unit's published table, its own baseline corrected to today, physics.

Each answer says which it used, and carries its own uncertainty. Baseline: what the model says today plus what the baseline differed from the
model then, so the model's own error cancels as far as the weather is alike; a share of what the model moved between the two remains.
"""

from dataclasses import dataclass
from math import hypot

from engine.constants import MODEL_SLOPE_SPREAD, PUBLISHED_TABLE_SPREAD
from engine.errors import EngineError
from engine.water.exchanger import Grid

AUTHORITIES = ("published table", "own baseline", "physics")


@dataclass(frozen=True)
class ExpectedValue:
    """An expected value with its 95 %, where it comes from, and that in a sentence."""

    value: float
    u95: float
    unit: str
    authority: str
    sentence: str


@dataclass(frozen=True)
class BaselineValue:
    """A quantity at baseline: what was measured then with its 95 %, what the model said then; was the coil wet."""

    measured: float
    u95: float
    model: float
    coil_wet: bool | None = None


def from_physics(value: float, u95: float, unit: str) -> ExpectedValue:
    """The published generic curves for this kind of unit."""
    return ExpectedValue(value, u95, unit, "physics", "from the published curves for units of this kind")


def from_baseline(baseline: BaselineValue, model_now: float, unit: str, coil_wet: bool | None = None) -> ExpectedValue:
    """Own baseline corrected to today's weather: model now + (measured then - model then).

    Raises when wet and dry would be compared: what hangs on the coil's wetness has no baseline in the other state.
    """
    if None not in (baseline.coil_wet, coil_wet) and baseline.coil_wet != coil_wet:
        raise EngineError("the baseline was taken with a " + ("wet" if baseline.coil_wet else "dry") + " coil; this is the other")
    value = model_now + baseline.measured - baseline.model
    u95 = hypot(baseline.u95, MODEL_SLOPE_SPREAD.value * (model_now - baseline.model))
    return ExpectedValue(value, u95, unit, "own baseline", "own baseline, corrected to today's weather")


def from_published(table: Grid, model: str, return_wet_bulb_f: float, outdoor_f: float, unit: str = "BTU/h") -> ExpectedValue:
    """The unit's own published table: rows by return wet bulb [°F], columns by outdoor [°F]. Raises outside it or for another model."""
    if table.model.strip().upper() != model.strip().upper():
        raise EngineError(f"the table is of {table.model}, the unit is {model}: use the unit's own table")
    value = table.at(return_wet_bulb_f, outdoor_f)
    return ExpectedValue(
        value, PUBLISHED_TABLE_SPREAD.value * value, unit, "published table", f"from the maker's table for {table.model}"
    )


def best(*candidates: ExpectedValue | None) -> ExpectedValue:
    """The candidate of the highest authority; None stands for one that is not at hand."""
    found = [candidate for candidate in candidates if candidate is not None]
    if not found:
        raise EngineError("there is no expected value: no table, no baseline, and the case is outside the curves")
    return min(found, key=lambda candidate: AUTHORITIES.index(candidate.authority))


def covariance(first: ExpectedValue, second: ExpectedValue) -> float:
    """Covariance on the 95 % scale of two expected values that share one authority's error wholly (curves, one table), else none."""
    return first.u95 * second.u95 if first.authority == second.authority != "own baseline" else 0.0
