"""How likely each cause is: Bayes' rule over every cause at every level, a sound machine and a bad probe among them.

Under a hypothesis the residuals scatter normally about its signs, with the covariance of the readings and the model,
and with what the signs may themselves be off. What was seen multiplies in as a ratio. Everything here is numbers; the
words are in engine.diagnosis.evidence.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cache, cached_property
from math import erf, hypot, sqrt
from math import log as ln
from types import MappingProxyType

import numpy as np

from engine.diagnosis.cause import GROUPS, HEALTHY, IN_THE_CIRCUIT, JOINT, PLATE, PROBE, Cause
from engine.diagnosis.causes import TOGETHER_SHARE, Setting, causes_in, group_of, together_in
from engine.diagnosis.observation_likelihoods import DRIFT_RATIO, drifts_explained, log_ratios
from engine.quantities.residual import KINDS, Residual, stacked
from engine.readings.round import ORIFICE, TXV
from engine.uncertainty.margin import SURE_OUTSIDE
from engine.uncertainty.propagation import K

SIGN_DOUBT = 0.35  # of a shift, 95 %: signs are good to about a third
WIDENING = (
    1.15  # of every standard deviation: what the model leaves out. The one figure set on simulated tuning visits.
)
NO_DRIFTS: Mapping[str, int] = MappingProxyType({})
NEVER = 1e-200  # what cannot be stays out however badly the rest fits
# How often an instrument is worse than its accuracy says, or not where it should be, without anybody knowing, and how
# many times worse: what is left of a cause whose reading breaks a bound of physics (working figures).
SLIP, SLIP_TIMES = 0.02, 4.0
LEVELS_OF_A_PAIR = 2  # moderate and severe stand for a pair


@dataclass(frozen=True, eq=False)  # made once for its kinds and setting, so that what rests on it can be cached by it
class Hypotheses:
    """Every hypothesis about residuals of these kinds in a setting, a row each: what follows from the signs alone.

    readings: those that a probe may have wrong.
    causes, levels: by row. shifts, squares: the signs and the squares of their doubt (rows, kinds). airflow: ln of the
    airflow's shift (rows,). passes: 1 where the cause may bring a reading past its bound (rows, kinds).
    probes: error of each reading [°F] (rows, readings). prior: (rows,), adding up to 1.
    """

    kinds: tuple[str, ...]
    setting: Setting
    readings: tuple[str, ...]
    causes: tuple[tuple[str, ...], ...]
    levels: tuple[int, ...]
    shifts: np.ndarray
    squares: np.ndarray
    airflow: np.ndarray
    passes: np.ndarray
    probes: np.ndarray
    prior: np.ndarray
    members: np.ndarray  # (rows, causes): 1 where a cause is in it
    grouped: np.ndarray  # (rows, groups): 1 where one of a group is in it

    @cached_property
    def single(self) -> np.ndarray:
        """(rows,): whether it is one cause by itself."""
        return np.array([len(causes) == 1 for causes in self.causes])

    @cached_property
    def faulty(self) -> np.ndarray:
        """(rows,): whether anything is wrong."""
        return np.array([causes != (HEALTHY,) for causes in self.causes])

    def levels_of(self, cause: str) -> np.ndarray:
        """The rows of a cause by itself, one for each of its levels."""
        return np.flatnonzero(self.single & (self.members[:, list(causes_in(self.setting)).index(cause)] > 0))


@dataclass(frozen=True)
class Ranked:
    """What the residuals and looks make of the causes. by_cause and by_group: probability, most likely first.

    hypotheses, weights: every hypothesis with its own; shifts and doubts: of the residuals under each; possible: ln of
    how likely each lies on the possible side of its bounds; shapes (rows, residuals).
    """

    by_cause: dict[str, float]
    by_group: dict[str, float]
    hypotheses: Hypotheses
    weights: np.ndarray
    shifts: np.ndarray
    doubts: np.ndarray
    possible: np.ndarray

    @property
    def kinds(self) -> tuple[str, ...]:
        """The indicators it rests on."""
        return self.hypotheses.kinds

    @property
    def healthy(self) -> float:
        """How likely it is that nothing is wrong that shows."""
        return self.by_cause[HEALTHY]


@cache
def hypotheses_for(kinds: tuple[str, ...], setting: Setting) -> Hypotheses:
    """Every hypothesis about residuals of these kinds. A metering device 'unknown' takes both, half each."""
    known = causes_in(setting)
    readings = tuple(dict.fromkeys(cause.probe[0] for cause in known.values() if cause.probe))
    devices = (setting.device,) if setting.device in (TXV, ORIFICE) else (TXV, ORIFICE)
    rows: list[_Row] = []
    for device in devices:
        one = {
            c: [_row(cause, n, kinds, (device, setting.motor, setting.flow_by), readings) for n in range(cause.levels)]
            for c, cause in known.items()
        }
        for c, cause in known.items():
            rows += [replace(row, prior=cause.prior / cause.levels) for row in one[c]]
        for first, second in together_in(setting):
            rarer = TOGETHER_SHARE * min(known[first].prior, known[second].prior) / LEVELS_OF_A_PAIR
            pair = zip(_moderate_and_severe(one[first]), _moderate_and_severe(one[second]), strict=True)
            rows += [_both(a, b, rarer) for a, b in pair]
    weight = np.array([row.prior for row in rows])
    groups = {c: group_of(cause, kinds) for c, cause in known.items()}
    return Hypotheses(
        kinds,
        setting,
        readings,
        tuple(row.causes for row in rows),
        tuple(row.level for row in rows),
        shifts=np.array([row.shifts for row in rows]),
        squares=np.array([row.squares for row in rows]),
        airflow=np.array([row.airflow for row in rows]),
        passes=np.array([[any(kind in known[c].passes for c in row.causes) for kind in kinds] for row in rows], bool),
        probes=np.array([row.probes for row in rows]),
        prior=weight / weight.sum(),
        members=np.array([[c in row.causes for c in known] for row in rows], float),
        grouped=np.array([[any(groups[c] == group for c in row.causes) for group in GROUPS] for row in rows], float),
    )


@dataclass(frozen=True)
class _Row:
    """One hypothesis, as Hypotheses holds them in columns."""

    causes: tuple[str, ...]
    level: int
    shifts: np.ndarray
    squares: np.ndarray
    airflow: float
    probes: np.ndarray
    prior: float = 0.0


def _moderate_and_severe(levels: list[_Row]) -> list[_Row]:
    """The middle two of a cause's levels."""
    middle = (len(levels) - 1) // 2
    return levels[middle : middle + LEVELS_OF_A_PAIR]


def _both(one: _Row, other: _Row, prior: float) -> _Row:
    """Two causes at once: their shifts and doubts add."""
    return _Row(
        (*one.causes, *other.causes),
        one.level,
        one.shifts + other.shifts,
        one.squares + other.squares,
        one.airflow + other.airflow,
        one.probes + other.probes,
        prior,
    )


def _row(cause: Cause, level: int, kinds: tuple[str, ...], facts: tuple[str, ...], readings: tuple[str, ...]) -> _Row:
    """A cause at a level, on a machine of which these facts are known."""
    signs, sizes = cause.signs_on(*facts), cause.sizes_on(*facts)
    shift, size = (np.array([of[kind][level] if kind in of else 0.0 for kind in kinds]) for of in (signs, sizes))
    floor = np.array([KINDS[kind].floor for kind in kinds])
    square = np.where(size != 0.0, (SIGN_DOUBT * size) ** 2 + floor**2, 0.0) / K**2
    probe = np.array(
        [cause.probe[1][level] if cause.probe and cause.probe[0] == reading else 0.0 for reading in readings]
    )
    return _Row((cause.id,), level, shift, square, signs["airflow"][level] if "airflow" in signs else 0.0, probe)


def rank(
    residuals: Sequence[Residual],
    seen: dict[str, str],
    setting: Setting,
    excluded: tuple[str, ...] = (),
    told: str = "",
    drifts: Mapping[str, int] = NO_DRIFTS,
) -> Ranked:
    """Rank every cause by residuals and looks. excluded: causes that cannot be, such as another machine's plate when
    the baseline has the same.

    told: a group that a rule finds already, such as airflow measured under the shop's limit: what does not explain it
    is as rare as a wrong finding.
    drifts: quantity -> -1 or +1, what earlier visits tell that drifts.
    """
    of, known = hypotheses_for(tuple(r.kind.id for r in residuals), setting), tuple(causes_in(setting))
    possible = np.array([NEVER if c in excluded else 1.0 for c in known])
    log = np.log(of.prior) + of.members @ np.log(possible) + log_ratios(seen, known, of.members)
    if drifts:
        log = log + ln(DRIFT_RATIO) * (of.members * _drifts_explained(setting, drifts)).max(axis=1)
    if told:
        log = log + np.log(np.where(_explains(of, told), 1.0, 1 - SURE_OUTSIDE))
    shifts, doubts = shifts_of(of, residuals)
    possible_side = _log_possible(of, residuals)
    if residuals:
        value, covariance = stacked(residuals)
        log = log + log_likelihoods(value, covariance, shifts, doubts, _same(residuals)) + possible_side.sum(axis=1)
    weights = np.exp(log - log.max())
    weights /= weights.sum()
    by_cause = dict(zip(known, (weights @ of.members).tolist(), strict=True))
    by_group = dict(zip(GROUPS, (weights @ of.grouped).tolist(), strict=True))
    return Ranked(_sorted(by_cause), _sorted(by_group), of, weights, shifts, doubts, possible_side)


def _drifts_explained(setting: Setting, drifts: Mapping[str, int]) -> np.ndarray:
    """(causes,): share of the drifts that each explains."""
    known = causes_in(setting).values()
    return np.array([len(drifts_explained(cause, setting.facts, drifts)) / len(drifts) for cause in known])


def within(ranked: Ranked, *groups: str) -> Ranked:
    """The hypotheses of these groups only, for what tells their causes apart."""
    return _only(ranked, np.any([of_group(ranked.hypotheses, group) for group in groups], axis=0))


def of_group(of: Hypotheses, group: str) -> np.ndarray:
    """(rows,): whether a hypothesis has a cause of the group in it, or of one of the groups that are told together."""
    columns = [list(GROUPS).index(one) for one in JOINT.get(group, (group,))]
    return np.asarray(of.grouped[:, columns].any(axis=1))


def in_circuit(ranked: Ranked) -> float:
    """How likely a fault of the refrigerant circuit is, whichever, alone or beside another."""
    columns = [i for i, group in enumerate(GROUPS) if group in IN_THE_CIRCUIT]
    return float(ranked.weights @ ranked.hypotheses.grouped[:, columns].any(axis=1))


SEEN_FROM = 1.0  # shift of a residual over its scatter in sound machines (95 %) from which the readings see a cause


def healthy_of_what_shows(ranked: Ranked, residuals: Sequence[Residual]) -> float:
    """How likely nothing is wrong among what these readings can see: what would move none of them is left out."""
    scatter = np.array([hypot(r.sound_u95, *r.pushes.values()) for r in residuals])
    seen = (np.abs(ranked.shifts) >= SEEN_FROM * scatter).any(axis=1)
    healthy = ranked.hypotheses.members[:, list(causes_in(ranked.hypotheses.setting)).index(HEALTHY)] > 0
    of_healthy = float(ranked.weights[healthy].sum())
    return of_healthy / max(of_healthy + float(ranked.weights[seen & ~healthy].sum()), 1e-12)


# Of a reading's difference: what a cause's own shift must be of it, with its sign, to be what it comes from.
EXPLAINS = 1 / 3


def explaining(ranked: Ranked, kind: str, value: float) -> Ranked:
    """Only the hypotheses that explain a residual that is out of range; all of them where none does."""
    if kind not in ranked.kinds:
        return ranked
    return _only(ranked, ranked.shifts[:, ranked.kinds.index(kind)] * np.sign(value) >= EXPLAINS * abs(value))


def and_sound(among: Ranked, ranked: Ranked) -> Ranked:
    """The hypotheses that are left among all, and that nothing is wrong."""
    return _only(ranked, (among.weights > 0) | of_group(ranked.hypotheses, HEALTHY))


def _only(ranked: Ranked, kept: np.ndarray) -> Ranked:
    weights = ranked.weights * kept
    return replace(ranked, weights=weights / weights.sum()) if weights.sum() > 0 else ranked


def _explains(of: Hypotheses, told: str) -> np.ndarray:
    """(rows,): whether a hypothesis has the group in it; another machine's plate, or a wrong probe, may explain
    anything.
    """
    return of_group(of, told) | of_group(of, PLATE) | of_group(of, PROBE)


def _same(residuals: Sequence[Residual]) -> np.ndarray | None:
    kinds = [r.kind.id for r in residuals]
    return None if len(set(kinds)) == len(kinds) else np.array([[float(a == b) for b in kinds] for a in kinds])


def shifts_of(of: Hypotheses, residuals: Sequence[Residual]) -> tuple[np.ndarray, np.ndarray]:
    """(shifts, doubts) of these residuals under each hypothesis. A guessed airflow, or a probe, that is wrong shows in
    all that rests on it.
    """
    by_airflow = np.array([r.slopes.get("airflow", 0.0) for r in residuals])
    by_probe = np.array([[r.slopes.get(reading, 0.0) for r in residuals] for reading in of.readings])
    moved = of.probes @ by_probe - np.outer(of.airflow, by_airflow)
    lowest = np.array([-np.inf if r.lowest is None else r.lowest for r in residuals])
    highest = np.array([np.inf if r.highest is None else r.highest for r in residuals])
    bounded = np.minimum(np.maximum(of.shifts + moved, lowest), highest)
    shifts = np.where(of.passes, of.shifts + moved, bounded)
    floor = np.array([r.kind.floor for r in residuals])
    squares = of.squares + np.where(np.abs(moved) > 1e-12, (SIGN_DOUBT * moved) ** 2 + floor**2, 0.0) / K**2
    return shifts, np.sqrt(squares)


FAR = 8.0  # standard deviations inside its bound from which a reading says nothing about it


def _log_possible(of: Hypotheses, residuals: Sequence[Residual]) -> np.ndarray:
    """(rows, residuals): ln of how likely each reading is on the possible side of its bounds, once the error that a
    hypothesis gives its probe is taken off: no cause of the machine, however large, has a liquid line under the outdoor
    air.
    """
    found = np.zeros((len(of.prior), len(residuals)))
    for i, r in enumerate(residuals):
        read = hypot(*r.instruments.values()) / K
        for bound, inward in ((r.lowest, 1.0), (r.highest, -1.0)):
            if bound is None or inward * (r.value - bound) > FAR * read:
                continue
            moved = of.probes @ np.array([r.slopes.get(reading, 0.0) for reading in of.readings])
            spread = np.hypot(read, SIGN_DOUBT * moved / K)
            within = inward * (r.value - moved - bound) / np.maximum(spread, 1e-9)
            inside = (1.0 - SLIP) * _normal(within) + SLIP * _normal(within / SLIP_TIMES)
            found[:, i] += np.where(of.passes[:, i], 0.0, np.log(np.maximum(inside, NEVER)))
    return found


_normal = np.vectorize(lambda z: 0.5 * (1.0 + erf(z / sqrt(2.0))), otypes=[float])


def explains(ranked: Ranked, groups: Sequence[str], kind: str, value: float) -> bool:
    """Whether one cause of these groups, at any of its levels, moves a residual that way by enough."""
    among = ranked.hypotheses.single & np.any([of_group(ranked.hypotheses, group) for group in groups], axis=0)
    shifts = ranked.shifts[among, ranked.kinds.index(kind)]
    return bool((shifts * np.sign(value) >= EXPLAINS * abs(value)).any())


def log_likelihoods(
    value: np.ndarray, covariance: np.ndarray, shifts: np.ndarray, doubts: np.ndarray, same: np.ndarray | None = None
) -> np.ndarray:
    """Log density of the residuals (n,) under each hypothesis, without the constant. covariance (n, n); shifts, doubts
    (h, n).

    same (n, n): 1 where two residuals are of one kind, whose sign is then doubted once; None where all kinds differ.
    """
    n = len(value)
    # The residuals are one more row and column of the matrix: its factor then holds them with the covariance divided
    # out, for every hypothesis at once.
    whole = np.empty((len(shifts), n + 1, n + 1))
    wide, diagonal = whole[:, :n, :n], np.arange(n)
    wide[:] = covariance
    if same is None:
        wide[:, diagonal, diagonal] += doubts**2
    else:
        wide += doubts[:, :, None] * doubts[:, None, :] * same
    wide *= WIDENING**2
    whole[:, n, :n] = whole[:, :n, n] = value - shifts
    whole[:, n, n] = _PAST_ANY
    lower = np.linalg.cholesky(whole)
    return -0.5 * (lower[:, n, :n] ** 2).sum(axis=1) - np.log(lower[:, diagonal, diagonal]).sum(axis=1)


_PAST_ANY = 1e30  # more than any sum of squares of residuals, in their standard deviations


def _sorted(by: dict[str, float]) -> dict[str, float]:
    """Likeliest first. Ties, and what differs by less than a hundredth, stay in the order of the data: near ties do not
    flicker.
    """
    order = {name: n for n, name in enumerate(by)}
    return dict(sorted(by.items(), key=lambda item: (-round(item[1], 2), order[item[0]])))
