"""From an assessment to the plain dicts of an answer line: the verdict, every quantity once, what was measured and
expected, sentences.
"""

from dataclasses import asdict
from typing import Any

from engine import VERSION
from engine.assessment import Assessment
from engine.diagnosis.next_steps import Advice
from engine.diagnosis.verdict import DOES_NOT_COUNT, STOP_FIRST
from engine.expected.schools import SplitTarget
from engine.expected.today import RESULTS as EXPECTED_RESULTS
from engine.physics.airflow.methods import METHODS
from engine.quantities.quantity import Quantity
from engine.readings.air_side import RESULTS as MEASURED_RESULTS
from engine.report import finding_words, quantity_words
from engine.report.advice_words import causes_said, gauges_said, step_label, step_meanings
from engine.report.air_words import airflow_notes, pocket_rows, school_said
from engine.report.blind_spots import blind_spots
from engine.report.charts.ledger import ledger_says
from engine.report.verdict_words import verdict_said
from engine.report.why_words import why
from engine.report.words import FAHRENHEIT, Words
from engine.uncertainty.estimate import Estimate
from engine.validity.finding import Finding

FORMAT = "ruddy-answer/2"
SHARES_SHOWN = 4

Json = dict[str, Any]  # as the schema beside this file says


def answer_of(found: Assessment, words: Words = FAHRENHEIT) -> Json:
    """A round's assessment as JSON-ready data. u95: 95 % uncertainty in the value's unit. Sentences in the scale of
    `words`.
    """
    m, e = found.measured, found.table.expected
    shares = e.carried.all_shares(e.row, SHARES_SHOWN)
    return {
        "format": FORMAT,
        "engine": VERSION,
        "house_rules": found.round.rules.version,
        "mode": found.round.mode,
        "verdict": _verdict(found, words),
        **_diagnosis(found, words),
        "quantities": {id_: _quantity(q, found, words) for id_, q in found.quantities.items()},
        "measured": {
            name: _estimate(m.results[name], words) | _shares(shares[name], m.results[name])
            for name in MEASURED_RESULTS
        },
        "expected": {
            name: _estimate(e.results[name], words) | _shares(shares[name], e.results[name])
            for name in EXPECTED_RESULTS
        },
        "airflow": _airflow(found, words),
        "ledger": _ledger(found, words),
        "split_schools": [_school(school, words) for school in e.schools],
        "pocket_formulas": [
            {
                "formula": r.formula,
                "pocket_btuh": _number(r.pocket_btuh),
                "exact_btuh": _number(r.exact_btuh),
                "error_share": _number(r.error_share),
            }
            for r in pocket_rows(m)
        ],
        "findings": [_finding(f, words) for f in found.findings],
        "not_seen": list(blind_spots(found)),
        "not_fit_as_baseline": [finding_words.OBSTACLES[id_].both for id_ in found.baseline_obstacles],
        "uncertainty_by": "sample" if m.carried.sampled[m.row] else "first order",
    }


def _verdict(found: Assessment, words: Words) -> Json:
    v, said = found.verdict, verdict_said(found, words)
    return {
        "state": v.state,
        "reason": v.reason,
        "group": v.group,
        "cause": v.cause,
        "probability": _number(v.probability),
        "withholds": list(v.withholds),
        "headline": said.headline,
        "says": said.says,
        "next_step": said.next_step,
    }


def _diagnosis(found: Assessment, words: Words) -> Json:
    d = found.diagnosis
    told = found.verdict.state not in (STOP_FIRST, DOES_NOT_COUNT)
    return {
        "causes": [asdict(c) | {"probability": _number(c.probability)} for c in causes_said(found, words)],
        "probabilities": {cause: _number(p) for cause, p in d.ranked.by_cause.items()} if told else {},
        "groups": {group: _number(p) for group, p in d.ranked.by_group.items()} if told else {},
        "gauges": {"decides": d.gauges.decides, "rule": d.gauges.rule, "says": gauges_said(found)},
        "actions": [action.id for action in d.actions],
        "next": [_advice(a, found) for a in d.steps],
        "split_by": _advice(d.split_by, found) if d.split_by else None,
    }


def _advice(advice: Advice, found: Assessment) -> Json:
    left = [{"place": place, "any_of": list(ways)} for place, ways in advice.left]
    return {
        "step": advice.step.id,
        "label": step_label(advice, found.round.mode),
        "minutes": advice.minutes,
        "gain_bits": _number(advice.gain),
        "reads": left,
        "look": advice.step.look,
        "means": list(step_meanings(advice, found)),
    }


def _quantity(q: Quantity, found: Assessment, words: Words) -> Json:
    return {
        "label": quantity_words.label(q.id),
        "unit": q.unit,
        "state": q.state,
        "word": q.word if q.measured.known else "",
        "measured": _estimate(q.measured, words),
        "expected": _estimate(q.expected, words),
        "off": _estimate(q.off, words),
        "low": _number(q.low),
        "high": _number(q.high),
        "limit": _number(q.limit),
        "lean": _number(q.lean),
        "predicted": q.predicted,
        "authority": q.authority,
        "sentence": quantity_words.sentence(q, words, found.table),
    }


def _airflow(found: Assessment, words: Words) -> Json:
    flows = found.measured.airflows
    ways = [
        {
            "method": e.method,
            "label": METHODS[e.method].label,
            "cfm": _number(e.cfm),
            "u95": _number(e.u95_cfm),
            "plane": e.plane,
        }
        for e in flows.estimates
    ]
    weights = {method: _number(weight) for method, weight in flows.weighed.weights.items()} if flows.weighed else {}
    return {
        "assumed": flows.assumed,
        "measured": flows.measured,
        "weights": weights,
        "ways": ways,
        "says": list(airflow_notes(flows, words)),
    }


def _ledger(found: Assessment, words: Words) -> Json | None:
    ledger = found.table.ledger
    if ledger is None:
        return None
    return {
        "taken": _estimate(ledger.taken, words),
        "given": _estimate(ledger.given, words) if ledger.given else None,
        "implied_condenser_airflow": _estimate(ledger.implied_cfm, words) if ledger.implied_cfm else None,
        "open": ledger.open,
        "says": list(ledger_says(ledger, words)),
    }


def _school(school: SplitTarget, words: Words) -> Json:
    label, reason = school_said(school, words)
    return {
        "school": school.school,
        "label": label,
        "target_f": _number(school.target_f),
        "tolerance_f": _number(school.tolerance_f),
        "reason": reason,
    }


def _finding(finding: Finding, words: Words) -> Json:
    said = finding_words.said(finding, words)
    return {
        "id": finding.id,
        "level": finding.level,
        "withholds": finding.withholds,
        "fields": [list(f) for f in finding.fields],
        "message": said.message,
        "hint": said.hint,
    }


def _estimate(estimate: Estimate, words: Words) -> Json:
    if not estimate.known:
        return {"missing": why(estimate.missing, words) if estimate.missing else "", "unit": estimate.unit}
    return {"value": _number(estimate.value), "u95": _number(estimate.u95), "unit": estimate.unit}


def _shares(by_source: dict[str, float], estimate: Estimate) -> Json:
    return {"shares": by_source} if estimate.known and by_source else {}


def _number(value: float | None) -> float | None:
    """Six significant figures: more than any instrument here deserves, few enough to read."""
    return None if value is None else float(f"{value:.6g}")
