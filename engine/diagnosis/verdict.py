"""The one verdict: its states, what it names, and the case it is made of. Ids and numbers; the words are in
engine.report, the rules in engine.diagnosis.verdict_rules.
"""

from dataclasses import dataclass, field

from engine.diagnosis.by_rule import (
    approach_settled_by_gauge,
    flow_group,
    static_of_much_air,
    statics_with_the_airflow_right,
)
from engine.diagnosis.conclusion import Conclusion
from engine.diagnosis.likelihood import Ranked
from engine.diagnosis.next_steps import Advice
from engine.diagnosis.stop_first import Urgent
from engine.quantities.quantity import Quantity
from engine.quantities.residual import Residual
from engine.quantities.table import Table
from engine.validity.finding import CIRCUIT, CONTRADICTION, EVERYTHING, SPLIT, Finding

STOP_FIRST, DOES_NOT_COUNT, CAUSE, GROUP, SOUND, CANNOT_TELL = (
    "stop_first",
    "does_not_count",
    "cause",
    "group",
    "sound",
    "cannot_tell",
)
STATES = (STOP_FIRST, DOES_NOT_COUNT, CAUSE, GROUP, SOUND, CANNOT_TELL)
# Why it cannot be told yet
NOT_READ, CONTRADICTED, UNEXPLAINED, AIRFLOW_GUESSED, WATER_NOT_READ, SUSPECTS = (
    "not_read", "contradicted", "unexplained", "airflow_guessed", "water_not_read", "suspects",
)  # fmt: skip
# The split (in heating the rise) is read and something is expected of it, and what a verdict needs is not: what it says
# is said.
SPLIT_ALONE = "split_alone"
BY_THE_RULE = "flow_by_the_rule"  # airflow outside the shop's limits, water flow under the unit's own
RESTART = "restart"  # read in the first minutes after a thaw: airflow, or a coil that is not fed
WATER_SIDE = "water_side"  # of a ground-source unit only the water was read: an answer by itself
# Findings about readings that are there: before any there is nothing for them to withhold.
ABOUT_READINGS = ("still_moving", "running_not_entered", "not_settled", "strips_not_seen", "capacity_not_seen")
# What says nothing about how the machine does today: how large a room's duct is.
BY_DESIGN = ("carries_",)


@dataclass(frozen=True)
class Verdict:
    """state: one of STATES. reason: why, by id, where the state has several.

    group, cause, probability: what is told and how likely; behind: what is likely there as well, which is judged once
    what is told is mended. findings: what withholds, shortest remedy first; withholds: what it takes out. quantities:
    what the sentence names; unexplained: what is out of range and comes of neither. suspects: groups that may be,
    likeliest first.
    """

    state: str
    reason: str = ""
    group: str = ""
    cause: str = ""
    probability: float = 0.0
    behind: Conclusion = field(default_factory=Conclusion)
    findings: tuple[Finding, ...] = ()
    withholds: tuple[str, ...] = ()
    quantities: tuple[str, ...] = ()
    unexplained: tuple[str, ...] = ()
    suspects: tuple[str, ...] = ()
    urgent: Urgent | None = None
    humid: bool = False

    @property
    def decides(self) -> tuple[object, ...]:
        """What it decides, without how likely and without numbers:
        two verdicts with the same have the same headline.
        """
        return self.state, self.reason, self.group, self.cause, self.behind.group, self.suspects

    @property
    def counts(self) -> bool:
        """Whether the circuit's readings count."""
        return self.state not in (STOP_FIRST, DOES_NOT_COUNT) and not self.withholds


@dataclass(frozen=True)
class Case:
    """What the rules look at. basics: what every judgement needs and is not read yet; suspects: the groups that
    are likeliest, likeliest first.
    """

    table: Table
    residuals: tuple[Residual, ...]
    findings: tuple[Finding, ...]
    urgent: Urgent | None
    ranked: Ranked
    conclusion: Conclusion
    basics: tuple[Advice, ...]
    suspects: tuple[str, ...]

    @property
    def withheld(self) -> tuple[Finding, ...]:
        """The findings that withhold something there is, shortest remedy first."""
        read = any(q.measured.known for q in self.table.quantities.values())
        found = [
            f
            for f in self.findings
            if f.withholds in (EVERYTHING, CIRCUIT, SPLIT) and (read or f.id not in ABOUT_READINGS)
        ]
        return tuple(sorted(found, key=lambda f: f.minutes))

    @property
    def withholds(self) -> tuple[str, ...]:
        """What is withheld: everything alone, or the circuit and the air pair."""
        found = tuple(dict.fromkeys(f.withholds for f in self.withheld))
        return (EVERYTHING,) if EVERYTHING in found else found

    @property
    def airflow(self) -> Quantity | None:
        """The airflow where it was measured."""
        return self.table.get("airflow") if self.table.measured.airflows.measured else None

    @property
    def flow_told(self) -> str:
        """The group that a flow out of its limits tells; '' for none."""
        return flow_group(self.table)

    @property
    def unexplained(self) -> tuple[str, ...]:
        """Quantities out of range, but for what is only predicted, by a stand-in, so by design or worth a word only."""
        return tuple(
            q.id
            for q in self.table.quantities.values()
            if q.side
            and not (q.predicted or self.table.rests_on_a_stand_in(q))
            and not q.id.startswith(BY_DESIGN)
            and q.id not in self.worth_a_word
        )

    @property
    def worth_a_word(self) -> tuple[str, ...]:
        """Quantities out of range that keep no machine from being sound."""
        statics = statics_with_the_airflow_right(self.table) or static_of_much_air(self.table)
        return (*statics, *approach_settled_by_gauge(self.table))

    @property
    def contradictions(self) -> tuple[Finding, ...]:
        """Findings that cannot be true together."""
        return tuple(f for f in self.findings if f.level == CONTRADICTION)
