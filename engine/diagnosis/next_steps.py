"""What to read or look at next: first what every judgement needs, in walking order, then by the expected gain in
certainty for each minute of work.

The gain is the fall of the entropy of the causes that is expected from a step (Lindley 1956, information provided by an
experiment), over the outcomes that the causes themselves predict.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cache, lru_cache

import numpy as np

from engine.diagnosis.cause import GROUPS
from engine.diagnosis.causes import COOLING_MODE, Setting, causes_in, setting_of
from engine.diagnosis.likelihood import WIDENING, Hypotheses, Ranked, hypotheses_for
from engine.diagnosis.observation_likelihoods import RATIOS, degrees_of, log_ratios
from engine.diagnosis.steps import (
    AIRFLOW,
    BASICS,
    BY_LOOK,
    DISCHARGE,
    GAUGES,
    LOOKS,
    LOOP,
    READINGS,
    STATICS,
    TESTS,
    Slots,
    Step,
)
from engine.quantities.residual import KINDS
from engine.readings.measured import water_drop_psi
from engine.readings.round import Round
from engine.readings.substitutes import NEAREST, needs_substitute
from engine.readings.vocabulary import HUMIDITY_QUANTITIES
from engine.readings.walk import BY_ID as BY_STOP
from engine.uncertainty.propagation import K

LEAST_GAIN = 0.02  # bits: less is not worth a walk
CROSSING_MINUTES = 2.0  # from inside to outside or back, with the instruments (working figure)
RARE = 0.1  # how often a look shows something, whatever it is, where nothing is known
ABOVE, AS_EXPECTED, BELOW = "above", "as_expected", "below"


@dataclass(frozen=True)
class Meaning:
    """Outcomes of a step after which the same group is likeliest, and how likely it is then."""

    outcomes: tuple[str, ...]
    group: str
    probability: float


@dataclass(frozen=True)
class Advice:
    """A step, what of it is left to read, its minutes from where the technician stands, its expected gain [bits] and
    what its outcomes would mean.

    means: a reading's outcomes are ABOVE, AS_EXPECTED, BELOW; a look's its degrees. Nothing where every outcome means
    the same.
    """

    step: Step
    minutes: float
    left: Slots = ()
    gain: float = 0.0
    means: tuple[Meaning, ...] = ()

    @property
    def per_minute(self) -> float:
        """The gain for each minute."""
        return self.gain / self.minutes


def before_leaving(round_: Round) -> list[Advice]:
    """What is read before one leaves, whatever was found: never without the statics (common practice)."""
    found = still_to_read([STATICS], round_, setting_of(round_))
    return [found] if found else []


def still_to_read(steps: Sequence[Step], round_: Round, setting: Setting) -> Advice | None:
    """The first of these readings that is not taken yet and can be."""
    there = [(step, step.left(round_)) for step in steps if step.can_be(setting)]
    return next((Advice(step, _minutes(step, round_.standing), left) for step, left in there if left), None)


def is_walked(round_: Round, setting: Setting) -> bool:
    """Whether every reading was taken that can be without gauges, beside the airflow; the discharge line is read where
    it tells much.
    """
    walk = [step for step in READINGS if step.can_be(setting) and step not in (AIRFLOW, DISCHARGE)]
    return not any(_left(step, round_) for step in walk)


def missing_basics(round_: Round, setting: Setting, airflow_measured: bool) -> list[Advice]:
    """What every judgement needs and is not read yet, in walking order. A guess is no measured airflow."""
    found = []
    for step in BASICS[setting.source]:
        if not step.can_be(setting) or (step is AIRFLOW and airflow_measured):
            continue
        step = _instead(step, round_, setting)
        left = _left(step, round_)
        if left:
            found.append(Advice(step, _minutes(step, round_.standing), left))
    return found


def _instead(step: Step, round_: Round, setting: Setting) -> Step:
    """The step itself, or that at the substitute of a place that cannot be read here."""
    place = step.reads[0][0] if step.reads else ""
    if not needs_substitute(round_, place):
        return step
    by = NEAREST[place].place
    humid = ((by, HUMIDITY_QUANTITIES),) if setting.mode == COOLING_MODE else ()
    label = f"Read the {BY_STOP[by].name.lower()} in place of the {BY_STOP[place].name.lower()}"
    return Step(by, label, 2.0, reads=((by, ("dry_bulb",)), *humid), stop=by)


def _left(step: Step, round_: Round) -> Slots:
    """What of a step is not read yet and can be. A stated guess leaves the airflow to be measured; a drop gives the
    water's flow where the unit's table is known, and else leaves it to be read.
    """
    if step is AIRFLOW:
        return AIRFLOW.reads if round_.can_be_read("blower", "airflow") else ()
    left = step.left(round_)
    if step is not LOOP or water_drop_psi(round_) is None or round_.value("water_loop", "flow") is not None:
        return left
    ends = tuple(slot for slot in left if slot[0] != "water_loop")
    by_table = round_.equipment.drop_table is not None or not round_.can_be_read("water_loop", "flow")
    return ends if by_table else (*ends, ("water_loop", ("flow",)))


def next_steps(
    ranked: Ranked,
    round_: Round,
    have: Sequence[str],
    gauges: bool,
    told_of: Ranked | None = None,
    whole_walk: bool = False,
) -> list[Advice]:
    """Every step not taken yet that is worth it, best for each minute first.

    have: the quantities that the diagnosis has already; gauges: whether connecting them may be advised; told_of: what
    an outcome would mean is worked out of these hypotheses, where ranked has only those a step should tell apart;
    whole_walk: a reading is worth it whatever it gains.
    """
    told_of = told_of or ranked
    found, setting, doubt = [], ranked.hypotheses.setting, _entropy(ranked.weights @ ranked.hypotheses.members)
    for step in (*READINGS, *([GAUGES] if gauges else [])):
        missing = tuple(kind for kind in step.gives if kind not in have)
        left = _left(step, round_)
        if missing and left and step.can_be(setting) and not step.waits(round_):
            found.append(_reading(step, missing, left, ranked, told_of, round_.standing))
    seen = round_.seen
    looks = [step for step in (*LOOKS, *TESTS) if step.look not in seen and step.can_be(setting)]
    gains = _look_gains(tuple(step.look for step in looks), ranked, doubt)
    found += [
        _look(step, told_of, round_.standing, gain)
        for step, gain in zip(looks, gains, strict=True)
        if gain >= LEAST_GAIN
    ]
    worth = (a for a in found if a.gain >= LEAST_GAIN or (whole_walk and a.left))
    return sorted(worth, key=lambda a: (-a.per_minute, a.step.id))


def look_at(looks: Sequence[str], ranked: Ranked, standing: str) -> Advice | None:
    """The first of these looks that can be taken, as a step."""
    steps = [BY_LOOK[look] for look in looks if look in BY_LOOK and BY_LOOK[look].can_be(ranked.hypotheses.setting)]
    if not steps:
        return None
    doubt = _entropy(ranked.weights @ ranked.hypotheses.members)
    (gain,) = _look_gains((steps[0].look,), ranked, doubt)
    return _look(steps[0], ranked, standing, gain)


def _reading(step: Step, kinds: tuple[str, ...], left: Slots, ranked: Ranked, told_of: Ranked, standing: str) -> Advice:
    """The gain of reading these quantities, taken as independent; each outcome weighed by how likely the hypotheses
    make it.
    """
    of, gain = hypotheses_for(kinds, ranked.hypotheses.setting), 0.0
    means: tuple[Meaning, ...] = ()
    doubt = _entropy(ranked.weights @ of.members)
    for kind, (values, given) in zip(kinds, _readings_given(of), strict=True):
        joint = given * ranked.weights[None, :]
        gain += _gains(joint, [0], of.members, doubt)[0]
        told = given * told_of.weights[None, :]
        means = means or _meanings(told, values, KINDS[kind].scatter, ranked.hypotheses.grouped)
    return Advice(step, _minutes(step, standing), left, min(gain, doubt), means)


_OUTCOMES = 61  # values of a reading that is not taken yet, over all that some hypothesis makes possible


@lru_cache(maxsize=256)  # some 100 KB each
def _readings_given(of: Hypotheses) -> list[tuple[np.ndarray, np.ndarray]]:
    """For each quantity the values that a reading may give (outcomes,) and their density under each hypothesis, in any
    scale: (outcomes, hypotheses).
    """
    each = []
    for i, kind in enumerate(of.kinds):
        spread = WIDENING * np.sqrt((KINDS[kind].scatter / K) ** 2 + of.squares[:, i])
        low, high = (of.shifts[:, i] + side * 3 * spread for side in (-1, 1))
        values = np.linspace(low.min(), high.max(), _OUTCOMES)
        each.append((values, np.exp(-0.5 * ((values[:, None] - of.shifts[None, :, i]) / spread) ** 2) / spread))
    return each


def _look_gains(looks: tuple[str, ...], ranked: Ranked, doubt: float) -> list[float]:
    """The gain of each look by itself; all of them worked out together."""
    if not looks:
        return []
    given, starts = _looks_given(looks, ranked.hypotheses)
    return _gains(given * ranked.weights[None, :], starts, ranked.hypotheses.members, doubt)


@cache
def _looks_given(looks: tuple[str, ...], of: Hypotheses) -> tuple[np.ndarray, list[int]]:
    """The degrees of several looks, one below the other, and where each begins; see `_look_given`."""
    each = [_look_given(look, of) for look in looks]
    return np.concatenate(each), [0, *np.cumsum([len(degrees) for degrees in each])[:-1].tolist()]


def _look(step: Step, ranked: Ranked, standing: str, gain: float) -> Advice:
    degrees = degrees_of(step.look)
    after = _seen_with(step.look, ranked.hypotheses) * ranked.weights[None, :]
    means = _merged(zip(degrees, after, strict=True), ranked.hypotheses.grouped)
    return Advice(step, _minutes(step, standing), (), gain, means)


def _minutes(step: Step, standing: str) -> float:
    return step.minutes + (CROSSING_MINUTES if standing and step.side not in ("", standing) else 0.0)


@cache
def _look_given(look: str, of: Hypotheses) -> np.ndarray:
    """How likely each degree of a look is under each hypothesis, shape (degrees, hypotheses)."""
    seen = _seen_with(look, of)
    return seen / seen.sum(axis=0)


@cache
def _seen_with(look: str, of: Hypotheses) -> np.ndarray:
    """How often each degree of a look is seen with each hypothesis, as the looks that were taken are weighed: shape
    (degrees, hypotheses).
    """
    degrees = degrees_of(look)
    chance = np.array([_chances(look, degree, degrees) for degree in degrees])
    causes = tuple(causes_in(of.setting))
    ratios = np.exp([log_ratios({look: degree}, causes, of.members) for degree in degrees])
    return chance[:, None] * ratios


def _merged(after: Iterable[tuple[str, np.ndarray]], grouped: np.ndarray) -> tuple[Meaning, ...]:
    """Outcomes that mean the same together; nothing where every outcome means the same. after: of each outcome the
    weights of the hypotheses, in any scale common to all.
    """
    by_group: dict[int, list[tuple[str, np.ndarray]]] = {}
    for outcome, weights in after:
        by_group.setdefault(int((weights @ grouped).argmax()), []).append((outcome, weights))
    if len(by_group) < 2:
        return ()
    found = []
    for group, of_it in by_group.items():
        weights = np.sum([weights for _, weights in of_it], axis=0)
        share = float(weights @ grouped[:, group]) / max(float(weights.sum()), 1e-300)
        found.append(Meaning(tuple(outcome for outcome, _ in of_it), list(GROUPS)[group], share))
    return tuple(found)


def _chances(look: str, degree: str, degrees: list[str]) -> float:
    """How often a degree is seen where nothing is known: what points at a cause is rare, the rest shares the rest."""
    rare = [d for d in degrees if max(RATIOS[look, d].values()) > 1.0]
    if degree in rare:
        return RARE / len(rare)
    return (1.0 - RARE * bool(rare)) / (len(degrees) - len(rare))


def _gains(joint: np.ndarray, starts: list[int], members: np.ndarray, doubt: float) -> list[float]:
    """Bits: entropy of the causes now (doubt), less that expected after an outcome; never under 0. joint (outcomes,
    hypotheses), in any scale: those of one question from each of starts to the next.
    """
    outcome = joint.sum(axis=1)
    after = (joint / np.maximum(outcome[:, None], 1e-300)) @ members
    left = np.add.reduceat(outcome * _entropies(after), starts) / np.add.reduceat(outcome, starts)
    return np.maximum(doubt - left, 0.0).tolist()


def _entropies(p: np.ndarray) -> np.ndarray:
    p = p / np.maximum(p.sum(axis=-1, keepdims=True), 1e-300)
    return -(p * np.log2(np.maximum(p, 1e-300))).sum(axis=-1)


def _entropy(p: np.ndarray) -> float:
    return float(_entropies(p[None, :])[0])


def _meanings(joint: np.ndarray, values: np.ndarray, scatter: float, grouped: np.ndarray) -> tuple[Meaning, ...]:
    """What a reading above, as or below expected would mean."""
    bands = (
        (ABOVE, values > 0.75 * scatter),
        (AS_EXPECTED, np.abs(values) <= 0.5 * scatter),
        (BELOW, values < -0.75 * scatter),
    )
    return _merged(((outcome, joint[band].sum(axis=0)) for outcome, band in bands if band.any()), grouped)
