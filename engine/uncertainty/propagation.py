"""Carrying the error sources through a computation, with covariance and each source's share.

First order: every source is pushed to its 95 % size up and down, stacked as one more batch axis, and half the
difference is what it contributes (JCGM 100:2008 GUM, 5.1, with central differences). Where the response is clearly not
straight - saturation, a coil going dry - a small seeded Latin-hypercube sample takes over for those rows (JCGM
101:2008).

What is printed as 95 %: k sigma with k = 2 where the response is straight, so that the result is normal as its sources
are; in a sampled row the distance from the value that 95 % of the draws keep within, which also holds where a result
stops at saturation.
"""

from collections.abc import Callable, Collection, Sequence
from dataclasses import dataclass
from functools import cached_property
from statistics import NormalDist

import numpy as np

from engine.uncertainty.sources import Source
from engine.units import Columns

K = 2.0  # coverage factor: stated and printed uncertainties are 95 %
SAMPLE = 400
SEED = 20260
BENT = 0.15  # curvature, as a share of the spread, beyond which the sample is used

Function = Callable[[Columns], Columns]


@dataclass(frozen=True)
class Propagated:
    """Values and their 95 % uncertainties. Arrays of shape (rows,) per name; parts of shape (names, sources, rows).

    parts[n, s] is what source s alone contributes to result n, signed, 95 %: always first order, sampled or not.
    steps: the functions carried so far; points: inputs and results at every push, (points, rows); drawn: the same in
    the sampled rows.
    """

    names: tuple[str, ...]
    sources: tuple[Source, ...]
    values: dict[str, np.ndarray]
    u95: dict[str, np.ndarray]
    parts: np.ndarray
    sampled: np.ndarray
    covariances: np.ndarray  # (rows, names, names), 95 % scale: its diagonal is u95 squared
    inputs: dict[str, np.ndarray]
    steps: tuple[Function, ...]
    points: Columns
    drawn: Columns

    def covariance(self, first: str, second: str) -> np.ndarray:
        """Covariance of two results on the 95 % scale (k squared times the variance), shape (rows,)."""
        return self.covariances[:, self.names.index(first), self.names.index(second)]

    def shares(self, name: str, row: int = 0, most: int | None = None) -> dict[str, float]:
        """Each source's share of a result's variance, largest first, `most` of them; first order even where the row was
        sampled.
        """
        order, values = self._ordered
        at = self.names.index(name)
        return self._by_id(order[at, :most, row].tolist(), values[at, :most, row].tolist())

    def all_shares(self, row: int, most: int) -> dict[str, dict[str, float]]:
        """The largest `most` shares of every result, by name, to a thousandth; smaller ones are left out."""
        order, values = self._ordered
        largest, shares = order[:, :most, row].tolist(), values[:, :most, row].round(3).tolist()
        return {name: self._by_id(*of) for name, *of in zip(self.names, largest, shares, strict=True)}

    @cached_property
    def _ordered(self) -> tuple[np.ndarray, np.ndarray]:
        """The sources of each result, the largest first, and their shares: (names, sources, rows)."""
        squares = self.parts**2
        totals, order = squares.sum(axis=1), np.argsort(-squares, axis=1)
        shares = np.take_along_axis(squares, order, axis=1) / np.where(totals > 0, totals, np.inf)[:, None, :]
        return order, shares

    def _by_id(self, order: Sequence[int], shares: Sequence[float]) -> dict[str, float]:
        return {self.sources[i].id: share for i, share in zip(order, shares, strict=True) if share > 0}

    def pushes(self, name: str, row: int = 0) -> dict[str, float]:
        """What each error source moves a result by, signed, 95 %, in the result's unit; without those that do not."""
        moved = self.parts[self.names.index(name), :, row].tolist()
        return {source.id: push for source, push in zip(self.sources, moved, strict=True) if push}


def propagate(
    function: Function, inputs: dict[str, np.ndarray], sources: Sequence[Source], sample: bool | None = None
) -> Propagated:
    """Evaluate `function` at the inputs (arrays of shape (rows,)) and carry every source through it.

    The function takes and returns dicts of arrays of shape (points, rows). sample: None decides per row, True or False
    forces it (for tests).
    """
    count = len(sources)
    signs = np.vstack([np.zeros(count), np.eye(count), -np.eye(count)])
    return _carried(function, inputs, tuple(sources), (), {}, _moved(inputs, sources, signs), None, sample)


def carry_on(
    before: Propagated, function: Function, sample: bool | None = None, shown: Collection[str] = ()
) -> Propagated:
    """Carry the same error sources on through another function, which takes the inputs and every result before it.

    What is measured and what is expected of it then share their errors, so that a difference of the two carries the
    covariance. shown: results that are only shown: that they bend is no reason for a sample of all.
    """
    carried = (before.inputs, before.sources, before.steps, before.values, before.points, before)
    return _carried(function, *carried, sample, shown)


def _carried(
    function: Function,
    inputs: dict[str, np.ndarray],
    sources: tuple[Source, ...],
    steps: tuple[Function, ...],
    values: dict[str, np.ndarray],
    points: Columns,
    before: Propagated | None,
    sample: bool | None,
    shown: Collection[str] = (),
) -> Propagated:
    rows, count = len(next(iter(inputs.values()))), len(sources)
    results = function(points)
    earlier = tuple(values)
    names = (*earlier, *results)
    out = np.stack([results[name] for name in results])  # (new names, points, rows)
    parts = 0.5 * (out[:, 1 : count + 1] - out[:, count + 1 :])
    deciding = [at for at, name in enumerate(results) if name not in shown]
    bent = _bent(out[deciding], parts[deciding]) if sample is None else np.full(rows, sample)
    if before is not None:
        parts, bent = np.concatenate([before.parts, parts]), bent | before.sampled
    points, steps = {**points, **results}, (*steps, function)
    drawn: Columns = {}
    covariances = _products(parts)
    if bent.any():
        chosen = np.flatnonzero(bent)
        drawn = _drawn_again(before, bent, function, inputs, sources, steps, chosen)
        sample_of_each = np.stack([drawn[name] for name in names])
        covariances[chosen] = _sample_covariances(sample_of_each)
    values = {**values, **{name: out[i, 0] for i, name in enumerate(results)}}
    within = np.sqrt(covariances.diagonal(axis1=1, axis2=2).T)  # (names, rows)
    if drawn:
        within[:, chosen] = _kept_within(sample_of_each, np.stack([values[name][chosen] for name in names]))
    u95 = dict(zip(names, within, strict=True))
    return Propagated(names, sources, values, u95, parts, bent, covariances, inputs, steps, points, drawn)


def _drawn_again(
    before: Propagated | None,
    bent: np.ndarray,
    function: Function,
    inputs: dict[str, np.ndarray],
    sources: tuple[Source, ...],
    steps: tuple[Function, ...],
    chosen: np.ndarray,
) -> Columns:
    """The sample of the chosen rows with every step's results: only the new step, where the same rows were drawn
    before.
    """
    if before is not None and np.array_equal(bent, before.sampled):
        return {**before.drawn, **function(before.drawn)}
    drawn: Columns = _draw({name: array[chosen] for name, array in inputs.items()}, _rows(sources, chosen))
    for step in steps:
        drawn = {**drawn, **step(drawn)}
    return drawn


def _moved(inputs: dict[str, np.ndarray], sources: Sequence[Source], scale: np.ndarray) -> dict[str, np.ndarray]:
    """Inputs pushed by scale (points, sources), in units of the 95 % size: dict of (points, rows)."""
    moved = {name: np.repeat(array[None, :], len(scale), axis=0) for name, array in inputs.items()}
    for column, source in enumerate(sources):
        touched = scale[:, column] != 0
        for name, push in source.pushes:
            moved[name][touched] += scale[touched, column][:, None] * push
    return moved


def _bent(out: np.ndarray, parts: np.ndarray) -> np.ndarray:
    """Rows (of out, (names, points, rows)) in which some result bends: |f(+) + f(-) - 2 f(0)| / 2 against its spread.

    A point without an answer beside one that has an answer is a kink too.
    """
    count = parts.shape[1]
    with np.errstate(invalid="ignore"):
        curvature = np.abs(out[:, 1 : count + 1] + out[:, count + 1 :] - 2 * out[:, :1]).max(axis=1, initial=0) / 2
        bends = curvature > BENT * np.sqrt((parts**2).sum(axis=1))
    breaks = np.isnan(out[:, 1:]).any(axis=1) & ~np.isnan(out[:, 0])
    return (bends | breaks).any(axis=0)


def _draw(inputs: dict[str, np.ndarray], sources: Sequence[Source]) -> dict[str, np.ndarray]:
    """Inputs of a seeded Latin-hypercube sample, (SAMPLE, rows)."""
    random = np.random.default_rng(SEED)
    quantile = NormalDist().inv_cdf
    strata = np.array([quantile((i + 0.5) / SAMPLE) for i in range(SAMPLE)])
    strata /= strata.std()
    draws = np.column_stack([random.permutation(strata) for _ in sources]) if sources else np.zeros((SAMPLE, 0))
    return _moved(inputs, sources, draws / K)


def _products(columns: np.ndarray) -> np.ndarray:
    """Each pair of names, multiplied and summed: (names, points, rows) -> (rows, names, names)."""
    by_row = columns.transpose(2, 0, 1)
    return by_row @ by_row.transpose(0, 2, 1)


def _sample_covariances(stacked: np.ndarray) -> np.ndarray:
    """(names, draws, rows) -> (rows, names, names), 95 % scale."""
    have = ~np.isnan(stacked)
    counts = np.maximum(have.sum(axis=1, keepdims=True), 1)
    filled = np.where(have, stacked, 0.0)
    with np.errstate(invalid="ignore"):  # a draw far from any air may be infinite: its covariance is none
        centred = np.where(have, filled - filled.sum(axis=1, keepdims=True) / counts, 0.0)
    together = np.maximum(_products(have.astype(float)), 1.0) if not have.all() else stacked.shape[1]
    covariances = K**2 * _products(centred) / together
    none = ~have.any(axis=1)  # (names, rows): no answer at all
    covariances[none.T[:, :, None] | none.T[:, None, :]] = np.nan
    return covariances


def _kept_within(drawn: np.ndarray, values: np.ndarray) -> np.ndarray:
    """The distance from the values (names, rows) that 95 % of the draws (names, draws, rows) keep within; NaN where
    there is no value.
    """
    apart = np.sort(np.abs(drawn - values[:, None]), axis=1)  # NaN last: draws without an answer are not counted
    counted = (~np.isnan(apart)).sum(axis=1, keepdims=True)
    at = np.clip(np.ceil(0.95 * counted).astype(int) - 1, 0, apart.shape[1] - 1)
    return np.where(counted > 0, np.take_along_axis(apart, at, axis=1), np.nan)[:, 0]


def _rows(sources: Sequence[Source], chosen: np.ndarray) -> list[Source]:
    """The sources as they are in the chosen rows (pushes may be one number or one per row)."""
    return [
        Source(
            s.id, s.label, tuple((name, np.asarray(push)[chosen] if np.ndim(push) else push) for name, push in s.pushes)
        )
        for s in sources
    ]
