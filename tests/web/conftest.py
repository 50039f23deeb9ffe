"""Two shops: ours with a house, two probes and a visit; and another shop, whose people may see nothing of it."""

import io
import json
import re
import uuid
from datetime import timedelta
from html import unescape
from html.parser import HTMLParser
from types import SimpleNamespace

import pytest
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.urls import reverse
from django.utils import timezone
from PIL import Image

from web.accounts.models import Shop, User
from web.houses.models import House, Instrument, System
from web.houses.services import save_house
from web.settings.bucket import bucket
from web.visits import changes

KEY = {"RUDDY_BUCKET": "shop", "RUDDY_BUCKET_KEY": "plumb", "RUDDY_BUCKET_SECRET": "bob"}
SOUND = {
    "system.running_time": "20", "see.strip_heat": "off", "see.coil": "wet", "outdoor.dry_bulb": "90.8",
    "return_unit.dry_bulb": "76.4",
    "return_unit.humidity": "rh", "return_unit.rh": "52", "blower.airflow@flow_device": "1200",
    "blower.plane": "return",
    "supply_plenum.dry_bulb": "55.8", "supply_plenum.humidity": "rh", "supply_plenum.rh": "91",
}  # fmt: skip


@pytest.fixture
def in_a_bucket(settings, store_of_others):
    """Pictures and archives go into an empty bucket."""
    storage = bucket(KEY | {"RUDDY_BUCKET_ENDPOINT": store_of_others, "RUDDY_BUCKET_REGION": "us-east-1"})
    settings.STORAGES = settings.STORAGES | {"default": storage}
    kept = default_storage.connection.create_bucket(Bucket="shop")
    yield kept
    kept.objects.all().delete()
    kept.delete()


@pytest.fixture(params=["folder", "bucket"])
def wherever(request, settings, tmp_path):
    """Pictures and archives in a folder of their own, and in a bucket."""
    settings.MEDIA_ROOT = tmp_path
    if request.param == "bucket":
        request.getfixturevalue("in_a_bucket")


def words(response):
    """What a page says, without its tags."""
    return plain(response.content.decode())


def plain(html):
    """Text without tags."""
    return unescape(re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", html)))


class _Form(HTMLParser):
    """What a browser would send of a page's sheet: where to, and its fields as they stand."""

    def __init__(self, page):
        super().__init__()
        self.address, self.fields, self.select = "", {}, ""
        self.feed(page)

    def handle_starttag(self, tag, attrs):
        has = dict(attrs)
        if tag == "form" and "data-round" in has:
            self.address = has["hx-post"]
        elif tag == "input" and has.get("name") and (has.get("type") != "radio" or "checked" in has):
            self.fields[has["name"]] = has.get("value") or ""
        elif tag == "select":
            self.select = has.get("name", "")
        elif tag == "option" and self.select and "selected" in has:
            self.fields[self.select] = has["value"]


def whole_sheet(client, visit):
    """A visit's sheet as HTML, with its first preview: that brings the drawing, the marks, Air and Judge."""
    page = client.get(visit.get_absolute_url()).content.decode()
    form = _Form(page)
    return page + client.post(form.address, form.fields).content.decode()


def a_picture(kind="JPEG", size=(64, 48), exif=None):
    """A small picture as an upload."""
    file = io.BytesIO()
    Image.new("RGB", size, "gray").save(file, kind, **({"exif": exif} if exif else {}))
    return ContentFile(file.getvalue(), name="picture.jpg")


def make_shop(name, username):
    """A shop with one technician, one house with one system, one probe and one visit under way."""
    shop = Shop.objects.create(name=name, time_zone="America/Denver")
    person = User.objects.create_user(
        username, password="quite-long-enough", first_name=username.title(), last_name="Test", shop=shop
    )
    house = save_house(person, House(name=f"{name} house", altitude_ft=1150, climate="humid"))
    system = System.objects.create(
        house=house, name="main", nominal_tons=3.0, metering_device="txv", refrigerant="R-410A"
    )
    probe = Instrument.objects.create(
        shop=shop,
        label=f"{name} probe",
        dry_bulb_accuracy_f=0.9,
        rh_accuracy_pct=3.0,
        lowest_f=-4.0,
        highest_f=120.0,
        calibrated_on=timezone.localdate(),
    )
    visit = changes.start_visit(person, system)
    return SimpleNamespace(
        shop=shop, person=person, house=house, system=system, probe=probe, visit=visit, round=visit.rounds.get()
    )


@pytest.fixture
def ours(db):
    return make_shop("Ours", "ana")


@pytest.fixture
def theirs(db):
    return make_shop("Theirs", "bo")


@pytest.fixture
def signed_in(client, ours):
    client.force_login(ours.person)
    client.get(reverse("accounts:preferences"))  # the session is written once, and then for some minutes not
    return client


class Device:
    """A phone or laptop posting entries the way the page does."""

    def __init__(self, client, shop):
        self.client, self.shop, self.id, self.sequence = client, shop, str(uuid.uuid4()), 0

    def item(self, place, quantity, value, unit="degF", **more):
        self.sequence += 1
        return {
            "id": str(uuid.uuid4()),
            "kind": "reading",
            "round": str(self.shop.round.public_id),
            "place": place,
            "quantity": quantity,
            "variant": "",
            "value": value,
            "unit": unit,
            "sequence": self.sequence,
            "taken_at": (timezone.now() + timedelta(milliseconds=self.sequence)).isoformat(),
            "supersedes": "",
            "instrument": str(self.shop.probe.public_id) if unit in ("degF", "degC", "pct") else "",
            **more,
        }

    def entry(self, kind, **what):
        return self.item("", "", "", unit="") | {"kind": kind, "instrument": "", **what}

    def seen(self, name, degree, **more):
        return self.entry("observation", seen=name, degree=degree, **more)

    def post(self, *items, clock=None):
        body = {"device": self.id, "clock": (clock or timezone.now()).isoformat(), "items": list(items)}
        return self.client.post(reverse("visits:entries"), json.dumps(body), content_type="application/json")

    def send(self, *items, **more):
        """Post and return the answers."""
        response = self.post(*items, **more)
        assert response.status_code == 200, response.content
        return response.json()["results"]

    def whole_visit(self):
        """A sound machine's readings, all answered 'stored'."""
        items = [
            self.item("system", "running_time", "20", "min"),
            self.seen("strip_heat", "off"),
            self.seen("coil", "wet"),
            self.item("outdoor", "dry_bulb", "90.8"),
            self.item("return_unit", "dry_bulb", "76.4"),
            self.item("return_unit", "rh", "52", "pct"),
            self.item("blower", "airflow", "1200", "CFM", variant="flow_device", plane="return"),
            self.item("supply_plenum", "dry_bulb", "55.8"),
            self.item("supply_plenum", "rh", "91", "pct"),
        ]
        assert {answer["status"] for answer in self.send(*items)} == {"stored"}
        return items


@pytest.fixture
def device(signed_in, ours):
    return Device(signed_in, ours)


@pytest.fixture
def preview(signed_in, ours):
    """Ask for a preview of a sound sheet with changes."""
    probe = str(ours.probe.public_id)
    probes = {f"{place}.instrument": probe for place in ("outdoor", "return_unit", "supply_plenum")}

    def ask(station="judge", stop="", **changes):
        address = reverse("visits:preview", args=[ours.visit.public_id, 1])
        response = signed_in.post(address, {**SOUND, **probes, "station": station, "stop": stop, **changes})
        assert response.status_code == 200
        return response

    return ask
