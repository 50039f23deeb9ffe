"""What speaks for a cause and what against it: each reading and each look by how much likelier it is with the cause
than without.
"""

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from math import log, sqrt
from types import MappingProxyType

import numpy as np

from engine.diagnosis.cause import AIR_GROUPS, HEALTHY
from engine.diagnosis.causes import Setting, causes_in
from engine.diagnosis.likelihood import EXPLAINS, NEVER, WIDENING, Ranked
from engine.diagnosis.observation_likelihoods import DRIFT_RATIO, drifts_explained, ratio_of, ways_of
from engine.quantities.residual import Residual
from engine.readings.observations import BY_ID as SIGHTS
from engine.uncertainty.trend import Trend

SPEAKS = 0.4  # ln of the ratio from which something is said to speak for or against
# The same for a sound machine: a fault leaves most readings alone, so that each that is in range says little of itself.
SPEAKS_FOR_SOUND = 0.1
# Standard deviations that a cause would have to move a reading by for one that is as expected to speak against it, or
# that a reading may be off to speak for a sound machine.
SHOWS, NEAR = 1.5, 1.0
MOST = 4
# A quantity that no cause is judged by -> the groups whose faults show in it. A leaking return lets the static fall,
# and nothing in the circuit moves it (engine physics).
OF_GROUPS = {
    "return_leak_share": ("return_duct",), "return_dew_point": ("return_duct",), "gain_room": ("supply_duct",),
    "total_static": AIR_GROUPS,
}  # fmt: skip


@dataclass(frozen=True)
class Witness:
    """One reading (quantity: its id) or look (sight, degree) about a cause.

    ratio: ln of how much likelier it is with the cause. should: -1 or +1 where the reading should be lower or higher
    with that cause, else 0. drift: how the quantity drifted over earlier visits, where that is the witness.
    """

    ratio: float
    quantity: str = ""
    sight: str = ""
    degree: str = ""
    should: int = 0
    drift: Trend | None = None


@dataclass(frozen=True)
class Evidence:
    """One cause with its probability, and what speaks for and against it, strongest first."""

    cause: str
    probability: float
    speaks_for: tuple[Witness, ...]
    speaks_against: tuple[Witness, ...]


def evidence(
    cause: str,
    ranked: Ranked,
    residuals: Sequence[Residual],
    seen: dict[str, str],
    drifts: Mapping[str, Trend] = MappingProxyType({}),
) -> Evidence:
    """The evidence about one cause, against a sound machine; of a sound machine, its readings against every fault by
    how common it is, what was seen against the likeliest. No reading speaks for both, or against both.
    """
    other = next((c for c in ranked.by_cause if c != HEALTHY), HEALTHY) if cause == HEALTHY else HEALTHY
    found = [
        *(_of_sound(other, ranked, residuals) if cause == HEALTHY else _readings(cause, ranked, residuals)),
        *_looks(cause, other, seen),
        *_drifts(cause, other, ranked.hypotheses.setting, drifts),
    ]
    found.sort(key=lambda w: -abs(w.ratio))
    least = SPEAKS_FOR_SOUND if cause == HEALTHY else SPEAKS
    return Evidence(
        cause,
        ranked.by_cause[cause],
        tuple(w for w in found if w.ratio >= least)[:MOST],
        tuple(w for w in found if w.ratio <= -SPEAKS)[:MOST],
    )


def telling(cause: str, rival: str, ranked: Ranked, residuals: Sequence[Residual]) -> list[str]:
    """The quantities that speak for a cause: first the loudest, which says that something is wrong, then those that
    tell it from its rival, which say what.
    """
    loud = sorted((w for w in _readings(cause, ranked, residuals) if w.ratio >= SPEAKS), key=lambda w: -w.ratio)
    own, its = (
        [
            _density(r.value, shift, r.own_variance + doubt**2) + possible
            for r, shift, doubt, possible in zip(residuals, *_under(c, ranked), strict=True)
        ]
        for c in (cause, rival)
    )
    apart = {r.kind.id: one - other for r, one, other in zip(residuals, own, its, strict=True)}
    rest = sorted((w.quantity for w in loud[1:]), key=lambda id_: -apart[id_])
    return [w.quantity for w in loud[:1]] + rest


def is_of_groups(quantity: str, groups: Collection[str]) -> bool:
    """Whether a quantity that no cause is judged by is out of range where one of these groups is at fault; of one that
    nothing is known of it may be.
    """
    of = OF_GROUPS.get(quantity.split(":")[0])
    return of is None or any(group in of for group in groups)


def _readings(cause: str, ranked: Ranked, residuals: Sequence[Residual]) -> Iterator[Witness]:
    of_sound = _under(HEALTHY, ranked)[2]
    for r, shift, doubt, possible, sound in zip(residuals, *_under(cause, ranked), of_sound, strict=True):
        own = r.own_variance
        ratio = _density(r.value, shift, own + doubt**2) + possible - _density(r.value, 0.0, own) - sound
        if ratio >= SPEAKS and not shift * _sign(r.value) >= EXPLAINS * abs(r.value):
            continue
        if ratio < 0 and max(abs(shift), abs(r.value)) < SHOWS * sqrt(own):
            continue
        should = _sign(shift - r.value) if ratio <= -SPEAKS and abs(shift) > sqrt(own) / 2 else 0
        yield Witness(ratio, quantity=r.kind.id, should=should)


def _of_sound(likeliest: str, ranked: Ranked, residuals: Sequence[Residual]) -> Iterator[Witness]:
    of_fault = {w.quantity: w.ratio for w in _readings(likeliest, ranked, residuals) if abs(w.ratio) >= SPEAKS}
    of = ranked.hypotheses
    common = of.prior[of.faulty] / of.prior[of.faulty].sum()
    values, own = np.array([r.value for r in residuals]), np.array([r.own_variance for r in residuals])
    wide = WIDENING**2 * (own + ranked.doubts[of.faulty] ** 2)
    under_faults = common @ (np.exp(-0.5 * (values - ranked.shifts[of.faulty]) ** 2 / wide) / np.sqrt(wide))
    for r, variance, under in zip(residuals, own.tolist(), under_faults.tolist(), strict=True):
        ratio = _density(r.value, 0.0, variance) - log(max(under, NEVER))
        near = abs(r.value) <= NEAR * sqrt(variance)
        if (near or ratio < 0) and not ratio * of_fault.get(r.kind.id, 0.0) > 0:
            yield Witness(ratio, quantity=r.kind.id)


def _under(cause: str, ranked: Ranked) -> tuple[list[float], list[float], list[float]]:
    """Of the residuals under a cause alone, its levels weighed by how likely they are: shifts, doubts, and ln of how
    likely each is on the possible side of its bounds.
    """
    rows = ranked.hypotheses.levels_of(cause)
    weights = ranked.weights[rows] + 1e-12
    weights = weights / weights.sum()
    shifts, doubts, possible = (
        weights @ of for of in (ranked.shifts[rows], ranked.doubts[rows], ranked.possible[rows])
    )
    return shifts.tolist(), doubts.tolist(), possible.tolist()


def _sign(value: float) -> int:
    return int(value > 0) - int(value < 0)


def _density(value: float, shift: float, variance: float) -> float:
    wide = WIDENING**2 * variance
    return -0.5 * (value - shift) ** 2 / wide - 0.5 * log(wide)


def _looks(cause: str, other: str, seen: dict[str, str]) -> Iterator[Witness]:
    for what, degree in seen.items():
        ratio = ratio_of(what, degree, cause) / ratio_of(what, degree, other)
        if what in SIGHTS and ratio != 1.0:
            yield Witness(log(ratio), sight=what, degree=degree)


def _drifts(cause: str, other: str, setting: Setting, drifts: Mapping[str, Trend]) -> Iterator[Witness]:
    known, ways = causes_in(setting), ways_of(drifts)
    with_it, without = (drifts_explained(known[c], setting.facts, ways) for c in (cause, other))
    for id_, trend in drifts.items():
        if (id_ in with_it) != (id_ in without):
            ratio = log(DRIFT_RATIO) / len(drifts)
            yield Witness(ratio if id_ in with_it else -ratio, quantity=id_, drift=trend)
