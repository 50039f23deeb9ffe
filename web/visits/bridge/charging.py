"""Gauges and charging as the sheet shows them: the figures, what the gauges added, and the plan with its steps."""

from dataclasses import dataclass, replace
from functools import cached_property

from engine.assessment import assess, table_of
from engine.charging.leak import leak_rate_share
from engine.charging.steps import FULL_SHARE, Plan, Step, after_step, plan_of
from engine.charging.target import RECOVER, WEIGH_IN
from engine.quantities.saturation import gauge_lines
from engine.readings.entry import ounces
from engine.readings.round import without_gauges
from engine.report import charging_words
from engine.report.charging_words import ChargingSaid, plan_said, set_by
from engine.report.gauge_words import added_said, figures_said
from engine.report.verdict_words import verdict_said
from engine.uncertainty.margin import state_of
from web.shell.bridge import words
from web.visits.bridge.results import Assessed

__all__ = ["FULL_SHARE", "gauge_lines", "leak_rate_share", "ounces"]


def weight(oz: float) -> str:
    """A weight as the person reads it: pounds and ounces, or grams for who reads °C."""
    return charging_words.weight(oz, words().scale)


@dataclass(frozen=True)
class Point:
    """One point of the trace: value [°F] and what happened before it; lean and own uncertainty in tolerances."""

    value_f: float
    label: str
    lean: float
    own: float
    state: str


@dataclass(frozen=True)
class ByGauge:
    """What gauges say of a round. steps: (way, ounces, readings after it), oldest first; factory_oz: the plate's."""

    assessed: Assessed
    steps: tuple[tuple[str, float, tuple], ...] = ()
    factory_oz: float | None = None

    @property
    def is_read(self) -> bool:
        """Whether a pressure was read."""
        return self.assessed.round.by_gauge

    @cached_property
    def before(self):
        """The round assessed without its pressures."""
        return assess(without_gauges(self.assessed.round))

    @property
    def headline_before(self) -> str:
        """What was said without them."""
        return verdict_said(self.before, self.assessed.words).headline

    @property
    def added(self) -> str:
        """What the gauges added to the verdict."""
        return added_said(self.before, self.assessed.found, self.headline_before) if self.is_read else ""

    @property
    def figures(self) -> list[tuple[str, str, str]]:
        """Each figure: label, value, what is expected."""
        return figures_said(self.assessed.found, self.assessed.words)

    @cached_property
    def _taken(self) -> list[Step]:
        base = self.assessed.round
        found = [Step("", 0.0, self.assessed.found.table)]
        for way, oz, readings in self.steps:
            found.append(Step(way, oz, table_of(after_step(base, readings)) if readings else None))
        return found

    @cached_property
    def plan(self) -> Plan:
        """What to do next."""
        return plan_of(self.assessed.found, self._taken, self.factory_oz)

    def asked_for(self, way: str) -> bool:
        """Whether the machine as found is proved, and asks for its charge to be moved this way."""
        first = plan_of(self.assessed.found, self._taken[:1], self.factory_oz)
        return first.says == "weigh_in" or (first.says == "step" and first.way == way)

    @property
    def set_by(self) -> str:
        """What the charge is set by, in words."""
        return set_by(self.plan, self.assessed.words)

    @property
    def said(self) -> ChargingSaid:
        """The plan in words."""
        return plan_said(self.plan, self.assessed.found, self.assessed.words, self.factory_oz)

    @property
    def points(self) -> list[Point]:
        """The trace of what the charge is set by."""
        target = self.plan.target
        if target.by == WEIGH_IN:
            return []
        found = []
        for step in self._taken:
            q = step.table.get(target.by) if step.table else None
            if q is None:
                continue
            off, half = q.measured.value - target.value_f, target.tolerance_f
            label = "as found" if not step.way else f"{'−' if step.way == RECOVER else '+'} {weight(step.oz)}"
            state = state_of(off, q.measured.u95, -half, half)
            found.append(Point(q.measured.value, label, off / half, q.measured.u95 / half, state))
        return found


def step_reading(reading):
    """A reading after a step, at its place as of the round."""
    return replace(reading, leg=None)
