"""The one margin rule: how a value that is known within its uncertainty compares with a limit or a band.

Conformity probability (JCGM 106:2012): with the value known within u (95 %, normal), how likely is it that the true one
lies inside the band?

    95 % sure it is beyond one side              -> out of range
    80 % sure it is inside                       -> in range
    otherwise, uncertainty within the tolerance  -> borderline
    otherwise                                    -> can't tell yet
"""

from math import erf, inf, sqrt

from engine.uncertainty.propagation import K

IN_RANGE, BORDERLINE, OUT_OF_RANGE, CANT_TELL = "in range", "borderline", "out of range", "can't tell yet"
SURE_INSIDE, SURE_OUTSIDE = 0.80, 0.95
SURE_CONTRADICTION = 0.995  # on one side; what takes the whole verdict with it is seen in 1 sound round of 100


def below_probability(limit: float, value: float, u95: float) -> float:
    """Probability that the true value lies below a limit; all in one unit, u95 >= 0."""
    if limit in (inf, -inf):
        return float(limit > 0)
    return 0.5 * (1 + erf((limit - value) / (max(u95 / K, 1e-9) * sqrt(2))))


def surely_below(limit: float, value: float, u95: float, sure: float = SURE_OUTSIDE) -> bool:
    """Whether the true value is below the limit, as sure as this (95 % where nothing is said)."""
    return below_probability(limit, value, u95) >= sure


def surely_above(limit: float, value: float, u95: float) -> bool:
    """Whether the true value is above the limit, 95 % sure."""
    return 1.0 - below_probability(limit, value, u95) >= SURE_OUTSIDE


def state_of(value: float, u95: float, low: float, high: float) -> str:
    """The state of a value known within u95 between two limits, either of which may be infinite."""
    under, over = below_probability(low, value, u95), 1 - below_probability(high, value, u95)
    if max(under, over) >= SURE_OUTSIDE:
        return OUT_OF_RANGE
    if 1 - under - over >= SURE_INSIDE:
        return IN_RANGE
    return BORDERLINE if u95 <= (high - low) / 2 else CANT_TELL
