"""The signs of the causes against a machine that knows nothing of them: what a simulated fault moves each quantity by
is what the table says of it, as surely as the table says it.
"""

from dataclasses import replace
from itertools import product
from math import hypot
from random import Random

import pytest

from engine.assessment import table_of
from engine.diagnosis.by_rule import found_by_rule, not_of_the_return
from engine.diagnosis.causes import WATER_SOURCE, Setting, causes_in
from engine.diagnosis.likelihood import SIGN_DOUBT
from engine.quantities.residual import KINDS
from engine.readings.round import ORIFICE, TXV
from engine.report.bundle.reading import visit_of
from plant.faults import House
from plant.machine import METERING_DEVICES, Spec
from plant.places import Weather, faulty, run
from plant.plates import plate_of, water_plate
from plant.simulate import NOISE, round_read, with_gauges
from plant.sizing import machine

SUMMER, WINTER = Weather(78.0, 50.0, 92.0), Weather(70.0, 40.0, 36.0, 75.0, 36.0, heating=True)
LOOP, COLD_LOOP = Weather(78.0, 50.0, 91.0, water_f=72.0), Weather(70.0, 40.0, 35.0, heating=True, water_f=42.0)
KINDS_OF = {SUMMER: "air_conditioner", WINTER: "heat_pump", LOOP: "ground_source", COLD_LOOP: "ground_source"}
CAUSES = {  # fault of the plant -> cause
    **{same: same for same in (
        "blocked_filter", "dirty_evaporator", "tight_ducts", "high_airflow", "undercharge", "overcharge", "restriction",
        "starving_valve", "overfeeding", "dirty_condenser", "weak_condenser_fan", "non_condensables", "weak_compressor",
    )},
    "low_tap": "low_blower", "strips_on": "heat_on",
}  # fmt: skip
IN_HEATING = CAUSES | {"dirty_condenser": "outdoor_coil", "weak_condenser_fan": "outdoor_coil"}
BY_WATER = {
    **{same: same for same in (
        "blocked_filter", "dirty_evaporator", "tight_ducts", "high_airflow", "low_water_flow", "fouled_exchanger",
    )},
    **dict.fromkeys(("undercharge", "restriction", "starving_valve", "weak_compressor"), "circuit_short"),
    **dict.fromkeys(("overcharge", "non_condensables"), "high_side"), "low_tap": "low_blower", "strips_on": "heat_on",
}  # fmt: skip
# With hardly any air over the condenser the machine gives up: it subcools nothing, and a piston starves.
GIVES_UP = ("weak_condenser_fan", "severe")
CASES = [case for case in product(sorted(CAUSES), ("moderate", "severe")) if case != GIVES_UP]


class Still(Random):
    """Nothing is read wrong."""

    def gauss(self, mu=0.0, sigma=1.0):
        return mu


def moved(device, faults, weather):
    """Quantity -> its residual, of a machine with these faults by severity, read without noise."""
    spec = Spec(metering_device=device, kind=KINDS_OF[weather])
    table = table_read(spec, faulty(spec, faults, weather), weather)
    return {q.id: q.residual.value for q in table.quantities.values() if q.residual}


def table_read(spec, found, weather):
    """The table of a simulated machine, read without noise."""
    still = Still(0)
    plate = plate_of(still, spec, shifted=False)
    if spec.kind == "ground_source":
        plate |= water_plate(still, spec, weather.heating)
    read = round_read(still, found, dict.fromkeys(NOISE, 0.0), plate, heating=weather.heating)
    gauges = [] if spec.kind == "ground_source" else with_gauges(still, found)
    bundle = {
        "format": "ruddy-visit/1", "name": "still", "site": {"altitude": {"value": 0, "unit": "ft"}},
        "equipment": plate, "instruments": [{"id": "probe", "label": "Air probe"}],
        "rounds": [{"name": "first", **read, "readings": [*read["readings"], *gauges]}],
    }  # fmt: skip
    return table_of(visit_of(bundle).rounds[0][1])


@pytest.fixture(scope="module")
def sound():
    return {(device, at): moved(device, {}, at) for device, at in product(METERING_DEVICES, KINDS_OF)}


def shifts_of(device, fault, severity, weather, sound):
    found, at_rest = moved(device, {fault: severity}, weather), sound[device, weather]
    return {kind: found[kind] - at_rest[kind] for kind in found.keys() & at_rest.keys()}


def not_as_said(cause, device, shifts):
    """What moves otherwise than the signs of a cause say, in doubts of each sign, at the level where least does."""
    signs = cause.signs_on(device, "psc")

    def misses(level):
        said = {kind: signs[kind][level] if kind in signs else 0.0 for kind in shifts}
        return {k: (shifts[k] - said[k]) / hypot(SIGN_DOUBT * said[k], KINDS[k].floor) for k in shifts}

    nearest = min(map(misses, range(cause.levels)), key=lambda m: sum(miss**2 for miss in m.values()))
    return {kind: round(float(miss), 1) for kind, miss in nearest.items() if abs(miss) > 2.0}


@pytest.mark.parametrize("device", METERING_DEVICES)
@pytest.mark.parametrize(("fault", "severity"), CASES)
def test_a_fault_moves_what_its_signs_say_at_one_of_its_levels(fault, severity, device, sound):
    """Within twice what each sign is doubted by (95 %), all quantities at the same level."""
    shifts = shifts_of(device, fault, severity, SUMMER, sound)
    assert not_as_said(causes_in(Setting(device))[CAUSES[fault]], device, shifts) == {}


@pytest.mark.parametrize(("device", "kpa"), [(TXV, 700.0), (TXV, 1000.0), (ORIFICE, 600.0), (ORIFICE, 800.0)])
def test_a_spot_inside_the_outdoor_unit_leaves_its_line_colder_than_outdoors(device, kpa, sound):
    """As a restricted line, but before the clamp and the port."""
    spec = Spec(metering_device=device, kind="air_conditioner")
    table = table_read(spec, run(replace(machine(spec), restriction_kpa=kpa, restricted_outdoors=True), SUMMER), SUMMER)
    assert table["approach"].measured.value < -3.0  # °F
    at_rest = sound[device, SUMMER]
    shifts = {q.id: q.residual.value - at_rest[q.id] for q in table.quantities.values() if q.residual}
    assert not_as_said(causes_in(Setting(device))["restriction_outdoors"], device, shifts) == {}


# At half the airflow the published curve, carried on, has less heat than this plant, which condenses lower besides.
HALF_THE_AIR = ("blocked_filter", "tight_ducts", "low_tap", "dirty_evaporator")
OF_THE_CURVE = {"rise", "heat_condensing", "heat_approach"}
# With its indoor coil so covered the machine trips on its head.
TRIPS = ("dirty_evaporator", "severe")


@pytest.mark.parametrize("device", METERING_DEVICES)
@pytest.mark.parametrize(("fault", "severity"), [case for case in CASES if case != TRIPS])
def test_a_fault_moves_what_its_signs_say_in_heating(fault, severity, device, sound):
    shifts = shifts_of(device, fault, severity, WINTER, sound)
    other = not_as_said(causes_in(Setting(device, mode="heating"))[IN_HEATING[fault]], device, shifts)
    assert other.keys() <= (OF_THE_CURVE if fault in HALF_THE_AIR else set()), other


BY_LOOP = [(LOOP, *case) for case in product(sorted(BY_WATER), ("moderate", "severe"))]
BY_LOOP += [(COLD_LOOP, *case) for _, *case in BY_LOOP if tuple(case) != TRIPS]


@pytest.mark.parametrize(("weather", "fault", "severity"), BY_LOOP)
def test_a_fault_moves_what_its_signs_say_by_the_water(weather, fault, severity, sound):
    causes = causes_in(Setting(TXV, mode="heating" if weather.heating else "cooling", source=WATER_SOURCE))
    shifts = shifts_of(TXV, fault, severity, weather, sound)
    assert not_as_said(causes[BY_WATER[fault]], TXV, shifts) == {}


@pytest.mark.parametrize(("leak", "gain", "not_so"), [
    (0.2, 0.025, "return_gain"), (0.35, 0.1, "return_gain"), (0.0, 0.2, "return_leak"), (0.02, 0.3, "return_leak"),
])  # fmt: skip
def test_a_leak_and_a_hot_run_of_the_return_are_told_apart(leak, gain, not_so):
    """The simulated house mixes and warms its return air by itself."""
    spec = Spec(kind="air_conditioner")
    damp = Weather(78.0, 50.0, 92.0, 65.0)  # the attic has the water of the air outdoors: where that is damp it tells
    table = table_read(spec, run(machine(spec), damp, House(return_leak=leak, return_gain=gain)), damp)
    assert found_by_rule(table) == "return_duct" and not_of_the_return(table) == (not_so,)
