"""The diagnosis in words: headline, why, what to do next."""

from collections.abc import Callable
from dataclasses import dataclass

from engine.assessment import Assessment
from engine.diagnosis.cause import HEALTHY, is_in
from engine.diagnosis.causes import EVERY_CAUSE, causes_in, group_label, group_of, label_of
from engine.diagnosis.conclusion import FEWEST
from engine.diagnosis.next_steps import Advice
from engine.diagnosis.stop_first import LIQUID_PERHAPS, liquid_not_ruled_out
from engine.diagnosis.verdict import (
    AIRFLOW_GUESSED,
    BY_THE_RULE,
    CANNOT_TELL,
    CAUSE,
    CONTRADICTED,
    DOES_NOT_COUNT,
    GROUP,
    NOT_READ,
    SOUND,
    SPLIT_ALONE,
    STOP_FIRST,
    SUSPECTS,
    UNEXPLAINED,
    WATER_NOT_READ,
    WATER_SIDE,
    Verdict,
)
from engine.quantities.quantity import Quantity
from engine.report import finding_words, quantity_words
from engine.report.advice_words import NO_REFRIGERANT, left_words, step_label
from engine.report.load_words import ENTRIES
from engine.report.mend_words import at_last, do_words, mend, seen_bad, seen_of
from engine.report.urgent_words import liquid_perhaps_said, stop_said
from engine.report.words import Words, capital, ended, likelihood, listed, lower_first, share
from engine.uncertainty.margin import BORDERLINE, CANT_TELL, IN_RANGE
from engine.validity.finding import EVERYTHING, NEVER_TODAY, SPLIT

NOTHING_MORE = "Nothing more needs reading. Plug the test holes; caps on and tight."
MOST_NAMED = 3
MOST_TELLING = 2  # a verdict is read at a glance: what else is out of range is said at its mark
# What is named where the machine does what it should.
NAMED_WHEN_SOUND = ("split", "rise", "airflow", "capacity", "heat_moved", "water_flow", "approach", "heat_approach")
# What is still worth reading: in a sound machine the lines, which see what the air does not; in weather that no circuit
# is judged in, the air side.
WORTH = {
    SOUND: ("liquid_line", "suction_at_coil", "liquid_heating", "true_suction", "amps", "statics"),
    DOES_NOT_COUNT: (
        "return_air",
        "return_dry",
        "supply_air",
        "supply_dry",
        "airflow",
        "filter_drop",
        "coil_drop",
        "statics",
        "filter",
    ),
}
READ_AGAIN = "{}: read it again, with another instrument where there is one."
# A quantity out of range that no cause explains -> what to do about it
ABOUT = {
    "total_static": "Read filter and coil drop, and look at the registers: what takes the most is where to look.",
    "filter_drop": "Look at the filter.", "coil_drop": "Look at the evaporator's face.", "return_drop": "Look along the return duct.",
    "supply_drop": "Look at the supply ducts and the registers.", "condenser_rise": "Look at the outdoor coil and its fan.",
    "supply_dew_point": "Read the supply humidity again, settled in the stream.",
    "split": "Read return and supply again with one probe.", "rise": "Read return and supply again with one probe.",
    "capacity": "Read both humidities again, settled in the stream, and the airflow a second way.",
    "approach": "Read the outdoor air in the shade and the liquid line again.", "heat_approach": "Read the liquid line and the return air again.",
    "suction": "Read the suction line at the coil again, with another clamp.", "true_suction": "Read the suction at the compressor again, insulated.",
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


@dataclass(frozen=True)
class Said:
    """The verdict in words. next_step: what to do next; leads: the step it is, where it is one."""

    headline: str
    says: str
    next_step: str
    leads: Advice | None = None


def verdict_said(found: Assessment, words: Words) -> Said:
    """The verdict of an assessment in words."""
    headline, says, next_step = SAY[found.verdict.state](found, words)
    steps = found.diagnosis.steps
    if found.verdict.state in WORTH:
        steps = tuple(s for s in steps if s.step.id in WORTH[found.verdict.state])
    leads = steps[0] if not next_step and steps else None
    return Said(
        headline,
        says,
        next_step or (ended(step_label(leads, found.round.mode)) if leads else _nothing_to_read(found)),
        leads,
    )


def _nothing_to_read(found: Assessment) -> str:
    if found.verdict.state == SOUND:
        return NOTHING_MORE
    if last := at_last(found):
        return last
    withheld = next((f.id for f in found.verdict.findings), "")
    return finding_words.COME_BACK.get(withheld, "Keep the record and compare the next visit with it.")


# -- does not count --------------------------------------------------------------------------------------------------------


def _does_not_count(found: Assessment, words: Words) -> tuple[str, str, str]:
    verdict, said = found.verdict, [finding_words.said(f, words) for f in found.verdict.findings]
    says = " ".join(s.message for s in said)
    do = [a for a in found.diagnosis.actions if a.do]
    seen = seen_bad(found)
    if seen and seen.rstrip(".") not in says:
        says = f"{seen} {says}"
    next_step = said[0].hint
    if do:
        next_step = f"{do_words(do)}; then let it settle and read again."
    elif EVERYTHING not in verdict.withholds and found.diagnosis.steps and verdict.findings[0].minutes >= NEVER_TODAY:
        next_step = ""  # the air and the statics are worth taking in any weather
    return _withheld(verdict), says, next_step


def _withheld(verdict: Verdict) -> str:
    if EVERYTHING in verdict.withholds:
        return "These readings do not count yet."
    if SPLIT in verdict.withholds:
        return "The air readings contradict each other."
    never = any(f.minutes >= NEVER_TODAY for f in verdict.findings)
    return "The circuit cannot be judged in this weather." if never else "The circuit cannot be judged yet."


# -- cause and group -------------------------------------------------------------------------------------------------------


def cause_label(cause: str, found: Assessment) -> str:
    """What to call a cause in this setting."""
    return causes_in(found.diagnosis.setting)[cause].label


def _fault(found: Assessment, words: Words) -> tuple[str, str, str]:
    verdict = found.verdict
    headline = f"{_named(found)}."
    says = _by_the_rule(found, words) if verdict.reason == BY_THE_RULE else _told(found, words)
    if liquid_not_ruled_out(found.table):
        return headline, f"{says} {liquid_perhaps_said(found, words)}", ""
    if verdict.findings:
        says += " " + " ".join(finding_words.said(f, words).message for f in verdict.findings)
    if verdict.group == "low_airflow":
        says += f" {NO_REFRIGERANT}"
    return headline, says, mend(found)


def _named(found: Assessment) -> str:
    """The cause as it was seen, 'The filter is blocked', else by its name; else its group's."""
    verdict, d = found.verdict, found.diagnosis
    seen = next((a for a in d.actions if verdict.cause in a.causes and a.is_seen(found.round.observations)), None)
    if seen is not None:
        return seen_of(seen, found)
    return label_of(verdict.group, verdict.cause, d.setting)


def _told(found: Assessment, words: Words) -> str:
    verdict, known = found.verdict, causes_in(found.diagnosis.setting)
    why = (
        f"{capital(known[verdict.cause].why)}. {how_sure(found.diagnosis.ranked.by_cause[verdict.cause])}"
        if verdict.cause
        else (f"{_which(found)} {how_sure(verdict.probability)}")
    )
    told = listed([quantity_words.short(q, words) for q in _that_tell(found)])
    return f"{ended(capital(told))} {why}" if told else why


def _that_tell(found: Assessment) -> list[Quantity]:
    """The quantities out of range that tell most, what speaks loudest for it first; the capacity is the split again,
    times the airflow.
    """
    of = next((e for e in found.diagnosis.causes if _is_told(e.cause, found)), None)
    loudest = [w.quantity for w in of.speaks_for] if of else []
    out = [*found.verdict.quantities, *(id_ for id_ in loudest if id_ and found.table[id_].predicted)]
    once = [id_ for id_ in dict.fromkeys(out) if id_ != "capacity" or not {"split", "rise"} & {*out}]
    once.sort(key=lambda id_: loudest.index(id_) if id_ in loudest else len(loudest))
    return [found.table[id_] for id_ in once[:MOST_TELLING]]


def _is_told(cause: str, found: Assessment) -> bool:
    """Whether a cause is the one told, or of the group told."""
    verdict = found.verdict
    return (
        cause == verdict.cause
        if verdict.cause
        else is_in(group_of(EVERY_CAUSE[cause], found.diagnosis.ranked.kinds), verdict.group)
    )


def _which(found: Assessment) -> str:
    """The causes of the group that it may be."""
    labels = [cause_label(e.cause, found) for e in found.diagnosis.causes if _is_told(e.cause, found)]
    if len(labels) < 2:
        return "These readings do not tell the cause."
    return (
        f"{listed([labels[0], *(lower_first(label) for label in labels[1:])], 'or')}: these readings do not tell which."
    )


def _by_the_rule(found: Assessment, words: Words) -> str:
    verdict, of_water = found.verdict, found.verdict.quantities == ("water_flow",)
    text = _water_flow_low(found, words) if of_water else _airflow_out(found, words)
    if verdict.cause:
        text += f" {capital(causes_in(found.diagnosis.setting)[verdict.cause].why)}."
    if verdict.behind.group:
        behind = label_of(verdict.behind.group, verdict.behind.cause, found.diagnosis.setting)
        flow = "water flow" if of_water else "airflow"
        text += f" What may lie behind it: {lower_first(behind)}, {likelihood(verdict.behind.probability)}. Correct the {flow} first, then read again."
    return text


def _airflow_out(found: Assessment, words: Words) -> str:
    q, rules = found.table["airflow"], found.round.rules
    low = q.side < 0
    limit = rules.airflow_low_cfm_per_ton if low else rules.airflow_high_cfm_per_ton
    grade = (
        ("seriously low" if q.measured.value < rules.airflow_seriously_low_cfm_per_ton else "low") if low else "high"
    )
    return f"Airflow is {grade}: {quantity_words.measured(q, words)}, and the shop's limit is {words.plain(limit, 'CFM/ton')}."


def _water_flow_low(found: Assessment, words: Words) -> str:
    q = found.table["water_flow"]
    return (
        f"Water flow is low: {quantity_words.measured(q, words)}, expected {quantity_words.expected(q, words)} "
        f"({quantity_words.authority(q)})."
    )


def how_sure(probability: float) -> str:
    """A probability in words, with its number."""
    grades = ((0.97, "All but certain"), (0.85, "Very likely"), (0.6, "Likely"), (0.0, "Perhaps"))
    word = next(word for least, word in grades if probability >= least)
    return f"{word}, {likelihood(probability)}."


# -- sound -----------------------------------------------------------------------------------------------------------------


def _sound(found: Assessment, words: Words) -> tuple[str, str, str]:
    named = [q for id_ in NAMED_WHEN_SOUND if (q := found.table.get(id_)) and q.measured.known and q.state == IN_RANGE][
        :MOST_NAMED
    ]
    says = (
        f"{capital(listed([f'{lower_first(quantity_words.label(q.id))} {quantity_words.measured(q, words)}' for q in named]))}: as expected today."
        if named
        else ""
    )
    if found.verdict.humid:
        split = quantity_words.expected(found.table["split"], words)
        says += f" The house is damp: with this air a split of {split} is right, because much of the coil's work goes into drying the air. Add nothing."
    seen = seen_bad(found)
    do = [a for a in found.diagnosis.actions if a.do]
    if found.verdict.reason == WATER_SIDE:
        return "The water side does what it should today.", f"{says} The air side was not read. {seen}".strip(), ""
    return "This system does what it should today.", f"{says} {seen}".strip(), f"{do_words(do)}." if do else ""


# -- cannot tell -----------------------------------------------------------------------------------------------------------


def _cannot_tell(found: Assessment, words: Words) -> tuple[str, str, str]:
    verdict, setting = found.verdict, found.diagnosis.setting
    says, next_step = _OPEN[verdict.reason](found, words)
    headline = "Cannot tell yet."
    if verdict.reason == UNEXPLAINED:
        q = found.table[verdict.quantities[0]]
        headline = f"Cannot tell yet: {lower_first(quantity_words.label(q.id))} is {q.word}."
    elif verdict.reason == SUSPECTS and verdict.suspects:
        names = ["nothing wrong" if g == HEALTHY else lower_first(group_label(g, setting)) for g in verdict.suspects]
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
    left = [s for s in found.diagnosis.steps if s.left]
    wanted = [lower_first(left_words(s)) for s in left]
    return (f"Still needed: {listed(wanted)}." if wanted else "What is needed for a verdict cannot be read here."), ""


def _split_headline(found: Assessment, words: Words) -> str:
    q = found.table["split"]
    if q.state == CANT_TELL:
        return f"Cannot tell yet: split {words.value(q.measured.value, '°F', True)}, expected {quantity_words.expected(q, words)}."
    if q.side:
        return f"The split is {q.word}."
    if q.state == BORDERLINE:
        return "The split is borderline."
    return "The split may be right." if q.authority == "over_what_is_not_read" else "The split is as expected."


# What a split by itself points at (common practice, no single source); no split alone is a verdict.
SPLIT_POINTS_AT = {
    -1: "Too little capacity, too much airflow, warm air mixed in or heat added: the airflow tells which way to look.",
    0: "That alone clears neither the airflow nor the charge.",
    1: "Low airflow is the usual reason: it costs little capacity.",
}


def _split_alone(found: Assessment, words: Words) -> tuple[str, str]:
    q = found.table["split"]
    needed, _ = _not_read(found, words)
    if q.state == CANT_TELL:
        guessed = q.assumed_airflow and q.decided_by == "airflow_method"
        why = ", mostly because the airflow is not measured" if guessed else ""
        return f"The difference is smaller than its uncertainty{why}. {needed}", ""
    return f"{quantity_words.sentence(q, words, found.table)} {SPLIT_POINTS_AT[q.side]} {needed}", ""


def _contradicted(found: Assessment, words: Words) -> tuple[str, str]:
    said = [finding_words.said(f, words) for f in found.verdict.findings]
    return " ".join(s.message for s in said), _would_close(found, words) or said[0].hint


def _would_close(found: Assessment, words: Words) -> str:
    """The reading that would close an open ledger, to be read again."""
    ledger = found.table.ledger
    if ledger is None or ledger.closed is None or not ledger.closed.suspects:
        return ""
    first = ledger.closed.suspects[0]
    return f"{capital(ENTRIES[first.name])} at {words.value(first.closes_at, first.unit, True)} would make the two agree: read it again."


def _unexplained(found: Assessment, words: Words) -> tuple[str, str]:
    named = [found.table[id_] for id_ in found.verdict.quantities][:MOST_NAMED]
    text = f"{ended(capital(listed([quantity_words.short(q, words) for q in named])))} {_may_be(found)}"
    flow = found.table.get("airflow")
    if (
        named[0].id == "total_static"
        and flow is not None
        and flow.state == IN_RANGE
        and found.measured.airflows.measured
    ):
        text = f"{ended(capital(quantity_words.short(named[0], words)))} The airflow is in range all the same: look for what takes most of the static."
    return text, "" if found.diagnosis.steps else ABOUT.get(
        named[0].id, READ_AGAIN.format(quantity_words.label(named[0].id))
    )


def _may_be(found: Assessment) -> str:
    """The likeliest faults behind what is out of range, where nothing is told."""
    d, faults = found.diagnosis, found.verdict.suspects
    if not faults:
        return "Nothing read so far explains it."
    return f"It may be: {listed([f'{lower_first(group_label(g, d.setting))} ({share(d.ranked.by_group[g])})' for g in faults], 'or')}."


def _guessed(found: Assessment, words: Words) -> tuple[str, str]:
    what = (
        "No airflow is measured; 400 CFM per ton is assumed"
        if found.measured.airflows.assumed
        else "The airflow is a guess"
    )
    return f"{what}. Nothing is out of line so far, but that proves nothing until the airflow is measured.", ""


def _water(found: Assessment, words: Words) -> tuple[str, str]:
    return "A ground-source unit is judged by its loop water: entering, leaving and flow.", ""


def _suspects(found: Assessment, words: Words) -> tuple[str, str]:
    d = found.diagnosis
    if len(d.residuals) < FEWEST:
        return _not_read(found, words)
    likely = listed([f"{lower_first(cause_label(e.cause, found))} {share(e.probability)}" for e in d.causes[:2]])
    return (
        f"These readings cannot tell which it is: {likely}." if likely else "These readings cannot tell what it is.",
        "",
    )


def _liquid_perhaps(found: Assessment, words: Words) -> tuple[str, str]:
    return liquid_perhaps_said(found, words), ""


_OPEN: dict[str, Callable[[Assessment, Words], tuple[str, str]]] = {
    NOT_READ: _not_read, SPLIT_ALONE: _split_alone, CONTRADICTED: _contradicted, UNEXPLAINED: _unexplained, AIRFLOW_GUESSED: _guessed, WATER_NOT_READ: _water, SUSPECTS: _suspects,
    LIQUID_PERHAPS: _liquid_perhaps,
}  # fmt: skip
SAY = {
    STOP_FIRST: stop_said,
    DOES_NOT_COUNT: _does_not_count,
    CAUSE: _fault,
    GROUP: _fault,
    SOUND: _sound,
    CANNOT_TELL: _cannot_tell,
}
