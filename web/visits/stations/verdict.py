"""The running verdict: what is decided, what is urgent, what to do next, what blocks a decision,
how the time stands.
"""

from dataclasses import dataclass

from django.utils import timezone

from web.visits.bridge import results, vocabulary
from web.visits.load.clock import leave_by, running_now, started_at, ticks
from web.visits.load.sheet import Sheet


@dataclass(frozen=True)
class Tap:
    """What lets a round count besides the running time, said in one tap: which look and its degree, in words beside the
    time and by itself, and the finding that waits for it.
    """

    look: str
    degree: str
    beside: str
    words: str
    finding: str

    @property
    def seen(self) -> str:
        """As the outbox takes it."""
        return f"{self.look}={self.degree}"


TAPS = (
    Tap("runs_at", "full", "at full capacity", "It runs at full capacity", "capacity_not_seen"),
    Tap("strip_heat", "off", "strips off", "The strips are off", "strips_not_seen"),
)
TWO_AT_ONCE = 1.02  # shares that add up to more than this: some of it is of two causes together


def context(sheet: Sheet) -> dict:
    """For the verdict beside (laptop) or below (phone) the sheet."""
    assessed = sheet.assessed
    by_gauge = assessed.round.by_gauge
    return {
        "verdict": assessed.verdict,
        "split_line": assessed.split_line,
        "waits_for": _waits_for({f.id for f in assessed.found.verdict.findings}),
        "verdict_kind": assessed.kind,
        "gauges": assessed.diagnosis.gauges.decides,
        "next_steps": [{"said": step, "way": _way(step)} for step in assessed.steps],
        "leads": {"said": assessed.leads, "way": _way(assessed.leads)} if assessed.leads else None,
        "split_by": assessed.split_by,
        "gauges_say": _said_once(assessed.gauges_say, assessed.verdict.says),
        "causes": [_cause(found) for found in assessed.causes],
        "two_at_once": sum(found.probability for found in assessed.causes) > TWO_AT_ONCE,
        "not_seen": assessed.not_seen,
        "kicker": f"Verdict{' in heating' if sheet.mode == 'heating' else ''}, with{'' if by_gauge else 'out'} gauges",
        "by_gauge": by_gauge,
        "troubles": [
            {"stop": f.stop, "where": _where(sheet, f.stop), "label": f.label, "typed": f.typed}
            for f in sheet.troubles()
        ],
        "prevail": vocabulary.PREVAIL,
    }


def _said_once(text: str, beside: str) -> str:
    """A text without its sentences that are beside it already."""
    return " ".join(f"{part}." for part in text.rstrip(".").split(". ") if f"{part}." not in beside)


def _cause(found) -> dict:
    """One cause as the page shows it: its share in whole percent, never zero or a hundred."""
    return {"said": found, "percent": min(max(round(100 * found.probability), 1), 99)}


def _way(step) -> str:
    """The place on the sheet where a step is taken; '' for none."""
    if step.look:
        return "#at-tests" if vocabulary.SIGHTS[step.look].group == "tests" else f"#settle/{step.look}"
    if step.stop == "gauges":
        return "#gauges"
    return f"#read/{step.stop}" if step.stop else ""


def _at_a_tap(sheet: Sheet) -> dict[str, str]:
    """What one tap says beside the running time: of what is asked here and was not looked at yet."""
    asked = {sight.id for sight in sheet.asked("condition")} - sheet.seen.keys()
    taps = [tap for tap in TAPS if tap.look in asked]
    return {"seen": " ".join(tap.seen for tap in taps), "words": "".join(f", {tap.beside}" for tap in taps)}


def _waits_for(findings: set[str]) -> dict[str, str] | None:
    """What alone is waited for before the round counts."""
    waits = next((tap for tap in TAPS if tap.finding in findings), None)
    return {"seen": waits.seen, "words": waits.words} if waits else None


def _where(sheet: Sheet, stop_id: str) -> str:
    return next((stop.name for stop in sheet.stops if stop.id == stop_id), "Settle")


def time_context(sheet: Sheet) -> dict:
    """How much time there is: the clock of the settling, and the one by which one must go."""
    material = sheet.material
    leave, start = leave_by(material), started_at(material)
    left = None if leave is None else (leave - timezone.now()).total_seconds() / 60.0
    running = running_now(material)
    return {
        "timing": results.timing(running, left, material.rules, results.thaw_minutes(sheet.assessed)),
        "clock_started": start.isoformat() if ticks(material) else "",
        "leave_by": leave.isoformat() if leave else "",
        "settle_minutes": f"{material.rules.settle_minutes:g}",
        "running_minutes": None if running is None else int(running),
        "at_a_tap": _at_a_tap(sheet),
        "minutes_left": None if left is None else int(left),
    }
