"""The diagnosis of a round: causes with their evidence, the one verdict, the gauge decision, what to do and what to
read next.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from engine.diagnosis import gauges
from engine.diagnosis.actions import LEAST_TO_DO, Action, seen_faults, to_do
from engine.diagnosis.by_rule import airflow_proved, found_by_rule, not_of_the_return
from engine.diagnosis.cause import HEALTHY, SUCTION_LINE, is_in
from engine.diagnosis.causes import EVERY_CAUSE, Setting, causes_in, group_of, setting_of
from engine.diagnosis.conclusion import FEWEST, NOTHING_SHOWN, SURE_HEALTHY, Conclusion, Shown, concluded, in_kept_order
from engine.diagnosis.evidence import Evidence, evidence
from engine.diagnosis.gauges import GaugeDecision, gauge_decision
from engine.diagnosis.likelihood import Ranked, in_circuit, rank
from engine.diagnosis.next_steps import Advice, is_walked, missing_basics
from engine.diagnosis.observation_likelihoods import is_told, ways_of
from engine.diagnosis.stop_first import stop_first
from engine.diagnosis.verdict import (
    CANNOT_TELL,
    DOES_NOT_COUNT,
    RESTART,
    SOUND,
    STOP_FIRST,
    SUSPECTS,
    UNEXPLAINED,
    Case,
    Verdict,
)
from engine.diagnosis.verdict_rules import verdict_of
from engine.diagnosis.what_next import Judged, what_next
from engine.quantities.residual import OF_THE_CIRCUIT, Residual
from engine.quantities.table import Table
from engine.readings.round import Round
from engine.readings.steadiness import SWINGING
from engine.uncertainty.trend import Trend
from engine.validity.finding import CIRCUIT, Finding

MOST_CAUSES, LEAST_SHOWN = 4, 0.05
NO_TRENDS: Mapping[str, Trend] = MappingProxyType({})
# What is read of the refrigerant by a clamp: what pressures tell more of. A draw that is high is read again first.
OF_THE_LINES = ("approach", "suction", "heat_approach", "true_suction", "discharge")


@dataclass(frozen=True)
class Diagnosis:
    """ranked: every cause with its probability; residuals: what they were judged by. causes: the likeliest with their
    evidence.

    gauges: the decision; actions: what to do, each only where its fault was seen; basics: what every judgement needs
    and is not read yet; steps: what to read or look at next, best first; split_by: the step that would tell the causes
    of a group apart, or None.
    """

    setting: Setting
    ranked: Ranked
    residuals: tuple[Residual, ...]
    conclusion: Conclusion
    verdict: Verdict
    causes: tuple[Evidence, ...]
    gauges: GaugeDecision
    actions: tuple[Action, ...]
    basics: tuple[Advice, ...]
    steps: tuple[Advice, ...]
    split_by: Advice | None

    @property
    def against_baseline(self) -> str:
        """What of the diagnosis keeps the round from being a baseline: 'fault_likelier' where the faults together are
        likelier than soundness, or it must stop, 'not_told_sound' where the verdict tells nothing; else ''.
        """
        if self.verdict.state == STOP_FIRST or self.ranked.by_group[HEALTHY] < SURE_HEALTHY:
            return "fault_likelier"
        return "" if self.verdict.state == SOUND else "not_told_sound"

    @property
    def shown(self) -> Shown:
        """What is said of the round, for the next time."""
        return Shown(self.verdict.group, self.verdict.cause, tuple(e.cause for e in self.causes))


def diagnose(
    round_: Round,
    table: Table,
    findings: tuple[Finding, ...],
    with_baseline: bool,
    shown: Shown = NOTHING_SHOWN,
    trends: Mapping[str, Trend] = NO_TRENDS,
) -> Diagnosis:
    """Judge a round that is worked out. round_: as it was read; with_baseline: whether the table is held against the
    unit's own baseline; trends: how its quantities drifted over earlier visits.
    """
    setting = setting_of(round_)
    withheld = [f.withholds for f in findings]
    residuals = tuple(r for r in table.residuals if not (CIRCUIT in withheld and r.kind.id in OF_THE_CIRCUIT))
    excluded = (
        *(("other_size",) if with_baseline else ()), *_not_read(setting, residuals), *not_of_the_return(table)
    )  # fmt: skip
    drifts = {id_: trend for id_, trend in trends.items() if id_ in table.quantities and is_told(trend)}
    seen = _seen(round_)
    ranked = rank(residuals, seen, setting, excluded, found_by_rule(table), ways_of(drifts))
    conclusion = concluded(ranked, residuals, shown, seen)
    basics = tuple(missing_basics(round_, setting, table.measured.airflows.measured))
    likeliest = _likeliest(ranked, residuals, shown)
    suspects = _suspects(likeliest, ranked, shown)
    verdict = verdict_of(Case(table, residuals, findings, stop_first(table), ranked, conclusion, basics, suspects))
    decision = _gauges(round_, table, findings, ranked, residuals, verdict)
    causes = _causes(likeliest, ranked, residuals, round_, verdict, drifts)
    actions = _actions(round_, verdict, causes)
    steps = what_next(Judged(round_, table, residuals, ranked, verdict, basics, decision))
    only_group = verdict.group not in ("", HEALTHY) and not verdict.cause
    split_by = next((step for step in steps if step.gain > 0), None) if only_group else None
    return Diagnosis(
        setting, ranked, residuals, conclusion, verdict, causes, decision, actions, basics, steps, split_by
    )


def _not_read(setting: Setting, residuals: tuple[Residual, ...]) -> tuple[str, ...]:
    """The probes on whose reading nothing rests, and the suction line where nobody read along it: what is not there to
    be wrong is no suspect.
    """
    held, kinds = {reading for r in residuals for reading in r.slopes}, {r.kind.id for r in residuals}
    known = causes_in(setting).values()
    lines = [c.id for c in known if c.group == SUCTION_LINE and not kinds & c.signs_on(*setting.facts).keys()]
    return (*(c.id for c in known if c.probe and c.probe[0] not in held), *lines)


def _seen(round_: Round) -> dict[str, str]:
    """What was seen, and what a held probe saw: a suction line that swings."""
    swings = any(r.steady == SWINGING and r.place.startswith("suction_line") for r in round_.readings)
    return {**round_.seen, **({"suction_swings": "yes"} if swings else {})}


def _gauges(
    round_: Round,
    table: Table,
    findings: tuple[Finding, ...],
    ranked: Ranked,
    residuals: tuple[Residual, ...],
    verdict: Verdict,
) -> GaugeDecision:
    below = any(f.id == "liquid_below_outdoor" for f in findings)
    own = EVERY_CAUSE[verdict.cause].group if verdict.cause else verdict.group
    suspected = next(iter(ranked.by_group)) if verdict.state == CANNOT_TELL and len(residuals) >= FEWEST else ""
    return gauge_decision(
        gauges.Case(
            round_,
            own,
            suspected,
            verdict.state == STOP_FIRST,
            verdict.counts,
            airflow_proved(table),
            below,
            in_circuit(ranked) if verdict.reason in (SUSPECTS, UNEXPLAINED) and len(residuals) >= FEWEST else 0.0,
            verdict.cause,
            _stays_out(round_, ranked, verdict),
        )
    )


def _stays_out(round_: Round, ranked: Ranked, verdict: Verdict) -> bool:
    """Whether a line is out of range that nothing explains, with the whole walk read."""
    is_of_it = verdict.reason == UNEXPLAINED and any(id_ in OF_THE_LINES for id_ in verdict.quantities)
    return is_of_it and is_walked(round_, ranked.hypotheses.setting)


def _likeliest(ranked: Ranked, residuals: tuple[Residual, ...], shown: Shown) -> tuple[str, ...]:
    """The causes worth showing, likeliest first; none where the readings say nothing yet."""
    if len(residuals) < FEWEST:
        return ()
    least = {c: LEAST_SHOWN / 2 if c in shown.causes else LEAST_SHOWN for c in ranked.by_cause}  # what is shown stays
    likely = [c for c, p in ranked.by_cause.items() if p >= least[c]] or list(ranked.by_cause)[:1]
    return tuple(in_kept_order(likely, ranked.by_cause, shown.causes)[:MOST_CAUSES])


def _suspects(likeliest: tuple[str, ...], ranked: Ranked, shown: Shown) -> tuple[str, ...]:
    """The likeliest two groups of the causes worth showing: several of one group are likelier together than one that
    stands alone.
    """
    groups, before = (
        tuple(dict.fromkeys(group_of(EVERY_CAUSE[c], ranked.kinds) for c in causes if c in EVERY_CAUSE))
        for causes in (likeliest, shown.causes)
    )
    by_share = sorted(groups, key=lambda group: -ranked.by_group[group])
    return tuple(in_kept_order(by_share, ranked.by_group, before)[:2])


def _causes(
    likeliest: tuple[str, ...],
    ranked: Ranked,
    residuals: tuple[Residual, ...],
    round_: Round,
    verdict: Verdict,
    drifts: Mapping[str, Trend],
) -> tuple[Evidence, ...]:
    """The likeliest causes with their evidence, those of the verdict first; none where the readings do not count. What
    nothing speaks for is as likely as before anything was read: it is left out, unless the verdict names it.
    """
    if (
        verdict.reason == RESTART
        or verdict.state == DOES_NOT_COUNT
        or (verdict.state == STOP_FIRST and not verdict.behind.group)
    ):
        return ()
    told = verdict.behind if verdict.state == STOP_FIRST else verdict
    if told.group:
        of_group = {c: is_in(group_of(EVERY_CAUSE[c], ranked.kinds), told.group) for c in likeliest}
        likeliest = tuple(sorted(likeliest, key=lambda c: (c != told.cause, not of_group[c])))
    named = (HEALTHY, told.group, verdict.behind.group, *verdict.suspects)
    found = [evidence(c, ranked, residuals, round_.observations, drifts) for c in likeliest]
    return tuple(
        e
        for e in found
        if e.speaks_for or any(is_in(group_of(EVERY_CAUSE[e.cause], ranked.kinds), g) for g in named if g)
    )


def _actions(round_: Round, verdict: Verdict, causes: tuple[Evidence, ...]) -> tuple[Action, ...]:
    """What to do: nothing but the stop where it comes first; what was seen bad where the readings do not count; else
    what mends the causes too.
    """
    if verdict.state == STOP_FIRST:
        return ()
    if verdict.reason == RESTART or verdict.state in (DOES_NOT_COUNT, SOUND):
        return seen_faults(round_)
    return to_do(round_, {e.cause: e.probability for e in causes if e.probability >= LEAST_TO_DO})
