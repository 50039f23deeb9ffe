"""Who may see and do what: another shop's things do not exist, nothing is open to strangers, sign-in is throttled."""

import uuid
from datetime import timedelta

import pytest
from django.test import Client
from django.urls import get_resolver, reverse
from django.utils import timezone

from tests.web.conftest import Device, a_picture, words
from web.accounts.models import DoorLink, User
from web.accounts.rights import LEAD, ROLES
from web.addresses import ADDRESSES, ANYBODY, BY_TOKEN, SIGNED_IN, asked_at
from web.background.models import Work
from web.exchange.models import ApiToken, RegisterIntake
from web.exchange.services import make_link
from web.history.services import add_cylinder
from web.kinds.bridge import learnt
from web.kinds.models import LeftOut
from web.kinds.services import keep_version
from web.practice.bridge import Spec
from web.practice.services import begin
from web.probes.services import add_gateway
from web.visits import changes
from web.visits.bridge import vocabulary
from web.visits.models import Reading, Visit

LOOKS = [look.id for look in vocabulary.last_looks("air_conditioner")]
PASSWORD = "quite-long-enough"


def pages(shop):
    """Every address with somebody's object in it."""
    visit, house, system, instrument = (row.public_id for row in (shop.visit, shop.house, shop.system, shop.probe))
    follow_up = changes.open_follow_up(shop.person, shop.system, "come back").public_id
    gateway = add_gateway(shop.person, "Van")[0].public_id
    photo = changes.add_photo(shop.person, uuid.uuid4(), shop.system, None, "coil", a_picture()).public_id
    practised = begin(shop.person, Spec(), heating=False).visit.public_id
    known = keep_version(shop.shop, "own_visits", learnt([])[0], 1).number
    cylinder = add_cylinder(shop.person, "C-1", "R-32").public_id
    to_come = timezone.now() + timedelta(days=2)
    plan = changes.plan_visit(shop.person, shop.system, shop.person, to_come, 60, "Look").public_id
    changes.finish_visit(shop.person, shop.visit, dict.fromkeys(LOOKS, ""))
    read = RegisterIntake.objects.create(shop=shop.shop, by=shop.person, file_name="x.csv", rows=[]).public_id
    door = DoorLink.objects.create(
        shop=shop.shop, token_hash=f"d {shop.shop.name}", expires_at=timezone.now() + timedelta(days=1)
    ).public_id
    token = ApiToken.objects.create(
        shop=shop.shop, name="x", scopes=[], token_hash=shop.shop.name, made_by=shop.person
    ).public_id
    link = make_link(shop.person, shop.visit)[0].public_id
    left_out = LeftOut.objects.create(shop=shop.shop, visit=shop.visit, why="x", by=shop.person).public_id
    work = Work.objects.create(shop=shop.shop, kind="reassess", started_by=shop.person).public_id
    get = [
        ("history:system", system),
        ("history:said", system),
        ("history:csv", system),
        ("history:plan", plan),
        ("history:plan_event", plan),
        ("history:plan_new", system),
        ("history:plan_ahead", system),
        ("exchange:report", visit),
        ("exchange:bundle", visit),
        ("exchange:panel", system),
        ("exchange:register", read),
        ("exchange:shop_archive", work),
        ("exchange:system_archive", system),
        ("exchange:house_archive", house),
        ("exchange:erase", house),
        ("exchange:links", visit),
        ("kinds:file", known),
        ("history:cylinder", cylinder),
        ("background:progress", work),
        ("reassess:result", work),
        ("visits:sheet", visit),
        ("visits:round", visit, 1),
        ("visits:current", visit, 1),
        ("visits:photo", photo, "small"),
        ("visits:of_system", system),
        ("visits:live", visit),
        ("practice:panel", practised),
        ("houses:house", house),
        ("houses:edit", house),
        ("houses:add_system", house),
        ("houses:system", system),
        ("houses:rooms", system),
        ("houses:tables", system),
        ("houses:tables_of", system, "blower"),
        ("visits:plates_of", system),
        ("houses:instrument", instrument),
    ]
    post = [
        ("visits:preview", visit, 1),
        ("visits:start", system),
        ("visits:next_round", visit),
        ("visits:hand_over", visit),
        ("visits:open_follow_up", visit),
        ("visits:close_follow_up", follow_up),
        ("history:plan", plan),
        ("history:plan_new", system),
        ("exchange:links", visit),
        ("exchange:register", read),
        ("accounts:change_person", shop.person.public_id),
        ("accounts:end_door", door),
        ("exchange:end_link", link),
        ("exchange:revoke_token", token),
        ("kinds:leave_out", visit),
        ("kinds:take_back", left_out),
        ("visits:pair", visit),
        ("practice:look", practised),
        ("practice:turn", practised),
        ("practice:forward", practised),
        ("background:stop", work),
        ("background:go_on", work),
        ("visits:add_photo", visit, 1),
        ("visits:add_nameplate", system),
        ("houses:check_table", system, "blower"),
        ("houses:edit", house),
        ("houses:system", system),
        ("houses:rooms", system),
        ("houses:instrument", instrument),
        ("probes:revoke", gateway),
    ]
    return [("get", name, reverse(name, args=args)) for name, *args in get] + [
        ("post", name, reverse(name, args=args)) for name, *args in post
    ]


# Whoever has the address may: see test_plans, test_customer, test_people.
BY_SECRET = {"history:feed", "exchange:customer", "accounts:come_in"}


def patterns():
    """Every address there is, by name; those of the interface for other programs ask for a token: see test_api."""
    for url in get_resolver().url_patterns:
        if url.namespace != BY_TOKEN:
            yield from ((f"{url.namespace}:{pattern.name}", str(pattern.pattern)) for pattern in url.url_patterns)


def test_every_address_says_what_it_asks_for_and_one_with_an_object_is_in_the_list(ours):
    """A new page must join web/addresses.py, and one with an object in its address `pages`."""
    assert {name for name, _ in patterns()} == set(ADDRESSES)
    with_object = {name for name, pattern in patterns() if "<" in pattern}
    assert with_object - BY_SECRET == {name for _, name, _ in pages(ours)}


def with_role(person, role):
    User.objects.filter(pk=person.pk).update(role=role)
    person.refresh_from_db()


def expected(role, right):
    """What the matrix of rights says, written a second time, as a shop would say it."""
    beside_lead = {
        "read": "apprentice technician office",
        "record": "apprentice technician office",
        "work": "apprentice technician",
        "instruments": "apprentice technician",
        "finish": "technician",
        "stock": "technician office",
        "plan": "technician office",
        "papers": "technician office",
        "register": "office",
    }
    return role == LEAD or role in beside_lead.get(right, "").split()


@pytest.mark.parametrize("role", ROLES)
def test_each_role_opens_what_is_its_own_and_nothing_else(signed_in, ours, role):
    """Every address by every method. A refusal comes before anything is looked up, done or told."""
    with_role(ours.person, LEAD)
    addresses = {name: address for _, name, address in pages(ours)}
    addresses |= {name: reverse(name) for name, pattern in patterns() if "<" not in pattern}
    with_role(ours.person, role)
    for name, address in addresses.items():
        for method in ("get", "post", "put", "delete"):
            if name in ("accounts:sign_out", "visits:what_if_past"):
                continue  # ends the test's own session; streams what it works out
            right = asked_at(name, method.upper())
            answer = getattr(signed_in, method)(address)
            opens = right in (ANYBODY, SIGNED_IN) or expected(role, right)
            assert (answer.status_code != 403) == opens, (role, method, name)
            if not opens:
                assert "Your role is" in words(answer)


def test_an_apprentice_hands_the_visit_over_and_seals_nothing(signed_in, ours, device):
    with_role(ours.person, "apprentice")
    assert device.send(device.item("return_unit", "dry_bulb", "76.4"))[0]["status"] == "stored"
    with pytest.raises(changes.ClosingRefused, match="Hand the visit to a technician or lead"):
        changes.finish_visit(ours.person, ours.visit, dict.fromkeys(LOOKS, ""))
    sheet = words(signed_in.get(ours.visit.get_absolute_url()))
    assert "A technician or a lead finishes it" in sheet and "Seal it as the baseline" not in sheet
    answer = device.send(device.entry("baseline", did="sealed", why="It is fine"))[0]
    assert answer["status"] == "refused" and "Your role is apprentice" in answer["message"]


def test_the_office_reads_along_and_each_of_its_entries_is_refused_in_words(signed_in, ours, device):
    with_role(ours.person, "office")
    assert "You read along" in words(signed_in.get(ours.visit.get_absolute_url()))
    answer = device.send(device.item("return_unit", "dry_bulb", "76.4"))[0]
    assert answer["status"] == "refused" and "Your role is office" in answer["message"]
    assert Reading.objects.count() == 0 and "Start a visit" not in words(
        signed_in.get(f"/houses/{ours.house.public_id}/")
    )


def test_a_lead_alone_retires_an_instrument(signed_in, ours):
    address = reverse("houses:instrument", args=[ours.probe.public_id])
    sent = {"label": "Probe", "kind": ours.probe.kind, "calibration_months": "12", "retired": "on"}
    for role, retired in (("technician", False), (LEAD, True)):
        with_role(ours.person, role)
        assert signed_in.post(address, sent).status_code == 302
        ours.probe.refresh_from_db()
        assert ours.probe.retired == retired


def test_another_shops_things_do_not_exist_even_for_a_lead(signed_in, ours, theirs):
    with_role(theirs.person, LEAD)
    addresses, before = pages(theirs), Visit.objects.count()
    for role in (LEAD, "technician"):
        with_role(ours.person, role)
        for method, name, address in addresses:
            may_open = expected(role, asked_at(name, method.upper()))
            assert getattr(signed_in, method)(address).status_code == (404 if may_open else 403), address
    assert Visit.objects.count() == before
    for address in ("/", "/houses/", "/houses/?q=theirs", "/houses/instruments/", reverse("visits:what_if")):
        assert "Theirs house" not in signed_in.get(address).content.decode()
        assert "Theirs probe" not in signed_in.get(address).content.decode()


def test_another_shops_rounds_and_probes_cannot_be_written_to(device, signed_in, ours, theirs):
    stranger = Device(signed_in, theirs)
    answer = stranger.send(stranger.item("return_unit", "dry_bulb", "76.4") | {"instrument": ""})[0]
    assert answer["status"] == "refused" and "not open to you" in answer["message"]
    answer = device.send(device.item("return_unit", "dry_bulb", "76.4", instrument=str(theirs.probe.public_id)))[0]
    assert answer["status"] == "refused" and "not the shop's" in answer["message"]
    assert Reading.objects.count() == 0


def test_a_person_without_a_shop_sees_nothing(client, ours, django_user_model):
    client.force_login(django_user_model.objects.create_user("drifter"))
    assert client.get("/").status_code == 200
    with_role(ours.person, LEAD)
    assert all(getattr(client, method)(address).status_code == 403 for method, _, address in pages(ours))


def test_strangers_are_sent_to_sign_in_everywhere(client, ours):
    with_role(ours.person, LEAD)
    of_nobody = [(method, name, reverse(name)) for name, p in patterns() if "<" not in p for method in ("get", "post")]
    for method, name, address in [*pages(ours), *of_nobody]:
        if asked_at(name, method.upper()) == ANYBODY:
            continue
        response = getattr(client, method)(address)
        assert response.status_code == 302 and response.url.startswith("/sign-in/"), address
    assert client.get("/sign-in/").status_code == 200
    named = {name for name in get_resolver().reverse_dict if isinstance(name, str)}
    assert not {"admin", "register"} & named


def test_writing_needs_the_csrf_token(ours):
    strict = Client(enforce_csrf_checks=True)
    strict.force_login(ours.person)
    response = strict.post(
        reverse("visits:entries"), "{}", content_type="application/json", headers={"accept": "application/json"}
    )
    assert response.status_code == 403 and "hint" in response.json()
    assert strict.post(reverse("visits:start", args=[ours.system.public_id])).status_code == 403


def test_a_wrong_password_is_said_in_plain_words_and_the_name_stays(client, ours):
    html = client.post("/sign-in/", {"username": "ana", "password": "nope"}).content.decode()
    assert "do not match" in html and 'value="ana"' in html
    assert client.post("/sign-in/", {"username": "ana", "password": PASSWORD}).status_code == 302


ELSEWHERE = "https://elsewhere.example/ //elsewhere.example /\\elsewhere.example https:elsewhere.example javascript:x()"


@pytest.mark.parametrize("to", ELSEWHERE.split())
def test_signing_in_leads_nowhere_else(client, ours, to):
    answer = client.post(f"/sign-in/?next={to}", {"username": "ana", "password": PASSWORD, "next": to})
    assert answer.status_code == 302 and answer.url == "/"


def test_every_answer_carries_the_strict_policy(signed_in):
    response = signed_in.get("/")
    policy = response.headers["Content-Security-Policy"]
    assert "default-src 'none'" in policy and "unsafe" not in policy and "script-src 'self'" in policy
    assert response.headers["X-Frame-Options"] == "DENY" and response.headers["X-Content-Type-Options"] == "nosniff"


@pytest.mark.parametrize("address", ["/no/such/page/", "/visits/00000000-0000-0000-0000-000000000000/"])
def test_missing_pages_say_so_in_plain_words(signed_in, address):
    response = signed_in.get(address)
    assert response.status_code == 404 and "There is nothing here." in response.content.decode()
