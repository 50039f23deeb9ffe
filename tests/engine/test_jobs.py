"""Jobs as technicians tell them, each with the answer that a colleague would give. Common practice, no single source,
and what physics forbids.
"""

from dataclasses import replace

import pytest

from engine.assessment import assess
from engine.diagnosis.gauges import NOT_ENOUGH, OFF, ONCE_PROVED, WARRANTED
from engine.readings.round import CONSTANT_AIRFLOW, ORIFICE, PSC
from engine.report.advice_words import gauges_said
from engine.report.finding_words import said
from engine.report.mend_words import at_last
from engine.report.verdict_words import verdict_said
from engine.report.words import FAHRENHEIT
from engine.validity.finding import CIRCUIT
from tests.engine.rounds import walk, with_readings
from tests.engine.test_causes_elsewhere import ground
from tests.engine.test_heat import REJECTION

PLATE = {"refrigerant": "R-410A", "compressor_rla": 16.7}
STARVED = {"coil_line": 66.0, "supply_f": 60.0, "supply_rh": 86.0}


def amps(value):
    return "compressor", "current", value


def off_condenser(value):
    return "condenser_air_out", "dry_bulb", value


def statics(back, forth):
    return ("return_plenum", "static_pressure", -back), ("supply_plenum", "static_pressure", forth)


def drops(of_filter, coil):
    return ("filter", "pressure_drop", of_filter), ("coil", "pressure_drop", coil)


def job(*rows, **given):
    return with_readings(walk(**(PLATE | given)), *rows)


def heating(**given):
    """A heat pump in heating with too little air."""
    of = {
        "kind": "heat_pump",
        "return_f": 70.0,
        "return_rh": 40.0,
        "supply_f": 110.0,
        "supply_rh": 12.0,
        "outdoor_f": 45.0,
        "cfm": 700.0,
        "coil": None,
    }
    return replace(walk(**PLATE | of | given), mode="heating")


def in_winter(suction, liquid, *rows, **given):
    """A heat pump in heating with the airflow right, its lines at the compressor and at the indoor coil."""
    of = {"cfm": 1200.0, "supply_f": 96.0, "supply_rh": 18.0, "outdoor_f": 38.0}
    lines = ("true_suction", "temperature", suction), ("liquid_line_indoor", "temperature", liquid)
    return with_readings(heating(**of | given), *lines, *rows)


SOUND_LINES = {"liquid": 101.0, "coil_line": 53.0}
# what is there; what is said of it, each text somewhere in headline, reasons, next step and what is said of gauges; what the gauges do
JOBS = {
    "nothing runs": (
        job(amps(0.3), off_condenser(91.5), liquid=91.0, coil_line=76.0, supply_f=76.0, supply_rh=53.0),
        ("draws 0.3 A: it does not run", "Clamp one lead alone", "verify it dead"), NOT_ENOUGH,
    ),
    "nothing is cooled and no amps are read": (
        job(off_condenser(91.5), liquid=91.0, coil_line=76.0, supply_f=76.0, supply_rh=53.0),
        ("outdoors no heat is given off", "whether the compressor runs"), NOT_ENOUGH,
    ),
    "next to nothing is pumped: empty, or a compressor that does not": (
        job(amps(4.6), off_condenser(93.5), liquid=93.0, coil_line=72.0, supply_f=71.0, supply_rh=60.0),
        ("not fed enough", "compressor's draw is low", "Add no refrigerant before it is known"), WARRANTED,
    ),
    "low airflow with a low charge behind it": (
        job(amps(10.2), off_condenser(102.5), cfm=850.0, liquid=108.5, coil_line=62.0, supply_f=56.0, supply_rh=90.0),
        ("Low airflow.", "behind it: low on charge", "Correct the airflow first", "Do not add refrigerant"), OFF,
    ),
    "low airflow and a subcooling that it does not explain": (
        job(amps(10.6), off_condenser(103.0), ("gauge_suction", "pressure", 103.0), ("gauge_liquid", "pressure", 330.0),
            ("suction_line_outdoor", "temperature", 45.0), cfm=760.0, liquid=99.0, coil_line=42.0, supply_f=49.5, supply_rh=95.0),
        ("Low airflow.", "does not explain all: subcooling is low"), OFF,
    ),
    "a liquid line under outdoors and all else as it should be": (
        job(amps(11.6), off_condenser(106.0), liquid=86.0, coil_line=53.0),
        ("Liquid line clamp loose", "clean bare copper"), NOT_ENOUGH,
    ),
    "a liquid line under outdoors and a starved coil": (
        job(amps(10.5), off_condenser(102.0), liquid=86.0, **STARVED),
        ("Liquid line restricted inside the outdoor unit.", "hold probes and clamps side by side"), WARRANTED,
    ),
    "a line that drops along its way": (
        job(amps(10.2), off_condenser(101.5), ("liquid_line_indoor", "temperature", 90.0), liquid=97.5, **STARVED),
        ("Liquid line restricted.", "iquid line drop is high (7.5"), WARRANTED,
    ),
    "a subcooling under nothing": (
        job(("gauge_suction", "pressure", 112.0), ("gauge_liquid", "pressure", 300.0), liquid=102.0, coil_line=64.0),
        ("warmer than what condenses", "hot gas"), NOT_ENOUGH,
    ),
    "a hot condenser by gauge": (
        job(amps(14.0), off_condenser(109.0), ("gauge_suction", "pressure", 138.0), ("gauge_liquid", "pressure", 445.0),
            ("suction_line_outdoor", "temperature", 57.0), liquid=107.0, coil_line=54.0, supply_f=56.0),
        ("The condenser cannot give its heat off.", "Look at the condenser coil"), OFF,
    ),
    "an approach that gauges have taken apart": (
        job(amps(12.2), off_condenser(108.0), ("gauge_suction", "pressure", 128.0), ("gauge_liquid", "pressure", 395.0),
            ("suction_line_outdoor", "temperature", 57.0), liquid=106.0, coil_line=54.0),
        ("does what it should", "Approach is high", "neither condensing nor subcooling is out of range"), OFF,
    ),
    "an orifice whose superheat is a little low by gauge, and all else right": (
        job(amps(11.0), off_condenser(96.5), ("gauge_suction", "pressure", 127.0), ("gauge_liquid", "pressure", 312.0),
            ("suction_line_outdoor", "temperature", 54.5), return_f=78.8, return_rh=51.0, outdoor_f=81.0, supply_f=57.5, supply_rh=89.0,
            liquid=89.0, coil_line=50.5, metering_device=ORIFICE),
        ("superheat is low", "Most likely nothing is wrong"), NOT_ENOUGH,
    ),
    "an orifice that floods on a day that gives it no target": (
        job(amps(12.6), off_condenser(115.0), ("gauge_suction", "pressure", 124.0), ("gauge_liquid", "pressure", 420.0),
            ("suction_line_outdoor", "temperature", 43.0), return_f=75.0, return_rh=44.0, outdoor_f=99.0, supply_f=54.0, supply_rh=84.0,
            liquid=109.0, coil_line=42.5, metering_device=ORIFICE),
        ("Stop the compressor.", "does not warm on its way: liquid returns", "leave the charge alone"), NOT_ENOUGH,
    ),
    "a suction line that gains too much": (
        job(amps(11.6), off_condenser(106.0), ("suction_line_outdoor", "temperature", 66.0), **SOUND_LINES),
        ("the line is bare, or its clamp is loose", "gain is high (13.0", "Look along the suction line"), OFF,
    ),
    "a suction line that gains too much and was seen bare": (
        job(amps(11.6), off_condenser(106.0), ("suction_line_outdoor", "temperature", 66.0), seen={"suction_insulation": "bare"}, **SOUND_LINES),
        ("Suction line's insulation: bare or torn.", "Insulate the suction line"), OFF,
    ),
    "a return leak beside a static that it does not raise": (
        job(amps(11.6), off_condenser(106.0), ("return_grille", "dry_bulb", 70.0), ("return_grille", "rh", 58.0), *statics(0.45, 0.40),
            blower_motor=CONSTANT_AIRFLOW, **SOUND_LINES),
        ("Return leak", "dew point from grille to unit is high", "does not explain all: total external static is high"), OFF,
    ),
    "a heat pump in heating whose indoor coil was seen dirty": (
        heating(seen={"evaporator_face": "dirty"}), ("The indoor coil is dirty.", "Clean the indoor coil"), OFF,
    ),
    "a heat pump in heating that is overcharged by gauge": (
        with_readings(heating(cfm=1200.0, supply_f=98.0, supply_rh=18.0, target_subcooling_f=10.0), amps(14.0), ("liquid_line_indoor", "temperature", 73.0),
                      ("true_suction", "temperature", 38.0), ("gauge_suction", "pressure", 95.0), ("gauge_liquid", "pressure", 385.0)),
        ("Overcharged.", "weigh in the plate's charge"), WARRANTED,
    ),
    "a heat pump in heating that draws more than its plate allows": (
        with_readings(heating(compressor_rla=10.7), amps(12.0)),
        ("Stop the compressor.", "the indoor airflow first"), NOT_ENOUGH,
    ),
    "tight ducts behind an orifice beside a compressor that draws more than its plate allows": (
        job(amps(18.4), *statics(0.3, 0.9), *drops(0.1, 0.7), cfm=700.0, supply_f=52.0, supply_rh=96.0, metering_device=ORIFICE,
            liquid=101.0, coil_line=45.0),
        ("Stop the compressor.", "Seen besides: ducts tight"), NOT_ENOUGH,
    ),
    "strip heat beside a compressor that draws more than its plate allows": (
        with_readings(heating(compressor_rla=10.7, cfm=1200.0, supply_f=118.0, supply_rh=10.0), amps(12.0)),
        ("Stop the compressor.", "Seen besides: strip heat on"), NOT_ENOUGH,
    ),
    "a warm liquid line beside a compressor that draws more than its plate allows": (
        in_winter(40.0, 110.0, amps(15.9), outdoor_f=47.0, supply_f=104.0, supply_rh=14.0, cfm=1150.0, compressor_rla=15.4),
        ("Stop the compressor.", "Seen besides: the liquid line is warm"), NOT_ENOUGH,
    ),
    "a draw that is too high and a capacity that is too low": (
        job(amps(16.2), off_condenser(112.0), ("suction_line_outdoor", "temperature", 54.0), outdoor_f=90.0, return_f=75.0, return_rh=50.0,
            supply_f=57.0, supply_rh=88.0, liquid=92.0),
        ("compressor's draw is high", "It may be: overcharged"), NOT_ENOUGH,
    ),
    "a compressor overloaded behind a fan that was seen to stand": (
        job(amps(22.0), outdoor_f=95.0, return_f=82.0, return_rh=50.0, supply_f=68.0, supply_rh=80.0, liquid=140.0, seen={"outdoor_fan_blade": "stopped"}),
        ("Stop the compressor.", "Likely cause: the outdoor fan has stopped", "Mend the outdoor fan before it runs again"), NOT_ENOUGH,
    ),
    "a filter that was seen blocked before anything was read": (
        with_readings(walk(return_f=None, return_rh=None, supply_f=None, supply_rh=None, outdoor_f=None, cfm=None, minutes=None, seen={"filter": "blocked"})),
        ("The filter is blocked.", "Still needed", "Change the filter"), NOT_ENOUGH,
    ),
    "a coil under freezing in the first minutes after a thaw": (
        job(("gauge_suction", "pressure", 95.0), ("gauge_liquid", "pressure", 280.0), ("suction_line_outdoor", "temperature", 62.0),
            minutes=3.0, outdoor_f=85.0, supply_f=62.0, supply_rh=82.0, seen={"restart": "reading"}),
        ("because the coil is not fed", "Add nothing on this reading"), NOT_ENOUGH,
    ),
    "a low-side hose on hot gas in heating": (
        in_winter(38.0, 84.0, ("gauge_suction", "pressure", 310.0), ("gauge_liquid", "pressure", 320.0), outdoor_f=45.0),
        ("does what it should", "in heating the large line outdoors is hot gas", "true-suction port"), OFF,
    ),
    "a unit that heats and was taken for one that cools": (
        replace(ground(), mode="cooling"), ("These readings do not count yet.", "Both say that it runs in heating", "Enter that it is tested in heating"), NOT_ENOUGH,
    ),
    "air and water that do not agree": (
        ground(air_share=0.8), ("A probe is wrong.", "The air gains 27,600 BTU/h, and water and electricity account for 34,600 BTU/h"), NOT_ENOUGH,
    ),
    "an outdoor fan that was seen to stand": (
        job(amps(15.5), off_condenser(128.0), liquid=132.0, coil_line=60.0, supply_f=60.0, seen={"outdoor_fan_blade": "stopped"}),
        ("The outdoor fan has stopped.", "Mend the outdoor fan"), OFF,
    ),
    "a motor that holds its airflow before a loaded filter": (
        job(amps(11.5), *statics(0.75, 0.25), *drops(0.42, 0.22), liquid=100.5, coil_line=52.0, blower_motor=CONSTANT_AIRFLOW),
        ("Filter loaded or blocked.", "The motor holds its airflow"), OFF,
    ),
    "an approach that is borderline and all else right": (
        job(amps(11.8), off_condenser(106.5), liquid=104.0, coil_line=53.0),
        ("does what it should today", "Approach is above what is expected", "borderline"), OFF,
    ),
    "a high static with the airflow right all the same": (
        job(amps(11.5), *statics(0.45, 0.40), *drops(0.08, 0.22), **SOUND_LINES, blower_motor=PSC),
        ("does what it should today", "external static is high", "return duct"), OFF,
    ),
    "a high static of which every part takes what is usual, before a motor that holds its airflow": (
        job(amps(11.5), *statics(0.33, 0.38), *drops(0.15, 0.27), **SOUND_LINES, blower_motor=CONSTANT_AIRFLOW),
        ("does what it should today", "external static is high", "blower works harder"), OFF,
    ),
    "a blower that is a little fast, and a static that goes with it": (
        job(amps(11.5), *statics(0.34, 0.46), *drops(0.12, 0.30), **SOUND_LINES | {"coil_line": 54.0}, cfm=1400.0, supply_f=58.3, supply_rh=86.0,
            blower_motor=PSC),
        ("does what it should today", "external static is high", "moves more air than is usual", "blower's tap"), OFF,
    ),
    "a coil that loads while its airflow is still right": (
        job(amps(11.6), *drops(0.08, 0.46), **SOUND_LINES), ("coil drop is high", "something in the air's way", "Look at the evaporator face"), NOT_ENOUGH,
    ),
    "a warm plenum as dry as it should be, and no line read": (
        job(supply_f=66.0, supply_rh=62.0, seen={"strip_heat": "off"}),
        ("Capacity is low", "these readings do not tell which", "Heat added inside the unit would look the same"), NOT_ENOUGH,
    ),
    "a warm plenum, drier than it should be": (
        job(supply_f=64.0, supply_rh=58.0, seen={"strip_heat": "off"}),
        ("Capacity is low", "Heat added inside the unit would look the same"), NOT_ENOUGH,
    ),
    "a warm plenum in a dry house, whose coil takes no moisture anyway": (
        job(return_rh=30.0, supply_f=64.0, supply_rh=46.0, seen={"strip_heat": "off"}),
        ("Capacity is low", "these readings do not tell which. It is"), NOT_ENOUGH,
    ),
    "a low split while nobody knows the airflow": (
        job(amps(11.4), off_condenser(106.0), **SOUND_LINES | {"coil_line": 57.0}, cfm=None, supply_f=61.0, supply_rh=85.0),
        ("Cannot tell yet", "Measure the airflow"), NOT_ENOUGH,
    ),
    "a suction too cold for the air, and little heat": (
        in_winter(12.0, 80.0, amps(8.6), supply_f=86.0),
        ("outdoor coil is iced or dirty, or the outdoor probe reads warm", "Then hold the outdoor probe in the shade"), OFF,
    ),
    "a liquid line near condensing while the suction is fed": (
        in_winter(35.0, 97.0, amps(9.0), supply_f=92.0),
        ("Low on charge.", "Liquid line over return air is high", "Look for the leak before anything is added"), WARRANTED,
    ),
    "little heat behind a piston, with the lines where they were": (
        in_winter(24.0, 88.0, amps(6.2), metering_device=ORIFICE, outdoor_f=30.0, supply_f=84.0),
        ("low on charge, or the compressor is weak", "high suction with little heat moved is the compressor", "Add no refrigerant before"), WARRANTED,
    ),
    "a piston in the cold, saturated and nearly without subcooling": (
        in_winter(14.0, 93.0, amps(9.0), metering_device=ORIFICE, outdoor_f=25.0, supply_f=91.0),
        ("does what it should today",), OFF,
    ),
    "an indoor coil that takes too much for a dry one": (
        in_winter(32.0, 92.0, amps(10.6), *drops(0.05, 0.42), cfm=860.0, supply_f=104.0),
        ("Indoor coil dirty or covered.", "coil drop is high", "Look at the indoor coil's face"), OFF,
    ),
    "strips that nobody switched off": (
        in_winter(32.0, 86.0, amps(9.6), supply_f=112.0),
        ("Strip heat on.", "strips off at their breaker"), OFF,
    ),
    "heating on a mild day": (
        in_winter(45.0, 92.0, amps(10.6), outdoor_f=66.0),
        ("Too warm out to judge the circuit in heating: 66.0 °F",), NOT_ENOUGH,
    ),
    "heating with an outdoor probe in the sun": (
        in_winter(28.0, 92.0, amps(10.6), outdoor_f=62.0),
        ("Cold suction for this air", "Outdoor probe in the sun or outdoor coil iced or dirty", "hold the outdoor probe in the shade"), OFF,
    ),
    "heating with the house's own air typed as outdoors": (
        in_winter(24.0, 86.0, amps(9.9), outdoor_f=70.0, supply_f=95.0),
        ("Outdoor probe in the sun.", "Suction at the compressor is low", "Hold the outdoor probe in the shade"), NOT_ENOUGH,
    ),
    "heating on a day that is too warm for it": (
        in_winter(46.0, 92.0, amps(10.6), outdoor_f=62.0),
        ("Too warm out to judge the circuit in heating: 62.0 °F", "Read both statics"), NOT_ENOUGH,
    ),
    "loop water that leaves colder in cooling": (
        ground(mode="cooling", water_off_f=-15.0), ("The water enters at 50.0 °F and leaves at 41.0 °F: that is not cooling",), NOT_ENOUGH,
    ),
    "a return that draws a seventh of its air from the attic": (
        job(amps(11.6), off_condenser(106.0), ("return_grille", "dry_bulb", 71.4), ("return_grille", "rh", 54.6), ("attic", "dry_bulb", 105.0),
            ("attic", "rh", 35.0), **SOUND_LINES),
        ("Return leak from a hot space", "dew point from grille to unit is high", "Look at the ducts"), OFF,
    ),
    "a return that warms and keeps its dew point, in an attic that is not known": (
        job(amps(11.6), off_condenser(106.0), ("return_grille", "dry_bulb", 69.4), ("return_grille", "rh", 66.0), **SOUND_LINES),
        ("The return air warms on its way to the unit", "Return leak from a hot space or hot return duct run", "Look at the ducts"), OFF,
    ),
    "a return that warms by 8 °F in a humid attic and keeps its dew point": (
        job(amps(11.6), off_condenser(106.0), ("return_grille", "dry_bulb", 68.4), ("return_grille", "rh", 68.0), ("attic", "dry_bulb", 112.0),
            ("attic", "rh", 38.0), **SOUND_LINES),
        ("Hot return duct run", "keeps its dew point", "Look at the ducts"), OFF,
    ),
    "a liquid line that is warm, before any air is read": (
        job(liquid=112.0, coil_line=None, cfm=None, return_f=None, return_rh=None, supply_f=None, supply_rh=None),
        ("Not enough read yet.", "Approach is high (21.2", "That does not tell the cause yet", "Read the return air at the unit"), NOT_ENOUGH,
    ),
    "a rise that is low, in heating, before the airflow is measured": (
        heating(cfm=None, supply_f=82.0, liquid=None, coil_line=None),
        ("The rise is low.", "the airflow tells which way to look", "Still needed: airflow.", "Measure the airflow"), NOT_ENOUGH,
    ),
    "a warm suction line, a warm liquid line and little drawn, before the airflow is measured": (
        job(amps(9.0), off_condenser(101.0), cfm=None, liquid=109.0, coil_line=67.0, supply_f=63.0, supply_rh=None),
        ("Low on charge.", "Measure the airflow."), ONCE_PROVED,
    ),
    "an approach that is low and that nothing explains, with the whole walk read": (
        job(amps(11.6), ("compressor", "voltage", 240.0), off_condenser(106.0), ("suction_line_outdoor", "temperature", 56.0),
            ("liquid_line_indoor", "temperature", 93.5), ("return_grille", "dry_bulb", 75.8), ("supply_register", "dry_bulb", 56.3),
            *statics(0.17, 0.19), *drops(0.08, 0.2), liquid=94.0, coil_line=53.0),
        ("approach is low", "all is read that can be without gauges", "stays out of line", "Do not add refrigerant"), WARRANTED,
    ),
    "a split that is lower than expected and in range, before the airflow is measured": (
        job(cfm=None, liquid=None, coil_line=None, supply_f=58.5, supply_rh=88.0),
        ("Cannot tell yet: the condenser or the circuit, or nothing wrong.", "Measure the airflow"), NOT_ENOUGH,
    ),
    "nothing wrong by the air and the liquid line, with the rest of the walk unread": (
        job(liquid=101.0, coil_line=None),
        ("does what it should", "Read the return grille."), OFF,
    ),
    "a low charge by the air and the liquid line, with no suction line read": (
        job(liquid=110.0, coil_line=None, supply_f=61.0, supply_rh=82.0),
        ("Low on charge.", "Read the suction line at the coil.", "comes before any hose", "Do not add refrigerant"), NOT_ENOUGH,
    ),
    "a register that is warm, on a machine whose lines and draw are right": (
        job(amps(11.6), off_condenser(106.0), ("supply_register", "dry_bulb", 67.0), supply_f=None, supply_rh=None, **SOUND_LINES),
        ("The split is low.", "taken from the supply register", "The ducts between may do that", "Read the supply plenum"), NOT_ENOUGH,
    ),
}  # fmt: skip


@pytest.mark.parametrize(("found", "texts", "decides"), JOBS.values(), ids=JOBS)
def test_a_colleague_would_say_the_same(found, texts, decides):
    assessed = assess(found)
    verdict = verdict_said(assessed, FAHRENHEIT)
    whole = f"{verdict.headline} {verdict.says} {verdict.next_step} {gauges_said(assessed)}"
    assert [text for text in texts if text not in whole] == [], whole
    assert assessed.diagnosis.gauges.decides == decides, gauges_said(assessed)


def test_air_too_warm_for_a_heating_test_withholds_nothing_where_the_suction_says_otherwise():
    """But no baseline is made of it; on a day that is too warm the circuit waits."""
    sun, warm_day = (
        assess(JOBS[f"heating {what}"][0])
        for what in ("with an outdoor probe in the sun", "on a day that is too warm for it")
    )
    (of_sun,), (of_the_day,) = ([f for f in found.findings if f.id == "too_warm_out"] for found in (sun, warm_day))
    assert (of_sun.withholds, of_the_day.withholds) == ("", CIRCUIT)
    assert "34 °F colder" in said(of_sun, FAHRENHEIT).message and "fan" in said(of_sun, FAHRENHEIT).hint
    assert "other_weather" in sun.baseline_obstacles


def test_gas_in_the_circuit_is_no_fault_outside_it():
    hot = assess(JOBS["a hot condenser by gauge"][0])
    assert "gas that does not condense is in the circuit" in gauges_said(hot)


def test_a_hot_condenser_with_all_looked_at_leaves_gas_that_does_not_condense():
    left = at_last(assess(JOBS["a hot condenser by gauge"][0]))
    assert "its coil and its fan right, gas that does not condense is left" in left and left.endswith(
        "licensed people."
    )


def test_nothing_brings_a_reading_past_a_bound_of_physics_but_a_wrong_probe_or_what_boils_before_the_clamp():
    """The further the liquid line lies under the outdoor air, the surer it is the clamp, where nothing is starved."""
    wrong = [
        assess(job(amps(11.6), liquid=liquid, coil_line=53.0)).diagnosis.ranked.by_group["probe"]
        for liquid in (96.0, 91.0, 89.0, 86.0)
    ]
    assert wrong == sorted(wrong) and wrong[0] < 0.3 < 0.8 < wrong[-1], wrong


def test_an_open_well_runs_at_the_least_flow_of_the_units_table():
    """An open well loop runs at about half a closed loop's flow: common practice, no single source."""

    def flow(loop):
        found = ground(mode="cooling", gpm=5.0, moved=42000.0)
        return assess(replace(found, equipment=replace(found.equipment, heat_table=REJECTION, loop=loop))).table[
            "water_flow"
        ]

    assert (flow("open_well").expected.value, flow("open_well").state) == (5.0, "in range")
    assert flow("closed").expected.value == pytest.approx((5.0 * 9.0) ** 0.5)
