"""A round of readings for tests: a sound three-ton machine unless said otherwise."""

from dataclasses import replace

from engine.assessment import assess
from engine.houserules.rules import HouseRules
from engine.readings.round import Equipment, Instrument, Reading, Round
from engine.report.verdict_words import verdict_said
from engine.report.words import FAHRENHEIT

PROBE = "probe"


def round_(
    return_f=76.4, return_rh=52.0, supply_f=55.2, supply_rh=91.0, outdoor_f=90.8, cfm=1200.0, method="flow_device",
    minutes=20.0, strips="off", coil="wet", altitude_ft=1150.0, supply_probe=PROBE, humidity="rh", plane=None, fan_w=None,
    climate="humid", rules=None,
    seen=None, **equipment,
) -> Round:  # fmt: skip
    """Values in the engine's units; None leaves a reading out."""
    given = (
        ("return_unit", "dry_bulb", return_f, PROBE),
        ("return_unit", humidity, return_rh, PROBE),
        ("supply_plenum", "dry_bulb", supply_f, supply_probe),
        ("supply_plenum", humidity, supply_rh, supply_probe),
        ("outdoor", "dry_bulb", outdoor_f, PROBE),
        ("system", "running_time", minutes, None),
        ("blower", "power", fan_w, None),
    )
    readings = [Reading(place, quantity, value, probe) for place, quantity, value, probe in given if value is not None]
    if cfm is not None:
        readings.append(Reading("blower", "airflow", cfm, None, method, plane))
    seen = {"strip_heat": strips, "coil": coil, **(seen or {})}
    return Round(
        equipment=Equipment(**{"nominal_tons": 3.0, "metering_device": "txv", **equipment}),
        altitude_ft=altitude_ft,
        readings=tuple(readings),
        observations={name: degree for name, degree in seen.items() if degree},
        instruments=(Instrument(PROBE), Instrument("other")),
        climate=climate,
        rules=rules or HouseRules(),
    )


def with_readings(found: Round, *rows) -> Round:
    """The round with more readings: (place, quantity, value) and a leg or point where it has one."""
    more = tuple(
        Reading(place, quantity, value, leg=rest[0] if rest else None) for place, quantity, value, *rest in rows
    )
    return replace(found, readings=(*found.readings, *more))


def walk(liquid=None, coil_line=None, **given) -> Round:
    """A sound walk, with lines where given: liquid line outdoors, suction line at the coil [°F]."""
    found = round_(**{"seer": 14.0, "target_subcooling_f": 10.0} | given)
    lines = (("liquid_line_outdoor", liquid), ("suction_line_indoor", coil_line))
    more = tuple(Reading(place, "temperature", value, "clamp") for place, value in lines if value is not None)
    return replace(found, readings=(*found.readings, *more))


def judge(found: Round, **more):
    """The assessment of a round, and its verdict in words."""
    assessed = assess(found, **more)
    return assessed, verdict_said(assessed, FAHRENHEIT)
