"""What is known of sound machines of a kind, and a table of quantities held to it: where sound ones of this line lie
and how they scatter takes the place of what the engine allows any machine.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

import numpy as np

from engine.kinds.features import ALL, LEVELS, Place, place_of
from engine.quantities.quantity import HOUSE_RULE, Quantity, against_kind
from engine.quantities.table import Table
from engine.uncertainty.propagation import K

FEWEST = 3  # sound machines from which a group is named
# Confirmed sound machines, or what others weigh as much, from which what was learnt is used: of fewer it helps one shop
# and misleads the next (docs/kinds.md).
ENOUGH = 12.0
SCATTER_KNOWN_BY = 6.0  # machines that the scatter is known by before any was met (working figure)
# A learnt expectation stays within this share of what the engine holds sound machines to scatter by (95 %), and its
# width within this many times of it (working figures).
MOST_MOVED, WIDEST = 0.75, 1.3
# Its width stays above this share of what one machine scatters from visit to visit: the follow-up's tolerances, from
# which that comes, are generous (working figure).
LEAST_OF_REPEAT = 0.5


@dataclass(frozen=True)
class Group:
    """One group's own part of a quantity: how many machines, what they are off by beside everything else, and the
    variance of that. within: the wider groups that it belongs to, by level.
    """

    count: float
    offset: float
    variance: float
    within: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class Learnt:
    """One quantity of one setting, in its residual's terms. coefficients, covariance: of the features, all machines
    together. spread: of single machines about what is expected of them (95 %). unseen: variance of a group that was
    never met, by level. groups: level -> name -> its own part. allowed: by how much the engine lets any machine be off
    (95 %), 0 where that was not kept.
    """

    count: float
    coefficients: tuple[float, ...]
    covariance: tuple[tuple[float, ...], ...]
    spread: float
    unseen: dict[str, float]
    groups: dict[str, dict[str, Group]] = field(default_factory=dict)
    allowed: float = 0.0

    @property
    def is_used(self) -> bool:
        """Whether enough machines speak for it."""
        return self.count >= ENOUGH

    def at(self, place: Place) -> tuple[float, float]:
        """(where a sound machine there lies, its variance with the doubt of that). Few machines say little of their
        scatter either: Student's distribution is that much wider.
        """
        known = SCATTER_KNOWN_BY + self.count
        x = place.features
        offset, variance = float(x @ np.array(self.coefficients)), float(x @ np.array(self.covariance) @ x)
        for level in LEVELS:
            own = self.groups.get(level, {}).get(place.groups[level])
            offset += own.offset if own else 0.0
            variance += own.variance if own else self.unseen[level]
        return offset, (variance + (self.spread / K) ** 2) * known / (known - 2.0)

    def told_of(self, place: Place) -> tuple[str, int]:
        """(the narrowest level with enough machines to be named, how many)."""
        for level in reversed(LEVELS):
            own = self.groups.get(level, {}).get(place.groups[level])
            if own and place.groups[level] and own.count >= FEWEST:
                return level, round(own.count)
        return ALL, round(self.count)


@dataclass(frozen=True)
class OfSetting:
    """What is known in one setting: by quantity, how they go together (their correlation, by ids), and which of it is
    not used, because it looks like a fault: (cause, level) -> quantities.
    """

    learnt: dict[str, Learnt]
    ids: tuple[str, ...]
    correlation: tuple[tuple[float, ...], ...]
    suspicions: tuple["Suspicion", ...] = ()

    def suspended(self, place: Place) -> frozenset[str]:
        """The quantities of which nothing learnt is used for a machine of that place."""
        of = (s for s in self.suspicions if s.level == ALL or place.groups[s.level] == s.group)
        return frozenset(id_ for suspicion in of for id_ in suspicion.quantities)


@dataclass(frozen=True)
class Suspicion:
    """What was learnt looks like a fault's signs: machines of this group read as if they had it."""

    cause: str
    level: str
    group: str
    quantities: tuple[str, ...]


@dataclass(frozen=True)
class Kind:
    """What is known, by setting; from how many sound machines, and how many of them were confirmed."""

    settings: Mapping[str, OfSetting]
    machines: int = 0
    confirmed: int = 0


def held_to_kind(table: Table, kind: Kind) -> Table:
    """The table with every quantity that no own baseline speaks for held to what sound machines of its kind do."""
    place = place_of(table)
    known = kind.settings.get(place.setting)
    if known is None:
        return table
    left = {id_ for id_, learnt in known.learnt.items() if learnt.is_used} - known.suspended(place)
    ids = [id_ for id_, q in table.quantities.items() if id_ in left and _is_open(q)]
    if not ids:
        return table
    offsets, widths = zip(*(_bounded(table[id_], *known.learnt[id_].at(place)) for id_ in ids), strict=True)
    at = [known.ids.index(id_) for id_ in ids]
    together = np.array(known.correlation)[np.ix_(at, at)]
    sources = np.linalg.cholesky(together + 1e-9 * np.eye(len(ids))) * np.array(widths)[:, None]
    found = dict(table.quantities)
    for i, id_ in enumerate(ids):
        moves = {f"kind {ids[j]}": float(K * sources[i, j]) for j in range(i + 1)}
        level, count = known.learnt[id_].told_of(place)
        found[id_] = against_kind(table[id_], offsets[i], moves, level, count)
    return replace(table, quantities=found)


def is_of_kind(q: Quantity) -> bool:
    """Whether sound machines can say where one lies. Not where the shop's own limits say it: a blower at 355 CFM per
    ton is no fault for running under the others.
    """
    return q.residual is not None and q.authority != HOUSE_RULE


def _is_open(q: Quantity) -> bool:
    r = q.residual
    return r is not None and r.at_baseline is None and is_of_kind(q)


def _bounded(q: Quantity, offset: float, variance: float) -> tuple[float, float]:
    """Offset and standard deviation within what the engine holds possible: never further off than it allows, never
    narrower than half of one machine's own scatter.
    """
    assert q.residual is not None, "only open residuals are held to a kind"
    allowed = q.residual.allowed_u95
    width = min(max(float(np.sqrt(variance)), q.residual.repeat_u95 / K * LEAST_OF_REPEAT), WIDEST * allowed / K)
    return float(np.clip(offset, -MOST_MOVED * allowed, MOST_MOVED * allowed)), width
