"""Every way to an airflow, statics, weighting: by hand, by round trip, and what each refuses."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from engine.errors import EngineError, OutOfRange
from engine.physics.air import moist
from engine.physics.airflow.blower_table import BlowerTable, blower_airflow
from engine.physics.airflow.drop_ratio import DropBaseline, drop_ratio, manometer_u95_inwc
from engine.physics.airflow.methods import AirflowEstimate
from engine.physics.airflow.statics import Statics, at_standard_inwc
from engine.physics.airflow.temperature_rise import electric_heat_rise, gas_heat_rise, gas_input_factor
from engine.physics.airflow.traverse import traverse
from engine.physics.airflow.weighting import weigh

TABLE = BlowerTable(
    "Maker A 36",
    {"high": ((0.1, 1400.0), (0.3, 1300.0), (0.5, 1200.0), (0.7, 1050.0)), "low": ((0.1, 1000.0), (0.5, 900.0))},
)
SEA = 13.33


def test_traverse_is_area_times_mean_velocity():
    found = traverse([480.0, 520.0, 500.0, 500.0, 510.0, 490.0, 500.0, 505.0, 495.0], 2.4)
    assert found.cfm == pytest.approx(1200.0) and found.plane == "supply" and not found.caveats
    assert 0.055 < found.u95_cfm / found.cfm < 0.07, "instrument 3 %, method 5 %, and the scatter of the points"
    grille = traverse([400.0, 600.0], 3.0, free_area=0.7, plane="return")
    assert grille.cfm == pytest.approx(1050.0) and len(grille.caveats) == 2 and grille.u95_cfm > 2 * found.u95_cfm


def test_blower_table_between_rows_beyond_its_end_and_at_altitude():
    assert blower_airflow(TABLE, "high", 0.4).cfm == pytest.approx(1250.0)
    beyond = blower_airflow(TABLE, "high", 0.75)
    assert (
        beyond.cfm == pytest.approx(1012.5)
        and beyond.u95_cfm > 0.1 * beyond.cfm
        and beyond.caveats[0][0] == "outside_table"
    )
    with pytest.raises(OutOfRange, match="static"):
        blower_airflow(TABLE, "high", 0.95)
    with pytest.raises(EngineError, match="tap 'medium'"):
        blower_airflow(TABLE, "medium", 0.4)
    # fan laws: the same volume makes less static in thin air, so the same static reading means less volume there
    assert blower_airflow(TABLE, "high", 0.4, SEA * 1.25).cfm == pytest.approx(blower_airflow(TABLE, "high", 0.5).cfm)
    constant = BlowerTable("Maker C 48", {"a": ((0.1, 1600.0), (0.8, 1600.0))}, motor="constant_airflow")
    assert ("constant_airflow", ()) in blower_airflow(constant, "a", 0.6).caveats


@pytest.mark.parametrize("points", [((0.1, 1400.0),), ((0.3, 1200.0), (0.1, 1400.0)), ((0.1, 1200.0), (0.3, 1300.0))])
def test_a_blower_table_that_cannot_be_is_refused(points):
    with pytest.raises(EngineError, match="rows"):
        BlowerTable("x", {"high": points})


@pytest.mark.parametrize("altitude", [0.0, 6200.0])
def test_temperature_rise_gives_back_the_airflow_that_made_it(altitude):
    """Round trip through the energy balance Q = m cp rise, at altitude."""
    w, t = 0.006, 70.0
    air_psia = float(moist.pressure_psia(altitude))
    volume = float(moist.specific_volume_ft3lb(t, w, air_psia))
    mass = 1200.0 * 60 / volume
    rise = 10500 * 3.412142 / (mass * (0.240 + 0.444 * w))
    found = electric_heat_rise(10000.0, 500.0, rise, t, w, air_psia)
    assert found.cfm == pytest.approx(1200.0, rel=1e-6) and found.plane == "return"
    heat = 80000 * gas_input_factor(altitude) * 0.8 + 500 * 3.412142
    rise = heat / (mass * (0.240 + 0.444 * w))
    assert gas_heat_rise(80000.0, 0.8, 500.0, rise, t, w, air_psia, altitude).cfm == pytest.approx(1200.0, rel=1e-6)


def test_gas_input_is_derated_and_the_pocket_form_agrees_at_sea_level():
    """Common practice, no single source: 4 % per 1,000 ft above 2,000 ft; CFM = Q / (1.08 rise) for standard air."""
    assert gas_input_factor(1150.0) == 1.0 and gas_input_factor(6200.0) == pytest.approx(0.832)
    assert electric_heat_rise(10000.0, 0.0, 26.3, 70.0, 0.0, 14.696).cfm == pytest.approx(
        10000 * 3.412 / (1.08 * 26.3), rel=0.01
    )
    with pytest.raises(OutOfRange):
        electric_heat_rise(10000.0, 0.0, 1.0, 70.0, 0.0, 14.696)


@given(st.floats(0.5, 1.4))
def test_drop_ratio_gives_back_the_flow_that_made_the_drop(ratio):
    base = DropBaseline(0.24, 1200.0, 84.0, 13.6, wet=True)
    found = drop_ratio("coil", 0.24 * ratio**1.8, base, 13.6, wet=True)
    assert found.cfm == pytest.approx(1200.0 * ratio, rel=1e-9) and found.u95_cfm >= 0.07 * found.cfm
    thin = drop_ratio("coil", 0.24 * ratio**1.8 / 1.25, base, 13.6 * 1.25, wet=True)
    assert thin.cfm == pytest.approx(found.cfm), "the same volume drops less in thin air"


def test_drop_ratio_refuses_wet_against_dry_and_signs():
    base = DropBaseline(0.24, 1200.0, 84.0, 13.6, wet=True)
    for part, drop, wet in (("coil", 0.2, False), ("coil", -0.2, True), ("wheel", 0.2, True)):
        with pytest.raises(EngineError):
            drop_ratio(part, drop, base, 13.6, wet)
    assert manometer_u95_inwc(0.5) == pytest.approx(0.01)


def test_weighting_prefers_the_sharper_and_names_disagreement():
    volumes = {"return": 13.8, "supply": 13.2, "standard": SEA}
    sharp, broad = (
        AirflowEstimate("flow_device", 1200.0, 84.0, "return"),
        AirflowEstimate("traverse", 1160.0, 150.0, "supply"),
    )
    guess = AirflowEstimate("nominal_guess", 800.0, 160.0, "return")
    found = weigh([sharp, broad, guess], volumes)
    assert found.weights["flow_device"] > 0.7 and "nominal_guess" not in found.weights and not found.disagreements
    assert found.u95_lbh < 60 * 84 / 13.8, "two independent methods know more than one"
    assert found.mass_flow_lbh == pytest.approx(1200 * 60 / 13.8, rel=0.02)
    apart = weigh([sharp, AirflowEstimate("blower_table", 900.0, 90.0, "supply")], volumes)
    assert (
        apart.disagreements[0][:2] == ("flow_device", "blower_table")
        and apart.disagreements[0][2] > 0.2
        and apart.u95_lbh > found.u95_lbh
    )
    assert weigh([guess], volumes).weights == {"nominal_guess": 1.0}


def test_what_is_external_depends_on_the_unit():
    """An air handler's coil is inside; with a furnace the cased coil is outside. Signs are dropped and the sides added."""
    read = Statics(-0.32, 0.30, filter_drop_inwc=0.18, coil_drop_inwc=0.34)
    handler, furnace = (read.shares(unit) for unit in ("air_handler", "furnace_with_cased_coil"))
    assert read.total_inwc == pytest.approx(0.62) and "coil" not in handler and "coil" in furnace
    assert furnace["filter"] == pytest.approx(0.29, abs=0.01)
    assert at_standard_inwc(0.44, SEA * 1.25) == pytest.approx(0.55), "0.44 in thin air is 0.55 of standard air"
    with pytest.raises(OutOfRange):
        Statics(9.0, 0.2)
