"""The people of a shop: the first lead by a command, the others by a link that opens once; leaving ends all at once."""

from datetime import timedelta
from io import StringIO

import pytest
from django.core.exceptions import PermissionDenied
from django.core.management import CommandError, call_command
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from tests.web.conftest import words
from web.accounts import services
from web.accounts.models import DoorLink, Session, Shop, User
from web.accounts.rights import LEAD, TECHNICIAN
from web.visits.models import HookUp, Visit

PAGE, SESSIONS, GOOD = reverse("accounts:people"), reverse("accounts:sessions"), "plum-bob-and-string"


@pytest.fixture
def boss(signed_in, ours):
    User.objects.filter(pk=ours.person.pk).update(role=LEAD)
    ours.person.refresh_from_db()
    return signed_in


def path(address):
    return address.removeprefix("http://testserver")


def keep(client, address, password=GOOD, again=None, **more):
    return client.post(path(address), {"password": password, "again": again or password, **more}, follow=True)


def test_a_first_shop_and_its_lead_come_by_one_command(client, db):
    out = StringIO()
    call_command("create_shop", "River Cooling", "Ada", "Low", "--time-zone", "America/Denver", stdout=out)
    address = out.getvalue().strip()
    assert address.startswith("http://testserver/come-in/")
    assert "River Cooling" in words(client.get(path(address)))
    assert "Sign in with it." in words(keep(client, address, username="ada"))
    lead = User.objects.get(username="ada")
    assert lead.role == LEAD and lead.shop.name == "River Cooling" and not lead.is_superuser and not lead.is_staff
    assert client.login(username="ada", password=GOOD)
    assert client.get(PAGE).status_code == 200
    with pytest.raises(CommandError, match="no time zone 'Mars'"):
        call_command("create_shop", "X", "Y", "--time-zone", "Mars")
    assert Shop.objects.count() == 1


def test_somebody_is_asked_in_by_a_link_that_is_shown_once_and_opens_once(boss, ours):
    made = boss.post(PAGE, {"first_name": "Cy", "last_name": "Roe", "role": TECHNICIAN})
    address = made.context["address"]
    assert address in made.content.decode() and address not in boss.get(PAGE).content.decode()
    assert DoorLink.objects.get().token_hash not in address and "Cy Roe, technician" in words(boss.get(PAGE))
    stranger = Client()
    assert "Sign in with it." in words(keep(stranger, address, username="cy"))
    person = User.objects.get(username="cy")
    assert (person.shop, person.role, person.get_full_name()) == (ours.shop, TECHNICIAN, "Cy Roe")
    shut = stranger.get(path(address))
    assert shut.status_code == 404 and "does not open any more" in words(shut)
    with pytest.raises(PermissionDenied):
        services.come_in(DoorLink.objects.get(), "cy2", GOOD)


@pytest.mark.parametrize(("username", "password", "again", "refused"), [
    ("cy", "tiny-one", None, "at least 10"), ("cy", "password123", None, "too common"),
    ("cy", "84736251908", None, "entirely numeric"), ("cyrus-roe", "cyrus-roe1", None, "too similar"),
    ("cy", GOOD, "plum-bob", "The two are not the same."), ("ANA", GOOD, None, "That name is taken"),
    ("", GOOD, None, "Choose a name"),
])  # fmt: skip
def test_what_is_too_weak_or_taken_is_said_at_its_field(boss, ours, username, password, again, refused):
    address = services.invite(ours.person, "Cyrus", "Roe", TECHNICIAN)
    shown = keep(Client(), reverse("accounts:come_in", args=[address]), password, again, username=username)
    assert refused in words(shown) and User.objects.filter(shop=ours.shop).count() == 1
    assert password not in shown.content.decode()


def test_a_link_expires_and_can_be_ended(boss, ours):
    first, second = (
        reverse("accounts:come_in", args=[services.invite(ours.person, "Cy", "", TECHNICIAN)]) for _ in "ab"
    )
    boss.post(reverse("accounts:end_door", args=[DoorLink.objects.earliest("pk").public_id]))
    DoorLink.objects.filter(ended_at=None).update(expires_at=timezone.now() - timedelta(seconds=1))
    assert [Client().get(address).status_code for address in (first, second)] == [404, 404]


def test_who_has_left_is_out_at_once_their_work_stays_and_they_can_come_back(boss, ours):
    cy = User.objects.create_user("cy", password=GOOD, first_name="Cy", shop=ours.shop)
    theirs = Client()
    theirs.force_login(cy)
    assert theirs.get("/").status_code == 200
    Visit.objects.filter(pk=ours.visit.pk).update(started_by=cy)
    change = reverse("accounts:change_person", args=[cy.public_id])
    boss.post(change, {"did": "go"})
    assert theirs.get("/").status_code == 302 and not Client().login(username="cy", password=GOOD)
    assert "Cy, technician, has left" in words(boss.get(PAGE)).replace(" ,", ",").replace(
        "Cy technician", "Cy, technician"
    )
    assert "Cy" in words(boss.get(ours.visit.get_absolute_url()))
    boss.post(change, {"did": "back"})
    assert Client().login(username="cy", password=GOOD)


def test_a_certificate_has_a_number_and_a_day_and_the_gauges_station_says_when_it_ran_out(boss, ours, theirs):
    def keep_it(person, number, until=""):
        sent = {"did": "certificate", "certificate": number, "until": until}
        return boss.post(reverse("accounts:change_person", args=[person.public_id]), sent, follow=True)

    assert keep_it(theirs.person, "RC-1").status_code == 404
    keep_it(ours.person, " RC-1 ", "2099-05-01")
    assert "certificate RC-1 until May 1, 2099" in words(boss.get(PAGE)) and "RC-1" in words(boss.get("/shop/"))
    for number, until, refused in (("", "2099-05-01", "needs the number"), ("RC-2", "1 May", "valid date")):
        assert refused in words(keep_it(ours.person, number, until))
    keep_it(ours.person, "RC-2", "2024-05-01")
    assert "ran out on May 1, 2024" in words(boss.get(PAGE))
    assert "Your certificate RC-2 ran out on May 1, 2024" in words(boss.get(ours.visit.get_absolute_url()))
    ours.person.refresh_from_db()
    row = HookUp(certificate="RC-2", certificate_until=ours.person.certificate_until, taken_at=timezone.now())
    assert row.under == "certificate RC-2, which ran out on May 1, 2024"


def test_a_shop_keeps_a_lead(boss, ours):
    own = reverse("accounts:change_person", args=[ours.person.public_id])
    for sent in ({"did": "go"}, {"did": "role", "role": TECHNICIAN}):
        assert "would have no lead" in words(boss.post(own, sent, follow=True))
    cy = User.objects.create_user("cy", first_name="Cy", shop=ours.shop)
    boss.post(reverse("accounts:change_person", args=[cy.public_id]), {"did": "role", "role": LEAD})
    cy.refresh_from_db()
    assert cy.role == LEAD
    assert "no such role" in words(boss.post(own, {"did": "role", "role": "king"}, follow=True))


def test_a_new_password_by_link_or_by_oneself_ends_the_other_sessions(boss, ours):
    cy = User.objects.create_user("cy", password="old-and-long-enough", first_name="Cy", shop=ours.shop)
    other = Client()
    other.force_login(cy)
    made = boss.post(reverse("accounts:change_person", args=[cy.public_id]), {"did": "password"})
    keep(Client(), made.context["address"])
    assert other.get("/").status_code == 302 and Client().login(username="cy", password=GOOD)
    own = Client()
    own.login(username="cy", password=GOOD)
    sent = {"old_password": GOOD, "new_password1": "another-good-one", "new_password2": "another-good-one"}
    assert own.post(reverse("accounts:password"), sent).status_code == 302
    assert own.get("/").status_code == 200 and Client().login(username="cy", password="another-good-one")


def test_people_are_the_leads_and_another_shop_changes_nobody(signed_in, ours, theirs):
    assert signed_in.get(PAGE).status_code == signed_in.post(PAGE, {"first_name": "X"}).status_code == 403
    User.objects.filter(pk=theirs.person.pk).update(role=LEAD)
    theirs.person.refresh_from_db()
    for change in (services.let_go, services.let_in_again, services.let_choose_password):
        with pytest.raises(PermissionDenied):
            change(theirs.person, ours.person)
    with pytest.raises(PermissionDenied):
        services.set_role(theirs.person, ours.person, LEAD)


def test_no_page_of_a_person_is_kept_by_a_browser(signed_in, ours):
    for address in ("/", "/houses/", ours.visit.get_absolute_url(), "/shop/"):
        assert signed_in.get(address)["Cache-Control"] == "no-store", address


# -- where somebody is signed in ---------------------------------------------------------------------------------------


def signed_in_on(name, agent):
    client = Client(headers={"User-Agent": agent})
    assert client.post("/sign-in/", {"username": name, "password": "quite-long-enough"}).status_code == 302
    return client


def is_in(client):
    return client.get("/").status_code == 200


def test_a_person_sees_where_they_are_signed_in_and_ends_one_or_all_others(ours):
    phone, laptop, van = (signed_in_on("ana", agent) for agent in ("Some Mobile thing", "A laptop's", "Van's Android"))
    page = words(laptop.get(SESSIONS))
    assert page.count("Phone or tablet") == 2 and "Computer , this one" in page and "from 127.0.0.1" in page
    of_phone = Session.objects.get(device="Some Mobile thing")
    laptop.post(SESSIONS, {"one": of_phone.public_id})
    assert [is_in(client) for client in (phone, laptop, van)] == [False, True, True]
    laptop.post(SESSIONS)
    assert [is_in(client) for client in (laptop, van)] == [True, False]


def test_a_session_is_new_at_sign_in_and_gone_when_somebody_leaves_or_loses_a_phone(boss, ours, theirs):
    client = Client()
    client.get("/sign-in/")
    planted = client.session
    planted["x"] = 1
    planted.save()
    client.cookies["sessionid"] = planted.session_key
    client.post("/sign-in/", {"username": theirs.person.username, "password": "quite-long-enough"})
    assert is_in(client) and client.session.session_key != planted.session_key, "a planted session opens nothing"
    User.objects.create_user("cal", password="quite-long-enough", first_name="Cal", shop=ours.shop)
    cal = User.objects.get(username="cal")
    change = reverse("accounts:change_person", args=[cal.public_id])
    for did in ("sign_out", "go"):
        phone = signed_in_on("cal", "Mobile")
        boss.post(change, {"did": did})
        assert not is_in(phone) and not Session.objects.filter(person=cal).exists()
    with pytest.raises(PermissionDenied):
        services.end_sessions(ours.person, theirs.person)
    with pytest.raises(PermissionDenied):
        services.end_sessions(cal, ours.person)
    assert is_in(client)


def test_a_session_is_seen_again_after_some_minutes(ours):
    client = signed_in_on("ana", "Mobile")
    client.get("/")
    first = Session.objects.get().seen
    Session.objects.update(seen=0)
    session = client.session
    session["seen"] = first - 700
    session.save()
    client.get("/")
    assert Session.objects.get().seen >= first
