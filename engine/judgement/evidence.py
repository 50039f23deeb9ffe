"""What speaks for a cause and what against it, in sentences: each reading with what was expected, each look with what was seen."""

from dataclasses import dataclass
from math import log, sqrt

import numpy as np

from engine.judgement.cause import HEALTHY
from engine.judgement.causes import causes_in
from engine.judgement.likelihood import WIDENING, Ranked
from engine.judgement.looks import ratio_of
from engine.judgement.residuals import Residual
from engine.readings.observations import BY_ID as SIGHTS
from engine.uncertainty.propagation import K

SPEAKS = 0.4  # ln of the ratio from which something is said to speak for or against
MOST = 4


@dataclass(frozen=True)
class Evidence:
    """One cause with its probability, what it is, and what speaks for and against it, strongest first."""

    cause: str
    label: str
    probability: float
    why: str
    speaks_for: tuple[str, ...]
    speaks_against: tuple[str, ...]


def evidence(cause: str, ranked: Ranked, residuals: list[Residual], seen: dict[str, str]) -> Evidence:
    """The evidence about one cause, against a sound machine; of a sound machine, against the likeliest fault."""
    other = next((c for c in ranked.by_cause if c != HEALTHY), HEALTHY) if cause == HEALTHY else HEALTHY
    shifts, doubts = _under(cause, ranked)
    without, plain = _under(other, ranked)
    found = []
    for i, r in enumerate(residuals):
        own = sum(p * p for p in r.pushes.values()) / K**2 + (r.model_u95 / K) ** 2
        says = _ratio(r.value, shifts[i], own + doubts[i] ** 2) - _ratio(r.value, without[i], own + plain[i] ** 2)
        found.append((says, _sentence(r, sqrt(own), shifts[i], says)))
    found += [
        (log(ratio), f"{SIGHTS[what].label}: {SIGHTS[what].degrees[degree].lower()}.")
        for what, degree, ratio in _looks(cause, other, seen)
    ]
    found.sort(key=lambda item: -abs(item[0]))
    known = causes_in(ranked.hypotheses.setting)[cause]
    return Evidence(
        cause, known.label, ranked.by_cause[cause], known.why,
        tuple(text for says, text in found if says >= SPEAKS)[:MOST], tuple(text for says, text in found if says <= -SPEAKS)[:MOST],
    )  # fmt: skip


def _under(cause: str, ranked: Ranked) -> tuple[np.ndarray, np.ndarray]:
    """Shifts and doubts of the residuals under a cause alone, its levels weighed by how likely they are."""
    rows = [i for i, causes in enumerate(ranked.hypotheses.causes) if causes == (cause,)]
    weights = ranked.weights[rows] + 1e-12
    weights = weights / weights.sum()
    return weights @ ranked.shifts[rows], weights @ ranked.doubts[rows]


def _ratio(value: float, shift: float, variance: float) -> float:
    wide = WIDENING**2 * variance
    return float(-0.5 * (value - shift) ** 2 / wide - 0.5 * log(wide))


def _looks(cause: str, other: str, seen: dict[str, str]):
    for what, degree in seen.items():
        ratio = ratio_of(what, degree, cause) / ratio_of(what, degree, other)
        if what in SIGHTS and ratio != 1.0:
            yield what, degree, ratio


def said_of(r: Residual) -> str:
    """A residual in a sentence: how it stands within its 95 %, measured and expected."""
    return _standing(r, sqrt(sum(p * p for p in r.pushes.values()) + r.model_u95**2))


def _standing(r: Residual, own: float) -> str:
    stands = "as expected" if abs(r.value) < own else "above what is expected" if r.value > 0 else "below what is expected"
    return f"{r.kind.label} {stands}: {r.says.rstrip('.')}{f' ({r.origin})' if r.origin else ''}."


def _sentence(r: Residual, own: float, shift: float, says: float) -> str:
    text = _standing(r, own)
    if says <= -SPEAKS and abs(shift) > own / 2:
        return f"{text[:-1]}; it should be {'higher' if shift > r.value else 'lower'} with that."
    return text
