"""The house over time: it takes minutes to settle and hours to dry, ices when it must, swings when its valve hunts, and
stops when it cannot run.
"""

import pytest

from engine.units import f_from_c
from plant.live import HUNT_PERIOD_S, Live
from plant.machine import Spec
from plant.places import Weather, severe_amount

PLENUM, SUCTION, LIQUID = (
    ("supply_plenum", "dry_bulb"),
    ("suction_line_outdoor", "temperature"),
    ("liquid_line_outdoor", "temperature"),
)
MILD = Weather(76.0, 50.0, 90.0, 45.0)


def started(weather=MILD, faults=None, **more):
    live = Live(Spec(), weather, faults or {}, **more)
    live.start()
    return live


def moved(live, key, minutes):
    before = live.values()[key]
    live.advance(60 * minutes)
    return abs(live.values()[key] - before)


def test_a_reading_three_minutes_after_the_start_is_not_the_settled_one_and_one_after_fifteen_is():
    """10 to 15 minutes before reading: common practice, no single source. Steady is under half a degree in three
    minutes.
    """
    live = started()
    live.advance(180)
    early = live.values()
    live.advance(12 * 60)
    settled = live.values()
    assert early[SUCTION] - settled[SUCTION] > 4.0 and early[PLENUM] - settled[PLENUM] > 1.0
    assert all(moved(live, key, 3) < 0.5 for key in (PLENUM, SUCTION, LIQUID))


def test_amps_and_statics_come_at_once_and_lines_late():
    live = started()
    live.advance(60)
    now = live.values()
    live.advance(20 * 60)
    then = live.values()
    assert now["supply_plenum", "static_pressure"] == pytest.approx(then["supply_plenum", "static_pressure"], rel=0.05)
    assert now["compressor", "current"] > 0.6 * then["compressor", "current"]
    assert abs(now[LIQUID] - then[LIQUID]) > 3.0


def test_a_humid_house_is_dried_for_hours_and_its_split_grows_meanwhile():
    """A healthy machine on a humid house has a low split and much latent heat: not a fault."""
    live = started(Weather(79.0, 68.0, 88.0, 55.0))
    live.advance(20 * 60)
    first = live.values()
    live.advance(4 * 3600)
    last = live.values()

    def split(v):
        return v["return_unit", "dry_bulb"] - v[PLENUM]

    assert last["return_grille", "rh"] < first["return_grille", "rh"] - 3.0
    assert split(last) > split(first) + 0.8


def test_a_coil_first_wets_itself_before_it_dries_the_air():
    live = started(Weather(76.0, 60.0, 90.0, 45.0))
    live.advance(100)
    young = live._wetted()
    live.advance(20 * 60)
    assert 0.0 < young < 0.5 and live._wetted() == 1.0


def test_an_airflow_fault_ices_the_coil_airflow_falls_further_and_ice_melts_once_it_is_off():
    live = started(Weather(72.0, 55.0, 80.0, 55.0), {"low_tap": severe_amount(Spec(), "low_tap", "severe")})
    live.advance(10 * 60)
    before = live.values()["blower", "airflow"]
    live.advance(3000)
    assert live.frost_kg > 1.0 and live.values()["blower", "airflow"] < 0.7 * before
    live.stop()
    live.advance(3 * 3600)
    assert live.frost_kg == 0.0


def test_a_sound_machine_does_not_ice():
    live = started()
    live.advance(3600)
    assert live.frost_kg == 0.0


def test_after_a_fix_it_settles_again():
    live = started(faults={"dirty_condenser": 0.8})
    live.advance(20 * 60)
    sick = live.values()[LIQUID]
    live.set_faults({})
    live.advance(60)
    soon = live.values()[LIQUID]
    live.advance(20 * 60)
    well = live.values()[LIQUID]
    assert sick > well + 10 and well + 5 < soon < sick, "a minute after the fix it is still on its way"


def test_a_hunting_valve_swings_where_a_steady_one_stands_still():
    quiet, hunting = started(), started(hunting_k=3.0)
    swings = []
    for live in (quiet, hunting):
        live.advance(20 * 60)
        seen = []
        for _ in range(int(2 * HUNT_PERIOD_S / 5)):
            live.advance(5)
            seen.append(live.values()[SUCTION])
        swings.append(max(seen) - min(seen))
    assert swings[0] < 0.3 and swings[1] > 2.0


def test_a_machine_that_cannot_run_stops_and_says_why():
    live = started(Weather(76.0, 50.0, 125.0, 20.0), {"dirty_condenser": 1.0})
    live.advance(120)
    assert not live.running and "no steady state" in live.stopped_because
    live.advance(3600)
    assert live.values()["compressor", "current"] == pytest.approx(0.0, abs=1e-6)


def test_at_rest_everything_drifts_to_where_it_stands():
    live = started()
    live.advance(1200)
    live.stop()
    live.advance(3600)
    v = live.values()
    assert v[PLENUM] == pytest.approx(f_from_c(live.room.t), abs=0.2) and v[
        "supply_plenum", "static_pressure"
    ] == pytest.approx(0.0, abs=1e-6)
    assert v[LIQUID] == pytest.approx(live.weather.outside_f, abs=0.1)
