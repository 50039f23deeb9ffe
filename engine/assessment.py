"""From a round of readings to its assessment: the one way in, for the web, the command line, the benchmarks and the
tests.

Readings are measured, expectations worked out, quantities compared, the diagnosis made: each once for a round, many
rounds together.
"""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from math import inf, isclose, isfinite, nan

from engine.diagnosis.conclusion import NOTHING_SHOWN, Shown
from engine.diagnosis.diagnosis import NO_TRENDS, Diagnosis, diagnose
from engine.diagnosis.verdict import Verdict
from engine.errors import EngineError
from engine.expected.today import expect
from engine.kinds.kind import Kind, held_to_kind
from engine.quantities.between import findings_between
from engine.quantities.quantity import Quantity
from engine.quantities.table import Table, held_against, worked_out
from engine.readings.airflows import Airflows, with_one_airflow
from engine.readings.inputs import Setup, numbers_of, pushes_of, setup_of
from engine.readings.measured import Measured, measure
from engine.readings.round import Reading, Round, check_setting, possible
from engine.readings.substitutes import with_substitutes
from engine.uncertainty.trend import Trend
from engine.validity.baseline_fitness import not_read, obstacles
from engine.validity.between_rounds import disagreements
from engine.validity.conditions import failed_conditions
from engine.validity.contradictions import contradictions, impossible, moisture_findings, substituted
from engine.validity.finding import Finding

CHUNK = 200  # rounds computed together: their arrays stay in the processor's cache


@dataclass(frozen=True)
class Assessment:
    """A round as it was read, worked out against what it should be today, with what withholds a part of it, and the
    diagnosis.
    """

    round: Round
    table: Table
    findings: tuple[Finding, ...]
    diagnosis: Diagnosis

    @property
    def measured(self) -> Measured:
        """What physics makes of the readings."""
        return self.table.measured

    @property
    def quantities(self) -> dict[str, Quantity]:
        """Every quantity by id, in the order they are shown."""
        return self.table.quantities

    @property
    def verdict(self) -> Verdict:
        """The one verdict."""
        return self.diagnosis.verdict

    @property
    def baseline_obstacles(self) -> tuple[str, ...]:
        """Why this round may not become the baseline, by id; empty when it may."""
        by_diagnosis = self.diagnosis.against_baseline
        return (*obstacles(self.measured, self.findings), *((by_diagnosis,) if by_diagnosis else ()))

    @property
    def baseline_lacks(self) -> tuple[str, ...]:
        """The places of the follow-up walk that it would say nothing of as a baseline."""
        return not_read(self.round)

    def differs_from(self, other: "Assessment") -> "Differs":
        """What this says otherwise than another assessment of the same readings: under another rule, or by another
        engine.
        """
        changed = [
            id_ for id_, q in self.quantities.items() if id_ not in other.quantities or _moved(q, other.quantities[id_])
        ]
        return Differs(
            self.verdict.decides != other.verdict.decides,
            self.diagnosis.gauges.decides != other.diagnosis.gauges.decides,
            (*changed, *(id_ for id_ in other.quantities if id_ not in self.quantities)),
        )

    def disagrees_with(self, earlier: "Assessment") -> tuple[Finding, ...]:
        """What between an earlier round of the visit and this one cannot be, or cannot be compared."""
        return disagreements(earlier.measured, self.measured)


@dataclass(frozen=True)
class Differs:
    """What of two assessments differs: the verdict, the gauge decision, and the quantities (ids) whose state, expected
    value or tolerance moved.
    """

    verdict: bool
    gauges: bool
    quantities: tuple[str, ...]


def _moved(one: Quantity, other: Quantity) -> bool:
    numbers = zip(_judged_by(one), _judged_by(other), strict=True)
    return one.state != other.state or not all(a == b or isclose(a, b, rel_tol=1e-6) for a, b in numbers)


def _judged_by(q: Quantity) -> tuple[float, ...]:
    """What a quantity is held against; infinite where there is nothing."""
    expected = q.expected.value if q.expected.known else None
    return tuple(
        inf if number is None or not isfinite(number) else number for number in (expected, q.low, q.high, q.limit)
    )


def assess(
    round_: Round,
    baseline: Table | None = None,
    shown: Shown = NOTHING_SHOWN,
    kind: Kind | None = None,
    trends: Mapping[str, Trend] = NO_TRENDS,
) -> Assessment:
    """Assess one round. baseline: the table of a sealed healthy round of the same machine, or what that and its visits
    since have taught (engine.kinds.machine); shown: what was said of this round last; kind: what is known of sound
    machines of its kind, for what no baseline speaks for; trends: how the machine drifted over earlier visits.

    Raises an EngineError naming the value that is out of range.
    """
    (found,) = assess_many([round_], [baseline], [shown], kind, [trends])
    if isinstance(found, EngineError):
        raise found
    return found


def assess_many(
    rounds: Sequence[Round],
    baselines: Sequence[Table | None] | None = None,
    shown: Sequence[Shown] | None = None,
    kind: Kind | None = None,
    trends: Sequence[Mapping[str, Trend]] | None = None,
) -> list[Assessment | EngineError]:
    """Assess many rounds together, in order. A round that cannot be assessed answers with its error and stops no other.

    baselines, shown, trends: of each round, as for `assess`; none for any where left out. kind: for all of them.
    """
    none = [None] * len(rounds)
    beside = zip(baselines or none, shown or none, trends or none, strict=True)
    return [
        found
        if isinstance(found, EngineError)
        else _judged(*found, baseline, said or NOTHING_SHOWN, kind, drifts or NO_TRENDS)
        for found, (baseline, said, drifts) in zip(_worked_out(rounds), beside, strict=True)
    ]


def table_of(round_: Round) -> Table:
    """A round worked out, without a diagnosis: what a later round is held against. Raises an EngineError naming the
    value that is out of range.
    """
    (found,) = tables_of([round_])
    if isinstance(found, EngineError):
        raise found
    return found


def tables_of(rounds: Sequence[Round]) -> list[Table | EngineError]:
    """Many rounds worked out together, in order, without a diagnosis; an error in the place of what cannot be."""
    return [found if isinstance(found, EngineError) else found[1] for found in _worked_out(rounds)]


def _judged(
    round_: Round,
    table: Table,
    findings: tuple[Finding, ...],
    baseline: Table | None,
    shown: Shown,
    kind: Kind | None,
    trends: Mapping[str, Trend],
) -> Assessment:
    if baseline is not None:
        table = held_against(table, baseline)
    if kind is not None:
        table = held_to_kind(table, kind)
    findings += findings_between(table, findings)
    return Assessment(round_, table, findings, diagnose(round_, table, findings, baseline is not None, shown, trends))


# A round's place among the rounds, the round, the same with one airflow, its airflows, and the readings left out.
_Member = tuple[int, Round, Round, Airflows, tuple[Reading, ...]]


def _worked_out(rounds: Sequence[Round]) -> list[tuple[Round, Table, tuple[Finding, ...]] | EngineError]:
    """Each round without its impossible readings, its table, and the findings; rounds of one setup are computed
    together.
    """
    answers: list[tuple[Round, Table, tuple[Finding, ...]] | EngineError] = [EngineError("not worked out")] * len(
        rounds
    )
    groups: dict[Setup, list[_Member]] = defaultdict(list)
    for index, round_ in enumerate(rounds):
        try:
            check_setting(round_)
        except EngineError as error:
            answers[index] = error
            continue
        rest, left_out = possible(round_)
        one, airflows = with_one_airflow(with_substitutes(rest))
        groups[setup_of(one)].append((index, rest, one, airflows, left_out))
    for setup, members in groups.items():
        for start in range(0, len(members), CHUNK):
            some = members[start : start + CHUNK]
            for (index, rest, *_), answer in zip(some, _together(setup, some), strict=True):
                answers[index] = (rest, *answer)
    return answers


def _together(setup: Setup, members: list[_Member]) -> list[tuple[Table, tuple[Finding, ...]]]:
    rows, findings = [], []
    for _, _, round_, airflows, left_out in members:
        numbers = numbers_of(round_)
        pushes = pushes_of(round_, setup, numbers)
        found = contradictions(round_, numbers, pushes)
        contradicted = {name: finding.id for finding in found for name in finding.inputs}
        rows.append((round_, airflows, numbers | dict.fromkeys(contradicted, nan), pushes, contradicted))
        findings.append((*failed_conditions(round_), *found, *impossible(left_out), *substituted(round_)))
    table = [_without_moisture(m) for m in measure(setup, rows)]
    measured = [m for m, _ in table]
    return [
        (worked_out(m, e), (*before, *moisture))
        for (m, moisture), e, before in zip(table, expect(setup, measured), findings, strict=True)
    ]


def _without_moisture(measured: Measured) -> tuple[Measured, tuple[Finding, ...]]:
    """A measured round, without what rests on a humidity that cannot be, and the finding that says so."""
    found = moisture_findings(measured)
    contradicted = {name: finding.id for finding in found for name in finding.inputs}
    return (replace(measured, contradicted=measured.contradicted | contradicted) if contradicted else measured), found
