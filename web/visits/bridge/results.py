"""An assessment as the sheet shows and stores it. Nothing is worked out here: everything reads the one assessment."""

from dataclasses import dataclass
from functools import cached_property

from engine import VERSION
from engine.assessment import Assessment as Found
from engine.assessment import Differs, assess
from engine.diagnosis.actions import ACTIONS
from engine.diagnosis.conclusion import NOTHING_SHOWN, Shown
from engine.diagnosis.next_steps import Advice
from engine.diagnosis.questions_to_ask import questions_to_ask
from engine.diagnosis.verdict import CAUSE, DOES_NOT_COUNT, GROUP, SOUND, SPLIT_ALONE, STOP_FIRST
from engine.errors import EngineError
from engine.quantities.amps import efficiency
from engine.quantities.quantity import Quantity
from engine.readings.round import Round, without_gauges
from engine.readings.vocabulary import ROOM
from engine.report import finding_words, quantity_words
from engine.report.advice_words import CauseSaid, causes_said, gauges_said, step_label, step_meanings
from engine.report.after_fix import after_fix
from engine.report.air_words import EXTERNAL, PocketRow, airflow_notes, disagreements, pocket_rows, school_said
from engine.report.blind_spots import blind_spots
from engine.report.bundle.answer import answer_of
from engine.report.charts.blower import BlowerChart, blower_chart
from engine.report.charts.ledger import LedgerChart, ledger_chart
from engine.report.charts.psychrometric import Chart, chart_of
from engine.report.gauge_words import saturations_said
from engine.report.load_words import loads_said, water_said
from engine.report.marks import PlaceMark, beam_row, expected_supply_humidity, mark_of, place_marks
from engine.report.timing import Timing, timing
from engine.report.urgent_words import thaw_left_said
from engine.report.verdict_words import Said, verdict_said
from engine.report.why_words import outside, why
from engine.report.words import FAHRENHEIT, Words
from engine.uncertainty.estimate import Estimate
from engine.validity import conditions
from web.shell.bridge import words
from web.visits.bridge import held as held_by
from web.visits.bridge.held import NOTHING, Held
from web.visits.models import Assessment

__all__ = ["PlaceMark", "Timing", "timing"]
# How a verdict is coloured and listed: attention, fine, withheld or open.
KINDS = {STOP_FIRST: "attention", CAUSE: "attention", GROUP: "attention", SOUND: "fine", DOES_NOT_COUNT: "withheld"}
LONGEST_HEADLINE = 200
# What the Judge station says of the quantities, by heading.
HEADINGS = {
    "Lines": ("approach", "heat_approach", "suction", "true_suction", "suction_rise", "liquid_drop", "drier_drop",
              "discharge", "condenser_rise"),
    "With gauges": ("superheat", "subcooling", "evaporating", "condensing"),
    "Electrical": ("amps", "compressor_amps", "outdoor_fan_amps"),
    "Water side": ("water_flow", "heat_moved", "closure"),
    "Air": ("split", "rise", "capacity", "supply_dew_point", "airflow"),
}  # fmt: skip
STATIC_PARTS = ("filter_drop", "coil_drop", "return_drop", "supply_drop")
DUCT_PARTS = ("grille_to_unit", "return_dew_point", "return_leak_share", "unit_to_register")


@dataclass(frozen=True)
class StepSaid:
    """A step in words, and where on the sheet it is taken."""

    label: str
    minutes: float
    means: tuple[str, ...]
    look: str
    stop: str


@dataclass(frozen=True)
class FindingSaid:
    """A finding in words, at its fields."""

    id: str
    level: str
    message: str
    hint: str
    fields: tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class Assessed:
    """An assessment in the words of whoever reads it; each part is written when it is first asked for."""

    found: Found
    words: Words

    @property
    def round(self) -> Round:
        return self.found.round

    @property
    def diagnosis(self):
        return self.found.diagnosis

    @property
    def kind(self) -> str:
        """attention, fine, withheld or open."""
        return KINDS.get(self.found.verdict.state, "open")

    @cached_property
    def verdict(self) -> Said:
        """What is decided, in words."""
        return verdict_said(self.found, self.words)

    @property
    def split_line(self) -> str:
        """'Split 19.8 ± 0.6 °F, expected 18.9 ± 3.0 °F.', in heating of the rise; '' before it is read, and where the
        verdict says it.
        """
        q = self.found.table.over_the_coil
        if q is None or not q.measured.known or self.found.verdict.reason == SPLIT_ALONE:
            return ""
        if quantity_words.label(q.id).lower() in self.verdict.says.lower():
            return ""
        given = quantity_words.expected(q, self.words)
        text = f"{'Rise' if q.id == 'rise' else 'Split'} {quantity_words.measured(q, self.words)}"
        return f"{text}, expected {given}." if given else f"{text}."

    @cached_property
    def causes(self) -> tuple[CauseSaid, ...]:
        return causes_said(self.found, self.words)

    @cached_property
    def saturations(self) -> dict[str, str]:
        """What each gauge's pressure comes to, by its place."""
        return saturations_said(self.found, self.words)

    @cached_property
    def gauges_say(self) -> str:
        return gauges_said(self.found)

    @cached_property
    def steps(self) -> tuple[StepSaid, ...]:
        return tuple(self._step(advice) for advice in self.diagnosis.steps)

    @property
    def leads(self) -> StepSaid | None:
        """The step that the verdict says comes next, where it is one."""
        return self._step(self.verdict.leads) if self.verdict.leads else None

    @property
    def split_by(self) -> StepSaid | None:
        return self._step(self.diagnosis.split_by) if self.diagnosis.split_by else None

    def _step(self, advice: Advice) -> StepSaid:
        step = advice.step
        return StepSaid(
            step_label(advice, self.round.mode), advice.minutes, step_meanings(advice, self.found), step.look, step.stop
        )

    @cached_property
    def marks(self) -> tuple[PlaceMark, ...]:
        return place_marks(self.found)

    @cached_property
    def total_static(self) -> PlaceMark | None:
        return mark_of(self.found, "total_static")

    @cached_property
    def row(self) -> tuple[Quantity, ...]:
        """The quantities that hang from one beam."""
        return beam_row(self.found)

    @cached_property
    def chart(self) -> Chart:
        return chart_of(self.found, self.words)

    @cached_property
    def blower(self) -> BlowerChart | None:
        return blower_chart(self.found)

    @cached_property
    def ledger(self) -> LedgerChart | None:
        return ledger_chart(self.found, self.words)

    @cached_property
    def supply_humidity(self) -> dict:
        return expected_supply_humidity(self.found)

    @property
    def airflows(self):
        """Every way to the airflow, and what they come to."""
        return self.found.measured.airflows

    @property
    def airflow_notes(self) -> tuple[str, ...]:
        return airflow_notes(self.airflows, self.words)

    @property
    def airflow_disagreements(self) -> tuple[str, ...]:
        return disagreements(self.airflows)

    @property
    def air_states(self) -> dict:
        return self.found.measured.states

    @cached_property
    def to_ask(self) -> frozenset[str]:
        """The questions worth reading for now."""
        return questions_to_ask(self.round, self.diagnosis)

    @property
    def not_seen(self) -> tuple[str, ...]:
        return blind_spots(self.found)

    @cached_property
    def findings(self) -> tuple[FindingSaid, ...]:
        said = [(f, finding_words.said(f, self.words)) for f in self.found.findings]
        return tuple(FindingSaid(f.id, f.level, s.message, s.hint, f.fields) for f, s in said)

    @property
    def is_contradicted(self) -> bool:
        return any(f.level == "contradiction" for f in self.found.findings)

    # -- figures -------------------------------------------------------------------------------------------------------

    def measured(self, name: str) -> Estimate:
        """A measured result by name."""
        return self.found.measured[name]

    def expected(self, name: str) -> Estimate:
        """An expected result by name."""
        return self.found.table.expected[name]

    def why(self, estimate: Estimate) -> str:
        """Why a value is not there."""
        return why(estimate.missing, self.words) if estimate.missing else ""

    def quantity(self, id_: str) -> Quantity | None:
        return self.found.table.get(id_)

    def sentences(self, ids) -> list[str]:
        """What is said of these quantities, as far as they were measured."""
        table = self.found.table
        return [
            text for id_ in ids if (q := table.get(id_)) and (text := quantity_words.sentence(q, self.words, table))
        ]

    def headings(self) -> list[tuple[str, list[str]]]:
        """What the quantities say, by heading; the power and the water's own figures with theirs."""
        more = {
            "Electrical": loads_said(self.found.measured, efficiency(self.found.measured), self.words),
            "Water side": water_said(self.found.measured, self.words),
        }
        found = [(title, [*self.sentences(ids), *more.get(title, ())]) for title, ids in HEADINGS.items()]
        return [(title, says) for title, says in found if says]

    def static_says(self) -> list[str]:
        """What the statics say, and what counts as external on this unit."""
        says = self.sentences(STATIC_PARTS)
        return [*says, EXTERNAL[self.round.equipment.unit]] if self.found.measured.statics else says

    def static_shares(self) -> dict[str, float]:
        """What share of the total external static each part takes."""
        statics = self.found.measured.statics
        return statics.shares(self.round.equipment.unit) if statics else {}

    def duct_says(self) -> list[str]:
        return self.sentences(DUCT_PARTS)

    def room(self, name: str) -> tuple[Quantity | None, Quantity | None]:
        """What a room's duct carries, and what its register gains."""
        return self.quantity(f"carries_{ROOM}{name}"), self.quantity(f"gain_{ROOM}{name}")

    def room_says(self, names) -> list[str]:
        return self.sentences(f"{part}_{ROOM}{name}" for name in names for part in ("gain", "carries"))

    def schools(self) -> list[tuple]:
        """Each school of the split with its label and reason."""
        return [(s, *school_said(s, self.words)) for s in self.found.table.expected.schools]

    def pocket(self) -> tuple[PocketRow, ...]:
        return pocket_rows(self.found.measured)

    @property
    def outside_curves(self) -> str:
        """What lies outside the published curves, '' for nothing."""
        expected = self.found.table.expected
        return "; ".join(outside(each, self.words) for each in expected.outside) if self.round.mode == "cooling" else ""

    @property
    def coil_expected_dry(self) -> bool:
        return self.found.table.expected.coil_dry

    @property
    def sampled(self) -> bool:
        """Whether the uncertainties came from the sample."""
        m = self.found.measured
        return bool(m.carried.sampled[m.row])


def label_of(q: Quantity) -> str:
    """What to call a quantity."""
    return quantity_words.label(q.id)


def allowed(q: Quantity) -> str:
    """What is expected of it with its tolerance, without a unit; a bare limit as 'at most'."""
    return quantity_words.allowed(q, words())


def authority_of(q: Quantity) -> str:
    """Where what is expected of it comes from, in words; '' where nothing is."""
    return quantity_words.authority(q) if q.expected.known else ""


def is_difference(q: Quantity) -> bool:
    """Whether its °F are a difference of two temperatures."""
    return quantity_words.is_difference(q.id)


def assessed(round_: Round, shown: Shown = NOTHING_SHOWN, held: Held = NOTHING) -> Assessed:
    """Assess a round. shown: what was said of it last; held: what it is held to."""
    return Assessed(_assess(round_, held, shown), words())


def _assess(round_: Round, held: Held, shown: Shown = NOTHING_SHOWN) -> Found:
    return assess(round_, held.baseline, shown, held.kind, held.trends)


def assessed_many(rounds: list[Round], held: list[Held]) -> list[Assessed | None]:
    """Many rounds assessed together, in order, each by what it is held to; None for one that cannot be."""
    found = held_by.assessed(rounds, held)
    return [None if isinstance(one, EngineError) else Assessed(one, words()) for one in found]


def baseline_obstacles(found: Assessed) -> list[finding_words.Said]:
    """What keeps the round from being sealed as a baseline, each with what would cure it."""
    return [finding_words.OBSTACLES[id_] for id_ in found.found.baseline_obstacles]


def thaw_minutes(found: Assessed) -> float:
    """About how long a thaw takes; 0 for no ice."""
    return conditions.thaw_minutes(found.round)


def thaw_left(found: Assessed) -> str:
    """What to leave for the next visit where a thaw outlasts this one; '' for no ice."""
    return thaw_left_said(found.round)


def differing(now: Assessed, then: Assessed) -> Differs:
    """What the second says otherwise than the first."""
    return then.found.differs_from(now.found)


def disagreements_of(first: Assessed, second: Assessed) -> list[str]:
    """What between two rounds cannot be, or cannot be compared."""
    return [finding_words.said(f, second.words).both for f in second.found.disagrees_with(first.found)]


def fitting_actions(found: Assessed) -> tuple[tuple, tuple]:
    """The actions the findings ask for, and the others."""
    fitting, kind = found.diagnosis.actions, found.found.round.equipment.kind
    return fitting, tuple(action for action in ACTIONS if action not in fitting and action.is_of(kind))


def changes(before: Assessed, after: Assessed, done: tuple[str, ...]) -> list[str]:
    """What a fix has changed between two rounds, and whether it should have."""
    return after_fix(before.found, after.found, done, after.words)


def assessment_row(
    round_row, round_: Round, entry_uuids: list[str], shown: Shown = NOTHING_SHOWN, held: Held = NOTHING
) -> Assessment:
    """A round's result as an unsaved row. Stored words are in °F whoever reads: they are a record, not a screen."""
    found = Assessed(_assess(round_, held, shown), FAHRENHEIT)
    result = answer_of(found.found, FAHRENHEIT)
    if round_.by_gauge:  # was it right without them?
        before = _assess(without_gauges(round_), held)
        said = {"state": before.verdict.state, "group": before.verdict.group, "cause": before.verdict.cause}
        result["without_gauges"] = said | {"headline": verdict_said(before, FAHRENHEIT).headline}
    return Assessment(
        round=round_row,
        engine_version=VERSION,
        rules_version=round_.rules.version,
        known_kinds=held.kinds_version,
        kind=found.kind,
        state=found.found.verdict.state,
        headline=found.verdict.headline[:LONGEST_HEADLINE],
        entries=entry_uuids,
        result=result,
    )
