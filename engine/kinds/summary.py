"""What is known of sound machines, group by group: how many, where they lie, and by how much that narrows what the
engine lets any machine do.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from math import exp, log

import numpy as np

from engine.kinds.features import ALL, COLUMNS, LEVELS, Place
from engine.kinds.kind import FEWEST, MOST_MOVED, WIDEST, Kind, Learnt, OfSetting
from engine.uncertainty.propagation import K


@dataclass(frozen=True)
class KnownQuantity:
    """How far sound machines of a group are off what the engine expects, in the residual's terms: offset; how far one
    may be off that (95 %), and how far the engine lets any machine be off (95 %).
    """

    id: str
    offset: float
    width: float
    allowed: float


@dataclass(frozen=True)
class KnownGroup:
    """One group in one setting: from how many machines, and by what share the widths are narrower on the whole.
    suspected: the fault that its machines read as if they had, '' for none.
    """

    setting: str
    level: str
    name: str
    machines: int
    narrower: float
    quantities: tuple[KnownQuantity, ...]
    suspected: str


def known_groups(kind: Kind) -> list[KnownGroup]:
    """Every group that is used and has enough machines to be named, the widest first. In middling weather, of a
    middling size.
    """
    return [group for setting, of in kind.settings.items() for group in _of_setting(setting, of)]


def waiting(kind: Kind) -> dict[str, int]:
    """The settings of which nothing is used yet, with the machines that each has."""
    most = {setting: max(of.learnt.values(), key=lambda learnt: learnt.count) for setting, of in kind.settings.items()}
    return {setting: round(learnt.count) for setting, learnt in most.items() if not learnt.is_used}


def _of_setting(setting: str, of: OfSetting) -> Iterator[KnownGroup]:
    for level, name in ((ALL, ""), *_named(of)):
        counts = [_count(learnt, level, name) for learnt in of.learnt.values()]
        enough = {id_: one for id_, one in of.learnt.items() if one.is_used and _count(one, level, name) >= FEWEST}
        found = [q for id_, learnt in enough.items() if learnt.allowed and (q := _known(id_, learnt, level, name))]
        if not found:
            continue
        narrower = 1.0 - exp(float(np.mean([log(q.width / q.allowed) for q in found])))
        suspected = next((s.cause for s in of.suspicions if s.level in (ALL, level) and s.group in ("", name)), "")
        yield KnownGroup(setting, level, name, round(max(counts)), narrower, tuple(found), suspected)


def _named(of: OfSetting) -> list[tuple[str, str]]:
    """Every group that has a name, by level."""
    met = {(level, name) for learnt in of.learnt.values() for level in LEVELS for name in learnt.groups.get(level, {})}
    return sorted(met, key=lambda group: (LEVELS.index(group[0]), group[1]))


def _count(learnt: Learnt, level: str, name: str) -> float:
    if level == ALL:
        return learnt.count
    own = learnt.groups.get(level, {}).get(name)
    return own.count if own else 0.0


def _known(id_: str, learnt: Learnt, level: str, name: str) -> KnownQuantity:
    own = learnt.groups[level][name] if level != ALL else None
    groups = dict.fromkeys(LEVELS, "") | (own.within | {level: name} if own else {})
    middling = np.array([1.0] + [0.0] * (len(COLUMNS) - 1))
    offset, variance = learnt.at(Place("", middling, groups))
    most = MOST_MOVED * learnt.allowed
    width = min(K * float(np.sqrt(variance)), WIDEST * learnt.allowed)
    return KnownQuantity(id_, float(np.clip(offset, -most, most)), width, learnt.allowed)
