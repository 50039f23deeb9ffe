"""A machine's baseline: which round may be sealed, what is judged against it, and what ends it."""

import uuid
from datetime import timedelta
from types import SimpleNamespace

import pytest
from django.utils import timezone

from engine.assessment import assess, table_of
from tests.web.conftest import Device, plain, whole_sheet, words
from web.accounts.models import User
from web.accounts.rights import LEAD
from web.houses.services import save_system
from web.visits import changes
from web.visits.load.for_engine import stored_round
from web.visits.load.material import material_of
from web.visits.models import Action, Baseline, Round

WHY = "Cleaned, settled, and all in range"


def at_visit(ours, client, visit):
    """A device at a visit's last round."""
    round_ = visit.rounds.order_by("-number").first()
    return Device(client, SimpleNamespace(**vars(ours) | {"visit": visit, "round": round_}))


def fit(device):
    """Readings that may become the baseline."""
    device.whole_visit()
    answers = device.send(
        device.seen("panels", "on"),
        device.seen("condenser_coil", "dry"),
        device.item("return_plenum", "static_pressure", "-0.20", "inwc"),
        device.item("supply_plenum", "static_pressure", "0.22", "inwc"),
        device.item("liquid_line_outdoor", "temperature", "101.0"),
    )
    assert {answer["status"] for answer in answers} == {"stored"}
    return device


def seal(device, why=WHY, **more):
    """What the end point answers to sealing: status and words."""
    [answer] = device.send(device.entry("baseline", says={"did": "sealed", "why": why}, **more))
    return answer["status"], answer["message"]


def do(device, done, **more):
    item = device.entry("action", done=done, **more)
    [answer] = device.send(item)
    assert answer["status"] == "stored", answer
    return item["id"]


@pytest.fixture
def sealed(device):
    assert seal(fit(device)) == ("stored", "")
    return Baseline.objects.get()


@pytest.fixture
def later(ours, signed_in, sealed):
    """A device at a visit that began after the baseline was read."""
    return at_visit(ours, signed_in, changes.start_visit(ours.person, ours.system))


def test_a_fit_round_is_sealed_by_name_with_its_reason_and_twice_is_once(signed_in, device, ours):
    number = str(uuid.uuid4())
    fit(device)
    assert "This round can be the baseline for cooling." in words(signed_in.get(ours.visit.get_absolute_url()))
    assert [seal(device, id=number) for _ in range(2)] == [("stored", "")] * 2
    row = Baseline.objects.get()
    assert (row.sealed_by, row.why, row.mode, row.live, row.round) == (ours.person, WHY, "cooling", True, ours.round)
    assert "filter" in row.lacks and "liquid_line_outdoor" not in row.lacks
    assert f"This round is the baseline for cooling: sealed by {ours.person.short_name}" in words(
        signed_in.get(ours.visit.get_absolute_url())
    )


def test_what_hinders_is_said_with_its_cure_on_the_page_and_at_the_door(signed_in, device, ours):
    device.whole_visit()
    page = words(signed_in.get(ours.visit.get_absolute_url()))
    assert "No static pressures. Read both sides: never leave without them." in page
    status, said = seal(device)
    assert status == "refused" and "No static pressures." in said and "whether the panels are on" in said
    assert not Baseline.objects.exists()


def test_every_later_round_is_judged_against_it_as_the_engine_does(signed_in, ours, sealed, later):
    fit(later)
    first, second = (
        stored_round(material_of(Round.objects.select_related("visit__system__house__shop").get(pk=pk)))
        for pk in (sealed.round_id, later.shop.round.pk)
    )
    by_engine = assess(second, table_of(first))
    stored = later.shop.round.assessments.latest("id").result
    authorities = {id_: q["authority"] for id_, q in stored["quantities"].items()}
    assert authorities == {id_: q.authority for id_, q in by_engine.quantities.items()}
    assert authorities["approach"] == authorities["split"] == "own_baseline"
    page = plain(whole_sheet(signed_in, later.shop.visit))
    assert "its own baseline, corrected to today; the published curves" in page, "one beside the other"
    assert "Judged against the baseline for cooling" in page and WHY in page


def test_the_sealed_round_and_those_before_it_are_not_judged_against_it(ours, sealed):
    own = ours.round.assessments.latest("id").result["quantities"]
    assert "own_baseline" not in {q["authority"] for q in own.values()}


@pytest.mark.parametrize(("says", "refused"), [
    ({"did": "sealed"}, "Say why"), ({"did": "weighed"}, "sealed or ended"),
    ({"did": "ended", "why": "x"}, "ended already"),
])  # fmt: skip
def test_what_cannot_be_is_refused_with_why(device, says, refused):
    fit(device)
    [answer] = device.send(device.entry("baseline", says=says))
    assert answer["status"] == "refused" and refused in answer["message"]


def test_a_round_of_another_plate_or_dated_ahead_is_refused(device, ours):
    fit(device)
    Round.objects.filter(pk=ours.round.pk).update(started_at=timezone.now() + timedelta(hours=3))
    assert "dated ahead" in seal(device)[1]
    Round.objects.filter(pk=ours.round.pk).update(started_at=timezone.now() - timedelta(hours=1))
    ours.system.model = "another"
    save_system(ours.person, ours.system, changed=True)
    assert "before its plate was changed" in seal(device)[1]


def test_an_open_follow_up_that_blocks_a_baseline_is_done_first(ours, device):
    fit(device)
    left = changes.open_follow_up(ours.person, ours.system, "Clean the wheel", "baseline")
    assert "A follow-up blocks a new baseline: Clean the wheel" in seal(device)[1]
    changes.close_follow_up(ours.person, left, "Cleaned")
    assert seal(device)[0] == "stored"


def test_two_at_once_are_refused_and_one_that_takes_the_others_place_keeps_it(later, sealed):
    fit(later)
    assert "There is one already" in seal(later)[1]
    says = {"did": "sealed", "why": WHY, "replaces": str(sealed.public_id)}
    assert later.send(later.entry("baseline", says=says))[0]["status"] == "stored"
    assert list(Baseline.objects.order_by("id").values_list("live", "ended_why")) == [
        (None, "Another took its place."),
        (True, ""),
    ]


def test_it_ends_by_what_was_done_to_the_machine_and_comes_back_where_that_was_taken_back(
    signed_in, ours, sealed, later
):
    fit(later)
    do(later, "filter_changed")
    sealed.refresh_from_db()
    assert sealed.live, "a filter makes no other machine of it"
    action = do(later, "compressor_changed")
    sealed.refresh_from_db()
    assert (sealed.live, sealed.ended_why) == (None, "Compressor changed")
    assert sealed.ended_by_action == Action.objects.get(uuid=action)
    page = words(signed_in.get(later.shop.visit.get_absolute_url()))
    assert "A new baseline is wanted for cooling: Compressor changed" in page
    assert "Compressor changed came after these readings" in seal(later)[1]
    after = at_visit(ours, signed_in, later.shop.visit)
    after.shop.round = changes.next_round(ours.person, later.shop.visit, 1)
    fit(after)
    stored = after.shop.round.assessments.latest("id").result["quantities"]
    assert "own_baseline" not in {q["authority"] for q in stored.values()}, "another machine now"
    do(later, "withdrawn", supersedes=action)
    sealed.refresh_from_db()
    assert sealed.live and sealed.ended_by_action is None


def test_only_a_lead_ends_one_by_hand_and_says_why(ours, device, sealed):
    [answer] = device.send(device.entry("baseline", says={"did": "ended", "why": "The liquid clamp was off"}))
    assert "A lead ends a baseline" in answer["message"]
    lead = User.objects.create_user("lead", password="quite-long-enough", role=LEAD, shop=ours.shop)
    device.client.force_login(lead)
    [answer] = device.send(device.entry("baseline", says={"did": "ended"}))
    assert "Say why" in answer["message"]
    [answer] = device.send(device.entry("baseline", says={"did": "ended", "why": "The liquid clamp was off"}))
    sealed.refresh_from_db()
    assert answer["status"] == "stored" and (sealed.live, sealed.ended_by) == (None, lead)


def test_another_shop_does_not_know_of_it(theirs, device, sealed):
    device.client.force_login(theirs.person)
    assert "not open to you" in seal(device)[1]
    assert not Baseline.objects.visible_to(theirs.person).exists()
