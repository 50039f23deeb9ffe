"""`python -m plant.simulate`: labelled, noisy, seeded visit bundles as JSON Lines, to practise on and to measure the
judgement with.

The label is the bundle's name: "seed 12: undercharge moderate, blocked_filter slight" or "seed 12: sound"; a plate that
names another size is part of the label. Every draw follows from --seed and the row's number alone. --shifted draws
machines that are not what they seem: other valves and fans, instruments with lasting offsets, nameplates that say
another size or metering device.
"""

import argparse
import json
import sys
from collections.abc import Sequence
from dataclasses import replace
from random import Random
from typing import Any

from engine.errors import EngineError
from plant.circuit import WIDEST
from plant.faults import FAULTS, SEVERITIES, House, faults_on, with_faults
from plant.machine import KINDS, METERING_DEVICES, Machine, Spec
from plant.places import Run, Weather, run, severe_amount
from plant.plates import GLYCOL_OVER_WATER, plate_of, rated_amps, rated_heating, water_plate
from plant.population import Population, as_made
from plant.sizing import CLASSES, machine

# 95 % of an instrument's reading error, by quantity: half lasting (the instrument's own), half from reading to reading
# (memory of makers' sheets)
NOISE = {
    "dry_bulb": 0.9,
    "temperature": 1.0,
    "rh": 3.0,
    "static_pressure": 0.008,
    "pressure_drop": 0.006,
    "airflow": 0.06,
    "voltage": 1.0,
    "current": 0.02,
    "power": 0.02,
    "flow": 0.03,
    "water_drop": 0.2,
}
SHARES = ("airflow", "current", "power", "flow")  # errors that are a share of the reading
WATER_REPEAT_F = 0.2  # one needle probe moved from port to port (memory)
UNITS = {
    "dry_bulb": "degF",
    "temperature": "degF",
    "rh": "pct",
    "static_pressure": "inwc",
    "pressure_drop": "inwc",
    "airflow": "CFM",
    "voltage": "V",
    "current": "A",
    "power": "W",
    "flow": "GPM",
    "water_drop": "psi",
}
# Of the instruments.
RANGES = {
    "dry_bulb": (-20.0, 130.0),
    "temperature": (-40.0, 300.0),
    "static_pressure": (-3.0, 3.0),
    "pressure_drop": (-3.0, 3.0),
    "water_drop": (0.1, 20.0),
}
DECIMALS = {
    "rh": 0,
    "airflow": 0,
    "voltage": 0,
    "power": 0,
    "static_pressure": 2,
    "pressure_drop": 2,
    "current": 1,
    "flow": 1,
}
NOT_READ = (
    ("gauge_suction", "pressure"),
    ("gauge_liquid", "pressure"),
    ("discharge_line", "temperature"),
    ("compressor", "power"),
    ("compressor", "power_factor"),
)
SHIFTED_SPREAD = 0.12
BARE_LINE_K = 4.5  # a suction line that takes up more is as good as bare (working figure: insulated ones take up 2)
TRIES = 8
NOT_WHEN_HEATING = ("reheat",)
FROST_UNDER_F, MOST_FROST = 40.0, 0.25  # °F outdoors; share of the outdoor coil's air


def main(arguments: list[str] | None = None) -> int:
    """The command line; 0, or 2 when it was called wrongly."""
    parser = argparse.ArgumentParser(
        prog="ruddy simulate", description="Labelled, noisy, seeded visit bundles as JSON Lines."
    )
    parser.add_argument("--count", type=int, default=20, help="how many (20)")
    parser.add_argument("--seed", type=int, default=1, help="the same seed gives the same bundles (1)")
    parser.add_argument("--kind", choices=KINDS, default="air_conditioner")
    parser.add_argument("--heating", action="store_true", help="a heat pump in heating weather")
    parser.add_argument(
        "--fault",
        action="append",
        choices=sorted(FAULTS),
        help="only this fault (may be given several times, all at once); none: any",
    )
    parser.add_argument("--severity", choices=list(SEVERITIES), help="of the faults; none: any")
    parser.add_argument(
        "--baseline", action="store_true", help="with a sealed round of the same machine sound, in other weather"
    )
    parser.add_argument("--gauges", action="store_true", help="with both refrigerant pressures")
    parser.add_argument("--discharge", action="store_true", help="with the discharge line")
    parser.add_argument(
        "--shifted", action="store_true", help="machines, instruments and nameplates that are not what they seem"
    )
    chosen = parser.parse_args(arguments)
    if chosen.count < 1:
        parser.error("--count: at least 1")
    kind = "heat_pump" if chosen.heating and chosen.kind == "air_conditioner" else chosen.kind
    for row in range(chosen.count):
        how = (chosen.shifted, chosen.baseline, chosen.heating, chosen.gauges)
        made = bundle(chosen.seed, row, kind, chosen.fault, chosen.severity, *how, discharge=chosen.discharge)
        print(json.dumps(made))
    return 0


def bundle(
    seed: int,
    row: int,
    kind: str = "air_conditioner",
    faults: Sequence[str] | None = None,
    severity: str | None = None,
    shifted: bool = False,
    baseline: bool = False,
    heating: bool = False,
    gauges: bool = False,
    population: Population | None = None,
    discharge: bool = False,
) -> dict[str, Any]:
    """One bundle. Where a draw has no steady state the next is drawn: a row is never made up. gauges, discharge: both
    pressures, or the discharge line, were read too; every other reading is the same without them. population: whose
    machines; any where left out.
    """
    for attempt in range(TRIES):
        random = Random(f"{seed}:{row}:{attempt}")
        try:
            machines = population.drawn(random) if population else None
            how = (kind, faults, severity, shifted, baseline, heating, machines)
            drawn, found = _drawn(random, f"seed {seed}.{row}", *how)
            if population and population.probe_off_f:
                _off(drawn["rounds"][0]["readings"], population.probe_off_f)
            if gauges:
                drawn["rounds"][0]["readings"] += with_gauges(Random(f"{seed}:{row}:gauges"), found)
            if discharge:
                drawn["rounds"][0]["readings"].append(_hot_line(Random(f"{seed}:{row}:discharge"), found))
            return drawn
        except EngineError as error:
            trouble = error
    raise trouble


def _drawn(
    random: Random,
    name: str,
    kind: str,
    faults: Sequence[str] | None,
    severity: str | None,
    shifted: bool,
    baseline: bool,
    heating: bool,
    machines: tuple[Spec, Machine, dict[str, Any]] | None,
) -> tuple[dict[str, Any], Run]:
    spec = (
        machines[0]
        if machines
        else Spec(
            random.choice((1.5, 2.0, 2.5, 3.0, 3.5, 4.0, 5.0)),
            random.choice(list(CLASSES)),
            random.choice(("R-22", "R-410A", "R-32", "R-454B")),
            random.choice(METERING_DEVICES),
            random.choice(("psc", "constant_torque", "constant_airflow")),
            random.choice(("air_handler", "furnace_with_cased_coil")),
            kind,
        )
    )
    weather = any_weather(random, heating)
    chosen = faults if faults is not None else _any_faults(random, kind, heating)
    amounts = {fault: severity or random.choice(list(SEVERITIES)) for fault in chosen}
    sound = machines[1] if machines else _true(random, name, spec, shifted)
    true, house = with_faults(sound, House(), {f: severe_amount(spec, f, s, heating) for f, s in amounts.items()})
    found = run(true, weather, house)
    plate = plate_of(random, spec, shifted)
    plate |= (
        machines[2]
        if machines
        else {"compressor_rla": rated_amps(Random(f"{name}: amps"), replace(spec, tons=plate["nominal_tons"]))}
    )
    if kind == "ground_source":
        plate |= water_plate(random, spec, heating)
    if kind == "heat_pump" and heating and Random(f"{name}: plate").random() < 1 / 2:
        plate |= rated_heating(spec)
    label = ", ".join(f"{fault} {severe}" for fault, severe in amounts.items()) or "sound"
    if plate["nominal_tons"] != spec.tons:
        label += f" (plate of {plate['nominal_tons']:g} tons on {spec.tons:g})"
    if true.line_gain_k > BARE_LINE_K and not heating and kind != "ground_source":
        label += " (bare suction line)"
    lasting = lasting_errors(random, shifted)
    then = (
        {"baseline": round_read(random, run(sound, another_weather(random, weather)), lasting, plate, heating)}
        if baseline
        else {}
    )
    visit = {
        **then,
        "format": "ruddy-visit/1",
        "name": f"{name}: {label}{' (shifted)' if shifted else ''}",
        "site": {"altitude": {"value": weather.altitude_ft, "unit": "ft"}, "climate": "humid"},
        "equipment": plate,
        "instruments": [
            {
                "id": "probe",
                "label": "Air probe",
                "dry_bulb_accuracy_f": NOISE["dry_bulb"],
                "rh_accuracy_pct": NOISE["rh"],
            }
        ],
        "rounds": [{"name": "first", **round_read(random, found, lasting, plate, heating)}],
    }
    return visit, found


def _off(readings: list[dict[str, Any]], outdoors_f: float) -> None:
    """An outdoor probe that reads too high."""
    for row in readings:
        if (row["place"], row["quantity"]) == ("outdoor", "dry_bulb"):
            row["value"] = round(row["value"] + outdoors_f, 1)


def any_weather(random: Random, heating: bool) -> Weather:
    if heating:
        outside_f = random.uniform(12, 49)
        return Weather(
            random.uniform(65, 73),
            random.uniform(28, 50),
            outside_f,
            random.uniform(50, 90),
            outside_f + random.uniform(3, 15),
            random.choice((0.0, 1150.0, 6200.0)),
            heating=True,
            water_f=28.0 + 32.0 * (outside_f - 12.0) / 37.0,
            frost=any_frost(outside_f),
        )
    return Weather(
        random.uniform(73, 81),
        random.uniform(40, 62),
        random.uniform(78, 104),
        random.uniform(25, 60),
        random.uniform(95, 130),
        random.choice((0.0, 1150.0, 6200.0)),
        water_f=random.uniform(50, 85),
    )


def any_frost(outside_f: float) -> float:
    """What frost keeps out of the outdoor coil's air somewhere between two defrosts: up to a quarter where it grows
    fastest, less in colder air, which holds little water, none over 40 °F (order of magnitude, memory).
    """
    if outside_f > FROST_UNDER_F:
        return 0.0
    most = MOST_FROST * min(1.0, 0.2 + 0.8 * (outside_f - 10.0) / 20.0)
    return Random(outside_f).uniform(0.0, max(most, 0.0))


def _any_faults(random: Random, kind: str, heating: bool) -> list[str]:
    """Three in ten sound, one in ten with two faults."""
    draw, known = random.random(), sorted(set(faults_on(kind, heating)) - set(NOT_WHEN_HEATING if heating else ()))
    return random.sample(known, 0 if draw < 0.3 else 2 if draw > 0.9 else 1)


def _true(random: Random, name: str, spec: Spec, shifted: bool) -> Machine:
    """The machine as it is there: as its maker builds it; shifted: its coils, valve and fan are not the model's
    besides.
    """
    m = as_made(machine(spec), Random(f"{name}: made"))
    if not shifted:
        return m

    def other() -> float:
        return 1.0 + random.uniform(-SHIFTED_SPREAD, SHIFTED_SPREAD)

    return replace(
        m,
        indoor=replace(
            m.indoor, air_side=m.indoor.air_side * other(), refrigerant_side=m.indoor.refrigerant_side * other()
        ),
        outdoor=replace(m.outdoor, air_side=m.outdoor.air_side * other()),
        outdoor_m3s=m.outdoor_m3s * other(),
        fan=replace(m.fan, shape=m.fan.shape * other()),
        valve=replace(m.valve, widest=WIDEST * other()),
        line_gain_k=m.line_gain_k * random.uniform(0.5, 2.0),
    )


def another_weather(random: Random, weather: Weather) -> Weather:
    """Other weather at the same house."""
    if weather.heating:
        inside_f, outside_f = random.uniform(65, 73), random.uniform(15, 49)
        return replace(weather, inside_f=inside_f, outside_f=outside_f, frost=any_frost(outside_f))
    return replace(
        weather, inside_f=random.uniform(73, 80), inside_rh=random.uniform(42, 60), outside_f=random.uniform(78, 100)
    )


def lasting_errors(random: Random, shifted: bool) -> dict[str, float]:
    """What a technician's instruments are off by, every time."""
    return {quantity: random.gauss(0, size / 2 * (1.0 if shifted else 0.5)) for quantity, size in NOISE.items()}


def round_read(
    random: Random, found: Run, lasting: dict[str, float], plate: dict[str, Any], heating: bool
) -> dict[str, Any]:
    left_out = (("water_loop", "flow"),) if "drop_table" in plate else (("water_loop", "water_drop"),)
    return {
        "mode": "heating" if heating else "cooling",
        "readings": _readings(random, found, lasting, (*NOT_READ, *left_out)),
        "observations": _seen(found),
    }


def _readings(
    random: Random, found: Run, lasting: dict[str, float], left_out: tuple[tuple[str, str], ...]
) -> list[dict[str, Any]]:
    rows = [{"place": "system", "quantity": "running_time", "value": 20, "unit": "min"}]
    for (place, quantity), value in found.values.items():
        if (place, quantity) in left_out:
            continue
        if (place, quantity) == ("water_loop", "flow"):
            value /= GLYCOL_OVER_WATER
        repeat = WATER_REPEAT_F if place in ("water_in", "water_out") else NOISE[quantity] * 0.7
        error = lasting[quantity] + random.gauss(0, repeat / 2)
        read = value * (1 + error) if quantity in SHARES else value + error
        read = min(max(read, 0.0), 100.0) if quantity == "rh" else read
        if quantity in RANGES and not RANGES[quantity][0] <= read <= RANGES[quantity][1]:
            continue  # the instrument shows nothing there
        row = {
            "place": place,
            "quantity": quantity,
            "value": round(read, DECIMALS.get(quantity, 1)),
            "unit": UNITS[quantity],
        }
        if (place, quantity) == ("blower", "airflow"):
            row |= {"method": "flow_device", "plane": "return"}
        if quantity in ("dry_bulb", "rh"):
            row["instrument"] = "probe"
        if quantity in ("voltage", "current"):
            rows.append(row | {"leg": "1"})
            row = row | {"leg": "2"}
        rows.append(row)
    return rows


GAUGES = ("gauge_suction", "gauge_liquid")
GAUGE_SHARE, GAUGE_FLOOR_PSI = 0.01, 0.5  # 95 % of a digital gauge: a share of the reading, and under it (memory)


def with_gauges(random: Random, found: Run) -> list[dict[str, Any]]:
    """Both pressures, as a digital gauge shows them."""
    rows = []
    for place in GAUGES:
        psig = found.values[place, "pressure"]
        read = psig + random.gauss(0, (GAUGE_SHARE * abs(psig) + GAUGE_FLOOR_PSI) / 2)
        rows.append({"place": place, "quantity": "pressure", "value": round(read, 1), "unit": "psi"})
    return rows


def _hot_line(random: Random, found: Run) -> dict[str, Any]:
    """The discharge line as a clamp shows it: under the vapor in it, by how well it is covered (working figures)."""
    under_f = abs(random.gauss(3.0, 2.5))
    read = round(found.values["discharge_line", "temperature"] - under_f, 1)
    return {"place": "discharge_line", "quantity": "temperature", "value": read, "unit": "degF"}


def _seen(found: Run) -> dict[str, str]:
    return {"strip_heat": "off", "panels": "on", "coil": "wet" if found.state.dried_w > 1e-6 else "dry"}


if __name__ == "__main__":
    sys.exit(main())
