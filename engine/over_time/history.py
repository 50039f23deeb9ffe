"""The strings of a machine's history: each quantity over the visits as measured less what its anchor expects that day,
with the steps at what happened, and the drift since the last of them.

The anchor is the machine's baseline, else the published curves; never what has been learnt, which a slow leak would
teach to be normal. All rounds come assessed by today's house rules.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from engine.assessment import Assessment
from engine.diagnosis.verdict import DOES_NOT_COUNT
from engine.quantities import drift
from engine.readings.vocabulary import ROOM
from engine.uncertainty.trend import Trend

DAYS_A_YEAR = 365.25
FIX, INSTRUMENT, PERSON = "fix", "instrument", "person"
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
class Point(drift.Point):
    """A quantity at one round."""

    at: Visited


Step = drift.Step[Point]


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
    points: list[Point] = []
    for v in rounds:
        q = v.found.quantities.get(id_)
        if q is not None and drift.half_of(q):
            happened = bool(points) and bool(_happened(points[-1].at, v, visited))
            points.append(Point(v.days / DAYS_A_YEAR, q, happened, v))
    steps = drift.steps_of(points)
    last = drift.since_last_step(points, steps)
    return String(id_, tuple(points), steps, drift.drift_of(last))


def _happened(before: Visited, after: Visited, visited: Sequence[Visited]) -> tuple[Event, ...]:
    """What happened between two rounds, rounds between them that do not count among it."""
    between = [v for v in visited if before.days < v.days <= after.days]
    return tuple(event for v in between for event in v.since)


def events_between(step: Step, visited: Sequence[Visited]) -> tuple[Event, ...]:
    """What happened at a step."""
    return _happened(step.before.at, step.after.at, visited)
