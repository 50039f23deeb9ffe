"""A heat pump with a fixed piston in heating: what is expected of its lines as the weather changes, and what its charge
shows. Common practice, no single source, and the balance of piston and compressor.
"""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from engine.assessment import assess, table_of
from engine.constants import (
    HEATING_RATING_OUTDOOR,
    PISTON_RIGHT_AT_SPREAD,
    PISTON_SUPERHEAT,
    REVERSING_VALVE_GAIN,
    SUBCOOLING_SPREAD,
)
from engine.diagnosis.verdict import CANNOT_TELL, SOUND
from engine.expected.lines import subcooling_in_heating, superheat_in_heating
from engine.readings.round import ORIFICE, TXV, Reading
from plant.machine import Spec
from plant.places import Weather, faulty, run
from plant.sizing import machine
from tests.engine.rounds import with_readings
from tests.engine.test_causes_elsewhere import cold, read

OUTSIDE, HELD = st.floats(-5.0, 65.0), st.floats(5.0, 30.0)
LINES = ("heat_approach", "true_suction", "discharge")


def piston(faults, outside_f, refrigerant="R-410A", device="fixed_orifice"):
    """A simulated heat pump in heating, read without noise, its discharge line too."""
    weather = cold(outside_f)
    run = faulty(Spec(kind="heat_pump", metering_device=device, refrigerant=refrigerant), faults, weather)
    found = read(run, weather, device, seer=14.0, refrigerant=refrigerant)
    hot = Reading("discharge_line", "temperature", run.values["discharge_line", "temperature"], "clamp")
    return assess(replace(found, readings=(*found.readings, hot)))


@given(OUTSIDE, HELD)
def test_subcooling_before_a_piston_is_never_more_than_a_valve_s_and_never_under_nought(outside_f, held_f):
    level, spread = subcooling_in_heating(ORIFICE, outside_f, held_f)
    assert 0.0 <= level <= held_f and spread >= SUBCOOLING_SPREAD.value
    assert subcooling_in_heating(TXV, outside_f, held_f)[0] == held_f, "a valve holds it in any weather"
    unknown, wide = subcooling_in_heating("unknown", outside_f, held_f)
    assert min(level, held_f) <= unknown <= max(level, held_f) and wide >= spread - 1e-9


@given(OUTSIDE, OUTSIDE, HELD)
def test_both_rise_with_the_weather_behind_a_piston(one_f, other_f, held_f):
    colder, warmer = sorted((one_f, other_f))
    assert subcooling_in_heating(ORIFICE, colder, held_f)[0] <= subcooling_in_heating(ORIFICE, warmer, held_f)[0]
    assert superheat_in_heating(ORIFICE, colder)[0] <= superheat_in_heating(ORIFICE, warmer)[0]


def test_a_piston_is_right_near_the_heating_rating_and_its_spread_is_widest_where_it_turns():
    right, off = HEATING_RATING_OUTDOOR.value, PISTON_RIGHT_AT_SPREAD.value
    assert superheat_in_heating(ORIFICE, right)[0] == pytest.approx(PISTON_SUPERHEAT.value)
    assert subcooling_in_heating(ORIFICE, right, 17.0)[0] == pytest.approx(17.0)
    turning, settled = (subcooling_in_heating(ORIFICE, at, 17.0)[1] for at in (right - off, right - 5 * off))
    assert turning > 2 * settled, "far below, no machine has any left to differ in"


@pytest.mark.parametrize("device", ["txv", "fixed_orifice", "unknown"])
def test_no_suction_is_expected_warmer_than_the_air_over_the_coil_and_what_the_reversing_valve_adds(device):
    sound = piston({}, 40.0)
    for outside_f in (12.0, 30.0, 49.0, 64.0):
        read = with_readings(
            replace(sound.round, equipment=replace(sound.round.equipment, metering_device=device)),
            ("outdoor", "dry_bulb", outside_f),
        )
        assert table_of(read)["true_suction"].expected.value <= outside_f + REVERSING_VALVE_GAIN.value


@pytest.mark.parametrize("refrigerant", ["R-22", "R-410A", "R-454B"])
@pytest.mark.parametrize("outside_f", [14.0, 22.0, 30.0, 38.0, 47.0])
def test_sound_pistons_are_where_they_are_expected_in_any_weather(refrigerant, outside_f):
    found = piston({}, outside_f, refrigerant)
    assert [q for q in LINES if found.table[q].state == "out of range"] == []
    assert found.verdict.state in (SOUND, CANNOT_TELL), found.diagnosis.ranked.by_group


@pytest.mark.parametrize("outside_f", [17.0, 27.0])
def test_too_much_charge_waits_in_the_accumulator_and_nobody_is_told_to_take_some_out(outside_f):
    """Rise, lines and draw stay: nothing a walk reads shows it."""
    sound, over = (piston(faults, outside_f) for faults in ({}, {"overcharge": "moderate"}))
    for quantity in ("rise", "heat_approach", "true_suction", "amps"):
        moved = over.table[quantity].residual.value - sound.table[quantity].residual.value
        assert abs(moved) < 0.35 * over.table[quantity].residual.sound_u95, quantity
    assert over.verdict.group != "charge_high"


@pytest.mark.parametrize("outside_f", [27.0, 36.0])
@pytest.mark.parametrize("fault", ["restriction", "starving_valve"])
def test_what_is_held_back_by_a_spot_fills_the_indoor_coil_and_warms_the_suction(fault, outside_f):
    found = piston({fault: "moderate"}, outside_f)
    assert found.table["heat_approach"].side < 0 < found.table["true_suction"].side
    assert next(iter(found.diagnosis.ranked.by_group)) == "starved"


def test_a_valve_s_lines_say_the_same_in_the_cold_as_at_the_rating():
    """A TXV closes a little in the cold, by the same degrees as the simulated one."""
    for outside_f in (17.0, 47.0):
        found = piston({}, outside_f, device="txv")
        assert [q for q in LINES if found.table[q].state == "out of range"] == []
    expected = superheat_in_heating(TXV, 47.0)[0] - superheat_in_heating(TXV, 17.0)[0]
    simulated = [
        run(machine(Spec(kind="heat_pump")), Weather(70.0, 40.0, t, 73.0, t, heating=True)).superheat_f
        for t in (47.0, 17.0)
    ]
    assert simulated[0] - simulated[1] == pytest.approx(expected, abs=1.5)
