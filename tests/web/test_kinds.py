"""What the shop knows of sound machines: which visits teach, versions that assessments name, what is left out, and the
file that goes from shop to shop.
"""

from types import SimpleNamespace

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse

from engine.assessment import assess, table_of
from engine.kinds.learning import learn, lesson_of
from tests.web.conftest import Device, plain, whole_sheet, words
from tests.web.test_background import work_off
from tests.web.test_baseline import fit, seal
from web.accounts.models import User
from web.accounts.rights import LEAD
from web.background.models import FINISHED
from web.houserules.services import change
from web.houses.models import System
from web.kinds import services
from web.kinds.models import LeftOut, Lesson
from web.reassess.models import Rejudged
from web.visits import changes
from web.visits.load.for_engine import stored_round
from web.visits.load.material import material_of
from web.visits.models import Assessment, KnownKinds, Round

MACHINES = 4


@pytest.fixture(autouse=True)
def few_are_enough(monkeypatch):
    monkeypatch.setattr("engine.kinds.kind.ENOUGH", float(MACHINES))


@pytest.fixture
def lead(ours):
    ours.person.role = LEAD
    ours.person.save()
    return ours.person


def machine(ours, client, name, person=None):
    """A device at a visit to another machine of the same line."""
    system = System.objects.create(
        house=ours.house, name=name, nominal_tons=3.0, metering_device="txv", refrigerant="R-410A", line="Mill",
        model="Mill 36", seer=14, target_subcooling_f=10.0,
    )  # fmt: skip
    visit = changes.start_visit(person or ours.person, system)
    return Device(
        client, SimpleNamespace(**vars(ours) | {"system": system, "visit": visit, "round": visit.rounds.get()})
    )


@pytest.fixture
def sealed(ours, signed_in, lead):
    """Machines of one line, each with a sealed visit."""
    devices = [machine(ours, signed_in, f"no {n}") for n in range(MACHINES)]
    for device in devices:
        assert seal(fit(device)) == ("stored", "")
    return devices


def learnt(lead):
    work = services.learn_now(lead)
    work_off()
    work.refresh_from_db()
    assert (work.state, work.last_error) == (FINISHED, "")
    return work.says


def rounds(devices):
    keys = [device.shop.round.pk for device in devices]
    return Round.objects.filter(pk__in=keys).select_related("visit__system__house__shop").order_by("pk")


def page(client):
    return words(client.get(reverse("kinds:page")))


def test_confirmed_sound_visits_teach_and_the_next_assessment_names_the_version(signed_in, ours, lead, sealed):
    machine(ours, signed_in, "only sound").whole_visit()
    assert learnt(lead) == f"Version 1: learnt from {MACHINES} machines."
    assert learnt(lead) == f"Nothing new: {MACHINES} machines, as before." and KnownKinds.objects.count() == 1
    met = fit(machine(ours, signed_in, "next"))
    kind = learn([lesson_of(table_of(stored_round(material_of(r))), str(r.pk), True) for r in rounds(sealed)])
    by_engine = assess(stored_round(material_of(rounds([met]).get())), kind=kind)
    stored = Assessment.objects.filter(round=met.shop.round).latest("pk")
    assert stored.known_kinds == 1
    approach = stored.result["quantities"]["approach"]
    assert approach["expected"]["value"] == pytest.approx(by_engine.table["approach"].expected.value, abs=1e-3)
    assert f"{MACHINES} sound ones of this model" in plain(whole_sheet(signed_in, met.shop.visit))
    assert {a.known_kinds for a in Assessment.objects.filter(round=sealed[0].shop.round)} == {None}, "judged before"


def test_the_page_tells_what_is_known_and_from_which_visits(
    signed_in, ours, lead, sealed, django_assert_max_num_queries
):
    assert "Nothing is known yet." in page(signed_in)
    learnt(lead)
    shown = page(signed_in)
    assert f"Version 1 , from {MACHINES} machines of the shop" in shown, shown
    assert "sealed as a baseline" in shown
    assert f"Model Mill 36 {MACHINES} " in shown and "% narrower" in shown and "than expected, ±" in shown
    with django_assert_max_num_queries(20):
        page(signed_in)


def test_too_few_machines_are_counted_and_not_used(signed_in, ours, lead, sealed, monkeypatch):
    monkeypatch.setattr("engine.kinds.kind.ENOUGH", MACHINES + 1.0)
    monkeypatch.setattr("web.kinds.bridge.ENOUGH", MACHINES + 1.0)
    learnt(lead)
    assert f"TXV: {MACHINES} of {MACHINES + 1} machines" in page(signed_in) and "narrower" not in page(signed_in)
    met = fit(machine(ours, signed_in, "next"))
    assert "sound ones of this model" not in plain(whole_sheet(signed_in, met.shop.visit))


def test_a_visit_or_a_person_is_left_out_with_a_reason_and_taken_back(signed_in, ours, lead, sealed):
    learnt(lead)
    visit = sealed[0].shop.visit
    address = reverse("kinds:leave_out", args=[visit.public_id])
    assert "Say why." in words(signed_in.post(address, {"why": " "}, follow=True)) and not LeftOut.objects.exists()
    shown = words(signed_in.post(address, {"why": "Read in the rain"}, follow=True))
    assert "Read in the rain" in shown
    assert learnt(lead) == f"Version 2: learnt from {MACHINES - 1} machines."
    [row] = LeftOut.objects.standing(ours.shop)
    signed_in.post(reverse("kinds:take_back", args=[row.public_id]))
    assert not LeftOut.objects.standing(ours.shop)
    assert learnt(lead) == f"Version 3: learnt from {MACHINES} machines."
    other = User.objects.create_user(
        "cy", password="quite-long-enough", first_name="Cy", last_name="Test", shop=ours.shop
    )
    sent = {"form": "person", "person": other.public_id, "why": "Probe read 2 °F high"}
    assert "Every visit of Cy Test: Probe read 2 °F high" in words(
        signed_in.post(reverse("kinds:page"), sent, follow=True)
    )
    signed_in.post(reverse("kinds:page"), sent | {"person": lead.public_id})
    assert learnt(lead) == "No sound visit is confirmed yet."


def test_what_is_confirmed_otherwise_and_what_is_not_sound(signed_in, ours, lead):
    """By outcome, and by gauges on; a fault that was confirmed teaches nothing."""
    sound, faulty, hooked = (machine(ours, signed_in, name) for name in ("sound", "faulty", "hooked"))
    for device in (sound, faulty, hooked):
        fit(device)
    airflow = faulty.item("blower", "airflow", "840", "CFM", variant="flow_device", plane="return")
    faulty.send(airflow, faulty.seen("filter", "blocked"))
    for device, by in ((sound, "re_read"), (faulty, "part")):
        answer = device.send(device.entry("outcome", says={"did": "right", "by": by}))
        assert answer[0]["status"] == "stored", answer
    pressures = (("gauge_suction", "123"), ("gauge_liquid", "366"))
    answers = hooked.send(
        hooked.entry("hook_up", says={"did": "opened", "why": "Maker asks for them"}),
        hooked.item("suction_line_outdoor", "temperature", "56.0"),
        *(hooked.item(place, "pressure", value, "psi") for place, value in pressures),
    )
    assert {answer["status"] for answer in answers} == {"stored"}, answers
    learnt(lead)
    taught = dict(Lesson.objects.values_list("round", "confirmed_by"))
    assert taught.get(sound.shop.round.pk) == "outcome" and faulty.shop.round.pk not in taught
    assert taught.get(hooked.shop.round.pk) == "gauges"


def test_a_house_rule_switches_it_off_or_takes_a_file_of_another_shop(signed_in, client, ours, theirs, lead, sealed):
    learnt(lead)
    exported = signed_in.get(reverse("kinds:file", args=[1]))
    assert exported["Content-Disposition"].endswith('"known-kinds-1.json"') and b"Ours house" not in exported.content
    change(lead, "kinds_from", "nowhere", 0)
    met = fit(machine(ours, signed_in, "off"))
    assert Assessment.objects.filter(round=met.shop.round).latest("pk").known_kinds is None
    assert "Not used: the house rules say so." in page(signed_in)
    theirs.person.role = LEAD
    theirs.person.save()
    client.force_login(theirs.person)
    sent = {"form": "file", "says": "From a shop upriver"}
    broken = SimpleUploadedFile("kinds.json", b'{"format": "another"}')
    refused = words(client.post(reverse("kinds:page"), sent | {"file": broken}))
    assert (
        "no kind file" in refused and "From a shop upriver" in client.post(reverse("kinds:page"), sent).content.decode()
    )
    file = SimpleUploadedFile("kinds.json", exported.content)
    client.post(reverse("kinds:page"), sent | {"file": file})
    row = KnownKinds.objects.get(shop=theirs.shop)
    assert (row.source, row.machines, row.says) == ("a_file", MACHINES, "From a shop upriver")
    change(theirs.person, "kinds_from", "a_file", 0)
    assert "taken in by" in page(client)
    met = fit(machine(theirs, client, "theirs"))
    assert Assessment.objects.filter(round=met.shop.round).latest("pk").known_kinds == 1


def test_it_is_the_leads_and_each_shops_own(signed_in, client, ours, theirs, lead, sealed):
    learnt(lead)
    theirs.person.role = LEAD
    theirs.person.save()
    client.force_login(theirs.person)
    assert client.get(reverse("kinds:file", args=[1])).status_code == 404 and "Mill" not in page(client)
    lead.role = "technician"
    lead.save()
    client.force_login(lead)
    for address in (reverse("kinds:page"), reverse("kinds:file", args=[1])):
        assert client.get(address).status_code == 403
    assert client.post(reverse("kinds:learn_now")).status_code == 403


def test_what_past_verdicts_would_be_without_it_is_judged_again(signed_in, lead, sealed):
    learnt(lead)
    answer = signed_in.post(reverse("reassess:page"), {"rule": "kinds_from", "value": "nowhere"})
    work_off()
    shown = words(signed_in.get(answer.url))
    assert "What sound machines of a kind do is known from: Not used, every visit" in shown
    assert f"{MACHINES} rounds judged again" in shown
    assert set(Rejudged.objects.values_list("known_kinds", flat=True)) == {None}
