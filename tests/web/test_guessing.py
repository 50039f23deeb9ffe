"""Guessing at the door and at secret addresses is slowed, and nobody is shut out by a stranger."""

from datetime import timedelta

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from tests.web.conftest import words
from tests.web.test_access import PASSWORD
from web.accounts import guard
from web.accounts.limits import Limit
from web.accounts.models import Tally, User
from web.accounts.rights import LEAD
from web.exchange.services import make_token

SIGN_IN = "/sign-in/"
PAUSED = 429


def sign_in(client, name="ana", password="nope", **more):
    return client.post(SIGN_IN, {"username": name, "password": password}, **more)


def pass_by(span):
    """Time goes on: every stretch began so much earlier."""
    for tally in Tally.objects.all():
        Tally.objects.filter(pk=tally.pk).update(until=tally.until - span)


def test_a_limit_counts_in_its_stretch_and_begins_anew_after_it(db):
    three = Limit("three", 3, timedelta(minutes=1))
    assert [bool(three.count("a")) for _ in range(5)] == [False, False, False, True, True]
    assert three.spent_until("a") > timezone.now() and three.spent_until("b") is None
    assert set(three.spent_among(["a", "b"])) == {"a"}
    pass_by(timedelta(seconds=61))
    assert three.spent_until("a") is None and three.count("a") is None
    assert "a" not in {tally.key.partition(":")[2] for tally in Tally.objects.all()}, "what was typed is not kept"


def test_five_wrong_passwords_pause_a_name_and_the_page_says_how_long_and_who_lifts_it(ours):
    stranger = Client()
    assert [sign_in(stranger).status_code for _ in range(5)] == [200] * 4 + [PAUSED]
    right = sign_in(Client(), password=PASSWORD)
    assert right.status_code == PAUSED and "_auth_user_id" not in right.wsgi_request.session
    assert "Wait 15 minutes" in words(right) and "A lead of your shop can lift the pause" in words(right)
    assert 880 < int(right["Retry-After"]) <= 901
    assert sign_in(Client(), "ANA ", PASSWORD).status_code == PAUSED, "the same name"
    pass_by(guard.QUARTER)
    assert sign_in(Client(), password=PASSWORD).status_code == 302


def test_a_stranger_shuts_nobody_out_of_a_device_they_have_used(ours):
    own = Client()
    assert sign_in(own, password=PASSWORD).status_code == 302
    own.post("/sign-out/")
    for _ in range(25):
        sign_in(Client())
    assert sign_in(Client(), password=PASSWORD).status_code == PAUSED
    assert sign_in(own, password=PASSWORD).status_code == 302
    own.post("/sign-out/")
    assert [sign_in(own).status_code for _ in range(11)][-2:] == [PAUSED] * 2, "a lost phone guesses no longer either"
    forged = Client()
    forged.cookies[guard.COOKIE] = own.cookies[guard.COOKIE].value[:-2] + "xx"
    assert sign_in(forged, password=PASSWORD).status_code == PAUSED


def test_a_device_is_known_for_those_who_signed_in_on_it_alone(ours, theirs):
    own = Client()
    sign_in(own, password=PASSWORD)
    own.post("/sign-out/")
    answers = [sign_in(own, theirs.person.username).status_code for _ in range(6)]
    assert answers[-1] == PAUSED and sign_in(own, password=PASSWORD).status_code == 302


@pytest.mark.parametrize("limit", ["OF_ADDRESS", "OF_ALL"])
def test_one_guess_at_each_of_many_names_is_slowed_by_address_and_over_all(ours, monkeypatch, limit):
    if limit == "OF_ALL":
        monkeypatch.setattr(guard, "OF_ALL", Limit("all", 30, guard.QUARTER))
    froms = ["203.0.113.7"] if limit == "OF_ADDRESS" else [f"203.0.113.{n}" for n in range(50)]
    answers = [sign_in(Client(), f"name{n}", REMOTE_ADDR=froms[n % len(froms)]).status_code for n in range(40)]
    assert answers[0] == 200 and answers[-1] == PAUSED
    elsewhere = sign_in(Client(), password=PASSWORD, REMOTE_ADDR="198.51.100.9").status_code
    assert elsewhere == (302 if limit == "OF_ADDRESS" else PAUSED)


def test_behind_our_proxy_addresses_are_told_apart_and_nobody_elses_word_is_taken(ours, settings):
    settings.TRUSTED_PROXIES = ["127.0.0.1"]

    def tries(near, said):
        more = {"REMOTE_ADDR": near, "HTTP_X_FORWARDED_FOR": said}
        return [sign_in(Client(), f"name{n}", **more).status_code for n in range(22)][-1]

    assert tries("127.0.0.1", "198.51.100.1, 203.0.113.1") == PAUSED
    assert sign_in(Client(), "other", REMOTE_ADDR="127.0.0.1", HTTP_X_FORWARDED_FOR="203.0.113.2").status_code == 200
    assert tries("203.0.113.9", "203.0.113.3") == PAUSED
    assert sign_in(Client(), "other", REMOTE_ADDR="203.0.113.9", HTTP_X_FORWARDED_FOR="8.8.8.8").status_code == PAUSED


def test_a_lead_sees_the_pause_and_lifts_it(signed_in, ours, theirs):
    User.objects.filter(pk=ours.person.pk).update(role=LEAD)
    cal = User.objects.create_user("cal", password=PASSWORD, first_name="Cal", shop=ours.shop)
    for _ in range(5):
        sign_in(Client(), "cal")
    people = reverse("accounts:people")
    assert "is paused until" in words(signed_in.get(people))
    lift = reverse("accounts:change_person", args=[theirs.person.public_id])
    assert signed_in.post(lift, {"did": "lift"}).status_code == 404
    signed_in.post(reverse("accounts:change_person", args=[cal.public_id]), {"did": "lift"})
    assert "is paused until" not in words(signed_in.get(people))
    assert sign_in(Client(), "cal", PASSWORD).status_code == 302


@pytest.mark.parametrize(
    ("address", "how"),
    [
        ("/probes/samples/", {"method": "POST", "HTTP_AUTHORIZATION": "Bearer wrong"}),
        ("/api/v1/houses", {"method": "GET", "HTTP_AUTHORIZATION": "Bearer wrong"}),
        (reverse("exchange:customer", args=["wrong"]), {"method": "GET"}),
        (reverse("accounts:come_in", args=["wrong"]), {"method": "GET"}),
        (reverse("history:feed", args=["wrong"]), {"method": "GET"}),
    ],
)
def test_tokens_that_open_nothing_are_slowed_and_a_right_one_still_opens(ours, address, how):
    stranger, method = Client(REMOTE_ADDR="203.0.113.7"), how["method"]
    more = {key: value for key, value in how.items() if key != "method"}
    answers = [stranger.generic(method, address, **more) for _ in range(31)]
    assert answers[0].status_code in (401, 404) and answers[-1].status_code == 429 and answers[-1]["Retry-After"]
    User.objects.filter(pk=ours.person.pk).update(role=LEAD)
    ours.person.refresh_from_db()
    _, token = make_token(ours.person, "A program", ["houses"])
    assert stranger.get("/api/v1/houses", headers={"Authorization": f"Bearer {token}"}).status_code == 200
