"""A quantity over the visits: where it stepped at something that happened, and how it drifts since."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import hypot
from typing import Generic, TypeVar

from engine.quantities.quantity import Quantity
from engine.uncertainty.estimate import Estimate
from engine.uncertainty.trend import FEWEST_FOR_SCATTER, Trend, trend_of

# A drift is told from this part of the tolerance on, and over a season at least (working figures): less is no news.
LEAST_DRIFT, LEAST_YEARS = 0.25, 0.25


@dataclass(frozen=True)
class Point:
    """A quantity at one visit, held to the machine's anchor. years: when it was read [a, from any one day]; changed:
    something happened since the point before: a fix, another instrument, another person.
    """

    years: float
    quantity: Quantity
    changed: bool

    @property
    def off(self) -> Estimate:
        """Measured less what the anchor expects, with its 95 %."""
        return self.quantity.off

    @property
    def half(self) -> float:
        """How far it may be off on that side: what a sound machine may scatter from visit to visit."""
        return half_of(self.quantity)

    @property
    def lean(self) -> float:
        """Off in halves."""
        return self.off.value / self.half

    @property
    def doubt(self) -> float:
        """Its 95 % as one visit among others: its margin, and no less than a sound machine may scatter."""
        return max(self.off.u95, self.half)


def half_of(q: Quantity) -> float:
    """The tolerance on the side that a quantity is off to; 0 where it has none, is only predicted, is held to a bare
    limit, or not known: then it makes no point.
    """
    if q.predicted or not q.off.known or q.limit is not None:
        return 0.0
    half = q.high if q.off.value > 0 else q.low
    return half if half is not None else q.high or q.low or 0.0


P = TypeVar("P", bound=Point)


@dataclass(frozen=True)
class Step(Generic[P]):
    """A change from one point to the next by more than both margins, where something happened between them."""

    before: P
    after: P

    @property
    def size(self) -> Estimate:
        """How far it stepped, with its 95 %: of both points, and no less than sound visits scatter."""
        u95 = hypot(self.before.doubt, self.after.doubt)
        return Estimate(self.after.off.value - self.before.off.value, u95, self.after.off.unit)


def steps_of(points: Sequence[P]) -> tuple[Step[P], ...]:
    """The steps among points, the oldest first."""
    changed = (Step(before, after) for before, after in pairwise(points) if after.changed)
    return tuple(step for step in changed if abs(step.size.value) > step.size.u95)


def since_last_step(points: Sequence[P], steps: Sequence[Step[P]]) -> Sequence[P]:
    """The points of the last stretch without a step."""
    return points[points.index(steps[-1].after) :] if steps else points


def drift_of(points: Sequence[Point]) -> Trend | None:
    """The trend of a stretch; None where it is within its own doubt, or too little to be news.

    The error of the anchor is in every point alike and bends no line; where there are enough points, what weather and
    visits scatter shows in the scatter itself. So a point then brings its own instruments' error alone.
    """
    few = len(points) < FEWEST_FOR_SCATTER
    own = [p.doubt if few else min(p.off.u95, p.quantity.measured.u95) for p in points]
    found = trend_of([p.years for p in points], [p.off.value for p in points], own)
    if found is None or not found.is_known or found.ended - found.began < LEAST_YEARS:
        return None
    moved = abs(found.slope) * (found.ended - found.began)
    return found if moved >= LEAST_DRIFT * points[-1].half else None
