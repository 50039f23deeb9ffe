"""A second factor: switched on with the app's code, asked for after the password, each code once, a way back."""

import time

import pytest
from django.core.exceptions import PermissionDenied
from django.test import Client
from django.urls import reverse
from django_otp.oath import totp
from django_otp.plugins.otp_static.models import StaticDevice, StaticToken
from django_otp.plugins.otp_totp.models import TOTPDevice

from tests.web.conftest import words
from tests.web.test_access import PASSWORD
from web.accounts import guard, second
from web.accounts.models import User
from web.accounts.rights import LEAD
from web.accounts.views import door

PAGE, CODE, SIGN_IN = reverse("accounts:second_factor"), reverse("accounts:second"), "/sign-in/?next=/preferences/"


def shown_by_app(person, later=0):
    """The code that the app shows; later: so many half minutes on."""
    device = TOTPDevice.objects.get(user=person)
    return f"{totp(device.bin_key, drift=later):06}"


@pytest.fixture
def codes(signed_in, ours):
    """Switched on; its recovery codes."""
    signed_in.get(PAGE)
    page = words(signed_in.post(PAGE, {"did": "begin", "code": shown_by_app(ours.person)}))
    assert "It is on" in page
    return list(StaticToken.objects.values_list("token", flat=True))


def half_in(password=PASSWORD):
    client = Client()
    answer = client.post(SIGN_IN, {"username": "ana", "password": password, "next": "/preferences/"})
    return client, answer


def is_in(client):
    return client.get("/").status_code == 200


def forgiven():
    """The seconds after a wrong code have passed."""
    for kind in (TOTPDevice, StaticDevice):
        kind.objects.update(throttling_failure_count=0, throttling_failure_timestamp=None)


def test_the_published_codes():
    """RFC 6238, appendix B: its secret, SHA-1, eight digits."""
    secret = b"12345678901234567890"
    for moment, code in ((59, 94287082), (1111111109, 7081804), (20000000000, 65353130)):
        assert totp(secret, step=30, t0=0, digits=8, drift=moment // 30 - int(time.time()) // 30) == code


def test_it_is_on_once_the_app_shows_the_right_code_and_recovery_codes_are_shown_once(signed_in, ours):
    assert "Read this with the app" in words(signed_in.get(PAGE)) and not second.is_on(ours.person)
    wrong = f"{(int(shown_by_app(ours.person)) + 1) % 10**6:06}"
    assert "does not fit" in words(signed_in.post(PAGE, {"did": "begin", "code": wrong}))
    assert not second.is_on(ours.person) and half_in()[1].url == "/preferences/"
    forgiven()
    spaced = shown_by_app(ours.person)
    page = words(signed_in.post(PAGE, {"did": "begin", "code": f"{spaced[:3]} {spaced[3:]}"}))
    codes = StaticToken.objects.values_list("token", flat=True)
    assert len(codes) == second.RECOVERY_CODES and all(code in page for code in codes)
    assert not any(code in words(signed_in.get(PAGE)) for code in codes)


def test_a_password_alone_lets_nobody_in_and_a_code_does_once(codes, ours):
    client, answer = half_in()
    assert answer.url == CODE and not is_in(client)
    assert Client().get(CODE).url == reverse("accounts:sign_in"), "no password yet"
    assert "does not fit" in words(client.post(CODE, {"code": "x" * 500})) and not is_in(client)
    forgiven()
    code = shown_by_app(ours.person, later=1)
    before = client.session.session_key
    assert client.post(CODE, {"code": code}).url == "/preferences/" and is_in(client)
    assert client.session.session_key != before
    again, _ = half_in()
    again.post(CODE, {"code": code})
    assert not is_in(again), "a code that was looked at over the shoulder"
    forgiven()
    for opens in (True, False):
        client, _ = half_in()
        client.post(CODE, {"code": codes[0].upper()})
        assert is_in(client) == opens, "a recovery code opens once"
    assert second.codes_left(ours.person) == len(codes) - 1


def test_codes_are_not_guessed_and_half_a_sign_in_does_not_last(codes, ours, monkeypatch):
    client, _ = half_in()
    answers = [client.post(CODE, {"code": f"{n:06}"}).status_code for n in range(guard.OF_NAME.most + 1)]
    assert answers[-1] == 429 and not is_in(client)
    guard.lift(ours.person)
    forgiven()
    client, _ = half_in()
    monkeypatch.setattr(door, "HALF_IN_FOR_S", -1)
    client.post(CODE, {"code": shown_by_app(ours.person, later=1)})
    assert not is_in(client)


def test_it_is_changed_with_the_password_and_switched_off_by_a_lead_for_who_lost_the_phone(
    codes, signed_in, ours, theirs
):
    assert "not your password" in words(signed_in.post(PAGE, {"did": "off", "password": "nope"}))
    signed_in.post(PAGE, {"did": "codes", "password": PASSWORD})
    assert not set(codes) & set(StaticToken.objects.values_list("token", flat=True))
    boss = User.objects.create_user("bea", password=PASSWORD, first_name="Bea", role=LEAD, shop=ours.shop)
    colleague = User.objects.create_user("cal", password=PASSWORD, first_name="Cal", shop=ours.shop)
    for nobody in (colleague, theirs.person):
        with pytest.raises(PermissionDenied):
            second.switch_off(nobody, ours.person)
    client = Client()
    client.force_login(boss)
    assert "Switch off the second factor" in words(client.get(reverse("accounts:people")))
    client.post(reverse("accounts:change_person", args=[ours.person.public_id]), {"did": "no_code"})
    assert half_in()[1].url == "/preferences/"
    signed_in.get(PAGE)
    signed_in.post(PAGE, {"did": "off", "password": PASSWORD})
    assert not TOTPDevice.objects.filter(user=ours.person, confirmed=True).exists()
