"""Quantities: one object each, which authority its expected value comes from, worked out once, and the ledger by hand."""

import json
from collections import Counter
from dataclasses import replace
from math import exp
from pathlib import Path

import pytest

from engine.assessment import assess, table_of
from engine.constants import ORIFICE_APPROACH_PER_F
from engine.expected.cooling import power_fraction
from engine.physics.refrigerant.properties import refrigerant
from engine.physics.water.exchanger import Grid, flow_from_drop
from engine.quantities import table as quantities
from engine.quantities.amps import efficiency
from engine.quantities.quantity import compared
from engine.readings.round import Reading, RoomDuct
from engine.report.air_words import disagreements
from engine.report.bundle.answer import answer_of
from engine.report.bundle.reading import visit_of
from engine.report.charts.ledger import ledger_says
from engine.report.finding_words import said as finding_said
from engine.report.marks import beam_row, place_marks
from engine.report.quantity_words import sentence
from engine.report.words import FAHRENHEIT, Words
from engine.uncertainty.estimate import Estimate
from engine.uncertainty.margin import CANT_TELL
from tests.engine.rounds import round_, walk, with_readings
from tests.engine.test_causes_elsewhere import ground

EXAMPLES = Path(__file__).parent.parent.parent / "docs" / "examples"


def visit(name):
    return visit_of(json.loads((EXAMPLES / name).read_text()))


TXV = visit("air-conditioner-txv.json")
FIRST, AFTER = (round_ for _, round_ in TXV.rounds)


def changed(given, place, quantity, value):
    """The round with one reading's value changed."""
    readings = tuple(
        replace(r, value=value) if (r.place, r.quantity) == (place, quantity) else r for r in given.readings
    )
    return replace(given, readings=readings)


def test_each_quantity_is_worked_out_once_for_an_assessment(monkeypatch):
    """Marks, rows, sentences, residuals and the answer read the same object: no part is worked out a second time."""
    counted = Counter()

    def once(name):
        work = getattr(quantities, name)

        def counting(*args):
            counted[name] += 1
            return work(*args)

        monkeypatch.setattr(quantities, name, counting)

    names = (
        "split",
        "capacity",
        "supply_dew_point",
        "airflow",
        "total_static",
        "drops",
        "approach",
        "suction",
        "suction_rise",
        "liquid_drop",
        "condenser_rise",
        "draw",
        "superheat",
        "subcooling",
        "evaporating",
        "condensing",
        "plate_amps",
        "duct_gains",
        "return_leak",
        "heat_ledger",
    )
    baseline = table_of(TXV.baseline)
    for name in names:
        once(name)
    found = assess(FIRST, baseline)
    answer_of(found), place_marks(found), beam_row(found), answer_of(found, Words("C"))
    assert counted == dict.fromkeys(names, 1)


def test_an_unknown_class_has_one_expected_approach_and_one_state_everywhere():
    """SEER unknown and an approach of +13 °F: sentence, mark, row and residual say the same."""
    found = assess(walk(liquid=104.0, seer=None))
    q = found.table["approach"]
    assert q.authority == "class_unknown" and q.state == "in range" and q.expected.value == q.residual.expected
    assert "bare limit for modern equipment" in sentence(q, FAHRENHEIT, found.table)
    over = assess(walk(liquid=110.0, seer=None)).table["approach"]
    assert over.state == "out of range", "over 15 °F: common practice for modern equipment of unknown class"


@pytest.mark.parametrize(("device", "plate_f", "outdoor_f", "extra_f", "said"), [
    ("txv", 10.0, 95.0, 0.0, "less 10 °F subcooling): in range"),
    ("txv", None, 95.0, 27**0.5, "the usual stand-in"),
    ("fixed_orifice", 10.0, 95.0, 27**0.5, "which only a TXV holds"),
    ("fixed_orifice", 10.0, 75.0, (27 + (20 * ORIFICE_APPROACH_PER_F.value) ** 2) ** 0.5, "which only a TXV holds"),
])  # fmt: skip
def test_an_approach_is_held_as_closely_as_its_subcooling(device, plate_f, outdoor_f, extra_f, said):
    """The usual ±4 °F is for a target that a TXV holds within ±3 °F. A subcooling that may stand 6 °F off takes the
    liquid line along by as much: 6² - 3² = 27 (by hand; common practice for the figures).
    """
    given = walk(
        liquid=outdoor_f + 10.0, outdoor_f=outdoor_f, metering_device=device, target_subcooling_f=plate_f, seer=14.0
    )
    found = assess(given)
    q = found.table["approach"]
    assert q.low == q.high == pytest.approx((4.0**2 + extra_f**2) ** 0.5)
    assert said in sentence(q, FAHRENHEIT, found.table)


DRAWS = ("compressor", "current", 11.0)


def test_the_draw_goes_by_the_rating_and_by_the_rated_amps():
    """Two witnesses of a sound compressor's draw: together narrower than either, between them, nearer to the surer."""
    rated, by_amps, by_both = (
        assess(with_readings(walk(liquid=101.0, **plate), DRAWS)).table["amps"]
        for plate in ({"seer": 14.0}, {"seer": None, "compressor_rla": 18.0}, {"seer": 14.0, "compressor_rla": 18.0})
    )
    share = [q.expected.u95 / q.expected.value for q in (rated, by_amps, by_both)]
    assert share[2] < min(share[:2]) and share[1] < share[0]
    assert rated.expected.value < by_both.expected.value < by_amps.expected.value
    assert by_amps.expected.value - by_both.expected.value < by_both.expected.value - rated.expected.value
    assert [q.authority for q in (rated, by_amps, by_both)] == ["rating", "rated_amps", "rating_and_amps"]


def test_larger_condensers_warm_their_air_less_and_thin_air_is_warmed_more():
    """An effectiveness of 0.75 is 1 - exp(-1.39) by hand; of 20 °F over ambient it makes 15 °F."""
    sea_level = replace(FIRST, altitude_ft=0.0)
    old, mid, high = (assess(replace(sea_level, equipment=replace(FIRST.equipment, seer=s))) for s in (9.0, 14.0, 17.0))
    rises = [rise_of(found) for found in (old, mid, high)]
    assert rises == sorted(rises, reverse=True)
    for found in (old, mid, high):
        assert rise_of(found) == pytest.approx((1 - exp(-1.386)) * over_of(found), rel=0.01)
    low, up = assess(sea_level), assess(replace(FIRST, altitude_ft=5000.0))
    thinner = rise_of(up) / over_of(up) / (rise_of(low) / over_of(low))
    assert thinner == pytest.approx(14.696 / 12.228, rel=0.005), "standard atmosphere at sea level and 5,000 ft"


def rise_of(found):
    return found.table["condenser_rise"].expected.value


def over_of(found):
    return found.table["approach"].basis["over_ambient_f"]


def test_a_round_is_as_expected_against_itself_and_lasting_errors_cancel():
    """In the same weather the own baseline expects exactly what it measured: model now + (measured then - model then)."""
    baseline = table_of(TXV.baseline)
    same = assess(TXV.baseline, baseline).table
    split, capacity = same["split"], same["capacity"]
    assert split.authority == capacity.authority == "own_baseline"
    assert split.expected.value == pytest.approx(split.measured.value) and capacity.expected.value == pytest.approx(
        capacity.measured.value
    )
    alone = assess(TXV.baseline).table["split"]
    assert split.off.u95 < 0.75 * alone.off.u95, "model, blower and table errors are the same both times"
    hotter = assess(changed(TXV.baseline, "outdoor", "dry_bulb", 102.0), baseline).table["split"]
    assert hotter.expected.value < split.expected.value - 0.5, "corrected to today's weather"


def test_the_makers_table_beats_the_curves():
    table = Grid(
        "Maker A AC36",
        "return wet bulb",
        (59.0, 67.0),
        "outdoor",
        (85.0, 95.0),
        ((34000.0, 32000.0), (38000.0, 36000.0)),
    )
    capacity = assess(replace(AFTER, equipment=replace(AFTER.equipment, performance_table=table))).table["capacity"]
    assert capacity.authority == "own_table" and 34000 < capacity.expected.value < 37000


def test_the_ledger_counts_all_heat_once():
    """By hand: heat taken from the air less the condensate's, plus compressor and blower, and the condenser's air
    carries it.
    """
    found = assess(FIRST)
    amps, volts = FIRST.by_leg("compressor", "current"), FIRST.by_leg("compressor", "voltage")
    watts = sum(volts[leg] * amps[leg] for leg in amps) * 0.95 + FIRST.value("blower", "power")
    ledger = found.table.ledger
    assert ledger.taken.value == pytest.approx(
        found.measured["total_less_condensate_btuh"].value + watts * 3.412142, rel=1e-6
    )
    rise = FIRST.value("condenser_air_out", "dry_bulb") - FIRST.value("outdoor", "dry_bulb")
    assert ledger.implied_cfm.value == pytest.approx(ledger.taken.value / (1.08 * rise), rel=0.15), "hot air is thin"


def test_energy_efficiency_ratio_and_its_uncertainty_by_hand():
    """Net capacity over all three loads; 6 % on the power in quadrature with the capacity's own 95 %."""
    with_fan = replace(FIRST, readings=(*FIRST.readings, Reading("outdoor_fan", "power", 180.0)))
    m = assess(with_fan).measured
    power, ratio = efficiency(m)
    total = m["total_btuh"]
    assert power.value == pytest.approx(m.loads["compressor"].watts + 180.0 + FIRST.value("blower", "power"))
    assert ratio.value == pytest.approx(total.value / power.value)
    assert ratio.u95 / ratio.value == pytest.approx(((total.u95 / total.value) ** 2 + 0.06**2) ** 0.5)
    assert efficiency(assess(FIRST).measured) is None, "not without every load"


@pytest.mark.parametrize(
    ("share", "open_", "words"), [(1.0, False, "closes"), (1.15, False, "near the edge"), (1.7, True, "does not close")]
)
def test_a_known_condenser_airflow_must_close_the_ledger(share, open_, words):
    implied = assess(FIRST).table.ledger.implied_cfm.value
    known = replace(
        FIRST,
        readings=(*FIRST.readings, Reading("condenser_air", "airflow", share * implied, None, "traverse", "supply")),
    )
    found = assess(known)
    assert found.table.ledger.open is open_ and words in ledger_says(found.table.ledger, FAHRENHEIT)[0]
    assert ("ledger_open" in {f.id for f in found.findings}) is open_
    if open_:  # more is given out than goes in: strips that nobody looked at would do that
        unseen = {name: degree for name, degree in known.observations.items() if name != "strip_heat"}
        for observations, look in ((unseen, True), (unseen | {"strip_heat": "off"}, False)):
            doubted = next(
                f for f in assess(replace(known, observations=observations)).findings if f.id == "ledger_open"
            )
            assert ("strips" in finding_said(doubted, FAHRENHEIT).hint) is look


def test_an_implied_condenser_airflow_says_whether_it_can_be():
    """Too much air for any condenser of its size cannot be; too little is a fault of its own, or a wrong reading."""

    def with_rise(rise):
        return assess(changed(FIRST, "condenser_air_out", "dry_bulb", FIRST.value("outdoor", "dry_bulb") + rise))

    much, little = with_rise(5.0), with_rise(38.0)
    assert "cannot be" in ledger_says(much.table.ledger, FAHRENHEIT)[0] and "ledger_open" in {
        f.id for f in much.findings
    }
    assert "too little" in ledger_says(little.table.ledger, FAHRENHEIT)[0] and "ledger_open" not in {
        f.id for f in little.findings
    }


def test_the_expected_approach_does_not_follow_a_sick_capacity():
    sick = changed(changed(AFTER, "supply_plenum", "dry_bulb", 66.0), "supply_plenum", "rh", 70.0)
    assert assess(sick).table["approach"].expected.value == pytest.approx(
        assess(AFTER).table["approach"].expected.value, abs=0.3
    )


def test_water_flow_is_read_at_the_entering_temperature_and_against_its_own_table():
    ((_, given),) = visit("ground-source.json").rounds
    plate, drop = given.equipment, given.value("water_loop", "water_drop")
    entering, leaving = (
        flow_from_drop(plate.drop_table, plate.model, drop, given.value(at, "temperature"))
        for at in ("water_in", "water_out")
    )
    found = assess(given)
    assert found.measured.water.flow.value == pytest.approx(entering.gpm) and abs(entering.gpm - leaving.gpm) > 0.05
    assert found.table["water_flow"].authority == found.table["heat_moved"].authority == "own_table"


def test_nominal_tons_are_remarked_on_only_where_the_rejection_is_short():
    """A rejection equal to nominal tons means cooling is some 15 to 20 % short: common practice, no single source."""

    def said(moved):
        found = assess(ground(mode="cooling", moved=moved))
        return found.table["heat_moved"], sentence(found.table["heat_moved"], FAHRENHEIT, found.table)

    for moved in (36000.0, 44000.0):
        q, text = said(moved)
        assert ("short" in text) <= (q.side < 0), text


def test_baseline_amps_are_corrected_to_the_weather():
    """Hotter outdoors the same amps are too few: the curves' power is what they should have risen by."""
    assert power_fraction("air_conditioner", 63.0, 105.0, 1.0) > 1.1 * power_fraction(
        "air_conditioner", 63.0, 85.0, 1.0
    )
    baseline = table_of(TXV.baseline)
    assert assess(TXV.baseline, baseline).table["amps"].state == "in range"
    assert assess(changed(TXV.baseline, "outdoor", "dry_bulb", 108.0), baseline).table["amps"].off.value < 0


def test_airflows_found_in_two_ways_are_weighed_and_disagreement_is_said():
    both = replace(
        FIRST, readings=(*FIRST.readings, Reading("blower", "airflow", 900.0, None, "flow_device", "return"))
    )
    flows = assess(both).measured.airflows
    assert set(flows.weighed.weights) == {"flow_device", "blower_table"} and not disagreements(flows)
    alone = assess(FIRST).measured["cfm_per_ton"].u95
    assert assess(both).measured["cfm_per_ton"].u95 < 0.8 * alone, "two independent ways know more than one"
    apart = assess(
        replace(FIRST, readings=(*FIRST.readings, Reading("blower", "airflow", 1400.0, None, "flow_device", "return")))
    )
    assert "differ by" in disagreements(apart.measured.airflows)[0]
    assert apart.measured["cfm_per_ton"].u95 > 1.5 * alone, "a disagreement widens the answer"


def test_a_traverse_whose_plane_nobody_said_is_known_less_surely_and_says_so():
    """Return air at 75 °F over supply air at 55 °F: their volumes differ by 4 % (ideal gas law)."""

    def flow(plane):
        return assess(round_(method="traverse", plane=plane)).measured

    unsaid, said = flow(None), flow("return")
    assert unsaid.airflow_share_u95 == pytest.approx((said.airflow_share_u95**2 + 0.04**2) ** 0.5, rel=1e-6)
    assert [c for e in unsaid.airflows.estimates for c, _ in e.caveats] == [
        "plane_not_said"
    ] and not said.airflows.estimates[0].caveats
    assert flow("supply")["mass_flow_lbh"].value > 1.03 * said["mass_flow_lbh"].value


def test_rooms_and_ducts_are_quantities_like_any_other():
    rooms = (RoomDuct("Den", 5.0, "flex", 150.0), RoomDuct("Hall", 8.0, "metal"))
    found = assess(
        with_readings(
            round_(rooms=rooms),
            ("room:Den", "dry_bulb", 63.5),
            ("return_grille", "dry_bulb", 75.9),
            ("return_grille", "rh", 52.0),
        )
    )
    den, hall = found.table["carries_room:Den"], found.table["carries_room:Hall"]
    assert den.side < 0 and "cheapest honest fix" in sentence(den, FAHRENHEIT, found.table) and not hall.side
    assert found.table["gain_room:Den"].side > 0
    assert found.table["return_dew_point"].state != "out of range"


def test_blends_use_bubble_for_subcooling_and_dew_for_superheat():
    """By hand: lines at 60 and 100 °F over the pressures of 45 °F dew and 110 °F bubble: 15 of superheat, 10 of
    subcooling.
    """
    blend = refrigerant("R-407C")
    pressures = ("gauge_suction", 45.0, "dew"), ("gauge_liquid", 110.0, "bubble")
    gauges = [(at, "pressure", float(blend.pressure_psia(t, side)) - 14.696) for at, t, side in pressures]
    lines = ("suction_line_outdoor", "temperature", 60.0), ("liquid_line_outdoor", "temperature", 100.0)
    found = assess(with_readings(round_(refrigerant="R-407C", altitude_ft=0.0), *lines, *gauges)).table
    assert found["superheat"].measured.value == pytest.approx(15.0, abs=0.02) and found[
        "subcooling"
    ].measured.value == pytest.approx(10.0, abs=0.02)


def test_what_has_no_finite_margin_is_not_said():
    """Readings far from any machine can leave an error without an end: then there is no value, and no page that fails
    on it.
    """
    found = compared(
        "split",
        "°F",
        Estimate(20.0, 0.4, "°F"),
        Estimate(20.0, 1.0, "°F"),
        (3.0, 3.0),
        pushes={"supply": float("inf")},
        authority="usual",
    )
    assert not found.measured.known and found.state == CANT_TELL and found.residual is None


@pytest.mark.parametrize(("id_", "beside", "at", "high", "calm", "points_at"), [
    ("suction_rise", (("suction_line_indoor", "temperature", 50.0),), ("suction_line_outdoor", "temperature"), 80.0, 52.0, "bare line"),
    ("liquid_drop", (("liquid_line_outdoor", "temperature", 101.0),), ("liquid_line_indoor", "temperature"), 90.0, 100.5, "kink"),
    ("drier_drop", (("drier_in", "temperature", 100.0),), ("drier_out", "temperature"), 88.0, 100.0, "drier restricts"),
    ("unit_to_register", (), ("supply_register", "dry_bulb"), 75.0, 57.0, "reheats"),
    ("filter_drop", (), ("filter", "pressure_drop"), 0.6, 0.05, "deserves a look"),
])  # fmt: skip
def test_a_quantity_too_high_says_what_it_points_at_and_one_in_range_does_not(id_, beside, at, high, calm, points_at):
    """Common practice, no single source: what each drop or gain along the way is looked at for."""
    tables = [assess(with_readings(walk(), *beside, (*at, value))).table for value in (high, calm)]
    out, fine = (sentence(table[id_], FAHRENHEIT, table) for table in tables)
    assert tables[0][id_].side == 1 and points_at in out and fine and points_at not in fine
