"""A machine over the years: strings against its anchor, what drifts, the table and the CSV, and who may see them."""

import csv
from datetime import timedelta
from types import SimpleNamespace

import pytest
from django.urls import reverse
from django.utils import timezone

from tests.web.conftest import Device, words
from web.accounts.models import User
from web.visits import changes
from web.visits.models import Baseline, Round, Visit

LIQUIDS = (101.0, 102.2, 103.4, 104.6, 105.8)


def visit_with(ours, client, liquid, years_ago, person=None, done=""):
    """A visit so long ago, with a liquid line [°F] and all a baseline needs; done: an action after it."""
    visit = changes.start_visit(person or ours.person, ours.system)
    device = Device(client, SimpleNamespace(**vars(ours) | {"visit": visit, "round": visit.rounds.get()}))
    device.whole_visit()
    items = [
        device.seen("panels", "on"),
        device.seen("condenser_coil", "dry"),
        device.item("return_plenum", "static_pressure", "-0.20", "inwc"),
        device.item("supply_plenum", "static_pressure", "0.22", "inwc"),
        device.item("liquid_line_outdoor", "temperature", str(liquid)),
    ]
    items += [device.entry("action", done=done)] if done else []
    assert {answer["status"] for answer in device.send(*items)} == {"stored"}
    when = timezone.now() - timedelta(days=365 * years_ago)
    Visit.objects.filter(pk=visit.pk).update(started_at=when)
    Round.objects.filter(visit=visit).update(started_at=when)
    return visit


@pytest.fixture
def leaking(ours, signed_in):
    """Five half-yearly visits in which the liquid line rises; the first is sealed."""
    visits = [visit_with(ours, signed_in, liquid, 2.0 - n / 2) for n, liquid in enumerate(LIQUIDS)]
    changes.seal(ours.person, visits[0].rounds.select_related("visit__system").get(), "All in range")
    return visits


def page(client, ours):
    return client.get(reverse("history:system", args=[ours.system.public_id]))


def test_a_drift_is_said_with_its_margin_and_every_row_leads_to_its_round(signed_in, ours, leaking):
    shown = page(signed_in, ours)
    said = words(shown)
    assert "Losing charge, or the condenser is getting dirty." in said
    assert "Approach has risen 2.4 ± " in said and "a year since" in said
    for visit in leaking:
        assert f'href="{reverse("visits:round", args=[visit.public_id, 1])}#judge"' in shown.content.decode()
    assert "baseline" in said and "drifting up" in said


def test_what_drifts_is_said_where_a_visit_begins(signed_in, ours, leaking):
    assert "Losing charge, or the condenser is getting dirty. Approach has risen" in words(
        signed_in.get(reverse("history:said", args=[ours.system.public_id]))
    )


def test_the_visit_one_is_at_is_left_out_of_what_drifts(signed_in, ours):
    sealed, here = (visit_with(ours, signed_in, liquid, ago) for liquid, ago in ((101.0, 2.0), (112.0, 0.0)))
    changes.seal(ours.person, sealed.rounds.select_related("visit__system").get(), "All in range")
    address = reverse("history:said", args=[ours.system.public_id])
    assert "Approach has risen" in words(signed_in.get(f"{address}?but=no-number"))
    assert "Approach has risen" not in words(signed_in.get(f"{address}?but={here.public_id}"))


def test_the_csv_has_each_point_less_its_anchor(signed_in, ours, leaking):
    answer = signed_in.get(reverse("history:csv", args=[ours.system.public_id]))
    rows = [row for row in csv.DictReader(answer.content.decode().splitlines()) if row["quantity"] == "approach"]
    off = [float(row["off"]) for row in rows]
    assert off == pytest.approx([liquid - LIQUIDS[0] for liquid in LIQUIDS], abs=0.05), "nought at the anchor"
    assert {row["expected_by"] for row in rows} == {"own_baseline"} and {row["unit"] for row in rows} == {"°F"}


def test_before_the_first_baseline_the_anchor_is_that_one_unless_another_machine_was_made(signed_in, ours):
    visit_with(ours, signed_in, 102.0, 3.0, done="compressor_changed")
    visit_with(ours, signed_in, 102.0, 2.0)
    sealed = visit_with(ours, signed_in, 101.0, 1.0)
    changes.seal(ours.person, sealed.rounds.select_related("visit__system").get(), "All in range")
    answer = signed_in.get(reverse("history:csv", args=[ours.system.public_id]))
    rows = [row for row in csv.DictReader(answer.content.decode().splitlines()) if row["quantity"] == "approach"]
    assert [row["expected_by"] for row in rows] == ["class_unknown", "own_baseline", "own_baseline"]
    assert float(rows[1]["off"]) == pytest.approx(1.0, abs=0.05)


def test_another_person_and_what_was_done_are_told_at_their_row(signed_in, ours):
    other = User.objects.create_user("bea", shop=ours.shop, first_name="Bea", last_name="Lund")
    visit_with(ours, signed_in, 101.0, 1.0, done="filter_changed")
    visit_with(ours, signed_in, 101.0, 0.5, person=other)
    assert "filter changed; by Bea L." in words(page(signed_in, ours))


def test_queries_do_not_grow_with_visits(signed_in, ours, leaking, django_assert_max_num_queries):
    with django_assert_max_num_queries(20):
        page(signed_in, ours)


def test_another_shop_does_not_know_of_it_and_nothing_read_is_said(client, signed_in, ours, theirs):
    assert "Nothing yet that can be followed" in words(page(signed_in, ours))
    assert not Baseline.objects.exists()
    client.force_login(theirs.person)
    for name in ("history:system", "history:csv", "history:said"):
        assert client.get(reverse(name, args=[ours.system.public_id])).status_code == 404
