"""The sheet, its preview, the lists: what they show, that previews store nothing, and how many queries they take."""

import re

import pytest
from django.core.management import call_command
from django.urls import reverse

from tests.web.conftest import Device
from web.visits.models import Assessment, Observation, Reading

SOUND = {
    "system.running_time": "20", "strip_heat": "off", "coil": "wet", "outdoor.dry_bulb": "90.8", "return_unit.dry_bulb": "76.4",
    "return_unit.humidity": "rh", "return_unit.rh": "52", "blower.airflow": "1200", "blower.method": "flow_device",
    "blower.plane": "return", "supply_plenum.dry_bulb": "55.8", "supply_plenum.humidity": "rh", "supply_plenum.rh": "91",
}  # fmt: skip


def words(response):
    return re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", response.content.decode()))


def note(response, field):
    """The note beside one field in a preview."""
    return response.content.decode().split(f'id="note-{field}"')[1].split("</div>")[0]


@pytest.fixture
def preview(signed_in, ours):
    probe = str(ours.probe.public_id)
    probes = {f"{place}.instrument": probe for place in ("outdoor", "return_unit", "supply_plenum")}

    def ask(**changes):
        response = signed_in.post(reverse("visits:preview", args=[ours.visit.public_id]), {**SOUND, **probes, **changes})
        assert response.status_code == 200
        return response

    return ask


def test_preview_computes_everything_and_stores_nothing(preview):
    response = preview()
    shown = words(response)
    for expected in ("Looks right.", "20.6", "400", "expect", "grains/lb", "Apparatus dew point", "in range", "1.08 × CFM × ΔT"):
        assert expected in shown
    assert "expect" in note(response, "supply_plenum.dry_bulb") and "dew point" in note(response, "return_unit.rh")
    assert Reading.objects.count() == Observation.objects.count() == Assessment.objects.count() == 0


@pytest.mark.parametrize(("field", "typed", "message"), [
    ("return_unit.dry_bulb", "warm", "is not a number"),
    ("return_unit.rh", "152", "0 to 100"),
    ("supply_plenum.dry_bulb", "125", "This instrument reads"),
    ("return_unit.dry_bulb", "24", "Which is it?"),
])  # fmt: skip
def test_what_is_impossible_alone_is_said_at_its_field(preview, field, typed, message):
    response = preview(**{field: typed})
    assert message in note(response, field)
    assert message not in note(preview(**{field: typed, "focused": field}), field), "not while it is being typed"


def test_what_is_impossible_together_is_said_at_both_fields_and_withheld(preview):
    response = preview(**{"supply_plenum.dry_bulb": "81"})
    for field in ("return_unit.dry_bulb", "supply_plenum.dry_bulb"):
        assert "that is not cooling" in note(response, field)
    assert "Readings contradict each other." in words(response) and "20.6" not in words(response)


def test_the_answer_to_celsius_is_offered_as_two_buttons(preview):
    html = note(preview(**{"return_unit.dry_bulb": "24"}), "return_unit.dry_bulb")
    assert 'data-answer-unit="degC"' in html and 'data-answer-unit="degF"' in html
    taken = preview(
        **{"return_unit.dry_bulb": "24", "return_unit.dry_bulb.unit": "degC", "return_unit.dry_bulb.confirmed": "true"}
    )
    assert "Which is it?" not in note(taken, "return_unit.dry_bulb") and "19.4" in words(taken)


@pytest.mark.parametrize("junk", [
    {"blower.method": "x", "blower.plane": "y", "return_unit.humidity": "z", "coil": "purple"},
    {"return_unit.dry_bulb": "9" * 500, "return_unit.dry_bulb.unit": "furlong"},
    {"return_unit.instrument": "no-such", "supply_plenum.rh": "\x00", "focused": "<b>"},
    {"return_unit.rh": "0", "supply_plenum.rh": "0", "supply_plenum.dry_bulb": "-19"},
])  # fmt: skip
def test_no_input_breaks_the_preview(preview, junk):
    assert "title-block" in preview(**junk).content.decode()


def test_the_stored_sheet_shows_values_old_values_and_verdict(device, signed_in, ours):
    first, *_ = device.whole_visit()
    device.send(device.item("system", "running_time", "25", "min", supersedes=first["id"]))
    response = signed_in.get(reverse("visits:sheet", args=[ours.visit.public_id]))
    assert 'value="25"' in response.content.decode() and "was 20 min" in words(response)
    assert "Looks right." in words(response)
    values = signed_in.get(reverse("visits:current", args=[ours.visit.public_id])).json()
    assert values["fields"]["system.running_time"]["value"] == "25" and values["observations"]["coil"][0] == "wet"


def test_nothing_inline_that_the_content_policy_would_block(device, signed_in, ours):
    device.whole_visit()
    for address in (reverse("visits:sheet", args=[ours.visit.public_id]), "/", "/houses/"):
        html = signed_in.get(address).content.decode()
        assert not re.search(r"\sstyle=|<style|\son\w+=|javascript:", html)
        assert not re.search(r"<script(?![^>]*\bsrc=)", html)
        assert not re.search(r"""(src|href)=["']https?://""", html)


def test_queries_are_bounded(device, signed_in, ours, django_assert_max_num_queries):
    device.whole_visit()
    for value in range(70, 80):
        device.send(device.item("return_unit", "dry_bulb", str(value)))
    sheet = reverse("visits:sheet", args=[ours.visit.public_id])
    with django_assert_max_num_queries(9):
        signed_in.get(sheet)
    with django_assert_max_num_queries(9):
        signed_in.post(reverse("visits:preview", args=[ours.visit.public_id]), SOUND)
    with django_assert_max_num_queries(14):
        device.send(device.item("return_unit", "dry_bulb", "81"))
    with django_assert_max_num_queries(4):
        signed_in.get("/")
    with django_assert_max_num_queries(5):
        signed_in.get("/houses/")


def test_a_visit_starts_from_the_house_page(signed_in, ours):
    page = signed_in.get(reverse("houses:house", args=[ours.house.public_id]))
    assert "Start a visit" in words(page)
    response = signed_in.post(reverse("visits:start", args=[ours.system.public_id]), follow=True)
    assert "Not enough read yet." in words(response) and response.redirect_chain


@pytest.mark.django_db
def test_demo_loads_once_and_shows_each_kind_of_verdict(client, monkeypatch, capsys):
    monkeypatch.setenv("RUDDY_DEMO_PASSWORD", "demo-password")
    for _ in range(2):
        call_command("load_demo")
    call_command("demo_sign_ins")
    out = capsys.readouterr().out
    assert out.count("was loaded") == 1 and out.count("demo-password") == 4
    assert client.login(username="ines", password="demo-password")
    shown = words(client.get("/"))
    for headline in ("Airflow first.", "Capacity is low, airflow is not why.", "Nothing read yet."):
        assert headline in shown


def test_the_last_probe_is_offered_again(device, signed_in, ours):
    device.whole_visit()
    other = Device(signed_in, ours)
    assert other.id != device.id
    fresh = signed_in.post(reverse("visits:start", args=[ours.system.public_id]), follow=True).content.decode()
    assert fresh.count(f'value="{ours.probe.public_id}" selected') == 3
