"""What is advised in words: the steps, the gauge decision, the evidence for and against each cause."""

from dataclasses import dataclass

from engine.assessment import Assessment
from engine.diagnosis import gauges
from engine.diagnosis.actions import is_fault
from engine.diagnosis.cause import HEALTHY
from engine.diagnosis.causes import HEATING_MODE, WATER_SOURCE, causes_in, group_named
from engine.diagnosis.evidence import Evidence, Witness
from engine.diagnosis.next_steps import ABOVE, AS_EXPECTED, BELOW, Advice
from engine.readings.observations import BY_ID as SIGHTS
from engine.readings.vocabulary import HUMIDITY_QUANTITIES, place_name
from engine.report import finding_words, quantity_words
from engine.report.words import LIKELY, VERY_LIKELY, Words, capital, ended, listed, lower_first
from engine.uncertainty.margin import IN_RANGE

NO_REFRIGERANT = "Do not add refrigerant on these readings."

# -- steps -----------------------------------------------------------------------------------------------------------------


# Looks that are more than looking at a thing.
LOOK_SAYS = {
    "liquid_line_noise": "Listen at the liquid line, an ear at the metering device",
    "oil_stains": "Look for oil stains", "blower_speed": "Look at the blower's tap, or its switches",
    "outdoor_coil_fed": "Take a thermal picture of the outdoor coil",
}  # fmt: skip


def step_label(advice: Advice, mode: str) -> str:
    """What to read or look at, only what is left of it; 'Look at the filter'."""
    step = advice.step
    if step.look:
        sight = SIGHTS[step.look]
        if sight.group == "tests":
            return f"Test: {lower_first(step.label)}"
        return LOOK_SAYS.get(step.look, f"Look at the {lower_first(sight.label_in(mode))}")
    if not advice.left or len(advice.left) == len(step.reads):
        return step.label
    return f"Read the {left_words(advice)}"


def left_words(advice: Advice) -> str:
    """What is left of a step: 'humidity of the return at the unit'."""
    if len(advice.left) == len(advice.step.reads):
        return lower_first(
            advice.step.label.removeprefix("Read the ").removeprefix("Measure the ").removeprefix("Read ")
        )
    return listed([f"{_quantity(ways)} of the {_place(place)}" for place, ways in advice.left])


def _place(place: str) -> str:
    return "loop water" if place == "water_loop" else lower_first(place_name(place))


def _quantity(ways: tuple[str, ...]) -> str:
    names = {
        "dry_bulb": "dry bulb",
        "temperature": "temperature",
        "current": "amps",
        "voltage": "volts",
        "flow": "flow or drop" if len(ways) > 1 else "flow",
        "pressure": "pressure",
    }
    return "humidity" if ways == HUMIDITY_QUANTITIES else names.get(ways[0], ways[0].replace("_", " "))


def _surely(probability: float) -> str:
    return "" if probability >= VERY_LIKELY else "likely " if probability >= LIKELY else "perhaps "


def step_meanings(advice: Advice, found: Assessment) -> tuple[str, ...]:
    """What each outcome of a step would mean, and how surely: 'Above: likely low on charge'. That nothing is wrong is
    said of no look that shows a fault by itself.
    """
    words = {ABOVE: "above", AS_EXPECTED: "as expected", BELOW: "below"}
    look = advice.step.look
    degrees = SIGHTS[look].degrees if look else words
    said = []
    for meaning in advice.means:
        outcomes = [o for o in meaning.outcomes if meaning.group != HEALTHY or not is_fault(look, o)]
        named = capital(listed([lower_first(degrees[o]) for o in outcomes], "or"))
        means = lower_first(group_named(meaning.group, found.diagnosis.setting))
        said += [f"{named}: {_surely(meaning.probability)}{means}"] if outcomes else []
    return tuple(said)


# -- gauges ----------------------------------------------------------------------------------------------------------------

GAUGES = {
    "stop_first": "Stop first. No gauges until it is safe to run.", "withheld": "The circuit's readings do not count yet, so they cannot decide about gauges.",
    "restart": "A restart reading decides nothing about the circuit: let it settle first.",
    "commissioning": "Commissioning: the charge is set by its pressures.", "first_visit": "First visit to an unknown system: take its pressures once.",
    "mended": "It had tripped or stopped. What was wrong is mended, and it does what it should now: leave the circuit closed.",
    "tripped": "It tripped or stopped: the pressures will say why.", "below_outdoor": "The liquid line is below outdoor air. If the probes agree side by side, the pressures say why.",
    "below_outdoor_proved": "The liquid line is below outdoor air, and the probes agree: the pressures say why.",
    "airflow_first": f"The air side comes first: correct it, let it settle, read again. {NO_REFRIGERANT}",
    "outside_the_circuit": f"The fault is outside the refrigerant circuit: mend it, let it settle, read again. {NO_REFRIGERANT}",
    "air_first": f"It looks like the circuit. Measure the airflow, look at filter and coils. {NO_REFRIGERANT}",
    "seen_first": f"Mend what was seen, let it settle, read again: no hose before that. {NO_REFRIGERANT}",
    "clamps_first": f"It looks like the circuit. A clamp on the suction line comes before any hose. {NO_REFRIGERANT}",
    "in_the_circuit": "The circuit is out of line: gauges are warranted, for licensed people.",
    "lines_first": f"Capacity is low, and these readings do not tell the circuit from the outdoor side. {NO_REFRIGERANT}",
    "probe": f"A reading is wrong: read it again before the circuit is doubted. {NO_REFRIGERANT}",
    "plate": f"The plate comes first: once it is corrected, everything is judged anew. {NO_REFRIGERANT}",
    "gas_in_the_circuit": "Gas that does not condense comes out through gauges alone, by licensed people.",
    "condenser": f"The condenser runs hot. Prove its fins, its fan and its air first; if they are right and it still reads so, gas that does not condense is in the circuit. {NO_REFRIGERANT}",
    "condenser_first": f"The condenser is proved before the charge is doubted: its fins, its fan, its air. {NO_REFRIGERANT}",
    "circuit_somewhere": f"The airflow is proved, and the fault is in the circuit, whichever it is: gauges are warranted, for licensed people. {NO_REFRIGERANT}",
    "stays_out": f"The airflow is proved, all is read that can be without gauges, and the circuit stays out of line: gauges are warranted, for licensed people. {NO_REFRIGERANT}",
    "at_once": "The check without gauges does not pass, and the shop's rule is then to connect.",
    "sound": "Nothing is out of line: leave the circuit closed.", "cannot_tell": "These readings do not decide it.",
}  # fmt: skip

# What is said otherwise where the coils have changed places, or water takes the heat.
GAUGES_IN_HEATING = {
    "condenser": f"The head is high for this air. Prove filter, indoor coil and blower first; if they are right and it still reads so, gas that does not condense is in the circuit. {NO_REFRIGERANT}",
    "condenser_first": f"The indoor coil is proved before the charge is doubted: filter, fins, blower. {NO_REFRIGERANT}",
    "lines_first": f"Heating is low, and these readings do not tell the circuit from the outdoor coil. {NO_REFRIGERANT}",
}  # fmt: skip
# What is said otherwise where pressures are among the readings.
GAUGES_READ = {
    "in_the_circuit": "The circuit is out of line, and its pressures are read: what follows is for licensed people.",
    "circuit_somewhere": f"The airflow is proved, and the fault is in the circuit, whichever it is. {NO_REFRIGERANT}",
    "first_visit": "First visit to an unknown system: its pressures are on record now.",
    "tripped": "It tripped or stopped: that is why its pressures were taken.",
    "mended": "It had tripped or stopped. What was wrong is mended, and it does what it should now, by its pressures too.",
    "sound": "Nothing is out of line, by the pressures either: close the circuit, caps tight.",
}  # fmt: skip
GAUGES_BY_WATER = {
    "lines_first": f"These readings do not tell the circuit from the airflow and the water coil. {NO_REFRIGERANT}",
    "clamps_first": f"It looks like the circuit. The compressor's amps come before any hose. {NO_REFRIGERANT}",
}  # fmt: skip


def gauges_said(found: Assessment) -> str:
    """Why the gauge decision is what it is; before that, that a hose is where nothing can be read from it."""
    if hot := next((finding for finding in found.findings if finding.id == "gauge_on_hot_gas"), None):
        return finding_words.ON_HOT_GAS[hot.names["source"]].both
    decision, setting = found.diagnosis.gauges, found.diagnosis.setting
    of_mode = GAUGES_IN_HEATING if setting.mode == HEATING_MODE else {}
    by_gauge = GAUGES_READ if found.round.by_gauge else {}
    text = (GAUGES | of_mode | (GAUGES_BY_WATER if setting.source == WATER_SOURCE else {}) | by_gauge)[decision.rule]
    if decision.rule == "in_the_circuit" and found.round.rules.gauge_school != gauges.AT_ONCE:
        text = f"The airflow is proved. {text}"
    if decision.decides == gauges.ONCE_PROVED and decision.rule != "air_first":
        text += " The airflow first."
    return text


# -- evidence --------------------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class CauseSaid:
    """One cause in words: what it is called, why it shows, and what speaks for and against it."""

    cause: str
    label: str
    probability: float
    why: str
    speaks_for: tuple[str, ...]
    speaks_against: tuple[str, ...]


def causes_said(found: Assessment, words: Words) -> tuple[CauseSaid, ...]:
    """The likeliest causes with their evidence, in words."""
    return tuple(_cause_said(e, found, words) for e in found.diagnosis.causes)


def _cause_said(e: Evidence, found: Assessment, words: Words) -> CauseSaid:
    setting = found.diagnosis.setting
    known = causes_in(setting)[e.cause]
    of_fault = e.cause != HEALTHY
    for_ = tuple(_witness(w, found, words, of_fault) for w in e.speaks_for)
    against = tuple(_witness(w, found, words) for w in e.speaks_against)
    return CauseSaid(e.cause, known.label, e.probability, known.why_on(*setting.facts), for_, against)


def _witness(w: Witness, found: Assessment, words: Words, of_fault: bool = False) -> str:
    """One reading or look, in a sentence. of_fault: it speaks for a fault, in range or not."""
    if w.sight:
        return f"{finding_words.sight_said(w.sight, w.degree, found.round.mode)}."
    q = found.table[w.quantity]
    if w.drift:
        return f"{quantity_words.drifted(q.id, w.drift, q.unit, words)} over the visits before."
    text = capital(quantity_words.short(q, words))
    if of_fault and q.state == IN_RANGE:
        text += f", on its {'high' if q.off.value > 0 else 'low'} side"
    if not w.should:
        return ended(text)
    still = " still" if q.lean is not None and abs(q.lean) > 1 and (q.lean > 0) == (w.should > 0) else ""
    return f"{text}; it should be {'higher' if w.should > 0 else 'lower'}{still} with that."
