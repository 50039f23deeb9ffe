"""How well a share is known from so many cases."""

from math import sqrt

from engine.errors import EngineError

Z95 = 1.959963984540054  # of the normal distribution: 95 % lie within


def wilson(hits: int, cases: int) -> tuple[float, float]:
    """The 95 % interval of a share: lower and upper end, 0 to 1. hits: how many of the cases.

    Wilson (1927), "Probable inference, the law of succession, and statistical inference", J. Am. Stat. Assoc. 22,
    without correction for continuity. Raises EngineError for no cases, or more hits than cases.
    """
    if not 0 <= hits <= cases or cases == 0:
        raise EngineError(f"{hits} of {cases} is no share")
    z2, p = Z95**2, hits / cases
    middle, spread = p + z2 / (2 * cases), Z95 * sqrt(p * (1 - p) / cases + z2 / (4 * cases**2))
    return max((middle - spread) / (1 + z2 / cases), 0.0), min((middle + spread) / (1 + z2 / cases), 1.0)
