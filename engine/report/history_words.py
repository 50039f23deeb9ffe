"""A machine's history in words: how each string hangs, how it drifts and what that points at, and its steps."""

from collections.abc import Iterable

from engine.over_time.history import FIX, INSTRUMENT, PERSON, Event, Step, String
from engine.report.quantity_words import drifted, label
from engine.report.words import Words, ended, listed, lower_first
from engine.uncertainty.estimate import Estimate
from engine.uncertainty.margin import BORDERLINE, CANT_TELL, OUT_OF_RANGE

# What drifts point at, the first that fits: the quantity that must drift and its way, others of which one must drift
# its way too, and what it is. Common practice, no single source; directions as in the causes.
POINTS_AT: tuple[tuple[str, int, dict[str, int], str], ...] = (
    ("approach", +1, {"amps": -1, "capacity": -1, "split": -1, "subcooling": -1}, "Losing charge"),
    ("approach", +1, {"amps": +1, "condenser_rise": +1}, "The condenser is getting dirty"),
    ("approach", +1, {}, "Losing charge, or the condenser is getting dirty"),
    ("heat_approach", +1, {}, "Losing charge, or less air over the indoor coil"),
    ("filter_drop", +1, {}, "The filter is loading"),
    ("coil_drop", +1, {}, "The coil is getting dirty"),
    ("airflow", -1, {}, "Less air: filter, coil, blower wheel or ducts"),
    ("superheat", +1, {}, "Losing charge, or a valve that starves the coil"),
    ("subcooling", -1, {}, "Losing charge"),
    ("condenser_rise", +1, {}, "The condenser is getting dirty"),
    ("amps", +1, {}, "The compressor works harder: condenser, or its motor"),
    ("amps", -1, {}, "The compressor moves less: charge, or its valves"),
    ("water_flow", -1, {}, "Less water: strainer, pump or air in the loop"),
    ("heat_moved", -1, {}, "Less heat goes to the water: water flow, or a coil getting dirty"),
    ("capacity", -1, {}, "Losing capacity"),
    ("rise", -1, {}, "Losing capacity"),
    ("split", -1, {}, "Losing capacity, or more air"),
)
WORTH_SAYING_YEARS = 5.0  # ahead: further off nobody plans
FEWEST_VISITS = 3  # rounds of which no drift is news


def state_said(string: String) -> str:
    """The word under a string."""
    state = string.points[-1].quantity.state
    if state == OUT_OF_RANGE:
        return "out of range"
    if string.drift:
        return "drifting up" if string.drift > 0 else "drifting down"
    return {BORDERLINE: "borderline", CANT_TELL: "can't tell yet"}.get(state, "as ever")


def drifts_say(strings: Iterable[String]) -> str:
    """What the drifts together point at; without any, what is out of range, that nothing drifts, or that nobody can
    tell yet.
    """
    strings = tuple(strings)
    ways = {string.id: string.drift for string in strings if string.drift}
    for id_, way, others, said in POINTS_AT:
        if ways.get(id_) == way and (not others or any(ways.get(other) == to for other, to in others.items())):
            return f"{said}."
    if ways:
        first, *rest = (label(id_) for id_ in ways)
        return f"{listed([first, *map(lower_first, rest)])} drift{'' if rest else 's'}."
    newest = max((s.points[-1].at.days for s in strings), default=0.0)
    last = [s for s in strings if s.points[-1].at.days == newest]
    if out := [lower_first(label(s.id)) for s in last if s.points[-1].quantity.state == OUT_OF_RANGE]:
        return f"Out of range now: {listed(out)}."
    long_enough = any(len(string.points) >= FEWEST_VISITS for string in strings)
    return "Nothing drifts." if long_enough else "Too few visits yet to see a drift."


def drift_said(string: String, since: str, words: Words) -> str:
    """'Approach has risen 1.1 ± 0.6 °F a year since June 2024; at this rate out of range in about 2 years.' since: the
    day of its first point, in words.
    """
    trend, unit = string.trend, string.points[-1].off.unit
    if trend is None:
        return ""
    left = string.years_left
    then = f"; at this rate out of range {_in(left)}" if left is not None and left < WORTH_SAYING_YEARS else ""
    return f"{drifted(string.id, trend, unit, words)} since {since}{then}."


def _in(years: float) -> str:
    if years < 0.2:
        return "within weeks"
    return f"in about {12 * years:.0f} months" if years < 1.75 else f"in about {years:.0f} years"


def step_said(string: String, step: Step, events: Iterable[Event], when: str, words: Words) -> str:
    """'Filter drop stepped down by 0.46 ± 0.02 in. w.c. on Jul 21, 2026: filter changed.'"""
    size = step.size
    by = words.within(Estimate(abs(size.value), size.u95, size.unit), difference=True)
    why = listed(list(dict.fromkeys(lower_first(event_said(event)) for event in events)))
    return f"{label(string.id)} stepped {'up' if size.value > 0 else 'down'} by {by} on {when}: {ended(why)}"


def tick_said(event: Event) -> str:
    """The same in as few words as a tick across the strings has room for."""
    return (
        f"by {event.label}" if event.kind == PERSON else lower_first(event.label) if event.kind == FIX else event.label
    )


def event_said(event: Event) -> str:
    """What changed, in words."""
    if event.kind == FIX:
        return event.label
    return (
        f"Another instrument: {event.label}" if event.kind == INSTRUMENT else f"Read by another person: {event.label}"
    )
