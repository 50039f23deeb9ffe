"""Expected cooling: the published curves at the rating point, the shape of the answer, the dry coil, the schools."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from engine.assessment import assess
from engine.expected import schools
from engine.expected.cooling import Machine, expected_cooling, out_of_range
from engine.expected.curves import by_flow, by_weather
from engine.physics.air import moist
from engine.physics.air.process import apparatus
from engine.physics.capacity.delivered import fan_heat_btuh
from engine.report.air_words import school_said
from engine.report.why_words import outside
from engine.report.words import FAHRENHEIT
from engine.uncertainty.estimate import Why
from plant.faults import House
from plant.machine import Spec
from plant.places import Weather, run
from plant.sizing import machine
from tests.engine.checks import record
from tests.engine.rounds import round_

KINDS = ("air_conditioner", "heat_pump")


def expect(
    return_f=80.0, wet_bulb_f=67.0, outdoor_f=95.0, cfm=1200.0, altitude_ft=0.0, kind="air_conditioner", share=0.75
):
    """Three tons; cfm of standard air at sea level, so that the flow is rated flow at 1,200."""
    p = moist.pressure_psia(altitude_ft)
    w = moist.humidity_ratio_from_wet_bulb(return_f, wet_bulb_f, p)
    flow = cfm * 60 / 13.33 * p / moist.pressure_psia(0.0)
    machine = Machine(3.0, kind, share, 0.365)
    return expected_cooling(machine, return_f, w, outdoor_f, p, flow, fan_heat_btuh(0.365 * cfm))


@pytest.mark.parametrize("prefix", ["ac", "hp"])
def test_curves_are_near_one_at_the_rating_point(prefix):
    """Source: NREL/TP-5500-56354 curves at 80/67 °F in and 95 °F out (ANSI/AHRI 210/240 A test, MEM)."""
    off = abs(float(by_weather(f"{prefix}_cooling_capacity_temperature")(67.0, 95.0)) - 1)
    record(
        f"cooling capacity curve at 80/67/95 °F, {prefix}",
        "NREL/TP-5500-56354, near 1 at the rating point",
        off,
        0.01,
        "share",
    )
    assert by_flow(f"{prefix}_cooling_capacity_flow")(1.0) == pytest.approx(1.0, abs=1e-3)
    celsius_for_fahrenheit = by_weather(f"{prefix}_cooling_capacity_temperature")(19.44, 35.0)
    assert abs(celsius_for_fahrenheit - 1.0) > 0.05


@pytest.mark.parametrize("kind", KINDS)
def test_at_the_rating_point_the_machine_is_its_nameplate(kind):
    """Nominal tons at 0.75 sensible, 400 CFM of standard air per ton: so the split follows from m cp dT alone."""
    e = expect(kind=kind)
    assert e.total_btuh == pytest.approx(36000, rel=0.015)
    assert e.sensible_heat_ratio == pytest.approx(0.75, abs=0.01)
    assert e.split_f == pytest.approx(0.75 * 36000 / (5401 * 0.2443), rel=0.02)
    assert e.sensible_btuh < e.total_btuh and not e.coil_dry


@pytest.mark.parametrize("kind", KINDS)
def test_capacity_is_monotonic_inside_the_range(kind):
    wet = [float(expect(wet_bulb_f=w, kind=kind).total_btuh) for w in np.linspace(62, 75, 14)]
    hot = [float(expect(outdoor_f=o, kind=kind).total_btuh) for o in np.linspace(70, 115, 10)]
    flow = [float(expect(cfm=c, kind=kind).gross_btuh) for c in np.linspace(700, 1600, 10)]
    assert np.all(np.diff(wet) > 0) and np.all(np.diff(hot) < 0) and np.all(np.diff(flow) > 0)


@given(st.floats(72, 82), st.floats(0, 1), st.floats(75, 110), st.floats(900, 1500))
def test_less_air_means_more_split_and_little_less_capacity(return_f, dampness, outdoor_f, cfm):
    wet_bulb = 59 + dampness * (return_f - 5 - 59)
    full, less = expect(return_f, wet_bulb, outdoor_f, cfm), expect(return_f, wet_bulb, outdoor_f, 0.8 * cfm)
    assert less.split_f > full.split_f
    assert 0 < 1 - less.gross_btuh / full.gross_btuh < 0.12, "a fifth of the air costs little capacity"


def test_a_humid_house_has_a_small_split_and_a_dry_one_a_large_one_and_both_are_healthy():
    assert expect(75.0, 70.0, 85.0).split_f < 15.0
    assert expect(78.0, 60.0, 85.0).split_f > 24.0


def test_the_dry_coil_follows_dry_bulb_and_joins_the_wet_one_without_a_step():
    """Below the wet bulb at which the coil just goes dry, wet bulb no longer matters and all capacity is sensible."""
    dry, drier = expect(80.0, 58.0), expect(80.0, 54.0)
    assert dry.coil_dry and drier.coil_dry
    assert dry.total_btuh == pytest.approx(float(drier.total_btuh), rel=1e-4)
    assert dry.sensible_heat_ratio == pytest.approx(1.0) and dry.wet_bulb_used_f > 58.0
    assert expect(84.0, 58.0).total_btuh > dry.total_btuh
    turn = float(dry.wet_bulb_used_f)
    below, above = expect(80.0, turn - 0.02), expect(80.0, turn + 0.02)
    assert below.coil_dry and not above.coil_dry
    assert below.split_f == pytest.approx(float(above.split_f), abs=0.03)
    assert np.isclose(
        dry.supply_humidity_ratio, moist.humidity_ratio_from_wet_bulb(80.0, 58.0, moist.pressure_psia(0.0))
    )


def test_bypass_factor_follows_flow():
    """EnergyPlus Engineering Reference (MEM): BF = exp(-A0 / m), so flow times ln BF is the same at every flow."""
    products = []
    for cfm in (900.0, 1200.0, 1500.0):
        e, p = expect(76.0, 63.0, 90.0, cfm), moist.pressure_psia(0.0)
        w = moist.humidity_ratio_from_wet_bulb(76.0, 63.0, p)
        off_coil = moist.dry_bulb_from_enthalpy_f(
            moist.enthalpy_btulb(76.0, w) - e.gross_btuh / (cfm * 60 / 13.33), e.supply_humidity_ratio
        )
        products.append(cfm * np.log(apparatus(76.0, w, off_coil, e.supply_humidity_ratio, p).bypass_factor))
    assert products == pytest.approx([products[0]] * 3, rel=1e-4)


def test_energy_balances_to_rounding():
    """Capacity is the enthalpy the air lost, at any altitude; supply air is never past saturation."""
    for altitude in (0.0, 6200.0):
        for wet in (58.0, 63.0, 70.0):
            e = expect(78.0, wet, 90.0, 1100.0, altitude)
            p = moist.pressure_psia(altitude)
            w = moist.humidity_ratio_from_wet_bulb(78.0, wet, p)
            flow = 1100 * 60 / 13.33 * p / moist.pressure_psia(0.0)
            drop = moist.enthalpy_btulb(78.0, w) - moist.enthalpy_btulb(e.supply_dry_bulb_f, e.supply_humidity_ratio)
            assert flow * drop == pytest.approx(float(e.total_btuh), rel=1e-9)
            assert e.supply_humidity_ratio <= moist.saturation_humidity_ratio(e.supply_dry_bulb_f, p)


def test_outside_the_published_range_is_said_by_name():
    assert out_of_range(67.0, 95.0, 1.0) == ()
    words = "; ".join(outside(each, FAHRENHEIT) for each in out_of_range(76.0, 60.0, 0.4))
    assert "return wet bulb 76" in words and "outdoor temperature 60" in words and "airflow by mass 40" in words


def test_the_four_schools_state_target_tolerance_and_reason():
    """Source: common practice, no single source (18-21 °F; about 20 dry, 17-18 humid; adjusted within 3 °F)."""
    machine = Machine(3.0, "air_conditioner", 0.75, 0.365)
    humid = schools.return_air(float(schools.return_air_split_f(machine, 76.0, 68.0)))
    dry = schools.return_air(float(schools.return_air_split_f(machine, 76.0, 60.0)))
    assert dry.target_f > humid.target_f + 5 and humid.tolerance_f == 3.0
    assert (schools.flat().target_f - 1.5, schools.flat().target_f + 1.5) == (18.0, 21.0)
    assert (
        schools.climate("dry").target_f > schools.climate("humid").target_f and schools.climate(None).target_f is None
    )
    asked = (
        humid,
        dry,
        schools.flat(),
        schools.climate("dry"),
        schools.climate(None),
        schools.computed(None, 3.0, Why("needs", ("return dry bulb",))),
    )
    assert all(all(school_said(s, FAHRENHEIT)) for s in asked)


@pytest.mark.parametrize(
    "weather",
    [
        Weather(76.0, 36.0, 86.0, 25.0, 105.0, 6200.0),  # a dry house in the mountains
        Weather(76.0, 25.0, 86.0, 20.0, 105.0, 6200.0),
        Weather(74.0, 20.0, 80.0, 20.0, 105.0, 0.0),
        Weather(74.0, 45.0, 67.0, 40.0, 80.0, 0.0),  # a maintenance visit in spring
    ],
)
def test_curves_carried_on_agree_with_a_machine_worked_out_from_its_parts(weather):
    """The simulated plant knows no curves: compressor, coils, valve and charge, solved for these conditions."""
    found = run(machine(Spec(3.0, "mid", "R-410A", "txv")), weather, House(return_gain=0.0))
    v, coil = found.values, "wet" if found.state.dried_w > 1e-6 else "dry"
    given = round_(
        weather.inside_f, weather.inside_rh, v["supply_plenum", "dry_bulb"], v["supply_plenum", "rh"], weather.outside_f,
        v["blower", "airflow"], altitude_ft=weather.altitude_ft, coil=coil,
    )  # fmt: skip
    assessed = assess(given)
    split, capacity = assessed.table["split"], assessed.table["capacity"]
    assert assessed.table.expected.carried_on and not assessed.table.expected.outside
    assert split.measured.value == pytest.approx(split.expected.value, abs=split.expected.u95)
    assert capacity.measured.value == pytest.approx(capacity.expected.value, abs=capacity.expected.u95)
    assert not assessed.diagnosis.conclusion.is_fault


@pytest.mark.parametrize("outdoor_f", [76.0, 86.0, 104.0, 112.0])
def test_a_hot_day_takes_capacity_and_hardly_any_of_the_heat_given_off(outdoor_f):
    """Against the simulated machine, which knows no curves: the compressor adds what the coil no longer takes in."""

    def at(outside_f):
        weather = Weather(76.0, 50.0, outside_f)
        found = run(machine(Spec(3.0, "mid", "R-410A", "txv")), weather, House(return_gain=0.0))
        given = round_(76.0, 50.0, outdoor_f=outside_f, cfm=found.values["blower", "airflow"], seer=14.0)
        expected = assess(given).table.expected
        return found.state.rejected_kw, expected.load, expected["expected_total_btuh"].value

    (rejected, load, total), (at_rating, load_at_rating, total_at_rating) = at(outdoor_f), at(95.0)
    assert load / load_at_rating == pytest.approx(rejected / at_rating, abs=0.03)
    assert abs(load / load_at_rating - 1.0) < 0.6 * abs(total / total_at_rating - 1.0)
