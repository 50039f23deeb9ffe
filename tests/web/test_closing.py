"""The end of a visit: what is in the way, who may, what comes later, and that nothing is doubled or lost."""

import uuid
from datetime import timedelta

import pytest
from django.urls import reverse
from django.utils import timezone

from engine.readings.closing import last_looks
from tests.web.conftest import words
from web.accounts.models import LEAD, User
from web.visits import changes
from web.visits.models import Closing, Reading

ALL_DONE = {f"look.{look.id}": "done" for look in last_looks("air_conditioner")}


def post(client, visit, name, **fields):
    return client.post(reverse(f"visits:{name}", args=[visit.public_id]), fields, follow=True)


@pytest.fixture
def lead(ours):
    return User.objects.create_user("lead", password="quite-long-enough", role=LEAD, shop=ours.shop, first_name="Lea")


@pytest.fixture
def visit(ours):
    return ours.visit


def seen_to(visit):
    return {look.id: "" for look in last_looks(visit.system.kind)}


def test_finishing_asks_for_what_is_left_and_keeps_what_was_typed(signed_in, visit):
    left = ALL_DONE.copy()
    del left["look.caps_tight"], left["look.holes_plugged"]
    page = post(
        signed_in, visit, "finish", **left, **{"why.holes_plugged": "No plugs left"}, for_customer="All is well."
    )
    assert "Still to see to, or to say why not: caps tight" in words(page) and not Closing.objects.exists()
    html = page.content.decode()
    assert "All is well." in html and 'value="No plugs left"' in html and html.count(" checked") >= len(left)
    page = post(signed_in, visit, "finish", **ALL_DONE, **{"why.caps_tight": "x"}, for_customer="All is well.")
    assert "Finished" in words(page) and "All is well." in words(page) and "This visit is finished." in words(page)
    kept = Closing.objects.get()
    assert kept.did == "finished" and set(kept.looks.values()) == {""} and kept.round == visit.rounds.get()


def test_a_fix_that_was_not_read_again_wants_its_reason_and_shows_it(signed_in, visit, device):
    device.send(device.entry("action", done="filter_changed"))
    assert "not read again" in words(post(signed_in, visit, "finish", **ALL_DONE))
    assert not Closing.objects.exists()
    page = post(signed_in, visit, "finish", **ALL_DONE, no_recheck_why="Shop closed at six")
    assert "Not read again after the fix: Shop closed at six" in words(page)


def test_pressed_twice_it_is_finished_once(signed_in, visit):
    number = str(uuid.uuid4())
    for _ in range(2):
        assert "Finished" in words(post(signed_in, visit, "finish", number=number, **ALL_DONE))
    assert Closing.objects.count() == 1
    assert "finished already" in words(post(signed_in, visit, "finish", number=str(uuid.uuid4()), **ALL_DONE))


def test_the_house_says_when_the_system_is_next_due_until_somebody_has_been_there(signed_in, ours, visit):
    house = reverse("visits:of_system", args=[visit.system.public_id])
    post(signed_in, visit, "finish", **ALL_DONE, next_due="2026-01-15")
    assert "Next due by Jan 15, 2026 overdue" in words(signed_in.get(house))
    changes.start_visit(ours.person, visit.system)
    assert "Next due" not in words(signed_in.get(house))


def test_entries_after_it_are_refused_and_those_taken_before_are_let_in_and_marked(signed_in, visit, device):
    changes.finish_visit(visit.holder, visit, seen_to(visit), at=timezone.now() - timedelta(minutes=5))
    before = (timezone.now() - timedelta(minutes=9)).isoformat()
    late, after = device.item("outdoor", "dry_bulb", "90.1", taken_at=before), device.item("outdoor", "dry_bulb", "91")
    answers = device.send(late, after)
    assert [a["status"] for a in answers] == ["stored", "refused"] and "finished" in answers[1]["message"]
    assert Reading.objects.filter(round__visit=visit).count() == 1
    assert "1 entry taken before that arrived later" in words(signed_in.get(visit.get_absolute_url()))
    page = post(signed_in, visit, "next_round", seen=1)
    assert "finished" in words(page) and "Settle and read again" not in words(page) and visit.rounds.count() == 1


def test_who_may_finish_reopen_and_review(client, signed_in, ours, visit, lead):
    other = User.objects.create_user("other", password="quite-long-enough", shop=ours.shop, first_name="Otto")
    client.force_login(other)
    assert "has this visit in hand" in words(post(client, visit, "finish", **ALL_DONE))
    changes.finish_visit(visit.holder, visit, seen_to(visit), at=timezone.now() - timedelta(days=2))
    for name, fields in (("reopen", {"words": "more"}), ("review", {"did": "reviewed"})):
        assert "lead" in words(post(signed_in, visit, name, **fields)).lower()
    assert Closing.objects.count() == 1, "a day later only a lead"
    client.force_login(lead)
    assert "Say what is to be done again" in words(post(client, visit, "review", did="returned"))
    page = words(post(client, visit, "review", did="returned", words="Read the statics"))
    assert "Returned to be done again" in page and "Read the statics" in page
    assert "Finish the visit" in words(signed_in.get(visit.get_absolute_url())), "it is open again"
    changes.finish_visit(visit.holder, visit, seen_to(visit))
    assert "Open again" in words(post(signed_in, visit, "reopen", words="Forgot the register"))
    assert [row.did for row in Closing.objects.order_by("id")] == ["finished", "returned", "finished", "reopened"]


def test_another_shop_does_not_know_of_it(client, theirs, visit):
    client.force_login(theirs.person)
    for name in ("finish", "reopen", "review"):
        assert client.post(reverse(f"visits:{name}", args=[visit.public_id]), ALL_DONE).status_code == 404
    assert not Closing.objects.exists()


def test_today_asks_about_what_was_left_open_and_never_closes_it(signed_in, visit):
    assert "Left open" not in words(signed_in.get("/"))
    type(visit).objects.filter(pk=visit.pk).update(started_at=timezone.now() - timedelta(hours=20))
    assert "Left open" in words(signed_in.get("/")) and "Finish it, or go on." in words(signed_in.get("/"))
    visit.refresh_from_db()
    changes.finish_visit(visit.holder, visit, seen_to(visit))
    page = words(signed_in.get("/"))
    assert "Left open" not in page and str(visit.system) in page, "under recent"


def test_what_was_typed_comes_back_on_its_own_visit_alone(signed_in, ours, visit):
    other = changes.start_visit(ours.person, ours.system)
    signed_in.post(reverse("visits:finish", args=[visit.public_id]), {"for_customer": "The filter was blocked."})
    assert "The filter was blocked." not in words(signed_in.get(other.get_absolute_url()))
