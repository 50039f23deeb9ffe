"""The discharge line: compression against CoolProp, what is expected of it, what it tells, and when it stops a machine."""

import pytest
from CoolProp.CoolProp import PropsSI

from engine.assessment import assess
from engine.diagnosis.causes import Setting, causes_in
from engine.diagnosis.verdict import SOUND, STOP_FIRST
from engine.errors import OutOfRange
from engine.physics.refrigerant.compression import (
    PER_CONDENSING_F,
    PER_EVAPORATING_F,
    PER_SUCTION_F,
    discharge_f,
)
from engine.readings.round import ORIFICE, TXV
from engine.report.quantity_words import sentence
from engine.report.words import FAHRENHEIT
from plant.simulate import bundle
from tests.engine.checks import record
from tests.engine.rounds import judge, walk, with_readings
from tests.engine.test_refrigerants import KELVIN, PURE

STATES = ((45.0, 57.0, 115.0), (50.0, 65.0, 100.0), (25.0, 33.0, 95.0), (38.0, 60.0, 128.0))


def by_coolprop(name, evaporating, suction, condensing, efficiency, shell_loss):
    def kelvin(t_f):
        return (t_f + KELVIN) / 1.8

    low, high = (PropsSI("P", "T", kelvin(t), "Q", 1, name) for t in (evaporating, condensing))
    h1, s1 = (PropsSI(what, "P", low, "T", kelvin(suction), name) for what in "HS")
    h2 = h1 + (PropsSI("H", "P", high, "S", s1, name) - h1) / efficiency * (1 - shell_loss)
    return PropsSI("T", "P", high, "H", h2, name) * 1.8 - KELVIN


@pytest.mark.parametrize("name", [name for name in PURE if name != "R-407C"])
def test_compression_against_coolprop(name):
    """The same first law on CoolProp's own equations; R-407C's pressures are of a glide, and CoolProp's of a blend."""
    worst = max(abs(discharge_f(name, *at, 0.7, 0.05) - by_coolprop(PURE[name], *at, 0.7, 0.05)) for at in STATES)
    record(f"discharge temperature, {name}", "CoolProp, first law, 4 states", worst, 0.5, "°F")


@pytest.mark.parametrize("name", ["R-22", "R-410A", "R-32", "R-454B"])
def test_what_moves_it_is_good_to_two_fifths(name):
    for at in STATES:
        for i, rate in enumerate((PER_EVAPORATING_F, PER_SUCTION_F, PER_CONDENSING_F)):
            up, down = (discharge_f(name, *(t + d * (i == j) for j, t in enumerate(at)), 0.7, 0.05) for d in (1, -1))
            assert (up - down) / 2 == pytest.approx(rate, rel=0.42), (at, i)
    assert discharge_f(name, *STATES[0], 0.6, 0.05) > discharge_f(name, *STATES[0], 0.7, 0.05), "a worn one runs hot"
    with pytest.raises(OutOfRange):
        discharge_f(name, 45.0, 57.0, 190.0, 0.7, 0.05)


# Hot where little vapor comes back or the head is high, cold where liquid comes back: engine physics and common
# practice, no single source. By severe level; a TXV holds its superheat against little air, an orifice floods.
@pytest.mark.parametrize(("device", "cause", "sign"), [
    (TXV, "restriction", +1), (TXV, "starving_valve", +1), (TXV, "undercharge", +1), (TXV, "dirty_condenser", +1),
    (TXV, "weak_compressor", +1), (TXV, "overfeeding", -1), (TXV, "blocked_filter", 0),
    (ORIFICE, "restriction", +1), (ORIFICE, "undercharge", +1), (ORIFICE, "overcharge", -1),
    (ORIFICE, "overfeeding", -1), (ORIFICE, "blocked_filter", -1),
])  # fmt: skip
def test_it_goes_the_way_the_trade_knows(device, cause, sign):
    severe = causes_in(Setting(device=device))[cause].signs_on(device, "psc")["discharge"][-1]
    assert severe * sign > 10 if sign else abs(severe) < 10


def test_its_doubt_does_not_cancel_where_its_parts_do():
    """A high head makes hot gas, and liquid that comes back cools it: of the sum nobody is sure."""
    gas = causes_in(Setting(device=ORIFICE))["non_condensables"]
    sign, size = (of(ORIFICE, "psc")["discharge"][-1] for of in (gas.signs_on, gas.sizes_on))
    assert abs(sign) < 0.6 * size
    assert gas.sizes_on(ORIFICE, "psc")["amps"] == gas.signs_on(ORIFICE, "psc")["amps"]


def with_discharge(line_f, coil_line=54.0, **given):
    plate = {"refrigerant": "R-410A"} | given
    return with_readings(walk(liquid=100.0, coil_line=coil_line, **plate), ("discharge_line", "temperature", line_f))


def test_a_sound_one_stays_sound_and_one_far_off_does_not():
    usual = assess(with_discharge(165.0)).table["discharge"].expected.value
    assert 140 < usual < 190, "R-410A on a warm day, as it is met (common practice, no single source)"
    sound, _ = judge(with_discharge(usual))
    assert sound.verdict.state == SOUND and "a sound compressor" in sentence(
        sound.table["discharge"], FAHRENHEIT, sound.table
    )
    alone, _ = judge(with_discharge(usual - 45.0))
    assert alone.verdict.cause == "discharge_clamp", "nothing else is off: a clamp open to the air"
    flooded = judge(with_discharge(usual - 25.0, coil_line=44.0))[0].diagnosis.ranked
    without = judge(walk(liquid=100.0, coil_line=44.0, refrigerant="R-410A"))[0].diagnosis.ranked
    assert flooded.by_cause["overfeeding"] > max(0.5, 1.5 * without.by_cause["overfeeding"]), "a second witness"


def test_nothing_is_expected_where_a_sound_machine_may_flood_or_nobody_knows_the_refrigerant():
    assert "discharge" not in assess(with_discharge(160.0, refrigerant="")).table.quantities
    hot_and_dry = {"metering_device": ORIFICE, "outdoor_f": 104.0, "return_rh": 35.0}
    assert "discharge" not in assess(with_discharge(160.0, **hot_and_dry)).table.quantities, "no target superheat"
    assert "discharge" in assess(with_discharge(160.0, metering_device=ORIFICE)).table.quantities


def test_a_line_so_hot_that_oil_breaks_down_stops_the_machine():
    hot, said = judge(with_discharge(236.0))
    assert hot.verdict.state == STOP_FIRST and "at 236.0 °F: over 225 °F" in said.says
    assert judge(with_discharge(225.5))[0].verdict.state != STOP_FIRST, "the margin counts"


def test_the_plant_reads_it_beside_the_same_other_readings():
    plain, more = bundle(7, 3), bundle(7, 3, discharge=True)
    assert more["rounds"][0]["readings"][:-1] == plain["rounds"][0]["readings"]
    assert more["rounds"][0]["readings"][-1]["place"] == "discharge_line"
