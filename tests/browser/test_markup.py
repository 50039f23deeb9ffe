"""Markup in every field: stored as it was typed, shown as text on every page, in a real browser."""

import pytest
from django.apps import apps
from django.db.models import CharField, JSONField, TextField
from django.test import Client
from django.urls import reverse
from playwright.sync_api import expect

from tests.web.conftest import Device
from tests.web.test_access import pages, patterns, with_role
from tests.web.test_erasing import live_in, mark
from web.accounts.rights import LEAD
from web.visits import changes

HIT = "<b data-hit>"
MARKUP = f"'\"></script>{HIT}"
OURS = ("accounts", "houses", "probes", "visits", "exchange", "history", "kinds", "background", "houserules")
# Longer than a name and yet no place for words: codes, numbers, hashes, tables, and what signs in.
CODES = {
    "User.username", "User.password", "User.email", "Session.session_key", "Session.session_data", "Table.text",
    "Tally.key", "KnownKinds.document", "Reading.place", "Pairing.stop", "Pairing.place", "Work.due", "DoorLink.email",
    "CustomerLink.token_hash", "ApiToken.token_hash", "Gateway.token_hash", "CalendarFeed.token_hash",
    "DoorLink.token_hash", "HouseWord.word",
}  # fmt: skip
NAMES = {
    "System.name", "System.serial", "System.indoor_serial", "Room.name", "Instrument.label", "Gateway.name",
    "Probe.name", "Cylinder.label", "ChargeStep.cylinder", "User.certificate", "HookUp.certificate",
}  # fmt: skip


def typed_into():
    """Every column in which a person can write words."""
    for model in apps.get_models():
        for field in model._meta.concrete_fields if model._meta.app_label in OURS else ():
            named, is_text = f"{model.__name__}.{field.name}", isinstance(field, CharField | TextField)
            long_enough = isinstance(field, TextField) or (is_text and field.max_length >= 60)
            if is_text and not isinstance(field, JSONField) and (long_enough or named in NAMES) and named not in CODES:
                yield model, field


@pytest.fixture
def marked(sheet):
    """A shop in which everything that anybody wrote is markup; the addresses of its pages."""
    shop, client = sheet.shop, Client()
    client.force_login(shop.person)
    live_in(shop, Device(client, shop))
    with_role(shop.person, LEAD)
    return client


def test_every_page_shows_markup_as_text(sheet, marked):
    page, shop = sheet.page, sheet.shop
    sheet.own_doing = ("status of 40",)  # what another role or an empty shop does not have
    lived_in, shop.visit = shop.visit, changes.start_visit(shop.person, shop.system)
    shown = [(name, address) for method, name, address in pages(shop) if method == "get"]
    shown += [("visits:sheet", lived_in.get_absolute_url())]
    shown += [(name, reverse(name)) for name, pattern in patterns() if "<" not in pattern]
    mark(MARKUP, typed_into())
    seen = 0
    for name, address in shown:
        answer = marked.get(address)
        if answer.status_code != 200 or not answer["Content-Type"].startswith("text/html"):
            continue
        page.goto(sheet.address + address)
        assert page.locator("[data-hit]").count() == 0, name
        seen += page.get_by_text(HIT).count()
    assert seen > 100, "the pages show what was written"


@pytest.mark.parametrize("station", ["arrive", "read/outdoor", "air", "judge", "fix", "close"])
def test_the_sheet_shows_markup_as_text(sheet, marked, station):
    mark(MARKUP, typed_into())
    sheet.page.goto(f"{sheet.address}/visits/{sheet.shop.visit.public_id}/#{station}")
    expect(sheet.outbox).to_have_text("All sent")
    sheet.still()
    assert sheet.page.locator("[data-hit]").count() == 0 and sheet.page.get_by_text(HIT).count()


def test_what_is_typed_comes_back_as_text(sheet):
    sheet.open("read/outdoor")
    sheet.type("outdoor.dry_bulb", HIT)
    expect(sheet.note("outdoor.dry_bulb")).to_contain_text(HIT)
    assert sheet.page.locator("[data-hit]").count() == 0
    sheet.page.goto(f"{sheet.address}/houses/?q={MARKUP}")
    expect(sheet.page.locator("#find")).to_have_value(MARKUP)
    assert sheet.page.locator("[data-hit]").count() == 0
