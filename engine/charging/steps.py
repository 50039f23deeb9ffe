"""Charging in weighed steps: how much next, and when to stop.

Amounts are guesses from the charge and the gap, corrected by what the steps before did; never all of it at once.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from engine.assessment import Assessment
from engine.charging.target import (
    ADD,
    NOT_READ,
    RECOVER,
    RISES_WITH_CHARGE,
    SUBCOOLING,
    SUPERHEAT,
    WEIGH_IN,
    Target,
    points_at_charge,
    target_of,
    to_prove,
)
from engine.constants import Constant
from engine.diagnosis.stop_first import FREEZING, stop_first
from engine.quantities.by_gauge import gauge_figures
from engine.quantities.table import Table
from engine.readings.round import Reading, Round
from engine.uncertainty.estimate import Estimate
from engine.uncertainty.margin import IN_RANGE, state_of, surely_above, surely_below

FIRST_PART = Constant(
    "share of the guessed amount that goes in first",
    0.6,
    "share",
    "working figure: stop short, then learn from the step",
)
LATER_PART = Constant(
    "share of it once a step has answered", 0.65, "share", "working figure: nearer the target each ounce does more"
)
NO_SUBCOOLING_PART = Constant(
    "share of it while there is no subcooling",
    0.75,
    "share",
    "working figure: what is added fills the coil first, unseen",
)
NO_SUBCOOLING_F = 1.0  # less than this nobody tells from none (working figure: a clamp and a gauge)
LATER_PART_OUT = Constant(
    "share of it while recovering near the target",
    0.5,
    "share",
    "working figure: the last ounces over do more than the first",
)
MOST_OF_CHARGE = Constant("most of the factory charge in one step", 0.15, "share", "working figure")
# How far a percent of the charge moves what it is set by [°F]: as guessed before the first step, and the least that is
# believed of a step. A machine without subcooling answers late and is not to be overfilled (working figures; the
# simulated plant moves subcooling by 0.2 to 1.5 and an orifice's superheat by 1.8).
GUESSED_ANSWER_F = {
    (SUBCOOLING, ADD): 1.0,
    (SUBCOOLING, RECOVER): 0.5,
    (SUPERHEAT, ADD): 1.8,
    (SUPERHEAT, RECOVER): 1.2,
}
LEAST_ANSWER_F = GUESSED_ANSWER_F | {(SUBCOOLING, RECOVER): 0.3}
CHARGE_OZ_PER_TON = Constant(
    "factory charge where the plate is silent",
    24.0,
    "oz/ton",
    "working figure, at the low end so that the steps are small",
)
SMALLEST_STEP_OZ, USUAL_STEP_OZ, FINE_UNDER_OZ = 0.25, 0.5, 2.0  # what a scale shows, and a hand can meter
HIGH_HEAD_F = Constant(
    "condensing over what is expected at which to stop", 15.0, "°F", "working figure; the maker's limit prevails"
)
FULL_SHARE = Constant("most of a recovery cylinder's capacity", 0.8, "share", "common practice, no single source")
CLOSE_ENOUGH_F = 1.0  # as near to a target as a clamp and a gauge read twice (working figure)
# Without an answer after so many settled steps it is no charge problem (common practice, no single source); after so
# many, in range is near enough (working figure).
NO_ANSWER_STEPS, MANY_STEPS = 2, 5


@dataclass(frozen=True)
class Step:
    """A weighed step: way, ADD or RECOVER, '' for as found; ounces [oz]; the round's table as it was read after it had
    settled, None before that.
    """

    way: str
    oz: float
    table: Table | None


def after_step(base: Round, readings: Sequence[Reading]) -> Round:
    """The round with what was read after a step in the place of what was read before."""
    new = {(r.place, r.quantity) for r in readings}
    kept = tuple(r for r in base.readings if (r.place, r.quantity) not in new)
    return replace(base, readings=(*kept, *readings))


@dataclass(frozen=True)
class Plan:
    """What to do next. says: 'prove', 'leave', 'weigh_in', 'read', 'step', or a reason to stop (see `STOPS`). prove:
    what first, by id; number, way and oz: the next step.
    """

    says: str
    target: Target
    prove: tuple[str, ...] = ()
    way: str = ""
    oz: float | None = None
    number: int = 1


# Reasons to stop, in the order in which they are looked for.
STOPS = ("iced", "freezing", "over_plate", "liquid_return", "head_high", "no_answer", "on_target")


def plan_of(found: Assessment, steps: Sequence[Step], factory_oz: float | None = None) -> Plan:
    """What to do next at a machine with gauges on. found: the round as found; steps: as found first, then each step.

    factory_oz: the plate's charge [oz].
    """
    target = target_of(found)
    now = steps[-1]
    if now.table is None:
        return Plan("read", target)
    if len(steps) > 1 and (reason := _stop(found, steps)):
        return Plan(reason, target)
    if target.by == WEIGH_IN:
        return _weighed(found, steps, target)
    gap = gap_f(target, now.table)
    if gap is None:
        return Plan("read", target)
    way = ADD if gap.value * RISES_WITH_CHARGE[target.by] > 0 else RECOVER
    if _on_target(target, gap, way, steps):
        return Plan("on_target", target)
    if len(steps) == 1 and (left := to_prove(found, way)):
        return Plan("prove", target, left, way)
    charge_oz = factory_oz or CHARGE_OZ_PER_TON.value * found.round.equipment.nominal_tons
    return Plan("step", target, (), way, _ounces(target, steps, way, charge_oz), len(steps))


def _weighed(found: Assessment, steps: Sequence[Step], target: Target) -> Plan:
    """Where no line sets the charge: all of it is weighed in, once the verdict tells of the charge and the rest is
    proved; before that it is left alone.
    """
    if target.why in NOT_READ:
        return Plan("read", target)
    if len(steps) == 1 and not points_at_charge(found):
        return Plan("leave", target)
    left = to_prove(found, "") if len(steps) == 1 else ()
    return Plan("prove", target, left) if left else Plan("weigh_in", target)


def gap_f(target: Target, table: Table) -> Estimate | None:
    """Target less measured [°F]; None where it was not read."""
    q = table.get(target.by)
    return None if q is None else Estimate(target.value_f - q.measured.value, q.measured.u95, "°F")


def _on_target(target: Target, gap: Estimate, way: str, steps: Sequence[Step]) -> bool:
    """As near as anybody reads; or in range as found, after many steps, or where the next step would undo the last."""
    if abs(gap.value) <= CLOSE_ENOUGH_F:
        return True
    in_range = state_of(-gap.value, gap.u95, -target.tolerance_f, target.tolerance_f) == IN_RANGE
    return in_range and (len(steps) == 1 or len(steps) > MANY_STEPS or steps[-1].way != way)


def _ounces(target: Target, steps: Sequence[Step], way: str, charge_oz: float) -> float:
    """The next amount [oz]: the gap by what a percent of the charge does, and of that a part."""
    now = steps[-1].table
    assert now is not None
    gap = gap_f(target, now)
    assert gap is not None
    moved = _answer_f(target, steps, charge_oz) if len(steps) > 1 else None
    answer = GUESSED_ANSWER_F[target.by, way] if moved is None else max(LEAST_ANSWER_F[target.by, way], moved)
    part = _part(target, steps, way, gap)
    percent = abs(gap.value) / answer * part.value
    ounces = min(percent / 100.0, MOST_OF_CHARGE.value) * charge_oz
    fine = SMALLEST_STEP_OZ if ounces < FINE_UNDER_OZ else USUAL_STEP_OZ
    return max(round(ounces / fine) * fine, SMALLEST_STEP_OZ)


def _part(target: Target, steps: Sequence[Step], way: str, gap: Estimate) -> Constant:
    if (target.by, way) == (SUBCOOLING, ADD) and target.value_f - gap.value <= NO_SUBCOOLING_F:
        return NO_SUBCOOLING_PART
    if len(steps) == 1:
        return FIRST_PART
    return LATER_PART_OUT if way == RECOVER and abs(gap.value) < 2 * target.tolerance_f else LATER_PART


def _answer_f(target: Target, steps: Sequence[Step], charge_oz: float) -> float | None:
    """What the last step moved, for each percent of the charge [°F]; None where it is not known."""
    before, now = steps[-2].table, steps[-1].table
    if before is None or now is None or not steps[-1].oz:
        return None
    gaps = [gap_f(target, table) for table in (before, now)]
    if gaps[0] is None or gaps[1] is None:
        return None
    return abs(gaps[0].value - gaps[1].value) / (100.0 * steps[-1].oz / charge_oz)


def _stop(found: Assessment, steps: Sequence[Step]) -> str:
    """Why to stop after the last step; '' for nothing."""
    table = steps[-1].table
    assert table is not None
    urgent = stop_first(table)
    if urgent is not None and urgent.id in STOPS and not (urgent.id == FREEZING and _warmer(steps)):
        return urgent.id
    condensing = table.get("condensing")
    if condensing is not None and surely_above(HIGH_HEAD_F.value, condensing.off.value, condensing.off.u95):
        return "head_high"
    if len(steps) > NO_ANSWER_STEPS and not _answered(steps[-1 - NO_ANSWER_STEPS], steps[-1]):
        return "no_answer"
    return ""


def _warmer(steps: Sequence[Step]) -> bool:
    """Whether it evaporates warmer than before the step: a coil that froze for want of charge is on its way up."""
    before, now = (table and table.get("evaporating") for table in (steps[-2].table, steps[-1].table))
    return bool(before and now and now.measured.value > before.measured.value)


def _answered(before: Step, now: Step) -> bool:
    """Whether superheat, subcooling, approach or suction saturation moved beyond its doubt. The same clamps and gauges
    read both, so that their offsets cancel and about half of the doubt is left.
    """
    if before.table is None or now.table is None:
        return True
    was, is_ = _that_answers(before.table), _that_answers(now.table)
    return any(surely_differs(is_[name], was[name]) for name in was if name in is_)


def surely_differs(one: Estimate, other: Estimate) -> bool:
    """Whether two readings by the same instruments differ beyond their doubt."""
    off, u95 = one.value - other.value, max(one.u95, other.u95) / 2
    return surely_above(0.0, off, u95) or surely_below(0.0, off, u95)


def _that_answers(table: Table) -> dict[str, Estimate]:
    figures, approach = gauge_figures(table.measured), table.get("approach")
    found = {name: figures[name] for name in ("total_superheat", "subcooling", "evaporating") if name in figures}
    return found | ({"approach": approach.measured} if approach is not None else {})
