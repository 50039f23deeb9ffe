"""What must hold of every assessment, whatever was read: each check answers with what it finds broken, or with nothing."""

import re
from collections.abc import Iterator

from engine.assessment import Assessment
from engine.diagnosis import gauges
from engine.diagnosis.actions import ACTIONS
from engine.diagnosis.cause import CIRCUIT_OR_OUTDOORS, HEALTHY
from engine.diagnosis.observation_likelihoods import ratio_of
from engine.diagnosis.verdict import (
    CANNOT_TELL,
    CAUSE,
    DOES_NOT_COUNT,
    GROUP,
    SOUND,
    STATES,
    STOP_FIRST,
    SUSPECTS,
    UNEXPLAINED,
    WATER_SIDE,
)
from engine.readings.vocabulary import GROUND_SOURCE
from engine.report import quantity_words
from engine.report.advice_words import causes_said
from engine.report.bundle.answer import answer_of
from engine.report.marks import beam_row, place_marks
from engine.report.quantity_words import TEMPERATURES
from engine.report.words import FAHRENHEIT
from engine.validity.finding import CONTRADICTION, EVERYTHING

AIR_READINGS = ("return_air", "supply_air", "outdoor", "grille", "register", "airflow")
COOLINGS_WORDS = ("condenser", "evaporator difference", "65 °F", "efficiency class", "school", "70 to 115")
BAD_NUMBER = re.compile(
    r"(−0(\.0+)?(?![\d.])|-0(\.0+)?(?![\d.])|\de[+-]\d|± 0(\.0+)?(?![\d.])|\bnan\b|\binf\b|(?<!: )\bNone\b(?!:))"
)
SURELY_SEEN = 4.0  # how many times likelier a sight is with a cause than without before it may not be contradicted


def texts(answer: dict) -> list[str]:
    """Every sentence of an answer."""
    found = []

    def walk(part):
        if isinstance(part, str):
            found.append(part)
        elif isinstance(part, dict):
            for value in part.values():
                walk(value)
        elif isinstance(part, (list, tuple)):
            for value in part:
                walk(value)

    walk(answer)
    return found


def broken(found: Assessment) -> list[str]:
    """Everything that is broken about an assessment."""
    answer = answer_of(found)
    return [f"{check.__name__}: {what}" for check in CHECKS for what in check(found, answer)]


def no_fine_word_over_a_fault(found: Assessment, answer: dict) -> Iterator[str]:
    """No fine headline while a fault is likelier than soundness, or a quantity is out of range that nothing explains."""
    v = found.verdict
    if v.state != SOUND:
        return
    likeliest = max(found.diagnosis.ranked.by_group.items(), key=lambda item: item[1])
    unread = CIRCUIT_OR_OUTDOORS if v.reason == WATER_SIDE else HEALTHY  # an airflow that nobody read is in it
    if likeliest[0] not in (HEALTHY, unread):
        yield f"sound over {likeliest}"
    for q in found.quantities.values():
        said = q.id in v.quantities and quantity_words.label(q.id) in answer["verdict"]["says"]
        if q.side and not q.predicted and not q.id.startswith("carries_") and not said:
            yield f"sound with {q.id} out of range"
    if any(f.level == CONTRADICTION for f in found.findings):
        yield "sound over a contradiction"
    if not (found.measured.airflows.measured or found.round.equipment.kind == GROUND_SOURCE):
        yield "sound on a guessed airflow"


def nothing_is_asked_that_is_there(found: Assessment, answer: dict) -> Iterator[str]:
    """No next step asks for what is read, or marked not possible, or was looked at."""
    round_ = found.round
    for advice in found.diagnosis.steps:
        for place, ways in advice.left:
            guess = place == "blower" and not found.measured.airflows.measured
            if round_.reading(place, *ways) is not None and not guess:
                yield f"asks for {place} {ways}"
            if not round_.can_be_read(place, ways[0]):
                yield f"asks for {place}, which is not possible"
        if advice.step.look and advice.step.look in round_.observations:
            yield f"asks to look at {advice.step.look}"
        if advice.step.reads and not advice.left:
            yield f"asks for nothing: {advice.step.id}"
    if round_.equipment.kind == GROUND_SOURCE and not round_.not_possible:
        first = found.diagnosis.steps[0].step.id if found.diagnosis.steps else ""
        if first in AIR_READINGS and found.table.get("heat_moved") is None and found.measured.water is None:
            yield f"asks for air first: {first}"


def no_advice_against_what_was_seen(found: Assessment, answer: dict) -> Iterator[str]:
    """Nothing to clean or change that was seen clean, or that nobody looked at."""
    for action in found.diagnosis.actions:
        seen = [look for look in (*action.seen, *action.any) if look in found.round.observations]
        if not seen:
            yield f"{action.id} where nobody looked"
        if action.seen and not action.any and not action.is_seen(found.round.observations):
            yield f"{action.id} against what was seen"
    for action in ACTIONS:
        advised = action in found.diagnosis.actions or found.verdict.state == STOP_FIRST
        if action.do and action.do in answer["verdict"]["next_step"] and not advised:
            yield f"next says {action.do}"


def urgent_first(found: Assessment, answer: dict) -> Iterator[str]:
    """What is urgent leads, and nothing else is advised until it is done."""
    ice = found.round.mode == "cooling" and found.round.observations.get("ice") in (
        "coil",
        "suction_line",
        "after_spot",
    )
    over = any(q.side > 0 for id_ in ("compressor_amps", "outdoor_fan_amps") if (q := found.table.get(id_)))
    if (ice or over) and found.verdict.state != STOP_FIRST:
        yield f"{found.verdict.state} before the stop"
    if found.verdict.state == STOP_FIRST and (found.diagnosis.steps or found.diagnosis.actions):
        yield "advises before it stops"
    if found.verdict.state == STOP_FIRST and not found.verdict.behind.group and answer["causes"]:
        yield "explains what nothing can be told of"


def gauges_are_never_off_where_they_belong(found: Assessment, answer: dict) -> Iterator[str]:
    """Commissioning, first visit, tripped: warranted once the airflow is proved, or not enough to say; never off."""
    seen, decides = found.round.observations, found.diagnosis.gauges.decides
    asks = seen.get("visit_kind") in ("commissioning", "first") or (
        seen.get("tripped") == "yes" and found.diagnosis.gauges.rule != "mended"
    )
    if asks and decides == gauges.OFF:
        yield "off on a visit that asks for them"
    if decides == gauges.WARRANTED and not found.verdict.counts:
        yield "warranted by readings that do not count"
    if decides == gauges.WARRANTED and asks and not _proved(found):
        yield "warranted before the airflow is proved"
    if any(a.step.id == "pressures" for a in found.diagnosis.steps) and decides != gauges.WARRANTED:
        yield "advises to connect without the decision"


def _proved(found: Assessment) -> bool:
    return found.measured.airflows.measured and found.table["airflow"].state == "in range"


def headline_causes_and_gauges_agree(found: Assessment, answer: dict) -> Iterator[str]:
    """The first cause shown is the verdict's; a verdict that counts nothing shows none; every state is one of the six."""
    v, causes = found.verdict, found.diagnosis.causes
    if v.state not in STATES:
        yield f"state {v.state}"
    if v.state == CAUSE and (not causes or causes[0].cause != v.cause):
        yield f"{v.cause} is told, {causes and causes[0].cause} leads"
    if v.state == SOUND and causes and causes[0].cause != HEALTHY:
        yield f"sound, {causes[0].cause} leads"
    if v.state == DOES_NOT_COUNT and causes:
        yield "causes of what does not count"
    if v.behind.cause and v.state == STOP_FIRST and causes[0].cause != v.behind.cause:
        yield f"{v.behind.cause} is behind the stop, {causes[0].cause} leads"
    if EVERYTHING in v.withholds and v.state not in (DOES_NOT_COUNT, STOP_FIRST):
        yield "a verdict on readings that do not count"
    if v.state in (CAUSE, GROUP) and not v.group:
        yield "a fault without a group"
    if v.state == CANNOT_TELL and (v.group or v.cause):
        yield "cannot tell, and tells"
    said = answer["verdict"]
    if not (said["headline"] and said["next_step"] and (said["says"] or v.state == SOUND)):
        yield f"nothing said: {said}"


def a_cause_is_not_told_against_the_eye(found: Assessment, answer: dict) -> Iterator[str]:
    """What speaks for a cause is its own: a reading on the side that the cause moves it to."""
    for e in found.diagnosis.causes:
        for w in e.speaks_for:
            if (
                w.sight
                and e.cause != HEALTHY
                and not ratio_of(w.sight, w.degree, e.cause) >= ratio_of(w.sight, w.degree, HEALTHY)
            ):
                yield f"{w.sight} {w.degree} for {e.cause}"


def one_value_and_one_state(found: Assessment, answer: dict) -> Iterator[str]:
    """A quantity has one expected value and one state in the whole answer: marks and rows read the same object."""
    for mark in place_marks(found):
        q = mark.quantity
        if q is not found.quantities[q.id] or mark.state != q.state:
            yield f"mark of {q.id}"
        if mark.expected is not None and abs((mark.expected - q.at.base) * q.at.sign - q.expected.value) > 1e-6:
            yield f"{q.id} expects another value at its place"
    for q in beam_row(found):
        if q is not found.quantities[q.id]:
            yield f"row of {q.id}"
    for r in found.diagnosis.residuals:
        if r is not found.quantities[r.kind.id].residual:
            yield f"residual of {r.kind.id}"


def numbers_are_plain(found: Assessment, answer: dict) -> Iterator[str]:
    """No minus zero, no exponent, no '± 0', no double full stop."""
    for text in texts(answer):
        if BAD_NUMBER.search(text) or ".." in text:
            yield text
    for q in found.quantities.values():
        said = answer["quantities"][q.id]["sentence"]
        if q.predicted and said and q.expected.known and "≈" not in said:
            yield f"{q.id} is predicted and does not say so"
        if q.predicted and said and q.id in TEMPERATURES and round(q.expected.value, 1) < 0 and "≈ −" not in said:
            yield f"{q.id} lost its sign"


def heating_has_its_own_words(found: Assessment, answer: dict) -> Iterator[str]:
    """In heating nothing of cooling's is said: no class approach, no schools, no condenser."""
    if found.round.mode != "heating":
        return
    if answer["split_schools"] or answer["pocket_formulas"]:
        yield "schools of cooling"
    for id_ in ("split", "approach", "suction", "evaporating", "superheat", "subcooling", "condensing"):
        if id_ in found.quantities and found.round.equipment.kind != GROUND_SOURCE:
            yield f"{id_} in heating"
    for text in (
        answer["verdict"]["headline"],
        answer["verdict"]["says"],
        answer["verdict"]["next_step"],
        *(n["label"] for n in answer["next"]),
        answer["gauges"]["says"],
        *(m for n in answer["next"] for m in n["means"]),
        *answer["not_seen"],
    ):
        for word in COOLINGS_WORDS:
            if word in text.lower():
                yield f"'{word}' in: {text}"


def a_guess_is_called_a_guess(found: Assessment, answer: dict) -> Iterator[str]:
    """No verdict on a guess that nobody made, without saying so."""
    flows = found.measured.airflows
    if flows.assumed and any("airflow is a guess" in text for text in texts(answer)):
        yield "a guess nobody made"
    used = any(q.assumed_airflow and q.measured.known for q in found.quantities.values())
    if (
        flows.assumed
        and used
        and found.verdict.state in (CAUSE, GROUP, SOUND)
        and not any("assumed" in text for text in answer["not_seen"])
    ):
        yield "assumed in silence"


def something_to_do(found: Assessment, answer: dict) -> Iterator[str]:
    """There is always a next step, and to keep the record is none where a fault is told, or a quantity is out of range
    that nothing explains.
    """
    step, open_ = answer["verdict"]["next_step"], found.verdict.reason == UNEXPLAINED
    if not step or ((open_ or found.verdict.state in (CAUSE, GROUP)) and step.startswith("Keep the record")):
        yield f"nothing to do about {found.verdict.cause or found.verdict.group or found.verdict.quantities}"


def the_likeliest_are_suspected(found: Assessment, answer: dict) -> Iterator[str]:
    """No group that is named as a suspect is less likely than one that is not."""
    v, shares = found.verdict, found.diagnosis.ranked.by_group
    if v.reason == SUSPECTS and v.suspects:
        least = min(shares[group] for group in v.suspects)
        yield from (f"{g} {p:.2f} over {v.suspects}" for g, p in shares.items() if g not in v.suspects and p > least)


def what_is_in_range_says_how_it_speaks_for_a_fault(found: Assessment, answer: dict) -> Iterator[str]:
    """'In range' beside 'for' is a riddle without the side it is on."""
    for cause in causes_said(found, FAHRENHEIT):
        if cause.cause != HEALTHY:
            yield from (text for text in cause.speaks_for if " is in range (" in text and " side" not in text)


CHECKS = (
    the_likeliest_are_suspected, what_is_in_range_says_how_it_speaks_for_a_fault,
    no_fine_word_over_a_fault, nothing_is_asked_that_is_there, no_advice_against_what_was_seen, urgent_first, gauges_are_never_off_where_they_belong,
    headline_causes_and_gauges_agree, a_cause_is_not_told_against_the_eye, one_value_and_one_state, numbers_are_plain, heating_has_its_own_words,
    a_guess_is_called_a_guess, something_to_do,
)  # fmt: skip
