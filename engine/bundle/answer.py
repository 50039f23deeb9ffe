"""From a result to the plain dicts of an answer line: values, 95 % uncertainties, shares, states, sentences."""

from dataclasses import asdict

from engine.assessment.judged import Judged, verdict_by
from engine.assessment.result import RoundResult
from engine.assessment.whole import Whole
from engine.judgement.indicators import Indicator
from engine.judgement.next_step import Advice
from engine.uncertainty.estimate import Estimate, Predicted

SHARES_SHOWN = 4


def answer_of(result: RoundResult) -> dict:
    """A round's result as JSON-ready data. u95: 95 % uncertainty in the value's unit."""
    return {
        "engine": result.engine_version,
        "house_rules": result.rules_version,
        "verdict": asdict(result.verdict),
        "indicators": [_indicator(i) for i in result.indicators],
        "quantities": {
            name: _estimate(estimate) | _shares(result, name, estimate) for name, estimate in result.quantities.items()
        },
        "split_schools": [asdict(school) for school in result.schools],
        "pocket_formulas": [asdict(row) | {"error_share": _number(row.error_share)} for row in result.pocket],
        "findings": [asdict(finding) for finding in result.findings],
        "withheld": [asdict(reason) for reason in result.withheld],
        "uncertainty_by": "sample" if result.sampled else "first order",
    }


def whole_answer_of(whole: Whole, not_fit: list[str], judged: Judged) -> dict:
    """A whole round as JSON-ready data: the air side by the best authority, the airflow weighed, every section, the judgement."""
    return answer_of(whole.air) | {
        "mode": whole.mode,
        "verdict": asdict(verdict_by(judged, whole.verdict)),
        "judgement": _judgement(judged),
        "not_seen": list(judged.not_seen),
        "indicators": [_indicator(i) for i in whole.indicators],
        "airflow": asdict(whole.airflow) if whole.airflow else None,
        "sections": {
            section.id: {
                "values": {name: _estimate(value) for name, value in section.values.items()},
                "says": section.says,
                "urgent": section.urgent,
            }
            for section in whole.sections
        },
        "not_fit_as_baseline": not_fit,
    }


def _judgement(found: Judged) -> dict:
    d = found.diagnosis
    return {
        "state": d.state, "group": d.group, "cause": d.cause, "probability": _number(d.probability), "headline": found.headline,
        "causes": [asdict(e) | {"probability": _number(e.probability)} for e in found.causes],
        "probabilities": {cause: _number(p) for cause, p in d.ranked.by_cause.items()},
        "groups": {group: _number(p) for group, p in d.ranked.by_group.items()},
        "urgent": list(found.urgent), "gauges": asdict(found.gauges), "to_do": [action.id for action in found.to_do],
        "next": [_advice(advice) for advice in found.steps], "split_by": _advice(found.split_by) if found.split_by else None,
    }  # fmt: skip


def _advice(advice: Advice) -> dict:
    step = advice.step
    return {
        "step": step.id,
        "label": step.label,
        "minutes": advice.minutes,
        "gain_bits": _number(advice.gain),
        "means": list(advice.means),
    }


def _indicator(found: Indicator) -> dict:
    return {
        "id": found.id,
        "label": found.label,
        "state": found.state,
        "word": found.word,
        "measured": _estimate(found.measured),
        "expected": _estimate(found.expected),
        "tolerance": _number(found.tolerance),
        "authority": found.authority,
        "sentence": found.sentence,
    }


def _estimate(estimate: Estimate | Predicted) -> dict:
    if isinstance(estimate, Predicted):
        numbers = {"value": _number(estimate.value), "u95": _number(estimate.u95), "unit": estimate.unit}
        return numbers | {"predicted": True, "basis": estimate.basis}
    if not estimate.known:
        return {"missing": estimate.missing, "unit": estimate.unit}
    return {"value": _number(estimate.value), "u95": _number(estimate.u95), "unit": estimate.unit}


def _shares(result: RoundResult, name: str, estimate: Estimate) -> dict:
    if not estimate.known:
        return {}
    shares = {source: round(share, 3) for source, share in list(result.shares(name).items())[:SHARES_SHOWN]}
    return {"shares": shares} if shares else {}


def _number(value: float | None) -> float | None:
    """Six significant figures: more than any instrument here deserves, few enough to read."""
    return None if value is None else float(f"{value:.6g}")
