"""Sound rounds into lessons, lessons into what is known, and what is known into words."""

from collections.abc import Sequence
from dataclasses import dataclass

from engine import VERSION
from engine.errors import EngineError
from engine.kinds.kind import ENOUGH
from engine.kinds.learning import learn, lesson_of, read, written
from engine.kinds.summary import KnownGroup, known_groups, waiting
from engine.report.bundle.kind_file import kind_of, kind_text
from engine.report.kind_words import narrower_said, offsets_said, setting_said, suspicion_in_short
from web.shell.bridge import words
from web.visits.bridge.held import SOUND, worked

__all__ = ["SOUND", "VERSION", "NoKindFile"]
NoKindFile = EngineError  # raised with words that can be shown


def lessons(rounds: Sequence, systems: Sequence[str]) -> list[dict | None]:
    """What confirmed sound rounds teach, as it is kept; None for one that cannot be worked out. systems: which machine
    each is of.
    """
    tables = worked(rounds)
    return [
        written(lesson_of(table, system, confirmed=True)) if table is not None else None
        for table, system in zip(tables, systems, strict=True)
    ]


def learnt(contents: Sequence[dict]) -> tuple[str, int]:
    """The kind file of these lessons, and from how many machines."""
    kind = learn([read(content) for content in contents])
    return kind_text(kind), kind.machines


def machines_in(document: str) -> int:
    """From how many machines a kind file was learnt; raises NoKindFile for what is none."""
    return kind_of(document).machines


@dataclass(frozen=True)
class GroupSaid:
    """A group of machines in words. narrower: by how much less one may be off than the engine lets any; offsets: how
    its machines differ from what is expected, the surest difference first.
    """

    setting: str
    level: str
    name: str
    machines: int
    narrower: str
    offsets: tuple[str, ...]
    suspected: str


def groups_in(document: str) -> list[GroupSaid]:
    """What a kind file knows, group by group."""
    return [_said(group) for group in known_groups(kind_of(document))]


def waiting_in(document: str) -> list[str]:
    """What a kind file knows too little of to be used: 'Cooling, air source, TXV: 4 of 12 machines'."""
    few = waiting(kind_of(document))
    return [f"{setting_said(setting)}: {machines} of {ENOUGH:.0f} machines" for setting, machines in few.items()]


def _said(group: KnownGroup) -> GroupSaid:
    return GroupSaid(
        setting_said(group.setting),
        group.level,
        group.name,
        group.machines,
        narrower_said(group),
        tuple(offsets_said(group, words())),
        suspicion_in_short(group),
    )
