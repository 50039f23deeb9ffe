"""The end of a visit: what is in the way, who may, what comes later, and that nothing is doubled or lost."""

import uuid
from datetime import timedelta

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.urls import reverse
from django.utils import timezone

from engine.readings.closing import last_looks
from tests.web.conftest import a_picture, words
from web.accounts.models import User
from web.accounts.rights import LEAD
from web.visits import changes
from web.visits.models import RETURNED, Closing, Reading

ALL_DONE = {f"look.{look.id}": "done" for look in last_looks("air_conditioner")}


@pytest.fixture
def lead(ours):
    return User.objects.create_user("lead", password="quite-long-enough", role=LEAD, shop=ours.shop, first_name="Lea")


@pytest.fixture
def visit(ours):
    return ours.visit


def seen_to(visit):
    return {look.id: "" for look in last_looks(visit.system.kind)}


@pytest.fixture
def step(signed_in, device):
    """Takes a step as the outbox sends it; answers what became of it, and in which words."""

    def take(did, by=None, number=None, **says):
        if by:
            device.client.force_login(by)
        [answer] = device.send(device.entry("closing", says={"did": did, **says}, **({"id": number} if number else {})))
        return answer["status"], answer["message"]

    return take


def test_finishing_asks_for_what_is_left(signed_in, visit, step):
    left = ALL_DONE.copy()
    del left["look.caps_tight"], left["look.holes_plugged"]
    status, why = step("finished", **left, **{"why.holes_plugged": "No plugs left"})
    assert (
        status == "refused" and "Still to see to, or to say why not: caps tight" in why and not Closing.objects.exists()
    )
    assert step("finished", **ALL_DONE, next_due="next May")[1].startswith("Next due is a day")
    assert step("finished", **ALL_DONE, **{"why.caps_tight": "x"}, for_customer="All is well.") == ("stored", "")
    page = words(signed_in.get(visit.get_absolute_url()))
    assert "All is well." in page and "This visit is finished." in page
    kept = Closing.objects.get()
    assert kept.did == "finished" and set(kept.looks.values()) == {""} and kept.round == visit.rounds.get()


def test_a_fix_that_was_not_read_again_wants_its_reason_and_shows_it(signed_in, visit, device, step):
    device.send(device.entry("action", done="filter_changed"))
    status, why = step("finished", **ALL_DONE)
    assert status == "refused" and "not read again" in why and not Closing.objects.exists()
    assert step("finished", **ALL_DONE, no_recheck_why="Shop closed at six")[0] == "stored"
    assert "Not read again after the fix: Shop closed at six" in words(signed_in.get(visit.get_absolute_url()))


def test_sent_twice_it_is_finished_once(visit, step):
    number = str(uuid.uuid4())
    assert [step("finished", number=number, **ALL_DONE)[0] for _ in range(2)] == ["stored", "stored"]
    assert Closing.objects.count() == 1
    assert "finished already" in step("finished", **ALL_DONE)[1]
    assert "taken by another" in step("reopened", number=number, words="x")[1]


def test_the_house_says_when_the_system_is_next_due_until_somebody_has_been_there(signed_in, ours, visit, step):
    house = reverse("visits:of_system", args=[visit.system.public_id])
    step("finished", **ALL_DONE, next_due="2026-01-15")
    assert "Next due by Jan 15, 2026 overdue" in words(signed_in.get(house))
    changes.start_visit(ours.person, visit.system)
    assert "Next due" not in words(signed_in.get(house))


def test_pictures_are_chosen_for_the_report_and_only_of_this_system(signed_in, ours, theirs, visit, step):
    of_theirs = changes.add_photo(theirs.person, uuid.uuid4(), theirs.system, theirs.round, "filter", a_picture())
    mine = [
        changes.add_photo(ours.person, uuid.uuid4(), visit.system, ours.round, s, a_picture())
        for s in ("filter", "coil")
    ]
    assert f'name="picture.{mine[0].public_id}"' in signed_in.get(visit.get_absolute_url()).content.decode()
    chosen = {f"picture.{id_}": "yes" for id_ in (mine[1].public_id, of_theirs.public_id, "none")}
    assert step("finished", **ALL_DONE, **chosen)[0] == "stored"
    assert Closing.objects.get().pictures == [str(mine[1].public_id)]
    assert "Pictures for the report" in words(signed_in.get(visit.get_absolute_url()))


def test_entries_after_it_are_refused_and_those_taken_before_are_let_in_and_marked(signed_in, visit, device):
    changes.finish_visit(visit.holder, visit, seen_to(visit), at=timezone.now() - timedelta(minutes=5))
    before = (timezone.now() - timedelta(minutes=9)).isoformat()
    late, after = device.item("outdoor", "dry_bulb", "90.1", taken_at=before), device.item("outdoor", "dry_bulb", "91")
    answers = device.send(late, after)
    assert [a["status"] for a in answers] == ["stored", "refused"] and "finished" in answers[1]["message"]
    assert Reading.objects.filter(round__visit=visit).count() == 1
    assert "1 entry taken before that arrived later" in words(signed_in.get(visit.get_absolute_url()))
    page = signed_in.post(reverse("visits:next_round", args=[visit.public_id]), {"seen": 1}, follow=True)
    assert "finished" in words(page) and "Settle and read again" not in words(page) and visit.rounds.count() == 1


def test_however_many_come_late_it_is_asked_once_when_the_visit_ended(visit, device):
    changes.finish_visit(visit.holder, visit, seen_to(visit), at=timezone.now() - timedelta(minutes=5))
    before = [(timezone.now() - timedelta(minutes=20 - n)).isoformat() for n in range(12)]
    late = [device.item("outdoor", "dry_bulb", f"{88 + n}", taken_at=at) for n, at in enumerate(before)]
    with CaptureQueriesContext(connection) as asked:
        answers = device.send(*late)
    assert {answer["status"] for answer in answers} == {"stored"}
    assert sum("FROM `visits_closing`" in query["sql"] for query in asked) == 1


def test_who_may_finish_reopen_and_review(signed_in, ours, visit, lead, step):
    other = User.objects.create_user("other", password="quite-long-enough", shop=ours.shop, first_name="Otto")
    assert "has this visit in hand" in step("finished", by=other, **ALL_DONE)[1]
    changes.finish_visit(visit.holder, visit, seen_to(visit), at=timezone.now() - timedelta(days=2))
    assert "lead" in step("reopened", by=ours.person, words="more")[1], "a day later only a lead"
    assert "lead" in step("reviewed")[1] and Closing.objects.count() == 1
    assert "Say what is to be done again" in step("returned", by=lead)[1]
    assert step("returned", words="Read the statics")[0] == "stored"
    signed_in.force_login(ours.person)
    page = words(signed_in.get(visit.get_absolute_url()))
    assert "Finish the visit" in page and "Returned to be done again" in page and "Read the statics" in page
    changes.finish_visit(visit.holder, visit, seen_to(visit))
    assert step("reopened", words="Forgot the register")[0] == "stored"
    assert [row.did for row in Closing.objects.order_by("id")] == ["finished", "returned", "finished", "reopened"]
    assert step("burnt")[0] == "refused"


def test_another_shop_does_not_know_of_it(theirs, visit, step):
    for did in ("finished", "reopened", "returned"):
        assert "not open to you" in step(did, by=theirs.person, **ALL_DONE)[1]
    assert not Closing.objects.exists()


def test_today_asks_about_what_was_left_open_and_never_closes_it(signed_in, visit):
    assert "Left open" not in words(signed_in.get("/"))
    type(visit).objects.filter(pk=visit.pk).update(started_at=timezone.now() - timedelta(hours=20))
    assert "Left open" in words(signed_in.get("/")) and "Finish it, or go on." in words(signed_in.get("/"))
    visit.refresh_from_db()
    changes.finish_visit(visit.holder, visit, seen_to(visit))
    page = words(signed_in.get("/"))
    assert "Left open" not in page and str(visit.system) in page, "under recent"
    type(visit).objects.filter(pk=visit.pk).update(started_at=timezone.now() - timedelta(days=200), ended=RETURNED)
    assert "returned Finish it, or go on." in words(signed_in.get("/")), "however old it is"
