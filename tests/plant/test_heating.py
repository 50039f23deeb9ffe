"""Simulated heat pumps in heating beside published curves, an independent cycle library, the bounds of thermodynamics
and the figures that technicians go by.
"""

from itertools import pairwise

import pytest

from engine.expected.curves import by_weather
from plant.circuit import BEST_ISENTROPIC, BEST_RATIO, ISENTROPIC_FALL, SHELL_LOSS
from plant.fluid import fluid
from plant.machine import REVERSING_VALVE_K, Spec
from plant.places import BTUH_PER_KW, Weather, faulty, run
from plant.sizing import machine
from tests.engine.checks import record
from tests.plant.test_cycle_elsewhere import cycle
from tests.plant.test_plant import QUIET

FLUIDS = ("R-22", "R-410A", "R-32", "R-454B")
KELVIN_AT_0_F = 255.37


def winter(outside_f: float, inside_f: float = 70.0) -> Weather:
    """Outdoors as humid as at the heating ratings of AHRI 210/240."""
    return Weather(inside_f, 40.0, outside_f, 73.0, outside_f, heating=True)


def heat_pump(refrigerant: str = "R-410A", device: str = "txv", **of) -> Spec:
    return Spec(refrigerant=refrigerant, metering_device=device, kind="heat_pump", **of)


def kelvin(f: float) -> float:
    return KELVIN_AT_0_F + f / 1.8


@pytest.mark.parametrize("device", ["txv", "fixed_orifice"])
@pytest.mark.parametrize("refrigerant", FLUIDS)
def test_heating_falls_with_the_weather_as_published_curves_and_tables_do(refrigerant, device):
    """17 °F over 47 °F is 0.55 to 0.75 in makers' tables (MEM); the curve is NREL/TP-5500-56354's for heat pumps."""
    spec = heat_pump(refrigerant, device)
    at = {f: run(machine(spec), winter(f), QUIET).net_btuh for f in (17.0, 25.0, 35.0, 47.0)}
    assert all(colder < warmer for colder, warmer in pairwise(at.values()))
    assert 0.55 < at[17.0] / at[47.0] < 0.75
    curve = by_weather("hp_heating_capacity_temperature")
    for outside in (17.0, 25.0, 35.0):
        published = float(curve(70.0, outside) / curve(70.0, 47.0))
        record(
            f"heating at {outside:g} °F over 47 °F", "NREL/TP-5500-56354, heat pump heating curve",
            abs(at[outside] / at[47.0] - published), 0.10, "share",
        )  # fmt: skip


@pytest.mark.parametrize("efficiency", ["low", "mid", "high"])
@pytest.mark.parametrize("outside_f", [17.0, 32.0, 47.0])
def test_no_heat_pump_beats_carnot_and_none_is_an_electric_heater(efficiency, outside_f):
    """Carnot between the temperatures it evaporates and condenses at (any thermodynamics text); half of that and more
    is what good ones reach (memory).
    """
    found = run(machine(heat_pump(efficiency=efficiency)), winter(outside_f), QUIET)
    cop = found.state.coil_kw / found.state.compressor_kw
    carnot = kelvin(found.condensing_f) / (kelvin(found.condensing_f) - kelvin(found.evaporating_f))
    assert 0.45 * carnot < cop < 0.72 * carnot
    assert 1.8 < found.net_btuh / BTUH_PER_KW / (found.watts / 1000.0) < 5.0


@pytest.mark.parametrize("refrigerant", FLUIDS)
@pytest.mark.parametrize("outside_f", [17.0, 32.0, 47.0])
def test_the_lines_are_where_technicians_find_them(refrigerant, outside_f):
    """Evaporating 7 to 20 °F under the outdoor air; the suction line between that and the air that feeds the coil, with
    3 °F for the reversing valve; the liquid line over the return air in the band of 3 to 17 °F that circulates, and
    some beyond it where it is mild. Common practice, no single source.
    """
    found = run(machine(heat_pump(refrigerant)), winter(outside_f), QUIET)
    suction, liquid = found.values["true_suction", "temperature"], found.values["liquid_line_indoor", "temperature"]
    assert 7.0 < outside_f - found.evaporating_f < 20.0
    assert found.evaporating_f <= suction <= outside_f + 3.0
    assert -1.0 < liquid - 70.0 < 23.0
    assert 15.0 < found.condensing_f - 70.0 < 45.0


@pytest.mark.parametrize("fault", ["blocked_filter", "dirty_evaporator", "low_tap"])
def test_less_air_indoors_is_more_rise_and_more_head(fault):
    """Common practice, no single source: in heating low airflow raises the rise, the head and the draw."""
    spec, cold = heat_pump(), winter(35.0)
    sound, less = faulty(spec, {}, cold), faulty(spec, {fault: "slight"}, cold)
    rise = [r.values["supply_plenum", "dry_bulb"] - r.values["return_unit", "dry_bulb"] for r in (sound, less)]
    assert less.cfm < 0.95 * sound.cfm and rise[1] > 1.03 * rise[0]
    assert less.condensing_f > sound.condensing_f + 1.0 and less.watts > sound.watts


def test_behind_a_piston_subcooling_goes_with_the_weather_and_charge_shows_only_when_the_accumulator_is_empty():
    """Common practice, no single source: a fixed piston floods in the cold, into the accumulator."""
    spec = heat_pump(device="fixed_orifice")
    found = {f: run(machine(spec), winter(f), QUIET) for f in (12.0, 24.0, 36.0, 47.0)}
    subcooling = [r.subcooling_f for r in found.values()]
    assert subcooling == sorted(subcooling) and subcooling[0] < 1.0 < 12.0 < subcooling[-1]
    assert found[12.0].superheat_f <= 0.0 < 8.0 < found[47.0].superheat_f
    cold = winter(17.0)
    sound, little = (faulty(spec, faults, cold) for faults in ({}, {"undercharge": "slight"}))
    assert little.net_btuh == pytest.approx(sound.net_btuh, rel=0.02), "a little less in the accumulator, and no more"
    much = faulty(spec, {"undercharge": "severe"}, winter(32.0))
    assert much.superheat_f > 8.0 > faulty(spec, {}, winter(32.0)).superheat_f


def test_what_a_piston_feeds_too_much_in_the_cold_waits_in_the_accumulator():
    """The compressor draws no wet vapor, and draws with it no more than behind a TXV; a charge too large fills the
    accumulator and nothing else shows (common practice, no single source).
    """
    cold, piston, txv = winter(25.0), heat_pump(device="fixed_orifice"), heat_pump()
    sound, full = (faulty(piston, faults, cold) for faults in ({}, {"overcharge": "severe"}))
    assert -2.5 < full.superheat_f < sound.superheat_f < 0
    assert sound.watts == pytest.approx(faulty(txv, {}, cold).watts, rel=0.05)
    assert full.net_btuh == pytest.approx(sound.net_btuh, rel=0.02) and full.watts < 1.06 * sound.watts


def test_liquid_is_never_colder_than_the_air_that_cools_it():
    """However much charge: a coil cools its liquid towards the air, and not beyond."""
    for device in ("txv", "fixed_orifice"):
        for outside_f in (17.0, 47.0):
            found = faulty(heat_pump(device=device), {"overcharge": "severe"}, winter(outside_f))
            assert found.values["liquid_line_indoor", "temperature"] > found.values["return_unit", "dry_bulb"] - 0.5


@pytest.mark.parametrize("refrigerant", ["R-410A", "R-22", "R-32"])
@pytest.mark.parametrize("outside_f", [17.0, 47.0])
def test_heat_given_by_a_pound_is_an_independent_cycle_library_s(refrigerant, outside_f):
    """The library is given the temperatures the plant settled at. Heat given = heat taken in + work (energy balance);
    in the plant a share of the work is lost by the shell.
    """
    m = machine(heat_pump(refrigerant))
    state = run(m, winter(outside_f), QUIET).state
    f, (te, tc, _, _) = fluid(refrigerant), state.unknowns
    low, high = f.dew_kpa(te - REVERSING_VALVE_K), f.dew_kpa(tc)
    share = BEST_ISENTROPIC - ISENTROPIC_FALL * (high / low / BEST_RATIO - 1.0) ** 2
    warm = (state.suction_c, state.suction_c, state.liquid_c)
    taken, work = cycle(refrigerant.replace("-", ""), low, high, *warm, share)
    heat = taken + work
    ours = state.coil_kw / state.flow_kgs + SHELL_LOSS * work, state.compressor_kw / state.flow_kgs
    record(
        f"heat given by a pound of {refrigerant}",
        "TESPy cycle, heating",
        abs(ours[0] / heat - 1.0),
        0.012,
        "share",
    )
    record(f"work on a pound of {refrigerant}", "TESPy cycle, heating", abs(ours[1] / work - 1.0), 0.02, "share")
