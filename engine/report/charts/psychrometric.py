"""The psychrometric chart at the house's altitude: curves and states as numbers with a role.

Abscissa dry bulb [°F], ordinate humidity ratio [lb/lb]. Properties: engine.physics.air.moist.
"""

from dataclasses import dataclass
from math import cos, pi, sin

import numpy as np

from engine.assessment import Assessment
from engine.constants import GRAINS_PER_LB
from engine.expected.today import Region
from engine.physics.air import moist
from engine.readings.round import STAND_IN
from engine.readings.walk import walk
from engine.report.words import Words

RH_LINES_PCT = (20, 40, 60, 80)
DRY_BULB_SPAN_F = (40.0, 90.0)
STATES = {
    "return_grille": "Return grille",
    "return_unit": "Return at the unit",
    "supply_plenum": "Supply plenum",
    "supply_register": "Register",
}
LEAST_TOP = 110.0  # grains/lb
TICK_GRAINS = 20.0
# Radius of the 95 % region of two jointly normal values, in units of the 95 % size of one: sqrt(chi2(2; 0.95)) / 2.
REGION_RADIUS = 5.991**0.5 / 2.0


@dataclass(frozen=True)
class Curve:
    """A line on the chart. role: saturation, rh, process, coil, fan, duct.
    points: ((dry bulb, humidity ratio), ...).
    """

    role: str
    points: tuple[tuple[float, float], ...]
    label: str = ""


@dataclass(frozen=True)
class Mark:
    """A state on the chart. role: state, coil, apparatus, expected. readout: what hovering or tapping says."""

    role: str
    number: str
    name: str
    dry_bulb_f: float
    humidity_ratio: float
    readout: str


@dataclass(frozen=True)
class Chart:
    """The whole chart. region: corners of the expected supply region, 95 %, cut at saturation; empty when unknown."""

    altitude_ft: float
    dry_bulb_span_f: tuple[float, float]
    humidity_span: tuple[float, float]
    dry_bulb_ticks_f: tuple[float, ...]
    grain_ticks: tuple[float, ...]
    curves: tuple[Curve, ...]
    marks: tuple[Mark, ...]
    region: tuple[tuple[float, float], ...]


def chart_of(found: Assessment, words: Words) -> Chart:
    """The chart of one assessed round."""
    p = found.measured.pressure_psia
    marks = _marks(found, p, words)
    low, high = DRY_BULB_SPAN_F
    if marks:
        low = min(low, 10.0 * np.floor((min(m.dry_bulb_f for m in marks) - 2) / 10))
        high = max(high, 10.0 * np.ceil((max(m.dry_bulb_f for m in marks) + 2) / 10))
    grains = max([LEAST_TOP, *(1.15 * GRAINS_PER_LB.value * m.humidity_ratio for m in marks)])
    grains = TICK_GRAINS * np.ceil(grains / TICK_GRAINS)
    top = float(grains / GRAINS_PER_LB.value)
    dry_bulbs = np.linspace(low, high, 76)
    return Chart(
        altitude_ft=found.round.altitude_ft,
        dry_bulb_span_f=(float(low), float(high)),
        humidity_span=(0.0, top),
        dry_bulb_ticks_f=tuple(float(t) for t in np.arange(low, high + 1, 10)),
        grain_ticks=tuple(float(g) for g in np.arange(TICK_GRAINS, grains + 1, TICK_GRAINS)),
        curves=(*_grid(dry_bulbs, p, top), *_process(marks)),
        marks=marks,
        region=_region(found.table.expected.supply_region, p),
    )


def _grid(dry_bulbs: np.ndarray, p: float, top: float) -> list[Curve]:
    curves = []
    for rh in (*RH_LINES_PCT, 100):
        w = np.asarray(moist.humidity_ratio_from_rh(dry_bulbs, float(rh), p))
        inside = w <= top
        points = [(float(t), float(x)) for t, x in zip(dry_bulbs[inside], w[inside], strict=True)]
        if not inside.all():  # end the line on the chart's upper edge
            last = int(np.argmin(inside))
            share = (top - w[last - 1]) / (w[last] - w[last - 1])
            points.append((float(dry_bulbs[last - 1] + share * (dry_bulbs[last] - dry_bulbs[last - 1])), float(top)))
        curves.append(
            Curve("saturation" if rh == 100 else "rh", tuple(points), "saturated" if rh == 100 else f"{rh} %")
        )
    return curves


def _marks(found: Assessment, p: float, words: Words) -> tuple[Mark, ...]:
    marks, measured, expected = [], found.measured, found.table.expected
    numbers = {
        stop.id: str(stop.number)
        for stop in walk(found.round.equipment.kind, found.round.mode, order=found.round.rules.walk_order)
    }
    for place, name in STATES.items():
        air, read = measured.states.get(place), measured.round.reading(place, "dry_bulb")
        if air is not None and read is not None and read.source != STAND_IN:  # what is still to be read is not drawn
            w = min(air.humidity_ratio, _saturated(air.dry_bulb_f, p))
            marks.append(_mark("state", numbers[place], name, air.dry_bulb_f, w, p, words))
    leaving, supply = measured["coil_leaving_f"], measured["supply_humidity_ratio"]
    if leaving.known and supply.known and found.round.mode == "cooling":
        marks.append(_mark("coil", "C", "Leaving the coil", leaving.value, supply.value, p, words))
    if expected.supply_region is not None:
        t, w, _ = expected.supply_region
        marks.append(_mark("expected", "", "Supply expected", t, w, p, words))
    dew_point = measured["apparatus_dew_point_f"]
    if dew_point.known and found.round.mode == "cooling":
        marks.append(
            _mark("apparatus", "A", "Apparatus dew point", dew_point.value, _saturated(dew_point.value, p), p, words)
        )
    return tuple(marks)


def _saturated(dry_bulb_f: float, p: float) -> float:
    return float(moist.saturation_humidity_ratio(dry_bulb_f, p))


def _mark(role: str, number: str, name: str, dry_bulb_f: float, w: float, p: float, words: Words) -> Mark:
    wet, dew = (words.temperature(float(f)) for f in (moist.wet_bulb_f(dry_bulb_f, w, p), moist.dew_point_f(w, p)))
    readout = (
        f"{name}: {words.temperature(dry_bulb_f)}, {float(moist.rh_pct(dry_bulb_f, w, p)):.0f} %, "
        f"wet bulb {wet}, dew point {dew}, "
        f"{GRAINS_PER_LB.value * w:.0f} grains/lb, {float(moist.enthalpy_btulb(dry_bulb_f, w)):.1f} BTU/lb"
    )
    return Mark(role, number, name, dry_bulb_f, w, readout)


def _process(marks: tuple[Mark, ...]) -> list[Curve]:
    at = {mark.name: (mark.dry_bulb_f, mark.humidity_ratio) for mark in marks}
    end = "Leaving the coil" if "Leaving the coil" in at else "Supply plenum"
    stretches = (
        ("process", "Return at the unit", end),
        ("coil", end, "Apparatus dew point"),
        ("fan", end, "Supply plenum"),
        ("duct", "Return grille", "Return at the unit"),
        ("duct", "Supply plenum", "Register"),
    )
    return [Curve(role, (at[a], at[b])) for role, a, b in stretches if a != b and a in at and b in at]


def _region(expected: Region | None, p: float) -> tuple[tuple[float, float], ...]:
    """The 95 % ellipse of the expected supply state, cut at saturation. expected: its mean and covariance, or None."""
    if expected is None:
        return ()
    t, w, ((tt, tw), (_, ww)) = expected
    # Cholesky factor of the 2x2 covariance, by hand: the ellipse is its image of a circle.
    a = tt**0.5
    b = tw / a if a else 0.0
    c = max(ww - b * b, 0.0) ** 0.5
    corners = []
    for step in range(48):
        x, y = REGION_RADIUS * cos(2 * pi * step / 48), REGION_RADIUS * sin(2 * pi * step / 48)
        t_f = t + a * x
        corners.append((t_f, min(w + b * x + c * y, float(moist.saturation_humidity_ratio(t_f, p)))))
    return tuple(corners)
