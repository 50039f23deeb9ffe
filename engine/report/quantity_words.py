"""A quantity in words: what to call it, its figures, where its expected value comes from, and one sentence."""

from engine.constants import DEFAULT_TARGET_SUBCOOLING, NOMINAL_CFM_PER_TON
from engine.quantities.quantity import BESIDE, SOUND_SINCE, Quantity
from engine.quantities.table import Table
from engine.readings.vocabulary import GROUND_SOURCE, ROOM
from engine.report.why_words import why
from engine.report.words import MINUS, Words, capital, lower_first, share
from engine.uncertainty.estimate import Estimate
from engine.uncertainty.margin import BORDERLINE, CANT_TELL, IN_RANGE
from engine.uncertainty.trend import Trend

LABELS = {
    "split": "Temperature split", "capacity": "Capacity", "supply_dew_point": "Supply dew point", "airflow": "Airflow", "total_static": "Total external static",
    "filter_drop": "Filter drop", "coil_drop": "Coil drop", "return_drop": "Return duct drop", "supply_drop": "Supply duct drop", "approach": "Approach",
    "suction": "Suction line", "suction_rise": "Suction line's gain", "liquid_drop": "Liquid line drop", "drier_drop": "Drier drop",
    "condenser_rise": "Condenser air rise", "amps": "Compressor's draw", "compressor_amps": "Compressor amps", "outdoor_fan_amps": "Outdoor fan amps",
    "superheat": "Superheat", "subcooling": "Subcooling", "evaporating": "Evaporating temperature", "condensing": "Condensing over outdoor air", "rise": "Rise",
    "heat_approach": "Liquid line over return air", "heat_condensing": "Condensing over return air", "true_suction": "Suction at the compressor", "discharge": "Discharge line", "water_flow": "Water flow", "heat_moved": "Heat moved by the water",
    "closure": "Air against water", "grille_to_unit": "Change from grille to unit", "unit_to_register": "Change from plenum to register",
    "return_dew_point": "Dew point from grille to unit", "return_leak_share": "Return air from elsewhere",
}  # fmt: skip
# What is a temperature and not a difference: of the others °F print as a difference.
TEMPERATURES = ("supply_dew_point", "suction", "evaporating", "true_suction", "discharge")
NEAR = 0.5  # of the tolerance
GAIN, CARRIES = f"gain_{ROOM}", f"carries_{ROOM}"

# Where an expected value or a limit comes from.
AUTHORITY = {
    "published_curves": "the published curves, for this air and weather", "own_table": "the unit's own table", "own_table_open_well": "the least flow of the unit's own table, as an open well has", "own_baseline": "its own baseline, corrected to today",
    "over_what_is_not_read": "what sound machines show, whatever is not read yet", "house_rule": "the shop's rule", "heating_curves": "the published heating curves, for this weather", "class": "its efficiency class and target subcooling",
    "class_unknown": "the bare limit for modern equipment, as its class is unknown", "evaporating_predicted": "the evaporating temperature as predicted",
    "usual": "what is usual", "usual_at_this_airflow": "what is usual at this airflow", "common_practice": "common practice", "plate": "the plate",
    "txv_band": "what a TXV system shows", "either_device": "what a TXV or an orifice would show: the metering device is not known", "charging_formula": "the orifice's charging formula; the plate's chart wins", "superheat_chart": "the maker's superheat chart, for this air", "stand_in_target": "the usual stand-in; ask the maker", "plate_not_held": "the plate's target, which only a TXV holds",
    "class_alone": "its efficiency class", "usual_class": "the usual class, as its own is unknown", "condenser_of_class": "what condensers of its class warm the air by", "condenser_of_usual_class": "what usual condensers warm the air by, as its class is unknown",
    "evaporating_surface": "the coil's surface, for this air", "evaporating_return_air": "the return air", "rating": "its rating, in this weather", "rating_and_amps": "its rating and its rated amps, in this weather", "rated_amps": "its rated amps, in this weather",
    "usual_for_its_tons": "what is usual for its tons", "condensing_by_the_rise": "the rise as measured", "condensing_by_the_rise_expected": "the rise expected in this weather", "usual_in_heating": "what is usual in heating", "heat_taken_in": "the outdoor air and the heat taken from it",
    "compression": "what a sound compressor makes of this suction and head, both as predicted", "closed_loop": "what is usual for a closed loop", "open_well": "what is usual for an open well", "energy_balance": "water and electricity", "no_leak": "a duct without a leak", "working_figure": "a working figure", "friction_rate": "the usual friction rate",
    "school_flat": "the flat school", "school_climate": "the climate school", "school_return_air": "the school of return dry and wet bulb",
}  # fmt: skip


# What a quantity that is too high points at, by itself and before any cause is weighed (common practice, no single
# source).
POINTS_AT = {
    "suction_rise": "Little flow, or a bare line.", "liquid_drop": "Look for a kink, a drier or a valve not fully open.",
    "drier_drop": "The drier restricts. A clogged screen at the valve would show no drop.",
    "grille_to_unit": "A hot return duct, or a leak of air as damp as the house.", "return_dew_point": "Air leaks into the return.",
    "unit_to_register": "A hot duct run; far more than that is something that reheats.", GAIN: "Look at that run's insulation and length.",
    "filter_drop": "It deserves a look.", "coil_drop": "It deserves a look.",
}  # fmt: skip


def label(id_: str) -> str:
    """What to call a quantity."""
    if id_.startswith(GAIN):
        return f"Change to the register in {id_.removeprefix(GAIN)}"
    if id_.startswith(CARRIES):
        return f"Duct to {id_.removeprefix(CARRIES)}"
    return LABELS[id_]


def is_difference(id_: str) -> bool:
    """Whether its °F are a difference of two temperatures."""
    return id_ not in TEMPERATURES


def drifted(id_: str, trend: Trend, unit: str, words: Words) -> str:
    """'Approach has risen 1.1 ± 0.6 °F a year', without a full stop; of less than a year what it has risen by in all."""
    spans = trend.ended - trend.began
    over, each = (1.0, " a year") if spans >= 1.0 else (spans, "")
    by = words.within(Estimate(abs(trend.slope) * over, trend.u95 * over, unit), difference=True)
    return f"{label(id_)} has {'risen' if trend.slope > 0 else 'fallen'} {by}{each}"


def measured(q: Quantity, words: Words) -> str:
    """The measured value with its 95 % and unit."""
    return words.within(q.measured, is_difference(q.id))


def expected(q: Quantity, words: Words) -> str:
    """What is expected, with its tolerance and unit; a bare limit as 'at most'."""
    given = allowed(q, words)
    return f"{given} {words.sign(q.unit)}".rstrip() if given else ""


def allowed(q: Quantity, words: Words) -> str:
    """What is expected, with its tolerance, without a unit; a bare limit as 'at most'."""
    difference = is_difference(q.id)
    if q.limit is not None:
        return f"at most {words.plain(q.limit, q.unit, difference)}"
    return band(words, q.unit, difference, q.expected.value, q.low, q.high, q.predicted) if q.expected.known else ""


def band(
    words: Words, unit: str, difference: bool, value: float, under: float | None, over: float | None, predicted: bool
) -> str:
    """A value and what it may be off by: '54.3 ± 3.0', '99.1 −2.5 +3.5', '0.05, up to 0.11'; '≈' before what is only
    predicted.
    """
    text = f"{'≈ ' if predicted else ''}{words.plain(value, unit, difference)}"
    if over is None:
        return text if under is None else f"{text}, down to {words.plain(value - under, unit, difference)}"
    if under is None:
        return f"{text}, up to {words.plain(value + over, unit, difference)}"
    less, more = words.spread(under, unit), words.spread(over, unit)
    return f"{text} ± {more}" if less == more else f"{text} {MINUS}{less} +{more}"


def authority(q: Quantity) -> str:
    """Where what is expected comes from."""
    if since := q.basis.get(SOUND_SINCE):
        visits = "a sound visit" if since == 1 else f"{since:.0f} sound visits"
        return f"its own baseline and {visits} since, corrected to today"
    return AUTHORITY[q.authority]


def state_word(q: Quantity) -> str:
    """How it is, as part of a sentence."""
    if q.predicted:
        return (
            f"{side_word(q)}: a hint, it never decides alone"
            if q.lean is not None and abs(q.lean) > 1
            else "near what is predicted"
        )
    return {BORDERLINE: "borderline", CANT_TELL: "these readings cannot tell", IN_RANGE: "in range"}.get(
        q.state, q.word
    )


def sentence(q: Quantity, words: Words, table: Table) -> str:
    """The quantity in a sentence: value, what is expected and where from, how it is. Empty where it was not measured."""
    if not q.measured.known:
        return ""
    if q.id.startswith(CARRIES):
        return _duct(q, words)
    if q.id == "closure":
        return f"{capital(_closure(q, words))}: {state_word(q)}."
    if q.authority == "over_what_is_not_read":
        low, high = (words.plain(q.expected.value + side * (q.high or 0.0), q.unit, True) for side in (-1, 1))
        return f"{label(q.id)} {measured(q, words)}. A sound machine shows {low} to {high} with this return air, whatever is not read yet: {state_word(q)}."
    given = expected(q, words)
    if not given and q.expected.missing:
        return f"{label(q.id)} {measured(q, words)}; nothing to compare it with: {why(q.expected.missing, words)}."
    text = f"{label(q.id)} {measured(q, words)}, expected {given} ({authority(q)}{_basis(q, words)}): {state_word(q)}."
    return text + _more(q, words, table)


def _basis(q: Quantity, words: Words) -> str:
    text = ""
    if "over_ambient_f" in q.basis:
        over, subcooling = (words.difference(q.basis[name], 0) for name in ("over_ambient_f", "subcooling_f"))
        text = f"; {over} condensing over outdoor air less {subcooling} subcooling"
        if not q.basis["held"]:
            text += ", which only a TXV holds"
        elif not q.basis["of_plate"]:
            text += ", the usual stand-in"
    return text + _beside(q, words) + (_of_kind(q, words) if "kind_count" in q.basis else "")


def _beside(q: Quantity, words: Words) -> str:
    """'; the published curves, for this air and weather: 20.7 °F', where it is held to its own baseline."""
    for name, value in q.basis.items():
        if name.startswith(BESIDE):
            said = words.plain(value, q.unit, is_difference(q.id))
            return f"; {AUTHORITY[name.removeprefix(BESIDE)]}: {said} {words.sign(q.unit)}".rstrip()
    return ""


# The group that is named, by what is in the basis.
KINDS_OF = {
    "kind_model": "of this model",
    "kind_line": "of this line",
    "kind_class": "of this class",
    "kind_all": "of any kind",
}


def _of_kind(q: Quantity, words: Words) -> str:
    """'; 14 sound ones of this line: 9.6 ± 2.1'."""
    group = next(text for key, text in KINDS_OF.items() if key in q.basis)
    known = Estimate(q.expected.value, q.basis["kind_spread"], q.unit)
    return f"; {q.basis['kind_count']:.0f} sound ones {group}: {words.margin(known, is_difference(q.id))}"


def _more(q: Quantity, words: Words, table: Table) -> str:
    pointed = POINTS_AT.get(GAIN if q.id.startswith(GAIN) else q.id)
    if pointed and q.side > 0 and table.measured.round.mode == "cooling":
        return f" {pointed}"
    if q.id == "approach":
        return " Line temperature alone never decides."
    if q.id == "heat_approach":
        return f" {words.difference(3.0, 0)} to {words.difference(17.0, 0)} is the usual band: too loose to clear a charge."
    if q.id == "heat_moved" and "nominal_btuh" in q.basis:
        return _nominal(q, words, table)
    if q.id == "airflow" and q.state != IN_RANGE:
        return f" About {words.value(NOMINAL_CFM_PER_TON.value, 'CFM/ton')} is usual."
    if q.id == "subcooling" and q.authority == "stand_in_target":
        return f" The plate is silent: {words.difference(DEFAULT_TARGET_SUBCOOLING.value, 0)} is the usual stand-in."
    return ""


def _nominal(q: Quantity, words: Words, table: Table) -> str:
    """A rejection near nominal tons means some 15 to 20 % short in cooling (common practice): said only where it is
    short.
    """
    if q.basis.get("takes_antifreeze"):
        return " The plate says plain water; this cold it holds antifreeze: 485 is taken for each gallon a minute and degree."
    if q.basis.get("beyond_table_btuh"):
        return " The water is outside the table: its trend is carried on, with a wider margin."
    near = abs(q.measured.value - q.basis["nominal_btuh"]) <= q.measured.u95
    if not (
        near
        and q.side < 0
        and table.measured.round.mode == "cooling"
        and table.measured.round.equipment.kind == GROUND_SOURCE
    ):
        return ""
    return " It equals nominal tons: with the electrical heat in it, the cooling is some 15 to 20 % short."


def _closure(q: Quantity, words: Words) -> str:
    """Air against water in heat; against a baseline in how far the balance has moved."""
    if "accounted_btuh" not in q.basis:
        return f"air against water is {share(abs(q.off.value))} from where it was at baseline"
    does = "gives up" if q.basis["air_btuh"] < 0 else "gains"
    air, accounted = (words.value(abs(q.basis[name]), "BTU/h") for name in ("air_btuh", "accounted_btuh"))
    return f"the air {does} {air}, and water and electricity account for {accounted}"


def _duct(q: Quantity, words: Words) -> str:
    room = q.id.removeprefix(CARRIES)
    carries = (
        f"{capital(room)}: the duct carries about {words.value(q.measured.value, 'CFM')} at the usual friction rate"
    )
    if not q.expected.known:
        return f"{carries}."
    wanted = f"; the room wants {words.value(q.expected.value, 'CFM')}"
    if not q.side:
        return f"{carries}{wanted}."
    return f"{carries}{wanted}. The duct is too small, too long or too tight. Try the cheapest honest fix first; a larger duct with a damper is an option."


def short(q: Quantity, words: Words) -> str:
    """The quantity inside another sentence: 'approach is high (16.2 ± 1.3, expected 9.0 ± 4.0 °F)'."""
    if q.id == "closure" and q.measured.known:
        return _closure(q, words)
    given = allowed(q, words)
    value = words.margin(q.measured, is_difference(q.id))
    if not q.off.known:
        return (
            f"{lower_first(label(q.id))} is {value}{f' {words.sign(q.unit)}' if q.unit else ''}, with no target today"
        )
    held = f", {'' if q.limit is not None else 'expected '}{given}" if given else ""
    state = "in range" if q.state == IN_RANGE else q.word if q.side else side_word(q)
    return f"{lower_first(label(q.id))} is {state} ({value}{held}{f' {words.sign(q.unit)}' if q.unit else ''})"


def side_word(q: Quantity) -> str:
    """Above, below or near what is expected, where the state does not say it. Near: within half of its tolerance."""
    near = q.off.value == 0 or (q.lean is not None and abs(q.lean) <= NEAR)
    side = "near" if near else "above" if q.off.value > 0 else "below"
    return f"{side} what is {'predicted' if q.predicted else 'expected'}"
