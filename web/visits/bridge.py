"""Rows into engine objects, results into rows: the only file of the sheet that meets the engine.

(The renderers of the engine's charts, marks and drawing, web.shell.drawing, take its data as it is.)
"""

from dataclasses import dataclass, replace
from functools import cached_property

from engine import wording
from engine.airflow.estimate import AirflowEstimate
from engine.airflow.methods import METHODS, PLANES, nominal_guess_cfm
from engine.assessment import actions
from engine.assessment.airflows import airflows
from engine.assessment.at_hand import questions_at_hand
from engine.assessment.at_places import (
    PlaceMark,
    air_states,
    expected_supply_humidity,
    indicators_of,
    place_marks,
    total_static_mark,
)
from engine.assessment.diagnosis import Shown, diagnose
from engine.assessment.judged import Judged, after_fix, judged, verdict_by
from engine.assessment.whole import Whole, assess_whole, rounds_agree
from engine.bundle.answer import whole_answer_of
from engine.charts.blower import BlowerChart, blower_chart
from engine.charts.ledger import LedgerChart, ledger_chart
from engine.charts.psychrometric import Chart, chart_of
from engine.constants import WEATHER_SERVICE_ACCURACY
from engine.expected.heating import mode_by_weather
from engine.houserules.rules import HouseRules
from engine.judgement import cautions
from engine.judgement.indicators import Indicator
from engine.judgement.timing import Timing, timing
from engine.judgement.verdict import Verdict
from engine.readings import observations as sights
from engine.readings.entry import Accepted, Asked, check_entry
from engine.readings.observations import OBSERVATIONS
from engine.readings.round import WEATHER_SERVICE, Equipment, Instrument, Reading, Round, at_air_pressure
from engine.readings.vocabulary import HUMIDITY_QUANTITIES, QUANTITIES, ROOM, quantities_at
from engine.readings.walk import NOT_POSSIBLE, Slot, Stop, side_of, walk
from engine.units import UNITS
from web.visits.models import WEATHER, Assessment

SERVICE_WITHIN_F = WEATHER_SERVICE_ACCURACY.value
ACTIONS, CAUTIONS = actions.BY_ID, cautions.BY_ID
PREVAIL, SIGHTS = cautions.PREVAIL, sights.BY_ID
SYSTEM_SLOTS = (Slot("system", "running_time"), Slot("system", "time_available"))  # the clocks: of no stop of the walk
__all__ = [
    "ACTIONS", "CAUTIONS", "HUMIDITY_QUANTITIES", "METHODS", "NOT_POSSIBLE", "OBSERVATIONS", "PLANES",
    "PREVAIL", "QUANTITIES", "ROOM", "SIGHTS", "SYSTEM_SLOTS", "UNITS",
    "Equipment", "PlaceMark", "Slot", "Stop", "Timing", "side_of", "sights", "timing", "walk",
]  # fmt: skip
shown_in, scale, in_scale, difference_in_scale = wording.shown_in, wording.scale, wording.in_scale, wording.difference_in_scale
# what a person who reads °C types, by the engine's unit
IN_CELSIUS = {"degF": "degC", "degF_diff": "degC_diff"}


@dataclass(frozen=True)
class Checked:
    """One typed value after the engine's check: its value, or a message, or a question with the units to choose from."""

    value: float | None = None
    message: str = ""
    hint: str = ""
    units: tuple[str, ...] = ()


@dataclass(frozen=True)
class Assessed:
    """A round with everything the sheet shows of it; each part is worked out when it is first asked for."""

    round: Round
    whole: Whole
    shown: Shown | None = None

    @cached_property
    def indicators(self) -> tuple[Indicator, ...]:
        return indicators_of(self.round, self.whole)

    @cached_property
    def marks(self) -> tuple[PlaceMark, ...]:
        return place_marks(self.round, self.whole)

    @cached_property
    def total_static(self) -> PlaceMark | None:
        return total_static_mark(self.round, self.whole)

    @cached_property
    def chart(self) -> Chart:
        return chart_of(self.round, self.whole.air)

    @cached_property
    def blower(self) -> BlowerChart | None:
        return blower_chart(self.round, nominal_guess_cfm(self.round.equipment.nominal_tons))

    @cached_property
    def ledger(self) -> LedgerChart | None:
        return ledger_chart(self.whole)

    @cached_property
    def supply_humidity(self) -> dict:
        return expected_supply_humidity(self.round, self.whole)

    @cached_property
    def airflows(self) -> tuple[AirflowEstimate, ...]:
        return tuple(airflows(self.round)[0])

    @cached_property
    def air_states(self) -> dict:
        return air_states(self.round)

    @cached_property
    def at_hand(self) -> frozenset[str]:
        return questions_at_hand(self.round, self.whole)

    @cached_property
    def judged(self) -> Judged:
        """The causes, the gauge decision, the next step."""
        found = diagnose(self.round, self.whole.air, shown=self.shown)
        return judged(self.round, self.whole.air, found, self.shown)

    @cached_property
    def verdict(self) -> Verdict:
        """What is decided, the judgement's causes in it."""
        return verdict_by(self.judged, self.whole.verdict)

    @property
    def result(self):
        """The air side."""
        return self.whole.air

    def section(self, id_: str):
        """A section of the assessment, or None."""
        return next((s for s in self.whole.sections if s.id == id_), None)


def check(place: str, quantity: str, typed: str, unit: str, confirmed: bool, instrument=None, kind: str = "") -> Checked:
    """Judge one typed value. instrument: a row of houses.Instrument, or None; kind: of equipment."""
    limits = None
    if instrument and instrument.lowest_f is not None and quantity in ("dry_bulb", "wet_bulb", "dew_point", "temperature"):
        limits = (instrument.lowest_f, instrument.highest_f)
    answer = check_entry(place, quantity, typed, unit, confirmed, limits, kind)
    if isinstance(answer, Accepted):
        return Checked(value=answer.value)
    if isinstance(answer, Asked):
        return Checked(message=answer.question, units=answer.units)
    return Checked(message=answer.message, hint=answer.hint)


def slot_of(quantity: str, variant: str = "") -> str:
    """The slot a quantity fills at its place; '' when the quantity is unknown."""
    base = QUANTITIES[quantity].slot if quantity in QUANTITIES else ""
    return f"{base}@{variant}" if base and variant else base


def is_observation(seen: str, degree: str) -> bool:
    """Whether the vocabulary has this observation in this degree. A caution read is an observation of its own."""
    if seen.startswith("caution:"):
        return seen.removeprefix("caution:") in CAUTIONS and degree == "read"
    return degree in OBSERVATIONS.get(seen, {})


def is_place(place: str, quantity: str) -> bool:
    """Whether this quantity is read at this place."""
    return quantity in quantities_at(place)


def is_method(method: str) -> bool:
    """Whether this is a known way to an airflow."""
    return method in METHODS


def guess_cfm(system) -> float:
    """The stated guess for a system [CFM]."""
    return nominal_guess_cfm(system.nominal_tons)


def mode_for(system, outdoor_f: float | None, rules: HouseRules) -> tuple[str, str]:
    """The mode the weather asks for ('cooling' where it does not say) and why, in a sentence."""
    if system.kind == "ground_source":
        return "cooling", "The loop decides, not the weather: test in the mode the house wants."
    if outdoor_f is None:
        return "cooling", "The weather decides the mode: read the outdoor air."
    found = mode_by_weather(outdoor_f, system.kind == "heat_pump", rules)
    return ("heating" if found.mode == "heating" else "cooling"), found.reason


def stored_reading(row) -> Reading:
    """A row of visits.Reading as the engine takes it."""
    instrument = str(row.instrument.public_id) if row.instrument else None
    found = reading(row.place, row.quantity, row.value, instrument, row.variant, row.plane)
    return replace(found, source=WEATHER_SERVICE if row.source == WEATHER else "", steady=row.steady, swing=row.swing)


def reading(place: str, quantity: str, value: float, instrument_id: str | None, variant: str = "", plane: str = "") -> Reading:
    """An engine reading; value in the engine's unit. variant: an airflow's method, else the leg or the point."""
    if quantity == "airflow" and place == "blower":
        return Reading(place, quantity, value, instrument_id, method=variant or None, plane=plane or None)
    if quantity == "airflow":
        return Reading(place, quantity, value, instrument_id, method="flow_device")
    return Reading(place, quantity, value, instrument_id, leg=variant or None)


def round_of(
    house,
    plate: Equipment,
    readings: list[Reading],
    seen: dict[str, str],
    instruments,
    rules: HouseRules,
    mode: str,
    standing: str = "",
) -> Round:
    """A round for the engine. instruments: rows of houses.Instrument; seen: observations, cautions left out; standing: inside or outside."""
    return at_air_pressure(
        Round(
            equipment=plate,
            altitude_ft=house.altitude_ft,
            readings=tuple(readings),
            observations={name: degree for name, degree in seen.items() if name in OBSERVATIONS},
            instruments=tuple(
                Instrument(str(row.public_id), row.label, row.dry_bulb_accuracy_f, row.rh_accuracy_pct, row.line_accuracy_f)
                for row in instruments
            ),
            climate=house.climate or None,
            rules=rules,
            mode=mode,
            standing=standing,
        )
    )


def assessed(round_: Round, shown: Shown | None = None) -> Assessed:
    """Assess a round. shown: what was said of it last. No baseline yet: a sealed round will be one."""
    return Assessed(round_, assess_whole(round_), shown)


def said_last(judgement: dict | None) -> Shown | None:
    """What the judgement of a stored result said; None for none, or where the engine of that day did not judge."""
    if not judgement:
        return None
    return Shown(judgement["state"], judgement["group"], tuple(cause["cause"] for cause in judgement["causes"]))


def disagreements(first: Round, second: Round) -> list[str]:
    """What between two rounds cannot be, or cannot be compared."""
    return rounds_agree(first, second)


def fitting_actions(assessed_: Assessed) -> tuple[tuple, tuple]:
    """The actions the findings ask for, and the others."""
    fitting, _ = actions.by_fit(assessed_.round, assessed_.whole)
    first = assessed_.judged.to_do
    fitting = tuple(dict.fromkeys((*first, *fitting)))
    return fitting, tuple(action for action in actions.ACTIONS if action not in fitting)


def changes(before: Assessed, after: Assessed, done: tuple[str, ...]) -> list[str]:
    """What a fix has changed between two rounds, and whether it should have."""
    return after_fix(before.judged.diagnosis, after.judged.diagnosis, done)


def machine_cautions(refrigerant: str, seen: dict[str, str]) -> tuple:
    """The cautions the machine itself calls for."""
    return cautions.for_equipment(refrigerant, seen)


def assessment_row(round_row, round_: Round, entry_uuids: list[str], shown: Shown | None = None) -> Assessment:
    """A round's result as an unsaved row. Stored words are in °F whoever reads: they are a record, not a screen."""
    with wording.shown_in("F"):
        found = assessed(round_, shown)
        whole, answer = found.whole, whole_answer_of(found.whole, [], found.judged)
    return Assessment(
        round=round_row,
        engine_version=whole.air.engine_version,
        rules_version=whole.air.rules_version,
        kind=found.verdict.kind,
        headline=found.verdict.headline,
        entries=entry_uuids,
        result=answer,
    )
