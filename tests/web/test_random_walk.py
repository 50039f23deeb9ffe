"""A random walk through every door - entries, previews, forms, pictures, the gateway - with what the lists know and
much they do not.

Two devices, retries, any order. No step answers 500, none stores half, and the sheet and the lists open after each.
Seeded: the same walk each time. STEPS and SEEDS in the environment take more of them.
"""

import json
import os
import random
from datetime import timedelta
from uuid import uuid4

import pytest
from django.core.cache import cache
from django.core.files.base import ContentFile
from django.urls import reverse
from django.utils import timezone

from engine.readings.observations import OBSERVATIONS
from engine.readings.vocabulary import QUANTITIES, QUANTITIES_AT
from engine.readings.walk import NOT_POSSIBLE, VARIANTS
from engine.units import UNITS
from tests.web.conftest import SOUND, Device, a_picture
from web.houses.models import System
from web.houses.services import add_table
from web.probes.models import Probe, Sample
from web.probes.services import add_gateway
from web.visits.models import SOURCES, Action, Observation, Photo, Reading, Remark, Round

STEPS, SEEDS = int(os.environ.get("STEPS", "50")), int(os.environ.get("SEEDS", "2"))
ODD = (
    "",
    " ",
    "x" * 45,
    "sideways",
    "\ud83d",
    "\u200b",
    "null",
    "-1e9",
    "NaN",
    "∞",
    "76,4",
    "1_000",
    "return_unit",
    "7" * 30,
)
ODDLY = (None, 7, True, [], {}, ["x"], "x" * 1000)
TYPEABLE = tuple(text for text in ODD if text != "\ud83d")  # a form is posted as UTF-8: half a letter cannot be
FINE = (200, 302, 400, 401, 403, 404, 429)
BLOWER = "static, low, high\n0.1, 1000, 1300\n0.5, 900, 1150"


class Walk:
    """One person at the doors of one shop. sent: entries that were stored."""

    def __init__(self, client, ours, chance):
        self.client, self.ours, self.chance, self.sent = client, ours, chance, []
        self.devices = [Device(client, ours) for _ in range(2)]
        self.token, self.sample = add_gateway(ours.person, "Van 1")[1], 0
        add_table(ours.person, ours.system, "blower", BLOWER)

    def likely(self, known, odd=ODD):
        """Mostly something known."""
        return self.chance.choice(known) if self.chance.random() < 0.85 else self.chance.choice(odd)

    def post(self, door, *args, **data):
        """A form, some of its fields left out or odd."""
        spoilt = {key: self.likely([value], TYPEABLE) for key, value in data.items() if self.chance.random() < 0.95}
        return self.client.post(
            reverse(door, args=args), {key: value for key, value in spoilt.items() if value is not None}
        )

    # -- entries -------------------------------------------------------------------------------------------------------

    def reading(self, device):
        chance, place = self.chance, self.likely(sorted(QUANTITIES_AT))
        quantity = self.likely(QUANTITIES_AT.get(place) or ("dry_bulb",))
        what = QUANTITIES.get(quantity)
        value = f"{chance.uniform(what.low, what.high):.1f}" if what and chance.random() < 0.8 else chance.choice(ODD)
        return device.item(
            place,
            quantity,
            value,
            self.likely([what.unit] if what else sorted(UNITS)),
            variant=self.likely(VARIANTS.get((place, quantity)) or ("",)),
            source=self.likely(["typed"] * 30 + sorted(SOURCES)),
            plane=self.likely(("return", "supply") if quantity == "airflow" else ("",)),
            reason=self.likely(sorted(NOT_POSSIBLE)),
            confirmed=chance.random() < 0.9,
            instrument=chance.choice(("", device.item("outdoor", "dry_bulb", "1")["instrument"])),
        )

    def entry(self, device):
        kind = self.chance.choice(("reading",) * 6 + ("observation", "observation", "remark", "action"))
        rounds = [str(row) for row in Round.objects.filter(visit=self.ours.visit).values_list("public_id", flat=True)]
        if kind == "reading":
            found = self.reading(device)
        elif kind == "observation":
            seen = self.likely([*sorted(OBSERVATIONS), "blower_tap"])
            found = device.seen(seen, self.likely(sorted(OBSERVATIONS.get(seen, {})) or ["off", "low", "high"]))
        else:
            text, done = (
                self.likely(("It hums.", "low", "high", "")),
                self.likely(("other", "filter_changed", "blower_speed_set")),
            )
            found = device.entry(kind, about=self.likely(("complaint", "remark")), done=done, text=text)
        supersedes = self.chance.choice(self.sent)["id"] if self.sent and self.chance.random() < 0.1 else ""
        return found | {"round": self.likely(rounds), "supersedes": supersedes}

    def spoilt(self, item):
        """An entry as a broken device might send it: a field of another kind, a wrong time, a number again."""
        where = self.chance.choice(sorted(item))
        odd = {"taken_at": [timezone.now() + timedelta(days=d) for d in (-9000, -2, 2, 9000)]}.get(where)
        return item | {where: self.chance.choice(odd).isoformat() if odd else self.chance.choice((*ODD, *ODDLY))}

    def entries(self):
        chance, device = self.chance, self.chance.choice(self.devices)
        batch = [self.entry(device) for _ in range(chance.randint(1, 6))]
        batch = [self.spoilt(item) if chance.random() < 0.15 else item for item in batch]
        batch += chance.sample(self.sent, min(len(self.sent), 2)) if chance.random() < 0.3 else []
        chance.shuffle(batch)
        before = stored()
        answer = device.post(*batch)
        assert answer.status_code == 200, batch
        told = [one["status"] for one in answer.json()["results"]]
        assert len(told) == len(batch) and stored() == before + told.count("stored"), "nothing half stored"
        self.sent += [item for status, item in zip(told, batch, strict=True) if status == "stored"]
        return answer

    # -- other doors ---------------------------------------------------------------------------------------------------

    def preview(self):
        changes = {
            self.likely([*SOUND, "filter.pressure_drop", "see.filter", "see.blower_tap"], TYPEABLE): self.likely(
                ("70", "high", "loaded"), TYPEABLE
            )
            for _ in range(4)
        }
        before = stored()
        station = self.likely(("arrive", "settle", "read", "air", "judge", "fix"), TYPEABLE)
        number = self.chance.choice((*Round.objects.filter(visit=self.ours.visit).values_list("number", flat=True), 99))
        address = reverse("visits:preview", args=[self.ours.visit.public_id, number])
        answer = self.client.post(
            address, {**SOUND, "station": station, "stop": self.likely(("blower", ""), TYPEABLE), **changes}
        )
        assert stored() == before, "a preview stores nothing"
        return answer

    def gateway(self):
        samples = []
        for _ in range(self.chance.randint(1, 4)):
            self.sample += self.chance.choice((0, 1, 1, 1))
            sample = {
                "probe": self.likely(("air-1", "line-1")),
                "channel": self.likely(("dry_bulb", "rh", "temperature")),
                "unit": self.likely(("degF", "pct")),
                "value": self.likely((76.4, 52.0), ODDLY),
                "sequence": self.likely((self.sample,), ODDLY),
                "taken_at": timezone.now().isoformat(),
            }
            samples.append(self.spoilt(sample) if self.chance.random() < 0.2 else sample)
        before = Sample.objects.count()
        cache.clear()  # what a gateway may send in ten seconds is another test's affair
        answer = self.client.post(
            reverse("probes:samples"),
            json.dumps({"clock": timezone.now().isoformat(), "samples": samples}),
            content_type="application/json",
            headers={"authorization": f"{self.likely(('Bearer', 'bearer'))} {self.token}"},
        )
        told = [one["status"] for one in answer.json().get("results", [])]
        assert Sample.objects.count() == before + told.count("stored")
        return answer

    def picture(self):
        before, file = (
            Photo.objects.count(),
            self.chance.choice((a_picture(), ContentFile(b"no picture", name="x.jpg"))),
        )
        number = str(self.chance.choice((uuid4(), "no number", *Photo.objects.values_list("public_id", flat=True))))
        subject = self.likely(("filter", "coil", "other"), TYPEABLE)
        answer = self.client.post(
            reverse("visits:add_photo", args=[self.ours.visit.public_id, 1]),
            {"id": number, "subject": subject, "file": file},
        )
        assert Photo.objects.count() - before in ((0, 1) if answer.status_code == 200 else (0,))
        return answer

    def form(self):
        """One of the shop's forms."""
        o, chance = self.ours, self.chance
        system = System.objects.get(pk=o.system.pk)
        plates = {name: "" if value is None else value for name, value in system.plates.items()}
        taps, probes = ("low", "high", ""), [str(row) for row in Probe.objects.values_list("public_id", flat=True)]
        forms = (
            lambda: self.post(
                "houses:new", number=str(uuid4()), name="Hollow Lane 14", altitude_ft="1150", climate="humid"
            ),
            lambda: self.post(
                "houses:edit", o.house.public_id, name="Ours", altitude_ft=self.likely(("0", "6200")), climate=""
            ),
            lambda: self.post(
                "houses:add_system", o.house.public_id, **plates | {"number": str(uuid4()), "name": "attic"}
            ),
            lambda: self.post(
                "houses:system",
                system.public_id,
                **plates
                | {
                    "name": "main",
                    "tap": chance.choice(taps),
                    "why": self.likely(("corrected", "changed"), TYPEABLE),
                    "metering_device": self.likely(("txv", "fixed_orifice"), TYPEABLE),
                    "nominal_tons": self.likely(("3", "5"), TYPEABLE),
                },
            ),
            lambda: self.post(
                "houses:tables_of",
                system.public_id,
                "blower",
                text=self.likely((BLOWER, BLOWER + "\n0.8, 700, 900"), TYPEABLE),
                source="",
            ),
            lambda: self.post(
                "houses:rooms",
                system.public_id,
                **{
                    "form-TOTAL_FORMS": self.likely(("1", "2"), TYPEABLE),
                    "form-INITIAL_FORMS": "0",
                    "form-0-name": self.likely(("den", "west room"), TYPEABLE),
                    "form-0-diameter_in": "6",
                    "form-0-duct": "flex",
                    "form-1-duct": "flex",
                },
            ),
            lambda: self.post("houses:new_instrument", label="Clamp", kind="line_clamp", calibration_months="12"),
            lambda: self.post("visits:next_round", o.visit.public_id, seen=str(chance.randint(1, 4))),
            lambda: self.post(
                "visits:open_follow_up",
                o.visit.public_id,
                number=str(uuid4()),
                text="Look at the drain",
                blocks="charge",
                due_on="2026-08-01",
            ),
            lambda: self.post(
                "visits:pair",
                o.visit.public_id,
                stop="return_unit",
                place="return_unit",
                probe=chance.choice(["", *probes]),
            ),
            lambda: self.post("visits:hand_over", o.visit.public_id, colleague=str(uuid4()), note="x"),
            lambda: self.post("visits:start", system.public_id, visit=str(uuid4())),
            lambda: self.post("houserules:change", rule="split_school", value="flat", seen_version="0"),
            lambda: self.post("accounts:preferences", temperatures=self.likely(("F", "C"), TYPEABLE)),
        )
        return chance.choice(forms)()

    def step(self):
        return self.chance.choice(
            (self.entries,) * 5
            + (self.preview, self.preview, self.gateway, self.picture, self.form, self.form, self.form)
        )()

    def pages(self):
        """What must open whatever was stored: the sheet, and one of the rest in turn."""
        visit, system = self.ours.visit, self.ours.system
        number = Round.objects.filter(visit=visit).count()
        past = f"{reverse('visits:what_if_past')}?rule=split_school&value=flat"
        rest = [
            reverse("visits:current", args=[visit.public_id, number]),
            reverse("visits:round", args=[visit.public_id, 1]),
            "/",
            reverse("houses:list"),
            reverse("houses:house", args=[self.ours.house.public_id]),
            reverse("visits:what_if"),
            past,
            reverse("visits:of_system", args=[system.public_id]),
            reverse("houses:tables", args=[system.public_id]),
            reverse("probes:gateways"),
            reverse("visits:live", args=[visit.public_id]),
            reverse("houses:rooms", args=[system.public_id]),
        ]
        return [visit.get_absolute_url(), self.chance.choice(rest)]


def stored():
    """How many entries there are."""
    return sum(model.objects.count() for model in (Reading, Observation, Remark, Action))


@pytest.mark.parametrize("seed", range(1, SEEDS + 1))
def test_no_walk_through_the_doors_breaks_a_page(signed_in, ours, seed, settings, tmp_path):
    settings.MEDIA_ROOT = tmp_path
    signed_in.raise_request_exception = False
    walk = Walk(signed_in, ours, random.Random(seed))
    answered = {}
    for step in range(STEPS):
        answer = walk.step()
        answered[answer.status_code] = answered.get(answer.status_code, 0) + 1
        assert answer.status_code in FINE, (seed, step, answer.request["PATH_INFO"])
        for page in walk.pages():
            assert signed_in.get(page).status_code == 200, (seed, step, page)
    assert len(walk.sent) > STEPS / 5 and answered[200] > STEPS / 2 and answered[302], "the walk gets in"
    again = walk.devices[0].send(*walk.sent[-20:])
    assert {one["status"] for one in again} == {"duplicate"}
    print(
        f"seed {seed}: {STEPS} steps, {stored()} entries, {Sample.objects.count()} samples, "
        f"{Photo.objects.count()} pictures, answers {answered}"
    )
