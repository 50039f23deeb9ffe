"""The judgement in heating and of ground-source units: signs against the trade's table, sound machines, walks every
technician knows.
"""

from dataclasses import replace
from math import exp

import pytest

from engine.assessment import assess, table_of
from engine.diagnosis.causes import Setting, causes_in
from engine.diagnosis.verdict import CANNOT_TELL, CAUSE, GROUP, SOUND
from engine.readings.round import ORIFICE, TXV, Equipment, Reading, Round
from engine.report.advice_words import gauges_said
from engine.report.blind_spots import blind_spots
from engine.report.verdict_words import verdict_said
from engine.report.words import FAHRENHEIT
from engine.units import BTUH_PER_W
from plant.machine import Spec
from plant.places import Weather, faulty

HEATS = causes_in(Setting(mode="heating"))
# Common practice, no single source: (rise at this airflow, suction at the compressor, liquid over return, draw) by
# metering device; '+', '-' or '0'.
TRADE = {
    TXV: {
        "undercharge": ("0-", "0+", "+", "-"), "overcharge": ("0", "0", "-", "+"), "restriction": ("-", "+", "-", "0-"),
        "starving_valve": ("-", "+", "-", "0-"), "dirty_evaporator": ("0-", "0", "+", "+"), "outdoor_coil": ("-", "-", "0-", "0-"),
        "weak_compressor": ("-", "0+", "-", "-"), "heat_on": ("+", "0", "0", "0"),
    },
    ORIFICE: {
        "undercharge": ("-", "+", "0+", "-"), "restriction": ("-", "+", "-", "0-"), "overcharge": ("0", "0-", "0-", "0+"),
        "outdoor_coil": ("-", "-", "0-", "0-"),
    },
}  # fmt: skip
HARDLY = {"rise": 0.055, "true_suction": 1.1, "heat_approach": 2.1, "amps": 0.05}


OVER_RETURN_F = 30.0  # condensing over return air at 47 °F outdoors (common practice, no single source)


def as_read(signs):
    """The signs with the liquid line over return air as a technician reads it: the judgement holds it to the rise as
    measured, so that what condensing does with the rise comes on top.
    """
    levels = max(len(shifts) for shifts in signs.values())
    rise, flow, left = (signs.get(kind, (0.0,) * levels) for kind in ("rise", "airflow", "heat_approach"))
    strips = "rise" in signs and "subcooling" not in signs and min(rise) > 0  # no heat of the coil's
    with_rise = [0.0 if strips else OVER_RETURN_F * ((1 + r) * exp(-f) - 1) for r, f in zip(rise, flow, strict=True)]
    if strips:
        left = (0.0,) * levels  # it is the rise that is too high, not the line that is cold
    return signs | {"heat_approach": tuple(a + b for a, b in zip(left, with_rise, strict=True))}


@pytest.mark.parametrize(("device", "cause"), [(device, cause) for device in TRADE for cause in TRADE[device]])
def test_signs_in_heating_have_the_directions_the_trade_knows(device, cause):
    signs = as_read(HEATS[cause].signs_on(device, "psc"))
    for (kind, hardly), known in zip(HARDLY.items(), TRADE[device][cause], strict=True):
        shown = {"0" if abs(x) <= hardly else "+" if x > 0 else "-" for x in signs.get(kind, (0.0,))}
        assert shown & set(known) and not (shown - {"0"}) - set(known), (kind, signs.get(kind))


def read(run, weather, device="txv", **plate):
    """A simulated machine in heating, read without noise."""
    rows = [Reading("system", "running_time", 20.0)]
    for (place, quantity), value in run.values.items():
        if (
            place.startswith("gauge")
            or quantity == "power_factor"
            or (place, quantity) == ("compressor", "power")
            or place == "discharge_line"
        ):
            continue
        more = {"method": "flow_device"} if quantity == "airflow" else {}
        legs = (Reading(place, quantity, value, leg=leg) for leg in ("1", "2"))
        rows += legs if quantity in ("voltage", "current") else [Reading(place, quantity, value, **more)]
    equipment = Equipment(
        3.0, kind="heat_pump", metering_device=device, blower_motor="psc", unit="air_handler", **plate
    )
    return Round(
        equipment,
        weather.altitude_ft,
        tuple(rows),
        {"strip_heat": "off", "panels": "on", "outdoor_coil": "clear"},
        mode="heating",
    )


def cold(outside_f, **more):
    return Weather(70.0, 40.0, outside_f, 75.0, outside_f + 8.0, heating=True, **more)


@pytest.mark.parametrize("outside_f", [47.0, 35.0, 17.0])
@pytest.mark.parametrize("device", ["txv", "fixed_orifice"])
@pytest.mark.parametrize(("efficiency", "seer"), [("old", 9.0), ("mid", 14.0), ("high", 17.0)])
def test_sound_heat_pumps_are_not_called_faulty_in_any_weather(outside_f, device, efficiency, seer):
    weather = cold(outside_f, altitude_ft=6200.0 if outside_f == 35.0 else 0.0)
    run = faulty(Spec(kind="heat_pump", metering_device=device, efficiency=efficiency), {}, weather)
    found = assess(read(run, weather, device, seer=seer))
    assert found.verdict.state in (SOUND, CANNOT_TELL), found.diagnosis.ranked.by_cause


@pytest.mark.parametrize(
    ("fault", "severity", "seen", "group"),
    [
        ("blocked_filter", "moderate", {}, "low_airflow"),
        ("strips_on", "severe", {}, "heat_on"),
        ("dirty_condenser", "severe", {"condenser_coil": "matted"}, "outdoor_coil"),
        ("high_airflow", "severe", {}, "high_airflow"),
    ],
)  # fmt: skip
def test_faults_are_named_in_heating_and_kept_from_the_refrigerant(fault, severity, seen, group):
    weather = cold(40.0)
    found = read(faulty(Spec(kind="heat_pump"), {fault: severity}, weather), weather, seer=14.0)
    found = replace(found, observations={**found.observations, **seen})
    found = assess(found)
    assert found.verdict.state in (CAUSE, GROUP) and found.verdict.group == group, found.diagnosis.ranked.by_group
    assert found.diagnosis.gauges.decides == "off" and "Do not add refrigerant" in gauges_said(found)


def test_a_lost_charge_shows_against_the_machines_own_baseline():
    """What hides among sound heat pumps stands out against the machine's own number: a sharper answer, in the same
    weather or another.
    """
    spec = Spec(kind="heat_pump")
    sound = read(faulty(spec, {}, cold(44.0)), cold(44.0), seer=14.0)
    leaking = read(faulty(spec, {"undercharge": "severe"}, cold(36.0)), cold(36.0), seer=14.0)
    alone, against = assess(leaking), assess(leaking, table_of(sound))
    assert against.diagnosis.ranked.by_group["charge_low"] > max(alone.diagnosis.ranked.by_group["charge_low"], 0.5)
    assert any("until there is a baseline" in text for text in blind_spots(alone))


# -- ground source: what closes by hand ----------------------------------------------------------------------------------------------

WATTS = 2200.0
PER_GPM_F = 500.0  # BTU/h: 8.33 lb/gal x 60 min/h x 1 BTU/lb°F; water, common practice


def ground(mode="heating", gpm=9.0, moved=27000.0, air_share=1.0, water_off_f=0.0, cfm=1200.0):
    """A three-ton ground-source round whose heat closes: what the water moves and the power puts in is in the air.
    moved [BTU/h].
    """
    difference = moved / (gpm * PER_GPM_F)
    into_air = air_share * (moved + WATTS * BTUH_PER_W)
    # 70 °F, 0.006 lb/lb at sea level: 13.51 ft3/lb, 0.2427 BTU/lb°F (ASHRAE psychrometrics, by hand)
    rise = into_air / (cfm * 60.0 / 13.51 * 0.2427)
    rows = [
        ("system", "running_time", 20.0),
        ("return_unit", "dry_bulb", 70.0),
        ("supply_plenum", "dry_bulb", 70.0 + rise),
        ("water_in", "temperature", 50.0),
        ("water_out", "temperature", 50.0 + (difference if mode == "cooling" else -difference) + water_off_f),
        ("water_loop", "flow", gpm),
        ("compressor", "power", WATTS - 400.0),
        ("blower", "power", 400.0),
        ("return_plenum", "static_pressure", -0.17),
        ("filter", "pressure_drop", 0.07),
    ]
    readings = (
        *(Reading(*row) for row in rows),
        Reading("blower", "airflow", cfm, method="flow_device", plane="return"),
    )
    plate = Equipment(3.0, kind="ground_source", blower_motor="psc", unit="air_handler", loop_fluid="water")
    return Round(plate, 0.0, readings, {"strip_heat": "off", "panels": "on"}, mode=mode)


@pytest.mark.parametrize(
    ("given", "group"),
    [
        ({}, "healthy"),
        ({"gpm": 3.6, "moved": 24500.0}, "water_flow"),
        ({"moved": 14500.0}, "circuit"),
        ({"air_share": 1.4}, "heat_on"),
        ({"water_off_f": 3.2}, "probe"),
        ({"cfm": 780.0}, "low_airflow"),
    ],
)  # fmt: skip
def test_walks_of_a_ground_source_unit(given, group):
    found = assess(ground(**given))
    d, said = found.diagnosis, verdict_said(found, FAHRENHEIT)
    assert next(iter(d.ranked.by_group)) == group, d.ranked.by_group
    if not given:
        assert found.verdict.state == SOUND and found.table["closure"].residual.value == pytest.approx(0.0, abs=0.01)
        assert said.headline == "This system does what it should today."
    if group == "circuit" and found.verdict.group == "circuit":
        assert d.gauges.decides == "warranted"
    assert any("water side" in text for text in blind_spots(found))


def test_the_simulated_loop_closes_and_is_sound():
    """Rejection = what the air gave + electrical heat, less what the shell loses: the plant's balance, in cooling."""
    weather = Weather(77.0, 50.0, 85.0, water_f=65.0)
    run = faulty(Spec(kind="ground_source"), {}, weather)
    found = read(run, weather)
    found = replace(found, mode="cooling", equipment=replace(found.equipment, kind="ground_source", loop_fluid="water"))
    found = assess(found)
    assert found.verdict.state == SOUND and abs(found.table["closure"].residual.value) < 0.06


@pytest.mark.parametrize("mode", ["cooling", "heating"])
def test_a_fault_of_the_air_side_is_called_the_same_whatever_gives_the_heat(mode):
    of_air, of_water = (causes_in(Setting(mode=mode, source=source)) for source in ("air", "water"))
    ducts_and_air = (
        "blocked_filter",
        "dirty_evaporator",
        "tight_ducts",
        "low_blower",
        "high_airflow",
        "return_leak",
        "return_gain",
        "supply_gain",
    )
    for id_ in ducts_and_air:
        assert (of_air[id_].label, of_air[id_].why) == (of_water[id_].label, of_water[id_].why)
