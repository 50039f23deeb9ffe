"""How likely each cause is: Bayes' rule over every cause at every level, a sound machine and a bad probe among them.

Under a hypothesis the residuals scatter normally about its signs, with the covariance of the readings and the model, and with what the signs may
themselves be off. What was seen multiplies in as a ratio. Everything here is numbers; the words are in engine.judgement.evidence.
"""

from dataclasses import dataclass

import numpy as np

from engine.judgement.causes import BY_ID, CAUSES, HEALTHY, ORIFICE, TOGETHER, TOGETHER_SHARE, TXV, Cause
from engine.judgement.looks import ratio_of
from engine.judgement.residuals import Residual, stacked
from engine.uncertainty.propagation import K

SIGN_DOUBT = 0.35  # of a shift, 95 %: signs are good to about a third
WIDENING = 1.3  # of every standard deviation: what the model leaves out. The one figure set on simulated tuning visits.
LEVELS_OF_A_PAIR = (1, 2)  # moderate and severe stand for a pair


@dataclass(frozen=True)
class Hypothesis:
    """One cause, or two, at one level on one metering device: its shifts of the residuals and their doubt, shapes (n,), and its prior."""

    causes: tuple[str, ...]
    level: int
    shift: np.ndarray
    doubt: np.ndarray
    prior: float


@dataclass(frozen=True)
class Ranked:
    """What the residuals and looks make of the causes. by_cause and by_group: probability, most likely first; hypotheses with their own."""

    by_cause: dict[str, float]
    by_group: dict[str, float]
    hypotheses: tuple[Hypothesis, ...]
    weights: np.ndarray

    @property
    def healthy(self) -> float:
        """How likely it is that nothing is wrong that shows."""
        return self.by_cause[HEALTHY]


def hypotheses_for(residuals: list[Residual], device: str, motor: str) -> list[Hypothesis]:
    """Every hypothesis about these residuals. device: a metering device; 'unknown' takes both, half each."""
    devices = (device,) if device in (TXV, ORIFICE) else (TXV, ORIFICE)
    total = sum(cause.prior for cause in CAUSES)
    found = []
    for of in devices:
        one = {cause.id: _levels(cause, residuals, of, motor) for cause in CAUSES}
        share = 1.0 / (total * len(devices))
        for cause in CAUSES:
            rows = one[cause.id]
            found += [Hypothesis((cause.id,), n, s, d, share * cause.prior / len(rows)) for n, (s, d) in enumerate(rows)]
        for first, second in TOGETHER:
            rarer = TOGETHER_SHARE * min(BY_ID[first].prior, BY_ID[second].prior)
            for n in LEVELS_OF_A_PAIR:
                (s1, d1), (s2, d2) = one[first][n], one[second][n]
                found.append(Hypothesis((first, second), n, s1 + s2, np.hypot(d1, d2), share * rarer / len(LEVELS_OF_A_PAIR)))
    return found


def _levels(cause: Cause, residuals: list[Residual], device: str, motor: str) -> list[tuple[np.ndarray, np.ndarray]]:
    signs, found = cause.signs_on(device, motor), []
    for n in range(cause.levels):
        shift = np.array([_shift(r, cause, signs, n) for r in residuals])
        moved = np.abs(shift) > 1e-12
        floor = np.array([r.kind.floor for r in residuals])
        found.append((shift, np.where(moved, np.hypot(SIGN_DOUBT * shift, floor), 0.0) / K))
    return found


def _shift(r: Residual, cause: Cause, signs: dict[str, tuple[float, ...]], level: int) -> float:
    """The shift of one residual under a cause. A guessed airflow that is too high shows in everything that rests on it."""
    if cause.probe:
        return cause.probe[1][level] * r.slopes.get(cause.probe[0], 0.0)
    guessed = -signs["airflow"][level] * r.slopes.get("airflow", 0.0) if "airflow" in signs else 0.0
    shift = (signs[r.kind.id][level] if r.kind.id in signs else 0.0) + guessed
    return shift if r.lowest is None else max(shift, r.lowest)


def rank(residuals: list[Residual], seen: dict[str, str], device: str, motor: str) -> Ranked:
    """Rank every cause by residuals and looks."""
    hypotheses = hypotheses_for(residuals, device, motor)
    log = np.log([h.prior * np.prod([ratio_of(seen, cause) for cause in h.causes]) for h in hypotheses])
    if residuals:
        value, covariance = stacked(residuals)
        log += log_likelihoods(
            value, covariance, np.array([h.shift for h in hypotheses]), np.array([h.doubt for h in hypotheses])
        )
    weights = np.exp(log - log.max())
    weights /= weights.sum()
    by_cause: dict[str, float] = {cause.id: 0.0 for cause in CAUSES}
    by_group: dict[str, float] = {}
    for h, w in zip(hypotheses, weights, strict=True):
        for cause in h.causes:
            by_cause[cause] += float(w)
        for group in {BY_ID[cause].group for cause in h.causes}:
            by_group[group] = by_group.get(group, 0.0) + float(w)
    return Ranked(_sorted(by_cause), _sorted(by_group), tuple(hypotheses), weights)


def log_likelihoods(value: np.ndarray, covariance: np.ndarray, shifts: np.ndarray, doubts: np.ndarray) -> np.ndarray:
    """Log density of the residuals (n,) under each hypothesis, without the constant. covariance (n, n); shifts, doubts (h, n)."""
    wide = WIDENING**2 * (covariance[None, :, :] + np.einsum("hi,ij->hij", doubts**2, np.eye(len(value))))
    off = value[None, :] - shifts
    lower = np.linalg.cholesky(wide)
    solved = np.linalg.solve(lower, off[:, :, None])[:, :, 0]
    return -0.5 * (solved**2).sum(axis=1) - np.log(np.diagonal(lower, axis1=1, axis2=2)).sum(axis=1)


def _sorted(by: dict[str, float]) -> dict[str, float]:
    return dict(sorted(by.items(), key=lambda item: (-item[1], item[0])))
