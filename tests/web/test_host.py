"""The pages of the host's own staff: off by default, at an address of their own, with a second factor."""

import importlib
import os
import secrets
import subprocess
import sys

import pytest
from django.urls import clear_url_caches
from django_otp.plugins.otp_totp.models import TOTPDevice

import web.urls
from tests.web.conftest import words
from web.accounts.models import User

HOST = "/keepers-7f3a/"


@pytest.fixture
def with_pages(settings):
    def anew():
        clear_url_caches()
        importlib.reload(web.urls)

    settings.HOST_PAGES = HOST.strip("/") + "/"
    anew()
    yield
    settings.HOST_PAGES = ""
    anew()


@pytest.fixture
def keeper(db):
    person = User.objects.create_user("keeper", password="plum-bob-and-string", is_staff=True, is_superuser=True)
    TOTPDevice.objects.create(user=person, confirmed=True)
    return person


def test_there_are_none_by_default(client, keeper):
    client.force_login(keeper)
    assert client.get(HOST).status_code == 404


def test_only_the_hosts_staff_with_a_second_factor_gets_in_and_sees_no_customer(client, keeper, with_pages, ours):
    assert client.get(HOST, follow=True).redirect_chain[-1][0].startswith("/sign-in/")
    client.force_login(keeper)
    assert "Shops and people" in words(client.get(HOST))
    for name in ("shop", "user", "deed"):
        assert client.get(f"{HOST}accounts/{name}/").status_code == 200
    page = words(client.get(f"{HOST}accounts/user/{ours.person.pk}/change/"))
    assert "ana" in page and "Password" not in page
    assert client.get(f"{HOST}houses/house/").status_code == 404
    assert client.post(f"{HOST}accounts/user/{ours.person.pk}/delete/", {"post": "yes"}).status_code == 403


@pytest.mark.parametrize("lacks", [{"is_staff": False}, {"shop": True}, {"code": True}, {"is_active": False}])
def test_who_lacks_one_of_it_does_not(client, keeper, with_pages, ours, lacks):
    if "code" in lacks:
        TOTPDevice.objects.all().delete()
    else:
        changes = {"shop": ours.shop} if "shop" in lacks else lacks
        User.objects.filter(pk=keeper.pk).update(**changes)
    client.force_login(keeper)
    assert client.get(HOST, follow=False).status_code in (302, 403)
    assert client.get(f"{HOST}accounts/user/", follow=True).status_code in (200, 403)
    assert "Select user to change" not in words(client.get(f"{HOST}accounts/user/", follow=True))


def test_the_production_settings_pass_djangos_own_check(tmp_path):
    """`manage.py check --deploy` says nothing."""
    said = subprocess.run(
        [sys.executable, "manage.py", "check", "--deploy", "--fail-level", "WARNING"],
        env={name: value for name, value in os.environ.items() if name != "DJANGO_ALLOW_ASYNC_UNSAFE"}
        | {
            "DJANGO_SETTINGS_MODULE": "web.settings.production",
            "RUDDY_SECRET_KEY": secrets.token_urlsafe(60),
            "RUDDY_HOSTS": "draft.example",
            "RUDDY_STATE": str(tmp_path),
        },
        capture_output=True,
        text=True,
    )
    assert said.returncode == 0 and "no issues" in said.stdout, said.stderr
