"""What stands in for a place that nobody can read here: the answer is kept, with the doubt of what lies between."""

from dataclasses import replace
from math import hypot

import pytest

from engine.constants import RETURN_GAIN_SPREAD, RETURN_GAIN_USUAL, SUPPLY_GAIN_SPREAD, SUPPLY_GAIN_USUAL
from engine.readings.round import SUBSTITUTE, NotPossible, Reading
from engine.readings.substitutes import with_substitutes
from engine.report.charts.psychrometric import chart_of
from engine.report.finding_words import said
from engine.report.marks import place_marks
from engine.report.words import FAHRENHEIT
from tests.engine.rounds import PROBE, judge, round_, with_readings

NO_SUPPLY = {"supply_f": None, "supply_rh": None}
NO_RETURN = {"return_f": None, "return_rh": None}


def _cannot_read(place, *more, mode="cooling", **given):
    found = round_(seer=14.0, **given)
    readings = (*found.readings, *(Reading(*row, PROBE) for row in more))
    return replace(found, mode=mode, readings=readings, not_possible=(NotPossible(place, "no_port"),))


def _register(mode="cooling"):
    more = (("supply_register", "dry_bulb", 56.5), ("supply_register", "rh", 87.0))
    return _cannot_read("supply_plenum", *more, mode=mode, **NO_SUPPLY)


def test_near_register_answers_for_a_plenum_without_a_port_and_says_so():
    plenum, _ = judge(round_(seer=14.0))
    register, told = judge(_register())
    assert told.headline == judge(round_(seer=14.0))[1].headline
    near, far = plenum.table["split"], register.table["split"]
    assert far.measured.value == pytest.approx(near.measured.value, abs=0.2)
    assert far.off.u95 == pytest.approx(hypot(near.off.u95, SUPPLY_GAIN_SPREAD.value), rel=0.1)
    notes = [said(f, FAHRENHEIT).message for f in register.findings if f.id == "substitute_taken"]
    assert len(notes) == 1
    assert "supply plenum cannot be read here: 55.2 °F is taken" in notes[0]
    assert "± 2.5 °F" in notes[0]
    assert {m.place: m.taken for m in place_marks(register)}["supply_plenum"]
    assert not {m.place: m.taken for m in place_marks(plenum)}["supply_plenum"]


def test_what_would_follow_from_itself_is_not_told():
    """No duct gain from the plenum that was made of the register; no return leak from a return made of the grille."""
    register = judge(_register())[0].table
    grille = judge(
        _cannot_read("return_unit", ("return_grille", "dry_bulb", 75.6), ("return_grille", "rh", 53.5), **NO_RETURN)
    )[0].table
    assert "unit_to_register" not in register.quantities
    assert not {"grille_to_unit", "return_dew_point"} & set(grille.quantities)
    read_at_both = with_readings(round_(seer=14.0), ("supply_register", "dry_bulb", 56.5))
    assert "unit_to_register" in judge(read_at_both)[0].table.quantities


@pytest.mark.parametrize("place, by", [("supply_plenum", "near register"), ("return_unit", "return grille")])
def test_the_substitute_is_asked_for_in_place_of_what_cannot_be_read(place, by):
    _, told = judge(_cannot_read(place, **(NO_SUPPLY if place == "supply_plenum" else NO_RETURN)))
    assert by in told.next_step.lower()


@pytest.mark.parametrize(
    "mode, place, near, read, between",
    [
        ("cooling", "supply_plenum", "supply_register", 56.5, -SUPPLY_GAIN_USUAL.value),
        ("heating", "supply_plenum", "supply_register", 99.0, SUPPLY_GAIN_USUAL.value),
        ("cooling", "return_unit", "return_grille", 75.0, RETURN_GAIN_USUAL.value),
        ("heating", "return_unit", "return_grille", 68.0, -RETURN_GAIN_USUAL.value),
    ],
)
def test_ducts_warm_the_air_in_cooling_and_cool_it_in_heating(mode, place, near, read, between):
    missing = NO_SUPPLY if place == "supply_plenum" else NO_RETURN
    found = with_substitutes(_cannot_read(place, (near, "dry_bulb", read), mode=mode, **missing))
    taken = found.reading(place, "dry_bulb")
    spread = SUPPLY_GAIN_SPREAD if place == "supply_plenum" else RETURN_GAIN_SPREAD
    assert (taken.value, taken.u95, taken.source) == (pytest.approx(read + between), spread.value, SUBSTITUTE)


REGISTER = (("supply_register", "dry_bulb", 56.5), ("supply_register", "rh", 87.0))
GRILLE = (("return_grille", "dry_bulb", 75.6), ("return_grille", "rh", 53.5))
LINES = (
    ("liquid_line_outdoor", "temperature", 104.0),
    ("compressor", "current", 9.5),
    ("compressor", "voltage", 240.0),
)


def _not_read_yet(*more, **given):
    found = round_(seer=14.0, compressor_rla=14.1, **given)
    return replace(found, readings=(*found.readings, *(Reading(*row, PROBE) for row in (*LINES, *more))))


def test_the_ends_of_the_ducts_tell_the_split_while_the_unit_is_still_to_be_read():
    """Read register first: the split is answered from two places that a hand reaches, and the unit is asked for."""
    found, told = judge(_not_read_yet(*REGISTER, *GRILLE, **NO_SUPPLY, **NO_RETURN))
    assert told.headline == "The split is as expected."
    assert "taken from the return grille and supply register" in told.says
    assert [advice.step.stop for advice in found.diagnosis.steps[:2]] == ["return_unit", "supply_plenum"]
    assert "air_not_read" in found.baseline_obstacles
    notes = [said(f, FAHRENHEIT).message for f in found.findings if f.id == "substitute_taken"]
    assert len(notes) == 2 and all("is not read yet" in note for note in notes)
    drawn = {mark.name for mark in chart_of(found, FAHRENHEIT).marks}
    assert {"Return grille", "Register"} <= drawn and not {"Return at the unit", "Supply plenum"} & drawn


@pytest.mark.parametrize(
    "register_f, ends", [(68.0, NO_SUPPLY), (46.0, NO_SUPPLY), (68.0, NO_SUPPLY | NO_RETURN)], ids=str
)
def test_no_cause_is_weighed_by_what_a_duct_may_have_done(register_f, ends):
    """A register that is too warm may be its duct's: that is told from the unit at the unit, by nobody else."""
    register = (("supply_register", "dry_bulb", register_f),)
    found, told = judge(_not_read_yet(*register, *GRILLE, **ends))
    without = judge(_not_read_yet(*GRILLE, **ends))[0]
    assert found.diagnosis.ranked.by_group == without.diagnosis.ranked.by_group
    assert told.headline == f"The split is {'low' if register_f > 60.0 else 'high'}."
    assert "read at the unit before anything is doubted" in told.says and "substitute_taken" in {
        f.id for f in found.findings
    }


def test_what_is_to_be_read_at_the_unit_is_expected_from_the_grille_on():
    marks = {m.place: m for m in place_marks(judge(_not_read_yet(*GRILLE, **NO_SUPPLY, **NO_RETURN))[0])}
    assert marks["return_unit"].expected == pytest.approx(75.6 + RETURN_GAIN_USUAL.value)
    assert not marks["return_unit"].taken and marks["return_unit"].measured is None
    assert marks["supply_plenum"].measured is None and 52.0 < marks["supply_plenum"].expected < 60.0


def test_a_duct_keeps_the_moisture_that_is_read_at_its_end():
    """The dew point at the grille serves a return that was read dry: it is said, and no leak follows from itself."""
    dry = {"return_rh": None}
    found = judge(_not_read_yet(*GRILLE, **dry))[0]
    grille, unit = (found.measured.air_at(place) for place in ("return_grille", "return_unit"))
    assert unit.dew_point_f == pytest.approx(grille.dew_point_f) and "return_dew_point" not in found.quantities
    (note,) = [said(f, FAHRENHEIT).message for f in found.findings if f.id == "humidity_taken"]
    assert note.startswith("No humidity is read at the return at the unit: the dew point of the return grille is taken")
    assert judge(_not_read_yet(**dry))[0].measured.air_at("return_unit") is None


def test_the_air_of_a_ground_source_unit_is_read_at_the_unit_or_not_at_all():
    by_water = _not_read_yet(*REGISTER, *GRILLE, kind="ground_source", **NO_SUPPLY, **NO_RETURN)
    assert with_substitutes(by_water) is by_water


def test_a_place_that_was_read_keeps_its_reading():
    both = replace(
        round_(), not_possible=(NotPossible("supply_plenum", "no_port"),)
    )  # read before somebody noted that it cannot be
    found = replace(both, readings=(*both.readings, Reading("supply_register", "dry_bulb", 60.0, PROBE)))
    assert with_substitutes(found) is found


def test_blower_watts_come_from_volts_and_amps_unless_a_meter_gave_them():
    """By hand: 238 V x 2.4 A x power factor 0.8 = 457 W, within the spread of that factor."""
    read = (("blower", "voltage", 238.0, None), ("blower", "current", 2.4, None))
    worked_out = judge(with_readings(round_(), *read))[0]
    metered = judge(with_readings(round_(fan_w=457.0), *read))[0]
    assert worked_out.measured.loads["blower"].watts == pytest.approx(457.0, abs=0.5)
    assert worked_out.measured.round.value("blower", "power") == pytest.approx(457.0, abs=0.5)
    doubts = [found.measured["sensible_btuh"].u95 for found in (worked_out, metered)]
    assert doubts[0] >= doubts[1]
    assert with_substitutes(with_readings(round_(fan_w=300.0), *read)).value("blower", "power") == 300.0
