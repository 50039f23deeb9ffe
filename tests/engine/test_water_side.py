"""The water side of a ground-source unit: an answer by itself, its own table and what lies beyond it, what a drop can
say, and what it cannot tell apart.
"""

from dataclasses import replace

import pytest
from CoolProp.CoolProp import PropsSI

from engine.assessment import assess
from engine.diagnosis.cause import HEAD_HIGH
from engine.diagnosis.gauges import OFF
from engine.diagnosis.stop_first import LIQUID_RETURN
from engine.diagnosis.verdict import BY_THE_RULE, CANNOT_TELL, SOUND, STOP_FIRST, WATER_SIDE
from engine.errors import OutOfRange
from engine.physics.water.exchanger import Grid
from engine.physics.water.rejection import loop_heat
from engine.quantities.water import rejected_share
from engine.readings.round import Reading
from engine.report.advice_words import gauges_said
from engine.report.verdict_words import verdict_said
from engine.report.words import FAHRENHEIT
from engine.units import BTUH_PER_W
from tests.engine.test_causes_elsewhere import WATTS, ground

# Made up: rejection falls with entering water, extraction rises (the direction is the suction's density: physics).
REJECTION = Grid("GS", "entering water", (50.0, 70.0, 90.0), "GPM", (6.0, 9.0, 12.0),
                 ((43000.0, 44000.0, 44600.0), (41600.0, 42600.0, 43200.0), (39900.0, 41000.0, 41700.0)))  # fmt: skip
EXTRACTION = Grid("GS", "entering water", (30.0, 45.0, 60.0), "GPM", (6.0, 9.0, 12.0),
                  ((19500.0, 21000.0, 21900.0), (24400.0, 26300.0, 27400.0), (29300.0, 31600.0, 32900.0)))  # fmt: skip
WATER = ("water_in", "water_out", "water_loop", "system")


def with_plate(found, **plate):
    return replace(found, equipment=replace(found.equipment, model="GS", **plate))


def by_water(found):
    """The round with nothing read but the water."""
    return replace(found, readings=tuple(r for r in found.readings if r.place in WATER))


def at_water(found, entering, leaving):
    moved = {"water_in": entering, "water_out": leaving}
    return replace(
        found,
        readings=tuple(
            replace(r, value=moved.get(r.place, r.value)) if r.quantity == "temperature" else r for r in found.readings
        ),
    )


def test_the_water_side_is_an_answer_by_itself_and_asks_for_no_air_first():
    found = assess(by_water(with_plate(ground(moved=27500.0), extraction_table=EXTRACTION)))
    assert (found.verdict.state, found.verdict.reason) == (SOUND, WATER_SIDE)
    said = verdict_said(found, FAHRENHEIT)
    assert said.headline == "The water side does what it should today." and "air side was not read" in said.says
    short = assess(by_water(with_plate(ground(moved=17000.0), extraction_table=EXTRACTION)))
    assert short.verdict.group == "short", "airflow may be what is low: nobody read it"
    asked = [s.step.id for s in short.diagnosis.steps]
    assert {"airflow", "amps"} & {*asked} and short.diagnosis.gauges.decides != "warranted", asked


def test_nothing_is_called_sound_without_the_water_or_the_circuit():
    without = ground()
    without = replace(without, readings=tuple(r for r in without.readings if not r.place.startswith("water")))
    assert assess(without).verdict.state == CANNOT_TELL


def test_a_table_goes_with_its_mode_wherever_it_was_entered():
    """Extraction rises with entering water, rejection hardly changes: physics, not the field it is in."""
    both = with_plate(ground(), heat_table=EXTRACTION, extraction_table=REJECTION).equipment
    assert both.heat_moved_table("heating") is EXTRACTION and both.heat_moved_table("cooling") is REJECTION
    assert with_plate(ground(), heat_table=REJECTION).equipment.heat_moved_table("heating") is None
    # A fixed orifice passes less to cold water's low head, so that its rejection may rise a little.
    orifice = replace(
        REJECTION, values=((44500.0, 44000.0, 43800.0), (45800.0, 45600.0, 45400.0), (46400.0, 46300.0, 46300.0))
    )
    assert with_plate(ground(), heat_table=orifice).equipment.heat_moved_table("cooling") is orifice


@pytest.mark.parametrize("eer", [13.0, 16.0, 20.0])
def test_a_rejection_equal_to_nominal_tons_is_cooling_that_is_fifteen_to_twenty_percent_short(eer):
    """Common practice, no single source."""
    assert 0.14 < 1.0 - 1.0 / rejected_share(eer) < 0.21


def test_beyond_the_table_its_trend_goes_on_and_the_doubt_grows():
    """By hand: from 45 to 60 °F the middle column rises by 5,300, so at 66 °F by 6/15 of that more than 31,600."""
    assert EXTRACTION.carried_on(66.0, 9.0) == pytest.approx((31600.0 + 5300.0 * 6 / 15, 5300.0 * 6 / 15))
    assert EXTRACTION.carried_on(52.0, 9.0)[1] == 0.0, "inside nothing is carried on"
    with pytest.raises(OutOfRange):
        EXTRACTION.carried_on(95.0, 9.0)
    plate = with_plate(ground(), extraction_table=EXTRACTION)
    inside, outside = (assess(at_water(plate, t, t - 7.0)).table["heat_moved"] for t in (50.0, 68.0))
    assert outside.authority == inside.authority == "own_table"
    assert outside.expected.u95 / outside.expected.value > 1.05 * inside.expected.u95 / inside.expected.value


@pytest.mark.parametrize(
    ("plate", "gpm", "told"),
    [
        ({"loop": "closed"}, 4.5, True), ({"loop": "open_well"}, 4.5, False), ({"loop": "open_well"}, 2.2, True),
        ({"design_gpm": 9.0}, 6.9, True), ({"design_gpm": 6.0}, 5.5, False), ({}, 6.0, False),
    ],
)  # fmt: skip
def test_the_flow_is_held_to_the_design_or_its_kind_of_loop(plate, gpm, told):
    """An open well runs at about half a closed loop's flow (common practice, no single source)."""
    found = assess(with_plate(ground(gpm=gpm), **plate))
    assert (found.verdict.group == "water_flow") == told, found.verdict
    if told:
        assert found.diagnosis.gauges.decides == OFF, "water flow first, then airflow, then gauges"


def test_a_flow_under_its_limits_is_said_by_the_rule_with_what_may_lie_behind():
    found = assess(with_plate(ground(gpm=5.4, moved=18000.0), loop="closed", extraction_table=EXTRACTION))
    assert found.verdict.group == "water_flow"
    if found.verdict.reason == BY_THE_RULE:
        assert "Water flow is low: 5.4" in verdict_said(found, FAHRENHEIT).says


def cooled(watts, moved=40500.0, by_drop=0.0):
    """In cooling at 70 °F water, by the table: with this draw, and a flow that reads high by a share where by drop."""
    found = with_plate(ground("cooling", moved=moved), seer=16.0, heat_table=REJECTION, loop="closed")
    found = at_water(found, 70.0, 70.0 + moved / 4500.0)
    kept = tuple(r for r in found.readings if r.place in (*WATER, "blower", "filter", "return_plenum"))
    read = tuple(replace(r, value=r.value * (1 + by_drop)) if r.quantity == "flow" else r for r in kept)
    return replace(found, readings=(*read, Reading("compressor", "power", watts)))


def test_the_draw_tells_a_water_coil_from_a_circuit_in_cooling():
    """Fouling keeps the heat in: condensing and the draw go up. A short circuit of refrigerant lowers it."""
    usual = assess(cooled(1700.0)).table["amps"].expected.value
    fouled, short = assess(cooled(usual * 1.75)), assess(cooled(usual * 0.85, moved=31000.0))
    assert fouled.verdict.group in (HEAD_HIGH, "exchanger"), fouled.diagnosis.ranked.by_group
    assert "Prove the water coil first" in verdict_said(fouled, FAHRENHEIT).next_step
    assert short.verdict.group == "circuit", short.diagnosis.ranked.by_group


def test_two_port_pressures_are_a_drop_and_ask_for_no_flow():
    drops = Grid(
        "GS", "GPM", (3.0, 6.0, 9.0, 12.0), "entering", (30.0, 90.0), ((0.6, 0.5), (2.0, 1.8), (4.2, 3.8), (7.0, 6.4))
    )
    found = with_plate(ground(), drop_table=drops)
    found = replace(found, readings=tuple(r for r in found.readings if r.quantity != "flow"))
    ports = tuple(Reading(place, "pressure", psi) for place, psi in (("water_in", 38.4), ("water_out", 34.4)))
    read = assess(replace(found, readings=(*found.readings, *ports)))
    alone = assess(replace(found, readings=(*found.readings, Reading("water_loop", "water_drop", 4.0))))
    assert read.table["water_flow"].measured == alone.table["water_flow"].measured
    assert not any(s.step.id == "loop" for s in read.diagnosis.steps)


@pytest.mark.parametrize("by", [("water_in", "pressure"), ("water_loop", "water_drop")], ids=["ports", "drop"])
def test_without_the_units_table_a_drop_is_no_flow_and_the_flow_is_asked_for(by):
    found = by_water(ground())
    rest = tuple(r for r in found.readings if r.quantity != "flow")
    drop = (Reading(*by, 38.4), Reading("water_out", "pressure", 34.4)) if by[1] == "pressure" else (Reading(*by, 4.0),)
    assessed = assess(replace(found, readings=(*rest, *drop)))
    said = verdict_said(assessed, FAHRENHEIT)
    assert said.next_step == "Read the flow of the loop water." and "no flow without the unit's own table" in said.says
    assert verdict_said(assess(replace(found, readings=rest)), FAHRENHEIT).next_step.startswith("Read the flow or drop")


def test_plain_water_that_would_freeze_is_taken_for_antifreeze_and_said():
    cold = loop_heat(9.0, 0.4, 31.0, 26.5, "water", 0.0)
    assert cold.takes_antifreeze and cold.factor == 485.0  # common practice, no single source
    assert not loop_heat(9.0, 0.4, 50.0, 44.0, "water", 0.0).takes_antifreeze
    found = assess(at_water(ground(), 31.0, 26.5))
    assert found.table["heat_moved"].measured.known


def by_gauge(evaporating_f, condensing_f, suction_f, liquid_f, moved=42000.0, **plate):
    """A round in cooling with both pressures and both lines of the cabinet; saturation from CoolProp."""
    into_the_air = WATTS * BTUH_PER_W
    found = ground(mode="cooling", moved=moved, air_share=(into_the_air - moved) / (into_the_air + moved))
    psig = {
        place: PropsSI("P", "T", (f + 459.67) / 1.8, "Q", quality, "R32") / 6894.757 - 14.696
        for place, f, quality in (("gauge_suction", evaporating_f, 1), ("gauge_liquid", condensing_f, 0))
    }
    rows = [(place, "pressure", value) for place, value in psig.items()]
    rows += [("suction_line_indoor", "temperature", suction_f), ("liquid_line_indoor", "temperature", liquid_f)]
    plate = {"refrigerant": "R-32", "metering_device": "txv", "target_subcooling_f": 10.0} | plate
    return with_plate(replace(found, readings=(*found.readings, *(Reading(*row) for row in rows))), **plate)


def test_what_the_lines_in_the_cabinet_come_to_by_gauge():
    """The suction and the liquid line are read inside, and with pressures they are superheat and subcooling."""
    table = assess(by_gauge(42.0, 80.0, 54.0, 70.0)).table
    superheat, subcooling = table["superheat"], table["subcooling"]
    assert (superheat.measured.value, subcooling.measured.value) == (
        pytest.approx(12.0, abs=0.2),
        pytest.approx(10.0, abs=0.2),
    )
    assert (superheat.state, subcooling.state) == ("in range", "in range")
    piston = assess(by_gauge(42.0, 80.0, 54.0, 70.0, metering_device="fixed_orifice")).table["superheat"]
    assert piston.measured.known and not piston.expected.known, "the charging formula goes by outdoor air"


def test_liquid_that_returns_stops_a_ground_source_unit_too():
    """Superheat near zero endangers the compressor (common practice, no single source)."""
    urgent = assess(by_gauge(45.0, 85.0, 43.0, 75.0)).verdict
    assert (urgent.state, urgent.reason) == (STOP_FIRST, LIQUID_RETURN)
    assert assess(by_gauge(42.0, 80.0, 54.0, 70.0)).verdict.reason != LIQUID_RETURN


def test_in_heating_hot_gas_is_told_by_the_water_and_liquid_by_the_true_suction():
    """A loop evaporates above cold outdoor air and never above its water."""
    for evaporating_f, suction_f, reason in ((35.0, 46.0, ""), (35.0, 33.0, LIQUID_RETURN), (60.0, 75.0, "")):
        found = by_gauge(evaporating_f, 95.0, suction_f, 85.0)
        heating = ground(mode="heating")
        rows = [r for r in found.readings if r.quantity == "pressure"]
        rows += [Reading("true_suction", "temperature", suction_f), Reading("outdoor", "dry_bulb", 20.0)]
        assessed = assess(replace(heating, equipment=found.equipment, readings=(*heating.readings, *rows)))
        told = {f.id for f in assessed.findings}
        assert ("gauge_on_hot_gas" in told) == (evaporating_f > 50.0), "its water enters at 50 °F"
        assert (assessed.table.get("superheat") is None) == (evaporating_f > 50.0)
        assert ("above the entering water" in gauges_said(assessed)) == (evaporating_f > 50.0)
        assert assessed.verdict.reason == reason if reason else assessed.verdict.reason != LIQUID_RETURN
        said = verdict_said(assessed, FAHRENHEIT).next_step
        assert ("water flow first" in said) == bool(reason), "its water is what boils the refrigerant"


def test_a_weak_circuit_is_told_with_what_the_gauges_say_of_it():
    """Which of charge, valve and compressor it is goes by superheat and subcooling together, and no charge is added
    before (common practice, no single source).
    """
    starved = by_gauge(20.0, 66.0, 48.0, 62.0, moved=24000.0)
    unread = replace(starved, readings=tuple(r for r in starved.readings if r.quantity != "pressure"))
    for found, begins in (
        (starved, "High superheat with low subcooling is charge"),
        (unread, "Superheat and subcooling by gauge"),
    ):
        assessed = assess(found)
        said = verdict_said(assessed, FAHRENHEIT)
        assert assessed.verdict.group == "circuit" and said.next_step.startswith(begins), said
        assert "Add no refrigerant" in said.next_step
    assert "superheat is high" in verdict_said(assess(starved), FAHRENHEIT).says
