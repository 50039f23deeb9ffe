"""A heat pump's visit in winter, from the phone's entries to the report: none of cooling's rules of thumb is shown, the
coils have changed places, and one clamp round one lead is enough.
"""

import re

import pytest

from tests.web.conftest import plain, whole_sheet
from tests.web.test_report import report, said
from web.houses.models import System
from web.visits.models import Assessment

# Rules of thumb and places of cooling: class approach, evaporator difference, split bands, 65 °F into the compressor.
OF_COOLING = re.compile(
    r"evaporator\b|condenser\b|65 °F|return air over evaporating|by climate|flat, 18|class approach|"
    r"can dry|hot space|warms on its way"
)
READ = {
    ("outdoor", "dry_bulb"): "27", ("return_grille", "dry_bulb"): "70.4", ("return_unit", "dry_bulb"): "70",
    ("return_unit", "rh"): "34", ("supply_plenum", "dry_bulb"): "90.5", ("liquid_line_indoor", "temperature"): "92",
    ("true_suction", "temperature"): "16",
}  # fmt: skip
SOUND = {}
WORN = {"supply_plenum": "82", "true_suction": "17", "liquid_line_indoor": "85", "amps": "6.3"}
COLD_COIL = {"supply_plenum": "83", "true_suction": "2", "liquid_line_indoor": "86", "amps": "8.2"}


@pytest.fixture
def winter(device, ours):
    """A way to send a whole walk in heating behind a fixed piston, with what is read otherwise."""
    System.objects.filter(pk=ours.system.pk).update(kind="heat_pump", metering_device="fixed_orifice", seer=14)

    def read(amps="9.1", **otherwise):
        rows = {(place, q): otherwise.get(place, value) for (place, q), value in READ.items() if q != "rh"}
        rows[("return_unit", "rh")] = READ["return_unit", "rh"]
        items = [device.item(place, q, value, "pct" if q == "rh" else "degF") for (place, q), value in rows.items()]
        items += [
            device.item("system", "running_time", "20", "min"),
            device.item("blower", "airflow", "1190", "CFM", variant="flow_device", plane="return"),
            device.item("return_plenum", "static_pressure", "-0.18", "inwc"),
            device.item("supply_plenum", "static_pressure", "0.26", "inwc"),
            device.item("filter", "pressure_drop", "0.07", "inwc"),
            device.item("coil", "pressure_drop", "0.16", "inwc"),
            device.item("compressor", "current", amps, "A", variant="1"),
            device.item("compressor", "voltage", "120", "V", variant="1"),
        ]
        items += [device.seen(name, degree) for name, degree in (("mode", "heating"), ("strip_heat", "off"))]
        items += [device.seen("outdoor_coil", "clear"), device.seen("filter", "clean"), device.seen("panels", "on")]
        answers = device.send(*items)
        assert [answer for answer in answers if answer["status"] != "stored"] == []
        return Assessment.objects.newest_of([ours.round])[ours.round.pk]

    return read


@pytest.mark.parametrize("otherwise", [SOUND, WORN, COLD_COIL], ids=["sound", "worn", "cold coil"])
def test_nothing_of_cooling_is_said_anywhere_in_a_heating_visit(winter, signed_in, ours, otherwise):
    winter(**otherwise)
    for text in (plain(whole_sheet(signed_in, ours.visit)), said(report(signed_in, ours.visit))):
        found = OF_COOLING.search(text)
        assert found is None, text[max(found.start() - 80, 0) : found.end() + 80]
        assert "Rise" in text


def test_a_sound_piston_in_the_cold_is_called_sound_and_its_lines_are_expected_there(winter):
    found = winter()
    assert (found["mode"], found["verdict"]["state"]) == ("heating", "sound"), found["verdict"]["headline"]
    approach = found["quantities"]["heat_approach"]
    assert abs(approach["measured"]["value"] - 22.0) < 0.1
    assert 18.0 < approach["expected"]["value"] < 27.0, "little subcooling is left there: about condensing itself"


def test_one_clamp_round_one_lead_is_the_whole_draw(winter):
    draw = winter()["quantities"]["amps"]["measured"]["value"]
    assert draw == pytest.approx(2 * 120.0 * 9.1 * 0.95, rel=0.02)


def test_little_heat_is_not_called_sound_and_a_cold_suction_is_the_outdoor_side(winter):
    worn = winter(**WORN)
    assert worn["verdict"]["state"] != "sound" and "ise is low" in worn["verdict"]["headline"] + worn["verdict"]["says"]
    cold = winter(**COLD_COIL)
    assert cold["verdict"]["group"] in ("outdoor_coil", "cold_outdoors"), cold["verdict"]["headline"]
