"""The lead's lists against plain Python over the same summaries: what is in each, in which order, however they are
drawn; each number is the count of its list, and another shop's are in none.
"""

from datetime import timedelta
from random import Random

import pytest
from django.utils import timezone

from web.accounts.models import User
from web.accounts.rights import LEAD
from web.history import lead
from web.history.models import VisitSummary
from web.visits.bridge.stored import FAULTS, SOUND, UNTOLD
from web.visits.changes import start_visit
from web.visits.models import FINISHED, Closing, Outcome, Visit

STATES = (*FAULTS, SOUND, *UNTOLD, "")
DRAWS = 40


def drawn(random, shop):
    """A finished visit, or one opened again, with a summary of any kind."""
    visit = start_visit(shop.person, shop.system)
    at = timezone.now() - timedelta(days=random.choice((1, 20, 80, 100, 300, 900)), minutes=random.randrange(900))
    Visit.objects.filter(pk=visit.pk).update(started_at=at, ended=FINISHED)
    round_ = visit.rounds.get()
    closing = Closing.objects.create(shop=shop.shop, visit=visit, round=round_, did=FINISHED, person=shop.person)
    row = VisitSummary.objects.create(
        visit=visit, shop=shop.shop, system=shop.system, person=shop.person, closing=closing, started_at=at,
        machine=random.choice((1, 1, 1, 2)), finished=random.random() < 0.85,
        is_last=random.choice((True, True, None)), state=random.choice(STATES),
        drifts=random.choice(("", "", "Its approach creeps up.")), hooked=random.random() < 0.4,
        without_gauges=random.choice(("", "Low airflow.")), calls_back=random.random() < 0.2,
    )  # fmt: skip
    if random.random() < 0.3:
        Outcome.objects.create(
            shop=shop.shop, round=round_, person=shop.person, at=at, right=True, by="gauges", engine_version="1",
            said_state=SOUND, said_group="healthy", said_headline="Sound.", said_probability=0.9,
        )  # fmt: skip
    return row


def belongs(row, what, since):
    """Whether a summary is in a list, as its line on the page says."""
    told = row.state in (*FAULTS, SOUND)
    known = Outcome.objects.filter(round__visit=row.visit).exists()
    now = row.is_last and row.machine == row.system.machine
    in_time = row.started_at >= since
    return row.finished and {
        "out_of_line": now and row.state in FAULTS, "drifting": now and bool(row.drifts),
        "cannot_tell": now and row.state in (*UNTOLD, ""), "finished": in_time,
        "without": in_time and not row.hooked and told, "hooked": in_time and row.hooked,
        "changed": in_time and row.hooked and bool(row.without_gauges), "called_back": in_time and row.calls_back,
        "known": in_time and known, "not_known": in_time and not known and told,
    }[what]  # fmt: skip


def in_order(rows, what):
    """Of machines the worst first, then the longest so; of a stretch of time the newest first."""
    if lead.WHATS[what].of == lead.IN_TIME:
        return sorted(rows, key=lambda row: (row.started_at, row.pk), reverse=True)
    worst = {state: n for n, state in enumerate(FAULTS)}
    return sorted(rows, key=lambda row: (worst.get(row.state, len(FAULTS)), row.started_at, row.pk))


@pytest.fixture
def summaries(ours, theirs):
    User.objects.filter(pk=ours.person.pk).update(role=LEAD)
    ours.person.refresh_from_db()
    random = Random(2)
    for _ in range(5):
        drawn(random, theirs)
    return [drawn(random, ours) for _ in range(DRAWS)]


@pytest.mark.parametrize("days", [30, 90, 365])
def test_every_list_is_what_its_line_says_in_its_order(summaries, ours, days):
    by = lead.Narrowed(days=days)
    for what in (id_ for id_, of in lead.WHATS.items() if of.q is not None):
        wanted = in_order([row for row in summaries if belongs(row, what, by.since)], what)
        assert list(lead.keys_of(ours.person, what, by)) == [row.pk for row in wanted], what


def test_each_persons_numbers_add_up_to_the_lists(summaries, ours):
    by = lead.Narrowed(days=365)
    [(person, counted)] = lead.counts_by_person(ours.person, by)
    assert person == ours.person
    for what, count in counted.items():
        assert count == lead.keys_of(ours.person, what, by).count(), what
    assert (
        counted["known"] + counted["not_known"]
        <= counted["finished"]
        == counted["hooked"]
        + len([row for row in summaries if row.finished and row.started_at >= by.since and not row.hooked])
    )
