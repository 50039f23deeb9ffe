"""What rounds are held to: the baseline of their machine, with what its visits since have taught. Each is worked out
once for the same content: a preview follows each key, and what it is held to is the same one.
"""

import pickle
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from typing import Any

from web.shell.trace import or_else
from web.visits.bridge import held, vocabulary
from web.visits.bridge.held import Held
from web.visits.load.for_engine import round_for_engine, stored_round
from web.visits.load.material import Came, Material, Sealed, materials_of, standing
from web.visits.models import WITHDRAWN, Action, ChargeStep, KnownKinds, Round

SECONDS_A_YEAR = 365.25 * 86_400
KEPT, KEPT_KINDS = 256, 16  # machines, and shops, in memory


def held_of(material: Material, mode: str) -> Held:
    """What a round in this mode is held to; nothing without a baseline that holds for it."""
    return _held(material, mode, _Came.of([material]))


def held_of_many(materials: Sequence[Material], modes: Sequence[str]) -> list[Held]:
    """What each of several rounds is held to; what they need is loaded together."""
    came = _Came.of(materials)
    return [_held(material, mode, came) for material, mode in zip(materials, modes, strict=True)]


def stored_rounds(materials: Sequence[Material]) -> tuple[list, list[Held]]:
    """The rounds as stored, for the engine, and what each is held to."""
    found = [stored_round(material) for material in materials]
    return found, held_of_many(materials, [round_.mode for round_ in found])


def table_of_round(material: Material):
    """A round worked out as a baseline; None where it cannot be."""
    return _worked_out(pickle.dumps(stored_round(material)))


@lru_cache(maxsize=KEPT)
def _worked_out(round_: bytes):
    """By everything that the round says."""
    return held.worked([pickle.loads(round_)])[0]


def table_of_baseline(material: Material, sealed: Sealed):
    """What a round's baseline says, without what came after it; None where it cannot be worked out."""
    content = (_rests_on(material), sealed.round.pk, sealed.said)
    whose = _Asked(content, lambda: _Came({sealed.round.pk}).held(sealed, []))
    return _known(whose).baseline


def _held(material: Material, mode: str, came: "_Came") -> Held:
    found, (key, version) = _by_machine(material, mode, came), material.kinds.get(material.rules.kinds_from, (0, 0))
    return (
        or_else(f"known kinds {version}", lambda: found.by_kind(_kinds(key), version), lambda: found) if key else found
    )


@lru_cache(maxsize=KEPT_KINDS)
def _kinds(key: int):
    return held.kinds_in(KnownKinds.objects.values_list("document", flat=True).get(pk=key))


def _by_machine(material: Material, mode: str, came: "_Came") -> Held:
    sealed = material.held_to(mode)
    if sealed is None:
        return held.NOTHING
    rows = [row for row in material.came if row.started_at > sealed.round.started_at]
    content = (_rests_on(material), sealed.round.pk, sealed.said, *(row.said for row in rows))
    asked = _Asked(content, lambda: came.held(sealed, rows))
    # What fails is not kept: it is tried again.
    return or_else(f"baseline of {sealed.round.public_id}", lambda: _known(asked), lambda: held.NOTHING)


def _rests_on(material: Material) -> bytes:
    """All that a machine's rounds are judged by beside what was read: plate, house, rules, instruments."""
    return pickle.dumps(round_for_engine(material, [], {}, ""))


@dataclass(frozen=True)
class _Asked:
    """What is asked, by its content; and how to work it out."""

    content: tuple
    work_out: Callable[[], Held] = field(compare=False)


@lru_cache(maxsize=KEPT)
def _known(asked: _Asked) -> Held:
    return asked.work_out()


class _Came:
    """The baselines of several rounds and the visits since, worked out when the first of them is wanted."""

    def __init__(self, keys: set[int]):
        self.keys = keys

    @classmethod
    def of(cls, materials: Sequence[Material]) -> "_Came":
        """Those of several rounds."""
        rows = [row.round_id for material in materials for row in material.came]
        return cls({*rows, *(sealed.round.pk for material in materials for sealed in material.sealed.values())})

    @cached_property
    def materials(self) -> dict[int, Material]:
        """By the round's key."""
        rounds = Round.objects.filter(pk__in=self.keys).select_related(
            "visit__system__house__shop", "visit__started_by", "visit__with_person"
        )
        return {m.round.pk: m for m in materials_of(list(rounds), with_people=False, alone=True)}

    @cached_property
    def tables(self) -> dict[int, Any]:
        """By the round's key; None where one cannot be worked out."""
        rounds = [stored_round(material) for material in self.materials.values()]
        return dict(zip(self.materials, held.worked(rounds), strict=True))

    @cached_property
    def happened(self) -> dict[int, list]:
        """By the system's key: when something was done to it."""
        systems = {material.round.visit.system_id for material in self.materials.values()}
        found: dict[int, list] = {system: [] for system in systems}
        actions, steps = (
            model.objects.filter(round__visit__system__in=systems).select_related("round__visit")
            for model in (Action, ChargeStep)
        )
        done = [row for row in standing(actions) if row.done != vocabulary.NOTHING_DONE]
        for row in (*done, *steps.exclude(way=WITHDRAWN)):
            found[row.round.visit.system_id].append(row.round.started_at)
        return found

    def held(self, sealed: Sealed, rows: Sequence[Came]) -> Held:
        """A baseline with those of its visits that were read in its mode."""
        table, before, found = self.tables[sealed.round.pk], self.materials[sealed.round.pk], []
        if table is None:
            return held.NOTHING
        for row in rows:
            material, own = self.materials[row.round_id], self.tables[row.round_id]
            if own is None or own.measured.round.mode != table.measured.round.mode:
                continue
            years = (row.started_at - sealed.round.started_at).total_seconds() / SECONDS_A_YEAR
            found.append((years, own, row.sound, self._changed(before, material)))
            before = material
        return held.held_to(table, found)

    def _changed(self, before: Material, now: Material) -> bool:
        """Whether something was done between two rounds, or another person or other instruments read the later."""
        done = self.happened[now.round.visit.system_id]
        return (
            any(before.round.started_at <= at < now.round.started_at for at in done)
            or before.visit.holder != now.visit.holder
            or any(before.instruments_held.get(kind, name) != name for kind, name in now.instruments_held.items())
        )
