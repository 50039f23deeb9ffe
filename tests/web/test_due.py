"""What is due: read from the record, moved with a reason, taken off by the visit that does it."""

import uuid
from datetime import date, timedelta

import pytest
from django.urls import reverse
from django.utils import timezone

from tests.web.conftest import words
from tests.web.test_baseline import fit, seal
from web.history import due, due_kinds, services
from web.visits import changes
from web.visits.bridge import vocabulary
from web.visits.models import Action, DueMove, FollowUp

ADDRESS = reverse("history:due")


@pytest.fixture(autouse=True)
def on_the_shops_clock():
    """Days are the shop's, whichever hour it is here."""
    with timezone.override("America/Denver"):
        yield


def day(days):
    return timezone.localdate() + timedelta(days=days)


def finish(ours, visit, **said):
    looks = {look.id: "" for look in vocabulary.last_looks(visit.system.kind)}
    return changes.finish_visit(ours.person, visit, looks, **said)


def page(client, **asked):
    return words(client.get(ADDRESS, asked))


@pytest.fixture
def maintained(ours):
    """Our machine's visit, finished with maintenance due five days ago."""
    return finish(ours, ours.visit, next_due=day(-5))


def test_maintenance_is_due_by_the_day_that_was_left_until_a_visit_does_it(signed_in, ours, maintained):
    shown = page(signed_in)
    assert f"Overdue Ours house, main : maintenance by {day(-5):%b} {day(-5).day}, {day(-5).year}" in shown
    visit = changes.start_visit(ours.person, ours.system)
    assert "maintenance by" in page(signed_in), "not before it is finished"
    finish(ours, visit, next_due=day(300))
    [row] = due.due_of(ours.person)
    assert row.on == day(300) and "Later Ours house" in page(signed_in)
    changes.reopen_visit(ours.person, visit, "Forgot the filter")
    assert due.due_of(ours.person) == [], "a visit that is open again leaves nothing yet"


def test_follow_ups_fixes_not_read_again_and_ended_baselines_are_on_it(signed_in, ours, device):
    assert seal(fit(device)) == ("stored", "")
    device.send(device.entry("action", done="blower_changed"))
    assert Action.objects.count() == 1
    finish(ours, ours.visit, no_recheck_why="The customer had to leave")
    changes.open_follow_up(ours.person, ours.system, "Bring the filter", "charge", day(3))
    kinds = {row.kind: row for row in due.due_of(ours.person)}
    assert kinds.keys() == {due_kinds.FOLLOW_UP, due_kinds.RECHECK, due_kinds.BASELINE}
    assert kinds[due_kinds.RECHECK].on == day(14) and kinds[due_kinds.RECHECK].why == "The customer had to leave"
    baseline = kinds[due_kinds.BASELINE]
    assert (baseline.why, baseline.label) == ("Blower or its motor changed", "A new baseline in cooling")
    shown = page(signed_in)
    assert "blocks adding refrigerant" in shown and "Bring the filter" in shown
    assert "Bring the filter" not in page(signed_in, kind=due_kinds.RECHECK) and "Nothing is due of that kind" in page(
        signed_in, q="elsewhere"
    )
    later = changes.open_follow_up(ours.person, ours.system, "Some time")
    assert "No day set Ours house, main : follow-up Ana T. Some time." in page(signed_in)
    changes.close_follow_up(ours.person, later, "Done")
    changes.close_follow_up(ours.person, FollowUp.objects.get(text="Bring the filter"), "Brought")
    assert "Bring the filter" not in page(signed_in)


def test_it_is_moved_with_a_reason_and_twice_is_once(signed_in, ours, maintained):
    [row] = due.due_of(ours.person)
    sent = {"kind": row.kind, "ref": row.ref, "until": day(9).isoformat(), "why": "On holiday"}
    refused = words(signed_in.post(ADDRESS, sent | {"why": ""}))
    assert "Say why it is moved." in refused
    assert f'value="{day(9).isoformat()}"' in signed_in.post(ADDRESS, sent | {"why": ""}).content.decode(), "it stays"
    assert "still to come" in words(signed_in.post(ADDRESS, sent | {"until": day(0).isoformat()}))
    assert "Say until which day." in words(signed_in.post(ADDRESS, sent | {"until": ""}))
    assert "not due any more" in words(signed_in.post(ADDRESS, sent | {"ref": "0"}))
    number = "0b51a3a4-6b6e-4c8e-9f0e-6a3f4f0c1d11"
    for _ in range(2):
        shown = words(signed_in.post(ADDRESS, sent | {"number": number}, follow=True))
    assert DueMove.objects.count() == 1 and "by Ana T.: On holiday" in shown and "Overdue" not in shown
    assert due.due_of(ours.person)[0].on == day(9)


def test_its_pages_are_one_list_in_order_whatever_was_moved_or_has_no_day(ours, maintained, monkeypatch):
    monkeypatch.setattr(due, "AT_ONCE", 4)
    for n in range(14):
        on = {} if n % 5 == 4 else {"due_on": day(n * 3 % 11)}
        changes.open_follow_up(ours.person, ours.system, f"No {n}", **on)
    first, *_ = due.due_of(ours.person)
    services.move_due(ours.person, first, day(6), "On holiday", uuid.uuid4())
    whole = due.Listing(ours.person)[:]
    days = [row.on or date.max for row in whole]
    assert days == sorted(days) and (len(whole), days[0], days.count(date.max)) == (15, day(0), 2)
    assert [row.on for row in whole if row.ref == first.ref] == [day(6)]
    parts = [row for n in range(0, 15, 3) for row in due.Listing(ours.person)[n : n + 3]]
    assert parts == whole and len(due.Listing(ours.person)) == 15


def test_queries_do_not_grow_and_another_shop_sees_nothing(
    signed_in, ours, theirs, maintained, django_assert_max_num_queries
):
    for n in range(70):
        changes.open_follow_up(ours.person, ours.system, f"No {n:02}")
    with django_assert_max_num_queries(13):
        shown = signed_in.get(ADDRESS, {"kind": due_kinds.FOLLOW_UP, "q": "ours"})
    assert "No 59" in words(shown) and "No 60" not in words(shown)
    assert 'href="?page=2&amp;kind=follow_up&amp;q=ours"' in shown.content.decode(), "filters stay in the address"
    assert "No 60" in page(signed_in, kind=due_kinds.FOLLOW_UP, page=2)
    [row] = [row for row in due.due_of(ours.person) if row.kind == due_kinds.MAINTENANCE]
    signed_in.force_login(theirs.person)
    assert "Ours house" not in page(signed_in)
    sent = {"kind": row.kind, "ref": row.ref, "until": day(9).isoformat(), "why": "Mine"}
    assert "not due any more" in words(signed_in.post(ADDRESS, sent)) and not DueMove.objects.exists()
