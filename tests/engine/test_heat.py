"""Electrical, condenser, ledger, water side, heating: by hand, by closing the balance, against CoolProp."""

import pytest
from CoolProp.CoolProp import PropsSI
from hypothesis import given
from hypothesis import strategies as st

from engine.constants import COMPRESSOR_POWER_FACTOR, PISTON_SUPERHEAT, TXV_SUPERHEAT_AT_COIL
from engine.errors import EngineError, OutOfRange
from engine.expected.cooling import Machine
from engine.expected.heating import (
    HEATING_OVER_NOMINAL,
    HEATING_WATTS_OF_RATED,
    RatedHeating,
    expected_heating,
    mode_by_weather,
    out_of_range,
)
from engine.expected.lines import (
    EVAPORATING_BY_CLASS,
    HEATING_EVAPORATING_UNDER_F,
    OVER_AMBIENT_RULES,
    superheat_in_heating,
)
from engine.houserules.rules import DEFAULT, HouseRules
from engine.physics.air import moist
from engine.physics.air.moist import pressure_psia
from engine.physics.capacity.delivered import delivered_heating_btuh, fan_heat_btuh
from engine.physics.capacity.electrical import eer, power_w
from engine.physics.capacity.ledger import Entry, air_side_rejection_btuh, close_ledger, implied_condenser_cfm
from engine.physics.water.exchanger import Grid, flow_from_drop, published
from engine.physics.water.fluids import heat_factor
from engine.physics.water.rejection import loop_heat
from tests.engine.checks import record
from tests.engine.rounds import judge, round_, with_readings

DROPS = Grid(
    "GS-36",
    "GPM",
    (5.0, 7.0, 9.0),
    "entering water",
    (30.0, 50.0, 70.0, 90.0),
    ((1.5, 1.4, 1.3, 1.2), (2.9, 2.7, 2.5, 2.3), (4.6, 4.3, 4.0, 3.7)),
)
REJECTION = Grid(
    "GS-36",
    "entering water",
    (50.0, 70.0, 90.0),
    "GPM",
    (5.0, 7.0, 9.0),
    ((44000.0, 44800.0, 45200.0), (42000.0, 42900.0, 43400.0), (39500.0, 40500.0, 41000.0)),
)


def test_watts_by_leg():
    """By hand: two legs of 121 V to ground at 12.5 A and a measured power factor of 0.97."""
    found = power_w([121.0, 120.5], [12.5, 12.5], 0.97)
    assert found.watts == pytest.approx((121 + 120.5) * 12.5 * 0.97) and found.factor_measured
    assumed = power_w([121.0, 120.5], [12.5, 12.5])
    assert not assumed.factor_measured and assumed.u95_w / assumed.watts > 0.05
    with pytest.raises(OutOfRange, match="volts to ground"):
        power_w([400.0], [10.0])
    assert eer(34000.0, 3000.0) == pytest.approx(11.33, abs=0.01)


@pytest.mark.parametrize(
    ("read", "watts"),
    [
        ({"voltage": {"1": 121.0, "2": 120.0}, "current": {"1": 9.0, "2": 9.2}}, 121.0 * 9.0 + 120.0 * 9.2),
        ({"voltage": {"1": 121.0}, "current": {"1": 9.0}}, 2 * 121.0 * 9.0),
        ({"voltage": {"1": 121.0, "2": 119.0}, "current": {"2": 9.0}}, 240.0 * 9.0),
        ({"voltage": {"1": 241.0}, "current": {"1": 9.0}}, 241.0 * 9.0),  # leg to leg
        ({"current": {"1": 9.0}}, 240.0 * 9.0),
    ],
)
def test_one_leg_of_a_compressor_stands_for_both(read, watts):
    """What flows in one leg of a 240 V load flows back in the other (common practice)."""
    legs = [("compressor", q, value, leg) for q, by_leg in read.items() for leg, value in by_leg.items()]
    load = judge(with_readings(round_(), *legs))[0].measured.loads["compressor"]
    assert load.watts == pytest.approx(COMPRESSOR_POWER_FACTOR.value * watts)


@given(st.floats(1500, 4000), st.floats(70, 105), st.floats(8, 30), st.floats(0, 8000))
def test_condenser_airflow_and_rejection_are_each_others_inverse(cfm, entering, rise, altitude):
    air_psia = float(pressure_psia(altitude))
    heat = air_side_rejection_btuh(cfm, entering, entering + rise, air_psia)
    assert implied_condenser_cfm(heat, entering, entering + rise, air_psia) == pytest.approx(cfm)
    if altitude == 0:
        assert heat == pytest.approx(1.08 * cfm * rise, rel=0.12)


def ledger(**changed):
    """A ground-source ledger that balances: 35,000 from the air, 2,400 W, the rest to the loop."""
    values = {
        "air capacity": 35000.0,
        "power": 2400.0,
        "water flow": 9.0,
        "water difference": (35000 + 2400 * 3.412142) / (9 * 500.0),
        **changed,
    }
    accuracy = {"air capacity": 2500.0, "power": 130.0, "water flow": 0.45, "water difference": 0.3}
    units = {"air capacity": "BTU/h", "power": "W", "water flow": "GPM", "water difference": "°F"}
    entries = [Entry(name, value, accuracy[name], units[name]) for name, value in values.items()]
    return close_ledger(
        entries,
        lambda v: v["air capacity"],
        lambda v: v["power"] * 3.412142,
        lambda v: v["water flow"] * 500.0 * v["water difference"],
    )


def test_a_true_ledger_closes_and_a_false_reading_is_named():
    true = ledger()
    assert true.closes and abs(true.gap_btuh) < 1e-6 and not true.suspects
    wrong = ledger(**{"water difference": 7.9})
    assert not wrong.closes and wrong.gap_btuh > wrong.u95_btuh > 0
    moved = {suspect.name: suspect for suspect in wrong.suspects}
    true_difference = true.given_btuh / (9 * 500.0)
    assert moved["water difference"].closes_at == pytest.approx(true_difference, rel=1e-6)
    assert moved["water difference"].moved == pytest.approx((true_difference - 7.9) / 0.3, rel=1e-6)
    assert moved["water flow"].closes_at == pytest.approx(true.given_btuh / (500 * 7.9), rel=1e-6)
    assert "power" not in moved, "it would have to move by 17 times its uncertainty"
    assert [s.name for s in wrong.suspects] == ["air capacity", "water flow", "water difference"], "least moved first"


@pytest.mark.parametrize(("fluid", "share", "name"), [
    ("water", 0.0, "Water"), ("propylene_glycol", 0.22, "INCOMP::MPG[0.22]"), ("methanol", 0.18, "INCOMP::MMA[0.18]"),
])  # fmt: skip
def test_loop_fluids_against_coolprop(fluid, share, name):
    """Source: CoolProp 8, between the table's rows; the pocket factors 500 and 485 are common practice."""
    worst = 0.0
    for t in (38.0, 52.0, 71.0, 88.0):
        kelvin = (t + 459.67) / 1.8
        density, heat = PropsSI("D", "T", kelvin, "P", 2e5, name), PropsSI("C", "T", kelvin, "P", 2e5, name)
        theirs = 60 * density / 16.01846 / 7.480519 * heat / 4186.8
        worst = max(worst, abs(heat_factor(fluid, share, t) / theirs - 1))
    record(f"heat factor of {fluid}", "CoolProp", worst, 0.002, "share")
    pocket = 500.0 if fluid == "water" else 485.0
    assert heat_factor(fluid, share, 60.0) == pytest.approx(pocket, rel=0.02)


def test_water_flow_is_read_both_ways_and_only_from_the_units_own_table():
    """By hand: at 60 °F the rows are 1.35, 2.6 and 4.15 psi, so 3.375 psi is half way between 7 and 9 GPM."""
    found = flow_from_drop(DROPS, "gs-36", 3.375, 60.0)
    assert found.gpm == pytest.approx(8.0) and 0.4 < found.u95_gpm < 0.7
    assert flow_from_drop(DROPS, "GS-36", 3.375, 35.0).gpm < found.gpm, "cold water drops more"
    for model, drop, entering, words in (
        ("GS-48", 3.0, 60.0, "own table"),
        ("GS-36", 9.0, 60.0, "pressure drop"),
        ("GS-36", 3.0, 130.0, "entering water"),
    ):
        with pytest.raises(EngineError, match=words):
            flow_from_drop(DROPS, model, drop, entering)
    assert published(REJECTION, "GS-36", 60.0, 8.0) == (pytest.approx((44800 + 45200 + 42900 + 43400) / 4), 0.0)


def test_the_loops_heat_and_how_far_the_pocket_factor_is_off():
    heat = loop_heat(9.0, 0.5, 70.0, 79.6, "water", 0.0)
    assert heat.btuh == pytest.approx(9 * heat.factor * 9.6) and abs(heat.pocket_error_share) < 0.01
    with pytest.raises(OutOfRange, match="difference"):
        loop_heat(9.0, 0.5, 70.0, 70.1, "water", 0.0)


def heating(outdoor=47.0, return_f=70.0, cfm=1200.0, **rated):
    machine = Machine(3.0, "heat_pump", 0.75, 0.365)
    return expected_heating(
        machine, RatedHeating(**rated), return_f, 0.006, outdoor, cfm * 60 / 13.33, fan_heat_btuh(0.365 * cfm)
    )


def test_the_plates_rated_heating_is_met_at_both_its_points_and_narrows_the_doubt():
    plain, rated = heating(30.0), {"at_47_btuh": 33000.0, "at_17_btuh": 19000.0}
    for outdoor, btuh in ((47.0, 33000.0), (17.0, 19000.0)):
        assert float(heating(outdoor, **rated).total_btuh) == pytest.approx(btuh, rel=0.01), (
            "the curve is 0.6 % off its own rating"
        )
    one = heating(30.0, at_47_btuh=33000.0)
    assert float(heating(30.0, **rated).spread) < float(one.spread) < float(plain.spread)


def test_a_fixed_piston_floods_in_the_cold_and_a_txv_does_not():
    """A piston right at the rating's weather; the charging formula moves 1.5 °F for each °F of the air that feeds the
    coil; 5 to 12 °F behind a valve, 8 to 12 at the rating, where it holds what it does in cooling (common practice, no
    single source).
    """
    weather = (10.0, 25.0, 40.0, 47.0, 52.0)
    txv, piston, either = (
        [superheat_in_heating(device, t) for t in weather] for device in ("txv", "fixed_orifice", "unknown")
    )
    held, levels = [level for level, _ in txv], [level for level, _ in piston]
    assert all(5.0 <= level <= 12.0 for level in held) and held[3] >= 8.0
    assert held == sorted(held) and 0.0 < (held[4] - held[0]) / 42.0 < 0.15
    assert levels[:2] == [0.0, 0.0] and levels[3] == PISTON_SUPERHEAT.value and levels == sorted(levels)
    assert 1.0 <= (levels[4] - levels[3]) / 5.0 <= 1.5
    for (held, _), (fed, by_piston), (level, spread) in zip(txv, piston, either, strict=True):
        assert min(held, fed) <= level <= max(held, fed) and spread >= by_piston >= txv[0][1]
        assert level - spread <= min(held, fed) and level + spread >= max(held, fed), "whichever it is"


def test_heating_is_nominal_at_its_rating_point_and_falls_with_outdoor_temperature():
    """Source: NREL/TP-5500-56354 heating curves at 70 °F in and 47 °F out (ANSI/AHRI 210/240, MEM)."""
    record(
        "heating capacity at 70 / 47 °F",
        "nominal (curves normalized there)",
        abs(heating().total_btuh / 36000 - 1),
        0.01,
        "share",
    )
    falling = [float(heating(outdoor).total_btuh) for outdoor in (60, 47, 35, 17, 0)]
    assert falling == sorted(falling, reverse=True) and 0.5 < falling[3] / falling[1] < 0.72
    assert heating(cfm=900.0).rise_f > heating().rise_f > heating(outdoor=17.0).rise_f
    flow, w = 5401.0, 0.006
    rise = float(heating().rise_f)
    assert delivered_heating_btuh(flow, 70.0, 70.0 + rise, w) == pytest.approx(float(heating().total_btuh), rel=1e-3)
    assert moist.specific_heat_btulbf(w) == pytest.approx(0.2427, abs=1e-4)
    assert out_of_range(70.0, 80.0, 1.0)[0][:2] == ("outdoor temperature", 80.0) and out_of_range(70.0, 47.0, 1.0) == ()


FLUIDS = pytest.mark.parametrize("fluid", ["R410A", "R32", "R22"])
# class -> evaporating and condensing in cooling at 95 °F, in heating at 47 °F (common practice, no single source)
SATURATIONS = {
    "old": ((42.0, 125.0), (28.0, 106.0)), "low": ((44.0, 120.0), (30.0, 105.0)),
    "mid": ((46.0, 115.0), (31.5, 103.0)), "high": ((48.0, 111.0), (33.0, 102.0)),
}  # fmt: skip


def cycle(fluid, evaporating_f, condensing_f, superheat_f, subcooling_f):
    """(ideal work, heat taken up, heat given off at 70 % of the ideal) of what one volume drawn in does (CoolProp)."""
    low, high = (PropsSI("P", "T", (t + 459.67) / 1.8, "Q", 1, fluid) for t in (evaporating_f, condensing_f))
    drawn_in = ("T", (evaporating_f + superheat_f + 459.67) / 1.8, "P", low, fluid)
    density, entropy, enthalpy = (PropsSI(of, *drawn_in) for of in "DSH")
    work = PropsSI("H", "S", entropy, "P", high, fluid) - enthalpy
    bubble = PropsSI("T", "P", high, "Q", 0, fluid)
    liquid = PropsSI("H", "T", bubble - subcooling_f / 1.8, "P", high, fluid)
    return density * work, density * (enthalpy - liquid), density * (enthalpy + work / 0.7 - liquid)


@FLUIDS
@pytest.mark.parametrize("of_class", HEATING_WATTS_OF_RATED)
def test_what_a_compressor_draws_in_heating_at_47_over_cooling_at_its_rating(fluid, of_class):
    """Watts go with the density of what is drawn in times the ideal work on it, between a class's usual saturations."""
    superheat_f, condensing_f = TXV_SUPERHEAT_AT_COIL.value, 95.0 + getattr(DEFAULT, OVER_AMBIENT_RULES[of_class])
    cooling = cycle(fluid, 45.0 + EVAPORATING_BY_CLASS[of_class], condensing_f, superheat_f, 10.0)
    heating_at_47 = cycle(fluid, 47.0 - HEATING_EVAPORATING_UNDER_F[of_class], 104.0, superheat_f, 15.0)
    off = abs(heating_at_47[0] / cooling[0] - HEATING_WATTS_OF_RATED[of_class])
    record(f"{fluid}: watts in heating over cooling, class {of_class}", "ideal cycle, CoolProp", off, 0.03, "share")


@FLUIDS
def test_rated_heating_over_nominal_tons_lies_between_the_cycle_and_makers_plates(fluid):
    """The same compressor in both modes, with the blower's heat of AHRI 210/240 (365 W for 1,000 CFM); plates of makers
    are 0.9 to 1.15 (memory).
    """
    fan = 0.4 * 365.0 * 3.412 / 12_000.0  # 400 CFM a ton, over nominal
    by_cycle = {
        of: cycle(fluid, *heating_at, 8.0, 15.0)[2] / cycle(fluid, *cooling_at, 10.0, 10.0)[1] * (1 + fan) + fan
        for of, (cooling_at, heating_at) in SATURATIONS.items()
    }
    middle_of_plates = (0.9 + 1.15) / 2
    assert list(by_cycle.values()) == sorted(by_cycle.values(), reverse=True), by_cycle
    for of, found in by_cycle.items():
        assert middle_of_plates < HEATING_OVER_NOMINAL[of] < found < 1.25, (of, found)


@pytest.mark.parametrize(("outdoor", "heat_pump", "mode"), [
    (85, True, "cooling"), (65, False, "cooling"), (58, True, "neither"), (58, False, "neither"), (45, True, "heating"), (45, False, "neither"),
])  # fmt: skip
def test_the_weather_chooses_the_mode(outdoor, heat_pump, mode):
    assert mode_by_weather(outdoor, heat_pump, HouseRules()) == mode
