"""The sheet in the panel, judged by hand: its printed scales are read back from the PDF, as a person without a phone
reads them, and give what the engine expects; its code is read back and leads to the machine.
"""

import io
from itertools import pairwise
from random import Random

import numpy as np
import pdfplumber
import pypdfium2
import pytest
import zxingcpp
from django.urls import reverse

from engine.report import panel
from tests.engine.rounds import walk
from tests.web.test_baseline import fit, seal
from web.exchange.paper import HALF_MM
from web.visits.load.for_engine import stored_round
from web.visits.load.held import table_of_round
from web.visits.load.material import material_of

MM_DOTS = 8  # to a mm, of a page looked at as a picture


@pytest.fixture(params=["A4", "Letter"])
def printed(request, signed_in, ours, device):
    """The PDF of our machine, sealed, on each paper."""
    assert seal(fit(device)) == ("stored", "")
    answer = signed_in.get(reverse("exchange:panel", args=[ours.system.public_id]), {"paper": request.param})
    assert answer["Content-Type"] == "application/pdf" and len(answer.content) < 400_000
    with pdfplumber.open(io.BytesIO(answer.content)) as pdf:
        [page] = pdf.pages
        yield request.param, page, answer.content


class Scales:
    """What of the split's drawing is printed: numbers along its axes, and its curves with theirs."""

    def __init__(self, page):
        half = page.crop((0, 0, page.width * 0.5, page.height / 2))
        found = half.extract_words(keep_blank_chars=False)
        self.wet_bulb = _axis([w for w in found if w["text"].isdigit()], "x0", "x1", "top", "bottom")
        self.split = _axis([w for w in found if w["text"].isdigit()], "top", "bottom", "x0", "x1")
        black = [c for c in half.curves + half.lines if len(c["pts"]) > 5]
        labels = {w["text"]: (w["top"] + w["bottom"]) / 2 for w in found if w["text"] in ("75", "85", "95", "105")}
        self.curves = {
            float(text): min(black, key=lambda c: abs(c["pts"][-1][1] - y))["pts"] for text, y in labels.items()
        }

    def read(self, wet_bulb, outdoor):
        """The split at a return wet bulb, between the curves beside the outdoor air."""
        x = self.wet_bulb(wet_bulb, back=True)
        at = {out: self.split(_height(points, x)) for out, points in sorted(self.curves.items())}
        colder = max(out for out in at if out <= outdoor and out < 105)
        warmer = min(out for out in at if out > colder)
        return at[colder] + (at[warmer] - at[colder]) * (outdoor - colder) / (warmer - colder)


def _axis(numbers, low, high, across_low, across_high):
    """From the numbers printed in a row along an axis: place -> value, or value -> place."""
    rows = {}
    for word in numbers:
        rows.setdefault(round((word[across_low] + word[across_high]) / 2 / 3), []).append(word)
    row = max(rows.values(), key=len)
    places = sorted(((w[low] + w[high]) / 2, float(w["text"])) for w in row)
    (p0, v0), (p1, v1) = places[0], places[-1]

    def axis(at, back=False):
        return p0 + (at - v0) * (p1 - p0) / (v1 - v0) if back else v0 + (at - p0) * (v1 - v0) / (p1 - p0)

    return axis


def _ending_at(curves, y):
    return min(curves, key=lambda curve: abs(curve["pts"][-1][1] - y))


def _height(points, x):
    for (x0, y0), (x1, y1) in pairwise(points):
        if x0 - 0.01 <= x <= x1 + 0.01:
            return y0 + (y1 - y0) * (x - x0) / (x1 - x0)
    raise AssertionError("the curve does not reach there")


def test_the_split_is_read_off_within_half_a_degree_of_the_engines(printed, ours):
    """Also for return air other than the curves', by the note under them."""
    _, page, _ = printed
    material = material_of(ours.round)
    read, table = stored_round(material), table_of_round(material)
    drawn = panel.panel_of(read, table).split
    note = page.extract_text().split("Add ")[1].split(" for each degree")[0]
    scales, random = Scales(page), Random(7)
    low, high = drawn.curves[85.0][0][0], drawn.curves[85.0][-1][0]
    air = [
        (drawn.return_f + random.uniform(-3, 3), random.uniform(low, high), random.uniform(75, 105)) for _ in range(60)
    ]
    expected = panel._expected("split", read, table, air)
    assert len(expected) == len(air)
    for (return_f, wet_bulb, outdoor), q in expected.items():
        by_hand = scales.read(wet_bulb, outdoor) + float(note) * (return_f - drawn.return_f)
        assert by_hand == pytest.approx(q.expected.value, abs=0.5), (return_f, wet_bulb, outdoor)


def test_the_liquid_line_is_read_off_within_half_a_degree_of_the_engines(printed, ours):
    _, page, _ = printed
    scale = page.crop((page.width * 0.47, 0, page.width * 0.76, page.height / 2)).extract_text()
    numbers = [[float(w) for w in line.split() if w.isdigit()] for line in scale.splitlines()]
    rows = {row[0]: row[1:] for row in numbers if len(row) == 4}
    material = material_of(ours.round)
    found = panel._expected("approach", stored_round(material), table_of_round(material),
                            [(76.0, wb, out) for out in rows for wb in panel.LIQUID_WET_BULB_F])  # fmt: skip
    assert len(rows) >= 7 and len(found) == 3 * len(rows)
    for (_, wet_bulb, out), q in found.items():
        printed_f = rows[out][panel.LIQUID_WET_BULB_F.index(wet_bulb)]
        assert printed_f == pytest.approx(out + q.expected.value, abs=0.51), "whole degrees are printed"


def test_its_code_leads_to_the_machine_and_nothing_is_near_an_edge_or_the_cut(printed, ours):
    paper, _, content = printed
    image = pypdfium2.PdfDocument(content)[0].render(scale=MM_DOTS * 25.4 / 72).to_pil()
    codes = zxingcpp.read_barcodes(image)
    house, system = ours.house.public_id, ours.system.public_id
    assert {code.text for code in codes} == {f"http://testserver/houses/{house}/#system-{system}"} and len(codes) == 2
    dark = np.asarray(image.convert("L")) < 200
    edge, cut = 8 * MM_DOTS, round(HALF_MM[paper] * MM_DOTS)
    inside = dark.copy()
    inside[edge:-edge, edge:-edge] = False
    assert not inside.any(), "nothing within 8 mm of an edge"
    beside = dark[cut - edge : cut + edge]
    beside[edge - MM_DOTS : edge + MM_DOTS] = False  # the line itself
    assert dark[cut - MM_DOTS : cut + MM_DOTS].size and not beside.any(), "nor of the cut"


def test_what_cannot_be_drawn_says_why_and_the_sheet_is_still_made(signed_in, ours, theirs):
    address = reverse("exchange:panel", args=[ours.system.public_id])
    with pdfplumber.open(io.BytesIO(signed_in.get(address).content)) as pdf:
        assert "Nothing was read at this machine yet" in pdf.pages[0].extract_text()
    assert signed_in.get(reverse("exchange:panel", args=[theirs.system.public_id])).status_code == 404


@pytest.mark.parametrize(("more", "why"), [
    ({"kind": "ground_source"}, "ground_source"), ({"cfm": None}, "airflow"), ({}, ""),
    ({"metering_device": "fixed_orifice"}, ""), ({"altitude_ft": 6200.0}, ""), ({"kind": "heat_pump"}, ""),
])  # fmt: skip
def test_it_is_drawn_for_every_air_source_machine_whose_airflow_is_known(more, why):
    found = panel.panel_of(walk(liquid=102.0, **more))
    assert found.why_not == why and bool(found.split and found.liquid) == (not why)
    if found.split:
        assert 0.7 < found.split.per_degree < 1.0, "one less the bypass factor: the coil is wet"
        splits = [s for curve in found.split.curves.values() for _, s in curve]
        assert all(5.0 < s < 32.0 for s in splits)
