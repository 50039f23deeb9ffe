"""Which entry counts: the end of the supersedes chain, then device sequence, then device time.

Two devices that disagree about one place are both shown; the later one is used and the disagreement is a finding.
"""

from collections import defaultdict
from collections.abc import Callable, Hashable, Iterable
from dataclasses import dataclass, field
from typing import Any, Generic, TypeVar

from web.visits.models import Observation, Reading

Row = TypeVar("Row", Reading, Observation)
Key = TypeVar("Key", bound=Hashable)


@dataclass
class Slot(Generic[Row]):
    """All entries of one slot, oldest first; `current` counts, `rivals` are ends of other devices that disagree."""

    current: Row
    earlier: list[Row] = field(default_factory=list)
    rivals: list[Row] = field(default_factory=list)


def read_by_slot(readings: Iterable[Reading]) -> dict[tuple[str, str], Slot[Reading]]:
    """The readings of a round by place and slot."""
    return _resolved(readings, lambda row: (row.place, row.slot))


def seen_by_id(observations: Iterable[Observation]) -> dict[str, Slot[Observation]]:
    """The observations of a round by what was seen."""
    return _resolved(observations, lambda row: row.seen)


def _resolved(rows: Iterable[Row], key: Callable[[Row], Key]) -> dict[Key, Slot[Row]]:
    groups: dict[Key, list[Row]] = defaultdict(list)
    for row in rows:
        groups[key(row)].append(row)
    return {of: _resolve(group) for of, group in groups.items()}


def _resolve(group: list[Row]) -> Slot[Row]:
    superseded = {entry.supersedes for entry in group if entry.supersedes}
    ends = [entry for entry in group if entry.uuid not in superseded] or group
    last_by_device: dict[Any, Row] = {}
    for end in sorted(ends, key=lambda entry: entry.sequence):
        last_by_device[end.device] = end
    current = max(last_by_device.values(), key=lambda entry: (entry.taken_at, entry.sequence, entry.pk))
    rivals = [end for end in last_by_device.values() if end is not current and _says(end) != _says(current)]
    earlier = sorted((e for e in group if e is not current and e not in rivals), key=lambda e: (e.taken_at, e.sequence))
    return Slot(current, earlier, rivals)


def _says(entry: Reading | Observation) -> tuple:
    if isinstance(entry, Observation):
        return (entry.degree,)
    return (entry.quantity, entry.reason) if entry.value is None else (entry.quantity, round(entry.value, 6))
