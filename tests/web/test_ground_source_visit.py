"""A ground-source unit's visit from the phone's entries to the report: the water is an answer by itself, and nothing is
said of an outdoor unit, its coil or its lines, which it does not have.
"""

import re

import pytest

from tests.web.conftest import plain, whole_sheet
from tests.web.test_report import report, said
from web.houses.models import System
from web.visits.models import Assessment

NOT_THERE = re.compile(r"[Oo]utdoor (coil|unit|fan)|over outdoor|class approach|[Cc]ondenser (coil|fan|air|dirty)")
WATER = {"cooling": ("58", "65.6"), "heating": ("44", "38.6")}
AIR = {"cooling": ("75.5", "57.0"), "heating": ("69.5", "92.0")}


@pytest.fixture
def loop(device, ours):
    """A way to send what was read of the water, and of the air, in a mode."""
    System.objects.filter(pk=ours.system.pk).update(kind="ground_source", seer=17, loop="closed")

    def read(mode, air=True, leaving=None, amps="8.2"):
        entering, usual = WATER[mode]
        items = [
            device.seen("mode", mode), device.seen("strip_heat", "off"),
            device.item("system", "running_time", "20", "min"), device.item("water_in", "temperature", entering),
            device.item("water_out", "temperature", leaving or usual), device.item("water_loop", "flow", "9", "GPM"),
            device.item("compressor", "current", amps, "A", variant="1"),
            device.item("compressor", "voltage", "121", "V", variant="1"),
        ]  # fmt: skip
        if air:
            returning, supply = AIR[mode]
            items += [
                device.item("return_unit", "dry_bulb", returning), device.item("return_unit", "rh", "45", "pct"),
                device.item("supply_plenum", "dry_bulb", supply), device.item("supply_plenum", "rh", "80", "pct"),
                device.item("blower", "airflow", "1180", "CFM", variant="flow_device", plane="return"),
            ]  # fmt: skip
        assert {answer["status"] for answer in device.send(*items)} == {"stored"}
        return Assessment.objects.newest_of([ours.round])[ours.round.pk]

    return read


@pytest.mark.parametrize("mode", WATER)
@pytest.mark.parametrize("air", [True, False], ids=["whole", "by the water alone"])
def test_nothing_is_said_of_an_outdoor_unit_that_is_not_there(loop, signed_in, ours, mode, air):
    loop(mode, air)
    for text in (plain(whole_sheet(signed_in, ours.visit)), said(report(signed_in, ours.visit))):
        found = NOT_THERE.search(text)
        assert found is None, text[max(found.start() - 80, 0) : found.end() + 80]
        assert "water" in text.lower()


@pytest.mark.parametrize(("mode", "leaving"), [("cooling", "61.5"), ("heating", "42.4")])
def test_water_that_moves_too_little_heat_is_never_called_sound(loop, mode, leaving):
    """Nine gallons a minute by four degrees, or by less than two, is half of what three tons move (energy balance)."""
    assert loop(mode, air=False)["verdict"]["state"] != "cause"
    found = loop(mode, air=False, leaving=leaving)
    assert found["verdict"]["state"] != "sound" and found["quantities"]["heat_moved"]["state"] == "out of range"


def test_the_whole_of_a_one_clamp_draw_is_in_what_the_water_carries(loop):
    """Heat of rejection = cooling in the air + electrical heat: with half of the draw it would not close."""
    found = loop("cooling")
    assert found["quantities"]["amps"]["measured"]["value"] == pytest.approx(2 * 121.0 * 8.2 * 0.95, rel=0.03)
    assert not [f for f in found["findings"] if f["id"] == "ledger_open"]


@pytest.mark.parametrize("mode", WATER)
def test_its_hoses_go_on_ports_in_the_cabinet_in_either_mode(loop, device, signed_in, ours, mode):
    """Common practice, no single source: the circuit and its ports are in one cabinet; no line runs to another unit."""
    loop(mode)
    device.send(device.item("gauge_suction", "pressure", "118", "psig"))
    text = plain(whole_sheet(signed_in, ours.visit))
    begins = text.index("Before a hose is connected")
    told = text[begins : text.index("Refrigerant freezes", begins)]
    assert "suction line at the compressor" in told
    assert not re.search(r"[Ll]arge (insulated )?line|[Ss]mall line|[Tt]rue suction|third port", told), told
