"""Learning what sound machines of a kind do: partial pooling from all machines over class and line to the model.

For each quantity of a setting, in its residual's terms, a sound machine lies at features x coefficients + its
class's, its line's and its model's own part + its own scatter. All of it is normal with the engine's own expectation
and width as the prior, so that few visits move little; the scatter has the engine's width as a prior worth so many
machines. Means by alternating over the levels until they settle (the exact posterior mean); their variances level by
level, with machines of one group counted as the group they are. Deterministic, closed form at each step.

Gelman, A. et al., Bayesian Data Analysis, chapters on hierarchical linear models (from memory).
"""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import asdict, dataclass, replace
from math import sqrt
from typing import Any

import numpy as np

from engine.diagnosis.causes import Setting, setting_of
from engine.kinds.features import CLASS, COLUMNS, LEVELS, LINE, MODEL, Place, place_of
from engine.kinds.kind import SCATTER_KNOWN_BY, Group, Kind, Learnt, OfSetting, is_of_kind
from engine.kinds.suspicion import suspicions_of
from engine.quantities.residual import OF_THE_MACHINE
from engine.quantities.table import Table
from engine.uncertainty.propagation import K

# Of the variance that the engine allows sound machines about its expectation, how it may be made up (working figures):
# all of them off alike; each of the other features; a class, a line, a model by itself; single machines.
SHARE_ALL, SHARE_FEATURE, SHARE_SINGLE = 0.22, 0.05, 0.45
SHARE_LEVEL = {CLASS: 0.06, LINE: 0.18, MODEL: 0.04}
GROUPS_WORTH = 4.0  # groups that the prior of how far groups lie apart is worth
TOGETHER_WORTH = 30.0  # that the prior of how quantities go together is worth
# A visit that was only judged sound counts half: some of what looks sound is not, and what does not look so was left
# out, which makes the rest look too much alike (a normal distribution cut at 1.5 of its own widths loses a quarter of
# its variance).
UNCONFIRMED_COUNTS, CUT_VARIANCE = 0.5, 1.35
ROUNDS, SETTLED = 40, 3e-3  # at most; it ends once nothing moves by this share of what the engine allows
NOBODY = -1  # the code of a machine whose group is not known


@dataclass(frozen=True)
class Told:
    """What a sound visit tells of one quantity, in its residual's terms: the value; the variance of its instruments;
    the variance that the engine allows machines; what these differ in by name (95 %), and how they scatter beside that.
    """

    value: float
    instruments: float
    allowed: float
    differs_in: dict[str, float]
    model_u95: float


@dataclass(frozen=True)
class Lesson:
    """What a visit to a sound machine teaches, in plain numbers, so that it can be kept. system: which machine, so that
    each counts once; confirmed: by gauges, by its outcome or as a sealed baseline.
    """

    setting: Setting
    place: Place
    told: dict[str, Told]
    system: str
    confirmed: bool = False


def lesson_of(table: Table, system: str, confirmed: bool = False) -> Lesson:
    """What a sound round teaches."""
    told = {
        id_: Told(
            r.value,
            sum(p * p for s, p in r.pushes.items() if s not in OF_THE_MACHINE) / K**2,
            (r.allowed_u95 / K) ** 2,
            dict(r.differs_in),
            r.model_u95,
        )
        for id_, q in table.quantities.items()
        if (r := q.residual) is not None and is_of_kind(q)
    }
    return Lesson(setting_of(table.measured.round), place_of(table), told, system, confirmed)


@dataclass(frozen=True)
class _Rows:
    """One quantity's data: features (n, 4), values (n,), weights (n,), instruments' variance (n,), the variance the
    engine allows (n,); codes: level -> each machine's group (n,), as its place among names, NOBODY where it is not
    known.
    """

    x: np.ndarray
    value: np.ndarray
    weight: np.ndarray
    instruments: np.ndarray
    allowed: np.ndarray
    codes: dict[str, np.ndarray]
    names: dict[str, list[str]]


def learn(lessons: Sequence[Lesson]) -> Kind:
    """What these sound visits say of their kinds. Each machine counts once, by its first confirmed visit, else by its
    first: its own drift teaches nothing.
    """
    once: dict[str, Lesson] = {}
    for lesson in lessons:
        had = once.get(lesson.system)
        if had is None or (lesson.confirmed and not had.confirmed):
            once[lesson.system] = lesson
    by_setting: dict[str, list[Lesson]] = defaultdict(list)
    for lesson in once.values():
        by_setting[lesson.place.setting].append(lesson)
    settings = {setting: _of_setting(rows) for setting, rows in sorted(by_setting.items())}
    return Kind(settings, len(once), sum(lesson.confirmed for lesson in once.values()))


def _of_setting(rows: list[Lesson]) -> OfSetting:
    weights, read = np.array([_weight(row) for row in rows]), _read(rows)
    x = np.array([row.place.features for row in rows])
    names = {level: sorted({row.place.groups[level] for row in rows} - {""}) for level in LEVELS}
    codes = {level: _codes([row.place.groups[level] for row in rows], names[level]) for level in LEVELS}
    cut = np.where(weights == 1.0, 1.0, CUT_VARIANCE)
    learnt, scatter = {}, np.full((len(read), len(rows)), np.nan)
    for k, (id_, found) in enumerate(read.items()):
        at, (value, instruments, allowed) = np.array([i for i, *_ in found]), np.array([r for _, *r in found]).T
        of = {level: code[at] for level, code in codes.items()}
        data = _Rows(x[at], value, (weights / cut)[at], instruments, allowed, of, names)
        learnt[id_], scatter[k, at] = _learnt(data)
    correlation = _together(tuple(read), rows, scatter, weights)
    known = OfSetting(learnt, tuple(read), tuple(map(tuple, correlation.tolist())))
    places = [(row.place, row.confirmed) for row in rows]
    return replace(known, suspicions=suspicions_of(known, rows[0].setting, places))


def _read(rows: list[Lesson]) -> dict[str, list[tuple[int, float, float, float]]]:
    """Quantity -> (machine, residual, variance of its instruments, variance the engine allows machines), by machine."""
    found: dict[str, list[tuple[int, float, float, float]]] = defaultdict(list)
    for i, row in enumerate(rows):
        for id_, told in row.told.items():
            found[id_].append((i, told.value, told.instruments, told.allowed))
    return found


def _codes(groups: list[str], names: list[str]) -> np.ndarray:
    place_in = {name: n for n, name in enumerate(names)}
    return np.array([place_in.get(group, NOBODY) for group in groups])


def _weight(lesson: Lesson) -> float:
    return 1.0 if lesson.confirmed else UNCONFIRMED_COUNTS


def _learnt(data: _Rows) -> tuple[Learnt, np.ndarray]:
    """One quantity, and each machine's own scatter in its standard deviations (n,)."""
    allowed, n = float(np.mean(data.allowed)), len(data.value)
    prior = allowed * np.array([SHARE_ALL] + [SHARE_FEATURE] * (len(COLUMNS) - 1))
    single, coefficients = SHARE_SINGLE * allowed, np.zeros(len(COLUMNS))
    parts = {level: _Parts(np.zeros(len(data.names[level])), np.zeros(len(data.names[level]))) for level in LEVELS}
    between = {level: SHARE_LEVEL[level] * allowed for level in LEVELS}
    for _ in range(ROUNDS):
        was = np.append(coefficients, sqrt(single))
        precision = data.weight / (single + data.instruments)
        own = sum((parts[level].of(data.codes[level]) for level in LEVELS), np.zeros(n))
        information = data.x.T @ (data.x * precision[:, None]) + np.diag(1.0 / prior)
        coefficients = np.linalg.solve(information, data.x.T @ (precision * (data.value - own)))
        for level in LEVELS:
            before = parts[level].of(data.codes[level])
            rest = data.value - data.x @ coefficients - own + before
            parts[level] = _parts(rest, precision, data.codes[level], len(data.names[level]), between[level])
            between[level] = _between(parts[level], SHARE_LEVEL[level] * allowed)
            own = own - before + parts[level].of(data.codes[level])
        left = data.value - data.x @ coefficients - own
        lost = float(np.sum(precision * _leverage(data.x, information)))  # what fitting took out of the scatter
        squares = max(float(np.sum(data.weight * (left**2 - data.instruments))), 0.0) + lost * single
        single = (SCATTER_KNOWN_BY * SHARE_SINGLE * allowed + squares) / (SCATTER_KNOWN_BY + float(np.sum(data.weight)))
        if np.all(np.abs(np.append(coefficients, sqrt(single)) - was) < SETTLED * sqrt(allowed)):
            break
    covariance = np.linalg.inv(_information(data, single, sum(between.values())) + np.diag(1.0 / prior))
    learnt = Learnt(
        float(np.sum(data.weight)),
        tuple(coefficients.tolist()),
        tuple(map(tuple, covariance.tolist())),
        K * sqrt(single),
        between,
        {level: _named(parts[level], data, level) for level in LEVELS},
        K * sqrt(allowed),
    )
    return learnt, left / np.sqrt(single + data.instruments)


def _leverage(x: np.ndarray, information: np.ndarray) -> np.ndarray:
    """(n,): how much of its own deviation each machine takes with it into the fit."""
    return np.asarray(np.sum((x @ np.linalg.inv(information)) * x, axis=1))


@dataclass(frozen=True)
class _Parts:
    """What each group of a level is off by, and its variance (groups,)."""

    offset: np.ndarray
    variance: np.ndarray

    def of(self, codes: np.ndarray) -> np.ndarray:
        """(n,): each machine's group's part; none where nobody knows its group."""
        return np.append(self.offset, 0.0)[codes]


def _parts(rest: np.ndarray, precision: np.ndarray, codes: np.ndarray, groups: int, prior: float) -> _Parts:
    """Each group's part of what is left: its mean, drawn towards none by how few machines speak for it."""
    known = codes != NOBODY
    weight = np.bincount(codes[known], precision[known], groups)
    total = np.bincount(codes[known], (precision * rest)[known], groups)
    return _Parts(total / (weight + 1.0 / prior), 1.0 / (weight + 1.0 / prior))


def _named(parts: _Parts, data: _Rows, level: str) -> dict[str, Group]:
    codes = data.codes[level]
    count = np.bincount(codes[codes != NOBODY], minlength=len(data.names[level]))
    return {
        name: Group(float(n), float(offset), float(variance), _within(data, level, name))
        for name, n, offset, variance in zip(data.names[level], count, parts.offset, parts.variance, strict=True)
        if n
    }


def _within(data: _Rows, level: str, name: str) -> dict[str, str]:
    """The wider groups that most machines of a group belong to, by level."""
    its = data.codes[level] == data.names[level].index(name)
    found = {}
    for wider in LEVELS[: LEVELS.index(level)]:
        codes = data.codes[wider][its]
        codes = codes[codes != NOBODY]
        if len(codes):
            found[wider] = data.names[wider][int(np.bincount(codes).argmax())]
    return found


def _between(parts: _Parts, prior: float) -> float:
    """Variance between groups of a level: the prior, moved by how far those that were met lie apart."""
    met = float(np.sum(parts.offset**2 + parts.variance))
    return (GROUPS_WORTH * prior + met) / (GROUPS_WORTH + len(parts.offset))


def _information(data: _Rows, single: float, together: float) -> np.ndarray:
    """Of the features, with machines of one line counted as one draw of it: many of the same say little of others."""
    codes = data.codes[LINE]
    known = codes != NOBODY
    alike = np.ones(len(codes))
    alike[known] = np.bincount(codes[known], data.weight[known], len(data.names[LINE]))[codes[known]]
    precision = data.weight / (single + data.instruments + together * alike)
    return np.asarray(data.x.T @ (data.x * precision[:, None]))


def _together(ids: tuple[str, ...], rows: list[Lesson], scatter: np.ndarray, weights: np.ndarray) -> np.ndarray:
    """Correlation of the quantities in sound machines (n, n): the engine's own, by what it says they differ in, moved
    by what was seen.
    """
    prior = _engines_own(ids, rows)
    z = np.clip(scatter, -3.0, 3.0)
    both = ~np.isnan(z)
    z = np.where(both, z, 0.0) * np.sqrt(weights)
    count = (both * weights) @ both.T
    moments = z @ z.T + TOGETHER_WORTH * prior
    size = np.sqrt(np.diag(moments) / np.maximum(np.diag(count) + TOGETHER_WORTH, 1e-9))
    found = moments / (count + TOGETHER_WORTH) / np.outer(size, size)
    return _possible(found)


def _engines_own(ids: tuple[str, ...], rows: list[Lesson]) -> np.ndarray:
    total, of = np.zeros((len(ids), len(ids))), np.zeros((len(ids), len(ids)))
    for row in rows[:200]:
        there = {id_: row.told[id_] for id_ in ids if id_ in row.told}
        at = [ids.index(id_) for id_ in there]
        sources = sorted({s for r in there.values() for s in r.differs_in})
        moves = np.array([[r.differs_in.get(s, 0.0) for s in sources] for r in there.values()]).reshape(len(at), -1)
        both = moves @ moves.T + np.diag([r.model_u95**2 for r in there.values()])
        size = np.sqrt(np.maximum(np.diag(both), 1e-12))
        total[np.ix_(at, at)] += both / np.outer(size, size)
        of[np.ix_(at, at)] += 1.0
    found = np.where(of > 0, total / np.maximum(of, 1.0), 0.0)
    np.fill_diagonal(found, 1.0)
    return found


def _possible(correlation: np.ndarray) -> np.ndarray:
    """The nearest that can be: no direction of negative variance, ones on the diagonal."""
    values, vectors = np.linalg.eigh((correlation + correlation.T) / 2)
    mended = vectors @ np.diag(np.maximum(values, 1e-4)) @ vectors.T
    size = np.sqrt(np.diag(mended))
    return np.asarray(mended / np.outer(size, size))


def written(lesson: Lesson) -> dict[str, Any]:
    """A lesson as JSON takes it."""
    of = asdict(lesson)
    return of | {"place": of["place"] | {"features": lesson.place.features.tolist()}}


def read(raw: dict[str, Any]) -> Lesson:
    """A lesson as it was written."""
    place = Place(raw["place"]["setting"], np.array(raw["place"]["features"]), raw["place"]["groups"])
    told = {id_: Told(**one) for id_, one in raw["told"].items()}
    return Lesson(Setting(**raw["setting"]), place, told, raw["system"], raw["confirmed"])
