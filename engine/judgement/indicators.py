"""Each indicator's state: measured against expected, with the uncertainty of their difference.

The rule is the conformity probability of JCGM 106:2012: with the difference d known to within u (95 %, normal), how
likely is it that the true difference lies inside the tolerance?

    95 % sure it is beyond one side    -> out of range
    80 % sure it is inside             -> in range
    otherwise, uncertainty within the tolerance -> borderline
    otherwise                          -> can't tell yet
"""

from dataclasses import dataclass
from math import erf, sqrt

from engine.uncertainty.estimate import Estimate
from engine.uncertainty.propagation import K
from engine.wording import amount

IN_RANGE, BORDERLINE, OUT_OF_RANGE, CANT_TELL = "in range", "borderline", "out of range", "can't tell yet"
SURE_INSIDE = 0.80
SURE_OUTSIDE = 0.95


@dataclass(frozen=True)
class Indicator:
    """One indicator: measured, expected, the tolerance around expected, and what that makes it.

    lean: (measured - expected) in units of tolerance, negative left. word: what stands under its mark.
    authority: where the expected value comes from. decided_by: the error source that matters most to the difference.
    """

    id: str
    label: str
    measured: Estimate
    expected: Estimate
    tolerance: float | None
    state: str
    lean: float | None
    word: str
    authority: str
    sentence: str
    decided_by: str = ""

    @property
    def low(self) -> bool:
        """Out of range on the low side."""
        return self.state == OUT_OF_RANGE and self.lean < 0

    @property
    def high(self) -> bool:
        """Out of range on the high side."""
        return self.state == OUT_OF_RANGE and self.lean > 0


def below_probability(limit: float, difference: float, u95: float) -> float:
    """Probability that the true difference lies below a limit; all in one unit, u95 >= 0."""
    return 0.5 * (1 + erf((limit - difference) / (max(u95 / K, 1e-9) * sqrt(2))))


def state_of(difference: float, u95: float, tolerance: float) -> str:
    """The state of a difference known within u95 against a tolerance."""
    low, high = below_probability(-tolerance, difference, u95), 1 - below_probability(tolerance, difference, u95)
    if max(low, high) >= SURE_OUTSIDE:
        return OUT_OF_RANGE
    if 1 - low - high >= SURE_INSIDE:
        return IN_RANGE
    return BORDERLINE if u95 <= tolerance else CANT_TELL


def word_of(state: str, lean: float | None) -> str:
    """The word under the mark: the side when it is out, else the state."""
    if state == OUT_OF_RANGE:
        return "high" if lean > 0 else "low"
    return state


def indicator(
    id_: str,
    label: str,
    measured: Estimate,
    expected: Estimate,
    off: Estimate,
    tolerance: float | None,
    authority: str,
    decided_by: str,
) -> Indicator:
    """Judge one indicator. off: measured - expected with the uncertainty of that difference; tolerance in its unit."""
    if not off.known or tolerance is None:
        reason = (off.missing or expected.missing or measured.missing).rstrip(".")
        sentence = f"{label}: {reason}."
        return Indicator(id_, label, measured, expected, tolerance, CANT_TELL, None, CANT_TELL, authority, sentence)
    state, lean = state_of(off.value, off.u95, tolerance), off.value / tolerance
    where = "as expected" if abs(lean) < 0.02 else f"{amount(off.value, off.unit)} {'above' if lean > 0 else 'below'} expected"
    sentence = (
        f"{label} is {where}, known within {amount(off.u95, off.unit)}, and {amount(tolerance, off.unit)} is allowed: {state}."
    )
    return Indicator(
        id_, label, measured, expected, tolerance, state, lean, word_of(state, lean), authority, sentence, decided_by
    )
