"""Which entry counts: the end of the supersedes chain, then device sequence, then device time.

Two devices that disagree about one place are both shown; the later one is used and the disagreement is a finding.
"""

from collections import defaultdict
from collections.abc import Hashable, Iterable
from dataclasses import dataclass, field

from web.visits.models import Entry, Observation, Reading


@dataclass
class Slot:
    """All entries of one slot, oldest first; `current` counts, `rivals` are ends of other devices that disagree."""

    current: Entry
    earlier: list[Entry] = field(default_factory=list)
    rivals: list[Entry] = field(default_factory=list)


def slots(entries: Iterable[Entry]) -> dict[Hashable, Slot]:
    """The entries of a round by slot: (place, slot) for readings, what was seen for observations."""
    groups: dict[Hashable, list[Entry]] = defaultdict(list)
    for entry in entries:
        groups[_slot(entry)].append(entry)
    return {key: _resolve(group) for key, group in groups.items()}


def _slot(entry: Entry) -> Hashable:
    return (entry.place, entry.slot) if isinstance(entry, Reading) else entry.seen


def _resolve(group: list[Entry]) -> Slot:
    superseded = {entry.supersedes for entry in group if entry.supersedes}
    ends = [entry for entry in group if entry.uuid not in superseded] or group
    last_by_device = {}
    for end in sorted(ends, key=lambda entry: entry.sequence):
        last_by_device[end.device] = end
    current = max(last_by_device.values(), key=lambda entry: (entry.taken_at, entry.sequence, entry.pk))
    rivals = [end for end in last_by_device.values() if end is not current and _says(end) != _says(current)]
    earlier = sorted((e for e in group if e is not current and e not in rivals), key=lambda e: (e.taken_at, e.sequence))
    return Slot(current, earlier, rivals)


def _says(entry: Entry) -> tuple:
    if isinstance(entry, Observation):
        return (entry.degree,)
    return (entry.quantity, entry.reason) if entry.value is None else (entry.quantity, round(entry.value, 6))
