"""A robust trend with its own doubt: how fast a quantity drifts, where that is more than chance and instruments."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot, sqrt

import numpy as np
from numpy.typing import NDArray

from engine.uncertainty.share import Z95

Array = NDArray[np.float64]

# Points from which their scatter says how well a slope is known. Of fewer the ranks cannot: three points in a row rise
# or fall by chance one time in three, four one in twelve, five one in sixty.
FEWEST_FOR_SCATTER = 5


@dataclass(frozen=True)
class Trend:
    """A straight line through points. slope: [unit of the points / year]; u95: its 95 %; now: its value at the last
    point; began, ended: times of the first and last point [years].
    """

    slope: float
    u95: float
    now: float
    began: float
    ended: float

    @property
    def is_known(self) -> bool:
        """Whether the slope is more than its own doubt."""
        return abs(self.slope) > self.u95

    def years_to(self, limit: float) -> float | None:
        """Years from the last point until the line reaches a limit on the side it drifts to; None where it has, or
        does not drift.
        """
        if not self.is_known or abs(self.now) >= limit:
            return None
        return float((np.sign(self.slope) * limit - self.now) / self.slope)


def trend_of(years: Sequence[float], values: Sequence[float], u95: Sequence[float]) -> Trend | None:
    """The Theil-Sen line through points; None for fewer than two, or for points of one time.

    years [a]; values, u95 [one unit]: what was read less what was expected, and its 95 %. The slope is the median of
    the slopes between all pairs [1]. Its 95 % has two sources that are added in squares: the scatter of the points,
    from the ranks of the pairs' slopes [2] (from five points on), and the points' own, carried through the line of
    least squares as if each error were its own.

    1. Sen (1968), "Estimates of the regression coefficient based on Kendall's tau", J. Am. Stat. Assoc. 63.
    2. The same, section 4; as in scipy.stats.theilslopes, with which the tests compare.
    """
    t, y, u = (np.asarray(row, dtype=float) for row in (years, values, u95))
    if len(t) < 2 or np.ptp(t) <= 0.0:
        return None
    slopes = _between_pairs(t, y)
    slope = float(np.median(slopes))
    by_scatter = _half_width(slopes, t) if len(t) >= FEWEST_FOR_SCATTER else 0.0
    away = t - t.mean()
    by_instruments = float(sqrt(np.sum((away * u) ** 2)) / np.sum(away**2))
    level = float(np.median(y - slope * t))
    return Trend(slope, hypot(by_scatter, by_instruments), level + slope * float(t[-1]), float(t[0]), float(t[-1]))


def _between_pairs(t: Array, y: Array) -> Array:
    first, second = np.triu_indices(len(t), 1)
    apart = t[second] - t[first]
    usable = apart != 0.0
    return np.sort((y[second] - y[first])[usable] / apart[usable])


def _half_width(slopes: Array, t: Array) -> float:
    """Half of the 95 % interval of the median slope, by the normal approximation of Kendall's statistic, ties of time
    taken off.
    """
    n = len(t)
    _, ties = np.unique(t, return_counts=True)
    variance = (n * (n - 1) * (2 * n + 5) - sum(k * (k - 1) * (2 * k + 5) for k in ties)) / 18.0
    reach = Z95 * sqrt(variance)
    upper = min(round((len(slopes) + reach) / 2.0), len(slopes) - 1)
    lower = max(round((len(slopes) - reach) / 2.0) - 1, 0)
    return float(slopes[upper] - slopes[lower]) / 2.0
