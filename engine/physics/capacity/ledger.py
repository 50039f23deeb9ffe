"""The heat ledger: heat taken from the house air + electrical heat = heat given out.

Where the rejected side is known (ground loop, or measured condenser airflow) it must close within the readings'
uncertainty; if not, the reading that closes it when moved least, in units of its own uncertainty, is named.
"""

from collections.abc import Callable
from dataclasses import dataclass
from math import sqrt

from engine.errors import OutOfRange
from engine.physics.air import moist

OUT_OF_REACH = 8.0  # in units of a reading's 95 %: moved further than that it explains nothing
_STEPS = 60
RISE_RANGE_F = (-5.0, 60.0)  # of the condenser's air


@dataclass(frozen=True)
class Entry:
    """One reading in the ledger: what to call it, its value and 95 % uncertainty in its own unit."""

    name: str
    value: float
    u95: float
    unit: str


@dataclass(frozen=True)
class Suspect:
    """A reading that would close the ledger: its value then, and how far that is in units of its own 95 %."""

    name: str
    closes_at: float
    moved: float
    unit: str


@dataclass(frozen=True)
class Ledger:
    """Heat in and out [BTU/h], the gap with its 95 %, whether it closes, and the suspects, least moved first."""

    taken_btuh: float
    electrical_btuh: float
    given_btuh: float
    gap_btuh: float
    u95_btuh: float
    closes: bool
    suspects: tuple[Suspect, ...]


Side = Callable[[dict[str, float]], float]


def close_ledger(readings: list[Entry], taken: Side, electrical: Side, given: Side) -> Ledger:
    """Balance a ledger. taken, electrical, given: heat [BTU/h] from the readings by name; every reading is its own
    error source.

    The gap's uncertainty is first order over the readings, so a reading on both sides counts once. Each suspect is
    found by moving that reading alone, up to 8 times its 95 %, until the gap is nothing.
    """
    values = {reading.name: reading.value for reading in readings}

    def gap(at: dict[str, float]) -> float:
        return taken(at) + electrical(at) - given(at)

    parts = [
        0.5 * (gap(values | {r.name: r.value + r.u95}) - gap(values | {r.name: r.value - r.u95})) for r in readings
    ]
    u95 = sqrt(sum(part**2 for part in parts))
    now = gap(values)
    closes = abs(now) <= u95
    suspects = [] if closes else [s for r in readings if (s := _suspect(r, values, gap))]
    return Ledger(
        taken(values),
        electrical(values),
        given(values),
        now,
        u95,
        closes,
        tuple(sorted(suspects, key=lambda s: abs(s.moved))),
    )


def _suspect(reading: Entry, values: dict[str, float], gap: Callable[[dict[str, float]], float]) -> Suspect | None:
    """Where this reading alone would close the ledger, by bisection on each side; None when it cannot."""
    best = None
    for direction in (-1.0, 1.0):
        near, far = reading.value, reading.value + direction * OUT_OF_REACH * reading.u95
        if gap(values | {reading.name: near}) * gap(values | {reading.name: far}) > 0:
            continue
        sign = gap(values | {reading.name: near}) > 0
        for _ in range(_STEPS):
            middle = 0.5 * (near + far)
            if (gap(values | {reading.name: middle}) > 0) == sign:
                near = middle
            else:
                far = middle
        moved = (near - reading.value) / reading.u95
        if best is None or abs(moved) < abs(best.moved):
            best = Suspect(reading.name, near, moved, reading.unit)
    return best


def air_side_rejection_btuh(
    condenser_cfm: float, entering_f: float, leaving_f: float, air_psia: float, humidity_ratio: float = 0.010
) -> float:
    """Heat given to the outdoor air [BTU/h], the outdoor fan's heat included.

    condenser_cfm: airflow of the leaving air [CFM], hardly ever known. entering_f, leaving_f: dry bulbs [°F]. air_psia:
    [psia]. humidity_ratio: [lb/lb], which matters little.
    Equation: m cp (leaving - entering) with m from the leaving air's specific volume [1].

    [1] Energy balance on ASHRAE Handbook - Fundamentals (2017), chapter 1.
    """
    rise = leaving_f - entering_f
    if not RISE_RANGE_F[0] <= rise <= RISE_RANGE_F[1]:
        raise OutOfRange("condenser air rise", rise, "°F", *RISE_RANGE_F)
    return condenser_cfm * _per_cfm(leaving_f, air_psia, humidity_ratio) * rise


def implied_condenser_cfm(
    rejected_btuh: float, entering_f: float, leaving_f: float, air_psia: float, humidity_ratio: float = 0.010
) -> float:
    """The condenser airflow [CFM of leaving air] that a heat and a rise imply.

    rejected_btuh: [BTU/h]. entering_f, leaving_f: dry bulbs [°F], 1 °F apart or more. air_psia: [psia].
    humidity_ratio: [lb/lb].
    Equation: `air_side_rejection_btuh` solved for the airflow.
    """
    rise = leaving_f - entering_f
    if not 1.0 <= rise <= RISE_RANGE_F[1]:
        raise OutOfRange("condenser air rise", rise, "°F", 1.0, RISE_RANGE_F[1])
    return rejected_btuh / (_per_cfm(leaving_f, air_psia, humidity_ratio) * rise)


def _per_cfm(leaving_f: float, air_psia: float, w: float) -> float:
    """BTU/h per CFM and °F: 60 cp / v of the leaving air ('1.08' where the air is standard)."""
    volume = float(moist.specific_volume_ft3lb(leaving_f, w, air_psia))
    return 60.0 * float(moist.specific_heat_btulbf(w)) / volume
