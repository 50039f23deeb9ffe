"""Every change to houses, systems, tables, rooms and instruments: who may, in a transaction."""

from django.db import transaction

from web.accounts.access import need_shop
from web.houses import bridge
from web.houses.models import House, Instrument, Room, System, Table
from web.houses.querysets import initials_of


def save_house(actor, house: House) -> House:
    """Keep a new or changed house of the actor's shop."""
    if house.shop_id is None:
        house.shop = actor.shop
    need_shop(actor, house.shop_id)
    house.initials = initials_of(house.name)
    house.save()
    return house


def save_system(actor, system: System) -> System:
    """Keep a new or changed system."""
    need_shop(actor, system.house.shop_id)
    system.save()
    return system


@transaction.atomic
def copy_tables(actor, source: System, system: System) -> None:
    """A twin's tables for a new system: the newest of each kind, saying whose they were."""
    need_shop(actor, source.house.shop_id)
    need_shop(actor, system.house.shop_id)
    for table in source.tables.newest().values():
        said = table.source or f"as for {source}"
        Table.objects.create(system=system, kind=table.kind, text=table.text, source=said[:120], entered_by=actor)


def add_table(actor, system: System, kind: str, text: str, source: str = "") -> Table:
    """Keep a table as pasted, once it is understood; raises bridge.TableError. The newest counts; the older stay."""
    need_shop(actor, system.house.shop_id)
    bridge.understand(kind, text, system)
    newest = system.tables.filter(kind=kind).order_by("-id").first()
    if newest and (newest.text, newest.source) == (text, source):
        return newest
    return Table.objects.create(system=system, kind=kind, text=text, source=source, entered_by=actor)


@transaction.atomic
def set_rooms(actor, system: System, rooms: list[dict]) -> None:
    """The system's rooms as given: changed by name, new ones added, the others removed. Readings keep the name they were taken under."""
    need_shop(actor, system.house.shop_id)
    names = [room["name"] for room in rooms]
    system.rooms.exclude(name__in=names).delete()
    for room in rooms:
        Room.objects.update_or_create(system=system, name=room["name"], defaults=room)


def save_instrument(actor, instrument: Instrument) -> Instrument:
    """Keep a new or changed instrument of the actor's shop."""
    if instrument.shop_id is None:
        instrument.shop = actor.shop
    need_shop(actor, instrument.shop_id)
    instrument.save()
    return instrument
