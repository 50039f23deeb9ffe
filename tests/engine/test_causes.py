"""The judgement of causes: signs against the trade's table, one covariance, honesty, the gauge decision, the next step, a fix."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from engine.assessment.diagnosis import FAULT, OPEN, SOUND, WITHHELD, diagnose
from engine.assessment.judged import after_fix, verdict_by
from engine.houserules.rules import choose
from engine.judgement.cause import GROUPS, HEALTHY, ORIFICE, TXV
from engine.judgement.causes import EVERY_CAUSE, Setting, causes_in, together_in
from engine.judgement.gauges import RULES, Case, gauge_decision
from engine.judgement.likelihood import WIDENING, log_likelihoods, rank
from engine.judgement.looks import RATIOS, log_ratios, ratio_of
from engine.judgement.residuals import KINDS, Residual, stacked
from engine.readings.observations import OBSERVATIONS
from engine.readings.round import Reading
from plant.machine import Spec
from plant.places import Weather, faulty
from tests.engine.rounds import PROBE, judge, round_, walk

COOLS = causes_in(Setting())
# Common practice, no single source: (split at this airflow, suction line, approach, draw), '+', '-' or '0', several where either is said.
TRADE = {
    "undercharge": ("-", "+", "+-", "-"), "overcharge": ("0", "0-", "-", "+"), "restriction": ("-", "+", "-", "-"), "starving_valve": ("-", "+", "-", "-"),
    "dirty_condenser": ("-0", "0+-", "+", "+"), "weak_condenser_fan": ("-0", "0+-", "+", "+"), "non_condensables": ("-0", "0", "+", "+"),
    "weak_compressor": ("-", "+", "0-", "-"), "overfeeding": ("0-", "-", "0+", "0"), "heat_on": ("-", "0", "0", "0"), "return_leak": ("0", "0", "0", "0"),
    "supply_gain": ("0", "0", "0", "0"), "blocked_filter": ("0", "-", "-0", "-0"), "dirty_evaporator": ("0-", "-", "-0", "-0"),
    "high_airflow": ("0", "+0", "0", "0"),
}  # fmt: skip
FLOODS = ("overcharge", "overfeeding", "non_condensables", "weak_compressor")  # behind a fixed orifice


@pytest.mark.parametrize(("cause", "kind"), [(c, k) for c in TRADE for k in range(4)])
def test_signs_have_the_directions_the_trade_knows(cause, kind):
    name = ("split", "suction", "approach", "amps")[kind]
    hardly = {"split": 0.055, "suction": 1.0, "approach": 1.1, "amps": 0.05}[name]
    for device in (TXV, ORIFICE):
        if cause in FLOODS and device == ORIFICE:
            continue  # their own row, below
        levels = COOLS[cause].signs_on(device, "psc").get(name, (0.0,))
        signs = {"0" if abs(x) <= hardly else "+" if x > 0 else "-" for x in levels}
        assert signs & set(TRADE[cause][kind]), (device, levels)
        assert not (signs - {"0"}) - set(TRADE[cause][kind]), (device, levels)


def test_an_orifice_that_floods_brings_the_suction_line_down():
    """Superheat to 0, an orifice fed by a higher head or suction among them: common practice, no single source."""
    for cause in FLOODS:
        signs = COOLS[cause].signs_on(ORIFICE, "psc")
        assert max(signs["superheat"]) < -1 and max(signs["suction_rise"]) < 0 >= max(signs["suction"]), cause


@pytest.mark.parametrize("source", ["air", "water"])
@pytest.mark.parametrize("mode", ["cooling", "heating"])
def test_the_data_is_whole(mode, source):
    setting = Setting(mode=mode, source=source)
    known = causes_in(setting)
    assert {cause.group for cause in known.values()} <= set(GROUPS) and {c for pair in together_in(setting) for c in pair} <= set(
        known
    )
    for cause in known.values():
        for signs in (cause.signs, *cause.by.values()):
            assert all(kind in KINDS and len(levels) == cause.levels for kind, levels in signs.items()), cause.id
        assert cause.why or cause.id == HEALTHY
        assert cause.id == HEALTHY or cause.signs or cause.probe, "every cause can be told from a sound machine by something"


def test_looks_speak_of_degrees_and_causes_that_exist():
    for (what, degree), ratios in RATIOS.items():
        assert what == "suction_swings" or degree in OBSERVATIONS[what]
        assert set(ratios) <= set(EVERY_CAUSE), what
    assert ratio_of("filter", "blocked", "blocked_filter") > 10 > 1 > ratio_of("filter", "clean", "blocked_filter")


def test_what_one_cause_explains_no_other_has_a_part_in():
    """A blocked filter does not speak for a lost charge against a sound machine, nor against the charge where the filter is blocked as well."""
    causes, members = ("healthy", "undercharge", "blocked_filter"), np.array([[1, 0, 0], [0, 1, 0], [0, 0, 1], [0, 1, 1]], float)
    sound, charge, filter_, both = log_ratios({"filter": "blocked"}, causes, members)
    assert sound == charge < 0 < filter_ == both


def test_log_likelihood_is_the_normal_density():
    """Against the density written out with an inverse and a determinant, up to the constant and with the stated widening."""
    random = np.random.default_rng(4)
    root = random.normal(size=(5, 5))
    covariance, value = root @ root.T + np.eye(5), random.normal(size=5)
    shifts, doubts = random.normal(size=(7, 5)), np.abs(random.normal(size=(7, 5)))
    ours = log_likelihoods(value, covariance, shifts, doubts)
    theirs = []
    for shift, doubt in zip(shifts, doubts, strict=True):
        wide, off = WIDENING**2 * (covariance + np.diag(doubt**2)), value - shift
        theirs.append(-0.5 * (off @ np.linalg.inv(wide) @ off + np.linalg.slogdet(wide)[1]))
    assert np.ptp(ours - np.array(theirs)) < 1e-9


@given(st.floats(-12, 20), st.floats(0.3, 3.0))
@settings(max_examples=40, deadline=None)
def test_counting_one_probe_twice_does_not_raise_certainty(value, push):
    """The same clamp's reading entered as two indicators that move as one: the answer is that of one."""
    one = Residual(KINDS["approach"], value, {"clamp": push, "model of this unit": 5.0}, 0.0, 2.0)
    again = replace(one, pushes=dict(one.pushes), model_u95=0.02)
    first, _ = stacked([replace(one, model_u95=0.02)])
    assert len(first) == 1
    alone, twice = (rank(rs, {}, Setting(TXV)) for rs in ([replace(one, model_u95=0.02)], [replace(one, model_u95=0.02), again]))
    assert max(twice.by_cause.values()) <= max(alone.by_cause.values()) + 0.03


@given(
    st.lists(st.tuples(st.sampled_from(sorted(KINDS)), st.floats(-3, 3)), max_size=8, unique_by=lambda p: p[0]),
    st.sampled_from([TXV, ORIFICE, "unknown"]),
)
@settings(max_examples=60, deadline=None)
def test_probabilities_are_probabilities_in_any_order_and_missing_readings_only_widen(pairs, device):
    residuals = [Residual(KINDS[k], x * KINDS[k].scatter / 2, {"s": 0.01}, KINDS[k].scatter, 1.0) for k, x in pairs]
    ranked, turned = (rank(rs, {}, Setting(device)) for rs in (residuals, residuals[::-1]))
    assert ranked.weights.sum() == pytest.approx(1.0) and all(0 <= p <= 1 for p in ranked.by_cause.values())
    assert ranked.by_cause == pytest.approx(turned.by_cause, abs=1e-9)
    prior = rank([], {}, Setting(device)).by_cause
    assert max(prior, key=prior.get) == HEALTHY, "with nothing read, most likely nothing is wrong"


@pytest.mark.parametrize(
    ("given_", "state", "group"),
    [
        ({}, SOUND, HEALTHY),
        ({"cfm": 870.0, "method": "flow_device", "supply_f": 53.0}, FAULT, "low_airflow"),
        ({"liquid": 125.0}, FAULT, "condenser"),
        ({"supply_f": 67.0, "supply_rh": 72.0, "liquid": 107.0, "coil_line": 68.0}, FAULT, "charge_low"),
        ({"supply_f": 68.0, "supply_rh": 58.0, "liquid": 100.5, "coil_line": 50.0}, FAULT, "heat_on"),
        ({"minutes": 3.0}, WITHHELD, ""),
    ],
)  # fmt: skip
def test_walks_that_every_technician_knows(given_, state, group):
    found, _ = judge(walk(**{"liquid": 100.5, "coil_line": 52.0} | given_))
    assert (found.diagnosis.state, found.diagnosis.group) == (state, group), found.diagnosis.ranked.by_cause


@pytest.mark.parametrize(
    "weather",
    [Weather(80.0, 66.0, 92.0), Weather(76.0, 28.0, 96.0, altitude_ft=6200.0), Weather(81.0, 50.0, 105.0), Weather(75.0, 50.0, 79.0)],
    ids=["humid house", "dry mountain house", "high load", "cool day"],
)  # fmt: skip
@pytest.mark.parametrize(("efficiency", "seer"), [("old", 9.0), ("mid", 14.0)])
def test_odd_weather_and_old_equipment_are_sound_when_they_are(weather, efficiency, seer):
    """The simulated machine without a fault, read without noise: never called faulty."""
    run = faulty(Spec(efficiency=efficiency), {}, weather)
    base = round_(
        return_f=None,
        return_rh=None,
        supply_f=None,
        supply_rh=None,
        outdoor_f=None,
        cfm=run.cfm,
        altitude_ft=weather.altitude_ft,
        seer=seer,
    )
    wanted = (
        "return_unit",
        "supply_plenum",
        "outdoor",
        "liquid_line_outdoor",
        "liquid_line_indoor",
        "suction_line_outdoor",
        "suction_line_indoor",
    )
    more = tuple(
        Reading(p, q, v, PROBE) for (p, q), v in run.values.items() if p in wanted and q in ("dry_bulb", "rh", "temperature")
    )
    assert diagnose(replace(base, readings=(*base.readings, *more))).state in (SOUND, OPEN)


def test_air_alone_gives_a_modest_answer_and_the_walk_a_sharp_one():
    air = round_(cfm=None, supply_f=67.0, supply_rh=72.0)
    modest, _ = judge(air)
    sharp, _ = judge(walk(liquid=107.0, coil_line=68.0, supply_f=67.0, supply_rh=72.0))
    assert max(modest.diagnosis.ranked.by_group.values()) < max(sharp.diagnosis.ranked.by_group.values())
    assert any("guess" in text for text in modest.not_seen) and any("Charge" in text for text in modest.not_seen)


def test_a_group_that_is_not_told_apart_names_what_it_may_be_and_asks_for_the_lines():
    """From air alone a short capacity may be condenser or circuit: no refrigerant, the lines first."""
    short, whole = judge(round_(supply_f=62.0, supply_rh=85.0, seer=14.0))
    assert (short.diagnosis.state, short.diagnosis.group, short.diagnosis.cause) == (FAULT, "short", ""), (
        short.diagnosis.ranked.by_group
    )
    verdict = verdict_by(short, whole.verdict)
    assert (
        "do not tell which" in verdict.says
        and "condenser dirty" in verdict.says.lower()
        and "low on charge" in verdict.says.lower()
    )
    assert (short.gauges.decides, short.gauges.rule) == (
        "not enough to say",
        "lines_first",
    ) and "Do not add refrigerant" in short.gauges.says
    assert short.split_by.step.id in ("liquid_line", "condenser_coil", "condenser_air", "suction_at_coil", "amps")
    at_once, _ = judge(round_(supply_f=62.0, supply_rh=85.0, seer=14.0, rules=choose({"gauge_school": "at_once"})))
    assert at_once.gauges.decides == "warranted"


def test_evidence_is_for_and_against_with_numbers_and_where_they_come_from():
    found, whole = judge(walk(liquid=125.0, coil_line=52.0, seen={"condenser_coil": "matted"}))
    top = found.causes[0]
    assert top.cause == "dirty_condenser" and found.diagnosis.cause == "dirty_condenser"
    assert any(text.startswith("Approach above what is expected: +34") for text in top.speaks_for)
    assert "Condenser coil: matted." in top.speaks_for
    assert found.to_do[0].id == "condenser_washed" and found.gauges.decides == "off"
    assert verdict_by(found, whole.verdict).headline == "Condenser dirty."


def case(**more):
    return Case(
        **{"state": FAULT, "group": "charge_low", "airflow_proved": True, "below_outdoor": False, "seen": {}, "rules": choose({})}
        | more
    )


@pytest.mark.parametrize(
    ("more", "decides", "rule"),
    [
        ({"group": "low_airflow", "seen": {"visit_kind": "first"}}, "off", "airflow_first"),
        ({"group": "condenser"}, "off", "outside_the_circuit"),
        ({}, "warranted", "in_the_circuit"),
        ({"airflow_proved": False}, "not enough to say", "air_first"),
        ({"airflow_proved": False, "rules": choose({"gauge_school": "at_once"})}, "warranted", "in_the_circuit"),
        ({"state": OPEN, "group": ""}, "not enough to say", "cannot_tell"),
        ({"state": OPEN, "group": "", "suspected": "starved", "rules": choose({"gauge_school": "at_once"})}, "warranted", "at_once"),
        ({"state": OPEN, "group": "", "rules": choose({"gauge_school": "at_once"})}, "not enough to say", "cannot_tell"),
        ({"state": SOUND, "group": HEALTHY}, "off", "sound"),
        ({"state": SOUND, "group": HEALTHY, "seen": {"visit_kind": "commissioning"}}, "warranted", "commissioning"),
        ({"state": SOUND, "group": HEALTHY, "seen": {"visit_kind": "first"}}, "warranted", "first_visit"),
        ({"state": OPEN, "group": "", "seen": {"tripped": "yes"}}, "warranted", "tripped"),
        ({"state": OPEN, "group": "", "below_outdoor": True}, "warranted", "below_outdoor"),
        ({"state": WITHHELD, "group": "", "seen": {"tripped": "yes"}}, "not enough to say", "withheld"),
    ],
)  # fmt: skip
def test_the_gauge_decision_and_the_rule_that_decided(more, decides, rule):
    found = gauge_decision(case(**more))
    assert (found.decides, found.rule) == (decides, rule)


def test_every_gauge_rule_is_reached_and_airflow_says_not_to_add_refrigerant():
    assert len({rule.id for rule in RULES}) == len(RULES)
    assert "Do not add refrigerant" in gauge_decision(case(group="low_airflow")).says


def test_the_next_step_is_the_one_that_tells_most_for_its_minutes():
    found, _ = judge(walk(liquid=125.0))
    ids = [a.step.id for a in found.steps]
    assert ids[0] in ("condenser_coil", "condenser_air") and "pressures" not in ids[:2]
    assert found.steps == tuple(sorted(found.steps, key=lambda a: -a.per_minute)) and all(a.gain > 0 for a in found.steps)
    unsure, _ = judge(walk(liquid=106.0))
    assert any("Matted: the condenser cannot give its heat off" in text for a in unsure.steps for text in a.means)
    looked, _ = judge(walk(liquid=125.0, seen={"condenser_coil": "matted"}))
    assert "condenser_coil" not in [a.step.id for a in looked.steps], "what was looked at is not asked again"


def test_a_baseline_sharpens_and_its_own_odd_numbers_are_no_fault():
    odd = walk(liquid=108.0, coil_line=52.0)
    assert diagnose(odd).ranked.healthy < 0.55 < 0.65 < diagnose(odd, baseline=odd).ranked.healthy
    worse = walk(liquid=119.0, coil_line=52.0)
    assert diagnose(worse, baseline=odd).ranked.by_group["condenser"] > 0.5


def test_after_a_fix_what_moved_what_did_not_and_what_cannot_be():
    before = diagnose(walk(liquid=125.0, coil_line=52.0))
    mended, same = diagnose(walk(liquid=101.0, coil_line=52.0)), diagnose(walk(liquid=124.5, coil_line=52.0))
    assert any(
        "Approach moved towards" in text and "as it should" in text for text in after_fix(before, mended, ("condenser_washed",))
    )
    assert "Nothing out of line any more." in after_fix(before, mended, ("condenser_washed",))
    assert any("did not move" in text for text in after_fix(before, same, ("condenser_washed",)))
    better = diagnose(walk(liquid=101.0, coil_line=52.0, supply_f=46.0))
    assert any("better than possible" in text for text in after_fix(before, better, ()))
