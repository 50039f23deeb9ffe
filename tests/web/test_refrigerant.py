"""The refrigerant log: facts are always kept, what is wrong leaves a follow-up, more is blocked until the leak was
looked for, and the sums agree with the steps.
"""

import csv
import uuid
from dataclasses import replace
from datetime import timedelta
from types import SimpleNamespace

import pytest
from django.urls import reverse
from django.utils import timezone

from tests.web.conftest import Device, plain, whole_sheet, words
from tests.web.test_gauges import keep, low, pressures  # noqa: F401
from web.history import ledger, services
from web.houserules.services import change
from web.houses.models import System
from web.visits import changes
from web.visits.bridge import vocabulary
from web.visits.models import BOUGHT, CORRECTED, ChargeStep, Cylinder, FollowUp, LeakSearch, Round, Visit

UNSEARCHED = "Refrigerant was added and no leak search is recorded: search before any more is added."


def step(number=1, way="add", before="226.5", after="220.5", **more):
    return {"number": str(number), "way": way, "before": before, "after": after, **more}


def later_visit(ours, client, days=0):
    """A device at another visit to our machine, so many days after the others."""
    if days:
        for model in (Visit, Round):
            for row in model.objects.all():
                model.objects.filter(pk=row.pk).update(started_at=row.started_at - timedelta(days=days))
    visit = changes.start_visit(ours.person, ours.system)
    return Device(client, SimpleNamespace(**vars(ours) | {"visit": visit, "round": visit.rounds.get()}))


def says(device, kind, **fields):
    [answer] = device.send(device.entry(kind, says={key.replace("__", "."): v for key, v in fields.items()}))
    return answer["status"], answer["message"]


def finish(ours, visit):
    looks = {look.id: "" for look in vocabulary.last_looks(visit.system.kind)}
    return changes.finish_visit(ours.person, visit, looks, no_recheck_why="Settled, on target")


def page(client, name, *args, **asked):
    return words(client.get(reverse(f"history:{name}", args=args), asked))


@pytest.mark.parametrize(("fields", "refused"), [
    ({"found": "perhaps"}, "Say what came of the search"), ({"found": "found"}, "Say where the leak is."),
    ({"found": "none", "repaired": "yes"}, "no leak was found"), ({"found": "none", "tested": "luck"}, "Say what came"),
])  # fmt: skip
def test_what_cannot_be_of_a_leak_search_comes_back_with_why(device, fields, refused):
    status, said = says(device, "leak_search", **fields)
    assert status == "refused" and refused in said and not LeakSearch.objects.exists()


def test_without_a_leak_search_a_follow_up_blocks_more_and_a_search_ends_it(signed_in, ours, low):  # noqa: F811
    pressures(low)
    assert says(low, "charge_step", **step())[0] == "stored"
    finish(ours, ours.visit)
    left = FollowUp.objects.get(text=UNSEARCHED)
    assert left.blocks == "charge" and left.closed_at is None
    again = later_visit(ours, signed_in, days=300)
    pressures(again)
    assert says(again, "leak_search", found="found", where="Valve core", repaired="yes", tested="soap")[0] == "stored"
    left.refresh_from_db()
    assert left.outcome == "Leak found: Valve core, repaired, soap bubbles"


def test_a_second_addition_waits_for_the_search_but_is_kept_where_it_happened(signed_in, ours, low):  # noqa: F811
    says(low, "charge_step", **step())
    finish(ours, ours.visit)
    FollowUp.objects.filter(text=UNSEARCHED).update(closed_at=timezone.now())
    again = later_visit(ours, signed_in, days=200)
    again.whole_visit()
    for place, value in (("liquid_line_outdoor", "106.5"), ("suction_line_outdoor", "66")):
        again.send(again.item(place, "temperature", value))
    again.send(again.item("supply_plenum", "dry_bulb", "60.5"), again.item("supply_plenum", "rh", "83", "pct"))
    looks = (("filter", "clean"), ("evaporator_face", "clean"), ("condenser_coil", "dry"))
    again.send(*(again.seen(name, degree) for name, degree in looks))
    pressures(again)
    shown = plain(whole_sheet(signed_in, again.shop.visit))
    assert "Add nothing yet." in shown and "no leak search is on record since" in shown
    assert says(again, "charge_step", **step())[0] == "stored", "a fact is kept"
    says(again, "leak_search", found="none", tested="electronic")
    assert "Add nothing yet." not in plain(whole_sheet(signed_in, again.shop.visit))


def test_another_refrigerant_is_kept_as_what_happened_and_left_to_be_put_right(signed_in, ours, low):  # noqa: F811
    says(low, "hook_up", did="opened", why="Maker asks")
    Cylinder.objects.create(shop=ours.shop, label="C-4", refrigerant="R-22", added_by=ours.person)
    assert says(low, "charge_step", **step(cylinder="C-4"))[0] == "stored"
    assert ChargeStep.objects.get().refrigerant == "R-22"
    [left] = FollowUp.objects.filter(text__startswith="R-22 was put into a machine for R-410A: recover all of it")
    assert left.blocks == "charge"
    assert "not the plate's" in page(signed_in, "refrigerant")
    status, said = says(low, "charge_step", **step(2, refrigerant="R-999"))
    assert status == "refused" and "not among those known" in said


def test_a_plate_that_is_silent_makes_nothing_wrong_and_a_mixed_cylinder_is_a_fact_too(signed_in, ours, low):  # noqa: F811
    Cylinder.objects.create(shop=ours.shop, label="C-5", refrigerant="R-410A", added_by=ours.person)
    Cylinder.objects.create(shop=ours.shop, label="C-6", refrigerant="mixed", added_by=ours.person)
    System.objects.update(refrigerant="")
    assert says(low, "charge_step", **step(cylinder="C-5"))[0] == "stored"
    assert not FollowUp.objects.exists() and "not the plate's" not in page(signed_in, "refrigerant")
    System.objects.update(refrigerant="R-410A")
    assert says(low, "charge_step", **step(2, cylinder="C-6"))[0] == "stored"
    assert FollowUp.objects.get().text.startswith("mixed was put into a machine for R-410A")


def test_the_log_sums_and_cylinders_agree_with_what_was_moved(signed_in, ours, low, django_assert_max_num_queries):  # noqa: F811
    ours.person.certificate = "RC-7"
    ours.person.save()
    full = services.add_cylinder(ours.person, "C-11", "R-410A", tare_oz=100.0, holds_oz=400.0)
    services.move(ours.person, full, BOUGHT, 400.0, on=timezone.localdate())
    spent = services.add_cylinder(ours.person, "R-2", "R-410A", True, 90.0, 20.0)
    says(low, "hook_up", did="opened", why="Maker asks")
    says(low, "charge_step", **step(cylinder="C-11"))
    says(low, "charge_step", **step(2, "recover", "92", "109", cylinder="R-2"))
    says(low, "charge_step", **step(3, before="220.5", after="217.5", cylinder="C-11"))
    says(low, "charge_step", number="3", way="withdrawn")
    says(low, "hook_up", did="off", lost="0.5", hose_returned="yes", caps_on="yes")
    held = {h.cylinder: h for h in ledger.cylinders_of(ours.shop)}
    assert (held[full].oz, held[spent].oz) == (394.0, 17.0) and held[spent].too_full and not held[full].too_full
    with django_assert_max_num_queries(14):
        shown = page(signed_in, "refrigerant")
    assert (
        "Added 6 oz Recovered 1 lb 1 oz Lost from hoses 0.5 oz" in shown
        and "No leak search on record" in shown
        and "RC-7" in shown
    )
    assert "Over 80 %" in page(signed_in, "cylinder", spent.public_id)
    answer = signed_in.get(reverse("history:refrigerant_csv")).content.decode()
    rows = list(csv.DictReader(answer.splitlines()))
    assert {(row["what"], row["oz"]) for row in rows} == {
        ("Added", "6.00"), ("Recovered", "17.00"), ("Lost from the hoses", "0.50"), ("Bought", "400.00"),
    }  # fmt: skip
    assert "Recovered" not in page(signed_in, "refrigerant", way="added").split("Line by line")[1]


def test_corrections_are_lines_of_their_own_and_what_cannot_be_is_said(signed_in, ours):
    address = reverse("history:cylinders")
    sent = {"label": "=C-1", "refrigerant": "R-32", "holds_oz": "300", "has_oz": "320"}
    assert "That is more than it holds." in words(signed_in.post(address, sent))
    assert "no weight" in words(signed_in.post(address, sent | {"has_oz": "a lot"}))
    signed_in.post(address, sent | {"has_oz": "6 kg"})
    row = Cylinder.objects.get()
    assert "There is a cylinder" in words(signed_in.post(address, sent | {"has_oz": ""}))
    assert "needs its empty weight" in words(
        signed_in.post(address, {"label": "R-1", "refrigerant": "R-32", "is_recovery": "on"})
    )
    own = reverse("history:cylinder", args=[row.public_id])
    number = str(uuid.uuid4())
    for _ in range(2):
        signed_in.post(own, {"did": CORRECTED, "oz": "-4 oz", "why": "Weighed again", "number": number})
    assert row.moves.count() == 2 and ledger.cylinders_of(ours.shop)[0].oz == pytest.approx(
        6000 / 28.3495 - 4, abs=0.05
    )
    ahead = (timezone.localdate() + timedelta(days=2)).isoformat()
    assert "has not come yet" in words(signed_in.post(own, {"did": "filled", "oz": "4 oz", "on": ahead}))
    assert "Say why" in words(signed_in.post(own, {"did": CORRECTED, "oz": "-4 oz"}))
    assert "Only a correction is under 0." in words(signed_in.post(own, {"did": "filled", "oz": "-4 oz"}))
    cells = signed_in.get(reverse("history:refrigerant_csv")).content.decode()
    assert "'=C-1" in cells, "no spreadsheet takes it for a formula"


def test_a_machines_page_tells_its_moves_and_how_fast_it_loses(signed_in, ours, low):  # noqa: F811
    says(low, "charge_step", **step())
    again = later_visit(ours, signed_in)
    says(again, "charge_step", **step(after="216.5"))
    lines = ledger.log_of(ours.shop, timezone.now() - timedelta(days=999), timezone.now(), ours.system).lines
    assert ledger.leak_rate_of(ours.system, lines) == "", "two steps of one day are one addition"
    last, before = sorted(lines, key=lambda line: -line.oz)  # the second device's clock may be a little behind
    apart = [last, replace(before, at=last.at - timedelta(days=146))]
    assert ledger.leak_rate_of(System.objects.get(), apart).startswith(
        "About 25 % of its charge a year: 10 oz went in on "
    ), "10 / 100 x 365 / 146"
    assert "Added" in page(signed_in, "system", ours.system.public_id)


def test_a_shop_that_only_watches_is_not_blocked_and_another_shop_sees_nothing(signed_in, ours, theirs, low):  # noqa: F811
    ours.person.role = "lead"
    ours.person.save()
    change(ours.person, "leak_search", "watch", 0)
    says(low, "charge_step", **step(cylinder="C-9"))
    finish(ours, ours.visit)
    assert not FollowUp.objects.exists()
    change(ours.person, "leak_search", "search_now", 1)
    again = later_visit(ours, signed_in)
    again.send(again.seen("visit_kind", "commissioning"))
    says(again, "charge_step", **step())
    finish(ours, again.shop.visit)
    assert not FollowUp.objects.exists(), "a charge weighed in at commissioning is no loss made good"
    services.add_cylinder(ours.person, "C-9", "R-410A")
    signed_in.force_login(theirs.person)
    assert "C-9" not in page(signed_in, "cylinders") and "Ours house" not in page(signed_in, "refrigerant")
    assert signed_in.get(reverse("history:cylinder", args=[Cylinder.objects.get().public_id])).status_code == 404


def test_a_cylinder_lighter_than_empty_is_asked_about_and_one_just_empty_is_kept(ours, device):
    services.add_cylinder(ours.person, "C-9", "R-410A", tare_oz=112.0)
    assert says(device, "charge_step", **step(before="115", after="100", cylinder="C-9")) == (
        "refused", "The cylinder weighs less than empty.")  # fmt: skip
    assert says(device, "charge_step", **step(before="115", after="112", cylinder="C-9"))[0] == "stored"
