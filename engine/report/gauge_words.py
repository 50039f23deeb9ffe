"""Gauges in words: the figures the pressures come to, and what the gauges added to what the air and the lines had said."""

from engine.assessment import Assessment
from engine.diagnosis.verdict import CANNOT_TELL, GROUP, SOUND, STOP_FIRST
from engine.quantities.by_gauge import gauge_figures
from engine.report import quantity_words
from engine.report.words import Words, lower_first

LABELS = {
    "evaporating": "Evaporating", "condensing": "Condensing", "coil_superheat": "Superheat at the coil",
    "total_superheat": "Superheat at the outdoor unit", "target_superheat": "Target superheat", "subcooling": "Subcooling",
    "over_outdoor": "Condensing over outdoor air", "evaporator_difference": "Return air over evaporating",
    "compression_ratio": "Compression ratio",
}  # fmt: skip
IN_HEATING = {"total_superheat": "Superheat at the compressor"}  # read at true suction
DIFFERENCES = tuple(name for name in LABELS if name not in ("evaporating", "condensing", "compression_ratio"))
# The quantity that holds a figure against what is expected of it.
JUDGED_AS = {
    "total_superheat": "superheat",
    "subcooling": "subcooling",
    "over_outdoor": "condensing",
    "evaporating": "evaporating",
}


def figures_said(found: Assessment, words: Words) -> list[tuple[str, str, str]]:
    """Each figure as (label, value with its unit, what is expected of it), in the order of LABELS."""
    figures = gauge_figures(found.measured)
    labels = LABELS | (IN_HEATING if found.round.mode == "heating" else {})
    return [
        (label, words.within(figures[name], name in DIFFERENCES), _expected(found, name, words))
        for name, label in labels.items()
        if name in figures
    ]


def saturations_said(found: Assessment, words: Words) -> dict[str, str]:
    """What each gauge's pressure comes to, by its place: 'evaporates at 37.8 °F'."""
    figures = gauge_figures(found.measured)
    told = {"gauge_suction": ("evaporates", "evaporating"), "gauge_liquid": ("condenses", "condensing")}
    return {
        place: f"{verb} at {words.plain(figures[name].value, '°F')} {words.sign('°F')}"
        for place, (verb, name) in told.items()
        if name in figures
    }


def _expected(found: Assessment, name: str, words: Words) -> str:
    q = found.table.get(JUDGED_AS.get(name, ""))
    return quantity_words.expected(q, words) if q is not None else ""


CONFIRMED, SETTLED, CHANGED = "confirmed", "settled", "changed"


def what_gauges_added(before: Assessment, after: Assessment) -> str:
    """What the pressures did to the verdict: 'confirmed', 'settled' what was open between several, 'changed', or '' where
    the round does not count with them either. before: the same round without them.
    """
    if not after.verdict.counts and after.verdict.state != STOP_FIRST:
        return ""
    if before.verdict.decides == after.verdict.decides:
        return CONFIRMED
    was_open = before.verdict.state in (CANNOT_TELL, GROUP)
    groups = (before.verdict.group, *before.verdict.suspects)
    settles = after.verdict.group in groups or not any(groups) or before.verdict.state == CANNOT_TELL
    still_open = after.verdict.state == CANNOT_TELL
    return SETTLED if was_open and settles and not still_open else CHANGED


def added_said(before: Assessment, after: Assessment, headline_before: str) -> str:
    """What the gauges added, in a sentence. headline_before: of the round without them."""
    added = what_gauges_added(before, after)
    if not added:
        return ""
    if added == CONFIRMED:
        return "The gauges say the same as the air and the lines did."
    was = lower_first(headline_before.rstrip("."))
    if added == SETTLED:
        return f"The gauges settle it. Without them: {was}."
    good = (
        " The circuit was sound after all: note it for the next gaugeless check."
        if after.verdict.state == SOUND
        else ""
    )
    return f"The gauges change the verdict. Without them: {was}.{good}"
