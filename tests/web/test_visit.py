"""The visit around its readings: what is not possible, undone, carried from round to round, done, said, handed
over, left to do.
"""

import re
from datetime import timedelta

import pytest
from django.core.exceptions import PermissionDenied
from django.urls import reverse
from django.utils import timezone

from tests.web.conftest import Device, plain, whole_sheet, words
from web.accounts.models import User
from web.houses.models import System
from web.houses.weather import Weather
from web.visits import changes
from web.visits.load.material import carried_into, entries_of, rounds_of
from web.visits.models import Action, FollowUp, Handover, Reading, Remark, Round, Visit

RETURN = ("return_unit", "dry_bulb")


@pytest.fixture
def colleague(ours):
    return User.objects.create_user("cal", first_name="Cal", last_name="Test", shop=ours.shop)


@pytest.fixture(autouse=True)
def pictures_of_their_own(settings, tmp_path):
    settings.MEDIA_ROOT = tmp_path


# -- entries that are no values ----------------------------------------------------------------------------------------


def test_not_possible_because_is_a_value_and_a_later_reading_takes_its_place(device, signed_in, ours):
    said = device.item("supply_plenum", "rh", "", "pct", source="not_possible", reason="no_port", instrument="")
    assert device.send(said)[0]["status"] == "stored"
    row = Reading.objects.get()
    assert (row.value, row.reason, row.typed) == (None, "no_port", "")
    page = words(signed_in.get(ours.visit.get_absolute_url()))
    assert "Not possible: no port or hole." in page
    device.send(device.item("supply_plenum", "wet_bulb", "54", supersedes=said["id"]))
    assert entries_of([ours.round], [ours.probe], {})[ours.round.pk].current[0].typed == "54"


@pytest.mark.parametrize(
    "wrong",
    [
        {"reason": ""},
        {"reason": "lazy"},
        {"reason": "no_port", "place": "roof"},
        {"reason": "no_port", "quantity": "flow"},
    ],
)
def test_not_possible_needs_a_reason_of_the_list_at_a_place_of_the_walk(device, wrong):
    assert device.send(device.item(*RETURN, "", source="not_possible") | wrong)[0]["status"] == "refused"


def test_what_is_taken_back_no_longer_counts_and_stays_in_the_record(device, ours):
    reading, sight = device.item(*RETURN, "76.4"), device.seen("filter", "blocked")
    device.send(reading, sight)
    device.send(
        device.item(*RETURN, "", source="withdrawn", supersedes=reading["id"]),
        device.seen("filter", "withdrawn", supersedes=sight["id"]),
    )
    entries = entries_of([ours.round], [ours.probe], {})[ours.round.pk]
    assert entries.current == [] and entries.seen == {}
    assert Reading.objects.count() == 2 and ours.round.observations.count() == 2
    assert device.send(device.seen("filter", "withdrawn"))[0]["status"] == "refused", "nothing to take back"


def test_words_and_work_are_entries_of_their_own(device, signed_in, ours):
    said = device.entry("remark", about="complaint", text="West rooms are warm <b>after</b> lunch.")
    done = device.entry("action", done="filter_changed")
    other = device.entry("action", done="other", text="Moved the sofa off the return.")
    wrong = [
        device.entry("remark", about="gossip", text="x"),
        device.entry("remark", about="remark", text=" "),
        device.entry("action", done="magic"),
        device.entry("action", done="other", text=""),
    ]
    answers = device.send(said, said, done, other, *wrong)
    assert [a["status"] for a in answers] == ["stored", "duplicate", "stored", "stored", *["refused"] * 4]
    page = signed_in.get(ours.visit.get_absolute_url()).content.decode()
    assert "&lt;b&gt;after" in page and "Filter changed" in page and "Moved the sofa" in page
    device.send(device.entry("action", done="withdrawn", supersedes=done["id"]))
    shown = signed_in.get(ours.visit.get_absolute_url()).content.decode()
    assert f'data-action="{other["id"]}"' in shown and f'data-action="{done["id"]}"' not in shown
    assert Remark.objects.count() == 1 and Action.objects.count() == 3


def test_a_caution_understood_is_kept_and_shown_as_such(device, signed_in, ours):
    assert device.send(device.seen("caution:drilling", "read"))[0]["status"] == "stored"
    assert device.send(device.seen("caution:bears", "read"))[0]["status"] == "refused"
    html = signed_in.get(ours.visit.get_absolute_url()).content.decode()
    assert 'data-caution="drilling" data-read' in html and 'data-caution="rotating">' in html


# -- rounds ------------------------------------------------------------------------------------------------------------


def test_the_next_round_carries_what_was_seen_but_not_what_was_mended_and_its_clock_starts(device, signed_in, ours):
    device.whole_visit()
    device.send(
        device.seen("filter", "blocked"), device.seen("caps", "on"), device.entry("action", done="filter_changed")
    )
    response = signed_in.post(reverse("visits:next_round", args=[ours.visit.public_id]), {"seen": "1"}, follow=True)
    signed_in.post(reverse("visits:next_round", args=[ours.visit.public_id]), {"seen": "1"})  # pressed twice
    assert ours.visit.rounds.count() == 2
    second = ours.visit.rounds.get(number=2)
    rests_on = carried_into(second, rounds_of([ours.visit.pk])[ours.visit.pk])
    carried = rests_on.seen
    assert rests_on.done == ("filter_changed",), "the judgement knows what was done"
    assert carried["caps"] == "on" and carried["coil"] == "wet" and "filter" not in carried
    page = words(response)
    assert (
        "Round 2: the clock started again." in page
        and "Same as before: 76.4 °F" in page
        and "as in the round before" in page
    )
    assert "Settling: 0 of 15 minutes" in page
    assert "nothing to compare" not in page and "Before and after" in page


def test_before_and_after_stand_side_by_side_and_rounds_that_cannot_both_be_true_are_named(device, signed_in, ours):
    statics = [
        device.item("return_plenum", "static_pressure", "-0.22", "inwc"),
        device.item("supply_plenum", "static_pressure", "0.28", "inwc"),
    ]
    device.whole_visit()
    device.send(*statics)
    ours.round = changes.next_round(ours.person, ours.visit, 1, at=timezone.now() - timedelta(minutes=30))
    again = Device(signed_in, ours)
    again.whole_visit()  # the same airflow: but the supply static halves
    again.send(
        again.item("return_plenum", "static_pressure", "-0.22", "inwc"),
        again.item("supply_plenum", "static_pressure", "0.08", "inwc"),
    )
    page = plain(whole_sheet(signed_in, ours.visit))
    assert "Round 1 This round, 2" in page and "20.6" in page
    assert "so the supply static should have" in page and "by about 0 %; it fell by 71 %" in page
    first = words(signed_in.get(reverse("visits:round", args=[ours.visit.public_id, 1])))
    assert (
        "This is round 1." in first
        and signed_in.get(reverse("visits:round", args=[ours.visit.public_id, 9])).status_code == 404
    )


@pytest.mark.parametrize(
    ("minutes", "says"),
    [
        ("20", "too few to settle and read"),
        ("30", "no longer enough to fix, settle 15 and read again"),
        ("60", "a fix can start until"),
    ],
)
def test_the_clock_counts_on_from_what_was_said_and_says_when_time_runs_out(device, signed_in, ours, minutes, says):
    ago = (timezone.now() - timedelta(minutes=12)).isoformat()
    device.send(
        device.item("system", "running_time", "0", "min", taken_at=ago),
        device.item("system", "time_available", minutes, "min", taken_at=ago),
    )
    page = words(signed_in.get(ours.visit.get_absolute_url()))
    assert "Settling: 12 of 15 minutes" in page and says in page
    assert "settled, " not in words(signed_in.get("/")) and "12 of 15 min" in words(signed_in.get("/"))


def test_a_heat_pump_in_the_cold_is_walked_in_heating_and_the_page_comes_anew(device, signed_in, ours):
    ours.system.kind = "heat_pump"
    ours.system.save()
    assert "On the thick line a foot" in words(signed_in.get(ours.visit.get_absolute_url()))
    device.send(device.item("outdoor", "dry_bulb", "36"))
    page = words(signed_in.get(ours.visit.get_absolute_url()))
    assert "True suction" in page and "On the thick line a foot" not in page and "Tested in heating" in page
    answer = signed_in.post(reverse("visits:preview", args=[ours.visit.public_id, 1]), {"mode": "cooling"})
    assert answer.headers.get("HX-Refresh") == "true"


def test_celsius_for_the_person_who_reads_it_and_fahrenheit_in_the_record(device, signed_in, ours):
    device.whole_visit()
    signed_in.post("/preferences/", {"temperatures": "C"})
    html = whole_sheet(signed_in, ours.visit)
    page = plain(html)
    assert "Temperature split 11.4 ± 0.2 °C" in page and "Temperature split 11.4 °C" in page and "20.6" not in page
    assert 'value="76.4"' in html, "what was typed stays as it was typed"
    device.send(device.item("return_unit", "dry_bulb", "24.7", "degC", confirmed=True))
    saved = ours.round.assessments.latest("id").result
    assert "°C" not in str(saved["verdict"]) and "°F" in str(saved["verdict"])
    assert signed_in.post("/preferences/", {"temperatures": "K"}).status_code == 200
    assert User.objects.get(pk=ours.person.pk).temperatures == "C"


# -- people, follow-ups, pictures --------------------------------------------------------------------------------------


def test_a_visit_is_handed_to_a_colleague_once_and_never_outside_the_shop(signed_in, ours, colleague, theirs):
    address = reverse("visits:hand_over", args=[ours.visit.public_id])
    for _ in range(2):
        signed_in.post(address, {"colleague": str(colleague.public_id), "note": "Attic is next."})
    assert Visit.objects.get(pk=ours.visit.pk).holder == colleague and Handover.objects.get().note == "Attic is next."
    assert "Cal T., round 1" in words(signed_in.get("/"))
    refused = signed_in.post(address, {"colleague": str(theirs.person.public_id)}, follow=True)
    assert "Nothing was handed over." in words(refused)
    with pytest.raises(PermissionDenied):
        changes.hand_over(theirs.person, ours.visit, colleague)
    with pytest.raises(PermissionDenied):
        changes.hand_over(ours.person, ours.visit, theirs.person)


def test_a_follow_up_stands_where_it_blocks_until_it_is_closed(signed_in, ours):
    address = reverse("visits:open_follow_up", args=[ours.visit.public_id])
    wrong = signed_in.post(address, {"text": "", "due_on": "soon"}, follow=True)
    assert "Say what is left to do." in words(wrong) and "2026-08-01" in words(wrong)
    wrong = signed_in.post(address, {"text": "Find the leak", "blocks": "charge", "due_on": "soon"}, follow=True)
    html = wrong.content.decode()
    assert 'value="Find the leak"' in html and '<option value="charge" selected>' in html and 'value="soon"' in html
    assert "Find the leak" not in signed_in.get(ours.visit.get_absolute_url()).content.decode(), "said once"
    signed_in.post(address, {"text": "Leak-check before adding again.", "blocks": "charge", "due_on": "2026-01-02"})
    for page in ("/", ours.visit.get_absolute_url(), reverse("visits:of_system", args=[ours.system.public_id])):
        assert "Leak-check before adding again." in words(signed_in.get(page)) and "blocks adding refrigerant" in words(
            signed_in.get(page)
        )
    assert "overdue" in words(signed_in.get("/"))
    found = FollowUp.objects.get()
    for outcome in ("Flare nut, tightened.", "something else"):
        signed_in.post(
            reverse("visits:close_follow_up", args=[found.public_id]),
            {"outcome": outcome, "visit": str(ours.visit.public_id)},
        )
    signed_in.post(reverse("visits:close_follow_up", args=[found.public_id]), {"outcome": "x", "visit": "no-uuid"})
    found.refresh_from_db()
    assert found.outcome == "Flare nut, tightened." and "Leak-check" not in words(signed_in.get("/"))


def no_service(house, when):
    raise OSError("the weather service does not answer")


def a_cold_day(house, when):
    return Weather("A field", when, outdoor_f=38.0, sea_level_inhg=29.92)


@pytest.mark.parts_fail
def test_a_sheet_is_there_without_its_weather_service_and_in_the_mode_of_the_day_with_it(signed_in, ours, settings):
    sheet = ours.visit.get_absolute_url()
    settings.WEATHER_SERVICE = f"{__name__}.no_service"
    page = words(signed_in.get(sheet))
    assert "Tested in cooling" in page and "Weather service" not in page
    System.objects.filter(pk=ours.system.pk).update(kind="heat_pump")
    settings.WEATHER_SERVICE = f"{__name__}.a_cold_day"
    assert "Tested in heating" in words(signed_in.get(sheet))
    Round.objects.filter(visit=ours.visit).update(started_at=timezone.now() - timedelta(days=2))
    assert "Tested in cooling" in words(signed_in.get(sheet)), "today's weather says nothing of a visit long past"


def test_a_machine_with_stages_asks_whether_it_runs_at_full_capacity(device, signed_in, ours):
    System.objects.update(stages="two")

    def one_tap():
        page = signed_in.get(ours.visit.get_absolute_url()).content.decode()
        return re.findall(r'data-has-run(?:="15")? data-seen="([^"]*)">([^<]*)<', page)

    assert one_tap() == [("runs_at=full strip_heat=off", "It has run 15 min or more, at full capacity, strips off")]
    device.whole_visit()
    assert one_tap() == [("runs_at=full", "It runs at full capacity")]
    device.send(device.seen("runs_at", "full"))
    assert one_tap() == []
    device.send(device.seen("runs_at", "part"))
    assert "It runs at part of its capacity" in plain(whole_sheet(signed_in, ours.visit))
