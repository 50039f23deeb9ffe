"""The diagnosis in words: headline, why, what to do next."""

from dataclasses import dataclass

from engine.assessment import Assessment
from engine.diagnosis.actions import Action
from engine.diagnosis.by_rule import APPROACH_PARTS, reads_as_heated
from engine.diagnosis.cause import CIRCUIT_OR_OUTDOORS, NOT_FED
from engine.diagnosis.causes import WATER_SOURCE, causes_in, is_told, label_of
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
    RESTART,
    SOUND,
    SPLIT_ALONE,
    STOP_FIRST,
    WATER_NOT_READ,
    WATER_SIDE,
    Verdict,
)
from engine.report import finding_words, quantity_words
from engine.report.advice_words import NO_REFRIGERANT, step_label
from engine.report.mend_words import at_last, do_and_read_again, do_words, mend, seen_bad, seen_of
from engine.report.open_words import ABOUT, MOST_NAMED, cannot_tell
from engine.report.urgent_words import liquid_perhaps_said, stop_said
from engine.report.words import LIKELY, VERY_LIKELY, Words, capital, ended, likelihood, listed, lower_first
from engine.uncertainty.margin import BORDERLINE, IN_RANGE
from engine.validity.finding import EVERYTHING, NEVER_TODAY, SPLIT, Finding

SOUND_HEADLINE = "This system does what it should today."
STATIC_FOR_THE_AIRFLOW = "the airflow is right all the same, but the blower works harder for it."
STATIC_OF_MUCH_AIR = "the blower moves more air than is usual, and filter and ducts take what is usual at that airflow."
LOOK_AT_THE_TAP = "Look at the blower's tap or switches: one step down takes the static with it."
NOTHING_MORE = "Nothing more needs reading. Plug the test holes; caps on and tight."
# What is named where the machine does what it should.
NAMED_WHEN_SOUND = ("split", "rise", "airflow", "capacity", "heat_moved", "water_flow", "approach", "heat_approach")
# What is still worth reading in weather that no circuit is judged in: the air side.
WORTH_IN_ANY_WEATHER = ("return_air", "supply_air", "airflow", "filter_drop", "coil_drop", "statics", "filter")


@dataclass(frozen=True)
class Said:
    """The verdict in words. next_step: what to do next; leads: the step it is, where it is one."""

    headline: str
    says: str
    next_step: str
    leads: Advice | None = None


def verdict_said(found: Assessment, words: Words) -> Said:
    """The verdict of an assessment in words."""
    say = _restart if found.verdict.reason == RESTART else SAY[found.verdict.state]
    headline, says, next_step = say(found, words)
    leads = next(iter(_worth_taking(found)), None) if not next_step else None
    return Said(
        headline,
        says,
        next_step or (ended(step_label(leads, found.round.mode)) if leads else _nothing_to_read(found)),
        leads,
    )


def _worth_taking(found: Assessment) -> list[Advice]:
    """The steps that come next. Where the machine does what it should, they are readings; what may be looked at besides
    is no next step.
    """
    steps = found.diagnosis.steps
    if found.verdict.state == SOUND:
        return [advice for advice in steps if advice.left]
    if found.verdict.state == DOES_NOT_COUNT:
        return [advice for advice in steps if advice.step.id in WORTH_IN_ANY_WEATHER]
    return list(steps)


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
    if runs_in := _other_mode(found):
        return (
            _withheld(verdict),
            f"{says} Both say that it runs in {runs_in}.",
            f"Enter that it is tested in {runs_in}.",
        )
    if do:
        next_step = do_and_read_again(do, found.round.mode)
    elif EVERYTHING not in verdict.withholds and found.diagnosis.steps and verdict.findings[0].minutes >= NEVER_TODAY:
        next_step = ""  # the air and the statics are worth taking in any weather
    return _withheld(verdict), says, next_step


def _other_mode(found: Assessment) -> str:
    """The mode that air and water agree on, where the round was taken for the other; '' where they do not."""
    wrong_way = {f.id for f in found.verdict.findings}
    if "water_wrong_way" in wrong_way and wrong_way & {"supply_above_return", "supply_below_return"}:
        return "heating" if found.round.mode == "cooling" else "cooling"
    return ""


def _withheld(verdict: Verdict) -> str:
    if EVERYTHING in verdict.withholds:
        return "These readings do not count yet."
    if SPLIT in verdict.withholds:
        return "The air readings contradict each other."
    never = any(f.minutes >= NEVER_TODAY for f in verdict.findings)
    return "The circuit cannot be judged in this weather." if never else "The circuit cannot be judged yet."


# -- cause and group -------------------------------------------------------------------------------------------------------


def _fault(found: Assessment, words: Words) -> tuple[str, str, str]:
    verdict = found.verdict
    perhaps = "" if _is_seen(found) or _probability(found) >= LIKELY else "Perhaps: "
    headline = f"{perhaps}{lower_first(_named(found)) if perhaps else _named(found)}."
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
    verdict, seen, setting = found.verdict, _is_seen(found), found.diagnosis.setting
    if seen:
        return seen_of(seen, found)
    name = label_of(verdict.group, verdict.cause, setting)
    if setting.source != WATER_SOURCE or verdict.group != CIRCUIT_OR_OUTDOORS or verdict.cause:
        return name
    return f"{TOO_LITTLE[setting.mode] if 'heat_moved' in verdict.quantities else DRAW_OFF}: {lower_first(name)}"


# What a fault somewhere in a ground-source unit is seen in, while its airflow is not read.
TOO_LITTLE = {"cooling": "The water carries off too little heat", "heating": "The water gives too little heat"}
DRAW_OFF = "The compressor's draw is not what it should be"


def _is_seen(found: Assessment) -> Action | None:
    """What mends the cause that is told, where its fault was seen."""
    actions, cause = found.diagnosis.actions, found.verdict.cause
    return next((a for a in actions if cause in a.causes and a.is_seen(found.round.observations)), None)


def _told(found: Assessment, words: Words) -> str:
    verdict = found.verdict
    why = f"{_why(verdict.cause, found)} {how_sure(_probability(found))}" if verdict.cause else _which(found)
    told = listed([quantity_words.short(found.table[id_], words) for id_ in verdict.quantities])
    text = f"{ended(capital(told))} {why}" if told else why
    return text + (_behind(found) or _not_explained(found, words))


def _probability(found: Assessment) -> float:
    """How likely what is told is: the cause, else its group."""
    verdict = found.verdict
    return found.diagnosis.ranked.by_cause[verdict.cause] if verdict.cause else verdict.probability


def _why(cause: str, found: Assessment) -> str:
    setting = found.diagnosis.setting
    return f"{capital(causes_in(setting)[cause].why_on(*setting.facts))}."


def _behind(found: Assessment) -> str:
    """What is likely there as well: it is judged once what is told is mended."""
    verdict = found.verdict
    if not verdict.behind.group:
        return ""
    behind = label_of(verdict.behind.group, verdict.behind.cause, found.diagnosis.setting)
    likely = likelihood(verdict.behind.probability)
    return f" What may lie behind it: {lower_first(behind)}, {likely}. {FIRST.get(verdict.group, MEND_FIRST)}, then read again."


def _not_explained(found: Assessment, words: Words) -> str:
    """One reading that what is told does not explain."""
    if not found.verdict.unexplained:
        return ""
    q = found.table[found.verdict.unexplained[0]]
    return f" It does not explain all: {quantity_words.short(q, words)}. Read that again afterwards."


FIRST = {
    "low_airflow": "Correct the airflow first",
    "high_airflow": "Correct the airflow first",
    "water_flow": "Correct the water flow first",
}
MEND_FIRST = "Mend that first"


def _which(found: Assessment) -> str:
    """The causes of the group that it may be, and how sure it is that it is one of them."""
    labels = [
        label_of("", e.cause, found.diagnosis.setting)
        for e in found.diagnosis.causes
        if is_told(e.cause, found.verdict.group, found.verdict.cause, found.diagnosis.ranked.kinds)
    ]
    if len(labels) < 2:
        return f"These readings do not tell the cause. {how_sure(found.verdict.probability)}"
    which = listed([labels[0], *(lower_first(label) for label in labels[1:])], "or")
    text = f"{which}: these readings do not tell which. {_one_of_them(found.verdict.probability)}"
    return f"{text} {HEAT_ADDED}" if reads_as_heated(found.table, found.verdict.group) else text


HEAT_ADDED = "Heat added inside the unit would look the same: the supply is as dry as it should be."


def _by_the_rule(found: Assessment, words: Words) -> str:
    verdict, of_water = found.verdict, found.verdict.quantities == ("water_flow",)
    text = _water_flow_low(found, words) if of_water else _airflow_out(found, words)
    if verdict.cause:
        text += f" {_why(verdict.cause, found)}"
    return text + _behind(found)


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


GRADES = (
    (0.97, "All but certain", "all but certainly"), (VERY_LIKELY, "Very likely", "very likely"), (LIKELY, "Likely", "likely"), (0.0, "Perhaps", "perhaps"),
)  # fmt: skip


def how_sure(probability: float) -> str:
    """A probability in words, with its number: 'Very likely, 91 %.'"""
    word = next(word for least, word, _ in GRADES if probability >= least)
    return f"{word}, {likelihood(probability)}."


def _one_of_them(probability: float) -> str:
    """'It is very likely one of them, 91 %.'"""
    word = next(word for least, _, word in GRADES if probability >= least)
    return f"It is {word} one of them, {likelihood(probability)}."


# -- restart reading -------------------------------------------------------------------------------------------------------

RESTART_SAYS = {
    "low_airflow": ("It iced because too little air crossed the coil.", "Prove the airflow: filter, evaporator, blower, ducts. Then let it settle and read the whole round."),
    NOT_FED: ("It iced because the coil is not fed.", "Let it settle, then read the whole round: charge or a restriction shows then. Add nothing on this reading."),
    "": ("Cannot tell yet: airflow, or a coil that is not fed.", "Let it settle, then read the whole round."),
}  # fmt: skip


def _restart(found: Assessment, words: Words) -> tuple[str, str, str]:
    """What the first minutes after a thaw say: no charge advice, no baseline."""
    headline, next_step = RESTART_SAYS[found.verdict.group]
    read = [q for id_ in found.verdict.quantities if (q := found.table.get(id_)) and q.measured.known]
    told = ended(capital(listed([quantity_words.short(q, words) for q in read]))) if read else ""
    return headline, f"{told} {finding_words.said(_restart_finding(found), words).message}".strip(), next_step


def _restart_finding(found: Assessment) -> Finding:
    return next(f for f in found.findings if f.id == "restart_reading")


# -- sound -----------------------------------------------------------------------------------------------------------------


# Where too little is read to tell anything, what was seen is the news.
NOTHING_TOLD = (NOT_READ, SPLIT_ALONE, WATER_NOT_READ, AIRFLOW_GUESSED)


def _open(found: Assessment, words: Words) -> tuple[str, str, str]:
    """Nothing is told yet; a fault that was seen is said and mended all the same."""
    headline, says, next_step = cannot_tell(found, words)
    seen = [a for a in found.diagnosis.actions if a.do and a.is_seen(found.round.observations)]
    if not seen or found.verdict.reason in (CONTRADICTED, LIQUID_PERHAPS):
        return headline, says, next_step
    if found.verdict.reason in NOTHING_TOLD:
        headline = f"{seen_of(seen[0], found)}."
    else:
        says = f"{seen_bad(found)} {says}"
    return headline, says, do_and_read_again(seen, found.round.mode)


def _sound(found: Assessment, words: Words) -> tuple[str, str, str]:
    named = [q for id_ in NAMED_WHEN_SOUND if (q := found.table.get(id_)) and q.measured.known and q.state == IN_RANGE][
        :MOST_NAMED
    ]
    says = (
        f"{capital(listed([f'{lower_first(quantity_words.label(q.id))} {quantity_words.measured(q, words)}' for q in named]))}: as expected today."
        if named
        else ""
    )
    says += _borderline(found, words)
    if found.verdict.humid:
        split = quantity_words.expected(found.table["split"], words)
        says += f" The house is damp: with this air a split of {split} is right, because much of the coil's work goes into drying the air. Add nothing."
    seen = seen_bad(found)
    do = [a for a in found.diagnosis.actions if a.do]
    says += _settled_by_gauge(found, words)
    statics = [id_ for id_ in found.verdict.quantities if id_ not in APPROACH_PARTS]
    if statics:
        static = quantity_words.short(found.table[statics[0]], words)
        much_air = found.table["airflow"].state == BORDERLINE
        says += f" {capital(static)}: {STATIC_OF_MUCH_AIR if much_air else STATIC_FOR_THE_AIRFLOW}"
        if not do:
            look = LOOK_AT_THE_TAP if much_air else ABOUT[_static_to_look_at(statics[-1], found)]
            return SOUND_HEADLINE, f"{says} {seen}".strip(), look
    if found.verdict.reason == WATER_SIDE:
        return "The water side does what it should today.", f"{says} The air side was not read. {seen}".strip(), ""
    return SOUND_HEADLINE, f"{says} {seen}".strip(), f"{do_words(do, found.round.mode)}." if do else ""


def _borderline(found: Assessment, words: Words) -> str:
    """What is neither in range for certain nor out of it, the furthest two: said, because the rest is as expected."""
    near = [q for id_ in NAMED_WHEN_SOUND if (q := found.table.get(id_)) and q.state == BORDERLINE]
    furthest = sorted(near, key=lambda q: -abs(q.lean or 0.0))[:2]
    if not furthest:
        return ""
    said = listed([quantity_words.short(q, words) for q in furthest])
    return f" {capital(said)}: {'both ' if len(furthest) > 1 else ''}borderline."


def _static_to_look_at(high: str, found: Assessment) -> str:
    """The part of the ducts that a high static is looked for in."""
    read = all((q := found.table.get(id_)) and q.measured.known for id_ in ("filter_drop", "coil_drop"))
    return high if high != "total_static" or not read else "supply_drop"


def _settled_by_gauge(found: Assessment, words: Words) -> str:
    """An approach out of range beside a condensing and a subcooling that are in range."""
    of = [found.table[id_] for id_ in found.verdict.quantities if id_ in APPROACH_PARTS]
    if not of:
        return ""
    return (
        f" {capital(quantity_words.short(of[0], words))}: by gauge neither condensing nor subcooling is out of "
        "range, and approach is the difference of the two."
    )


SAY = {
    STOP_FIRST: stop_said,
    DOES_NOT_COUNT: _does_not_count,
    CAUSE: _fault,
    GROUP: _fault,
    SOUND: _sound,
    CANNOT_TELL: _open,
}
