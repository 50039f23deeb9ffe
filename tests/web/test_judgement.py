"""The judgement on the sheet: decision on top, causes with evidence, next step last; kept, steady, and the same in the
record and on the page.
"""

import re

import pytest
from django.urls import reverse

from tests.web.conftest import words
from web.visits.models import Assessment

LINES = {
    "liquid_line_outdoor.temperature": "124",
    "suction_line_indoor.temperature": "52",
    "see.condenser_coil": "matted",
}


def order_of(text, *parts):
    places = [text.find(part) for part in parts]
    assert -1 not in places, [part for part, at in zip(parts, places, strict=True) if at == -1]
    return places == sorted(places)


def test_decision_on_top_causes_beneath_next_step_last(preview):
    said = words(preview(**LINES))
    assert order_of(
        said,
        "The condenser is matted.",
        "Gauges: off.",
        "What it may be",
        "% Condenser dirty",
        "Not seen without gauges",
    )
    assert order_of(said, "What speaks for it, and what against", "For Approach is high", "For Condenser coil: matted.")
    assert "Do not add refrigerant on these readings." in said and "33.2 ± 1.3 °F" in said


def test_the_record_says_what_the_page_says_and_names_what_would_split_the_group(device, ours, preview):
    items = device.whole_visit()
    flow = next(item for item in items if item["quantity"] == "airflow")
    less = device.item("blower", "airflow", "780", "CFM", variant="flow_device", plane="return", supersedes=flow["id"])
    assert device.send(less)[0]["status"] == "stored"
    stored = Assessment.objects.filter(round=ours.round).latest("id")
    judgement = stored.result
    assert judgement["verdict"]["state"] == "group" and judgement["verdict"]["group"] == "low_airflow"
    assert judgement["split_by"]["step"] in ("filter", "filter_drop", "coil_drop", "evaporator_face", "statics")
    page = words(device.client.get(reverse("visits:sheet", args=[ours.visit.public_id])))
    assert stored.headline in page and judgement["split_by"]["label"].lower() in page.lower()
    shown = [int(n) for n in re.findall(r"(\d+) % [A-Z]", page)]
    assert shown and abs(shown[0] - 100 * judgement["causes"][0]["probability"]) <= 1


def test_low_airflow_keeps_the_circuit_closed_whatever_the_lines_say(preview):
    said = words(preview(**{"blower.airflow@flow_device": "820", "supply_plenum.dry_bulb": "51.5"}, **LINES))
    assert "Do not add refrigerant" in said and "Gauges: off." in said


def test_where_no_work_follows_yet_the_station_says_so_beside_the_next_step(preview):
    """Low on charge is not mended before the leak is found: nothing to press, and not nothing to do."""
    starved = {
        "liquid_line_outdoor.temperature": "108",
        "suction_line_outdoor.temperature": "72",
        "supply_plenum.dry_bulb": "63",
        "supply_plenum.rh": "70",
    }
    said = words(preview(station="fix", **starved))
    assert "No work follows from the findings so far." in said and "Superheat and subcooling by gauge" in said
    asked = words(preview(station="fix", **LINES))
    assert "What the findings ask for" in asked and "No work follows" not in asked


def test_ice_is_said_first_and_no_verdict_is_given_through_it(preview):
    said = words(preview(**{"see.ice": "coil"}, **LINES))
    assert order_of(said, "Stop the compressor.", "There is ice on the coil.", "Next", "thaw it fully")
    assert "What it may be" not in said, "nothing else until it is done"


IN_HEATING = {
    "see.mode": "heating", "outdoor.dry_bulb": "38", "return_unit.dry_bulb": "69", "supply_plenum.dry_bulb": "93",
    "see.outdoor_coil": "clear",
    "liquid_line_indoor.temperature": "82",
}  # fmt: skip
LOOP = {
    "water_in.temperature": "60",
    "water_out.temperature": "69.5",
    "water_loop.flow": "9",
    "compressor.power": "1700",
}


@pytest.mark.parametrize(
    ("kind", "given", "says"),
    [("heat_pump", IN_HEATING, "until there is a baseline"), ("ground_source", LOOP, "look alike from the water side")],
)
def test_heating_and_ground_source_are_judged_too_and_say_what_they_cannot_see(
    preview, device, ours, kind, given, says
):
    ours.system.kind = kind
    ours.system.save()
    device.send(device.seen("mode", given.get("see.mode", "cooling")))
    said = words(preview(**given))
    assert "What it may be" in said and says in said and "Nothing to compare with" not in said


def test_a_reading_that_wavers_does_not_make_the_record_waver(device, ours):
    """What was said stays while it nearly holds: the next result knows the one before."""
    device.whole_visit()
    states = []
    for value in ("108.6", "108.2", "108.6", "108.2"):
        device.send(device.item("liquid_line_outdoor", "temperature", value))
        states.append(Assessment.objects.filter(round=ours.round).latest("id").result)
    orders = [[c["cause"] for c in s["causes"]] for s in states]
    assert (
        orders[1] == orders[2] == orders[3]
        and states[1]["verdict"]["state"] == states[2]["verdict"]["state"] == states[3]["verdict"]["state"]
    )
