"""Marks as data: each reading of a place against what is expected there, and the row that hangs from one beam. They
read the quantities.
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from engine.assessment import Assessment
from engine.errors import EngineError
from engine.physics.air.state import state_at
from engine.quantities.quantity import At, Quantity
from engine.readings.round import Round
from engine.readings.vocabulary import GROUND_SOURCE
from engine.report.quantity_words import AUTHORITY, band, is_difference
from engine.report.words import Words
from engine.uncertainty.estimate import Estimate


@dataclass(frozen=True)
class PlaceMark:
    """One reading of a place against what is expected there, [unit]: the quantity it shows, turned into the reading.

    low, high: the band; expected: None for a bare limit. u95: the reading's own. half: the band's half-width on the
    side the reading leans to, in which lean is counted; lean: None when it is not read. difference: of °F, whether it
    is a difference of two temperatures. taken: not read there but taken from the nearest place.
    """

    quantity: Quantity
    place: str
    reading: str
    unit: str
    measured: float | None
    u95: float | None
    expected: float | None
    low: float | None
    high: float | None
    half: float
    lean: float | None
    word: str
    difference: bool = False
    taken: bool = False

    @property
    def state(self) -> str:
        """The quantity's state."""
        return self.quantity.state

    @property
    def predicted(self) -> bool:
        """Whether what is expected is only predicted."""
        return self.quantity.predicted

    @property
    def authority(self) -> str:
        """Where what is expected comes from, in words."""
        return AUTHORITY[self.quantity.authority]

    def allowed(self, words: Words) -> str:
        """What may be read, without its unit: '54.3 ± 3.0'; a bare limit as 'at most'."""
        if self.expected is None:
            return f"at most {words.plain(self.high, self.unit, self.difference)}"
        under, over = (None if limit is None else abs(limit - self.expected) for limit in (self.low, self.high))
        return band(words, self.unit, self.difference, self.expected, under, over, self.predicted)


def place_marks(found: Assessment) -> tuple[PlaceMark, ...]:
    """The expectations that can be given with what was read so far."""
    round_ = found.table.measured.round
    return tuple(
        _at_its_place(q, q.at, round_) for q in found.quantities.values() if q.at is not None and _comparable(q)
    )


def _at_its_place(q: Quantity, at: At, round_: Round) -> PlaceMark:
    difference = at.base == 0.0 and at.sign == 1.0 and is_difference(q.id)
    mark = _mark(q, at.place, at.quantity, at.base, at.sign, at.own_u95, difference)
    reading = round_.reading(at.place, at.quantity)
    taken = mark.measured is not None and reading is not None and reading.is_taken
    return replace(mark, taken=True) if taken else mark


def mark_of(found: Assessment, id_: str) -> PlaceMark | None:
    """A quantity that belongs to no one place, as a mark; None where there is none."""
    q = found.table.get(id_)
    if q is None or not _comparable(q):
        return None
    return _mark(q, q.id, "", 0.0, 1.0, q.off.u95 if q.off.known else None, is_difference(q.id))


def _comparable(q: Quantity) -> bool:
    return (q.expected.known or q.limit is not None) and not (q.low is None and q.high is None)


def _mark(
    q: Quantity, place: str, reading: str, base: float, sign: float, u95: float | None, difference: bool
) -> PlaceMark:
    level = q.limit if q.limit is not None else q.expected.value
    edges = [
        None if tolerance is None else base + sign * (level + way * tolerance)
        for way, tolerance in ((-1, q.low), (1, q.high))
    ]
    low, high = edges if sign > 0 else edges[::-1]
    lean = None if q.lean is None else sign * q.lean
    half = q.limit / 2 if q.limit is not None else _half(q)
    word = q.word if sign > 0 else {"low": "high", "high": "low"}.get(q.word, q.word)
    measured = base + sign * q.measured.value if q.measured.known else None
    expected = None if q.limit is not None else base + sign * level
    return PlaceMark(
        q,
        place,
        reading,
        q.unit,
        measured,
        u95,
        expected,
        low,
        high,
        half,
        lean,
        word if q.measured.known else "",
        difference,
    )


def _half(q: Quantity) -> float:
    over = q.high if q.off.known and q.off.value > 0 else q.low
    return over or q.high or q.low or 0.0


# The row that hangs from one beam, in order; what is not known of it is left out.
COOLING_ROW = ("split", "airflow", "capacity", "total_static", "approach", "superheat", "subcooling")
HEATING_ROW = ("rise", "airflow", "capacity", "total_static", "heat_approach", "true_suction")
WATER_ROW = ("heat_moved", "water_flow", "airflow", "total_static")


def beam_row(found: Assessment) -> tuple[Quantity, ...]:
    """The quantities of the row, as far as they were measured."""
    row: tuple[str, ...] = COOLING_ROW if found.round.mode == "cooling" else HEATING_ROW
    row = WATER_ROW if found.round.equipment.kind == GROUND_SOURCE else row
    return tuple(q for id_ in row if (q := found.table.get(id_)) is not None and q.measured.known)


def expected_supply_humidity(found: Assessment) -> dict[str, Estimate]:
    """The expected supply humidity in each way it can be read: %RH, wet bulb and dew point [°F]; without the ones that
    cannot be given.
    """
    return dict(_supply_humidity(found))


def _supply_humidity(found: Assessment) -> Iterator[tuple[str, Estimate]]:
    e = found.table.expected
    dry, rh, dew = e["expected_supply_dry_bulb_f"], e["expected_supply_rh_pct"], e["expected_supply_dew_point_f"]
    if not (dry.known and rh.known):
        return
    yield "rh", Estimate(min(rh.value, 100.0), rh.u95, "%")
    try:
        air = state_at(dry.value, "rh", min(100.0, rh.value), found.round.pressure_psia)
    except EngineError:
        return
    yield "wet_bulb", Estimate(air.wet_bulb_f, dry.u95, "°F")
    if dew.known:
        yield "dew_point", dew
