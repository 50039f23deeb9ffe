"""The diagnosis of a round: causes with their evidence, the one verdict, the gauge decision, what to do and what to
read next.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType

from engine.diagnosis import gauges
from engine.diagnosis.actions import LEAST_TO_DO, Action, look_for, seen_faults, to_do
from engine.diagnosis.by_rule import airflow_proved, found_by_rule, not_of_the_return, reads_as_heated
from engine.diagnosis.cause import AIR_GROUPS, CIRCUIT_OR_OUTDOORS, HEALTHY, IN_THE_CIRCUIT, SUCTION_LINE, is_in
from engine.diagnosis.causes import EVERY_CAUSE, Setting, causes_in, group_of, setting_of
from engine.diagnosis.conclusion import FEWEST, NOTHING_SHOWN, SURE_HEALTHY, Conclusion, Shown, concluded, in_kept_order
from engine.diagnosis.evidence import Evidence, evidence
from engine.diagnosis.gauges import GaugeDecision, gauge_decision
from engine.diagnosis.likelihood import Ranked, and_sound, in_circuit, rank, within
from engine.diagnosis.next_steps import (
    Advice,
    before_leaving,
    is_walked,
    look_at,
    missing_basics,
    next_steps,
    still_to_read,
)
from engine.diagnosis.observation_likelihoods import is_told, ways_of
from engine.diagnosis.steps import AIRFLOW, AMPS, DISCHARGE, READ_LINE_AGAIN, SUCTION_LINES
from engine.diagnosis.stop_first import liquid_not_ruled_out, stop_first
from engine.diagnosis.verdict import (
    CANNOT_TELL,
    CAUSE,
    DOES_NOT_COUNT,
    GROUP,
    RESTART,
    SOUND,
    STOP_FIRST,
    SUSPECTS,
    UNEXPLAINED,
    Case,
    Verdict,
)
from engine.diagnosis.verdict_rules import out_of_range, verdict_of
from engine.quantities.residual import Residual
from engine.quantities.table import Table
from engine.readings.round import Round
from engine.readings.steadiness import SWINGING
from engine.uncertainty.margin import IN_RANGE
from engine.uncertainty.trend import Trend
from engine.validity.finding import CIRCUIT, EVERYTHING, Finding

MOST_CAUSES, LEAST_SHOWN, MOST_STEPS = 4, 0.05, 3
NO_TRENDS: Mapping[str, Trend] = MappingProxyType({})
# What the refrigerant circuit and the outdoor side are judged by: not where a finding withholds the circuit.
CIRCUIT_KINDS = (
    "approach", "suction", "suction_rise", "liquid_drop", "condenser_rise", "amps", "superheat", "subcooling",
    "evaporating", "condensing",
    "heat_approach", "heat_condensing", "true_suction", "discharge",
)  # fmt: skip

# What is read of the refrigerant by a clamp: what pressures tell more of. A draw that is high is read again first.
OF_THE_LINES = ("approach", "suction", "heat_approach", "true_suction", "discharge")

# What tells most about a quantity that is out of range and that no cause is judged by.
ABOUT = {
    "total_static": ("filter", "filter_drop", "coil_drop", "registers", "ducts", "evaporator_face"),
    "return_dew_point": ("grille", "ducts"),
    "return_leak_share": ("ducts",), "gain_room": ("ducts",), "supply_dew_point": ("evaporator_face",),
}  # fmt: skip


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
    residuals = tuple(r for r in table.residuals if not (CIRCUIT in withheld and r.kind.id in CIRCUIT_KINDS))
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
    steps = _steps(round_, table, ranked, residuals, verdict, basics, decision)
    split_by = (
        next((s for s in steps if s.gain > 0), None)
        if verdict.group not in ("", HEALTHY) and not verdict.cause
        else None
    )
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


def _steps(
    round_: Round,
    table: Table,
    ranked: Ranked,
    residuals: tuple[Residual, ...],
    verdict: Verdict,
    basics: tuple[Advice, ...],
    decision: GaugeDecision,
) -> tuple[Advice, ...]:
    """What to read or look at next. Nothing while it must stop, or while nothing that is read counts."""
    if verdict.state == STOP_FIRST or EVERYTHING in verdict.withholds:
        return ()
    if liquid_not_ruled_out(table):
        return (Advice(READ_LINE_AGAIN, READ_LINE_AGAIN.minutes),)
    have = [r.kind.id for r in residuals] + (list(CIRCUIT_KINDS) if CIRCUIT in verdict.withholds else [])
    warranted = decision.decides == gauges.WARRANTED and verdict.group in ("", *IN_THE_CIRCUIT)
    apart = _in_question(verdict, table, ranked)
    told_of = apart if verdict.group else ranked
    # Before nothing more is to be read the walk is whole: what it does not tell today the next visit is held to.
    whole = verdict.state in (SOUND, CANNOT_TELL)
    found = _tells_most_first(next_steps(apart, round_, have, warranted, told_of, whole), verdict)
    if verdict.state == SOUND:
        left = [advice for advice in found if advice.step is not DISCHARGE]
        found = sorted(left, key=lambda advice: not advice.left)  # readings, then what may be looked at besides
    looks = _looks_first(round_, table, verdict, decision, found)
    first = look_at(looks, ranked, round_.standing)
    if decision.rule == gauges.CLAMPS_FIRST:
        first = still_to_read((*SUCTION_LINES, AMPS), round_, ranked.hypotheses.setting)
    ordered: dict[str, Advice] = {}
    # The circuit is doubted, and low airflow believed, once the air is measured, its flow first; what else is told is
    # looked at itself.
    outside = verdict.state in (CAUSE, GROUP) and verdict.group not in (
        *IN_THE_CIRCUIT,
        CIRCUIT_OR_OUTDOORS,
        *AIR_GROUPS,
    )
    if verdict.state in (CAUSE, GROUP):
        basics = tuple(sorted(basics, key=lambda advice: advice.step is not AIRFLOW))
    then = (*found, *basics) if outside else (*basics, *found)
    for advice in (*([first] if first else []), *then):
        ordered.setdefault(advice.step.id, advice)
    steps = tuple(ordered.values())[:MOST_STEPS]
    last = before_leaving(round_) if verdict.state in (SOUND, DOES_NOT_COUNT) else []
    return (*steps, *(a for a in last if a.step not in [s.step for s in steps]))


def _looks_first(
    round_: Round, table: Table, verdict: Verdict, decision: GaugeDecision, found: list[Advice]
) -> Sequence[str]:
    """The looks of which one goes before every reading: what shows the cause that is told, what a rule points at."""
    seen = round_.seen
    if decision.rule == gauges.BELOW_OUTDOOR and "probes_together" not in seen:
        return ("probes_together",)  # doubt the probes before the circuit
    if reads_as_heated(table, verdict.group) and "strip_heat" not in seen:
        return ("strip_heat",)
    about = _asked_about(verdict)
    if about and not any(advice.step.id in about for advice in found):  # what it says nothing of is not looked at first
        return [look for look in about if look not in seen and not _is_cleared(look, table)]
    return look_for(verdict.cause, seen) if verdict.cause else ()


def _in_question(verdict: Verdict, table: Table, ranked: Ranked) -> Ranked:
    """The hypotheses that a step should tell apart: those of the group that is told or of the suspects, or that explain
    what is out of range (and that nothing is wrong, where that is the likeliest); else all.
    """
    if verdict.group not in ("", HEALTHY) and not verdict.cause:
        return within(ranked, verdict.group)
    if verdict.reason == SUSPECTS and len(verdict.suspects) > 1:
        return within(ranked, *verdict.suspects)
    if verdict.reason != UNEXPLAINED:
        return ranked
    among = out_of_range(verdict, table, ranked)
    return and_sound(among, ranked) if next(iter(ranked.by_group)) == HEALTHY else among


def _tells_most_first(steps: list[Advice], verdict: Verdict) -> list[Advice]:
    about = _asked_about(verdict)
    return sorted(steps, key=lambda advice: advice.step.id not in about)


def _is_cleared(look: str, table: Table) -> bool:
    """Whether the drop across what would be looked at was read, and is in range."""
    drop = table.get({"filter": "filter_drop", "evaporator_face": "coil_drop"}.get(look, ""))
    return drop is not None and drop.measured.known and drop.state == IN_RANGE


def _asked_about(verdict: Verdict) -> tuple[str, ...]:
    """The steps that tell most about what is out of range and weighed by no cause."""
    return ABOUT.get(verdict.quantities[0].split(":")[0], ()) if verdict.reason == UNEXPLAINED else ()
