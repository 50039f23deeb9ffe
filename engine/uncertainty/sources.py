"""Error sources: each is one independent cause of error and may move several inputs at once.

All sizes are 95 % (k = 2). One probe used at both ends of a pair is one source with the same push on both, so its
offset cancels in the difference. Method and model errors are sources like any other.
"""

from collections.abc import Collection
from dataclasses import dataclass

from engine.units import Numbers


@dataclass(frozen=True)
class Source:
    """An independent error: id, what to call it, and its 95 % push on each input it touches (same unit as the input).

    Pushes are floats, or arrays of shape (rows,) in a batch. Inputs pushed by one source move together.
    """

    id: str
    label: str
    pushes: tuple[tuple[str, Numbers], ...]


def split_offset(accuracy: float, repeatability: float) -> float:
    """The offset part of a stated accuracy once repeatability is taken out of it in quadrature (same unit, 95 %)."""
    return max(accuracy**2 - repeatability**2, 0.0) ** 0.5


def less(one: dict[str, float], other: dict[str, float]) -> dict[str, float]:
    """The pushes on a difference, from those on what is taken from each other: what both feel alike cancels."""
    return {s: one.get(s, 0.0) - other.get(s, 0.0) for s in one.keys() | other.keys()}


def since(now: dict[str, float], then: dict[str, float], lasting: Collection[str]) -> dict[str, float]:
    """The pushes on a quantity now less itself at an earlier time: a lasting source cancels as far as both feel it
    alike, the others are two.

    now, then: source -> push, 95 %, signed. lasting: the sources that are the same error both times.
    """
    pushes = {s: now.get(s, 0.0) - then.get(s, 0.0) for s in lasting if s in now or s in then}
    pushes |= {s: push for s, push in now.items() if s not in lasting}
    return pushes | {f"{s}, then": push for s, push in then.items() if s not in lasting}
