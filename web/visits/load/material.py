"""What a round rests on, loaded in few queries: the system with its tables and rooms, the shop's rules and instruments,
the entries.
"""

from collections import defaultdict
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from functools import cached_property
from itertools import chain

from web.accounts.models import User
from web.houserules.bridge import HouseRules
from web.houserules.services import rules_of
from web.houses import bridge as houses_bridge
from web.houses.models import Instrument, PlateVersion, Room, System, Table
from web.visits.bridge import rounds, vocabulary
from web.visits.bridge.held import COUNT, SOUND
from web.visits.bridge.stored import NOTHING_SHOWN, Shown, said_last
from web.visits.load.current import Slot, read_by_slot, seen_by_id
from web.visits.load.gauges import done_by, hook_ups_of, standing_steps, steps_by_round
from web.visits.models import (
    NOT_POSSIBLE,
    VALUELESS,
    WITHDRAWN,
    Assessment,
    Baseline,
    KnownKinds,
    Observation,
    Reading,
    Round,
    Visit,
)


@dataclass
class Entries:
    """The entries of one round, resolved: what counts, and what it replaced."""

    readings: dict[tuple[str, str], Slot[Reading]]
    observations: dict[str, Slot[Observation]]

    @property
    def current(self) -> list[Reading]:
        """The readings that count and have a value."""
        return [slot.current for slot in self.readings.values() if slot.current.source not in VALUELESS]

    @property
    def impossible(self) -> list[Reading]:
        """What somebody said cannot be read, and why."""
        return [slot.current for slot in self.readings.values() if slot.current.source == NOT_POSSIBLE]

    @property
    def seen(self) -> dict[str, str]:
        """What was seen, by its id; what was undone is not."""
        return {
            name: slot.current.degree for name, slot in self.observations.items() if slot.current.degree != WITHDRAWN
        }

    def uuids(self) -> list[str]:
        """Every entry that counts."""
        read, seen = ([slot.current for slot in of.values()] for of in (self.readings, self.observations))
        return [str(row.uuid) for row in (*read, *seen)]


@dataclass(frozen=True)
class Carried:
    """What was seen in a visit's earlier rounds and is still so, what was done since its first, by id, and every entry
    that this rests on.
    """

    seen: dict[str, str] = field(default_factory=dict)
    done: tuple[str, ...] = ()
    uuids: tuple[str, ...] = ()


@dataclass(frozen=True)
class Sealed:
    """A round that is its machine's baseline. said: the key of what was said of it last."""

    round: Round
    said: int


@dataclass(frozen=True)
class Came:
    """A visit to a machine as it was judged last: its last round that counts. said: the assessment's key."""

    round_id: int
    said: int
    started_at: datetime
    sound: bool


@dataclass
class Material:
    """All that is needed to judge one round."""

    round: Round
    system: System  # as its plates said when it was read
    plate: rounds.Equipment
    rules: HouseRules
    instruments: list
    tables: dict
    rooms: list
    entries: Entries
    people: Mapping[int, User] = field(default_factory=dict)  # of the shop, by key; none where nobody asks who did what
    carried: Carried = field(default_factory=Carried)
    stored: dict | None = None  # the result that is stored of the round last
    shown: Shown = NOTHING_SHOWN  # what it said
    baselines: list[Baseline] = field(default_factory=list)  # of its system, the oldest first
    sealed: dict[str, "Sealed"] = field(default_factory=dict)  # the rounds that are its baseline, by mode
    kinds: dict[str, tuple[int, int]] = field(default_factory=dict)  # by source: key and version of what is known
    came: tuple["Came", ...] = ()  # the visits to its machine before this one, while it has a baseline
    of_visit: list[Round] | None = None  # the visit's rounds, once they were loaded

    @property
    def visit(self):
        return self.round.visit

    @property
    def rounds(self) -> list[Round]:
        """The visit's rounds in order, each with what was seen, done and charged in it."""
        if self.of_visit is None:
            self.of_visit = rounds_of([self.round.visit_id])[self.round.visit_id]
        return self.of_visit

    @cached_property
    def steps_by_round(self) -> dict[int, list]:
        """The visit's steps of charging that count, by their round's number."""
        if self.of_visit is None:
            return steps_by_round(self.visit)
        by_round = {row.number: standing_steps(sorted(row.charge_steps.all(), key=_in_order)) for row in self.of_visit}
        return {number: steps for number, steps in by_round.items() if steps}

    @property
    def charge_steps(self) -> list:
        """Those of this round."""
        return self.steps_by_round.get(self.round.number, [])

    @cached_property
    def hook_ups(self) -> list:
        """What is kept of gauges at the visit."""
        return hook_ups_of(self.visit)

    @property
    def seen(self) -> dict[str, str]:
        """What was seen in this round, else in an earlier one."""
        return {**self.carried.seen, **self.entries.seen}

    @property
    def instruments_held(self) -> dict[str, str]:
        """The instrument of each kind that it was read with."""
        return {row.instrument.kind: row.instrument.label for row in self.entries.current if row.instrument}

    def held_to(self, mode: str) -> "Sealed | None":
        """The sealed round that it is judged against in this mode, else in the other; None for none read before it."""
        return self.sealed.get(mode) or next(iter(self.sealed.values()), None)

    def rests_on(self) -> list[str]:
        """Every entry that the round's assessment rests on, and its baselines as they were judged last."""
        sealed = [f"baseline {s.round.public_id} {s.said}" for s in self.sealed.values()]
        return [*self.entries.uuids(), *self.carried.uuids, *sealed]

    @property
    def taps(self) -> tuple[str, ...]:
        """The blower's taps, as its table names them; none without a table."""
        return tuple(self.plate.blower_table.taps) if self.plate.blower_table else ()


def material_of(round_: Round, with_people: bool = True) -> Material:
    """A round's material. The round comes with its visit, system, house and shop. with_people: who read what, for the
    notes.
    """
    return materials_of([round_], with_people)[0]


def materials_of(
    rounds_: Sequence[Round], with_people: bool = True, last: dict[int, dict] | None = None, alone: bool = False
) -> list[Material]:
    """The material of several rounds of one shop, in as many queries as for one. last: what was said of each last, by
    the round's key, for who has it already; alone: without what they are held to.
    """
    if not rounds_:
        return []
    shop, systems = rounds_[0].visit.system.house.shop, {round_.visit.system for round_ in rounds_}
    instruments, rules = list(Instrument.objects.filter(shop=shop)), rules_of(shop)
    plates = PlateVersion.objects.newest_of(systems)
    tables, rooms = Table.objects.newest_of(systems), _listed(Room.objects.filter(system__in=systems), "system_id")
    baselines = defaultdict(list) if alone else _baselines_of(systems)
    sealed, came = _held_by(rounds_, baselines)
    kinds = {} if alone else KnownKinds.objects.newest_of(shop)
    people = User.objects.filter(shop=shop).in_bulk() if with_people else {}
    entries = entries_of(rounds_, instruments, people)
    of_visit = rounds_of({row.visit_id for row in rounds_ if row.number > 1})
    last = Assessment.objects.newest_of(rounds_) if last is None else last
    found = {}
    for round_ in rounds_:
        id_ = round_.visit.system_id
        system = round_.visit.system.with_plates(plates.get((id_, round_.machine), {}))
        found[round_.pk] = Material(
            round=round_,
            system=system,
            plate=houses_bridge.equipment(system, tables[id_], rooms[id_]),
            rules=rules,
            instruments=instruments,
            tables=tables[id_],
            rooms=rooms[id_],
            entries=entries[round_.pk],
            people=people,
            carried=carried_into(round_, of_visit[round_.visit_id]),
            stored=last.get(round_.pk),
            shown=said_last(last.get(round_.pk)),
            kinds=kinds,
            baselines=baselines[id_],
            sealed=sealed.get(round_.pk, {}),
            came=came.get(round_.pk, ()),
            of_visit=of_visit[round_.visit_id] or None,
        )
    return [found[round_.pk] for round_ in rounds_]


def _baselines_of(systems: Iterable[System]) -> defaultdict[int, list[Baseline]]:
    """By the system's key: its baselines, the oldest first; one query."""
    return _listed(Baseline.objects.filter(system__in=systems).in_order(), "system_id")


MOST_CAME = 12  # visits of a machine, the newest


def _held_by(
    rounds_: Sequence[Round], baselines: Mapping[int, list[Baseline]]
) -> tuple[dict[int, dict[str, Sealed]], dict[int, tuple[Came, ...]]]:
    """By the round's key: its baselines by mode, and the earlier visits of its machine as they were judged last, the
    oldest first. One query for machines that have a baseline.
    """
    holding = {
        round_.pk: {row.mode: row.round for row in baselines[round_.visit.system_id] if row.holds_for(round_)}
        for round_ in rounds_
    }
    sealed = {pk: rows for pk, rows in holding.items() if rows}
    if not sealed:
        return {}, {}
    said: dict[int, int] = {}
    by_visit: dict[tuple, dict[int, Came]] = defaultdict(dict)
    machines = {round_.visit.system_id for round_ in rounds_ if round_.pk in sealed}
    for system, machine, visit, round_id, began, key, state in Assessment.objects.last_of_systems(machines):
        said[round_id] = key
        if state in COUNT:
            by_visit[system, machine][visit] = Came(round_id, key, began, state == SOUND)
    came = {}
    for round_ in rounds_:
        rows = by_visit[round_.visit.system_id, round_.machine].items() if round_.pk in sealed else ()
        before = [row for visit, row in rows if visit != round_.visit_id and row.started_at < round_.started_at]
        came[round_.pk] = tuple(sorted(before, key=lambda row: row.started_at)[-MOST_CAME:])
    by_mode = {
        pk: {mode: Sealed(row, said.get(row.pk, 0)) for mode, row in rows.items()} for pk, rows in sealed.items()
    }
    return by_mode, came


def entries_of(rounds_: Sequence[Round], instruments: list, people: Mapping[int, User]) -> dict[int, Entries]:
    """The entries of rounds, by the round's key; two queries. instruments, people: the shop's, so that no reading
    fetches or builds its own.
    """
    by_key = {row.pk: row for row in instruments}
    readings, observations = (
        _listed(model.objects.filter(round__in=rounds_).in_order(), "round_id") for model in (Reading, Observation)
    )
    for row in with_person(chain(*readings.values()), people):
        row.instrument = by_key.get(row.instrument_id)
    keys = [round_.pk for round_ in rounds_]
    return {key: Entries(read_by_slot(readings[key]), seen_by_id(observations[key])) for key in keys}


def with_person(rows: Iterable, people: Mapping[int, User]) -> list:
    """Entries, each with who made it, of people that were loaded already."""
    found = list(rows)
    for row in found:
        if row.person_id in people:
            row.person = people[row.person_id]
    return found


def rounds_of(visits: Collection[int]) -> defaultdict[int, list[Round]]:
    """By the visit's key: its rounds in order, each with what was seen, done and charged in it; four queries."""
    rows = Round.objects.filter(visit__in=visits).order_by("number") if visits else Round.objects.none()
    return _listed(rows.prefetch_related("observations", "actions", "charge_steps"), "visit_id")


def carried_into(round_: Round, of_visit: Iterable[Round]) -> Carried:
    """What was seen in the visit's earlier rounds, without what an action between them mended, or what refrigerant
    moved has made another. Nothing for a first round.
    """
    return _still_so(row for row in of_visit if row.number < round_.number)


def left_as(visit: Visit) -> dict[str, str]:
    """What was seen in the visit and is still so at its end, after what was done."""
    return _still_so(rounds_of([visit.pk])[visit.pk]).seen


def _still_so(earlier: Iterable[Round]) -> Carried:
    seen: dict[str, str] = {}
    uuids: list[str] = []
    so_far: list[str] = []
    for row in earlier:
        in_order = sorted(row.observations.all(), key=_in_order)
        found, done = seen_by_id(in_order), standing(row.actions.all())
        seen |= {name: slot.current.degree for name, slot in found.items()}
        uuids += [str(slot.current.uuid) for slot in found.values()] + [str(action.uuid) for action in done]
        moved = standing_steps(sorted(row.charge_steps.all(), key=_in_order))
        ids = (*(action.done for action in done), *done_by(moved))
        so_far += ids
        for id_ in ids:
            for name in vocabulary.ACTIONS[id_].clears if id_ in vocabulary.ACTIONS else ():
                seen.pop(name, None)
        for action in done:
            if action.done == vocabulary.SPEED_SET:
                seen[vocabulary.TAP] = action.text  # '': to which, nobody said
    still = {name: degree for name, degree in seen.items() if degree != WITHDRAWN}
    return Carried(still, tuple(so_far), tuple(uuids))


def _in_order(entry) -> tuple:
    """Where an entry comes among others, as `EntryQuerySet.in_order` has it."""
    return entry.taken_at, entry.sequence, entry.pk


def _listed(rows: Iterable, key: str) -> defaultdict[int, list]:
    """Rows in lists by a key, in their order."""
    found = defaultdict(list)
    for row in rows:
        found[getattr(row, key)].append(row)
    return found


def standing(entries) -> list:
    """Remarks or actions that were not undone or replaced, in order."""
    in_order = sorted(entries, key=_in_order)
    replaced = {row.supersedes for row in in_order if row.supersedes}
    return [row for row in in_order if row.uuid not in replaced and getattr(row, "done", "") != WITHDRAWN]
