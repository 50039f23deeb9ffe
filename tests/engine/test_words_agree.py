"""What is said of simulated visits, of every kind of machine and in every way of reading them: each text agrees with the
numbers it stands for, with its mode, and with what was read. No text is compared with one of our own.
"""

import re
from contextlib import suppress
from dataclasses import dataclass
from functools import cache

import pytest

from benchmarks.judgement import AIR, LINES, WATER, cut, without
from engine.assessment import Assessment, assess_many
from engine.diagnosis.actions import ACTIONS
from engine.diagnosis.cause import HEALTHY
from engine.diagnosis.verdict import CANNOT_TELL, CAUSE, DOES_NOT_COUNT, GROUP, SOUND, STOP_FIRST, UNEXPLAINED
from engine.readings.observations import BY_ID as SIGHTS
from engine.readings.round import Round, without_gauges
from engine.report.advice_words import causes_said, gauges_said, step_label, step_meanings
from engine.report.bundle.reading import visit_of
from engine.report.verdict_words import verdict_said
from engine.report.words import FAHRENHEIT, Words
from plant.simulate import bundle
from plant.steady import NotConverged

SEED, CELSIUS = 4700, Words("C")
# kind, whether in heating, how many visits, the ways of reading them
KINDS = {
    "cooling": ("air_conditioner", False, 22), "heating": ("heat_pump", True, 18),
    "ground source, cooling": ("ground_source", False, 9), "ground source, heating": ("ground_source", True, 9),
}  # fmt: skip


@dataclass(frozen=True)
class Told:
    """One visit read one way, judged, and what is said of it."""

    name: str
    round: Round
    found: Assessment
    headline: str
    says: str
    next_step: str
    gauges: str

    @property
    def whole(self) -> str:
        return f"{self.headline} {self.says} {self.next_step} {self.gauges}"


def ways(round_: Round) -> dict[str, Round]:
    """The same visit with all of it read, without gauges, and from less and less."""
    walk = without_gauges(without("discharge_line", round_))
    found = {"all of it": round_, "without gauges": walk}
    if round_.equipment.kind == "ground_source":
        return found | {"water alone": cut(walk, WATER)}
    return found | {"air and lines": cut(walk, LINES), "air alone": cut(walk, AIR)}


@cache
def told(kind: str) -> tuple[Told, ...]:
    """Visits of a kind, in every way."""
    machine, heating, visits = KINDS[kind]
    more = {"gauges": True, "discharge": machine != "ground_source", "heating": heating}
    read = {}
    for row in range(visits):
        with suppress(NotConverged):
            visit = visit_of(bundle(SEED, row, machine, shifted=row % 3 == 0, **more))
            read |= {f"{visit.name}, {way}": round_ for way, round_ in ways(visit.rounds[0][1]).items()}
    found = []
    for (name, round_), assessed in zip(read.items(), assess_many([*read.values()]), strict=True):
        said = verdict_said(assessed, FAHRENHEIT)
        found.append(Told(name, round_, assessed, said.headline, said.says, said.next_step, gauges_said(assessed)))
    return tuple(found)


# A kind is drawn and judged once: by one of the processes that share the tests.
of_every_kind = pytest.mark.parametrize(
    "kind", [pytest.param(kind, marks=pytest.mark.xdist_group(kind)) for kind in KINDS]
)


@of_every_kind
def test_a_text_is_whole_sentences_of_figures_that_are_there(kind):
    """No part left open, no minus of a typewriter, nothing said twice beside itself."""
    for t in told(kind):
        for text in (t.headline, t.says, t.next_step, t.gauges):
            assert text == text.strip() and "  " not in text and (not text or text[-1] in ".?"), (t.name, text)
            assert not re.search(r"None|nan\b|inf\b|\{|\}|(?<![\d\w])-\d|−0(\.0+)?(?![.\d])", text), (t.name, text)
            assert not text or text[0].isupper() or text[0].isdigit(), (t.name, text)
        sentences = re.findall(r"[^.?]{25,}[.?]", f"{t.says} {t.next_step}")
        assert len(sentences) == len(set(sentences)), (t.name, t.whole)


@of_every_kind
def test_in_heating_the_coils_have_changed_places_and_in_cooling_they_have_not(kind):
    elsewhere = (
        r"\b[Ee]vaporators?\b|\b[Cc]ondensers?\b|hot space|can dry|warms on its way"
        if "heating" in kind
        else r"indoor coil|cold space|cools on its way|Rise is|outdoor coil (is|takes|iced)|true suction"
    )
    for t in told(kind):
        steps = [step_label(a, t.round.mode) for a in t.found.diagnosis.steps]
        meant = [text for a in t.found.diagnosis.steps for text in step_meanings(a, t.found)]
        causes = [f"{c.label}. {c.why}" for c in causes_said(t.found, FAHRENHEIT)]
        for text in (t.whole, *steps, *meant, *causes):
            assert not re.search(elsewhere, text), (t.name, text)


@of_every_kind
def test_a_look_that_shows_a_fault_never_means_that_nothing_is_wrong(kind):
    bad = [SIGHTS[look].degrees[d].lower() for a in ACTIONS for look, degrees in a.seen.items() for d in degrees]
    for t in told(kind):
        for advice in t.found.diagnosis.steps:
            for text in step_meanings(advice, t.found):
                seen, means = text.lower().split(": ", 1)
                sound = "nothing wrong" in means and advice.step.look
                assert not (sound and set(re.split(r", | or ", seen)) & set(bad)), (t.name, advice.step.id, text)


@of_every_kind
def test_what_was_read_is_never_asked_for(kind):
    for t in told(kind):
        table = t.found.table
        if t.round.by_gauge:
            assert "Pressures by gauge" not in t.next_step, (t.name, t.next_step)
            assert not re.search(r"gauges are warranted|take its pressures|will say why", t.gauges), (t.name, t.gauges)
        for quantity in ("superheat", "subcooling"):
            if table.get(quantity) is not None and table[quantity].measured.known:
                assert not re.search(rf"{quantity}[^.]* by gauge", t.next_step, re.I), (t.name, t.next_step)
        for advice in t.found.diagnosis.steps:
            assert advice.step.look not in t.round.observations or not advice.step.look, (t.name, advice.step.id)
            for place, quantities in advice.left:
                assert not any(t.round.value(place, q) is not None for q in quantities), (t.name, advice.step.id)


@of_every_kind
def test_a_share_in_a_text_is_the_diagnosis_own_and_they_make_no_more_than_a_whole(kind):
    for t in told(kind):
        shares = [int(s) for s in re.findall(r"\((\d+) %\)", t.says)]
        assert all(s >= 3 for s in shares) and (sum(shares) <= 102 or "or both" in t.says), (t.name, t.says)
        ours = {round(100 * p) for p in t.found.diagnosis.ranked.by_group.values()}
        assert all({s - 1, s, s + 1} & ours for s in shares), (t.name, t.says)
        if "Most likely nothing is wrong" in t.says:
            assert t.found.diagnosis.ranked.by_group[HEALTHY] > 0.5, t.name
        if t.found.verdict.state == CANNOT_TELL and t.found.verdict.reason == UNEXPLAINED:
            assert t.found.table[t.found.verdict.quantities[0]].word in t.headline, (t.name, t.headline)


@of_every_kind
def test_what_a_fault_is_said_to_show_in_is_out_of_range_or_may_be(kind):
    for t in told(kind):
        verdict = t.found.verdict
        if verdict.state in (CAUSE, GROUP):
            named = [t.found.table[id_] for id_ in (*verdict.quantities, *verdict.unexplained)]
            assert all(q.side or q.predicted or q.state in ("borderline", "can't tell yet") for q in named), t.name
            assert set(verdict.quantities).isdisjoint(verdict.unexplained), t.name
        if verdict.state == SOUND:
            assert not re.search(r"warranted|[Rr]ecover|weigh in|leak is|change the", t.whole), (t.name, t.whole)
        if verdict.state in (STOP_FIRST, DOES_NOT_COUNT):
            assert "warranted" not in t.gauges, (t.name, t.gauges)


@of_every_kind
def test_nobody_is_told_to_add_refrigerant_before_a_gauge_is_on(kind):
    """'Add' stands only behind a no or a not; charge is moved by licensed people."""
    for t in told(kind):
        text = re.sub(r"(Do not add|Add no|before anything is added|Add nothing)[^.]*", "", t.whole)
        assert not re.search(r"\b[Aa]dd(s|ed|ing)? (some |a little )?(refrigerant|charge)", text), (t.name, t.whole)
        if re.search(r"[Rr]ecover|weigh in", t.next_step):
            assert "licensed people" in t.next_step, (t.name, t.next_step)


@of_every_kind
def test_in_celsius_the_same_is_said_with_other_figures(kind):
    for t in told(kind)[::3]:
        said = verdict_said(t.found, CELSIUS)
        assert "°F" not in f"{said.headline} {said.says} {said.next_step}", t.name
        bare = [re.sub(r"[−\d.,]+", "#", text).replace("°C", "°F") for text in (said.headline, said.says)]
        assert bare == [re.sub(r"[−\d.,]+", "#", text) for text in (t.headline, t.says)], (t.name, said.says)
