"""Every change to houses, systems, tables, rooms and instruments: who may, in a transaction."""

from uuid import UUID

from django.db import transaction

from web.accounts.access import need
from web.accounts.deeds import changed_fields, note
from web.accounts.rights import INSTRUMENTS, RECORD, SHOP
from web.houses import bridge
from web.houses.access import need_not_erased
from web.houses.models import CHANGED, CORRECTED, FIRST, PLATE, House, Instrument, PlateVersion, Room, System, Table
from web.houses.querysets import initials_of
from web.houses.search import note_words
from web.shell.once import keep_once

SAYS_AN_INSTRUMENT = (
    "label", "kind", "dry_bulb_accuracy_f", "rh_accuracy_pct", "line_accuracy_f", "lowest_f", "highest_f",
    "calibrated_on", "calibration_months", "retired",
)  # fmt: skip
SAYS_A_HOUSE = ("name", "customer", "altitude_ft", "climate", "access_note")


@transaction.atomic
def save_house(actor, house: House, number: UUID | None = None) -> House:
    """Keep a new or changed house of the actor's shop. number: a new one's, made by the page; raises NumberUsed."""
    if house.shop_id is None:
        house.shop = actor.shop
    need(actor, RECORD, house.shop_id)
    need_not_erased(house)
    house.initials = initials_of(house.name)
    is_new, changed = house.pk is None, changed_fields(house, SAYS_A_HOUSE)

    def save():
        house.save()
        note_words(house)
        if (is_new or changed) and not house.is_practice:
            note(actor, "house_new" if is_new else "house", house, ", ".join(changed))

    if house.pk is None:
        return keep_once(House.objects.visible_to(actor), number, house, SAYS_A_HOUSE, save)
    save()
    return house


def add_system(actor, system: System, number: UUID | None = None) -> System:
    """Keep a new system of a house. number: made by the page; raises NumberUsed."""
    of_house = System.objects.visible_to(actor).filter(house=system.house)
    return keep_once(of_house, number, system, ("name", *PLATE), lambda: save_system(actor, system))


@transaction.atomic
def save_system(actor, system: System, changed: bool = False) -> System:
    """Keep a new system, or what its plates say now as a new version.

    changed: the machine itself was changed, so that what was read before keeps the plates it was read with; else they
    were read wrongly.
    """
    need(actor, RECORD, system.house.shop_id)
    need_not_erased(system.house)
    before = System.objects.select_for_update().filter(pk=system.pk).first()
    if before is not None and before.plates == system.plates:
        system.machine = before.machine  # somebody may have counted it up meanwhile
        system.save()
        return system
    if before is not None and not before.plate_versions.exists():
        PlateVersion.objects.create(system=before, machine=before.machine, plates=before.plates, why=FIRST)
    system.machine = 1 if before is None else before.machine + changed
    system.save()
    why = FIRST if before is None else CHANGED if changed else CORRECTED
    PlateVersion.objects.create(system=system, machine=system.machine, plates=system.plates, why=why, entered_by=actor)
    note_words(system.house)
    return system


def note_tap(actor, system: System, tap: str) -> None:
    """The blower tap as it was left: the next visit starts from it, and what was read before keeps its own."""
    now = System.objects.select_related("house").get(pk=system.pk)
    if now.tap != tap:
        now.tap = tap
        save_system(actor, now, changed=True)


@transaction.atomic
def copy_tables(actor, source: System, system: System) -> None:
    """A twin's tables for a new system: the newest of each kind, saying whose they were."""
    need(actor, RECORD, source.house.shop_id)
    need(actor, RECORD, system.house.shop_id)
    for table in source.tables.newest().values():
        said = table.source or f"as for {source}"
        Table.objects.create(system=system, kind=table.kind, text=table.text, source=said[:120], entered_by=actor)


def add_table(actor, system: System, kind: str, text: str, source: str = "") -> Table:
    """Keep a table as pasted, once it is understood; raises bridge.TableError. The newest counts; the older stay."""
    need(actor, RECORD, system.house.shop_id)
    need_not_erased(system.house)
    bridge.understand(kind, text, system)
    newest = system.tables.filter(kind=kind).order_by("-id").first()
    if newest and (newest.text, newest.source) == (text, source):
        return newest
    return Table.objects.create(system=system, kind=kind, text=text, source=source, entered_by=actor)


@transaction.atomic
def set_rooms(actor, system: System, rooms: list[dict]) -> None:
    """The system's rooms as given: changed by name, new ones added, the others removed. Readings keep the name they
    were taken under.
    """
    need(actor, RECORD, system.house.shop_id)
    need_not_erased(system.house)
    names = [room["name"] for room in rooms]
    system.rooms.exclude(name__in=names).delete()
    for room in rooms:
        Room.objects.update_or_create(system=system, name=room["name"], defaults=room)
    note(actor, "rooms", system)


@transaction.atomic
def save_instrument(actor, instrument: Instrument) -> Instrument:
    """Keep a new or changed instrument of the actor's shop. Whether it is used any more is the lead's to say."""
    if instrument.shop_id is None:
        instrument.shop = actor.shop
    need(actor, INSTRUMENTS, instrument.shop_id)
    retires = instrument.retired != Instrument.objects.filter(pk=instrument.pk, retired=True).exists()
    if retires:
        need(actor, SHOP, instrument.shop_id)
    is_new, changed = instrument.pk is None, changed_fields(instrument, SAYS_AN_INSTRUMENT)
    instrument.save()
    if is_new or changed:
        did = "instrument_new" if is_new else "retired" if retires and instrument.retired else "instrument"
        note(actor, did, instrument, ", ".join(changed))
    return instrument
