"""Plumb marks and chart as SVG: where the bob hangs, which shape it has, where the red is, and that it is well formed."""

from xml.etree import ElementTree

import pytest

from engine.assessment.assess import assess
from engine.charts.psychrometric import chart_of
from tests.engine.rounds import round_
from web.shell.drawing.palette import SCREEN
from web.shell.drawing.plumb import COLUMN, HALF, REACH, PlumbMark, beam
from web.shell.drawing.psychrometric import chart_svg
from web.visits.figures import plain, with_uncertainty

RUDDY, SHEET, INK = SCREEN["ruddy"], SCREEN["sheet"], SCREEN["ink"]


def drawn(*marks):
    return ElementTree.fromstring(beam(list(marks), SCREEN))


@pytest.mark.parametrize(("lean", "at"), [(0.0, 0.0), (1.0, HALF / REACH), (-1.0, -HALF / REACH), (9.0, HALF), (-9.0, -HALF)])
def test_the_bob_hangs_at_its_lean_and_stops_at_the_edge(lean, at):
    circle = next(c for c in drawn(PlumbMark(lean, 0.2, "round")).iter("circle") if c.get("r") == "6.0")
    assert float(circle.get("cx")) == pytest.approx(COLUMN / 2 + at, abs=0.06) and circle.get("fill") == INK


def test_each_state_has_its_own_shape_and_only_out_of_range_is_ruddy():
    svg = {shape: beam([PlumbMark(2.0, 0.3, shape)], SCREEN) for shape in ("round", "half", "triangle", "hollow")}
    assert [shape for shape, text in svg.items() if RUDDY in text] == ["triangle"]
    assert "<path" not in svg["round"] and "<path" in svg["half"] and "<path" in svg["triangle"]
    assert f'fill="{SHEET}" stroke="{INK}"' in svg["hollow"] and len(set(svg.values())) == 4
    left, right = (beam([PlumbMark(lean, 0.3, "triangle")], SCREEN) for lean in (-2.0, 2.0))
    tip = [float(text.split('d="M')[1].split()[0]) for text in (left, right)]
    assert tip[0] < COLUMN / 2 - HALF * 2 / 3 and tip[1] > COLUMN / 2 + HALF * 2 / 3, "it points away from the band"


def test_nothing_hangs_where_nothing_is_known_and_marks_share_one_beam():
    empty = drawn(PlumbMark(None, None, "hollow"), PlumbMark(0.5, 0.2, "round"))
    assert empty.get("viewBox").split()[2] == f"{2 * COLUMN:g}" and empty.get("aria-hidden") == "true"
    assert len([c for c in empty.iter("circle") if c.get("r") == "6.0"]) == 1


def test_the_chart_is_well_formed_named_and_has_no_inline_style():
    given = round_(altitude_ft=6200.0)
    text = chart_svg(chart_of(given, assess(given)), SCREEN)
    svg = ElementTree.fromstring(text)
    assert svg.get("aria-label") == "Psychrometric chart at 6,200 ft" and "style=" not in text and "#" not in text
    marks = [g for g in svg.iter("g") if g.get("data-readout")]
    assert len(marks) == 5 and all(g.get("tabindex") == "0" and g.get("aria-label") for g in marks)
    roles = {p.get("data-role") for p in svg.iter("path")} - {None}
    assert roles == {"saturation", "rh", "process", "coil", "fan", "region"}


@pytest.mark.parametrize(("value", "unit", "text"), [
    (36211.7, "BTU/h", "36,200"), (72.44, "°F", "72.4"), (-4.5, "°F", "−4.5"), (298.4, "CFM/ton", "298"), (0.753, "", "0.75"), (None, "°F", "–"),
])  # fmt: skip
def test_figures_are_what_an_instrument_deserves(value, unit, text):
    assert plain(value, unit) == text


def test_uncertainty_is_printed_beside_its_figure():
    assert with_uncertainty(assess(round_())["split_f"]) == "21.2 ± 0.4"
    assert with_uncertainty(assess(round_(cfm=None))["total_btuh"]) == "–"
