"""Contradictions, validity, states and the first verdict, through one harness: fires, does not fire, not enough data."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from engine.assessment.assess import assess
from engine.errors import EngineError
from engine.houserules.rules import RULES as HOUSE_RULES
from engine.houserules.rules import HouseRules, choose, field_names
from engine.judgement.blind_spots import blind_spots
from engine.judgement.causes import Setting
from engine.judgement.indicators import BORDERLINE, CANT_TELL, IN_RANGE, OUT_OF_RANGE, state_of
from engine.judgement.residuals import KINDS
from engine.judgement.verdict import RULES
from engine.readings.entry import Accepted, Asked, Refused, check_entry
from tests.engine.rounds import round_

WET = {"humidity": "wet_bulb", "return_rh": 63.5}
VERDICTS = [
    # rule expected, what is different from a sound machine, words it must say
    ("nothing_out_of_range", {"method": "blower_table"}, "agrees with"),
    ("looks_right", {"supply_f": 55.8}, "are what this air should give"),
    ("looks_right", {"supply_f": 55.8, "minutes": 15.0}, "are what this air should give"),
    ("airflow_low", {"cfm": 880.0, "supply_f": 51.8, "supply_rh": 94.0}, "Do not add refrigerant"),
    ("airflow_low", {"cfm": 780.0, "supply_f": None}, "seriously low"),
    ("airflow_low", {"cfm": 780.0, "supply_f": 50.3, "supply_rh": 95.0}, "seriously low"),
    ("airflow_high", {"cfm": 1600.0, "supply_f": 58.8, "supply_rh": 85.0}, "533 CFM per ton"),
    ("split_high", {"method": "nominal_guess", "supply_f": 49.0, "supply_rh": 95.0}, "less air is moving than guessed"),
    ("split_high_airflow_in_range", {"supply_f": 48.5, "supply_rh": 95.0}, "One of them is wrong"),
    ("capacity_low", {"supply_f": 63.0, "supply_rh": 82.0}, "Airflow is in range and capacity is"),
    ("low_on_a_guess", {"method": "nominal_guess", "supply_f": 64.0, "supply_rh": 72.0}, "proved before charge is doubted"),
    ("airflow_guessed", {"method": "nominal_guess"}, "A guess proves nothing"),
    ("needs_readings", {"supply_f": None}, "supply dry bulb"),
    ("needs_more", {"cfm": None}, "airflow"),
    ("not_valid", {"minutes": 6.0}, "6 of 15 minutes"),
    ("not_valid", {"minutes": None}, "not entered"),
    ("not_valid", {"outdoor_f": 61.0}, "Too cold out"),
    ("not_valid", {"strips": "on"}, "strips are on"),
    ("not_valid", {"strips": None}, "not entered"),
    ("not_valid", {"seen": {"condenser_coil": "wet"}}, "condenser coil is wet"),
    ("not_valid", {"seen": {"panels": "off"}}, "panel is off"),
    ("contradiction", {"supply_f": 81.0}, "that is not cooling"),
    ("contradiction", {**WET, "return_rh": 79.0, "supply_rh": 53.0}, "no air is like that"),
    ("contradiction", {**WET, "return_rh": 30.0, "supply_rh": 53.0}, "cannot be that dry"),
    ("contradiction", {"supply_f": 66.0, "supply_rh": 99.0, "return_rh": 40.0}, "does not add water"),
    ("nothing_to_compare", {"outdoor_f": 67.0}, "70 to 115 °F"),
    ("nothing_to_compare", {"kind": "ground_source"}, "ground-source"),
    ("unsettled", {"supply_probe": "other", "supply_f": 58.0, "method": "blower_table"}, "not settled by these readings"),
]


@pytest.mark.parametrize(("rule", "changes", "words"), VERDICTS)
def test_verdict(rule, changes, words):
    verdict = assess(round_(**changes)).verdict
    assert verdict.rule == rule, verdict
    assert words in verdict.says and verdict.next_step and verdict.headline


def test_every_verdict_rule_is_shown_to_fire():
    assert {rule.id for rule in RULES} == {rule for rule, _, _ in VERDICTS}


def test_the_order_of_readings_does_not_matter():
    given = round_(cfm=880.0)
    backwards = type(given)(**{**vars(given), "readings": given.readings[::-1]})
    assert assess(backwards).verdict == assess(given).verdict


@pytest.mark.parametrize(("altitude", "changes"), [
    (1150.0, {"return_f": 78.6, "return_rh": 68.0, "supply_f": 62.2, "supply_rh": 95.0, "outdoor_f": 88.0}),
    (6200.0, {"return_f": 76.0, "return_rh": 36.0, "supply_f": 49.5, "supply_rh": 70.0, "outdoor_f": 86.0, "cfm": 1260.0}),
])  # fmt: skip
def test_humid_house_and_dry_mountain_house_are_not_condemned(altitude, changes):
    result = assess(round_(altitude_ft=altitude, **changes))
    assert result.verdict.kind in ("fine", "open"), result.verdict
    flat = assess(round_(altitude_ft=altitude, rules=choose({"split_school": "flat"}), **changes))
    assert flat.indicator("split").state == OUT_OF_RANGE, "the flat band would have condemned it"


def test_contradictions_withhold_what_hangs_on_them_and_nothing_else():
    result = assess(round_(supply_f=81.0))
    assert not result["split_f"].known and "81.0" in result["split_f"].missing
    assert not result["total_btuh"].known and result["cfm_per_ton"].known
    assert all(finding.fields and finding.hint for finding in result.findings if finding.level == "contradiction")


def test_within_the_probes_uncertainty_of_saturation_is_taken_as_saturated_and_said():
    result = assess(round_(humidity="wet_bulb", return_rh=63.5, supply_f=54.0, supply_rh=54.6))
    assert [f.id for f in result.findings] == ["taken_as_saturated"] and "taken as saturated" in result.findings[0].message
    assert result["supply_rh_pct"].value == pytest.approx(100.0) and result["total_btuh"].known


def test_dry_coil_seen_but_water_taken_is_noted():
    assert "dry_coil_takes_water" in {f.id for f in assess(round_(coil="dry")).findings}
    assert "dry_coil_takes_water" not in {f.id for f in assess(round_()).findings}


def test_states_follow_the_margin():
    """JCGM 106:2012 conformity probability: certain inside, certain outside, in doubt, too wide to say."""
    assert state_of(0.0, 1.0, 3.0) == IN_RANGE and state_of(-2.0, 1.5, 3.0) == IN_RANGE
    assert state_of(6.0, 2.0, 3.0) == OUT_OF_RANGE and state_of(-6.0, 2.0, 3.0) == OUT_OF_RANGE
    assert state_of(3.0, 2.0, 3.0) == BORDERLINE
    assert state_of(0.0, 9.0, 3.0) == CANT_TELL and state_of(4.0, 9.0, 3.0) == CANT_TELL


@given(st.floats(-20, 20), st.floats(0.01, 10), st.floats(0.5, 5))
def test_a_wider_uncertainty_never_makes_a_reading_surely_out(difference, u95, tolerance):
    assert state_of(difference, u95, tolerance) == state_of(-difference, u95, tolerance)
    if state_of(difference, u95, tolerance) != OUT_OF_RANGE:
        assert state_of(difference, 3 * u95, tolerance) != OUT_OF_RANGE


def test_outside_the_curves_range_expected_values_are_withheld_with_the_reason():
    result = assess(round_(outdoor_f=67.0))
    assert "70 to 115 °F" in result["expected_total_btuh"].missing and result["total_btuh"].known
    assert result.verdict.kind == "open"


@pytest.mark.parametrize("setting", [Setting(d, m, mode, source) for d in ("txv", "fixed_orifice", "unknown") for m in ("psc", "constant_airflow")
                                     for mode in ("cooling", "heating") for source in ("air", "water")])  # fmt: skip
@pytest.mark.parametrize("have", [(), ("approach", "airflow"), ("heat_moved", "airflow"), tuple(KINDS)])
def test_blind_spots_are_stated_with_every_result(setting, have):
    said = " ".join(blind_spots(setting, have))
    assert said, "no result without its blind spots"
    assert ("constant-airflow" in said) is (setting.motor == "constant_airflow") and ("airflow is a guess" in said) is (
        "airflow" not in have
    )
    if (setting.source, setting.mode) == ("air", "cooling"):
        assert ("TXV" in said) is (setting.device != "fixed_orifice" and "approach" in have)
        assert "vercharge" in said, "it hardly shows on the air side"


def test_house_rules_are_one_structure():
    assert {rule.id for rule in HOUSE_RULES} == field_names()
    assert all(rule.default == getattr(HouseRules(), rule.id) and rule.default in rule.alternatives for rule in HOUSE_RULES)
    assert assess(round_(minutes=11.0, rules=choose({"settle_minutes": 10.0}))).verdict.rule != "not_valid"
    with pytest.raises(EngineError, match="cannot be 12"):
        choose({"settle_minutes": 12.0})
    with pytest.raises(EngineError, match="unknown"):
        choose({"vibes": 1})


@pytest.mark.parametrize(("place", "quantity", "text", "unit", "answer"), [
    ("return_unit", "dry_bulb", "76.4", "degF", Accepted(76.4)),
    ("return_unit", "dry_bulb", " 76,4 ", "degF", Accepted(76.4)),
    ("return_unit", "dry_bulb", "24", "degC", Accepted(75.2)),
    ("blower", "airflow", "566", "L/s", Accepted(1199.3)),
    ("blower", "airflow", "1,200", "CFM", Accepted(1200.0)),
    ("blower", "airflow", "1_200", "CFM", Refused),
    ("return_unit", "dry_bulb", "24", "degF", Asked),
    ("outdoor", "dry_bulb", "33", "degF", Asked),
    ("supply_plenum", "dry_bulb", "33", "degF", Accepted(33.0)),
    ("return_unit", "dry_bulb", "warm", "degF", Refused),
    ("return_unit", "dry_bulb", "nan", "degF", Refused),
    ("return_unit", "dry_bulb", "1e2", "degF", Refused),
    ("return_unit", "dry_bulb", "-", "degF", Refused),
    ("return_unit", "dry_bulb", "999", "degF", Refused),
    ("return_unit", "rh", "101", "pct", Refused),
    ("return_unit", "rh", "50", "degF", Refused),
    ("blower", "dry_bulb", "70", "degF", Refused),
    ("system", "running_time", "-3", "min", Refused),
])  # fmt: skip
def test_one_reading_alone(place, quantity, text, unit, answer):
    found = check_entry(place, quantity, text, unit)
    if isinstance(answer, Accepted):
        assert found.value == pytest.approx(answer.value, abs=0.05)
    else:
        assert isinstance(found, answer)


def test_celsius_is_asked_once_and_an_instruments_range_counts():
    assert check_entry("return_unit", "dry_bulb", "24", "degF", confirmed=True) == Accepted(24.0)
    outside = check_entry("outdoor", "dry_bulb", "125", "degF", instrument_range=(14.0, 122.0))
    assert isinstance(outside, Refused) and "14 °F to 122 °F" in outside.message
