"""A whole round: which authority expected values come from, what the sections are fed with, airflow weighed."""

import json
from dataclasses import replace
from pathlib import Path

import pytest

from engine.assessment.whole import assess_whole, rounds_agree, with_weighed_airflow
from engine.bundle.reading import visit_of
from engine.expected.cooling import power_fraction
from engine.readings.round import Reading
from engine.refrigerant.charge import subcooling_f, superheat_f
from engine.refrigerant.properties import refrigerant
from engine.water.exchanger import Grid, flow_from_drop

EXAMPLES = Path(__file__).parent.parent.parent / "docs" / "examples"


def visit(name):
    return visit_of(json.loads((EXAMPLES / name).read_text()))


TXV = visit("air-conditioner-txv.json")
FIRST, AFTER = (round_ for _, round_ in TXV.rounds)


def changed(round_, place, quantity, value):
    """The round with one reading's value changed."""
    readings = tuple(replace(r, value=value) if (r.place, r.quantity) == (place, quantity) else r for r in round_.readings)
    return replace(round_, readings=readings)


def section(whole, id_):
    return next(s for s in whole.sections if s.id == id_)


def test_a_round_is_as_expected_against_itself_and_lasting_errors_cancel():
    """In the same weather the own baseline expects exactly what it measured: model now + (measured then - model then)."""
    same = assess_whole(TXV.baseline, TXV.baseline)
    split, _, capacity = same.indicators
    assert split.authority == capacity.authority == "Own baseline"
    assert split.expected.value == pytest.approx(split.measured.value) and capacity.expected.value == pytest.approx(
        capacity.measured.value
    )
    alone = assess_whole(TXV.baseline)
    assert split.expected.u95 < 0.75 * alone.indicators[0].expected.u95, "model, blower and table errors are the same both times"
    hotter = assess_whole(changed(TXV.baseline, "outdoor", "dry_bulb", 102.0), TXV.baseline)
    assert hotter.indicators[0].expected.value < split.expected.value - 0.5, "corrected to today's weather"


def test_the_makers_table_beats_the_baseline():
    table = Grid(
        "Maker A AC36", "return wet bulb", (59.0, 67.0), "outdoor", (85.0, 95.0), ((34000.0, 32000.0), (38000.0, 36000.0))
    )
    with_table = replace(AFTER, equipment=replace(AFTER.equipment, performance_table=table))
    capacity = assess_whole(with_table, TXV.baseline).indicators[2]
    assert capacity.authority == "Published table" and 34000 < capacity.expected.value < 37000


def test_the_ledger_counts_all_heat_once():
    """By hand: heat taken from the air less the condensate's, plus compressor and blower, and the condenser's air carries it."""
    whole = assess_whole(FIRST)
    amps, volts = FIRST.by_leg("compressor", "current"), FIRST.by_leg("compressor", "voltage")
    watts = sum(volts[leg] * amps[leg] for leg in amps) * 0.95 + FIRST.value("blower", "power")
    taken = whole.air["total_less_condensate_btuh"].value
    found = section(whole, "ledger").values
    assert found["heat_rejected_btuh"].value == pytest.approx(taken + watts * 3.412142, rel=1e-6)
    rise = FIRST.value("condenser_air_out", "dry_bulb") - FIRST.value("outdoor", "dry_bulb")
    assert found["implied_condenser_cfm"].value == pytest.approx(
        found["heat_rejected_btuh"].value / (1.08 * rise), rel=0.15
    )  # hot air is thin


def test_energy_efficiency_ratio_and_its_uncertainty_by_hand():
    """Net capacity over all three loads; 6 % on the power in quadrature with the capacity's own 95 %."""
    with_fan = replace(FIRST, readings=(*FIRST.readings, Reading("outdoor_fan", "power", 180.0)))
    whole = assess_whole(with_fan)
    found, total = section(whole, "electrical").values, whole.air["total_btuh"]
    watts = found["compressor_w"].value + 180.0 + FIRST.value("blower", "power")
    assert found["eer"].value == pytest.approx(total.value / watts)
    assert found["eer"].u95 / found["eer"].value == pytest.approx(((total.u95 / total.value) ** 2 + 0.06**2) ** 0.5)
    assert "eer" not in section(assess_whole(FIRST), "electrical").values, "not without every load"


def test_a_known_condenser_airflow_must_close_the_ledger():
    implied = section(assess_whole(FIRST), "ledger").values["implied_condenser_cfm"].value
    for cfm, words in ((implied, "closes"), (1.9 * implied, "does not close")):
        known = replace(FIRST, readings=(*FIRST.readings, Reading("condenser_air", "airflow", cfm, None, "traverse", "supply")))
        assert words in " ".join(section(assess_whole(known), "ledger").says)


def test_the_expected_approach_does_not_follow_a_sick_capacity():
    sick = changed(changed(AFTER, "supply_plenum", "dry_bulb", 66.0), "supply_plenum", "rh", 70.0)
    well = section(assess_whole(AFTER), "lines").values["expected_approach_f"].value
    assert section(assess_whole(sick), "lines").values["expected_approach_f"].value == pytest.approx(well, abs=0.3)


def test_water_flow_is_read_at_the_entering_temperature():
    (_, round_), = visit("ground-source.json").rounds  # fmt: skip
    plate = round_.equipment
    entering = flow_from_drop(
        plate.drop_table, plate.model, round_.value("water_loop", "water_drop"), round_.value("water_in", "temperature")
    )
    leaving = flow_from_drop(
        plate.drop_table, plate.model, round_.value("water_loop", "water_drop"), round_.value("water_out", "temperature")
    )
    found = section(assess_whole(round_), "water").values["water_flow_gpm"].value
    assert found == pytest.approx(entering.gpm) and abs(entering.gpm - leaving.gpm) > 0.05


def test_baseline_amps_are_corrected_to_the_weather():
    """Hotter outdoors the same amps are too few: the curves' power is what they should have risen by."""
    assert power_fraction("air_conditioner", 63.0, 105.0, 1.0) > 1.1 * power_fraction("air_conditioner", 63.0, 85.0, 1.0)
    at_baseline = section(assess_whole(TXV.baseline, TXV.baseline), "electrical")
    assert not any("baseline for today" in text for text in at_baseline.says)
    hot = changed(TXV.baseline, "outdoor", "dry_bulb", 108.0)
    assert any("baseline for today" in text for text in section(assess_whole(hot, TXV.baseline), "electrical").says)


def test_airflows_found_in_two_ways_are_weighed_and_disagreement_is_said():
    both = replace(FIRST, readings=(*FIRST.readings, Reading("blower", "airflow", 930.0, None, "flow_device", "return")))
    one, weighed, _ = with_weighed_airflow(both)
    assert set(weighed.weights) == {"flow_device", "blower_table"} and not weighed.disagreements
    assert (
        len([r for r in one.readings if r.quantity == "airflow"]) == 1
        and one.reading("blower", "airflow").method == "flow_device"
    )
    alone = assess_whole(FIRST).air["cfm_per_ton"].u95
    assert assess_whole(both).air["cfm_per_ton"].u95 < 0.75 * alone, "two independent ways know more than one"
    apart = replace(FIRST, readings=(*FIRST.readings, Reading("blower", "airflow", 1400.0, None, "flow_device", "return")))
    assert any("differ by" in text for text in section(assess_whole(apart), "airflow").says)
    assert assess_whole(apart).air["cfm_per_ton"].u95 > 1.5 * alone, "a disagreement widens the answer"


def test_blends_use_bubble_for_subcooling_and_dew_for_superheat():
    table, line = refrigerant("R-407C"), 100.0
    gauge = float(table.pressure_psia(110.0, "bubble")) - 14.696
    assert subcooling_f("R-407C", line, gauge, 0.0) == pytest.approx(10.0, abs=0.01)
    assert superheat_f("R-407C", 60.0, float(table.pressure_psia(45.0, "dew")) - 14.696, 0.0) == pytest.approx(15.0, abs=0.01)


def test_rounds_of_a_visit_are_held_against_each_other():
    assert rounds_agree(FIRST, AFTER) == []
    moved = replace(AFTER, readings=tuple(replace(r, spot="hole 2") if r.quantity == "dry_bulb" else r for r in AFTER.readings))
    assert any("was moved" in text for text in rounds_agree(FIRST, moved))
