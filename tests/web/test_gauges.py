"""Gauges at a visit: the station appears when they are warranted or opened, what happened is kept once, a charge goes
in by weighed steps, and nobody else's.
"""

import re
import uuid

import pytest
from django.urls import reverse

from engine.physics.refrigerant.properties import refrigerant
from tests.web.conftest import plain, whole_sheet, words
from web.probes.models import Probe
from web.probes.services import add_gateway
from web.visits import changes
from web.visits.load.material import material_of
from web.visits.models import Assessment, ChargeStep, HookUp, Round

AIR_PSIA = 14.1  # at 1,150 ft
CHECKED = {"check.refrigerant": "done", "check.zeroed": "done"}


def psig(saturation_f, side):
    return f"{float(refrigerant('R-410A').pressure_psia(saturation_f, side)) - AIR_PSIA:.1f}"


@pytest.fixture
def low(device, ours):
    """Our machine as walked, low on charge by its lines: airflow and coils proved."""
    ours.system.seer, ours.system.target_subcooling_f, ours.system.factory_charge_oz = 14, 10.0, 100.0
    ours.system.save()
    device.whole_visit()
    looks = {"filter": "clean", "evaporator_face": "clean", "condenser_coil": "dry"}
    lines = {"liquid_line_outdoor": "106.5", "suction_line_outdoor": "66"}
    device.send(
        *(device.seen(name, degree) for name, degree in looks.items()),
        *(device.item(place, "temperature", value) for place, value in lines.items()),
        device.item("supply_plenum", "dry_bulb", "60.5"),
        device.item("supply_plenum", "rh", "83", "pct"),
    )
    return device


@pytest.fixture
def keep(device):
    """Sends a hook-up or a step as the outbox does; answers its status and message."""

    def sent(kind, id_=None, **says):
        more = {"id": id_} if id_ else {}
        [answer] = device.send(device.entry(kind, says={key.replace("__", "."): v for key, v in says.items()}, **more))
        return answer["status"], answer["message"]

    return sent


def sheet(client, visit):
    return client.get(visit.get_absolute_url())


def stations(page):
    return re.findall(r'data-station-to="(\w+)"', page.content.decode())


def pressures(device, evaporating=40.0, condensing=107.0, **more):
    device.send(
        device.item("gauge_suction", "pressure", psig(evaporating, "dew"), "psi", **more),
        device.item("gauge_liquid", "pressure", psig(condensing, "bubble"), "psi", **more),
    )


def test_the_station_is_there_when_gauges_are_warranted_or_opened_with_a_reason(signed_in, ours, keep):
    assert "gauges" not in stations(sheet(signed_in, ours.visit))
    assert keep("hook_up", did="opened") == ("refused", "Say why they are connected.")
    assert keep("hook_up", did="opened", why="Maker asks for pressures")[0] == "stored"
    page = sheet(signed_in, ours.visit)
    assert "gauges" in stations(page) and "Maker asks for pressures" in words(page)


def test_low_on_charge_by_the_lines_opens_it_and_its_ports_and_checks_come_first(signed_in, ours, low):
    page = sheet(signed_in, ours.visit)
    assert "gauges" in stations(page)
    said = words(page)
    assert "Low side, large line" in said and "No certificate of yours is on record" in said
    assert "A2L" not in said.split("Before a hose is connected")[1].split("Gauges are connected")[0]


def test_in_heating_the_large_line_is_crossed_out(signed_in, ours, device, keep):
    ours.system.kind, ours.system.refrigerant = "heat_pump", "R-454B"
    ours.system.save()
    device.send(device.seen("mode", "heating"))
    keep("hook_up", did="opened", why="x")
    page = sheet(signed_in, ours.visit)
    assert "no hose here" in page.content.decode() and "Never the large line" in words(page)
    assert "rated for A2L" in words(page)


def test_what_happened_is_kept_once_with_who_and_under_which_certificate(signed_in, ours, keep):
    ours.person.certificate = "RC-9"
    ours.person.save()
    number = str(uuid.uuid4())
    assert keep("hook_up", did="on", why="x")[1] == "Say which port the hoses are on."
    on = {
        "did": "on",
        "port__low": "on",
        "port__high": "on",
        "why": "x",
        **{k.replace(".", "__"): v for k, v in CHECKED.items()},
    }
    assert [keep("hook_up", id_=number, **on)[0] for _ in range(2)] == ["stored", "duplicate"]
    row = HookUp.objects.get()
    assert (row.certificate, row.ports, row.checks, row.person) == (
        "RC-9",
        "low,high",
        ["refrigerant", "zeroed"],
        ours.person,
    )
    assert "Gauges off" in words(sheet(signed_in, ours.visit))
    assert keep("hook_up", did="off", lost="much")[0] == "refused"
    assert keep("hook_up", did="off", lost="0.5", hose_returned="yes")[0] == "stored"
    assert "hose charge returned, 0.5 oz lost, caps not on" in words(sheet(signed_in, ours.visit))


def test_pressures_decide_again_and_the_verdict_without_them_is_kept(signed_in, ours, low):
    without = Assessment.objects.order_by("-id").first()
    pressures(low)
    row = Assessment.objects.order_by("-id").first()
    assert row.result["without_gauges"]["headline"] == without.headline and "without_gauges" not in without.result
    page = plain(whole_sheet(signed_in, ours.visit))
    assert "Verdict, with gauges" in page and "Subcooling" in page and "Compression ratio" in page
    assert re.search(r"Low side [\d.]+ psi, evaporates at 40\.0 °F", page), "at its place on the drawing"
    assert re.search("The gauges (say the same|settle it|change the verdict)", page)


def test_what_is_decided_about_gauges_follows_the_readings_while_somebody_types(signed_in, ours, preview):
    def decided(page):
        return re.search(r'<span id="gauge-decision"[^>]*>([^<]*)</span>', page.content.decode())[1]

    sound = preview(station="gauges", stop="gauges")
    assert "leave the circuit closed" in decided(sound)
    little_air = preview(station="gauges", stop="gauges", **{"blower.airflow@flow_device": "800"})
    assert "The air side comes first" in decided(little_air)


def test_a_pressure_in_another_unit_is_asked_about_at_its_field(device, ours):
    [answer] = device.send(device.item("gauge_suction", "pressure", "8.1", "psi"))
    assert (answer["status"], answer["units"]) == ("ask", ["bar", "psi"]) and "8.1 bar would be" in answer["message"]


def test_a_charge_goes_in_by_weighed_steps_to_its_target(signed_in, ours, low, keep):
    pressures(low)
    keep("hook_up", did="on", port__low="on", port__high="on")
    page = words(sheet(signed_in, ours.visit))
    assert "TXV: by subcooling, 10.0 ± 3.0 °F, the plate." in page
    assert re.search(r"Look for the leak, then add \d+(\.5)? oz", page)
    assert "did not get lighter" in keep("charge_step", number="1", way="add", before="14 lb", after="14 lb 6")[1]
    assert "is no weight" in keep("charge_step", number="1", way="add", before="heavy", after="14 lb")[1]
    assert keep("charge_step", number="1", way="add", before="14 lb 6", after="14 lb", cylinder="C-4")[0] == "stored"
    assert "Let it settle, then read." in words(sheet(signed_in, ours.visit))
    lines = {"suction_line_outdoor": "57", "liquid_line_outdoor": "99"}
    low.send(
        low.item("gauge_suction", "pressure", psig(44.0, "dew"), "psi", variant="s1"),
        low.item("gauge_liquid", "pressure", psig(109.0, "bubble"), "psi", variant="s1"),
        *(low.item(place, "temperature", value, variant="s1") for place, value in lines.items()),
    )
    page = words(sheet(signed_in, ours.visit))
    assert "On target: stop here." in page and "Was the leak looked for?" in page and "6 oz in over 1 step" in page
    assert keep("leak_search", found="none")[0] == "stored"
    assert "Was the leak looked for?" not in words(sheet(signed_in, ours.visit)), "it was said"
    assert ours.visit.rounds.count() == 1 and "Verdict, with gauges Low on charge." in page, "the round stays as found"


def test_the_clamps_of_the_walk_stay_where_they_are_after_a_step(signed_in, ours, low, keep):
    """A shop with probes: after the last step, and after it alone, what they show can be held."""
    clamp = Probe.objects.create(gateway=add_gateway(ours.person, "Van")[0], name="clamp-1")
    changes.pair(ours.person, ours.visit, "suction_line_outdoor", "suction_line_outdoor", clamp)
    keep("hook_up", did="on", port__low="on", port__high="on")
    for number in ("1", "2"):
        keep("charge_step", number=number, way="add", before="14 lb", after="13 lb 12", cylinder="C-4")
    page = sheet(signed_in, ours.visit)
    assert page.status_code == 200
    after = {row["stop"].id: [live["place"] for live in row["lives"]] for row in page.context["own_stops"]}
    assert after["step_1"] == [] and after["step_2"] == ["suction_line_outdoor"]


def test_what_was_heard_of_the_charge_before_speaks_no_more_once_some_was_added(signed_in, ours, low, keep):
    low.send(
        low.seen("liquid_line_noise", "flash"), low.seen("oil_stains", "seen"), low.seen("evaporator_face", "clean")
    )
    pressures(low)
    keep("charge_step", number="1", way="add", before="20 oz", after="16 oz")
    signed_in.post(reverse("visits:next_round", args=[ours.visit.public_id]), {"seen": 1})
    assert "Verdict Low on charge. " in plain(whole_sheet(signed_in, ours.visit)), "before and after side by side"
    second = material_of(Round.objects.get(visit=ours.visit, number=2))
    assert second.seen.keys() & {"liquid_line_noise", "oil_stains", "evaporator_face"} == {"evaporator_face"}
    keep("charge_step", number="1", way="withdrawn")
    second = material_of(Round.objects.get(visit=ours.visit, number=2))
    assert second.seen.get("liquid_line_noise") == "flash", "nothing was moved"


def test_a_step_is_taken_back_and_then_moves_nothing(signed_in, ours, low, keep):
    pressures(low)
    keep("hook_up", did="on", port__low="on", port__high="on")
    keep("charge_step", number="1", way="add", before="20 oz", after="16 oz")
    assert keep("charge_step", number="1", way="withdrawn")[0] == "stored"
    page = words(sheet(signed_in, ours.visit))
    assert "Step 1: what went in or out" in page and "over 1 step" not in page
    assert ChargeStep.objects.count() == 2, "nothing is deleted"
    assert keep("charge_step", number="13", way="add", before="2", after="1")[0] == "refused"


def test_a_full_recovery_cylinder_and_a_step_over_the_whole_charge_are_said(signed_in, ours, low, keep):
    pressures(low)
    keep("hook_up", did="on", port__low="on", port__high="on")
    full = {"before": "30 lb", "after": "37 lb", "tare": "15 lb", "capacity": "25 lb"}
    assert "less than empty" in keep("charge_step", number="1", way="recover", **(full | {"tare": "31 lb"}))[1]
    assert keep("charge_step", number="1", way="recover", **full)[0] == "stored"
    page = words(sheet(signed_in, ours.visit))
    assert "88 % full, over 80 %: change it" in page and "More than the plate's whole charge" in page
    assert "does not ask for it, and no reason" in page, "low on charge asks for some to be added"


def test_a_thaw_that_is_not_read_again_leaves_a_follow_up_filled_in(signed_in, ours, device):
    device.whole_visit()
    device.send(device.seen("ice", "coil"))
    page = sheet(signed_in, ours.visit)
    [text] = re.findall(r'id="fu-text"[^>]*value="([^"]+)"', page.content.decode())
    assert text.startswith("There was ice on the coil; left to thaw.") and "It was iced" in words(page)
    left = {"text": text, "blocks": "charge", "number": str(uuid.uuid4())}
    signed_in.post(reverse("visits:open_follow_up", args=[ours.visit.public_id]), left)
    page = sheet(signed_in, ours.visit)
    assert text in words(page) and "It was iced" not in words(page)
    assert 'value="There was ice' not in page.content.decode()


def test_refrigerant_that_was_moved_is_read_again_before_the_visit_is_finished(signed_in, ours, low, keep):
    pressures(low)
    keep("charge_step", number="1", way="add", before="20 oz", after="16 oz")
    assert "not read again after round 1" not in words(sheet(signed_in, ours.visit))
    status, why = keep(
        "closing",
        did="finished",
        **{
            f"look__{look}": "done"
            for look in (
                "panels_on",
                "holes_plugged",
                "lines_covered",
                "caps_tight",
                "condenser_free",
                "disconnect_back",
                "thermostat_back",
                "tools_counted",
            )
        },
    )
    assert status == "refused" and "not read again" in why
    signed_in.post(reverse("visits:next_round", args=[ours.visit.public_id]), {"seen": 1})
    assert "refrigerant 4 oz in over 1 step" in words(sheet(signed_in, ours.visit))


def test_another_shop_neither_connects_nor_charges(theirs, low, keep):
    low.client.force_login(theirs.person)
    assert "not open to you" in keep("hook_up", did="on", port__low="on")[1]
    assert "not open to you" in keep("charge_step", number="1", way="add", before="2", after="1")[1]
    assert not HookUp.objects.exists() and not ChargeStep.objects.exists()
