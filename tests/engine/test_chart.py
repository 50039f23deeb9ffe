"""The psychrometric chart as data: curves where the air puts them, the region under saturation, numbers of the walk."""

import numpy as np
import pytest

from engine.assessment import assess
from engine.physics.air import moist
from engine.report.charts.psychrometric import chart_of
from engine.report.words import FAHRENHEIT
from tests.engine.rounds import round_


def chart(**changes):
    return chart_of(assess(round_(**changes)), FAHRENHEIT)


@pytest.mark.parametrize("altitude", [0.0, 6200.0])
def test_curves_are_the_air_at_the_houses_altitude(altitude):
    drawn = chart(altitude_ft=altitude)
    p = moist.pressure_psia(altitude)
    saturation = next(curve for curve in drawn.curves if curve.role == "saturation")
    for t, w in saturation.points[:-1]:
        assert w == pytest.approx(float(moist.saturation_humidity_ratio(t, p)))
    assert saturation.points[-1][1] == pytest.approx(drawn.humidity_span[1]), "it ends on the chart's upper edge"
    at_70 = [np.interp(70.0, *zip(*curve.points, strict=True)) for curve in drawn.curves if curve.role == "rh"]
    assert at_70 == sorted(at_70) and len(at_70) == 4


def test_states_carry_the_numbers_of_the_walk_and_their_readout():
    drawn = chart()
    assert [(mark.number, mark.name) for mark in drawn.marks if mark.role == "state"] == [
        ("3", "Return at the unit"),
        ("4", "Supply plenum"),
    ]
    assert {mark.role for mark in drawn.marks} == {"state", "coil", "expected", "apparatus"}
    back = drawn.marks[0]
    assert "76.4 °F, 52 %" in back.readout and "wet bulb" in back.readout and "grains/lb" in back.readout


def test_the_process_runs_from_return_through_supply_to_the_apparatus_dew_point():
    drawn = chart()
    process, coil = (next(curve for curve in drawn.curves if curve.role == role) for role in ("process", "coil"))
    assert process.points[1] == coil.points[0] and process.points[0][0] > process.points[1][0] > coil.points[1][0]
    p = assess(round_()).measured.pressure_psia
    assert coil.points[1][1] == pytest.approx(float(moist.saturation_humidity_ratio(coil.points[1][0], p)))


def test_the_expected_region_surrounds_the_expected_state_and_stays_under_saturation():
    drawn, p = chart(), assess(round_()).measured.pressure_psia
    expected = next(mark for mark in drawn.marks if mark.role == "expected")
    ts, ws = (np.array(column) for column in zip(*drawn.region, strict=True))
    assert ts.min() < expected.dry_bulb_f < ts.max() and ws.min() < expected.humidity_ratio
    assert np.all(ws <= moist.saturation_humidity_ratio(ts, p) + 1e-12)
    wide, sharp = chart(method="nominal_guess").region, drawn.region
    assert np.ptp([t for t, _ in wide]) > np.ptp([t for t, _ in sharp]), "a guessed airflow widens what to expect"


def test_nothing_is_drawn_that_is_not_known_and_the_axes_follow_the_states():
    bare = chart(return_f=None, return_rh=None, supply_f=None, supply_rh=None)
    assert bare.marks == () and bare.region == () and {c.role for c in bare.curves} == {"rh", "saturation"}
    hot = chart(return_f=101.0, return_rh=30.0)
    assert hot.dry_bulb_span_f[1] >= 103 and all(m.humidity_ratio < hot.humidity_span[1] for m in hot.marks)
