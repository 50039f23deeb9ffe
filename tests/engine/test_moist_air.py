"""Moist air against PsychroLib (same formulation), CoolProp (real gas), the standard atmosphere and handbook rows."""

import csv
from pathlib import Path

import numpy as np
import psychrolib
import pytest
from CoolProp.HumidAirProp import HAPropsSI
from hypothesis import given
from hypothesis import strategies as st

from engine.errors import EngineError, Impossible, OutOfRange
from engine.physics.air import moist
from engine.physics.air.process import apparatus
from engine.physics.air.state import state, states
from tests.engine.checks import record

psychrolib.SetUnitSystem(psychrolib.IP)
PUBLISHED = Path(__file__).parent.parent / "published"
ALTITUDES_FT = (-300, 0, 1150, 5000, 6200, 12000)
GRID = [(t, rh, alt) for t in np.arange(-20.0, 131.0, 7.5) for rh in (2, 15, 40, 65, 90, 100) for alt in ALTITUDES_FT]


def published(name):
    lines = [line for line in (PUBLISHED / name).read_text().splitlines() if not line.startswith("#")]
    return [{key: float(value) for key, value in row.items()} for row in csv.DictReader(lines)]


def test_agrees_with_psychrolib_over_the_whole_range():
    """Source: PsychroLib 2.5 (ASHRAE 2017, inch-pound). Near freezing the wet-bulb equations for water and ice overlap
    and either answer solves one of them, so wet bulbs between 30 and 34 °F are checked by solving back instead."""
    worst = dict.fromkeys(("humidity ratio", "specific volume", "enthalpy", "dew point", "wet bulb"), 0.0)
    for t, rh, altitude in GRID:
        p = psychrolib.GetStandardAtmPressure(altitude)
        w, wet, dew, _, h, v, _ = psychrolib.CalcPsychrometricsFromRelHum(t, rh / 100, p)
        ours = state(t, "rh", rh, altitude)
        found = {
            "humidity ratio": abs(ours.humidity_ratio / w - 1),
            "specific volume": abs(ours.specific_volume_ft3lb / v - 1),
            "enthalpy": abs(ours.enthalpy_btulb - h),
            "dew point": abs(ours.dew_point_f - dew),
            "wet bulb": abs(ours.wet_bulb_f - wet),
        }
        if 30 <= ours.wet_bulb_f <= 34:
            back = moist.humidity_ratio_from_wet_bulb(t, ours.wet_bulb_f, p)
            assert back == pytest.approx(w, rel=1e-6) or ours.wet_bulb_f == 32.0
            found["wet bulb"] = 0.0
        worst = {name: max(worst[name], found[name]) for name in worst}
    asked = {"humidity ratio": 1e-6, "specific volume": 1e-6, "enthalpy": 1e-4, "dew point": 1e-3, "wet bulb": 0.002}
    units = {
        "humidity ratio": "share",
        "specific volume": "share",
        "enthalpy": "BTU/lb",
        "dew point": "°F",
        "wet bulb": "°F",
    }
    for name, value in worst.items():
        record(name, "PsychroLib, -20 to 130 °F, 0 to 12,000 ft", value, asked[name], units[name])


@pytest.mark.parametrize("humidity", ["wet_bulb", "dew_point"])
def test_humidity_from_wet_bulb_and_dew_point_agrees_with_psychrolib(humidity):
    """Source: PsychroLib 2.5."""
    ask = {
        "wet_bulb": psychrolib.CalcPsychrometricsFromTWetBulb,
        "dew_point": psychrolib.CalcPsychrometricsFromTDewPoint,
    }
    for altitude in ALTITUDES_FT:
        for t, value in ((80.0, 67.0), (95.0, 75.0), (52.0, 51.0), (40.0, 36.0), (20.0, 17.0)):
            w = ask[humidity](t, value, psychrolib.GetStandardAtmPressure(altitude))[0]
            assert state(t, humidity, value, altitude).humidity_ratio == pytest.approx(w, rel=1e-6)


def test_agrees_with_coolprop_real_gas_within_what_the_ideal_gas_formulation_leaves_out():
    """Source: CoolProp 8 HAPropsSI (RP-1485 real gas). Its enthalpy is zero for dry air at 0 °C, ours at 0 °F:
    the datum differs by the enthalpy of dry air at 32 °F. Humidity ratio from RH differs by the enhancement factor."""
    datum = moist.enthalpy_btulb(32.0, 0.0)
    factors, enthalpy, everyday, edges, volume = [], 0.0, 0.0, 0.0, 0.0
    for t in (40.0, 55.0, 75.0, 95.0, 110.0):
        for rh in (15.0, 50.0, 90.0):
            for altitude in (0.0, 6200.0):
                ours = state(t, "rh", rh, altitude)
                kelvin, pascal = (t + 459.67) / 1.8, ours.pressure_psia * 6894.757
                given_w = ("T", kelvin, "P", pascal, "W", ours.humidity_ratio)
                enthalpy = max(enthalpy, abs(HAPropsSI("H", *given_w) / 2326 + datum - ours.enthalpy_btulb))
                # from RH, so that the enhancement factor is on both sides; in very dry, cold or hot air it does not
                # cancel
                wet = abs(HAPropsSI("B", "T", kelvin, "P", pascal, "R", rh / 100) * 1.8 - 459.67 - ours.wet_bulb_f)
                everyday, edges = (
                    (max(everyday, wet), edges) if rh >= 50 and 55 <= t <= 95 else (everyday, max(edges, wet))
                )
                volume = max(volume, abs(HAPropsSI("V", *given_w) * 16.01846 / ours.specific_volume_ft3lb - 1))
                factors.append(HAPropsSI("W", "T", kelvin, "P", pascal, "R", rh / 100) / ours.humidity_ratio)
    record("enthalpy", "CoolProp real gas, datum moved", enthalpy, 0.1, "BTU/lb")
    record("wet bulb from RH, 55 to 95 °F, 50 % and up", "CoolProp real gas", everyday, 0.01, "°F")
    record("wet bulb from RH, very dry, cold or hot", "CoolProp real gas", edges, 0.03, "°F")
    record("specific volume", "CoolProp real gas", volume, 1e-3, "share")
    record(
        "humidity ratio from RH (the enhancement factor left out)",
        "CoolProp real gas",
        max(factors) - 1,
        0.006,
        "share",
    )
    assert all(factor > 1.002 for factor in factors) and np.mean(factors) == pytest.approx(1.0045, abs=0.001)


def test_pressure_follows_the_standard_atmosphere():
    """Source: U.S. Standard Atmosphere 1976 (tests/published/atmosphere.csv)."""
    worst = max(
        abs(moist.pressure_psia(row["altitude_ft"]) / row["pressure_psia"] - 1) for row in published("atmosphere.csv")
    )
    record("pressure from altitude", "U.S. Standard Atmosphere 1976", worst, 5e-4, "share")


def test_saturated_rows_of_the_handbook():
    """Source: ASHRAE Handbook - Fundamentals, moist-air table, from memory (tests/published/saturated_air.csv)."""
    rows = [(row, state(row["dry_bulb_f"], "rh", 100.0)) for row in published("saturated_air.csv")]
    ratio = max(abs(ours.humidity_ratio / row["humidity_ratio"] - 1) for row, ours in rows)
    record("humidity ratio of saturated air", "ASHRAE moist-air table (from memory)", ratio, 6e-3, "share")
    heat = max(abs(ours.enthalpy_btulb - row["enthalpy_btulb"]) for row, ours in rows)
    record("enthalpy of saturated air", "ASHRAE moist-air table (from memory)", heat, 0.15, "BTU/lb")


def test_the_handbooks_worked_example():
    """Source: ASHRAE Handbook - Fundamentals, worked example, from memory (tests/published/worked_example.csv)."""
    (row,) = published("worked_example.csv")
    ours = state(row["dry_bulb_f"], "wet_bulb", row["wet_bulb_f"])
    assert ours.humidity_ratio == pytest.approx(row["humidity_ratio"], rel=0.01)
    assert ours.enthalpy_btulb == pytest.approx(row["enthalpy_btulb"], abs=0.1)
    assert ours.dew_point_f == pytest.approx(row["dew_point_f"], abs=0.5)
    assert ours.rh_pct == pytest.approx(row["rh_pct"], abs=0.5)
    assert ours.specific_volume_ft3lb == pytest.approx(row["specific_volume_ft3lb"], abs=0.02)


@given(st.floats(35, 120), st.floats(8, 100), st.floats(-300, 12000))
def test_wet_bulb_lies_between_dew_point_and_dry_bulb_and_solves_back(t, rh, altitude):
    air = state(t, "rh", rh, altitude)
    assert air.dew_point_f - 1e-6 <= air.wet_bulb_f <= t + 1e-6
    if air.wet_bulb_f > 32:
        assert state(t, "wet_bulb", min(air.wet_bulb_f, t), altitude).rh_pct == pytest.approx(rh, abs=1e-4)
    assert state(t, "dew_point", min(air.dew_point_f, t), altitude).rh_pct == pytest.approx(rh, abs=1e-4)


@given(st.floats(10, 100), st.floats(9, 14.7))
def test_temperature_of_saturated_air_is_found_from_its_enthalpy(t, p):
    h = moist.enthalpy_btulb(t, moist.saturation_humidity_ratio(t, p))
    # Ice and water meet with a tiny step.
    assert moist.saturation_temperature_from_enthalpy_f(h, p) == pytest.approx(t, abs=1e-5)


@pytest.mark.parametrize(
    ("arguments", "error", "words"),
    [
        ((131.0, "rh", 50.0, 0), OutOfRange, "dry bulb 131 °F is outside -20 to 130"),
        ((75.0, "rh", 101.0, 0), OutOfRange, "relative humidity 101 %"),
        ((75.0, "rh", 50.0, 13000), OutOfRange, "altitude 13000 ft"),
        ((float("nan"), "rh", 50.0, 0), OutOfRange, "dry bulb nan"),
        ((75.0, "wet_bulb", 76.0, 0), Impossible, "above dry bulb"),
        ((75.0, "wet_bulb", 30.0, 0), Impossible, "cannot be that dry"),
        ((75.0, "enthalpy", 30.0, 0), EngineError, "unknown"),
    ],
)
def test_what_cannot_be_is_an_error_naming_value_and_range(arguments, error, words):
    with pytest.raises(error, match=words):
        state(*arguments)


@given(t=st.floats(-10, 120), rh=st.floats(1, 100), altitude=st.sampled_from([0.0, 1150.0, 6200.0]))
def test_one_state_is_what_it_is_among_many(t, rh, altitude):
    """Plain numbers and arrays take different ways through the same equations, over ice too."""
    one, (many, good, _) = state(t, "rh", rh, altitude), states([t, 75.0], "rh", [rh, 50.0], altitude)
    assert good.all()
    assert vars(one) == pytest.approx({name: float(column[0]) for name, column in vars(many).items()}, rel=1e-7)


def test_one_bad_row_stops_no_other():
    found, good, reasons = states([75.0, 200.0, 80.0, 75.0], "wet_bulb", [62.0, 60.0, 90.0, 20.0], 1150.0)
    assert good.tolist() == [True, False, False, False]
    assert found.rh_pct[0] == pytest.approx(state(75.0, "wet_bulb", 62.0, 1150.0).rh_pct)
    assert np.isnan(found.rh_pct[1:]).all()
    assert "200" in reasons[1] and "above dry bulb" in reasons[2] and "too far below" in reasons[3] and not reasons[0]


def test_apparatus_dew_point_and_bypass_recover_a_constructed_mixture():
    """By construction: air mixed from 12 % return and 88 % saturated air at 48 °F leads back to both."""
    p = moist.pressure_psia(1150.0)
    t_in, w_in, t_adp, bypass = 78.0, 0.0105, 48.0, 0.12
    w_adp = moist.saturation_humidity_ratio(t_adp, p)
    w = bypass * w_in + (1 - bypass) * w_adp
    h = bypass * moist.enthalpy_btulb(t_in, w_in) + (1 - bypass) * moist.enthalpy_btulb(t_adp, w_adp)
    found = apparatus(t_in, w_in, moist.dry_bulb_from_enthalpy_f(h, w), w, p)
    assert (found.dew_point_f, found.bypass_factor) == pytest.approx((t_adp, bypass), abs=1e-6)


@pytest.mark.parametrize(
    ("leaving", "why"),
    [((55.0, 0.0105), 1), ((76.0, 0.0090), 2), ((float("nan"), 0.009), 3), ((52.0, 0.0110), 1)],
)
def test_apparatus_dew_point_says_clearly_that_there_is_none(leaving, why):
    found = apparatus(78.0, 0.0105, *leaving, 14.696)
    assert found.missing == why and np.isnan(found.dew_point_f) and np.isnan(found.bypass_factor)
