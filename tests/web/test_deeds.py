"""Who did what: each change that leaves no row of its own is noted by who made it, for the leads of the shop alone."""

import pytest
from django.test import Client
from django.urls import reverse

from tests.web.conftest import words
from tests.web.test_access import PASSWORD, with_role
from tests.web.test_due import finish
from web.accounts import second, services
from web.accounts.deeds import DEEDS
from web.accounts.models import Deed, DoorLink, User
from web.accounts.rights import LEAD, TECHNICIAN
from web.background import services as background
from web.exchange import services as exchange
from web.exchange.models import RegisterIntake
from web.history import services as history
from web.houses.models import House
from web.houses.services import save_house, save_instrument, set_rooms
from web.probes import services as probes
from web.shell.append_only import AppendOnlyError

PAGE = reverse("history:deeds")


@pytest.fixture
def boss(ours):
    with_role(ours.person, LEAD)
    return ours.person


def everything(boss, ours, cal):
    """One of each change, in an order in which they can be; the door's own are made through it."""
    ours.house.altitude_ft = 1200
    save_house(boss, ours.house)
    save_house(boss, House(name="New house", altitude_ft=10, climate="dry"))
    set_rooms(boss, ours.system, [])
    ours.probe.label = "Other"
    save_instrument(boss, ours.probe)
    ours.probe.pk, ours.probe.public_id = None, "6a2f41a3-c54c-4b86-8f5c-b0ad8cf0a001"
    save_instrument(boss, ours.probe)
    ours.probe.retired = True
    save_instrument(boss, ours.probe)
    gateway, _ = probes.add_gateway(boss, "Van")
    probes.revoke(boss, gateway)
    history.make_feed(boss)
    history.end_feed(boss)
    finish(ours, ours.visit)
    link, _ = exchange.make_link(boss, ours.visit)
    exchange.end_link(boss, link)
    token, _ = exchange.make_token(boss, "Books", ["houses"])
    exchange.revoke_token(boss, token)
    intake = RegisterIntake.objects.create(shop=ours.shop, by=boss, file_name="x.csv", rows=[])
    exchange.undo_register(boss, exchange.make_register(boss, intake))
    exchange.note_taken_out(boss, ours.house)
    work = background.start(boss, "export")
    background.stop(boss, work)
    services.invite(boss, "Di", "", TECHNICIAN)
    services.let_choose_password(boss, cal)
    services.end_door(boss, DoorLink.objects.filter(person=cal).get())
    services.set_role(boss, cal, LEAD)
    services.set_certificate(boss, cal, "C-9")
    services.set_usual_place(boss, ours.shop)
    services.lift_pause(boss, cal)
    services.end_sessions(boss, cal)
    services.let_go(boss, cal)
    services.let_in_again(boss, cal)
    second.new_codes(boss)
    services.set_email(boss, "boss@shop.example")


def test_each_change_is_noted_once_by_who_made_it(boss, ours, client, monkeypatch):
    cal = User.objects.create_user("cal", password=PASSWORD, first_name="Cal", shop=ours.shop)
    client.post("/sign-in/", {"username": "cal", "password": PASSWORD})
    monkeypatch.setattr(second.TOTPDevice, "verify_token", lambda *_: True)
    second.begin(boss)
    second.confirm(boss, "1")
    second.switch_off(boss, boss)
    for _ in range(7):
        Client().post("/sign-in/", {"username": "cal", "password": "nope"})
    everything(boss, ours, cal)
    joins = services.invite(boss, "Ed", "", TECHNICIAN)
    for token, name in ((joins, "ed"), (services.let_choose_password(boss, cal), "")):
        services.come_in(DoorLink.objects.with_token(token).get(), name, "plum-bob-and-string")
    noted = [deed.did for deed in Deed.objects.all()]
    assert set(DEEDS) - set(noted) == {"customer_erased", "taken_in"}, "noted in test_erasing and test_archive"
    twice = {"invited", "password_link", "house_new"}  # the fixture's own house too
    assert {did for did in noted if noted.count(did) > 1} == twice
    nobody = {deed.did for deed in Deed.objects.filter(by=None)}
    assert nobody == {"held_up"} and Deed.objects.get(did="joined").by.username == "ed"


def test_the_page_is_the_leads_names_things_and_its_queries_do_not_grow(
    signed_in, boss, ours, theirs, django_assert_max_num_queries
):
    for n in range(40):
        ours.house.altitude_ft = 2000 + n
        save_house(boss, ours.house)
    with_role(theirs.person, LEAD)
    theirs.house.altitude_ft = 9
    save_house(theirs.person, theirs.house)
    with django_assert_max_num_queries(12):
        page = words(signed_in.get(PAGE, {"did": "house"}))
    assert "Corrected the house Ours house altitude ft" in page and "Theirs" not in page
    assert "Nothing of that kind." in words(signed_in.get(PAGE, {"did": "token"}))
    assert "Corrected" in words(signed_in.get(PAGE, {"person": boss.public_id, "page": "2", "did": "x"}))
    with_role(boss, "office")
    assert signed_in.get(PAGE).status_code == 403


def test_what_is_noted_stays(boss, ours):
    history.make_feed(boss)
    with pytest.raises(AppendOnlyError):
        Deed.objects.all().delete()
    with pytest.raises(AppendOnlyError):
        Deed.objects.update(detail="nothing")
