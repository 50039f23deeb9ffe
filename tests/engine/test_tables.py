"""Makers' tables as pasted: read, refused with line and cell, remarked on; and plates that contradict themselves."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from engine.errors import EngineError
from engine.physics.airflow.blower_table import BlowerTable
from engine.readings.nameplate import plate_findings, tons_from_capacity
from engine.readings.round import Equipment
from engine.readings.tables.paste import TableError, read_paste
from engine.readings.tables.understood import KINDS, grid, understand
from engine.report.plate_words import defaults_said, plate_finding_said
from engine.report.words import FAHRENHEIT


@pytest.mark.parametrize("kind", KINDS)
@pytest.mark.parametrize("separator", ["\t", ";", ",", "|"])
def test_every_kinds_example_is_understood_whatever_separates_its_cells(kind, separator):
    found = understand(kind, KINDS[kind].example.replace(", ", separator), 3.0)
    assert (
        len(found.columns) == 3 and all(len(curve) == len(found.rows) for curve in found.curves) and found.remarks == ()
    )


def test_spreadsheet_habits_are_read():
    pasted = read_paste(
        "Static\tLow\tHigh\t\n0.1 in. w.c.\t1,050\t1 300\n".replace("1 300", "1300") + "0,3\t980 CFM\t–\n"
    )
    assert (
        pasted.rows == (0.1, 0.3)
        and pasted.values == ((1050.0, 1300.0), (980.0, None))
        and pasted.header == ("Low", "High")
    )


@pytest.mark.parametrize("kind, text, line, cell, words", [
    ("blower", "static, low\n0.1, 900\n0.3, lots", 3, 2, "'lots' is not a number"),
    ("blower", "static, low\n0.1, 900", 0, 0, "at least two rows"),
    ("blower", "static, low, low\n0.1, 900, 1000\n0.3, 800, 900", 1, 0, "its own name"),
    ("blower", "static, low\n0.3, 900\n0.1, 950", 0, 0, "statics rising"),
    ("blower", "static, low\n0.1, 800\n0.5, 900", 0, 0, "less air at more static"),
    ("blower", "static, low\n75, 900\n125, 850", 2, 1, "Is the unit right"),
    ("performance", "wb, 85, 95\n63, 34800, 32900\n67, 37500,", 3, 3, "not filled in"),
    ("performance", "wb, 29, 35\n17, 34800, 32900\n19, 37500, 35000", 2, 1, "Is the unit right"),
    ("drop", "gpm, 50, 70\n9, 3.2, 3.0\n6, 1.5, 1.4", 0, 0, "must rise"),
    ("superheat", "wet bulb, 70, 80\n63, 17, 12\n67, 23, 18", 0, 0, "rows and columns swapped"),
    ("superheat", "outdoor, 63, 67\n75, 170, 120\n85, 12, 18", 2, 2, "Is the unit right"),
    ("heat", "a, b, 9\n50, 1, 2\n60, 3, 4", 1, 2, "'b' is not a number"),
    ("nothing", "a, b\n1, 2\n3, 4", 0, 0, "no kind"),
])  # fmt: skip
def test_what_is_wrong_is_named_with_its_line_and_cell(kind, text, line, cell, words):
    with pytest.raises(TableError) as error:
        understand(kind, text, 3.0)
    assert (error.value.line, error.value.cell) == (line, cell) and words in str(error.value)


@settings(max_examples=150, deadline=None)
@given(st.text(max_size=120), st.sampled_from(sorted(KINDS)))
def test_any_text_is_understood_or_refused_in_words(text, kind):
    try:
        understand(kind, text, 3.0)
    except EngineError as error:
        assert str(error)


def test_a_table_of_another_unit_is_remarked_on_and_a_grid_reads_between_its_lines():
    assert "does it belong to this unit" in understand("blower", KINDS["blower"].example, 5.0).remarks[0]
    assert "belong to this unit" in understand("performance", KINDS["performance"].example, 1.5).remarks[0]
    chart = understand("superheat", "outdoor, 59, 63\n85, 6, 12\n95, , 7", 3.0)
    assert "1 without a target" in chart.remarks[0] and chart.curves[0] == ((85.0, 6.0),)
    table = grid("X", "performance", read_paste(KINDS["performance"].example))
    assert table.at(65.0, 95.0) == pytest.approx((32900 + 35500) / 2)


TABLE = BlowerTable("Y", {"low": ((0.1, 700.0), (0.5, 600.0))})


@pytest.mark.parametrize("plate, year, expected", [
    ({"refrigerant": "R-22"}, 2018, "refrigerant_and_age"), ({"refrigerant": "R-454B"}, 2012, "refrigerant_and_age"), ({"refrigerant": "R-410A"}, 2015, None),
    ({"blower_table": TABLE}, None, "tons_and_blower"), ({"nominal_tons": 1.5, "blower_table": TABLE, "tap": "high"}, None, "tap_not_in_table"),
    ({"compressor_rla": 60.0}, None, "amps_and_tons"), ({"compressor_rla": 14.0}, None, None), ({"metering_device": "unknown"}, None, "metering_unknown"),
    ({"seer": 18.0}, None, "stages_unknown"), ({"seer": 18.0, "stages": "single"}, None, None), ({"seer": 14.0}, None, None),
])  # fmt: skip
def test_contradictory_plates_are_caught(plate, year, expected):
    found = plate_findings(Equipment(**{"nominal_tons": 3.0, "metering_device": "txv", **plate}), year)
    assert [f.id for f in found] == ([expected] if expected else []) and all(plate_finding_said(f) for f in found)


def test_defaults_are_said_aloud_and_tons_follow_from_capacity():
    said = " ".join(defaults_said(Equipment(3.0, metering_device="txv"), FAHRENHEIT))
    assert "10 °F, the usual stand-in" in said and "0.50 in. w.c." in said and "No blower table" in said
    assert "No rated-load amps" in said
    full = defaults_said(Equipment(3.0, metering_device="txv", compressor_rla=15.0), FAHRENHEIT)
    assert "rated-load amps" not in " ".join(full)
    assert "class mid" in " ".join(defaults_said(Equipment(3.0, seer=14.0), FAHRENHEIT))
    heats = Equipment(3.0, kind="heat_pump")
    for plate, says in ((heats, True), (replace(heats, heating_btuh_47=34000.0), False), (Equipment(3.0), False)):
        assert ("No rated heating" in " ".join(defaults_said(plate, FAHRENHEIT))) == says
    # 12,000 BTU/h to the ton: definition
    assert [tons_from_capacity(b) for b in (36000, 34800, 29400, 18200)] == [3.0, 3.0, 2.5, 1.5]
