"""Putting the demo's data in place, through the same services as everything else. Running it again changes nothing."""

import uuid
from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from web.accounts.models import Shop, User
from web.demo import data
from web.houses.models import House, Instrument, System
from web.visits import services
from web.visits.forms import EntryItem

DEVICE = uuid.uuid5(uuid.NAMESPACE_URL, "urn:ruddy-draft:demo-device")
UNITS = {
    "dry_bulb": "degF",
    "wet_bulb": "degF",
    "dew_point": "degF",
    "rh": "pct",
    "airflow": "CFM",
    "power": "W",
    "running_time": "min",
}


@transaction.atomic
def load(password: str) -> bool:
    """Load the demo shop; False when it is there already."""
    name, zone = data.SHOP
    if Shop.objects.filter(name=name).exists():
        return False
    shop = Shop.objects.create(name=name, time_zone=zone)
    for username, first, last, role in data.PEOPLE:
        User.objects.create_user(username, password=password, first_name=first, last_name=last, role=role, shop=shop)
    for label, dry_bulb, rh, lowest, highest in data.INSTRUMENTS:
        Instrument.objects.create(
            shop=shop, label=label, dry_bulb_accuracy_f=dry_bulb, rh_accuracy_pct=rh, lowest_f=lowest, highest_f=highest
        )
    for house_name, altitude, climate, systems in data.HOUSES:
        house = House.objects.create(shop=shop, name=house_name, altitude_ft=altitude, climate=climate)
        for system_name, kind, tons, refrigerant, metering, motor, model in systems:
            System.objects.create(
                house=house, name=system_name, kind=kind, nominal_tons=tons, refrigerant=refrigerant,
                metering_device=metering, blower_motor=motor, model=model,
            )  # fmt: skip
    sequence = 0
    for visit in reversed(data.VISITS):  # oldest first in time does not matter; ids do not show
        sequence = _load_visit(shop, sequence, *visit)
    return True


def _load_visit(shop, sequence: int, house: str, system: str, username: str, minutes_ago: int, rows: tuple) -> int:
    person = User.objects.get(username=username)
    instrument = str(shop.instruments.first().public_id)
    started = timezone.now() - timedelta(minutes=minutes_ago)
    visit = services.start_visit(person, System.objects.get(house__name=house, house__shop=shop, name=system), at=started)
    round_ = visit.rounds.get()
    items, last = [], {}
    for row in rows:
        sequence += 1
        item = _item(row, str(round_.public_id), sequence, started + timedelta(seconds=40 * len(items)), instrument, last)
        items.append(item)
    services.store_entries(person, items, timezone.now())
    return sequence


def _item(row: tuple, round_id: str, sequence: int, at, instrument: str, last: dict) -> EntryItem:
    entry_id = uuid.uuid4()
    common = {"id": str(entry_id), "round": round_id, "device": DEVICE, "sequence": sequence, "taken_at": at}
    if row[0] == "seen":
        return EntryItem(kind="observation", seen=row[1], degree=row[2], **common)
    place, quantity, typed, *method = row
    supersedes = last.get((place, quantity))
    last[place, quantity] = entry_id
    return EntryItem(
        kind="reading", place=place, quantity=quantity, typed=typed, unit=UNITS[quantity], supersedes=supersedes,
        method=method[0] if method else "", source="estimate" if method == ["nominal_guess"] else "typed",
        instrument=instrument if UNITS[quantity] in ("degF", "pct") else "", confirmed=True, **common,
    )  # fmt: skip
