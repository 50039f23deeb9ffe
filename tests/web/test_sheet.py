"""The sheet, its preview, the lists: what they show, that previews store nothing, and how many queries they take."""

import re

import pytest
from django.core.management import call_command
from django.urls import reverse

from tests.web.conftest import SOUND, Device, words
from web.houses.services import add_table
from web.visits import changes
from web.visits.models import Assessment, Baseline, Closing, Observation, Reading


def note(response, field):
    """The note beside one field in a preview."""
    return response.content.decode().split(f'id="note-{field}"')[1].split("</div>")[0]


def test_preview_computes_everything_and_stores_nothing(preview):
    shown = words(preview())
    for expected in (
        "This system does what it should today.",
        "20.6",
        "400",
        "Apparatus dew point",
        "in range",
        "1.08 × CFM × ΔT",
        "Expect & read Read 8 open",
    ):
        assert expected in shown
    at_plenum = preview("read", "supply_plenum")
    assert "expect" in words(at_plenum) and "dew point" in note(at_plenum, "supply_plenum.rh")
    assert "From the published curves, for this air and weather" in words(at_plenum)
    assert Reading.objects.count() == Observation.objects.count() == Assessment.objects.count() == 0


@pytest.mark.parametrize(("field", "typed", "message"), [
    ("return_unit.dry_bulb", "warm", "is not a number"),
    ("return_unit.rh", "152", "0 to 100"),
    ("supply_plenum.dry_bulb", "125", "This instrument reads"),
    ("return_unit.dry_bulb", "24", "Which is it?"),
])  # fmt: skip
def test_what_is_impossible_alone_is_said_at_its_field(preview, field, typed, message):
    at = {"station": "read", "stop": field.split(".")[0]}
    response = preview(**at, **{field: typed})
    assert message in note(response, field) and "Look again" in words(response)
    assert message not in note(preview(**at, **{field: typed, "focused": field}), field), "not while it is being typed"


def test_what_is_impossible_together_is_said_at_both_fields_and_withheld(preview):
    for field in ("return_unit.dry_bulb", "supply_plenum.dry_bulb"):
        response = preview("read", field.split(".")[0], **{"supply_plenum.dry_bulb": "81"})
        assert "that is not cooling" in note(response, field)
    assert "The air readings contradict each other." in words(response) and "20.6" not in words(response)


def test_the_answer_to_celsius_is_offered_as_two_buttons(preview):
    at = {"station": "read", "stop": "return_unit"}
    html = note(preview(**at, **{"return_unit.dry_bulb": "24"}), "return_unit.dry_bulb")
    assert 'data-answer-unit="degC"' in html and 'data-answer-unit="degF"' in html
    taken = preview(
        **at,
        **{"return_unit.dry_bulb": "24", "return_unit.dry_bulb.unit": "degC", "return_unit.dry_bulb.confirmed": "true"},
    )
    assert "Which is it?" not in note(taken, "return_unit.dry_bulb") and "75.2 °F" in words(taken)


@pytest.mark.parametrize("junk", [
    {"blower.plane": "y", "return_unit.humidity": "z", "see.coil": "purple", "station": "moon", "stop": "<i>"},
    {"return_unit.dry_bulb": "9" * 500, "return_unit.dry_bulb.unit": "furlong"},
    {"return_unit.instrument": "no-such", "supply_plenum.rh": "\x00", "focused": "<b>"},
    {"return_unit.rh": "0", "supply_plenum.rh": "0", "supply_plenum.dry_bulb": "-19"},
])  # fmt: skip
def test_no_input_breaks_the_preview(preview, junk):
    assert "title-block" in preview(**junk).content.decode()


def test_the_air_station_weighs_every_way_and_says_where_two_disagree(preview, ours):
    add_table(ours.person, ours.system, "blower", "static, low, high\n0.1, 1000, 1300\n0.5, 900, 1150\n0.8, 800, 1000")
    ours.system.tap = "high"
    ours.system.save()
    statics = {"return_plenum.static_pressure": "-0.30", "supply_plenum.static_pressure": "0.40"}
    agreed = preview("air", **statics, **{"blower.airflow@flow_device": "1080"})
    assert (
        "Static and blower table" in words(agreed)
        and "Calibrated flow device" in words(agreed)
        and "differ" not in words(agreed)
    )
    assert "Tap high: 1040 CFM at 0.72 in. w.c." in agreed.content.decode(), "the operating point is on the curve"
    apart = words(
        preview("air", **statics, **{"blower.airflow@flow_device": "1500", "blower.airflow@nominal_guess": "1200"})
    )
    assert (
        "differ by" in apart
        and "more than their margins" in apart
        and "not weighed" in apart
        and "Air disagree" in apart
    )


TRAVERSED = {f"traverse.velocity@{n}": "600" for n in range(1, 13)} | {
    "traverse.gross_area": "288",
    "blower.airflow@flow_device": "",
}


def test_a_traverse_counts_in_the_air_it_was_taken_in_and_asks_which_that_was(preview, device, signed_in, ours):
    def choice(response):
        return response.content.decode().split('name="traverse.plane"')[1].split("</select>")[0]

    assert '<option value="">Say which air' in choice(signed_in.get(ours.visit.get_absolute_url()))
    unsaid, supply = (
        preview("air", **TRAVERSED, **{"traverse.plane": plane}).content.decode() for plane in ("", "supply")
    )
    assert "The traverse does not say which air it was taken in" in unsaid and "is not said" not in supply
    area = device.item("traverse", "gross_area", "288", "in2", plane="supply")
    assert [answer["status"] for answer in device.send(area)] == ["stored"]
    assert '<option value="supply" selected>' in choice(signed_in.get(ours.visit.get_absolute_url()))


def test_the_stored_sheet_shows_values_old_values_and_verdict(device, signed_in, ours):
    first, *_ = device.whole_visit()
    device.send(device.item("system", "running_time", "25", "min", supersedes=first["id"]))
    response = signed_in.get(ours.visit.get_absolute_url())
    assert 'value="25"' in response.content.decode() and "was 20 min" in words(response)
    assert "This system does what it should today." in words(response)
    values = signed_in.get(reverse("visits:current", args=[ours.visit.public_id, 1])).json()
    assert values["fields"]["system.running_time"]["value"] == "25" and values["observations"]["coil"][0] == "wet"


EVERY_PAGE = (
    "/",
    "/houses/",
    "/houses/new/",
    "/houses/instruments/",
    "/houses/instruments/new/",
    "/house-rules/",
    "/preferences/",
)


def test_nothing_inline_that_the_content_policy_would_block(device, signed_in, ours):
    device.whole_visit()
    system = ours.system.public_id
    of_ours = [reverse(f"houses:{page}", args=[system]) for page in ("system", "rooms", "tables")]
    for address in (
        ours.visit.get_absolute_url(),
        reverse("houses:house", args=[ours.house.public_id]),
        *of_ours,
        *EVERY_PAGE,
    ):
        html = signed_in.get(address).content.decode()
        assert not re.search(r"\sstyle=|<style|\son\w+=|javascript:", html), address
        assert not re.search(r"<script(?![^>]*\bsrc=)", html)
        assert not re.search(r"""(src|href)=["']https?://""", html)


def test_queries_are_bounded(device, signed_in, ours, django_assert_max_num_queries):
    device.whole_visit()
    for value in range(70, 80):
        device.send(device.item("return_unit", "dry_bulb", str(value)))
    for _ in range(3):
        visit = changes.start_visit(ours.person, ours.system)
        changes.open_follow_up(ours.person, ours.system, "look again")
    changes.next_round(ours.person, ours.visit, 1)
    changes.next_round(ours.person, ours.visit, 2)
    limits = {
        reverse("visits:round", args=[ours.visit.public_id, 1]): 26,
        reverse("visits:round", args=[ours.visit.public_id, 3]): 28,
        reverse("visits:sheet", args=[visit.public_id]): 26,
        reverse("visits:of_system", args=[ours.system.public_id]): 10,
        reverse("visits:what_if"): 21,
        "/": 10,
        "/shop/": 4,
        "/houses/": 5,
        "/houses/instruments/": 4,
        "/house-rules/": 5,
    }
    for address, most in limits.items():
        with django_assert_max_num_queries(most):
            assert signed_in.get(address).status_code == 200
    for station, most in (("judge", 16), ("fix", 20), ("gauges", 18)):
        with django_assert_max_num_queries(most):
            signed_in.post(reverse("visits:preview", args=[ours.visit.public_id, 1]), {**SOUND, "station": station})
    with django_assert_max_num_queries(29):
        device.send(device.item("return_unit", "dry_bulb", "81"))


def test_a_visit_starts_from_the_house_page(signed_in, ours):
    page = signed_in.get(reverse("houses:house", args=[ours.house.public_id]))
    assert "Start a visit" in words(page)
    response = signed_in.post(reverse("visits:start", args=[ours.system.public_id]), follow=True)
    assert "Not enough read yet." in words(response) and response.redirect_chain


@pytest.mark.django_db
def test_demo_loads_once_and_shows_each_kind_of_verdict(client, monkeypatch, capsys):
    monkeypatch.setenv("RUDDY_DEMO_PASSWORD", "demo-password")
    monkeypatch.setenv("RUDDY_GATEWAY_TOKEN", "demo-token")
    for _ in range(2):
        call_command("load_demo")
    call_command("demo_sign_ins")
    out = capsys.readouterr().out
    assert out.count("was loaded") == 1 and out.count("demo-password") == 4
    assert client.login(username="ines", password="demo-password")
    shown = words(client.get("/"))
    for found in ("Low on charge.", "Nothing read yet.", "Tomas R., returned"):
        assert found in shown
    assert Closing.objects.filter(did="reopened").count() == 1
    assert Baseline.objects.filter(live=True).count() >= 6
    said = set(Assessment.objects.values_list("headline", flat=True))
    assert {"The blower speed was changed.", "This system does what it should today."} <= said


def test_the_last_probe_is_offered_again(device, signed_in, ours):
    device.whole_visit()
    other = Device(signed_in, ours)
    assert other.id != device.id
    fresh = signed_in.post(reverse("visits:start", args=[ours.system.public_id]), follow=True).content.decode()
    air_stops = (
        "return_grille",
        "return_unit",
        "supply_plenum",
        "supply_register",
        "attic",
        "outdoor",
        "condenser_air_out",
    )
    assert fresh.count(f'value="{ours.probe.public_id}" selected') == len(air_stops)
