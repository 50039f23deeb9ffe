"""What a fix has changed between two rounds, whether it should have, and what is better than possible."""

from dataclasses import dataclass
from math import hypot

from engine.constants import ERROR_BETWEEN_ROUNDS
from engine.diagnosis.actions import BY_ID as ACTIONS
from engine.diagnosis.causes import causes_in
from engine.diagnosis.diagnosis import Diagnosis
from engine.diagnosis.verdict import SOUND
from engine.quantities.residual import Residual
from engine.uncertainty.propagation import K

MOVED = 2.0  # standard deviations of a change between two rounds
CANNOT_EXCEED = ("capacity", "split", "rise", "heat_moved")
HELD, TOWARDS, AWAY = "held", "towards", "away"


@dataclass(frozen=True)
class Change:
    """One quantity between two rounds: held though it should have moved, or moved towards or away from what is
    expected.

    meant: what was done should move it; beyond: it is better than possible now.
    """

    quantity: str
    way: str
    meant: bool
    beyond: bool = False


def changes(before: Diagnosis, after: Diagnosis, done: tuple[str, ...]) -> tuple[Change, ...]:
    """What is worth saying of two rounds. done: ids of the actions in between."""
    was, known = {r.kind.id: r for r in before.residuals}, causes_in(after.setting)
    meant = {c for id_ in done if id_ in ACTIONS for c in ACTIONS[id_].causes if c in known}
    touched = {kind for c in meant for kind in known[c].signs}
    pairs = [(was[now.kind.id], now) for now in after.residuals if now.kind.id in was]
    return tuple(change for then, now in pairs if (change := _change(then, now, now.kind.id in touched)) is not None)


def _change(then: Residual, now: Residual, meant: bool) -> Change | None:
    spread = hypot(now.repeat_u95, ERROR_BETWEEN_ROUNDS.value * sum(p * p for p in now.pushes.values()) ** 0.5) / K
    if abs(now.value - then.value) < MOVED * spread:
        return Change(now.kind.id, HELD, meant) if meant and abs(then.value) > MOVED * spread else None
    way = TOWARDS if abs(now.value) < abs(then.value) else AWAY
    return Change(now.kind.id, way, meant, now.kind.id in CANNOT_EXCEED and now.value > 2 * now.sound_u95)


def came_right(before: Diagnosis, after: Diagnosis) -> bool:
    """Whether something was wrong before and nothing is now."""
    return before.verdict.group not in ("", after.verdict.group) and after.verdict.state == SOUND
