"""What is said where nothing is told yet: why, and the one thing to do that would tell most."""

from collections.abc import Callable

from engine.assessment import Assessment
from engine.diagnosis.by_rule import airflow_proved
from engine.diagnosis.cause import HEALTHY
from engine.diagnosis.causes import causes_in, group_named
from engine.diagnosis.conclusion import cause_within
from engine.diagnosis.stop_first import LIQUID_PERHAPS
from engine.diagnosis.verdict import (
    AIRFLOW_GUESSED,
    CONTRADICTED,
    NOT_READ,
    SPLIT_ALONE,
    SUSPECTS,
    UNEXPLAINED,
    WATER_NOT_READ,
)
from engine.readings.substitutes import NEAREST
from engine.readings.vocabulary import PLACES
from engine.report import finding_words, quantity_words
from engine.report.advice_words import left_words
from engine.report.load_words import ENTRIES
from engine.report.urgent_words import liquid_perhaps_said
from engine.report.words import Words, capital, ended, listed, lower_first, share
from engine.uncertainty.estimate import Why
from engine.uncertainty.margin import BORDERLINE, CANT_TELL

MOST_NAMED = 3
READ_AGAIN = "{}: read it again, with another instrument where there is one."
# A quantity out of range that no cause explains -> what to do about it
ABOUT = {
    "total_static": "Read filter and coil drop, and look at the registers: what takes the most is where to look.",
    "filter_drop": "Look at the filter.", "coil_drop": "Look at the face of the coil indoors.", "return_drop": "Look along the return duct.",
    "supply_drop": "Look at the supply ducts and the registers.", "condenser_rise": "Look at the outdoor coil and its fan.",
    "supply_dew_point": "Read the supply humidity again, settled in the stream.",
    "split": "Read return and supply again with one probe.", "rise": "Read return and supply again with one probe.",
    "capacity": "Read both humidities again, settled in the stream, and the airflow a second way.",
    "approach": "Read the outdoor air in the shade and the liquid line again.", "heat_approach": "Read the liquid line and the return air again.",
    "suction": "Read the suction line at the coil again, with another clamp.", "true_suction": "Read the suction at the compressor again, insulated.",
    "discharge": "Read the discharge line again, close to the compressor and insulated.",
    "suction_rise": "Read both ends of the suction line again, with one clamp.", "liquid_drop": "Read both ends of the liquid line again, with one clamp.",
    "amps": "Read volts and amps again, one lead in the clamp at a time, and compare the plate.",
    "unit_to_register": "Read plenum and register again with one probe, then walk the duct between.",
    "grille_to_unit": "Read grille and unit again with one probe, then walk the return duct.",
    "return_dew_point": "Read both humidities again, settled in the stream, then look for where the return draws other air.",
    "heat_moved": "Read both water temperatures with one probe, and the flow a second way.", "water_flow": "Read the flow a second way: by a meter, or by its drop.",
    "closure": "Read the airflow a second way, and both humidities again: the air must carry what the water says.",
    "superheat": "Read the suction line again, insulated, and the pressure with the needle zeroed.", "subcooling": "Read the liquid line again beside the port, and the pressure with the needle zeroed.",
    "evaporating": "Read the suction pressure again, needle zeroed.", "condensing": "Read the liquid pressure again, needle zeroed.", "heat_condensing": "Read the liquid pressure again, needle zeroed.",
}  # fmt: skip

# An entry of a heat ledger that does not close -> how to read it again
CLOSES_BY = {
    "air_side_capacity": "read both humidities again, settled in the stream, and the airflow a second way",
    "electrical_power": "read volts and amps again, one lead in the clamp at a time", "water_flow": "read the flow a second way, by a meter or by its drop",
    "water_difference": "read both water temperatures again with one probe", "condenser_airflow": "read it again over the whole coil",
    "condenser_rise": "read the air before and after the coil again, in the shade",
}  # fmt: skip


def cannot_tell(found: Assessment, words: Words) -> tuple[str, str, str]:
    """Headline, why, and what to do next, of a verdict that nothing can be told yet."""
    verdict = found.verdict
    says, next_step = _OPEN[verdict.reason](found, words)
    headline = "Cannot tell yet."
    if verdict.reason == UNEXPLAINED:
        q = found.table[verdict.quantities[0]]
        is_off = f"{lower_first(quantity_words.label(q.id))} is {q.word}"
        headline = f"Cannot tell yet: {'air and water do not agree' if q.id == 'closure' else is_off}."
    elif verdict.reason == SUSPECTS and verdict.suspects:
        names = [_named(g, found) for g in verdict.suspects]
        headline = f"Cannot tell yet: {', or '.join(names) if len(names) > 1 else f'perhaps {names[0]}'}."
    elif verdict.reason == CONTRADICTED:
        headline = "Cannot tell yet: readings contradict each other."
    elif verdict.reason == AIRFLOW_GUESSED:
        headline = "Cannot tell yet: the airflow is not measured."
    elif verdict.reason == SPLIT_ALONE:
        headline = _split_headline(found, words)
    elif verdict.reason in (SUSPECTS, NOT_READ, WATER_NOT_READ):
        headline = "Not enough read yet."
    return headline, says, next_step


def _not_read(found: Assessment, words: Words) -> tuple[str, str]:
    off = [quantity_words.short(found.table[id_], words) for id_ in found.verdict.quantities[:MOST_NAMED]]
    does_not = "That does not" if len(off) == 1 else "These do not"
    so_far = f"{ended(capital(listed(off)))} {does_not} tell the cause yet. " if off else ""
    return f"{so_far}{_still_needed(found)}", ""


def _still_needed(found: Assessment) -> str:
    diagnosis = found.diagnosis
    wanted = [lower_first(left_words(s)) for s in diagnosis.basics or diagnosis.steps if s.left]
    return f"Still needed: {listed(wanted)}." if wanted else "What is needed for a verdict cannot be read here."


def _split_headline(found: Assessment, words: Words) -> str:
    q = found.table[found.verdict.quantities[0]]
    name = "rise" if q.id == "rise" else "split"
    if q.state == CANT_TELL:
        return f"Cannot tell yet: {name} {words.value(q.measured.value, '°F', True)}, expected {quantity_words.expected(q, words)}."
    if q.side:
        return f"The {name} is {q.word}."
    if q.state == BORDERLINE:
        return f"The {name} is borderline."
    return f"The {name} may be right." if q.authority == "over_what_is_not_read" else f"The {name} is as expected."


# What a split, in heating a rise, by itself points at (common practice, no single source); neither alone is a verdict.
SPLIT_POINTS_AT = {
    -1: "Too little capacity, too much airflow, warm air mixed in or heat added: the airflow tells which way to look.",
    0: "That alone clears neither the airflow nor the charge.",
    1: "Low airflow is the usual reason: it costs little capacity.",
}
RISE_POINTS_AT = {
    -1: "Too little heat, too much airflow or cold air mixed in: the airflow tells which way to look.",
    0: "That alone clears neither the airflow nor the charge.",
    1: "Low airflow is the usual reason, and strips that are on read the same.",
}
DUCTS_BETWEEN = "The ducts between may do that as well as the unit: read at the unit before anything is doubted."


def _split_alone(found: Assessment, words: Words) -> tuple[str, str]:
    q = found.table[found.verdict.quantities[0]]
    others = [quantity_words.short(found.table[id_], words) for id_ in found.verdict.quantities[1:MOST_NAMED]]
    points_at = (RISE_POINTS_AT if q.id == "rise" else SPLIT_POINTS_AT)[q.side]
    if q.side and found.table.rests_on_a_stand_in(q):
        points_at = DUCTS_BETWEEN
    needed = f"{f'Besides, {ended(listed(others))} ' if others else ''}{_still_needed(found)}"
    if q.state == CANT_TELL:
        guessed = q.assumed_airflow and q.decided_by == "airflow_method"
        why = ", mostly because the airflow is not measured" if guessed else ""
        return f"The difference is smaller than its uncertainty{why}. {_taken_from(found)}{needed}", ""
    return f"{quantity_words.sentence(q, words, found.table)} {_taken_from(found)}{points_at} {needed}", ""


def _taken_from(found: Assessment) -> str:
    """Where a split is from that was not read at the unit itself, as a sentence with a space after it; else ''."""
    round_ = found.measured.round
    ends = [round_.reading(place, "dry_bulb") for place in ("return_unit", "supply_plenum")]
    read_at = [lower_first(PLACES[NEAREST[end.place].place]) for end in ends if end is not None and end.is_taken]
    name = "rise" if round_.mode == "heating" else "split"
    return f"The {name} is taken from the {listed(read_at)} and what usually lies between. " if read_at else ""


def _contradicted(found: Assessment, words: Words) -> tuple[str, str]:
    said = [finding_words.said(f, words) for f in found.verdict.findings]
    look = said[0].hint if found.verdict.findings[0].names.get("doubted") == "strips" else ""
    then = " ".join(text for text in (look, _would_close(found, words)) if text)
    return " ".join(s.message for s in said), then or said[0].hint


def _would_close(found: Assessment, words: Words) -> str:
    """The reading that would close an open ledger, to be read again."""
    ledger = found.table.ledger
    if ledger is None or ledger.closed is None or not ledger.closed.suspects:
        return ""
    first = ledger.closed.suspects[0]
    return f"{capital(ENTRIES[first.name])} at {words.value(first.closes_at, first.unit, True)} would make the two agree: {CLOSES_BY[first.name]}."


def _unexplained(found: Assessment, words: Words) -> tuple[str, str]:
    named = [found.table[id_] for id_ in found.verdict.quantities][:MOST_NAMED]
    text = f"{ended(capital(listed([quantity_words.short(q, words) for q in named])))} {_may_be(found)}"
    if named[0].id == "total_static" and airflow_proved(found.table):
        text = f"{ended(capital(quantity_words.short(named[0], words)))} The airflow is in range all the same: look for what takes most of the static."
    return text, "" if found.diagnosis.steps else ABOUT.get(
        named[0].id, READ_AGAIN.format(quantity_words.label(named[0].id))
    )


# What is out of range and moves no cause's probability -> what would do that.
OF_NO_CAUSE = {
    "return_leak_share": "The return draws it in on its way; nothing else that was read shows it so far.",
    "return_dew_point": "A return leak would do that, or one of the two humidities is wrong.",
}


LEAST_NAMED = 0.10  # of a suspect beside the likeliest (working figure)


def _may_be(found: Assessment) -> str:
    """The likeliest faults behind what is out of range, where nothing is told; and that it may be nothing."""
    d = found.diagnosis
    by_share = sorted(found.verdict.suspects, key=lambda group: -d.ranked.by_group[group])
    faults = [group for n, group in enumerate(by_share) if n == 0 or d.ranked.by_group[group] >= LEAST_NAMED]
    weighed = found.table[found.verdict.quantities[0]].residual is not None
    sound = d.ranked.by_group[HEALTHY] if weighed and next(iter(d.ranked.by_group)) == HEALTHY else 0.0
    named = [f"{_suspect(g, found)} ({share(d.ranked.by_group[g])})" for g in faults]
    if sound > 0.5:
        likeliest = f"Most likely nothing is wrong ({share(sound)})."
        return f"{likeliest} What would explain it: {listed(named, 'or')}." if named else likeliest
    if sound:
        named.insert(0, f"nothing wrong ({share(sound)})")
    if sum(d.ranked.by_group[g] for g in faults) > 1.0:
        return f"It may be: {', '.join(named)}, or both."
    if not named:
        return OF_NO_CAUSE.get(found.verdict.quantities[0], "Nothing read so far explains it.")
    return f"It may be: {listed(named, 'or')}."


def _suspect(group: str, found: Assessment) -> str:
    """What to call a group that may be: its cause where the readings tell it; nobody calls an airflow low that was
    measured and is right.
    """
    d = found.diagnosis
    cause = cause_within(group, d.ranked)
    if not cause and group == "low_airflow" and airflow_proved(found.table):
        return "something in the air's way"
    return lower_first(causes_in(d.setting)[cause].label if cause else group_named(group, d.setting))


def _guessed(found: Assessment, words: Words) -> tuple[str, str]:
    what = (
        "No airflow is measured; 400 CFM per ton is assumed"
        if found.measured.airflows.assumed
        else "The airflow is a guess"
    )
    return f"{what}. Nothing is out of line so far, but that proves nothing until the airflow is measured.", ""


NO_TABLE = (
    "A drop gives no flow without the unit's own table: enter that with the nameplate, or read the flow by a meter."
)


def _water(found: Assessment, words: Words) -> tuple[str, str]:
    text, water = "A ground-source unit is judged by its loop water: entering, leaving and flow.", found.measured.water
    no_flow = isinstance(water, Why) and water.id == "needs"
    return f"{text} {NO_TABLE}" if no_flow else text, ""


def _suspects(found: Assessment, words: Words) -> tuple[str, str]:
    d = found.diagnosis
    groups = found.verdict.suspects
    likely = listed([f"{_named(g, found)} ({share(d.ranked.by_group[g])})" for g in groups], "or")
    return (
        f"These readings cannot tell which it is: {likely}." if likely else "These readings cannot tell what it is.",
        "",
    )


def _named(group: str, found: Assessment) -> str:
    return "nothing wrong" if group == HEALTHY else lower_first(group_named(group, found.diagnosis.setting))


def _liquid_perhaps(found: Assessment, words: Words) -> tuple[str, str]:
    return liquid_perhaps_said(found, words), ""


_OPEN: dict[str, Callable[[Assessment, Words], tuple[str, str]]] = {
    NOT_READ: _not_read, SPLIT_ALONE: _split_alone, CONTRADICTED: _contradicted, UNEXPLAINED: _unexplained, AIRFLOW_GUESSED: _guessed, WATER_NOT_READ: _water, SUSPECTS: _suspects,
    LIQUID_PERHAPS: _liquid_perhaps,
}  # fmt: skip
