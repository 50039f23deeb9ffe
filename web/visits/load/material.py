"""What a round rests on, loaded in few queries: the system with its tables and rooms, the shop's rules and instruments, the entries."""

from dataclasses import dataclass, field
from datetime import timedelta

from django.utils import timezone

from web.houserules.services import rules_of
from web.houses import bridge as houses_bridge
from web.houses.models import Instrument
from web.visits.bridge import results, rounds, vocabulary
from web.visits.load.current import Slot, slots
from web.visits.models import NOT_POSSIBLE, VALUELESS, WITHDRAWN, Round

FORGOTTEN_AFTER_MIN = 12 * 60.0  # nobody stands that long at one machine: the visit is history, and its clocks no longer tick


@dataclass
class Entries:
    """The entries of one round, resolved: what counts, and what it replaced."""

    readings: dict[tuple[str, str], Slot]
    observations: dict[str, Slot]

    @property
    def current(self) -> list:
        """The readings that count and have a value."""
        return [slot.current for slot in self.readings.values() if slot.current.source not in VALUELESS]

    @property
    def impossible(self) -> list:
        """What somebody said cannot be read, and why."""
        return [slot.current for slot in self.readings.values() if slot.current.source == NOT_POSSIBLE]

    @property
    def seen(self) -> dict[str, str]:
        """What was seen, by its id; what was taken back is not."""
        return {name: slot.current.degree for name, slot in self.observations.items() if slot.current.degree != WITHDRAWN}

    def uuids(self) -> list[str]:
        """Every entry that counts."""
        return [str(slot.current.uuid) for slot in (*self.readings.values(), *self.observations.values())]


@dataclass
class Material:
    """All that is needed to judge one round."""

    round: Round
    plate: rounds.Equipment
    rules: object
    instruments: list
    tables: dict
    rooms: list
    entries: Entries
    carried: dict[str, str] = field(default_factory=dict)  # seen in an earlier round of this visit and still so
    shown: object = None  # what was said of the round last

    @property
    def visit(self):
        return self.round.visit

    @property
    def system(self):
        return self.round.visit.system

    @property
    def seen(self) -> dict[str, str]:
        """What was seen in this round, else in an earlier one."""
        return {**self.carried, **self.entries.seen}


def material_of(round_: Round, with_people: bool = True) -> Material:
    """Load a round's material. The round comes with its visit, system, house and shop. with_people: who read what, for the notes."""
    system = round_.visit.system
    tables, rooms = system.tables.newest(), list(system.rooms.all())
    instruments = list(Instrument.objects.filter(shop=system.house.shop_id))
    return Material(
        round=round_,
        plate=houses_bridge.equipment(system, tables, rooms),
        rules=rules_of(system.house.shop),
        instruments=instruments,
        tables=tables,
        rooms=rooms,
        entries=entries_of(round_, instruments, with_people),
        carried=carried_into(round_),
        shown=results.said_last(round_.assessments.order_by("-id").values_list("result", flat=True).first()),
    )


def entries_of(round_: Round, instruments: list, with_people: bool = True) -> Entries:
    """The entries of a round; three queries. instruments: the shop's, so that no reading fetches or builds its own."""
    by_key = {row.pk: row for row in instruments}
    readings = list(round_.readings.in_order().prefetch_related(*["person"] if with_people else []))
    for row in readings:
        row.instrument = by_key.get(row.instrument_id)
    return Entries(readings=slots(readings), observations=slots(round_.observations.in_order()))


def carried_into(round_: Round) -> dict[str, str]:
    """What was seen in the visit's earlier rounds, without what an action between them mended. Nothing for a first round."""
    if round_.number == 1:
        return {}
    seen: dict[str, str] = {}
    for earlier in (
        round_.visit.rounds.filter(number__lt=round_.number).order_by("number").prefetch_related("observations", "actions")
    ):
        in_order = sorted(earlier.observations.all(), key=lambda row: (row.taken_at, row.sequence, row.pk))
        seen |= {name: slot.current.degree for name, slot in slots(in_order).items()}
        for action in standing(earlier.actions.all()):
            for name in vocabulary.ACTIONS[action.done].clears if action.done in vocabulary.ACTIONS else ():
                seen.pop(name, None)
    return {name: degree for name, degree in seen.items() if degree != WITHDRAWN}


def standing(entries) -> list:
    """Remarks or actions that were not taken back or replaced, in order."""
    in_order = sorted(entries, key=lambda row: (row.taken_at, row.sequence, row.pk))
    replaced = {row.supersedes for row in in_order if row.supersedes}
    return [row for row in in_order if row.uuid not in replaced and getattr(row, "done", "") != WITHDRAWN]


def started_at(material: Material):
    """When the system started or was last changed: the running time last entered says so; else a later round starts its clock itself."""
    slot = material.entries.readings.get(("system", "running_time"))
    if slot and slot.current.value is not None:
        return slot.current.taken_at - timedelta(minutes=slot.current.value)
    return material.round.started_at if material.round.number > 1 else None


def leave_by(material: Material):
    """When one must go, or None when that was not said or is long past."""
    slot = material.entries.readings.get(("system", "time_available"))
    if not slot or slot.current.value is None:
        return None
    leave = slot.current.taken_at + timedelta(minutes=slot.current.value)
    return leave if leave > timezone.now() - timedelta(minutes=FORGOTTEN_AFTER_MIN) else None


def running_minutes(material: Material) -> float | None:
    """Minutes it had been running when the air was last read (now, when it was not read yet)."""
    start = started_at(material)
    if start is None:
        return None
    read = [
        r.taken_at for r in material.entries.current if r.quantity == "dry_bulb" and r.place in ("return_unit", "supply_plenum")
    ]
    at = max(read) if read else timezone.now()
    slot = material.entries.readings.get(("system", "running_time"))
    least = slot.current.value if slot and slot.current.value is not None else 0.0
    return max((at - start).total_seconds() / 60.0, least)


def running_now(material: Material) -> float | None:
    """Minutes it has been running now, by the clock; None while the clock does not run. Of a visit long past: when the air was read."""
    start = started_at(material)
    if start is None:
        return None
    return max((timezone.now() - start).total_seconds() / 60.0, 0.0) if ticks(material) else running_minutes(material)


def ticks(material: Material) -> bool:
    """Whether the clock still runs: somebody may be standing there."""
    start = started_at(material)
    return start is not None and timezone.now() - start < timedelta(minutes=FORGOTTEN_AFTER_MIN)


def engine_readings(material: Material) -> list:
    """The readings that count, with the clock's minutes in place of the minutes once typed."""
    found = [rounds.stored_reading(row) for row in material.entries.current if row.quantity != "running_time"]
    minutes = running_minutes(material)
    if minutes is not None:
        found.append(rounds.reading("system", "running_time", min(minutes, 1440.0), None))
    return found


def stands(material: Material) -> str:
    """Where the technician is, by the place of the last reading taken: inside, outside, '' before the first."""
    placed = [row for row in material.entries.current if vocabulary.side_of(row.place)]
    return vocabulary.side_of(max(placed, key=lambda row: (row.taken_at, row.sequence)).place) if placed else ""


def mode_of(material: Material, outdoor_f: float | None, seen: dict[str, str]) -> tuple[str, str]:
    """The mode under test and why: as somebody said, else by the weather."""
    by_weather, why = rounds.mode_for(material.system, outdoor_f, material.rules)
    said = seen.get("mode")
    if said and material.system.kind != "air_conditioner":
        return said, "" if said == by_weather else why
    return by_weather, why


def stored_round(material: Material):
    """The round as stored, for the engine."""
    readings = engine_readings(material)
    outdoor = next((r.value for r in readings if r.place == "outdoor"), None)
    mode, _ = mode_of(material, outdoor, material.seen)
    return round_for_engine(material, readings, material.seen, mode)


def round_for_engine(material: Material, readings: list, seen: dict[str, str], mode: str):
    """A round of these readings on what it rests on, for the engine."""
    return rounds.round_of(
        material.system.house, material.plate, readings, seen, material.instruments, material.rules, mode, stands(material),
        rounds.not_possible(material.entries.impossible),
    )  # fmt: skip
