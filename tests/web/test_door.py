"""The door for entries: what sheet, lists and engine could not show is refused by name, one by one, and holds up
nothing behind it.
"""

import json
import uuid
from datetime import UTC, datetime, timedelta

import pytest
from django.urls import reverse
from django.utils import timezone

from tests.web.conftest import SOUND, whole_sheet
from web.houses.models import System
from web.visits.bridge import results
from web.visits.models import Action, Observation, Reading, Remark

RETURN = ("return_unit", "dry_bulb")
HALF_A_LETTER, NOTHING_SEEN = "\ud83d", "\u200b\u200b"


def readings(device):
    return {
        "an air that there is not": device.item(
            "blower", "airflow", "1200", "CFM", variant="flow_device", plane="sideways"
        ),
        "an air for what has none": device.item(*RETURN, "76.4", plane="return"),
        "a long variant": device.item(*RETURN, "76.4", variant="v" * 45),
        "a leg that there is not": device.item("compressor", "current", "9.9", "A", variant="7"),
        "an unknown way to an airflow": device.item("blower", "airflow", "1200", "CFM", variant="by_ear"),
        "an unknown source": device.item(*RETURN, "76.4", source="rumour"),
        "a room that there is not": device.item("room:cellar", "dry_bulb", "60"),
        "an unknown place": device.item("roof", "dry_bulb", "70"),
        "an unknown unit": device.item(*RETURN, "76.4", "furlong"),
        "an unknown reason": device.item(*RETURN, "", source="not_possible", reason="lazy"),
        "undone of nothing": device.item(*RETURN, "", source="withdrawn"),
        "half a letter": device.item(*RETURN, HALF_A_LETTER),
    }


def others(device):
    return {
        "half a letter in a remark": device.entry("remark", about="remark", text=f"hot {HALF_A_LETTER}"),
        "a remark that shows nothing": device.entry("remark", about="remark", text=NOTHING_SEEN),
        "a remark about nothing known": device.entry("remark", about="gossip", text="x"),
        "an unknown sight": device.seen("chimney", "lost"),
        "an unknown degree": device.seen("filter", "purple"),
        "an unknown action": device.entry("action", done="prayed"),
        "an action undone of nothing": device.entry("action", done="withdrawn"),
    }


def times(device):
    far, long_ago = datetime(2150, 1, 1, tzinfo=UTC), timezone.now() - timedelta(days=3)
    return {
        "a time to come": device.item(*RETURN, "76.4") | {"taken_at": far.isoformat()},
        "a time before the visit": device.item(*RETURN, "76.4") | {"taken_at": long_ago.isoformat()},
        "no time": device.item(*RETURN, "76.4") | {"taken_at": "9999-99-99"},
    }


def test_every_unknown_name_is_refused_and_what_is_good_behind_it_is_stored(device, signed_in, ours):
    bad = {**readings(device), **others(device), **times(device)}
    itself = device.item(*RETURN, "76.4")
    bad["an entry that replaces itself"] = itself | {"supersedes": itself["id"]}
    answers = device.send(*bad.values(), device.item(*RETURN, "76.4"))
    said = dict(zip((*bad, "good"), answers, strict=True))
    assert {name: a["status"] for name, a in said.items()} == dict.fromkeys(bad, "refused") | {"good": "stored"}
    assert all(a["message"] for name, a in said.items() if name != "good")
    assert (Reading.objects.count(), Observation.objects.count(), Remark.objects.count(), Action.objects.count()) == (
        1,
        0,
        0,
        0,
    )
    assert signed_in.get(ours.visit.get_absolute_url()).status_code == 200


def test_a_number_used_again_for_something_else_is_refused(device):
    """A retry says the same; the same number with another value or kind is another entry."""
    first = device.item(*RETURN, "76.4")
    again = [
        first,
        first | {"value": "78"},
        first | {"place": "outdoor"},
        device.seen("filter", "clean", id=first["id"]),
    ]
    assert [answer["status"] for answer in device.send(*again)] == ["stored", *["refused"] * 3]
    assert [answer["status"] for answer in device.send(first, *again[1:])] == ["duplicate", *["refused"] * 3]


@pytest.mark.parametrize("clock", [datetime(1970, 1, 1, tzinfo=UTC), datetime(2150, 6, 1, tzinfo=UTC)])
def test_a_clock_that_was_never_set_is_corrected_and_not_turned_away(device, clock):
    late = device.item(*RETURN, "76.4") | {"taken_at": (clock - timedelta(minutes=5)).isoformat()}
    assert device.send(late, clock=clock)[0]["status"] == "stored"
    assert abs(timezone.now() - Reading.objects.get().taken_at - timedelta(minutes=5)) < timedelta(seconds=30)


def test_days_without_a_network_are_no_reason_to_refuse(device, ours):
    ours.visit.started_at = timezone.now() - timedelta(days=6)
    ours.visit.save()
    read = timezone.now() - timedelta(days=6)
    assert device.send(device.item(*RETURN, "76.4") | {"taken_at": read.isoformat()})[0]["status"] == "stored"


@pytest.mark.parametrize("body", ["[" * 100_000, '{"device": ' + "[" * 50_000, json.dumps({"items": [[[]]]})])
def test_json_without_an_end_is_refused_whole(signed_in, body):
    response = signed_in.post(reverse("visits:entries"), body, content_type="application/json")
    assert response.status_code == 400


def test_a_visits_number_of_another_system_starts_nothing(signed_in, ours):
    other = System.objects.create(house=ours.house, name="other", nominal_tons=2.0)
    answer = signed_in.post(
        reverse("visits:start", args=[other.public_id]), {"visit": str(ours.visit.public_id)}, follow=True
    )
    assert "Another visit has that number" in answer.content.decode() and not other.visits.exists()


@pytest.mark.parametrize("rows", ["1024", "5000", "-1", "x"])
def test_rows_without_an_end_are_refused_and_the_page_stays(signed_in, ours, rows):
    data = {
        "form-TOTAL_FORMS": rows,
        "form-INITIAL_FORMS": "0",
        "form-0-name": "den",
        "form-0-diameter_in": "6",
        "form-0-duct": "flex",
    }
    answer = signed_in.post(reverse("houses:rooms", args=[ours.system.public_id]), data)
    assert answer.status_code == 200 and not ours.system.rooms.exists() and len(answer.content) < 100_000


def test_what_an_older_door_let_in_is_named_and_the_sheet_and_the_lists_open(device, signed_in, ours):
    """Rows from before a limit was moved, or a name taken out: left out of the judgement by name, the rest works."""
    device.whole_visit()
    given = {
        "round": ours.round,
        "person": ours.person,
        "device": uuid.uuid4(),
        "taken_at": timezone.now(),
        "source": "typed",
        "unit": "x",
    }
    odd = (("outdoor", "dry_bulb", "", 400.0), ("blower", "airflow", "by_ear", 1200.0), ("roof", "height", "", 30.0))
    for n, (place, quantity, variant, value) in enumerate(odd):
        slot = quantity + (f"@{variant}" if variant else "")
        Reading(
            **given,
            uuid=uuid.uuid4(),
            sequence=10_000 + n,
            place=place,
            quantity=quantity,
            slot=slot,
            variant=variant,
            typed="1",
            value=value,
        ).save()
    Observation(
        **{k: given[k] for k in ("round", "person", "device", "taken_at")},
        uuid=uuid.uuid4(),
        sequence=20_000,
        seen="filter",
        degree="purple",
    ).save()
    sheet = signed_in.get(ours.visit.get_absolute_url())
    assert sheet.status_code == 200 and "400 °F is left out" in sheet.content.decode()
    pages = [
        reverse("today:today"),
        reverse("visits:what_if"),
        f"{reverse('visits:what_if_past')}?rule=split_school&value=flat",
    ]
    pages.append(reverse("visits:current", args=[ours.visit.public_id, 1]))
    assert [signed_in.get(page).status_code for page in pages] == [200] * 4
    assert device.send(device.item("outdoor", "dry_bulb", "90.8"))[0]["status"] == "stored"


@pytest.mark.parts_fail
def test_an_error_of_the_engine_is_said_in_its_part_and_everything_else_works(
    device, signed_in, ours, monkeypatch, caplog
):
    def fails(*_args, **_more):
        raise ZeroDivisionError("no such number")

    device.whole_visit()
    sheet, preview = ours.visit.get_absolute_url(), reverse("visits:preview", args=[ours.visit.public_id, 1])
    for part in ("chart_of", "verdict_said", "place_marks", "fitting_actions", "airflow_notes"):
        with monkeypatch.context() as broken:
            broken.setattr(f"web.visits.bridge.results.{part}", fails)
            assert "This part cannot be shown" in whole_sheet(signed_in, ours.visit), part
            said = [signed_in.post(preview, {**SOUND, "station": at}) for at in ("read", "air", "judge", "fix")]
            failed = [answer for answer in said if "This part cannot be shown" in answer.content.decode()]
            assert failed, part
            assert failed[0].headers["X-Request-ID"] in failed[0].content.decode(), "the number to give"
    with monkeypatch.context() as broken:
        whole = results.assess

        def broken_with_readings(round_, *more, **named):
            return whole(round_, *more, **named) if not round_.readings else fails()

        broken.setattr(results, "assess", broken_with_readings)
        answers = device.send(device.item("supply_plenum", "dry_bulb", "56.0"))
        assert answers[0]["status"] == "stored", "what was read is kept"
        page = signed_in.get(sheet).content.decode()
        assert "These readings could not be worked out." in page and 'value="56.0"' in page and "Do not add" not in page
        for address in (
            "/",
            reverse("visits:what_if"),
            f"{reverse('visits:what_if_past')}?rule=split_school&value=flat",
            reverse("visits:current", args=[ours.visit.public_id, 1]),
            reverse("visits:of_system", args=[ours.system.public_id]),
        ):
            assert signed_in.get(address).status_code == 200, address
    assert "no such number" in caplog.text and str(ours.round.public_id) in caplog.text
    before = ours.round.assessments.count()
    device.send(device.seen("caps", "on"))
    assert ours.round.assessments.count() == before + 1, "assessed again as soon as that works"
