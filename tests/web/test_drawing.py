"""Plumb marks, charts and the line drawing as SVG: where things are, which shape they have, where the red is, and that
they are well formed.
"""

from dataclasses import replace
from itertools import combinations
from math import hypot
from xml.etree import ElementTree

import pytest

from engine.assessment import assess
from engine.readings.walk import walk
from engine.report.charts.blower import BlowerChart
from engine.report.charts.ledger import LedgerBeam, LedgerChart
from engine.report.charts.psychrometric import chart_of
from engine.report.words import FAHRENHEIT
from tests.engine.rounds import round_
from web.shell.drawing.beams import ledger_svg
from web.shell.drawing.curves import blower_svg
from web.shell.drawing.line import HEIGHT, WIDTH, Machine, Spot, line_drawing, place_of
from web.shell.drawing.palette import SCREEN
from web.shell.drawing.plumb import COLUMN, HALF, REACH, PlumbMark, beam
from web.shell.drawing.psychrometric import chart_svg
from web.visits.figures import plain, with_uncertainty

RUDDY, SHEET, INK = SCREEN["ruddy"], SCREEN["sheet"], SCREEN["ink"]


def drawn(*marks):
    return ElementTree.fromstring(beam(list(marks), SCREEN))


@pytest.mark.parametrize(
    ("lean", "at"), [(0.0, 0.0), (1.0, HALF / REACH), (-1.0, -HALF / REACH), (9.0, HALF), (-9.0, -HALF)]
)
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
    text = chart_svg(chart_of(assess(given), FAHRENHEIT), SCREEN)
    svg = ElementTree.fromstring(text)
    assert svg.get("aria-label") == "Psychrometric chart at 6,200 ft" and "style=" not in text and "#" not in text
    marks = [g for g in svg.iter("g") if g.get("data-readout")]
    assert len(marks) == 5 and all(g.get("tabindex") == "0" and g.get("aria-label") for g in marks)
    roles = {p.get("data-role") for p in svg.iter("path")} - {None}
    assert roles == {"saturation", "rh", "process", "coil", "fan", "region"}


@pytest.mark.parametrize(("value", "unit", "text"), [
    (36211.7, "BTU/h", "36,200"), (72.44, "°F", "72.4"), (-4.5, "°F", "−4.5"), (298.4, "CFM/ton", "298"),
    (0.753, "", "0.75"), (None, "°F", "–"),
])  # fmt: skip
def test_figures_are_what_an_instrument_deserves(value, unit, text):
    assert plain(value, unit) == text


def test_uncertainty_is_printed_beside_its_figure():
    assert with_uncertainty(assess(round_()).measured["split_f"]) == "21.2 ± 0.4"
    assert with_uncertainty(assess(round_(supply_rh=None)).measured["total_btuh"]) == "–"


# -- the line drawing, the ledger, a maker's curves --------------------------------------------------------------------

MACHINES = [
    Machine(kind, furnace, heating)
    for kind, furnace, heating in (
        ("air_conditioner", False, False), ("air_conditioner", True, False), ("heat_pump", False, True),
        ("ground_source", False, False),
    )
]  # fmt: skip


def spots_of(machine):
    """Every stop of the walk that has a spot on this machine's drawing."""
    stops = walk(machine.kind, "heating" if machine.heating else "cooling", machine.furnace, ())
    return [Spot(spot, stop.id, stop.number, stop.name) for stop in stops for spot in stop.spots]


@pytest.mark.parametrize(
    "machine", MACHINES, ids=lambda m: f"{m.kind}{' furnace' if m.furnace else ''}{' heating' if m.heating else ''}"
)
def test_every_place_of_the_walk_is_inside_the_drawing_apart_from_the_others_and_named(machine):
    spots = spots_of(machine)
    places = {s.spot: place_of(machine, s.spot) for s in spots}
    assert all(0 < x < WIDTH and 0 < y < HEIGHT for x, y in places.values())
    for (one, a), (other, b) in combinations(places.items(), 2):
        assert hypot(a[0] - b[0], a[1] - b[1]) >= 14, f"{one} and {other} cannot be told apart by a finger"
    text = line_drawing(machine, spots, SCREEN)
    svg = ElementTree.fromstring(text)
    assert svg.get("aria-label") and "style=" not in text
    led_to = {g.get("data-go") for g in svg.iter() if g.get("data-go")}
    assert led_to == {s.stop for s in spots}, "every place leads to its stop"


def test_a_spot_shows_by_its_shape_whether_it_is_open_read_out_or_not_possible():
    base = Spot("liquid_line_outdoor", "liquid_line_outdoor", 14, "Liquid line outdoors")
    drawn_as = {
        s: line_drawing(MACHINES[0], [replace(base, state=s)], SCREEN)
        for s in ("open", "read", "out", "impossible", "quiet")
    }
    assert len(set(drawn_as.values())) == len(drawn_as)
    assert [s for s, text in drawn_as.items() if text.count(RUDDY) > drawn_as["open"].count(RUDDY)] == ["out"], (
        "the one red is for what is out"
    )


@pytest.mark.parametrize(("given", "closes"), [(42000.0, True), (30000.0, False)])
def test_the_ledger_is_drawn_to_scale_and_red_only_where_it_does_not_close(given, closes):
    taken = LedgerBeam((("sensible", 24000.0), ("latent", 9000.0), ("electrical", 9000.0)), 3000.0)
    text = ledger_svg(LedgerChart(taken, LedgerBeam((("given", given),), 2000.0), closes, ("It closes.",)), SCREEN)
    svg = ElementTree.fromstring(text)
    boxes = [float(r.get("width")) for r in svg.iter("rect")]
    per_btuh = boxes[0] / 24000.0
    assert boxes[:4] == pytest.approx([24000 * per_btuh, 9000 * per_btuh, 9000 * per_btuh, given * per_btuh], abs=0.2)
    assert (RUDDY in text) is not closes and svg.get("aria-label").startswith("Heat ledger")


def test_a_blower_table_is_drawn_where_its_numbers_are_with_the_point_at_work():
    curves = {"high": ((0.1, 1400.0), (0.9, 870.0)), "low": ((0.1, 1000.0), (0.7, 800.0))}
    text = blower_svg(BlowerChart(curves, "high", (0.5, 1200.0, 0.01, 120.0), 1200.0, ""), SCREEN)
    svg = ElementTree.fromstring(text)
    point = next(c for c in svg.iter("circle") if c.get("r") == "5")
    on_wanted = float(next(p for p in svg.iter("path") if p.get("stroke-width") == "7").get("d").split()[1])
    assert float(point.get("cy")) == pytest.approx(on_wanted, abs=0.2), "1,200 CFM stands on the line of 400 per ton"
    assert "1200 CFM at 0.50 in. w.c." in svg.get("aria-label")
    assert "Tap" not in ElementTree.fromstring(blower_svg(BlowerChart(curves, "high", None, 1200.0, ""), SCREEN)).get(
        "aria-label"
    )
