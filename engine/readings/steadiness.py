"""Whether a reading has settled, from its samples: settled, swinging (with mean and range), or not yet (with the time
it still wants).

Better than a clock: steady means a change under about 0.5 °F in 3 minutes. Common practice, no single source. Some
systems swing for good (a hunting valve, a fluttering static): then mean and range are the reading, and the swing is
evidence.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import log

import numpy as np

from engine.errors import EngineError

WINDOW_MIN = 3.0
STEADY_CHANGE = 0.5  # °F in WINDOW_MIN; statics and amps pass their own
FEWEST_SAMPLES = 4
SETTLED, SWINGING, NOT_YET, TOO_SHORT = "settled", "swinging", "not yet", "too short"


@dataclass(frozen=True)
class Steadiness:
    """The state; mean and range over the window; minutes still to go when not yet (None when it cannot be told)."""

    state: str
    mean: float | None
    range: float | None
    minutes_to_go: float | None


def steadiness(minutes: Sequence[float], values: Sequence[float], steady_change: float = STEADY_CHANGE) -> Steadiness:
    """Judge a series of samples. minutes: rising times [min]; values: in their own unit; steady_change: allowed in 3
    minutes.
    """
    t, x = np.asarray(minutes, float), np.asarray(values, float)
    if len(t) != len(x) or np.any(np.diff(t) <= 0):
        raise EngineError("samples need rising times, one value each")
    if len(t) < FEWEST_SAMPLES or t[-1] - t[0] < WINDOW_MIN - 1e-9:
        return Steadiness(TOO_SHORT, None, None, None)
    recent = t >= t[-1] - WINDOW_MIN - 1e-9
    if recent.sum() < FEWEST_SAMPLES:
        return Steadiness(TOO_SHORT, None, None, None)
    mean, span = float(x[recent].mean()), float(np.ptp(x[recent]))
    if span < steady_change:
        return Steadiness(SETTLED, mean, span, 0.0)
    longer = t >= t[-1] - 2 * WINDOW_MIN - 1e-9
    if _swings(t[longer], x[longer], steady_change):
        mean, span = float(x[longer].mean()), float(np.ptp(x[longer]))
        return Steadiness(SWINGING, mean, span, None)
    to_go = _minutes_to_go(t, x, steady_change)
    return Steadiness(NOT_YET, mean, span, to_go)


def _swings(t: np.ndarray, x: np.ndarray, steady_change: float) -> bool:
    """No trend over the longer window, and at least two turns of more than half the steady change."""
    slope, level = np.polyfit(t - t[0], x, 1)
    if t[-1] - t[0] < 2 * WINDOW_MIN - 0.5 or abs(slope) * (t[-1] - t[0]) > 0.5 * np.ptp(x - slope * (t - t[0])):
        return False
    side = np.sign(
        np.where(np.abs(x - level - slope * (t - t[0])) > steady_change / 4, x - level - slope * (t - t[0]), 0.0)
    )
    side = side[side != 0]
    return int((np.diff(side) != 0).sum()) >= 2


def _minutes_to_go(t: np.ndarray, x: np.ndarray, steady_change: float) -> float | None:
    """Minutes until the change in one window falls under the limit, from how the last two windows' changes shrink
    (first-order approach).
    """
    if t[-1] - t[0] < 2 * WINDOW_MIN - 1e-9:
        return None
    now, before, earlier = (float(np.interp(t[-1] - k * WINDOW_MIN, t, x)) for k in (0, 1, 2))
    last, previous = abs(now - before), abs(before - earlier)
    if not 0 < last < previous:
        return None
    return float(max(0.0, log(steady_change / last) / log(last / previous)) * WINDOW_MIN)
