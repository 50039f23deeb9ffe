"""Judging again: what a rule or an engine would say of every round, kept beside the verdicts, which stay."""

from datetime import timedelta

import pytest
from django.urls import reverse
from django.utils import timezone

from tests.web.conftest import words
from tests.web.test_background import work_off
from web.accounts.rights import LEAD
from web.background.models import FINISHED, Work
from web.reassess import services
from web.reassess.models import Rejudged
from web.visits.models import Assessment, Closing
from web.visits.tasks import thin_assessments


@pytest.fixture
def lead(ours):
    ours.person.role = LEAD
    ours.person.save()
    return ours.person


def judged_again(lead, **wants):
    work = services.start(lead, **wants)
    work_off()
    work.refresh_from_db()
    assert (work.state, work.last_error) == (FINISHED, "")
    return work


def test_a_rule_tried_on_every_visit_says_what_would_read_otherwise_and_rewrites_nothing(signed_in, lead, device):
    device.whole_visit()
    device.send(device.item("system", "running_time", "12", "min"))
    before = list(Assessment.objects.values_list("pk", "headline"))
    work = judged_again(lead, rule="settle_minutes", value="10.0")
    row = Rejudged.objects.get()
    assert (row.was_state, row.moved) == ("does_not_count", True) and row.state != "does_not_count"
    assert list(Assessment.objects.values_list("pk", "headline")) == before
    page = words(signed_in.get(reverse("reassess:result", args=[work.public_id])))
    assert "1 round judged again: 1 would read otherwise." in page and row.says in page and "round 1" in page
    assert f"Judged by the engine of {row.engine_version} and version {row.rules_version} of the house rules." in page
    trial = signed_in.get(reverse("reassess:trial"), {"rule": "settle_minutes", "value": "10.0"})
    assert "What it would change" in words(trial)


def test_the_engine_of_today_agrees_with_what_it_said_and_disagrees_with_another(signed_in, lead, device):
    device.whole_visit()
    judged_again(lead)
    row = Rejudged.objects.get()
    assert not row.moved and row.quantities == [] and row.was_says == row.says
    last = Assessment.objects.latest("pk")
    verdict = last.result["verdict"] | {"state": "group", "group": "charge_low", "headline": "Low on charge."}
    Assessment.objects.create(
        round=last.round, engine_version="0", rules_version="0", kind="attention", headline="Low on charge.",
        entries=[], state="group", result=last.result | {"verdict": verdict},
    )  # fmt: skip
    work = judged_again(lead)
    [change] = services.changes_of(work)
    assert change.count == 1 and change.was.startswith("Low on charge. Gauges: ") and change.now.startswith(row.says)
    assert services.moved_rounds(work).get().round == device.shop.round


def test_it_is_narrowed_and_is_of_the_shop_alone(client, lead, device, theirs):
    device.whole_visit()
    assert judged_again(lead, machine="ground_source").done == 0
    assert judged_again(lead, since=(timezone.localdate() + timedelta(days=1)).isoformat()).done == 0
    theirs.person.role = LEAD
    theirs.person.save()
    judged_again(theirs.person)
    assert not Rejudged.objects.exists(), "another shop's rounds are not judged"
    work = Work.objects.filter(shop=lead.shop).first()
    client.force_login(theirs.person)
    assert client.get(reverse("reassess:result", args=[work.public_id])).status_code == 404


def test_it_is_started_by_a_lead_from_its_page(signed_in, ours, device):
    address = reverse("reassess:page")
    assert signed_in.post(address).status_code == 403 and not Work.objects.exists()
    ours.person.role = LEAD
    ours.person.save()
    assert "choose one of" in words(signed_in.post(address, {"rule": "settle_minutes", "value": "soon"}))
    assert "valid date" in words(signed_in.post(address, {"since": "tomorrow"}))
    signed_in.post(address, {"machine": "heat_pump"})
    assert Work.objects.get().wants == {"machine": "heat_pump"}
    assert "heat pump" in words(signed_in.get(address))


def test_what_was_replaced_is_thinned_but_not_what_a_visit_was_signed_on(device, ours, monkeypatch):
    device.whole_visit()
    device.send(device.item("supply_plenum", "dry_bulb", "56.0"))
    signed = Assessment.objects.latest("pk")
    Closing.objects.create(visit=ours.visit, shop=ours.shop, round=ours.round, did="finished", person=ours.person)
    for value in ("56.1", "56.2"):
        device.send(device.item("supply_plenum", "dry_bulb", value))
    last = Assessment.objects.latest("pk")
    assert thin_assessments(0)[0] == 0, "today's are whole"
    monkeypatch.setattr("web.visits.tasks.KEPT_WHOLE_FOR", timedelta(0))
    went, upto = thin_assessments(0)
    assert set(Assessment.objects.values_list("pk", flat=True)) == {signed.pk, last.pk} and went >= 1
    assert thin_assessments(upto) == (0, None)
