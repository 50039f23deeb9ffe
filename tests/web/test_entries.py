"""The one way in: idempotent, answered per item, append-only, corrections by superseding."""

from datetime import timedelta

import pytest
from django.db import OperationalError
from django.utils import timezone

from tests.web.conftest import Device
from web.visits import changes
from web.visits.load.current import read_by_slot
from web.visits.models import Assessment, Reading

RETURN = ("return_unit", "dry_bulb")


def current(round_, place="return_unit", slot="dry_bulb"):
    return read_by_slot(round_.readings.in_order())[place, slot]


def test_a_whole_visit_is_stored_as_typed_and_assessed(device, ours):
    device.whole_visit()
    reading = ours.round.readings.get(place="return_unit", quantity="dry_bulb")
    assert (reading.typed, reading.unit, reading.value, reading.person) == ("76.4", "degF", 76.4, ours.person)
    assert reading.instrument == ours.probe and reading.source == "typed"
    saved = Assessment.objects.filter(round=ours.round).latest("id")
    assert saved.headline == "This system does what it should today." and saved.result["verdict"]["state"] == "sound"
    assert len(saved.entries) == 9 and saved.engine_version and saved.rules_version


def test_a_retry_never_doubles(device, ours):
    item = device.item(*RETURN, "76.4")
    assert [device.send(item)[0]["status"] for _ in range(3)] == ["stored", "duplicate", "duplicate"]
    assert device.send(item, item)[1]["status"] == "duplicate"
    assert Reading.objects.count() == 1 and Assessment.objects.count() == 1


def test_a_server_whose_clock_is_behind_turns_nothing_away(device, ours, monkeypatch):
    item, now = device.item(*RETURN, "76.4"), timezone.now()
    monkeypatch.setattr(timezone, "now", lambda: now - timedelta(days=365))
    assert device.post(item, clock=now).status_code == 503 and not Reading.objects.exists()
    monkeypatch.undo()
    assert device.send(item)[0]["status"] == "stored"


def test_each_item_is_answered_and_a_bad_one_stops_no_other(device):
    answers = device.send(
        device.item(*RETURN, "76.4"),
        device.item(*RETURN, "warm"),
        device.item("return_unit", "rh", "152", "pct"),
        device.item("return_unit", "dew_point", "12"),
        device.item("outdoor", "dry_bulb", "125"),
        device.item("blower", "airflow", "1200", "CFM"),
        device.item("roof", "dry_bulb", "70"),
        device.item(*RETURN, "76.4") | {"id": "not-a-uuid"},
        device.item(*RETURN, "76.4") | {"sequence": "x"},
        device.item(*RETURN, "7" * 21),
        {"kind": "reading"},
        "nonsense",
        device.seen("coil", "purple"),
        device.item("supply_plenum", "dry_bulb", "55"),
    )
    assert [a["status"] for a in answers] == ["stored", *["refused"] * 2, "ask", *["refused"] * 9, "stored"]
    assert "not a number" in answers[1]["message"] and "0 to 100" in answers[2]["message"]
    assert answers[3]["units"] == ["degC", "degF"] and "°C" in answers[3]["message"]
    assert "-4 °F to 120 °F" in answers[4]["message"] and "how the airflow was found" in answers[5]["message"]


@pytest.mark.parametrize("body", ["", "[]", "{}", '{"device": "x", "clock": "now", "items": []}', "nul\x00"])
def test_a_batch_that_cannot_be_read_is_refused_whole(signed_in, body):
    response = signed_in.post("/visits/entries/", body, content_type="application/json")
    assert response.status_code == 400 and "error" in response.json()


def test_celsius_is_stored_as_typed_once_confirmed(device, ours):
    assert device.send(device.item(*RETURN, "24"))[0]["status"] == "ask"
    assert Reading.objects.count() == 0
    assert device.send(device.item(*RETURN, "24", "degC", confirmed=True))[0]["status"] == "stored"
    reading = Reading.objects.get()
    assert (reading.typed, reading.unit, reading.value) == ("24", "degC", pytest.approx(75.2))


def test_a_correction_is_a_new_reading_and_the_old_one_stays(device, ours):
    first = device.item(*RETURN, "78.4")
    second = device.item(*RETURN, "76.4", supersedes=first["id"])
    device.send(second)  # may arrive before the one it corrects
    device.send(first)
    slot = current(ours.round)
    assert slot.current.typed == "76.4" and [old.typed for old in slot.earlier] == ["78.4"] and not slot.rivals


def test_a_wet_bulb_replaces_the_relative_humidity_at_its_place(device, ours):
    device.send(device.item("return_unit", "rh", "52", "pct"), device.item("return_unit", "wet_bulb", "64"))
    assert current(ours.round, slot="humidity").current.quantity == "wet_bulb"


def test_two_devices_that_disagree_are_both_shown(device, signed_in, ours):
    other = Device(signed_in, ours)
    device.send(device.item(*RETURN, "76.4"))
    other.send(other.item(*RETURN, "78.0"))
    slot = current(ours.round)
    assert slot.current.typed == "78.0" and [rival.typed for rival in slot.rivals] == ["76.4"]
    page = signed_in.get(ours.visit.get_absolute_url()).content.decode()
    assert "Two devices disagree" in page
    other.send(other.item(*RETURN, "76.4"))
    assert not current(ours.round).rivals, "they agree now"
    other.send(other.item(*RETURN, "", source="not_possible", reason="no_access"))
    assert [rival.typed for rival in current(ours.round).rivals] == ["76.4"], (
        "one read it, the other says that it cannot be read"
    )
    assert signed_in.get(f"/visits/{ours.visit.public_id}/").status_code == 200


def test_a_wrong_device_clock_is_corrected_by_its_measured_offset(device, ours):
    """The slow phone's reading came later in truth, so it counts."""
    fast = Device(device.client, ours)
    fast.send(fast.item(*RETURN, "75.0"))
    an_hour_slow = timezone.now() - timedelta(hours=1)
    late = device.item(*RETURN, "76.4") | {"taken_at": an_hour_slow.isoformat()}
    device.send(late, clock=an_hour_slow)
    assert current(ours.round).current.typed == "76.4"
    assert abs(Reading.objects.get(typed="76.4").clock_offset_ms - 3_600_000) < 5000


def test_a_number_is_taken_in_its_shop_only_and_there_for_one_round(device, ours, theirs, client):
    item = device.item(*RETURN, "76.4")
    device.send(item)
    ours.round = changes.next_round(ours.person, ours.visit, 1)
    answer = device.send(device.item(*RETURN, "70.0") | {"id": item["id"]})[0]
    assert answer["status"] == "refused" and "taken by another entry" in answer["message"]
    client.force_login(theirs.person)
    stranger = Device(client, theirs)
    assert stranger.send(stranger.item(*RETURN, "70.0") | {"id": item["id"]})[0]["status"] == "stored", (
        "it tells nothing of ours"
    )
    assert {(r.shop_id, r.typed) for r in Reading.objects.all()} == {(ours.shop.pk, "76.4"), (theirs.shop.pk, "70.0")}


def test_a_retry_after_a_failed_assessment_makes_it_good(device, ours, monkeypatch, signed_in):
    """The entries were stored, the assessment failed: the device sends them again, they are known, and the verdict is
    worked out.
    """

    def busy(material):
        raise OperationalError("the database was too busy")

    item = device.item(*RETURN, "76.4")
    signed_in.raise_request_exception = False
    with monkeypatch.context() as broken:
        broken.setattr("web.visits.changes.entries.stored_round", busy)
        assert device.post(item).status_code == 503
    assert Reading.objects.count() == 1 and not Assessment.objects.exists()
    assert device.send(item)[0]["status"] == "duplicate"
    assert Assessment.objects.get().entries == [item["id"]]
    device.send(item)
    assert Assessment.objects.count() == 1, "nothing new to assess"
