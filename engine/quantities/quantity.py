"""A quantity: one thing measured against what is expected of it today, worked out once for a round and read by
everything after it.

Its state follows the one margin rule (engine.uncertainty.margin).

A residual is the same difference in the terms the diagnosis uses: degrees, a share of what is expected, or the
logarithm of the ratio.
"""

from dataclasses import dataclass, field, replace
from math import exp, hypot, inf, isfinite, log, sqrt
from typing import Any

from engine.constants import MODEL_SLOPE_SPREAD
from engine.quantities.residual import DIFFERENCE, KINDS, LN, SHARE, Residual
from engine.uncertainty.estimate import Estimate, Predicted, Why, withheld
from engine.uncertainty.margin import BORDERLINE, CANT_TELL, OUT_OF_RANGE, below_probability, state_of
from engine.uncertainty.sources import since

HOUSE_RULE = "house_rule"  # the authority of what the shop's own limits say
OWN_BASELINE = "own_baseline"
SOUND_SINCE = "sound_since"  # in a basis: how many sound visits after the baseline it rests on too
BESIDE = "beside_"  # in a basis, before an authority: what that expects, where the own baseline is held to


@dataclass(frozen=True)
class At:
    """Where a quantity is read: reading = base + sign x quantity, in the quantity's unit. own_u95: the reading's own 95
    %.
    """

    place: str
    quantity: str
    base: float = 0.0
    sign: float = 1.0
    own_u95: float = 0.0


@dataclass(frozen=True)
class Quantity:
    """Measured, expected and their difference `off`, with 95 %, in `unit`; a value that is missing says why.

    low, high: the tolerance under and over what is expected [unit]; None: no limit on that side. limit: a bare limit in
    place of an expected value, such as the plate's amps. authority, basis: where the expected value comes from and the
    numbers it rests on, for the words.
    lean: off in tolerances, negative left. predicted: it rests on a temperature that only gauges could measure: it
    never judges.
    assumed_airflow: it rests on an airflow that nobody measured or stated. decided_by: the error source that matters
    most to `off`.
    """

    id: str
    unit: str
    measured: Estimate
    expected: Estimate
    off: Estimate
    low: float | None
    high: float | None
    state: str
    lean: float | None
    authority: str
    basis: dict[str, float] = field(default_factory=dict)
    limit: float | None = None
    predicted: bool = False
    at: At | None = None
    residual: Residual | None = None
    assumed_airflow: bool = False
    decided_by: str = ""

    @property
    def side(self) -> int:
        """-1 or +1 where it is out of range, else 0."""
        return 0 if self.state != OUT_OF_RANGE or self.lean is None else 1 if self.lean > 0 else -1

    @property
    def beyond(self) -> float:
        """How likely it is outside its tolerance on the side that it is on."""
        if self.off.value < 0:
            return 0.0 if self.low is None else below_probability(-self.low, self.off.value, self.off.u95)
        return 0.0 if self.high is None else 1.0 - below_probability(self.high, self.off.value, self.off.u95)

    @property
    def word(self) -> str:
        """What is written under its mark: the side when it is out of range, else the state."""
        if self.predicted and self.lean is not None:
            return "predicted"
        return {-1: "low", 0: self.state, 1: "high"}[self.side]


def compared(
    id_: str, unit: str, measured: Estimate, expected: Estimate | Predicted,
    tolerance: tuple[float | None, float | None], *,
    form: str = DIFFERENCE, pushes: dict[str, float] | None = None, off: Estimate | None = None, authority: str,
    basis: dict[str, float] | None = None,
    at: At | None = None, predicted: bool = False, assumed_airflow: bool = False, decided_by: str = "", kind: str = "",
    residual: dict[str, Any] | None = None,
) -> Quantity:  # fmt: skip
    """A quantity from measured and expected. tolerance: under and over what is expected.

    pushes: error source -> what it moves the difference by, in the residual's terms (form), 95 %; `off` where it was
    carried already.
    residual: model_u95, repeat_u95, slopes, lowest, highest, weather, and `against`, another expected value than the
    one shown; None for no residual.
    kind: the residual's, where it is not the id.
    """
    pushes = pushes or {}
    expected = Estimate(expected.value, expected.u95, unit) if isinstance(expected, Predicted) else expected
    sizes = [estimate.u95 for estimate in (measured, expected) if estimate.known]
    if not all(isfinite(size) for size in (*sizes, *pushes.values())):
        measured, off = withheld(unit, Why("cannot_be_computed")), None
    why = measured.missing or expected.missing
    off = off or (withheld(unit, why) if why else _off(measured, expected, form, pushes, unit))
    found = None
    if residual is not None and measured.known and (expected.known or "against" in residual):
        level = expected.value if expected.known else residual["against"]
        found = _residual(kind or id_, measured.value, level, form, pushes, residual)
    state, lean = _state_and_lean(off, *tolerance, predicted)
    return Quantity(
        id_,
        unit,
        measured,
        expected,
        off,
        *tolerance,
        state,
        lean,
        authority,
        basis or {},
        None,
        predicted,
        at,
        found,
        assumed_airflow,
        decided_by,
    )


def limited(id_: str, unit: str, measured: Estimate, limit: float, *, authority: str, at: At | None = None) -> Quantity:
    """A quantity with a bare upper limit: up to it is in range."""
    off = Estimate(measured.value - limit, measured.u95, unit) if measured.known else measured
    none = withheld(unit, Why("limit"))
    found = Quantity(id_, unit, measured, none, off, None, 0.0, CANT_TELL, None, authority, limit=limit, at=at)
    if not measured.known:
        return found
    lean = max(measured.value / (limit / 2) - 1.0, -1.0)
    return replace(found, state=state_of(measured.value, measured.u95, -inf, limit), lean=lean)


def _off(measured: Estimate, expected: Estimate, form: str, pushes: dict[str, float], unit: str) -> Estimate:
    scale = {DIFFERENCE: 1.0, SHARE: abs(expected.value), LN: abs(measured.value)}[form]
    return Estimate(measured.value - expected.value, scale * hypot(*pushes.values()), unit)


def _residual(
    kind: str, measured: float, expected: float, form: str, pushes: dict[str, float], given: dict[str, Any]
) -> Residual | None:
    given = dict(given)
    against = given.pop("against", expected)
    if form != DIFFERENCE and not (against > 0 and (measured > 0 or form == SHARE)):
        return None
    value = (
        measured - against
        if form == DIFFERENCE
        else measured / against - 1.0
        if form == SHARE
        else log(measured / against)
    )
    level = against if form == DIFFERENCE else log(against)
    return Residual(
        KINDS[kind], value, pushes, given.pop("model_u95"), given.pop("repeat_u95"), expected=level, **given
    )


def _state_and_lean(
    off: Estimate, under: float | None, over: float | None, predicted: bool
) -> tuple[str, float | None]:
    """The state of a difference that may be so far under and over, and its lean: 1 is at the tolerance."""
    if not off.known or (under is None and over is None):
        return CANT_TELL, None
    low, high = -inf if under is None else -under, inf if over is None else over
    lean = off.value / ((over if off.value > 0 else under) or over or under or inf)
    if (under is None and lean < 0) or (over is None and lean > 0):
        lean = max(min(lean, 1.0), -1.0)
    state = CANT_TELL if predicted else state_of(off.value, off.u95, low, high)
    if state == BORDERLINE and off.u95 > min(abs(low), abs(high)):
        state = CANT_TELL
    return state, lean


def correction_u95(now: Residual, then: Residual) -> float:
    """95 % of the correction from the weather and the load of one round to those of another."""
    by_weather = now.weather[1] * (now.weather[0] - then.weather[0])
    return hypot(MODEL_SLOPE_SPREAD.value * (now.expected - then.expected), by_weather)


def against_baseline(
    now: Quantity, then: Quantity, lasting: tuple[str, ...], tolerance: tuple[float | None, float | None]
) -> Quantity:
    """The quantity against the unit's own baseline: what it differed from the model then is no fault now.

    lasting: the error sources that are the same both times. tolerance: how far it may be from its baseline [unit].
    """
    r, was = now.residual, then.residual
    if r is None or was is None:
        return now
    corrected = correction_u95(r, was)
    scatter = r.repeat_u95 * sqrt((1.0 + 1.0 / was.rests_on) / 2.0)  # of one visit, and of the mean of those before
    repeat = hypot(scatter, corrected)
    pushes, form = since(r.pushes, was.pushes, lasting), r.kind.form
    lowest = None if r.lowest is None else min(r.lowest - was.value, 0.0)
    highest = None if r.highest is None else max(r.highest - was.value, 0.0)
    residual = replace(
        r,
        value=r.value - was.value,
        pushes=pushes,
        model_u95=repeat,
        repeat_u95=repeat,
        lowest=lowest,
        highest=highest,
        machine={},
        at_baseline=was.value,
    )
    model = r.expected if form == DIFFERENCE else exp(r.expected)
    level = (
        model + was.value
        if form == DIFFERENCE
        else model * (1 + was.value)
        if form == SHARE
        else model * exp(was.value)
    )
    # The tolerance is what a sound unit may scatter: what it scatters beyond that, and how far the correction to today
    # may be off, come on top.
    allowed = min(t for t in tolerance if t is not None) / (1.0 if form == DIFFERENCE else max(abs(level), 1e-9))
    beyond = sqrt(max(scatter**2 - allowed**2, 0.0))
    doubts = pushes | {"correction to today": corrected, "scatter from visit to visit": beyond}
    off = _off(now.measured, Estimate(level, now.expected.u95, now.unit), form, doubts, now.unit)
    expected, (low, high) = Estimate(level, off.u95, now.unit), tolerance
    basis = {"at_baseline": was.value} | {name: then.basis[name] for name in (SOUND_SINCE,) if name in then.basis}
    if now.expected.known:
        basis[f"{BESIDE}{now.authority}"] = now.expected.value
    state, lean = _state_and_lean(off, low, high, now.predicted)
    return replace(
        now,
        expected=expected,
        off=off,
        low=low,
        high=high,
        state=state,
        lean=lean,
        authority=OWN_BASELINE,
        basis=basis,
        residual=residual,
    )


# Where an expected value comes from that sound machines of a kind know better: what is predicted of any machine.
# Targets and the shop's limits stay what they are.
PREDICTED_OF_ANY = (
    "published_curves", "heating_curves", "class", "class_unknown", "evaporating_predicted",
    "evaporating_surface", "evaporating_return_air", "rating", "rating_and_amps", "rated_amps", "usual_for_its_tons",
    "condenser_of_class", "condenser_of_usual_class", "usual",
    "usual_at_this_airflow",
    "condensing_by_the_rise", "condensing_by_the_rise_expected", "heat_taken_in", "class_alone", "usual_class",
)  # fmt: skip


def against_kind(q: Quantity, offset: float, machine: dict[str, float], level: str, count: int) -> Quantity:
    """The quantity against what sound machines of its kind do.

    offset: how far they are off what the engine expects of any machine, in the residual's terms. machine: named sources
    of how they scatter, as `Residual.machine`. level, count: of which group, and how many of it are known.
    """
    r = q.residual
    if r is None:
        return q
    residual = replace(
        r,
        value=r.value - offset,
        pushes=r.instruments,
        model_u95=0.0,
        machine=machine,
        lowest=None if r.lowest is None else min(r.lowest - offset, 0.0),
        highest=None if r.highest is None else max(r.highest - offset, 0.0),
    )
    moves = q.expected.known and q.off.known and q.authority in PREDICTED_OF_ANY
    if not moves:
        return replace(q, residual=residual)
    form, old = r.kind.form, q.expected.value
    value = old + offset if form == DIFFERENCE else old * (1 + offset) if form == SHARE else old * exp(offset)
    scale = 1.0 if form == DIFFERENCE else value
    basis = q.basis | {"kind_count": float(count), f"kind_{level}": 1.0, "kind_spread": residual.sound_u95 * abs(scale)}
    off = Estimate(q.off.value + old - value, q.off.u95, q.unit)
    state, lean = _state_and_lean(off, q.low, q.high, q.predicted)
    expected = Estimate(value, q.expected.u95, q.unit)
    return replace(q, expected=expected, off=off, state=state, lean=lean, basis=basis, residual=residual)
