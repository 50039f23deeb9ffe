"""A random walk through the doors: what the vocabulary knows and much it does not, two devices, retries, in any order. Nothing breaks a page.

Seeded: the same walk each time. STEPS in the environment takes more of them.
"""

import os
import random
import uuid
from datetime import timedelta

import pytest
from django.urls import reverse
from django.utils import timezone

from engine.readings.observations import OBSERVATIONS
from engine.readings.vocabulary import QUANTITIES, QUANTITIES_AT
from engine.readings.walk import NOT_POSSIBLE, VARIANTS
from engine.units import UNITS
from tests.web.conftest import Device
from web.visits.models import SOURCES, Reading

STEPS = int(os.environ.get("STEPS", "60"))
ODD = ("", " ", "x" * 45, "sideways", "\ud83d", "\u200b", "null", "-1e9", "NaN", "∞", "76,4", "1_000", "return_unit", "7" * 30)
ODDLY = (None, 7, True, [], {}, ["x"], "x" * 1000)


def likely(chance, known, odd=ODD):
    """Mostly something known."""
    return chance.choice(known) if chance.random() < 0.85 else chance.choice(odd)


def a_reading(chance, device):
    place = likely(chance, sorted(QUANTITIES_AT))
    quantity = likely(chance, QUANTITIES_AT.get(place) or ("dry_bulb",))
    what = QUANTITIES.get(quantity)
    value = f"{chance.uniform(what.low, what.high):.1f}" if what and chance.random() < 0.8 else chance.choice(ODD)
    return device.item(
        place, quantity, value, likely(chance, [what.unit] if what else sorted(UNITS)), variant=likely(chance, VARIANTS.get((place, quantity)) or ("",)),
        source=likely(chance, ["typed"] * 30 + sorted(SOURCES)), plane=likely(chance, ("return", "supply") if quantity == "airflow" else ("",)),
        reason=likely(chance, sorted(NOT_POSSIBLE)),
        confirmed=chance.random() < 0.9, instrument=chance.choice(("", device.item("outdoor", "dry_bulb", "1")["instrument"])),
    )  # fmt: skip


def an_entry(chance, device):
    kind = chance.choice(("reading",) * 6 + ("observation", "observation", "remark", "action"))
    if kind == "reading":
        return a_reading(chance, device)
    if kind == "observation":
        seen = likely(chance, sorted(OBSERVATIONS))
        return device.seen(seen, likely(chance, sorted(OBSERVATIONS.get(seen, {})) or ["off"]))
    text = chance.choice(("It hums.", *ODD))
    return device.entry(
        kind, about=likely(chance, ("complaint", "remark")), done=likely(chance, ("other", "filter_changed")), text=text
    )


def spoilt(chance, item):
    """An entry as a broken device might send it: a field of another kind, a wrong time, a number again."""
    where = chance.choice(sorted(item))
    odd = {"taken_at": [timezone.now() + timedelta(days=d) for d in (-9000, -2, 2, 9000)]}.get(where)
    return item | {where: chance.choice(odd).isoformat() if odd else chance.choice((*ODD, *ODDLY))}


@pytest.mark.parametrize("seed", [1, 2])
def test_no_walk_through_the_doors_breaks_a_page(signed_in, ours, seed):
    chance, sent = random.Random(seed), []
    devices = [Device(signed_in, ours) for _ in range(2)]
    signed_in.raise_request_exception = False
    pages = [ours.visit.get_absolute_url(), reverse("visits:current", args=[ours.visit.public_id, 1]), "/", reverse("visits:what_if"),
             reverse("visits:of_system", args=[ours.system.public_id])]  # fmt: skip
    for step in range(STEPS):
        device = chance.choice(devices)
        batch = [an_entry(chance, device) for _ in range(chance.randint(1, 6))]
        batch = [spoilt(chance, item) if chance.random() < 0.15 else item for item in batch]
        batch += chance.sample(sent, min(len(sent), 2)) if chance.random() < 0.3 else []
        chance.shuffle(batch)
        before = Reading.objects.count()
        answer = device.post(*batch)
        assert answer.status_code == 200, (seed, step, batch)
        told = [one["status"] for one in answer.json()["results"]]
        stored = sum(status == "stored" and item.get("kind") == "reading" for status, item in zip(told, batch, strict=True))
        assert len(told) == len(batch) and Reading.objects.count() == before + stored, (seed, step, "nothing half stored")
        sent += [item for status, item in zip(told, batch, strict=True) if status == "stored"]
        page = pages[step % len(pages)] if chance.random() < 0.5 else pages[0]
        assert signed_in.get(page).status_code == 200, (seed, step, page)
    assert len(sent) > STEPS, "the walk gets in"
    again = device.send(*sent[-20:])
    assert {one["status"] for one in again} == {"duplicate"} and uuid.UUID(again[0]["id"])
