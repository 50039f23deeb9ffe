"""Links by mail: to whom they go, what is said without a mail server, and that nobody learns who has an account."""

import re
from io import StringIO

import pytest
from django.core import mail
from django.core.management import CommandError, call_command
from django.test import Client
from django.urls import reverse
from django_tasks_db.models import DBTaskResult

from tests.web.conftest import words
from tests.web.test_access import with_role
from web.accounts import second
from web.accounts.models import DoorLink, User
from web.accounts.rights import LEAD, TECHNICIAN
from web.accounts.tasks import send_forgotten

PEOPLE, FORGOTTEN, EMAIL = reverse("accounts:people"), reverse("accounts:forgotten"), reverse("accounts:email")
ASKED = "a link to a new password is on its way"


@pytest.fixture
def mailed(settings):
    settings.EMAIL_HOST, settings.DEFAULT_FROM_EMAIL = "mail.example", "draft@shop.example"


@pytest.fixture
def ana(ours):
    with_role(ours.person, LEAD)
    User.objects.filter(pk=ours.person.pk).update(email="ana@shop.example")
    return ours.person


def link_in(letter):
    return re.search(r"http://testserver(/\S+)", letter.body)[1]


def test_who_is_asked_in_gets_a_letter_and_keeps_the_address(signed_in, ana, mailed):
    asked = {"first_name": "Cy", "role": TECHNICIAN, "email": "cy@home.example"}
    said = signed_in.post(PEOPLE, asked)
    assert "Sent to cy@home.example" in words(said) and "/come-in/" not in said.content.decode()
    (letter,) = mail.outbox
    assert letter.to == ["cy@home.example"] and letter.subject == "You are asked into Ours"
    Client().post(link_in(letter), {"username": "cy", "password": "plum-bob-line", "again": "plum-bob-line"})
    assert User.objects.get(username="cy").email == "cy@home.example"


def test_where_the_mail_server_fails_the_link_is_shown(signed_in, ana, mailed, settings):
    settings.EMAIL_BACKEND = "django.core.mail.backends.smtp.EmailBackend"
    settings.EMAIL_HOST, settings.EMAIL_PORT = "127.0.0.1", 9  # nobody answers there
    said = signed_in.post(reverse("accounts:change_person", args=[ana.public_id]), {"did": "password"})
    assert "The mail server did not take it" in words(said) and "/come-in/" in said.content.decode()


@pytest.mark.parametrize("name", ["ana", "ANA", "ana@shop.example"])
def test_a_forgotten_password_is_chosen_anew_by_a_letter(ana, mailed, client, name):
    assert ASKED in words(client.post(FORGOTTEN, {"name": name}))
    queued = DBTaskResult.objects.get()
    assert queued.args_kwargs["args"] == [name] and not mail.outbox, "sent by the queue, so it takes as long for all"
    send_forgotten.call(name)
    assert mail.outbox[0].to == ["ana@shop.example"]
    assert "a new password" in words(client.get(link_in(mail.outbox[0])))


def test_nobody_learns_who_has_an_account_and_letters_are_few(ana, mailed, client):
    answers = {words(client.post(FORGOTTEN, {"name": name})) for name in ("ana", "nobody", *["ana"] * 4)}
    assert len(answers) == 1 and ASKED in answers.pop()
    assert [row.args_kwargs["args"][0] for row in DBTaskResult.objects.all()].count("ana") == 3
    User.objects.filter(pk=ana.pk).update(is_active=False)
    for name in ("nobody", "ana", ""):
        send_forgotten.call(name)
    assert not mail.outbox and not DoorLink.objects.exists()
    assert "Type the name" in words(client.post(FORGOTTEN, {"name": " "}))


def test_without_a_mail_server_it_says_whom_to_ask(client, db, signed_in, ana):
    assert "Ask a lead of your shop" in words(client.post(FORGOTTEN, {"name": "ana"}))
    assert not DBTaskResult.objects.exists() and "Mail address" not in words(signed_in.get(PEOPLE))


def test_a_mail_address_is_changed_with_the_password_alone(signed_in, ana):
    for sent, said in (({"email": "x"}, "valid email"), ({"password": "nope"}, "not your password"), ({}, "Type your")):
        assert said in words(signed_in.post(EMAIL, {"email": "a@b.example", "password": "", **sent}))
    signed_in.post(EMAIL, {"email": "new@home.example", "password": "quite-long-enough"})
    ana.refresh_from_db()
    assert ana.email == "new@home.example"


def test_the_host_lets_a_shops_only_lead_back_in(ana, client):
    second.begin(ana)
    second.TOTPDevice.objects.update(confirmed=True)
    out = StringIO()
    call_command("password_link", "Ana", "--without-code", stdout=out)
    assert client.get(out.getvalue().strip().removeprefix("http://testserver")).status_code == 200
    assert not second.is_on(ana)
    with pytest.raises(CommandError, match="Nobody signs in as 'bob'"):
        call_command("password_link", "bob")
