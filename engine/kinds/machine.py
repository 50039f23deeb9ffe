"""What is known of one machine beside the round it was sealed by: the visits since then that were sound tell better
than one round what it does differently from any other, and all of them tell how it drifts.

For each quantity, in its residual's terms, the machine had some offset on the day of its baseline. Every visit
since reads that offset, and what has drifted since, and its own errors:

    residual = offset + drift x years + errors of that visit

All of it is normal. The offset scatters about the engine's expectation as sound machines do; the drift about none, by
the shop's tolerance a year. What changes slowly so goes into the drift: what the machine was when it was sealed is not
moved by what it has become. Whatever else is wrong, it moves by at most half of what the sealed round leaves open.

1. Gelman, A. et al., Bayesian Data Analysis: linear model with known variances (from memory).
2. Huber (1964), "Robust estimation of a location parameter", Ann. Math. Stat. 35: what is off by more than so many
   of its own deviations counts less (from memory).
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import hypot, sqrt

import numpy as np
from numpy.typing import NDArray

from engine.quantities.drift import Point, drift_of, half_of, since_last_step, steps_of
from engine.quantities.quantity import SOUND_SINCE, correction_u95
from engine.quantities.residual import DIFFERENCE, Residual
from engine.quantities.table import FOLLOW_UP, Table, comparable, held_against, lasting_between
from engine.uncertainty.margin import OUT_OF_RANGE
from engine.uncertainty.trend import Trend

Array = NDArray[np.float64]

FURTHEST = 0.5  # of what the sealed round leaves open (95 %): as far as sound visits may move it
HUBER = 1.345  # deviations from which a visit counts less: 95 % efficient where all is normal [2]
ROUNDS = 8  # of weighing anew: it settles long before


@dataclass(frozen=True)
class Earlier:
    """A visit after the baseline, its last round worked out. years: since the baseline (without one, since any one
    day); sound: it was judged so; changed: something happened since the visit before: a fix, another instrument,
    another person.
    """

    years: float
    table: Table
    sound: bool
    changed: bool = False


@dataclass(frozen=True)
class Offset:
    """What a machine was off by on the day of its baseline: its value, what each reading of it counts, and its
    variance where the readings' errors are independent.
    """

    value: float
    weights: Array
    variance: float


def offset_of(years: Array, values: Array, variances: Array, machines: float, drift: float) -> Offset:
    """The posterior of the offset, the first reading being the baseline's [1]; later ones that lie apart count less
    [2].

    years [a], values [of a residual], variances: shape (n,). machines: variance of sound machines about what is
    expected; drift: variance of a year's drift.
    """
    design = np.stack([np.ones_like(years), years], axis=1)
    prior = np.diag([1.0 / machines, 1.0 / max(drift, 1e-12)])
    counted = np.ones_like(values)
    for _ in range(ROUNDS):
        precision = counted / variances
        covariance = np.linalg.inv(design.T @ (design * precision[:, None]) + prior)
        weights = covariance @ (design * precision[:, None]).T
        off = np.abs(values - design @ (weights @ values)) / np.sqrt(variances)
        counted = np.minimum(1.0, HUBER / np.maximum(off, 1e-9))
        counted[0] = 1.0
    return Offset(float(weights[0] @ values), weights[0], float(covariance[0, 0]))


def known(baseline: Table | None, earlier: Sequence[Earlier]) -> tuple[Table | None, dict[str, Trend]]:
    """(what a round of the machine is held to, how it drifts): by its baseline, if it has one, and its visits since."""
    if not earlier:
        return baseline, {}
    return learnt(baseline, earlier) if baseline else None, drifting(baseline, earlier)


def learnt(baseline: Table, earlier: Sequence[Earlier]) -> Table:
    """The baseline with what the sound visits since then have taught: each quantity's offset, and its doubt."""
    sound = [(visit, held_against(visit.table, baseline)) for visit in earlier if visit.sound]
    found = dict(baseline.quantities)
    for id_, q in baseline.quantities.items():
        rows = [
            visit for visit, held in sound
            if comparable(id_, visit.table, baseline) and held[id_].state != OUT_OF_RANGE
        ]  # fmt: skip
        if rows and (residual := _better(id_, baseline, rows)):
            found[id_] = replace(q, residual=residual, basis=q.basis | {SOUND_SINCE: float(len(rows))})
    return replace(baseline, quantities=found)


def _better(id_: str, baseline: Table, rows: Sequence[Earlier]) -> Residual | None:
    """A quantity's residual as baseline and sound visits together have it; None where they know it no better."""
    residuals = [r for table in (baseline, *(v.table for v in rows)) if (r := table[id_].residual)]
    lasting = [lasting_between(table, baseline) for table in (baseline, *(v.table for v in rows))]
    then = residuals[0]
    once = then.repeat_u95 / sqrt(2.0)  # of one visit: two scatter apart by the whole
    own = [_own_u95(r, then, once, same) for r, same in zip(residuals, lasting, strict=True)]
    level = baseline[id_].expected.value if baseline[id_].expected.known else 1.0
    half = FOLLOW_UP[id_](baseline.measured.round.rules, level)
    drift = half if then.kind.form == DIFFERENCE else half / max(abs(level), 1e-9)
    years = np.array([0.0, *(v.years for v in rows)])
    values = np.array([r.value for r in residuals])
    # An error that lasts is a part of what this machine always reads: it does not draw the offset to the curves.
    lasts = hypot(*(push for source, push in then.instruments.items() if source in lasting[0]))
    found = offset_of(years, values, np.array(own) ** 2, then.allowed_u95**2 + lasts**2, drift**2)
    pushes = _pushes(found.weights, residuals, lasting)
    pushes |= {f"{id_} of sound machines": (1.0 - float(found.weights.sum())) * then.allowed_u95,
               f"{id_} drifting": float(found.weights @ years) * drift}  # fmt: skip
    rests_on = 1.0 / float(found.weights @ found.weights)
    if hypot(once / sqrt(rests_on), *pushes.values()) >= hypot(once, *then.pushes.values()):
        return None
    furthest = FURTHEST * own[0]
    share = found.weights / found.weights.sum()
    return replace(
        then,
        value=float(np.clip(found.value, then.value - furthest, then.value + furthest)),
        pushes=pushes,
        expected=float(share @ np.array([r.expected for r in residuals])),
        weather=(float(share @ np.array([r.weather[0] for r in residuals])), then.weather[1]),
        rests_on=rests_on,
    )


def _own_u95(r: Residual, then: Residual, once: float, lasting: Sequence[str]) -> float:
    """95 % of one reading of the offset: its scatter, its correction to the weather of the baseline, and its own
    errors; what the baseline had too is none.
    """
    own = (push for source, push in r.pushes.items() if source not in lasting or source not in then.pushes)
    return hypot(once, correction_u95(r, then), *own)


def _pushes(weights: Array, residuals: Sequence[Residual], lasting: Sequence[tuple[str, ...]]) -> dict[str, float]:
    """Error source -> its push on the weighed offset: what is the same at every visit adds up, the rest in squares."""
    same: dict[str, float] = {}
    apart: dict[str, list[float]] = {}
    for weight, residual, lasts in zip(weights, residuals, lasting, strict=True):
        for source, push in residual.pushes.items():
            if source in lasts:
                same[source] = same.get(source, 0.0) + float(weight) * push
            else:
                apart.setdefault(source, []).append(float(weight) * push)
    others = {s: hypot(*p) * (1.0 if sum(p) >= 0 else -1.0) for s, p in apart.items()}
    return same | {(f"{s}, otherwise" if s in same else s): push for s, push in others.items()}


def drifting(baseline: Table | None, earlier: Sequence[Earlier]) -> dict[str, Trend]:
    """How each quantity has drifted over the earlier visits since its last step, by id; only what is more than its own
    doubt. Today is not among them: what is read today speaks for itself.
    """
    tables = [(visit, held_against(visit.table, baseline) if baseline else visit.table) for visit in earlier]
    if baseline is not None:
        tables.insert(0, (Earlier(0.0, baseline, True), held_against(baseline, baseline)))
    found = {}
    for id_ in dict.fromkeys(id_ for _, table in tables for id_ in table.quantities):
        points: list[Point] = []
        changed = False
        for visit, table in tables:
            changed = changed or visit.changed
            q = table.get(id_)
            if q is not None and half_of(q):
                points.append(Point(visit.years, q, changed))
                changed = False
        trend = drift_of(since_last_step(points, steps_of(points))) if points else None
        if trend is not None:
            found[id_] = trend
    return found
