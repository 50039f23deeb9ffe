"""The first verdict: from split, airflow and capacity against expected, airflow always first.

Each rule: a permanent id, when it applies (in a technician's words, over the three indicators), a headline, what it
says, what to do next. The first rule that applies decides. RULES is the order.
"""

from collections.abc import Callable
from dataclasses import dataclass

from engine.airflow.methods import AirflowMethod
from engine.judgement.findings import CONTRADICTION, Finding
from engine.judgement.indicators import BORDERLINE, CANT_TELL, IN_RANGE, Indicator
from engine.judgement.validity import Withheld
from engine.wording import airflow, capacity, difference, listed, share

ATTENTION, FINE, OPEN, WITHHELD = "attention", "fine", "open", "withheld"


@dataclass(frozen=True)
class Case:
    """What the rules look at."""

    split: Indicator
    airflow: Indicator
    capacity: Indicator
    airflow_method: AirflowMethod | None
    findings: list[Finding]
    withheld: list[Withheld]
    needs: list[str]
    seriously_low_cfm_per_ton: float

    @property
    def measured(self) -> bool:
        """Whether the airflow was measured rather than guessed."""
        return bool(self.airflow_method and self.airflow_method.measured)

    @property
    def contradictions(self) -> list[Finding]:
        """Findings that withhold results."""
        return [finding for finding in self.findings if finding.level == CONTRADICTION]


@dataclass(frozen=True)
class Verdict:
    """The decision: rule id, kind (attention, fine, open, withheld), headline, what it rests on, what to do next."""

    rule: str
    kind: str
    headline: str
    says: str
    next_step: str


@dataclass(frozen=True)
class VerdictRule:
    """One rule of the first verdict."""

    id: str
    kind: str
    applies: Callable[[Case], bool]
    headline: str
    says: Callable[[Case], str]
    next_step: Callable[[Case], str]


MEASURE_AIRFLOW = "Measure the airflow: total external static and the blower table at the actual tap."
SETTLERS = {
    "airflow_method": "Measure the airflow a second way, best with a calibrated flow device.",
    "return_humidity_offset": "Read return humidity with a second, settled probe.",
    "supply_dry_bulb_offset": "Read return and supply with the same probe: its offset then cancels.",
    "return_dry_bulb_offset": "Read return and supply with the same probe: its offset then cancels.",
    "shared_humidity_offset": "Check the humidity sensor against a wet bulb.",
    "capacity_model": "Enter the unit's own performance table, or compare with its baseline.",
    "sensible_share": "Enter the unit's own performance table, or compare with its baseline.",
}
WIDER = "Read again with a better instrument, both ends together."


def _over_expected(case: Case) -> str:
    return f"{difference(case.split.measured.value - case.split.expected.value)}"


def _airflow_low(case: Case) -> str:
    value = case.airflow.measured.value
    grade = "seriously low" if value < case.seriously_low_cfm_per_ton else "low"
    text = f"Airflow is {grade}: {airflow(value)}."
    if case.split.high:
        text += f" The split is {_over_expected(case)} above what this air should give."
    elif case.split.state == IN_RANGE:
        text += " At that airflow the split is as it should be."
    return text + " Do not add refrigerant on these readings."


def _split_high(case: Case) -> str:
    text = f"The split is {_over_expected(case)} above what this air should give"
    text += " at the guessed airflow: less air is moving than guessed." if not case.measured else "."
    return (
        text
        + " Capacity loses little when air is lost, so a fair capacity clears nothing. Do not add refrigerant on these readings."
    )


def _capacity_low(case: Case) -> str:
    found = case.capacity
    if not found.low:
        return f"Airflow is in range and the split is {_over_expected(case)} short. Capacity does not settle it yet."
    short = 1 - found.measured.value / found.expected.value
    of = f"{capacity(found.measured.value)} of {capacity(found.expected.value)} expected"
    return f"Airflow is in range and capacity is {share(short)} short: {of}."


def _low_on_a_guess(case: Case) -> str:
    parts = []
    if case.split.low:
        parts.append(f"the split is {_over_expected(case)} short")
    if case.capacity.low:
        parts.append(f"capacity is {share(1 - case.capacity.measured.value / case.capacity.expected.value)} short")
    return (
        f"{listed(parts)[:1].upper()}{listed(parts)[1:]}, but the airflow is a guess. Airflow is proved before charge is doubted."
    )


def _in_range(case: Case) -> str:
    return (
        f"Split {difference(case.split.measured.value)}, {airflow(case.airflow.measured.value)} "
        f"and {capacity(case.capacity.measured.value)} are what this air should give."
    )


def _consistent(indicator: Indicator) -> bool:
    return indicator.lean is not None and abs(indicator.lean) <= 1


def _consistent_capacity(case: Case) -> str:
    measured, expected = case.capacity.measured, case.capacity.expected
    return (
        f"Split and airflow are what this air should give. Capacity {capacity(measured.value)} agrees with "
        f"{capacity(expected.value)} expected, as far as ± {capacity(measured.u95)} can show."
    )


def _unsure(case: Case) -> list[Indicator]:
    return [i for i in (case.split, case.airflow, case.capacity) if i.state in (BORDERLINE, CANT_TELL)]


def _settler(case: Case) -> str:
    if not case.measured:
        return MEASURE_AIRFLOW
    doubtful = _unsure(case)
    return SETTLERS.get(doubtful[0].decided_by, WIDER) if doubtful else WIDER


def _still_needed(case: Case) -> str:
    return f"Still needed: {listed(case.needs)}."


def _read_next(case: Case) -> str:
    if case.needs[0] == "airflow":
        return "Measure the airflow, or state the guess from nominal tons."
    return f"Read {case.needs[0]}."


def _unsettled(case: Case) -> str:
    names = listed([i.label.lower() for i in _unsure(case)])
    verb = "is" if len(_unsure(case)) == 1 else "are"
    return f"The margin does not exceed the uncertainty: {names} {verb} not settled by these readings."


RULES = (
    VerdictRule(
        "contradiction", WITHHELD, lambda c: bool(c.contradictions), "Readings contradict each other.",
        lambda c: c.contradictions[0].message, lambda c: c.contradictions[0].hint,
    ),
    VerdictRule(
        "airflow_low", ATTENTION, lambda c: c.measured and c.airflow.low and not c.withheld, "Airflow first.",
        _airflow_low, lambda c: "Filter, coil face, blower wheel, speed tap, closed registers. Mend, settle, read again.",
    ),
    VerdictRule(
        "needs_readings", OPEN, lambda c: not c.split.measured.known, "Not enough read yet.",
        _still_needed, _read_next,
    ),
    VerdictRule(
        "not_valid", WITHHELD, lambda c: bool(c.withheld), "No verdict yet.",
        lambda c: " ".join(w.reason for w in c.withheld), lambda c: c.withheld[0].hint,
    ),
    VerdictRule(
        "split_high", ATTENTION, lambda c: c.split.high and not (c.measured and c.airflow.state == IN_RANGE),
        "Airflow first.", _split_high,
        lambda c: MEASURE_AIRFLOW if not c.measured else "Filter, coil face, blower wheel, speed tap. Mend, settle, read again.",
    ),
    VerdictRule(
        "split_high_airflow_in_range", OPEN, lambda c: c.split.high, "Split and airflow disagree.",
        lambda c: f"The split is {_over_expected(c)} high, yet the airflow measured in range. One of them is wrong.",
        lambda c: "Move the supply probe out of the coil's sight, or measure the airflow another way.",
    ),
    VerdictRule(
        "airflow_high", ATTENTION, lambda c: c.measured and c.airflow.high, "Airflow is high.",
        lambda c: f"{airflow(c.airflow.measured.value)} dries little and lowers the split.",
        lambda c: "Check the speed tap and the drop across filter and coil.",
    ),
    VerdictRule(
        "low_on_a_guess", OPEN, lambda c: not c.measured and (c.split.low or c.capacity.low), "Prove the airflow.",
        _low_on_a_guess, lambda c: MEASURE_AIRFLOW,
    ),
    VerdictRule(
        "capacity_low", ATTENTION, lambda c: c.airflow.state == IN_RANGE and (c.capacity.low or c.split.low),
        "Capacity is low, airflow is not why.", _capacity_low,
        lambda c: "Look at the condenser coil and fan, then read the liquid line and the outdoor air.",
    ),
    VerdictRule(
        "looks_right", FINE,
        lambda c: c.measured and all(i.state == IN_RANGE for i in (c.split, c.airflow, c.capacity)),
        "Looks right.", _in_range, lambda c: "Read the lines to see more than the air side shows.",
    ),
    VerdictRule(
        "nothing_out_of_range", FINE,
        lambda c: c.measured and c.split.state == c.airflow.state == IN_RANGE and _consistent(c.capacity),
        "Nothing out of range.", _consistent_capacity, _settler,
    ),
    VerdictRule(
        "needs_more", OPEN, lambda c: bool(c.needs), "Not enough read yet.",
        _still_needed, _read_next,
    ),
    VerdictRule(
        "airflow_guessed", OPEN, lambda c: not c.measured and c.split.state == IN_RANGE, "Nothing out of range so far.",
        lambda c: "The split is what this air should give at a guessed airflow. A guess proves nothing.",
        lambda c: MEASURE_AIRFLOW,
    ),
    VerdictRule(
        "nothing_to_compare", OPEN, lambda c: not c.split.expected.known, "Nothing to compare with.",
        lambda c: f"{c.split.expected.missing[:1].upper()}{c.split.expected.missing[1:]}.",
        lambda c: "Enter the unit's own published table, or take the record and compare with its baseline.",
    ),
    VerdictRule("unsettled", OPEN, lambda c: True, "Can't tell yet.", _unsettled, _settler),
)  # fmt: skip


def first_verdict(case: Case) -> Verdict:
    """The verdict of the first rule that applies."""
    rule = next(rule for rule in RULES if rule.applies(case))
    return Verdict(rule.id, rule.kind, rule.headline, rule.says(case), rule.next_step(case))
