"""What stops the machine first, in words."""

from engine.assessment import Assessment
from engine.constants import DISCHARGE_LIMIT
from engine.diagnosis.actions import Action, seen_faults
from engine.diagnosis.cause import PLATE
from engine.diagnosis.causes import causes_in, is_told, label_of
from engine.diagnosis.stop_first import FREEZING, ICE, LIQUID_RETURN, OVER_PLATE, TOO_HOT, Urgent
from engine.readings.round import Round
from engine.readings.vocabulary import GROUND_SOURCE, PLACES, place_name
from engine.report import finding_words, quantity_words
from engine.report.mend_words import do_words, seen_of
from engine.report.words import LIKELY, Words, likelihood, listed, lower_first
from engine.uncertainty.estimate import Why
from engine.validity.conditions import thaw_minutes


def stop_said(found: Assessment, words: Words) -> tuple[str, str, str]:
    """Headline, why in one sentence, and what to do."""
    urgent = found.verdict.urgent
    if urgent is None:
        raise LookupError("nothing stops this machine")
    what = "unit" if urgent.place == "outdoor_fan" else "compressor"
    says, next_step = _URGENT[urgent.id](urgent, found, words)
    return f"Stop the {what}.", f"{says}{_likely_cause(found)}", next_step


def _likely_cause(found: Assessment) -> str:
    """' Likely cause: the filter is blocked, 93 %.', where the readings tell one."""
    behind, setting = found.verdict.behind, found.diagnosis.setting
    if not behind.group or behind.probability < LIKELY:
        return ""
    seen = _seen_behind(found)
    label = seen_of(seen, found) if seen else label_of(behind.group, behind.cause, setting)
    said = f"{lower_first(label)}, {likelihood(behind.probability)}."
    besides = found.verdict.reason == OVER_PLATE and not _overloads(found)
    return f" Seen besides: {said}" if besides else f" Likely cause: {said}"


def _seen_behind(found: Assessment) -> Action | None:
    """What mends the likely cause, where its fault was seen."""
    return next((a for a in seen_faults(found.round) if found.verdict.behind.cause in a.causes), None)


# Of the draw: what raises it by less, at its worst, takes no compressor over its plate (working figure).
OVERLOADS = 0.05


def _overloads(found: Assessment) -> bool:
    """Whether all that may be told of raises the compressor's draw, or is another machine's plate: one that is low on
    charge is not overloaded.
    """
    behind, d = found.verdict.behind, found.diagnosis
    told = [c for id_, c in causes_in(d.setting).items() if is_told(id_, behind.group, behind.cause, d.ranked.kinds)]
    draws = [max(c.signs_on(*d.setting.facts).get("amps", (0.0,))) for c in told]
    return behind.group == PLATE or min(draws, default=0.0) >= OVERLOADS


def _ice(urgent: Urgent, found: Assessment, words: Words) -> tuple[str, str]:
    text = f"There is ice {finding_words.ICE_AT[urgent.place]}. "
    if urgent.subcooling_says == "charge":
        text += f"Subcooling is {quantity_words.measured(found.table['subcooling'], words)} through it, which says low on charge; nothing else can be told through ice."
    elif urgent.subcooling_says == "hint":
        text += f"Subcooling is {quantity_words.measured(found.table['subcooling'], words)} through it: a hint of low charge, no more, because ice itself lowers it behind an orifice."
    else:
        text += "Nothing can be told through ice."
    minutes = f"{thaw_minutes(found.round):.0f} min"
    return (
        f"{text}{_meanwhile(found)}",
        f"Compressor off, blower on: thaw it fully, about {minutes}, and mind the drain. Then prove the airflow. No gauges for ice.",
    )


def thaw_left_said(round_: Round) -> str:
    """What to leave for the next visit where the thaw outlasts this one; '' where no ice was seen."""
    if not thaw_minutes(round_):
        return ""
    return (
        f"There was ice {finding_words.ICE_AT[round_.observations['ice']]}; left to thaw. Next: dry and clean, "
        "prove the airflow, then a restart reading. No refrigerant before that."
    )


# What is looked at while it thaws: it needs no running machine.
WHILE_IT_THAWS = {
    "filter": "filter", "evaporator_face": "evaporator face", "blower_wheel": "blower wheel", "registers": "registers", "ducts": "ducts",
}  # fmt: skip


def _meanwhile(found: Assessment) -> str:
    left = [name for look, name in WHILE_IT_THAWS.items() if look not in found.round.observations]
    return f" Meanwhile look at {listed(left)}." if left else ""


def _freezing(urgent: Urgent, found: Assessment, words: Words) -> tuple[str, str]:
    if urgent.quantity:
        text = f"It evaporates at {quantity_words.measured(found.table[urgent.quantity], words)} by gauge"
    else:
        text = f"{place_name(urgent.place)} is at {words.temperature(found.round.read(urgent.place, 'temperature'))}"
    freezing = words.temperature(32.0, 0)
    return (
        f"{text}: below {freezing} the coil ices.",
        "Compressor off, blower on: thaw it fully and mind the drain. Then prove the airflow.",
    )


# What overloads a compressor, by where its head is made, and the outdoor fan (common practice, no single source).
OVERLOADED_BY = {
    "cooling": "the outdoor coil, its fan, the capacitor, the volts", "heating": "the indoor airflow first, then the charge, the capacitor, the volts",
    GROUND_SOURCE: "the water flow and its coil, the capacitor, the volts", "outdoor_fan": "the blade, the bearings, the capacitor, the volts",
}  # fmt: skip


def _over_plate(urgent: Urgent, found: Assessment, words: Words) -> tuple[str, str]:
    q, place, round_ = found.table[urgent.quantity], PLACES[urgent.place].lower(), found.round
    by_water = round_.equipment.kind == GROUND_SOURCE and round_.mode == "cooling"
    by = "outdoor_fan" if urgent.place == "outdoor_fan" else GROUND_SOURCE if by_water else round_.mode
    look = f"Find out what overloads it before it runs again: {OVERLOADED_BY[by]}."
    seen = _seen_behind(found)
    if seen and _overloads(found):
        look = f"{do_words([seen], round_.mode)} before it runs again; then let it settle and read again."
    if found.verdict.behind.group == PLATE:
        look = f"Read both nameplates first: these readings are another machine's. {look}"
    return (
        f"The {place} draws {quantity_words.measured(q, words)}; the plate allows {words.value(q.limit or 0.0, 'A')}.",
        look,
    )


def _too_hot(urgent: Urgent, found: Assessment, words: Words) -> tuple[str, str]:
    line, limit = found.round.read(urgent.place, "temperature"), DISCHARGE_LIMIT.value
    return (
        f"The discharge line is at {words.temperature(line)}: over {words.temperature(limit, 0)} the oil breaks down.",
        "Let it cool. Then find out why: little vapor comes back to it, its head is high, or it has worn.",
    )


def _liquid(urgent: Urgent, found: Assessment, words: Words) -> tuple[str, str]:
    q = found.table["superheat"]
    witness = f", and {WITNESS[urgent.witness]}" if urgent.witness else ""
    text = f"Superheat is {quantity_words.measured(q, words)} by gauge{witness}: liquid returns to the compressor."
    next_step = f"Find out why before it runs again: {_boils_first(found)} first, then what feeds the evaporator."
    if q.expected.missing == NO_TARGET:
        next_step += f" {ON_SUCH_A_DAY}"
    return text, next_step


def _boils_first(found: Assessment) -> str:
    """What brings the heat that boils the refrigerant, by mode and kind."""
    if found.round.mode == "cooling":
        return "airflow"
    return "water flow" if found.round.equipment.kind == GROUND_SOURCE else "the outdoor coil and its fan"


WITNESS = {
    "suction_rise": "the suction line does not warm on its way", "swings": "the suction line swings",
    "amps": "the compressor draws more than expected",
}  # fmt: skip
# A fixed orifice whose target is under 5 °F: to take charge out then is to find it short on the next ordinary day (the
# charging formula's own slopes).
NO_TARGET = Why("no_target_today")
ON_SUCH_A_DAY = "With this air and weather a fixed orifice has no superheat target: leave the charge alone until a day that has one."

_URGENT = {ICE: _ice, FREEZING: _freezing, OVER_PLATE: _over_plate, TOO_HOT: _too_hot, LIQUID_RETURN: _liquid}


def liquid_perhaps_said(found: Assessment, words: Words) -> str:
    """A superheat near zero: liquid at the compressor is not ruled out."""
    return f"Superheat is {quantity_words.measured(found.table['superheat'], words)} by gauge: liquid at the compressor is not ruled out."
