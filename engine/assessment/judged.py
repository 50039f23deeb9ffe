"""The judgement in words: what is wrong and why, the gauge decision, what to do, what to measure next; and what a fix has changed."""

from dataclasses import dataclass, replace
from math import hypot

from engine.assessment.actions import Action, by_cause
from engine.assessment.diagnosis import FAULT, FEWEST, KEPT_FOR, OPEN, SOUND, WITHHELD, Diagnosis, Shown
from engine.assessment.result import RoundResult
from engine.constants import ERROR_BETWEEN_ROUNDS
from engine.judgement.blind_spots import blind_spots
from engine.judgement.cause import GROUPS, ORIFICE
from engine.judgement.causes import WATER_SOURCE, causes_in, group_of
from engine.judgement.evidence import Evidence, evidence, said_of
from engine.judgement.gauges import IN_THE_CIRCUIT, WARRANTED, Case, GaugeDecision, gauge_decision
from engine.judgement.indicators import IN_RANGE
from engine.judgement.next_step import Advice, next_steps
from engine.judgement.verdict import ATTENTION, FINE, Verdict
from engine.readings.round import Round
from engine.uncertainty.propagation import K
from engine.wording import share

# The air side's verdict where no curves are published: the judgement has the water to go by.
NOTHING_TO_COMPARE = "nothing_to_compare"
# Out of range by the rise alone: the judgement knows better what to read next.
HEATING_RULES = ("heating_rise_above", "heating_rise_below")
NOTHING_MORE = "Nothing more is worth reading. Plug the test holes, caps on and tight."
COMPARED = ("heat_moved", "water_flow", "closure", "airflow")
SHOWN, LEAST_SHOWN, LEAST_TO_DO, STEPS = 4, 0.05, 0.15, 3
MOVED = 2.0  # standard deviations of a change between two rounds


@dataclass(frozen=True)
class Judged:
    """A diagnosis with its words. causes: the likeliest with their evidence; split_by: the step that would tell the group's causes apart, or None.

    not_seen: what these readings cannot show, whatever they say; urgent: what comes before any explanation.
    """

    diagnosis: Diagnosis
    headline: str
    causes: tuple[Evidence, ...]
    gauges: GaugeDecision
    to_do: tuple[Action, ...]
    steps: tuple[Advice, ...]
    split_by: Advice | None
    not_seen: tuple[str, ...]
    urgent: tuple[str, ...] = ()


def judged(round_: Round, air: RoundResult, diagnosis: Diagnosis, shown: Shown | None = None) -> Judged:
    """The words of a diagnosis. air: the round's air side; shown: what was said of this round last, whose order near ties keep."""
    ranked, residuals = diagnosis.ranked, list(diagnosis.residuals)
    if len(residuals) < FEWEST:  # nothing but how common things are: no causes to show
        return Judged(diagnosis, _headline(diagnosis), (), _gauges(round_, air, diagnosis), (), (), None, _not_seen(diagnosis))
    likeliest = [c for c, p in ranked.by_cause.items() if p >= LEAST_SHOWN][:SHOWN] or list(ranked.by_cause)[:1]
    likeliest = in_kept_order(likeliest, ranked.by_cause, shown.causes if shown else ())
    causes = tuple(evidence(c, ranked, residuals, round_.observations) for c in likeliest)
    have = tuple(r.kind.id for r in residuals)
    steps = tuple(next_steps(ranked, have, round_.observations, round_.standing))
    if diagnosis.state == SOUND:
        steps = tuple(s for s in steps if s.step.id != "pressures")
    to_do = by_cause(ranked.by_cause, LEAST_TO_DO) if diagnosis.state in (FAULT, OPEN) else ()
    return Judged(
        diagnosis, _headline(diagnosis), causes, _gauges(round_, air, diagnosis), to_do, steps[:STEPS], _splits(diagnosis, steps),
        _not_seen(diagnosis), _urgent(round_, diagnosis),
    )  # fmt: skip


def _urgent(round_: Round, d: Diagnosis) -> tuple[str, ...]:
    """Liquid on its way to the compressor, as far as lines without gauges can say it."""
    floods = d.group == "overfed" or (d.group == "charge_high" and round_.equipment.metering_device == ORIFICE)
    return ("Liquid may return to the compressor: stop it, then find out why.",) if d.state == FAULT and floods else ()


def in_kept_order(causes: list[str], by_cause: dict[str, float], before: tuple[str, ...]) -> list[str]:
    """Causes, likeliest first, but two that are nearly as likely stay in the order they had."""
    found = list(causes)
    for _ in found:
        for i in range(len(found) - 1):
            first, second = found[i : i + 2]
            had = second in before and (first not in before or before.index(second) < before.index(first))
            if had and by_cause[first] - by_cause[second] < KEPT_FOR:
                found[i : i + 2] = [second, first]
    return found


def _headline(d: Diagnosis) -> str:
    if d.state == FAULT:
        return f"{causes_in(d.ranked.hypotheses.setting)[d.cause].label if d.cause else GROUPS[d.group]}."
    return {SOUND: "Nothing wrong that shows.", OPEN: "Can't tell yet.", WITHHELD: "No verdict yet."}[d.state]


def _gauges(round_: Round, air: RoundResult, d: Diagnosis) -> GaugeDecision:
    outdoor, liquid = round_.value("outdoor", "dry_bulb"), round_.value("liquid_line_outdoor", "temperature")
    margin = hypot(round_.line_u95_f("liquid_line_outdoor"), 1.0)
    below = None not in (outdoor, liquid) and liquid < outdoor - margin
    measured = any(r.kind.id == "airflow" for r in d.residuals)
    proved = measured and air.indicator("airflow").state == IN_RANGE
    suspected = next(iter(d.ranked.by_group)) if d.state == OPEN and len(d.residuals) >= FEWEST else ""
    return gauge_decision(Case(d.state, d.group, proved, below, round_.observations, round_.rules, suspected))


def _splits(d: Diagnosis, steps: tuple[Advice, ...]) -> Advice | None:
    """The step that would say which cause of the group it is, when that is not told."""
    return next((s for s in steps if s.step.id != "pressures"), None) if d.state == FAULT and not d.cause else None


def verdict_by(judged_: Judged, first: Verdict) -> Verdict:
    """The verdict with the judgement in it: a cause found replaces what the air side alone said; a sound air side with a fault elsewhere is no fine one."""
    d = judged_.diagnosis
    if first.kind == WITHHELD:
        return first
    if d.state == WITHHELD:  # what is missing was said first; that the test would not count is said as well
        why = " ".join(w.reason for w in d.withheld if w.reason not in first.says)
        return replace(first, says=f"{first.says} {why}") if why and first.kind == OPEN else first
    if d.state == FAULT and d.group == "low_airflow" and first.rule in ("airflow_low", "split_high"):
        cause = f" {judged_.headline} {how_sure(d.ranked.by_cause[d.cause])}" if d.cause else ""
        return replace(first, says=first.says + cause, next_step=_next_words(judged_, first) if d.cause else first.next_step)
    if d.state == FAULT:
        says = f"{_because(judged_)} {how_sure(d.probability)}"
        return Verdict(f"cause:{d.cause or d.group}", ATTENTION, judged_.headline, says, _next_words(judged_, first))
    by_water = first.rule == NOTHING_TO_COMPARE and d.ranked.hypotheses.setting.source == WATER_SOURCE
    if by_water and d.state == SOUND:
        says = " ".join(said_of(r) for r in d.residuals if r.kind.id in COMPARED)
        return Verdict("nothing_wrong_that_shows", FINE, judged_.headline, says, _next_words(judged_, first))
    if by_water and len(d.residuals) >= FEWEST:
        return replace(first, headline=judged_.headline, next_step=_next_words(judged_, first))
    if first.kind == FINE or (d.state != SOUND and first.rule in HEATING_RULES):
        return replace(first, next_step=_next_words(judged_, first))
    return first


def _because(judged_: Judged) -> str:
    """Why, when it is told which cause of the group it is; else which causes they may be."""
    d, known = judged_.diagnosis, causes_in(judged_.diagnosis.ranked.hypotheses.setting)
    if d.cause:
        why = known[d.cause].why
        return f"{why[:1].upper()}{why[1:]}."
    of_it = [c for c, p in d.ranked.by_cause.items() if p >= LEAST_SHOWN and group_of(known[c], d.ranked.kinds) == d.group]
    labels = [
        known[c].label if n == 0 else f"{known[c].label[:1].lower()}{known[c].label[1:]}" for n, c in enumerate(of_it[:SHOWN])
    ]
    return f"{' or '.join([', '.join(labels[:-1]), labels[-1]]) if len(labels) > 1 else labels[0]}: these readings do not tell which."


def _next_words(judged_: Judged, first: Verdict) -> str:
    if judged_.gauges.decides == WARRANTED and judged_.diagnosis.group in IN_THE_CIRCUIT:
        leak = " Look for the leak before anything is added." if judged_.diagnosis.group == "charge_low" else ""
        return f"Superheat and subcooling by gauge, by licensed people.{leak}"
    ways = [a.do for a in judged_.to_do if judged_.diagnosis.cause in a.causes][:2]
    if ways:
        return f"{', or '.join([ways[0], *(way[:1].lower() + way[1:] for way in ways[1:])])}; then settle and read again."
    if judged_.steps:
        return f"{judged_.steps[0].step.label}."
    return NOTHING_MORE if judged_.diagnosis.state == SOUND else first.next_step


def how_sure(probability: float) -> str:
    """A probability in words, with its number."""
    word = next(
        word
        for least, word in ((0.97, "All but certain"), (0.85, "Very likely"), (0.6, "Likely"), (0.0, "Perhaps"))
        if probability >= least
    )
    return f"{word}, {share(min(probability, 0.99))}."


def _not_seen(d: Diagnosis) -> tuple[str, ...]:
    return blind_spots(d.ranked.hypotheses.setting, [r.kind.id for r in d.residuals])


def after_fix(before: Diagnosis, after: Diagnosis, done: tuple[str, ...]) -> list[str]:
    """What a fix has changed, whether it should have, and what is better than possible. done: ids of the actions in between."""
    was, found = {r.kind.id: r for r in before.residuals}, []
    known = causes_in(after.ranked.hypotheses.setting)
    meant = {c for c in known if any(a.id in done for a in by_cause({c: 1.0}, 1.0))}
    touched = {kind for c in meant for kind in known[c].signs}
    for now in after.residuals:
        then = was.get(now.kind.id)
        if then is None:
            continue
        spread = hypot(now.repeat_u95, ERROR_BETWEEN_ROUNDS.value * sum(p * p for p in now.pushes.values()) ** 0.5) / K
        moved = now.value - then.value
        if abs(moved) < MOVED * spread:
            if now.kind.id in touched and abs(then.value) > MOVED * spread:
                found.append(f"{now.kind.label} did not move ({now.says}): what was done is not what held it.")
            continue
        better = abs(now.value) < abs(then.value)
        text = f"{now.kind.label} moved {'towards' if better else 'away from'} what is expected ({then.says}; now {now.says})"
        found.append(f"{text}{', as it should' if better and now.kind.id in touched else '' if better else ': look again'}.")
        if now.kind.id in ("capacity", "split", "rise", "heat_moved") and now.value > 2 * now.model_u95:
            found.append(f"{now.kind.label} is better than possible: doubt the readings.")
    if before.group and after.state == SOUND:
        found.append("Nothing out of line any more.")
    return found
