"""The strings of a machine's history: each quantity over the visits as measured less what its anchor expects that day,
with the steps at what happened, and the drift since the last of them.

The anchor is the machine's baseline, else the published curves; never what has been learnt, which a slow leak would
teach to be normal. All rounds come assessed by today's house rules.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import hypot

from engine.assessment import Assessment
from engine.diagnosis.verdict import DOES_NOT_COUNT
from engine.over_time.trend import FEWEST_FOR_SCATTER, Trend, trend_of
from engine.quantities.quantity import Quantity
from engine.readings.vocabulary import ROOM
from engine.uncertainty.estimate import Estimate

DAYS_A_YEAR = 365.25
FIX, INSTRUMENT, PERSON = "fix", "instrument", "person"
# A drift is said from this part of the tolerance on, and over a season at least (working figures): less is no news.
LEAST_DRIFT, LEAST_YEARS = 0.25, 0.25
NOT_THE_MACHINES = (f"carries_{ROOM}",)  # what a duct of that size carries is a matter of its design


@dataclass(frozen=True)
class Event:
    """What changed before a round was read: something done (label: what), another instrument, another person."""

    kind: str
    label: str


@dataclass(frozen=True)
class Visited:
    """A round of the machine. key: whose it is, for whoever asks; days: when it was read [d, from any one day]; since:
    what changed since the round before.
    """

    key: str
    days: float
    found: Assessment
    since: tuple[Event, ...] = ()


@dataclass(frozen=True)
class Point:
    """A quantity at one round. off: measured less the anchor's expectation, with its 95 %; half: how far it may be off
    on that side: what a sound machine may scatter from visit to visit; lean: off in halves.
    """

    at: Visited
    quantity: Quantity
    off: Estimate
    half: float
    lean: float

    @property
    def doubt(self) -> float:
        """Its 95 % as one visit among others: its margin, and no less than a sound machine may scatter."""
        return max(self.off.u95, self.half)

    @property
    def years(self) -> float:
        """When it was read [a, from any one day]."""
        return self.at.days / DAYS_A_YEAR


@dataclass(frozen=True)
class Step:
    """A change from one point to the next by more than both margins, where something happened between them."""

    before: Point
    after: Point

    @property
    def size(self) -> Estimate:
        """How far it stepped, with its 95 %: of both points, and no less than sound visits scatter."""
        u95 = hypot(self.before.doubt, self.after.doubt)
        return Estimate(self.after.off.value - self.before.off.value, u95, self.after.off.unit)


@dataclass(frozen=True)
class String:
    """One quantity over the visits, the oldest point first. trend: since the last step, None where none is said."""

    id: str
    points: tuple[Point, ...]
    steps: tuple[Step, ...]
    trend: Trend | None

    @property
    def drift(self) -> int:
        """-1 or +1 where it drifts down or up, else 0."""
        return 0 if self.trend is None else 1 if self.trend.slope > 0 else -1

    @property
    def years_left(self) -> float | None:
        """Years until it is out of range at this rate; None where it does not drift, or is."""
        return None if self.trend is None else self.trend.years_to(self.points[-1].half)

    @property
    def since(self) -> Point:
        """The first point of the trend: of the last stretch without a step."""
        return self.steps[-1].after if self.steps else self.points[0]


def strings_of(visited: Sequence[Visited]) -> tuple[String, ...]:
    """The strings of a machine in one mode, in the order quantities are shown. visited: its rounds, the oldest first;
    those that do not count are left out.
    """
    rounds = [v for v in visited if v.found.verdict.state != DOES_NOT_COUNT]
    ids = dict.fromkeys(id_ for v in rounds for id_ in v.found.quantities if not id_.startswith(NOT_THE_MACHINES))
    found = (_string(id_, rounds, visited) for id_ in ids)
    return tuple(string for string in found if string.points)


def _string(id_: str, rounds: Sequence[Visited], visited: Sequence[Visited]) -> String:
    points = tuple(p for v in rounds if (q := v.found.quantities.get(id_)) is not None and (p := _point(v, q)))
    steps = tuple(
        step
        for before, after in pairwise(points)
        if _happened(before.at, after.at, visited) and abs((step := Step(before, after)).size.value) > step.size.u95
    )
    since = points.index(steps[-1].after) if steps else 0
    return String(id_, points, steps, _drift(points[since:]))


def _point(v: Visited, q: Quantity) -> Point | None:
    """A quantity's point; None where it is only predicted, held to a bare limit, or not known."""
    if q.predicted or not q.off.known or q.limit is not None:
        return None
    half = q.high if q.off.value > 0 else q.low
    half = half if half is not None else q.high if q.high is not None else q.low
    return Point(v, q, q.off, half, q.off.value / half) if half else None


def _happened(before: Visited, after: Visited, visited: Sequence[Visited]) -> tuple[Event, ...]:
    """What happened between two rounds, rounds between them that do not count among it."""
    between = [v for v in visited if before.days < v.days <= after.days]
    return tuple(event for v in between for event in v.since)


def events_between(step: Step, visited: Sequence[Visited]) -> tuple[Event, ...]:
    """What happened at a step."""
    return _happened(step.before.at, step.after.at, visited)


def _drift(points: Sequence[Point]) -> Trend | None:
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
