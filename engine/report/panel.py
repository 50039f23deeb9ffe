"""What the sheet inside the access panel shows of a machine: what its split and liquid line should be, over the weather
in which it is tested, as curves and scales that are read by hand. Numbers only, no drawing.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from engine.assessment import tables_of
from engine.errors import EngineError
from engine.quantities.quantity import Quantity
from engine.quantities.table import Table, held_against
from engine.readings.round import Reading, Round
from engine.readings.vocabulary import GROUND_SOURCE

Air = tuple[float, float, float]  # return dry bulb, return wet bulb, outdoor air [°F]
# The weather of a cooling test, within what the published curves hold for.
OUTDOOR_F = (75.0, 85.0, 95.0, 105.0)
WET_BULB_F = tuple(float(wb) for wb in range(58, 73))
LIQUID_WET_BULB_F, LIQUID_OUTDOOR_F = (60.0, 65.0, 70.0), tuple(float(f) for f in range(70, 111, 5))
RETURN_RANGE_F, BESIDE_F = (
    (74.0, 80.0),
    3.0,
)  # of the return air that is drawn for, and how far beside it is allowed for
BENT_F = 0.25  # so far from straight in return dry bulb, and the coil goes dry there: it is not drawn
REPLACED = (("return_unit", "dry_bulb"), ("return_unit", "wet_bulb"), ("return_unit", "rh"),
            ("return_unit", "dew_point"), ("supply_plenum", "dry_bulb"), ("supply_plenum", "rh"),
            ("supply_plenum", "wet_bulb"), ("supply_plenum", "dew_point"), ("outdoor", "dry_bulb"),
            ("outdoor", "sea_level_pressure"), ("liquid_line_outdoor", "temperature"))  # fmt: skip
HUMID_F = 68.0
SPLIT_STAND_IN_F, APPROACH_STAND_IN_F = 19.0, 11.0  # a quantity is held to what is expected only where it was read


@dataclass(frozen=True)
class SplitCurves:
    """The split that a machine should show. curves: by outdoor air [°F] its points (return wet bulb [°F], split [°F]);
    return_f: the return dry bulb they hold for [°F]; per_degree: by how much the split rises for each °F of return dry
    bulb over it, while the coil is wet; tolerance_f: how far it may be off [°F]; authority: where it comes from.
    """

    curves: dict[float, tuple[tuple[float, float], ...]]
    return_f: float
    per_degree: float
    tolerance_f: float
    authority: str

    def split_f(self, return_f: float, wet_bulb_f: float, outdoor_f: float) -> float:
        """As read by hand: between two curves and two points by eye, then for the return dry bulb [all °F]."""
        colder, warmer = _around(outdoor_f, tuple(self.curves))
        low, high = (_at(self.curves[out], wet_bulb_f) for out in (colder, warmer))
        between = low + (high - low) * (outdoor_f - colder) / (warmer - colder)
        return between + self.per_degree * (return_f - self.return_f)


@dataclass(frozen=True)
class LiquidScale:
    """The liquid line that a machine should show outdoors. rows: outdoor air [°F] and the line [°F] at each of
    `wet_bulbs_f`, the return wet bulbs [°F]; tolerance_f: how far it may be off [°F].
    """

    wet_bulbs_f: tuple[float, ...]
    rows: tuple[tuple[float, tuple[float, ...]], ...]
    tolerance_f: float
    authority: str


@dataclass(frozen=True)
class Panel:
    """What can be drawn of a machine. why_not: in whose place nothing is drawn, by id; '' where all is there."""

    split: SplitCurves | None
    liquid: LiquidScale | None
    why_not: str = ""


def panel_of(round_: Round, baseline: Table | None = None) -> Panel:
    """What the sheet of a machine shows. round_: its sealed round, or the last one: machine, house and airflow are its;
    baseline: that round's worked table, to which everything is held, None where there is none.

    Cooling, against outdoor air, where the airflow was measured or stated; else `why_not` says 'heating',
    'ground_source' or 'airflow'.
    """
    if round_.equipment.kind == GROUND_SOURCE:
        return Panel(None, None, "ground_source")
    if round_.mode != "cooling":
        return Panel(None, None, "heating")
    worked = baseline or _worked([round_])[0]
    if worked is None or worked.measured.airflows.assumed:
        return Panel(None, None, "airflow")
    return_f = min(max(round(round_.value("return_unit", "dry_bulb") or 76.0), RETURN_RANGE_F[0]), RETURN_RANGE_F[1])
    return Panel(_split(round_, baseline, return_f), _liquid(round_, baseline, return_f))


def _split(round_: Round, baseline: Table | None, return_f: float) -> SplitCurves | None:
    beside = (return_f - BESIDE_F, return_f, return_f + BESIDE_F)
    air = [(db, wb, out) for db in beside for wb in WET_BULB_F if wb < return_f - BESIDE_F for out in OUTDOOR_F]
    known = _expected("split", round_, baseline, air)
    value = {of: q.expected.value for of, q in known.items()}
    slope = _slope(value, return_f)
    wet_bulbs = [wb for wb in WET_BULB_F if slope is not None and _is_straight(value, return_f, wb, slope)]
    if slope is None or len(wet_bulbs) < 2:
        return None
    at = known[return_f, wet_bulbs[-1], OUTDOOR_F[0]]
    curves = {out: tuple((wb, value[return_f, wb, out]) for wb in wet_bulbs) for out in OUTDOOR_F}
    return SplitCurves(curves, return_f, slope, at.high or at.low or 0.0, at.authority)


def _is_straight(value: Mapping[Air, float], return_f: float, wet_bulb_f: float, slope: float) -> bool:
    """Whether the split follows the return dry bulb in a straight line at this wet bulb: the coil stays wet."""
    for out in OUTDOOR_F:
        for beside in (-BESIDE_F, BESIDE_F):
            middle, other = (value.get((db, wet_bulb_f, out)) for db in (return_f, return_f + beside))
            if middle is None or other is None or abs(other - middle - slope * beside) > BENT_F:
                return False
    return True


def _slope(value: Mapping[Air, float], return_f: float) -> float | None:
    """How the split rises with the return dry bulb where the coil is surely wet: in humid air."""
    low, high = (value.get((return_f + beside, HUMID_F, OUTDOOR_F[1])) for beside in (-BESIDE_F, BESIDE_F))
    return None if low is None or high is None else (high - low) / (2.0 * BESIDE_F)


def _liquid(round_: Round, baseline: Table | None, return_f: float) -> LiquidScale | None:
    air = [(return_f, wb, out) for out in LIQUID_OUTDOOR_F for wb in LIQUID_WET_BULB_F]
    known = _expected("approach", round_, baseline, air)
    rows = [
        (out, tuple(out + known[return_f, wb, out].expected.value for wb in LIQUID_WET_BULB_F))
        for out in LIQUID_OUTDOOR_F
        if all((return_f, wb, out) in known for wb in LIQUID_WET_BULB_F)
    ]
    if len(rows) < 2:
        return None
    at = next(iter(known.values()))
    return LiquidScale(LIQUID_WET_BULB_F, tuple(rows), at.high or at.low or 0.0, at.authority)


def _expected(id_: str, round_: Round, baseline: Table | None, air: Sequence[Air]) -> dict[Air, Quantity]:
    """The quantity in each of these airs, where something is expected of it there."""
    tables = _worked([_in(round_, *of) for of in air])
    held = [held_against(table, baseline) if table and baseline else table for table in tables]
    found = {of: table.get(id_) for of, table in zip(air, held, strict=True) if table}
    return {of: q for of, q in found.items() if q and q.expected.known}


def _in(round_: Round, return_f: float, wet_bulb_f: float, outdoor_f: float) -> Round:
    """The round as it would be read in this air: its other readings, its airflow among them, stay."""
    kept = tuple(r for r in round_.readings if (r.place, r.quantity) not in REPLACED)
    probe = next((r.instrument for r in round_.readings if r.place == "return_unit"), None)
    clamp = next((r.instrument for r in round_.readings if r.place == "liquid_line_outdoor"), None)
    air = (
        Reading("return_unit", "dry_bulb", return_f, probe),
        Reading("return_unit", "wet_bulb", wet_bulb_f, probe),
        Reading("supply_plenum", "dry_bulb", return_f - SPLIT_STAND_IN_F, probe),
        Reading("outdoor", "dry_bulb", outdoor_f, probe),
        Reading("liquid_line_outdoor", "temperature", outdoor_f + APPROACH_STAND_IN_F, clamp),
    )
    return replace(round_, readings=(*kept, *air))


def _worked(rounds: Sequence[Round]) -> list[Table | None]:
    return [None if isinstance(found, EngineError) else found for found in tables_of(rounds)]


def _around(x: float, marks: Sequence[float]) -> tuple[float, float]:
    """The two marks between which a value lies, the outermost two beyond them."""
    upper = next((n for n, mark in enumerate(marks) if mark >= x and n), len(marks) - 1)
    return marks[upper - 1], marks[upper]


def _at(points: Sequence[tuple[float, float]], x: float) -> float:
    left, right = _around(x, [p[0] for p in points])
    by = dict(points)
    return by[left] + (by[right] - by[left]) * (x - left) / (right - left)
