"""Refrigerant tables against CoolProp; superheat, subcooling and targets by hand; predictions are a type of their own."""

import numpy as np
import pytest
from CoolProp.CoolProp import PropsSI

from engine.constants import SUCTION_RISE_SPREAD, SUCTION_RISE_USUAL
from engine.errors import EngineError, OutOfRange
from engine.expected import lines
from engine.physics.air.moist import pressure_psia
from engine.physics.refrigerant.properties import REFRIGERANTS, refrigerant, saturation_temperature_at
from tests.engine.checks import record

PURE = {"R-22": "R22", "R-32": "R32", "R-134a": "R134a", "R-410A": "R410A", "R-407C": "R407C"}
KELVIN, SEA_LEVEL = 459.67, 14.696


def coolprop(what, name, t_f, quality):
    return PropsSI(what, "T", (t_f + KELVIN) / 1.8, "Q", quality, name)


@pytest.mark.parametrize("name", PURE)
def test_saturation_within_a_twentieth_of_a_degree(name):
    """Source: CoolProp 8, asked between the tables' rows."""
    table, worst = refrigerant(name), 0.0
    for t in np.arange(-19.5, 150, 3.7):
        for quality, side in ((0, "bubble"), (1, "dew")):
            p = coolprop("P", PURE[name], t, quality) / 6894.757
            worst = max(worst, abs(float(table.temperature_f(p, side)) - t))
            assert float(table.pressure_psia(t, side)) == pytest.approx(p, rel=1e-3)
    record(f"saturation temperature, {name}", "CoolProp, -20 to 150 °F", worst, 0.05, "°F")


def test_saturation_of_the_blend_with_points_that_do_not_converge():
    """Source: CoolProp 8, R-454B as a mixture; a few points fail there and are skipped here, bridged in the table."""
    from CoolProp.CoolProp import AbstractState, QT_INPUTS  # noqa: I001, PLC0415 - slow to load, needed here only

    state = AbstractState("HEOS", "R32&R1234yf")
    state.set_mass_fractions([0.689, 0.311])
    table, worst, tried = refrigerant("R-454B"), 0.0, 0
    for t in np.arange(-19.5, 150, 8.1):
        for quality, side in ((0, "bubble"), (1, "dew")):
            try:
                state.update(QT_INPUTS, quality, (t + KELVIN) / 1.8)
            except ValueError:
                continue
            tried += 1
            worst = max(worst, abs(float(table.temperature_f(state.p() / 6894.757, side)) - t))
    assert tried > 30
    record("saturation temperature, R-454B", "CoolProp, -20 to 150 °F", worst, 0.05, "°F")


@pytest.mark.parametrize("name", PURE)
def test_vapor_differences_are_good_enough_for_a_cycle(name):
    """Source: CoolProp 8, between grid points: enthalpy differences of superheated vapor over dew vapor."""
    table, worst = refrigerant(name), 0.0
    for dew in (5.0, 33.0, 47.0, 95.0, 117.0):
        p = coolprop("P", PURE[name], dew, 1)
        h0 = coolprop("H", PURE[name], dew, 1)
        for superheat in (6.0, 14.0, 35.0, 70.0):
            h = PropsSI("H", "T", (dew + superheat + KELVIN) / 1.8, "P", p, PURE[name])
            ours = table.superheated("enthalpy_btulb", dew, superheat) - table.superheated("enthalpy_btulb", dew, 0.0)
            worst = max(worst, abs(float(ours) - (h - h0) / 2326))
    record(f"superheated vapor enthalpy over dew, {name}", "CoolProp", worst, 0.25, "BTU/lb")


def test_tables_name_their_source_and_what_was_bridged():
    for name in REFRIGERANTS:
        table = refrigerant(name)
        assert np.all(np.diff(table.saturation["dew_psia"]) > 0) and np.all(
            table.saturation["bubble_psia"] >= table.saturation["dew_psia"] - 0.2
        )
        assert np.isnan(table.superheated("enthalpy_btulb", 45.0, 400.0)) and np.isnan(
            table.temperature_f(2000.0, "dew")
        )
    with pytest.raises(EngineError, match="R-999"):
        refrigerant("R-999")


def test_saturation_by_gauge_at_sea_level():
    """R-410A: 118 psig is 40 °F and 418 psig is 120 °F at sea level (pressure charts, common practice, no single
    source).
    """
    assert saturation_temperature_at("R-410A", 118.0, SEA_LEVEL, "dew") == pytest.approx(40.0, abs=0.5)
    assert saturation_temperature_at("R-410A", 418.0, SEA_LEVEL, "bubble") == pytest.approx(120.0, abs=0.7)
    assert saturation_temperature_at("R-22", 68.5, SEA_LEVEL, "dew") == pytest.approx(40.0, abs=0.3)


def test_a_gauge_reads_differently_in_the_mountains():
    """At 6,200 ft the air weighs 3 psi less: the same gauge pressure is a lower absolute one, by about a degree on the
    low side.
    """
    low, high = (
        saturation_temperature_at("R-22", 68.5, float(pressure_psia(altitude)), "dew") for altitude in (6200.0, 0.0)
    )
    assert 1.0 < high - low < 3.0
    with pytest.raises(OutOfRange, match="psig"):
        saturation_temperature_at("R-22", 5000.0, SEA_LEVEL, "dew")


def test_glide_counts_on_blends():
    table = refrigerant("R-407C")
    p = float(table.pressure_psia(45.0, "dew"))
    assert 7.0 < 45.0 - float(table.temperature_f(p, "bubble")) < 12.0, "R-407C glides about 10 °F"


def test_orifice_target_follows_the_formula_and_stops_below_five():
    """Source: common practice, no single source: (3 x return wet bulb - 80 - outdoor) / 2."""
    assert lines.orifice_target_superheat_f(63.0, 85.0) == pytest.approx(12.0)
    assert lines.orifice_target_superheat_f(58.0, 95.0) is None
    with pytest.raises(EngineError, match="50 to 76"):
        lines.orifice_target_superheat_f(80.0, 85.0)


def test_condensing_over_ambient_by_class_and_load():
    """Source: common practice, no single source: class mid 20 °F, growing with load; target 10 °F where the plate is
    silent.
    """
    assert lines.condensing_over_ambient_f("mid") == 20.0 and lines.condensing_over_ambient_f(
        "mid", 1.2
    ) == pytest.approx(24.0)
    held, stand_in = lines.target_subcooling(8.0), lines.target_subcooling(None)
    assert (held.value_f, held.of_plate, stand_in.value_f, stand_in.of_plate) == (8.0, True, 10.0, False)
    assert held.spread_f < stand_in.spread_f < lines.target_subcooling(8.0, held=False, outdoor_f=80.0).spread_f
    assert [lines.class_of(seer) for seer in (8.0, 11.0, 14.0, 18.0)] == ["old", "low", "mid", "high"]
    with pytest.raises(EngineError, match="unknown"):
        lines.condensing_over_ambient_f("nice")


# Elastomeric foam: the most that ASTM C534 allows at 75 °F; still air around it, radiation included: ASHRAE Handbook -
# Fundamentals, insulation of pipes (both from memory).
FOAM_BTUIN_HFT2F, STILL_AIR_BTUH_FT2F = 0.28, 1.65
VAPOR_F, BOILS_AT_F, LIQUID_F = 52.0, 45.0, 98.0


def line_rise_f(feet, foam_in, around_f, tons, tube_in):
    """What R-410A vapor takes up along a line [°F]: conduction through a cylinder (Fourier), over what the vapor can
    carry (CoolProp).
    """
    r_tube_ft, r_out_ft = tube_in / 24, tube_in / 24 + foam_in / 12
    resistance = np.log(r_out_ft / r_tube_ft) / (FOAM_BTUIN_HFT2F / 12) + 1 / (STILL_AIR_BTUH_FT2F * r_out_ft)
    taken_up_btuh = 2 * np.pi * feet * (around_f - VAPOR_F) / resistance
    suction = coolprop("P", "R410A", BOILS_AT_F, 1)
    state = "T", (VAPOR_F + KELVIN) / 1.8, "P", suction, "R410A"
    per_pound_btulb = (PropsSI("H", *state) - coolprop("H", "R410A", LIQUID_F, 0)) / 2326.0
    return taken_up_btuh / (12000.0 * tons / per_pound_btulb * PropsSI("C", *state) / 4186.8)


@pytest.mark.parametrize(
    ("feet", "foam_in", "around_f", "tons", "tube_in"),
    [
        (15, 0.75, 85.0, 5.0, 0.875),
        (30, 0.5, 95.0, 3.0, 0.75),
        (40, 0.5, 110.0, 2.0, 0.75),  # half of it under the roof
        (60, 0.375, 115.0, 3.0, 0.875),
    ],
)
def test_an_insulated_suction_line_warms_by_what_is_called_usual(feet, foam_in, around_f, tons, tube_in):
    rise = line_rise_f(feet, foam_in, around_f, tons, tube_in)
    assert abs(rise - SUCTION_RISE_USUAL.value) < SUCTION_RISE_SPREAD.value
    assert line_rise_f(feet, 0.0, around_f, tons, tube_in) > 2 * rise  # bare, and dry: wet it takes up more
