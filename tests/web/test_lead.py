"""What finished visits came to, and the lead's page: worst first, each number the count of its visits."""

import csv
import io
from datetime import timedelta

import pytest
from django.urls import reverse
from django.utils import timezone

from tests.web.conftest import words
from tests.web.test_due import finish, on_the_shops_clock  # noqa: F401
from tests.web.test_gauges import keep, low, pressures  # noqa: F401
from web.accounts.models import User
from web.accounts.rights import LEAD
from web.background.models import Work
from web.history import due, due_kinds, lead
from web.history.models import VisitSummary
from web.history.summaries import summarise, to_summarise
from web.history.tasks import SUMMARISE
from web.visits import changes
from web.visits.models import Round, Visit

PAGE, LIST, CSV = (reverse(f"history:{name}") for name in ("lead", "lead_visits", "lead_csv"))


def work_out():
    """As the queue does."""
    while steps := to_summarise(3):
        summarise(*steps)


def earlier(visit, days):
    at = timezone.now() - timedelta(days=days)
    Visit.objects.filter(pk=visit.pk).update(started_at=at)
    Round.objects.filter(visit=visit).update(started_at=at)


@pytest.fixture
def boss(signed_in, ours):
    User.objects.filter(pk=ours.person.pk).update(role=LEAD)
    ours.person.refresh_from_db()
    return signed_in


def counts(ours, **by):
    """Every list's count for the person, by its id."""
    narrowed = lead.Narrowed(**by)
    return {id_: lead.keys_of(ours.person, id_, narrowed).count() for id_ in lead.WHATS}


def only(counted):
    return {id_: n for id_, n in counted.items() if n}


def test_a_sound_visit_counts_as_finished_and_told_without_gauges(boss, ours, device):
    device.whole_visit()
    assert only(counts(ours)) == {}, "not before it is finished"
    finish(ours, ours.visit)
    assert lead.not_worked_out(ours.person) == 1 and "1 visit finished lately is not counted" in words(boss.get(PAGE))
    work = Work.objects.create(shop=ours.shop, kind="summarise")
    assert SUMMARISE.step(work).done == 1 and SUMMARISE.step(work).ended
    assert only(counts(ours)) == {"finished": 1, "without": 1, "not_known": 1}
    row = VisitSummary.objects.get()
    assert (row.state, row.headline, row.is_last) == ("sound", "This system does what it should today.", True)
    device.send(device.entry("outcome", says={"did": "right", "by": "gauges"}))
    assert only(counts(ours)) == {"finished": 1, "without": 1, "known": 1}
    changes.review_visit(ours.person, ours.visit, "Read the statics", again=True)
    work_out()
    assert only(counts(ours)) == {"returned": 1}


def test_a_step_that_was_seen_late_is_worked_out_all_the_same(ours):
    """Its key is lower than that of one worked out before: two visits were finished at the same moment."""
    other = changes.start_visit(ours.person, ours.system)
    for visit in (ours.visit, other):
        finish(ours, visit)
    first, second = to_summarise(2)
    summarise(second)
    assert to_summarise(5) == [first]
    work_out()
    assert VisitSummary.objects.count() == 2 and to_summarise(5) == []


def test_a_fault_stays_out_of_line_until_the_next_visit_and_a_fix_makes_a_call_back(boss, ours, device):
    device.whole_visit()
    device.send(
        device.entry("observation", seen="filter", degree="blocked"), device.entry("action", done="filter_changed")
    )
    finish(ours, ours.visit, no_recheck_why="Customer left")
    earlier(ours.visit, 12)
    work_out()
    found = counts(ours)
    assert found["out_of_line"] == 1 and VisitSummary.objects.get().fixed
    shown = words(boss.get(PAGE))
    assert "Out of line now 1" in shown and "The filter is blocked." in shown and "None: drifting" in shown
    again = changes.start_visit(ours.person, ours.system)
    finish(ours, again)
    work_out()
    found = counts(ours)
    assert (found["out_of_line"], found["cannot_tell"], found["called_back"], found["finished"]) == (0, 1, 1, 2)
    assert counts(ours, days=5)["finished"] == 1
    ours.system.machine += 1
    ours.system.save()
    assert counts(ours)["cannot_tell"] == 0, "another machine owes nothing to it"


def test_gauges_that_changed_the_verdict_say_what_it_would_have_been(boss, ours, low, keep):  # noqa: F811
    assert keep("hook_up", did="on", port__low="on", port__high="on")[0] == "stored"
    pressures(low, condensing=132.0)
    finish(ours, ours.visit, no_recheck_why="Settled")
    work_out()
    row, found = VisitSummary.objects.get(), counts(ours)
    assert row.hooked and found["hooked"] == 1 and found["without"] == 0
    assert found["changed"] == 1 and row.without_gauges not in ("", row.headline)
    assert f"Without gauges: {row.without_gauges}" in words(boss.get(LIST, {"what": "changed"}))


def test_open_too_long_is_listed_the_oldest_first(boss, ours):
    second = changes.start_visit(ours.person, ours.system)
    for visit, days in ((ours.visit, 2), (second, 40)):
        earlier(visit, days)
    assert list(lead.keys_of(ours.person, "open", lead.Narrowed())) == [second.pk, ours.visit.pk]


def test_it_is_narrowed_by_person_model_area_and_time_and_keeps_that_in_the_address(boss, ours, device):
    device.whole_visit()
    finish(ours, ours.visit)
    work_out()
    ours.system.model, ours.house.weather_place = "Maker Z 36", "Ridge"
    ours.system.save()
    ours.house.save()
    who = str(ours.person.public_id)
    for by, n in (
        ({"model": "z 36"}, 1),
        ({"model": "Q"}, 0),
        ({"area": "Ridge"}, 1),
        ({"area": "Vale"}, 0),
        ({"person": who}, 1),
    ):
        assert counts(ours, **by)["finished"] == n, by
        shown = boss.get(LIST, {"what": "finished", **by})
        assert ("Ours house, main" in words(shown)) == bool(n)
    page = boss.get(PAGE, {"person": who, "model": "Z", "days": "365"}).content.decode()
    assert f"what=finished&amp;days=365&amp;person={who}&amp;model=Z" in page.replace("&amp;amp;", "&amp;")
    for odd in ({"person": "x"}, {"days": "-3"}, {"days": "9999999"}, {"area": "'"}, {"model": "%"}, {"page": "z"}):
        assert boss.get(PAGE, odd).status_code == boss.get(LIST, {"what": "open", **odd}).status_code == 200
    assert boss.get(LIST, {"what": "everything"}).status_code == 404


def test_the_file_has_a_line_a_visit_and_no_formula(boss, ours, device):
    device.whole_visit()
    finish(ours, ours.visit)
    work_out()
    ours.system.name = "=1+1"
    ours.system.save()
    [row] = csv.DictReader(io.StringIO(boss.get(CSV).content.decode()))
    assert (row["system"], row["state"], row["gauges"], row["person"]) == ("'=1+1", "sound", "", "Ana T.")


def test_it_is_the_leads_alone_and_its_queries_do_not_grow(
    signed_in, ours, theirs, device, django_assert_max_num_queries
):
    for address in (PAGE, CSV, f"{LIST}?what=open"):
        assert signed_in.get(address).status_code == 403
    User.objects.update(role=LEAD)
    for _ in range(8):
        finish(ours, changes.start_visit(ours.person, ours.system))
    work_out()
    with django_assert_max_num_queries(36):
        assert "Finished" in words(signed_in.get(PAGE))
    signed_in.force_login(theirs.person)
    assert "Ours house" not in words(signed_in.get(PAGE)) + words(signed_in.get(f"{LIST}?what=finished"))


def test_a_filter_is_due_by_what_was_read_of_it(ours, device):
    """By its drop where that has doubled, else by the months of the rule; not where maintenance comes first."""
    device.whole_visit()
    device.send(
        device.item("filter", "pressure_drop", "0.07", "inwc"),
        device.entry("observation", seen="filter", degree="clean"),
    )
    finish(ours, ours.visit)
    earlier(ours.visit, 200)
    work_out()
    [row] = [row for row in due.due_of(ours.person) if row.kind == due_kinds.FILTER]
    assert 160 <= (row.on - timezone.localdate()).days <= 170 and row.why == "By months since it was new or seen clean"
    visit = changes.start_visit(ours.person, ours.system)
    device.shop.round = visit.rounds.get()
    device.send(device.item("filter", "pressure_drop", "0.15", "inwc"))
    finish(ours, visit)
    work_out()
    [row] = [row for row in due.due_of(ours.person) if row.kind == due_kinds.FILTER]
    assert row.on == timezone.localdate() and row.why == "Its drop is 0.15 in. w.c.; it is changed at 0.14"
    changes.reopen_visit(ours.person, visit, "More to say")
    finish(ours, visit, next_due=timezone.localdate(), next_mode="cooling")
    work_out()
    assert [row.kind for row in due.due_of(ours.person)] == [due_kinds.MAINTENANCE], "the maintenance looks at it"
