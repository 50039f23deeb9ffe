"""The running verdict: what is decided, what is urgent, what to do next, what blocks a decision, how the time stands."""

from django.utils import timezone

from web.visits import bridge
from web.visits.material import leave_by, running_now, started_at, ticks
from web.visits.sheet import Sheet

TWO_AT_ONCE = 1.02  # shares that add up to more than this: some of it is of two causes together


def context(sheet: Sheet) -> dict:
    """For the verdict beside (laptop) or below (phone) the sheet."""
    assessed, whole = sheet.assessed, sheet.assessed.whole
    steps = [{"advice": advice, "way": _way(advice.step)} for advice in assessed.judged.steps]
    return {
        "verdict": assessed.verdict,
        "judged": assessed.judged,
        "next_steps": steps,
        "leads": next((s for s in steps if s["way"] and f"{s['advice'].step.label}." == assessed.verdict.next_step), None),
        "gauges_say": _said_once(assessed.judged.gauges.says, assessed.verdict.says),
        "causes": [_cause(e) for e in assessed.judged.causes],
        "two_at_once": sum(e.probability for e in assessed.judged.causes) > TWO_AT_ONCE,
        "not_seen": assessed.judged.not_seen,
        "result": assessed.result,
        "kicker": "Verdict in heating, without gauges" if whole.mode == "heating" else "Verdict, without gauges",
        "urgent": [*(text for section in whole.sections for text in section.urgent), *assessed.judged.urgent],
        "troubles": [
            {"stop": f.stop, "where": _where(sheet, f.stop), "label": f.label, "typed": f.typed} for f in sheet.troubles()
        ],
        "prevail": bridge.PREVAIL,
        **_time(sheet),
    }


def _said_once(text: str, beside: str) -> str:
    """A text without its sentences that stand beside it already."""
    return " ".join(f"{part}." for part in text.rstrip(".").split(". ") if f"{part}." not in beside)


def _cause(found) -> dict:
    """One cause as the page shows it: its share in whole percent, never nought or a hundred."""
    return {"evidence": found, "percent": min(max(round(100 * found.probability), 1), 99)}


def _way(step) -> str:
    """The place on the sheet where a step is taken; '' for none."""
    if step.look:
        return "#at-tests" if bridge.SIGHTS[step.look].group == "tests" else "#settle"
    return f"#read/{step.stop}" if step.stop else ""


def _where(sheet: Sheet, stop_id: str) -> str:
    return next((stop.name for stop in sheet.stops if stop.id == stop_id), "Settle")


def _time(sheet: Sheet) -> dict:
    material = sheet.material
    leave, start = leave_by(material), started_at(material)
    left = None if leave is None else (leave - timezone.now()).total_seconds() / 60.0
    running = running_now(material)
    return {
        "timing": bridge.timing(running, left, material.rules),
        "clock_started": start.isoformat() if ticks(material) else "",
        "leave_by": leave.isoformat() if leave else "",
        "settle_minutes": f"{material.rules.settle_minutes:g}",
        "running_minutes": None if running is None else int(running),
        "minutes_left": None if left is None else int(left),
    }
