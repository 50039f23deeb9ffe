"""A round is judged by the plates it was read with: a correction holds for what was read before, a changed machine and
a changed tap do not.
"""

import pytest
from django.urls import reverse
from django.utils import timezone

from tests.web.conftest import Device, words
from web.houses.models import PlateVersion, System
from web.houses.services import add_table, save_system
from web.visits import changes
from web.visits.load.for_engine import stored_round
from web.visits.load.material import material_of

BLOWER = "static, low, medium, high\n0.1, 900, 1100, 1300\n0.5, 800, 1000, 1150\n0.8, 700, 900, 1000"


def read(round_):
    """The round as the engine gets it, fresh from the database."""
    return stored_round(
        material_of(type(round_).objects.select_related("visit__system__house__shop").get(pk=round_.pk))
    )


@pytest.fixture
def on_low(ours):
    add_table(ours.person, ours.system, "blower", BLOWER)
    ours.system.tap = "low"
    save_system(ours.person, ours.system)
    return ours


def edit(client, system, **changed):
    """What the plate's page posts."""
    form = (
        {name: "" if value is None else value for name, value in system.plates.items()}
        | {"name": system.name}
        | changed
    )
    return client.post(reverse("houses:system", args=[system.public_id]), form)


@pytest.mark.parametrize(("why", "judged_by"), [("corrected", ("txv", 3.5)), ("changed", ("fixed_orifice", 3.0))])
def test_a_plate_read_wrongly_is_corrected_backwards_and_a_machine_that_was_changed_is_not(
    signed_in, ours, why, judged_by
):
    save_system(ours.person, System.objects.get(pk=ours.system.pk))
    system = System.objects.get(pk=ours.system.pk)
    system.metering_device = "fixed_orifice"
    save_system(ours.person, system)
    assert edit(signed_in, system, metering_device="txv", nominal_tons="3.5", why=why).status_code == 302
    plate = read(ours.round).equipment
    assert (plate.metering_device, plate.nominal_tons) == judged_by
    later = changes.start_visit(
        ours.person, System.objects.select_related("house__shop").get(pk=system.pk)
    ).rounds.get()
    assert read(later).equipment.nominal_tons == 3.5
    versions = list(PlateVersion.objects.filter(system=system).order_by("id").values_list("machine", "why"))
    assert versions == [(1, "first"), (1, "corrected"), (1 + (why == "changed"), why)]
    assert edit(signed_in, System.objects.get(pk=system.pk), why="corrected").status_code == 302
    assert PlateVersion.objects.count() == 3, "nothing new, no new version"


def test_the_tap_is_read_on_the_sheet_and_changed_as_an_action_and_each_round_keeps_its_own(device, signed_in, on_low):
    ours = on_low
    device.whole_visit()
    page = signed_in.get(ours.visit.get_absolute_url())
    assert "Blower tap in use" in words(page) and "as on the plate: read it on the board" in words(page)
    assert read(ours.round).equipment.tap == "low"
    assert device.send(device.seen("blower_tap", "medium"))[0]["status"] == "stored"
    assert read(ours.round).equipment.tap == "medium", "as it was read, whatever the plate says"
    assert device.send(device.entry("action", done="blower_speed_set", text="high"))[0]["status"] == "stored"
    assert "Blower speed set: from medium to high" in words(signed_in.get(ours.visit.get_absolute_url()))
    ours.round2 = changes.next_round(ours.person, ours.visit, 1)
    assert (read(ours.round).equipment.tap, read(ours.round2).equipment.tap) == ("medium", "high")
    assert System.objects.get(pk=ours.system.pk).tap == "high", "the next visit starts from it"
    assert "Blower speed set: high" in words(signed_in.get(ours.visit.get_absolute_url()))
    visit = changes.start_visit(ours.person, System.objects.select_related("house__shop").get(pk=ours.system.pk))
    assert read(visit.rounds.get()).equipment.tap == "high" and read(ours.round).equipment.tap == "medium"


def test_a_tap_that_was_changed_without_saying_to_which_is_not_known_and_taken_back_it_is_as_before(device, on_low):
    set_ = device.entry("action", done="blower_speed_set")
    device.send(set_)
    second = changes.next_round(on_low.person, on_low.visit, 1)
    assert read(second).equipment.tap is None and read(on_low.round).equipment.tap == "low"
    device.send(device.entry("action", done="withdrawn", supersedes=set_["id"]))
    assert read(second).equipment.tap == "low" and System.objects.get(pk=on_low.system.pk).tap == "low"


def test_what_a_later_round_carries_on_from_is_assessed_again_when_it_arrives_late(device, signed_in, on_low):
    """The action was taken in the attic without a network: it comes after the next round's readings."""
    late = device.seen("blower_tap", "low"), device.entry("action", done="blower_speed_set", text="high")
    second = changes.next_round(on_low.person, on_low.visit, 1, at=timezone.now())
    first, on_low.round = on_low.round, second
    phone = Device(signed_in, on_low)
    phone.send(phone.item("outdoor", "dry_bulb", "90"))
    assert {answer["status"] for answer in device.send(*late)} == {"stored"}
    entries = [set(row.entries) for row in second.assessments.order_by("id")]
    assert len(entries) == 2 and {item["id"] for item in late} <= entries[1] and read(second).equipment.tap == "high"
    assert first.assessments.count() == 1


@pytest.mark.parametrize(
    "entry",
    [
        {"kind": "observation", "seen": "blower_tap", "degree": "turbo"},
        {"kind": "action", "done": "blower_speed_set", "text": "turbo"},
    ],
)
def test_a_tap_that_the_table_does_not_have_is_refused_by_name(device, on_low, entry):
    (answer,) = device.send(device.entry(entry.pop("kind"), **entry))
    assert answer["status"] == "refused" and "The blower table has no tap 'turbo'." in answer["message"]
