"""Contradictions, validity, the margin rule, entry checks and house rules, through one harness: fires, does not fire,
not enough data.
"""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from engine.assessment import assess, assess_many
from engine.diagnosis.cause import CIRCUIT_OR_OUTDOORS
from engine.diagnosis.verdict import DOES_NOT_COUNT
from engine.errors import EngineError
from engine.expected.cooling import doubt_beyond, too_far
from engine.houserules.rules import RULES as HOUSE_RULES
from engine.houserules.rules import HouseRules, choose, field_names
from engine.physics.air.moist import saturation_pressure_psia
from engine.readings.entry import Accepted, Asked, Refused, check_entry
from engine.readings.observations import sights
from engine.readings.vocabulary import FURNACE
from engine.report.entry_words import entry_said
from engine.report.finding_words import BY_ID, said
from engine.report.why_words import why
from engine.report.words import FAHRENHEIT
from engine.uncertainty.margin import BORDERLINE, CANT_TELL, IN_RANGE, OUT_OF_RANGE, state_of
from tests.engine.rounds import judge, round_, walk, with_readings

WET = {"humidity": "wet_bulb", "return_rh": 63.5}
FINDINGS = [
    # finding expected, what is different from a sound machine, words it must say, whether it withholds something
    ("not_settled", {"minutes": 6.0}, "6 of 15 minutes", True),
    ("running_not_entered", {"minutes": None}, "Nobody entered", True),
    ("too_cold_out", {"outdoor_f": 61.0}, "Too cold out", True),
    ("strips_on", {"strips": "on"}, "strips are on", True),
    ("condenser_wet", {"seen": {"condenser_coil": "wet"}}, "condenser coil is wet", True),
    ("panel_off", {"seen": {"panels": "off"}}, "panel is off", True),
    ("supply_above_return", {"supply_f": 81.0}, "that is not cooling", True),
    ("humidity_above_dry_bulb", {**WET, "return_rh": 79.0, "supply_rh": 53.0}, "that is not possible", True),
    ("wet_bulb_too_low", {**WET, "return_rh": 30.0, "supply_rh": 53.0}, "cannot be that dry", True),
    ("moisture_gained", {"supply_f": 66.0, "supply_rh": 99.0, "return_rh": 40.0}, "does not add water", True),
    ("pair_not_one_probe", {"supply_probe": "other"}, "offset does not cancel", False),
    ("dry_coil_takes_water", {"coil": "dry"}, "carries less water", False),
]


@pytest.mark.parametrize(("id_", "changes", "words", "withholds"), FINDINGS)
def test_findings_fire_and_say_what_they_withhold(id_, changes, words, withholds):
    found, verdict = judge(round_(**changes))
    finding = next(f for f in found.findings if f.id == id_)
    assert words in said(finding, FAHRENHEIT).message
    assert (found.verdict.state == "does_not_count") is withholds, found.verdict
    if withholds:
        assert finding in found.verdict.findings and verdict.next_step and words in verdict.says
    assert id_ not in {f.id for f in assess(round_()).findings}


@pytest.mark.parametrize(
    ("mode", "supply_f", "asked"), [("heating", 96.0, True), ("heating", None, False), ("cooling", 55.2, False)]
)
def test_strips_that_nobody_looked_at_void_a_heating_test_and_no_cooling_test(mode, supply_f, asked):
    """In heating they run whenever the thermostat calls them; they warm the air past the coil, and nothing before."""
    found, verdict = judge(
        replace(
            round_(
                strips=None,
                supply_f=supply_f,
                supply_rh=18.0 if asked else None,
                outdoor_f=40.0 if mode == "heating" else 90.8,
                kind="heat_pump",
            ),
            mode=mode,
        )
    )
    assert ("strips_not_seen" in {f.id for f in found.findings}) is asked
    assert ("Nobody entered whether the strips are off" in verdict.says) is asked


def test_in_cooling_a_warm_plenum_as_dry_as_it_should_be_asks_for_a_look_at_the_strips():
    for lines in ({}, {"liquid": 100.5, "coil_line": 53.0}):
        warm, verdict = judge(walk(strips=None, supply_f=62.0, supply_rh=72.0, refrigerant="R-410A", **lines))
        assert warm.diagnosis.steps[0].step.look == "strip_heat", verdict.says
        assert "strip" in verdict.next_step.lower()


def test_a_furnace_has_no_strips_that_anybody_could_look_at():
    furnace = {"strips": None, "unit": FURNACE}
    warm, verdict = judge(round_(supply_f=62.0, supply_rh=72.0, **furnace))
    assert (
        "strip_heat" not in {advice.step.look for advice in warm.diagnosis.steps} and "Heat added" not in verdict.says
    )
    winter = replace(round_(supply_f=96.0, supply_rh=18.0, outdoor_f=40.0, kind="heat_pump", **furnace), mode="heating")
    assert "strips_not_seen" not in {f.id for f in assess(winter).findings}
    assert "strips_not_seen" not in assess(round_(**furnace)).baseline_obstacles
    assert "strip_heat" not in {sight.id for sight in sights("condition", winter.equipment, "heating")}


@pytest.mark.parametrize("mode", ["cooling", "heating"])
@pytest.mark.parametrize(("stages", "runs_at", "finding"), [
    ("", "", ""), ("single", "", ""), ("two", "full", ""), ("two", "", "capacity_not_seen"), ("variable", "part", "part_capacity"),
])  # fmt: skip
def test_a_machine_with_stages_is_judged_at_full_capacity_only(mode, stages, runs_at, finding):
    """Variable-speed systems are forced to full capacity before they are tested: common practice, no single source."""
    plate = {"stages": stages, "kind": "heat_pump"}
    weather = {"outdoor_f": 40.0, "supply_f": 96.0, "supply_rh": 18.0} if mode == "heating" else {}
    found = assess(replace(round_(seen={"runs_at": runs_at}, **weather, **plate), mode=mode))
    asked = {sight.id for sight in sights("condition", found.round.equipment, mode)}
    assert ("runs_at" in asked) is (stages in ("two", "variable"))
    assert {f.id for f in found.findings} & {"capacity_not_seen", "part_capacity"} == ({finding} if finding else set())
    assert (found.verdict.state == DOES_NOT_COUNT) is bool(finding)
    assert not finding or {"capacity_not_seen", "test_void"} & {*found.baseline_obstacles}


def test_a_capacity_that_is_low_by_the_air_asks_for_the_airflow_before_the_circuit_is_doubted():
    """Airflow is proved before charge is doubted: common practice, no single source."""
    guessed, _ = judge(round_(cfm=None, supply_f=62.0, supply_rh=72.0))
    measured, _ = judge(round_(supply_f=62.0, supply_rh=72.0))
    assert {a.verdict.group for a in (guessed, measured)} == {CIRCUIT_OR_OUTDOORS}
    assert guessed.diagnosis.steps[0].step.id == "airflow"
    assert "airflow" not in {advice.step.id for advice in measured.diagnosis.steps}


@pytest.mark.parametrize(
    ("supply_rh", "state", "says"),
    [
        (92.0, "does_not_count", "that is not cooling"),  # as damp as the return, or damper: the probes may be swapped
        (None, "does_not_count", "that is not cooling"),  # nobody knows
        (26.0, "cause", "heat is added"),  # clearly drier: the coil works, and the probes are where they belong
    ],
)
def test_a_supply_warmer_than_the_return_is_heat_where_the_coil_dries_and_else_swapped_probes(supply_rh, state, says):
    """Field practice, no single source: dew point good, dry bulb warm is heat added; a swapped pair is damper."""
    found, verdict = judge(round_(supply_f=81.0, supply_rh=supply_rh))
    assert found.verdict.state == state and says in verdict.says, (found.verdict, verdict)
    if state == "cause":
        assert found.verdict.cause == "heat_on" and "strips off at their breaker" in verdict.next_step


def test_a_split_that_cannot_tell_says_itself_what_is_expected_and_why():
    found, verdict = judge(round_(supply_f=60.8, supply_rh=None, cfm=None, supply_probe="other"))
    assert (found.verdict.state, found.verdict.reason) == ("cannot_tell", "split_alone")
    assert verdict.headline.startswith("Cannot tell yet: split 15.6 °F, expected ")
    assert "mostly because the airflow is not measured" in verdict.says


def test_every_finding_has_its_words():
    given = {id_ for id_, *_ in FINDINGS}
    assert given <= set(BY_ID) and assess(round_()).findings == ()


def test_the_shortest_remedy_comes_first():
    found, _ = judge(round_(minutes=None, seen={"condenser_coil": "wet"}))
    assert [f.id for f in found.verdict.findings] == ["running_not_entered", "condenser_wet"]


def test_before_anything_is_read_nothing_is_withheld():
    empty, verdict = judge(
        round_(
            return_f=None,
            return_rh=None,
            supply_f=None,
            supply_rh=None,
            outdoor_f=None,
            cfm=None,
            minutes=None,
            strips=None,
        )
    )
    assert empty.verdict.state == "cannot_tell" and verdict.next_step == "Read the return air at the unit."


def test_the_order_of_readings_does_not_matter():
    given = round_(cfm=880.0)
    backwards = type(given)(**{**vars(given), "readings": given.readings[::-1]})
    assert assess(backwards).verdict == assess(given).verdict


def test_airflow_is_held_to_the_shops_two_limits():
    """350 and 450 CFM per ton: common practice, no single source. By the margin: sure beyond, or sure inside."""
    for cfm, word in ((1000.0, "low"), (1200.0, "in range"), (1300.0, "in range"), (1500.0, "high")):
        q = assess(round_(cfm=cfm)).table["airflow"]
        assert q.word == word or q.state in (BORDERLINE,), (cfm, q.state)
    strict = assess(round_(cfm=1050.0, rules=choose({"airflow_low_cfm_per_ton": 325.0}))).table["airflow"]
    assert strict.low == 75.0 and strict.high == 50.0, "the limits, not a band about 400"


def test_a_dry_coil_is_hardly_ever_taken_for_one_that_adds_water():
    """In a dry house the supply carries what the return does, and its readings scatter about that: ±3 % as a sensor
    says, a third of it from reading to reading (common practice, no single source). At 95 % one in twenty would be
    turned down.
    """
    random = np.random.default_rng(77)
    supply_rh = 100 * saturation_pressure_psia(75.0) * 0.30 / saturation_pressure_psia(58.0)
    dry = [
        round_(return_f=75.0, return_rh=30.0 + off + one, supply_f=58.0, supply_rh=supply_rh + off + other, coil="dry")
        for off, one, other in zip(random.normal(0, 1.41, 300), *random.normal(0, 0.5, (2, 300)), strict=True)
    ]
    turned_down = [a for a in assess_many(dry) if "moisture_gained" in {f.id for f in a.findings}]
    assert len(turned_down) <= 9


def test_a_sensible_share_over_one_is_a_dry_coil_within_its_doubt_and_a_contradiction_beyond():
    dry = round_(return_f=80.0, return_rh=20.0, supply_f=58.0, supply_rh=44.0, coil=None)
    ids = {f.id for f in assess(dry).findings}
    assert ids & {"coil_dry", "sensible_share_over_one", "moisture_gained"}
    share = assess(dry).measured["sensible_heat_ratio"]
    if share.known and share.value > 1:
        assert ("coil_dry" in ids) == (share.value - share.u95 * 0.83 < 1)


@pytest.mark.parametrize(("line", "superheat_line", "fires"), [(72.0, None, True), (60.0, None, False)])
def test_a_hot_suction_line_is_said_to_overheat_only_where_superheat_is_not_on_target(line, superheat_line, fires):
    base = walk(liquid=100.5, refrigerant="R-410A", return_f=75.0, return_rh=45.0)
    plain = assess(with_readings(base, ("suction_line_outdoor", "temperature", line)))
    assert ("compressor_inlet_hot" in {f.id for f in plain.findings}) is fires
    # 185 psig is dew 66 °F in R-410A (saturation tables checked against CoolProp elsewhere): superheat some 6 to 12 °F
    on_target = assess(
        with_readings(base, ("suction_line_outdoor", "temperature", line + 6.0), ("gauge_suction", "pressure", 185.0))
    )
    assert "compressor_inlet_hot" not in {f.id for f in on_target.findings}
    damp = assess(with_readings(walk(return_f=79.0, return_rh=70.0), ("suction_line_outdoor", "temperature", line)))
    assert "compressor_inlet_hot" not in {f.id for f in damp.findings}, "not while a damp house is drawn down"


def test_heat_is_added_inside_only_where_the_dew_point_is_good_and_nothing_says_otherwise():
    def said(found):
        return {f.id: f.names.get("fed") for f in assess(found).findings}.get("heat_added_inside")

    warm = {"supply_f": 68.0, "supply_rh": 58.0}
    assert said(round_(**warm)) == "", "a coil that is not fed enough dries as well"
    assert said(walk(**warm, coil_line=53.0)) == "yes"
    assert said(walk(**warm, coil_line=72.0)) is None, "the suction line says that it is not fed enough"
    assert said(round_(**warm, seen={"strip_heat": "none"})) is None
    assert said(round_(supply_f=66.0, supply_rh=82.0)) is None, "a coil that dries little is not reheat"


@pytest.mark.parametrize(("altitude", "changes"), [
    (1150.0, {"return_f": 78.6, "return_rh": 68.0, "supply_f": 62.2, "supply_rh": 95.0, "outdoor_f": 88.0}),
    (6200.0, {"return_f": 76.0, "return_rh": 36.0, "supply_f": 48.7, "supply_rh": 83.0, "outdoor_f": 86.0, "cfm": 1200.0}),
])  # fmt: skip
def test_humid_house_and_dry_mountain_house_are_not_condemned(altitude, changes):
    found = assess(round_(altitude_ft=altitude, **changes))
    assert found.verdict.state in ("sound", "cannot_tell"), found.verdict
    flat = assess(round_(altitude_ft=altitude, rules=choose({"split_school": "flat"}), **changes))
    assert flat.table["split"].state == OUT_OF_RANGE, "the flat band would have condemned it"


def test_contradictions_withhold_what_hangs_on_them_and_nothing_else():
    found = assess(round_(supply_f=81.0))
    m = found.measured
    assert not m["split_f"].known and m["split_f"].missing.names == ("supply_above_return",)
    assert not m["total_btuh"].known and m["cfm_per_ton"].known
    assert all(f.fields and said(f, FAHRENHEIT).hint for f in found.findings if f.level == "contradiction")


def test_within_the_probes_uncertainty_of_saturation_is_taken_as_saturated_and_said():
    found = assess(round_(humidity="wet_bulb", return_rh=63.5, supply_f=54.0, supply_rh=54.6))
    assert [f.id for f in found.findings] == ["taken_as_saturated"] and "taken as saturated" in said(
        found.findings[0], FAHRENHEIT
    ).message
    assert found.measured["supply_rh_pct"].value == pytest.approx(100.0) and found.measured["total_btuh"].known


def test_states_follow_the_margin():
    """JCGM 106:2012 conformity probability: certain inside, certain outside, in doubt, too wide to say."""
    assert state_of(0.0, 1.0, -3.0, 3.0) == IN_RANGE and state_of(-2.0, 1.5, -3.0, 3.0) == IN_RANGE
    assert state_of(6.0, 2.0, -3.0, 3.0) == OUT_OF_RANGE and state_of(-6.0, 2.0, -3.0, 3.0) == OUT_OF_RANGE
    assert state_of(3.0, 2.0, -3.0, 3.0) == BORDERLINE
    assert state_of(0.0, 9.0, -3.0, 3.0) == CANT_TELL and state_of(4.0, 9.0, -3.0, 3.0) == CANT_TELL


@given(st.floats(-20, 20), st.floats(0.01, 10), st.floats(0.5, 5))
def test_a_wider_uncertainty_never_makes_a_reading_surely_out(difference, u95, tolerance):
    assert state_of(difference, u95, -tolerance, tolerance) == state_of(-difference, u95, -tolerance, tolerance)
    if state_of(difference, u95, -tolerance, tolerance) != OUT_OF_RANGE:
        assert state_of(difference, 3 * u95, -tolerance, tolerance) != OUT_OF_RANGE


def test_far_outside_the_curves_expected_values_are_withheld_with_the_reason():
    found = assess(round_(outdoor_f=52.0))
    missing = found.table.expected["expected_total_btuh"].missing
    assert "outdoor temperature 52 °F is outside 70 to 115 °F" in why(missing, FAHRENHEIT)
    assert found.measured["total_btuh"].known


@pytest.mark.parametrize(
    "beyond", [{"outdoor_f": 67.0}, {"return_f": 72.0, "return_rh": 15.0, "supply_rh": 35.0}, {"cfm": 560.0}]
)
def test_a_little_outside_the_curves_their_trend_goes_on_with_a_wider_margin_and_says_so(beyond):
    """A maintenance visit in spring, a dry house, a choked coil: the split is still worth a word."""
    inside, outside = assess(round_()).table.expected, assess(round_(**beyond))
    split = outside.table.expected["expected_split_f"]
    assert split.u95 / split.value > inside["expected_split_f"].u95 / inside["expected_split_f"].value
    (note,) = [f for f in outside.findings if f.id == "curves_carried_on"]
    assert "carried on, with a wider margin" in said(note, FAHRENHEIT).message


def test_the_margin_grows_with_the_distance_from_the_curves():
    doubts = [float(doubt_beyond(67.0, outdoor, 1.0)) for outdoor in (95.0, 70.0, 68.0, 60.0)]
    assert doubts[:2] == [0.0, 0.0] and doubts[1] < doubts[2] < doubts[3]
    assert too_far(67.0, 60.0, 1.0) == () and too_far(67.0, 54.0, 1.0) and too_far(49.0, 95.0, 1.0)


def test_house_rules_are_one_structure():
    assert {rule.id for rule in HOUSE_RULES} == field_names()
    assert all(
        rule.default == getattr(HouseRules(), rule.id) and rule.default in rule.alternatives for rule in HOUSE_RULES
    )
    assert assess(round_(minutes=11.0, rules=choose({"settle_minutes": 10.0}))).verdict.state != "does_not_count"
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
        assert isinstance(found, answer) and entry_said(found, FAHRENHEIT).message


@pytest.mark.parametrize(("place", "quantity", "real", "unit"), [
    ("condenser_air_out", "dry_bulb", "142", "degF"), ("compressor", "power", "6.2", "kW"), ("attic", "dry_bulb", "148", "degF"),
])  # fmt: skip
def test_what_machines_really_do_is_taken(place, quantity, real, unit):
    """Common practice, no single source: air off a condenser over 130 °F on a hot day, a compressor over 3 kW, an attic
    over 140 °F.
    """
    assert isinstance(check_entry(place, quantity, real, unit), Accepted)
    assert isinstance(check_entry("return_unit", "dry_bulb", "142", "degF"), Refused)
    found = assess(with_readings(walk(), (place, quantity, float(real) * (1000.0 if unit == "kW" else 1.0))))
    assert not any(f.id == "reading_left_out" for f in found.findings)


def test_celsius_is_asked_once_and_an_instruments_range_counts():
    assert check_entry("return_unit", "dry_bulb", "24", "degF", confirmed=True) == Accepted(24.0)
    outside = check_entry("outdoor", "dry_bulb", "125", "degF", instrument_range=(14.0, 122.0))
    assert isinstance(outside, Refused) and "14 °F to 122 °F" in entry_said(outside, FAHRENHEIT).message
