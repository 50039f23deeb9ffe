"""A machine over the years: strings against its anchor, what drifts, the table and the CSV, and who may see them."""

import csv
import re
from datetime import timedelta
from types import SimpleNamespace

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.urls import reverse
from django.utils import timezone

from engine.assessment import assess, table_of
from engine.kinds.machine import Earlier, known
from tests.web.conftest import Device, plain, whole_sheet, words
from web.accounts.models import User
from web.visits import changes
from web.visits.load.for_engine import stored_round
from web.visits.load.material import material_of
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


def test_before_one_leaves_it_is_said_with_what_was_read_today(signed_in, ours, leaking):
    sheet = signed_in.get(leaking[-1].get_absolute_url()).content.decode()
    close = sheet.split('id="at-close"')[1]
    asked = re.search(r'hx-get="([^"]+)" hx-trigger="intersect once"', close).group(1)
    assert "Approach has risen 2.4 ± " in words(signed_in.get(asked))
    assert "?but=" in sheet.split('id="at-arrive"')[1].split('id="at-settle"')[0], "on arriving, without today"


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
    assert off == pytest.approx([liquid - LIQUIDS[0] for liquid in LIQUIDS], abs=0.05), "zero at the anchor"
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
    with django_assert_max_num_queries(22):
        page(signed_in, ours)


def test_another_shop_does_not_know_of_it_and_nothing_read_is_said(client, signed_in, ours, theirs):
    assert "Nothing yet that can be followed" in words(page(signed_in, ours))
    assert not Baseline.objects.exists()
    client.force_login(theirs.person)
    for name in ("history:system", "history:csv", "history:said"):
        assert client.get(reverse(name, args=[ours.system.public_id])).status_code == 404


# -- what the visits since the baseline teach -----------------------------------------------------------------------


def sealed_and(ours, client, *liquids):
    """A sealed visit three years ago, one each half year since with these liquid lines, and one today with the last."""
    visits = [visit_with(ours, client, liquid, 3.0 - n / 2) for n, liquid in enumerate((101.0, *liquids[:-1]))]
    changes.seal(ours.person, visits[0].rounds.select_related("visit__system").get(), "All in range")
    for visit in visits[1:]:
        for round_ in visit.rounds.select_related("visit__system__house__shop"):
            changes.reassess(round_)
    return visit_with(ours, client, liquids[-1], 0.0)


def test_later_rounds_are_held_to_the_baseline_and_to_what_sound_visits_since_have_taught(signed_in, ours):
    today = sealed_and(ours, signed_in, 101.3, 101.2, 101.4, 101.1)
    page = plain(whole_sheet(signed_in, today))
    assert "its own baseline and 3 sound visits since, corrected to today" in page
    rounds = Round.objects.exclude(pk=ours.round.pk).select_related("visit__system__house__shop")
    rows = [material_of(round_) for round_ in rounds.order_by("pk")]
    first, *between, last = (stored_round(material) for material in rows)
    ago = [(m.round.started_at - rows[0].round.started_at).days / 365.25 for m in rows]
    earlier = [Earlier(years, table_of(r), True) for years, r in zip(ago[1:-1], between, strict=True)]
    table, trends = known(table_of(first), earlier)
    found, stored = assess(last, table, trends=trends), rows[-1].stored
    assert stored["quantities"]["approach"]["expected"]["value"] == pytest.approx(
        found.table["approach"].expected.value, abs=0.01
    )
    shown = signed_in.get(reverse("history:csv", args=[ours.system.public_id])).content.decode()
    off = [float(row["off"]) for row in csv.DictReader(shown.splitlines()) if row["quantity"] == "approach"]
    assert off[-1] == pytest.approx(101.1 - 101.0, abs=0.05), "the history keeps to the one anchor"


def test_a_drift_of_the_visits_before_speaks_for_what_creeps(signed_in, ours):
    today = sealed_and(ours, signed_in, 102.2, 103.4, 104.6, 105.8, 107.0)
    page = plain(whole_sheet(signed_in, today))
    assert "Approach has risen 2.4 ± " in page and "°F a year over the visits before." in page


def test_the_visits_before_cost_one_query_once_they_are_known(signed_in, ours):
    today = sealed_and(ours, signed_in, 101.3, 101.2, 101.4, 101.1)
    whole_sheet(signed_in, today)
    with CaptureQueriesContext(connection) as before:
        whole_sheet(signed_in, today)
    asked = [q["sql"] for q in before if "`visits_assessment`.`state`" in q["sql"]]
    assert len(asked) == 2, "one for the page, one for its first preview"
    assert not [q for q in before if "`visits_chargestep`" in q["sql"] and "system_id" in q["sql"]]
