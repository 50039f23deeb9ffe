"""The judgement of causes: signs against the trade's table, one covariance, honesty, the gauge decision, the next step,
a fix.
"""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from engine.assessment import assess, table_of
from engine.diagnosis.cause import FOLLOWS_FROM, GROUPS, HEALTHY, HOT_GAS, PUMPS_LITTLE
from engine.diagnosis.causes import EVERY_CAUSE, Setting, causes_in, together_in
from engine.diagnosis.likelihood import WIDENING, log_likelihoods, rank
from engine.diagnosis.observation_likelihoods import RATIOS, log_ratios, ratio_of
from engine.diagnosis.verdict import CANNOT_TELL, CAUSE, DOES_NOT_COUNT, GROUP, SOUND
from engine.houserules.rules import choose
from engine.quantities.residual import KINDS, Residual, stacked
from engine.readings.observations import OBSERVATIONS
from engine.readings.round import ORIFICE, TXV, Reading
from engine.report.advice_words import causes_said, gauges_said, step_meanings
from engine.report.after_fix import after_fix
from engine.report.blind_spots import blind_spots
from engine.report.bundle.reading import visit_of
from engine.report.verdict_words import verdict_said
from engine.report.words import FAHRENHEIT
from plant.machine import Spec
from plant.places import Weather, faulty
from plant.simulate import bundle
from tests.engine.rounds import PROBE, judge, round_, walk, with_readings

COOLS = causes_in(Setting())
# Common practice, no single source: (split at this airflow, suction line, approach, draw), '+', '-' or '0', several
# where it depends on the severity or the trade says either; '' where a rise and a fall work against each other and
# nothing is said.
TRADE = {
    "undercharge": ("-", "+", "+-", "-"), "overcharge": ("0", "0-", "-", "+"), "restriction": ("-", "+", "-", "-"), "starving_valve": ("-", "+", "-", "-"),
    "restriction_outdoors": ("-", "+", "-", "-"),
    "dirty_condenser": ("-0", "", "+", "+"), "weak_condenser_fan": ("-0", "", "+", "+"), "non_condensables": ("-0", "0", "+", "+"),
    "weak_compressor": ("-", "+", "0-", "-"), "overfeeding": ("0-", "-", "0+", "0"), "heat_on": ("-", "0", "0", "0"), "return_leak": ("0", "0", "0", "0"),
    "return_gain": ("0", "0", "0", "0"),
    "supply_gain": ("0", "0", "0", "0"), "blocked_filter": ("0", "-", "-0", "-0"), "dirty_evaporator": ("0-", "-", "-0", "-0"),
    "high_airflow": ("0", "+0", "0", "0"),
}  # fmt: skip
FLOODS = ("overcharge", "overfeeding", "non_condensables", "weak_compressor")  # behind a fixed orifice


@pytest.mark.parametrize(("cause", "kind"), [(c, k) for c in TRADE for k in range(4) if TRADE[c][k]])
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


@pytest.mark.parametrize(("gain_f", "state", "group"), [(3.0, SOUND, HEALTHY), (5.5, GROUP, "supply_duct")])
def test_a_duct_that_warms_the_air_by_more_than_a_duct_does_is_told(gain_f, state, group):
    """Plenum to register up to 3 or 4 °F is a duct run (common practice, no single source): what is read there over
    that is no matter of likelihood.
    """
    assessed, said = judge(with_readings(walk(liquid=101.0), ("supply_register", "dry_bulb", 55.2 + gain_f)))
    assert (assessed.verdict.state, assessed.verdict.group) == (state, group), said


def test_air_short_by_one_share_is_low_airflow_until_the_draw_says_that_the_machine_is_another():
    short = walk(liquid=100.5, coil_line=52.0, cfm=870.0, method="flow_device", seer=14.0)
    assert assess(short).verdict.group == "low_airflow"
    small = with_readings(short, ("compressor", "current", 8.0), ("return_plenum", "static_pressure", -0.09),
                          ("supply_plenum", "static_pressure", 0.12))  # fmt: skip
    assert assess(small).verdict.group == "plate", assess(small).diagnosis.ranked.by_group


def test_a_cause_is_named_by_what_tells_it_and_not_for_being_the_commonest():
    hot = {"liquid": 125.0, "coil_line": 52.0}
    untold, looked = judge(walk(**hot))[0], judge(walk(**hot, seen={"condenser_coil": "matted"}))[0]
    likeliest = list(untold.diagnosis.ranked.by_cause)[:2]
    assert likeliest == ["dirty_condenser", "weak_condenser_fan"] and untold.verdict.cause == ""
    assert (looked.verdict.group, looked.verdict.cause) == ("condenser", "dirty_condenser")


def test_readings_in_range_speak_for_a_sound_machine_and_one_that_is_not_against_it():
    fine, warm = (judge(walk(liquid=liquid))[0].diagnosis.causes for liquid in (101.0, 109.0))
    for_it, against = (
        ({w.quantity for w in e.speaks_for} for e in (fine[0], sound_of(warm))),
        sound_of(warm).speaks_against,
    )
    assert [kinds >= {"airflow", "split", "capacity"} for kinds in for_it] == [True, True]
    assert fine[0].speaks_against == () and [w.quantity for w in against] == ["approach"]


def sound_of(causes):
    return next(e for e in causes if e.cause == HEALTHY)


def test_losing_charge_raises_the_approach_first_and_only_a_severe_loss_brings_it_back():
    """Approach = condensing over outdoor air less subcooling: subcooling goes first. Approach charging charts say the
    same.
    """
    for device in (TXV, ORIFICE):
        levels = COOLS["undercharge"].signs_on(device, "psc")["approach"]
        assert levels[0] > 0 and max(levels) in levels[:-1] and levels[-1] < max(levels), device


def test_a_hot_condenser_warms_a_txv_systems_suction_line_and_never_cools_it():
    for cause in ("dirty_condenser", "weak_condenser_fan"):
        assert min(COOLS[cause].signs_on(TXV, "psc").get("suction", (0.0,))) >= 0, cause


def test_an_orifice_that_floods_brings_the_suction_line_down():
    """Superheat to 0, an orifice fed by a higher head or suction among them: common practice, no single source."""
    for cause in FLOODS:
        signs = COOLS[cause].signs_on(ORIFICE, "psc")
        assert max(signs["superheat"]) < -1 and max(signs["suction_rise"]) < 0, cause
        assert all(line <= boils for line, boils in zip(signs["suction"], signs["evaporating"], strict=True)), cause


@pytest.mark.parametrize("source", ["air", "water"])
@pytest.mark.parametrize("mode", ["cooling", "heating"])
def test_the_data_is_whole(mode, source):
    setting = Setting(mode=mode, source=source)
    known = causes_in(setting)
    assert {cause.group for cause in known.values()} <= set(GROUPS) and {
        c for pair in together_in(setting) for c in pair
    } <= set(known)
    for cause in known.values():
        for signs in (cause.signs, *cause.by.values()):
            assert all(kind in {*KINDS, HOT_GAS} and len(levels) == cause.levels for kind, levels in signs.items()), (
                cause.id
            )
        assert cause.why or cause.id == HEALTHY
        assert cause.id == HEALTHY or cause.signs or cause.probe, (
            "every cause can be told from a sound machine by something"
        )


def test_looks_speak_of_degrees_and_causes_that_exist():
    for (what, degree), ratios in RATIOS.items():
        assert what == "suction_swings" or degree in OBSERVATIONS[what]
        assert set(ratios) <= set(EVERY_CAUSE), what
    assert ratio_of("filter", "blocked", "blocked_filter") > 10 > 1 > ratio_of("filter", "clean", "blocked_filter")


def test_what_one_cause_explains_no_other_has_a_part_in():
    """A blocked filter does not speak for a lost charge against a sound machine, nor against the charge where the
    filter is blocked as well.
    """
    causes, members = (
        ("healthy", "undercharge", "blocked_filter"),
        np.array([[1, 0, 0], [0, 1, 0], [0, 0, 1], [0, 1, 1]], float),
    )
    sound, charge, filter_, both = log_ratios({"filter": "blocked"}, causes, members)
    assert sound == charge < 0 < filter_ == both


def test_log_likelihood_is_the_normal_density():
    """Against the density written out with an inverse and a determinant, up to the constant and with the stated
    widening.
    """
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
    alone, twice = (
        rank(rs, {}, Setting(TXV)) for rs in ([replace(one, model_u95=0.02)], [replace(one, model_u95=0.02), again])
    )
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
        ({"cfm": 870.0, "method": "flow_device", "supply_f": 53.0}, GROUP, "low_airflow"),
        ({"liquid": 125.0}, GROUP, "condenser"),
        ({"supply_f": 67.0, "supply_rh": 72.0, "liquid": 107.0, "coil_line": 68.0}, CAUSE, "charge_low"),
        ({"supply_f": 68.0, "supply_rh": 58.0, "liquid": 100.5, "coil_line": 50.0}, CAUSE, "heat_on"),
        ({"minutes": 3.0}, DOES_NOT_COUNT, ""),
    ],
)  # fmt: skip
def test_walks_that_every_technician_knows(given_, state, group):
    found, _ = judge(walk(**{"liquid": 100.5, "coil_line": 52.0} | given_))
    assert (found.verdict.state, found.verdict.group) == (state, group), found.diagnosis.ranked.by_cause


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
        Reading(p, q, v, PROBE)
        for (p, q), v in run.values.items()
        if p in wanted and q in ("dry_bulb", "rh", "temperature")
    )
    assert assess(replace(base, readings=(*base.readings, *more))).verdict.state in (SOUND, CANNOT_TELL)


def test_air_alone_gives_a_modest_answer_and_the_walk_a_sharp_one():
    air = round_(cfm=None, supply_f=67.0, supply_rh=72.0)
    modest, _ = judge(air)
    sharp, _ = judge(walk(liquid=107.0, coil_line=68.0, supply_f=67.0, supply_rh=72.0))
    assert max(modest.diagnosis.ranked.by_group.values()) < max(sharp.diagnosis.ranked.by_group.values())
    said = blind_spots(modest)
    assert any("No airflow was measured or stated" in text for text in said) and any("Charge" in text for text in said)
    stated = blind_spots(assess(round_(method="nominal_guess")))
    assert any("The airflow is a guess" in text for text in stated)


def test_a_group_that_is_not_told_apart_names_what_it_may_be_and_asks_for_the_lines():
    """From air alone a short capacity may be condenser or circuit: no refrigerant, the lines first."""
    found, said = judge(round_(supply_f=62.0, supply_rh=85.0, seer=14.0))
    assert (found.verdict.state, found.verdict.group) == (GROUP, "short"), found.diagnosis.ranked.by_group
    assert (
        "do not tell which" in said.says
        and "compressor weak" in said.says.lower()
        and "low on charge" in said.says.lower()
    )
    assert (found.diagnosis.gauges.decides, found.diagnosis.gauges.rule) == ("not enough to say", "lines_first")
    assert found.diagnosis.split_by.step.id in (
        "liquid_line",
        "condenser_coil",
        "condenser_air",
        "suction_at_coil",
        "amps",
    )
    at_once, _ = judge(round_(supply_f=62.0, supply_rh=85.0, seer=14.0, rules=choose({"gauge_school": "at_once"})))
    assert at_once.diagnosis.gauges.decides == "warranted"


def test_evidence_is_for_and_against_with_numbers():
    found, said = judge(walk(liquid=125.0, coil_line=52.0, seen={"condenser_coil": "matted"}))
    top = causes_said(found, FAHRENHEIT)[0]
    assert top.cause == found.verdict.cause == "dirty_condenser" and said.headline == "The condenser is matted."
    assert any(text.startswith("Approach is high (34.2") for text in top.speaks_for)
    assert "Condenser coil: matted." in top.speaks_for
    assert found.diagnosis.actions[0].id == "condenser_washed" and found.diagnosis.gauges.decides == "off"


def test_a_reading_speaks_only_for_a_cause_that_moves_it_that_way():
    """A liquid line near outdoors is the overcharge's evidence, not the dirty evaporator's that comes with it."""
    found, _ = judge(walk(liquid=93.0, coil_line=48.0, cfm=960.0))
    for e in found.diagnosis.causes:
        for w in e.speaks_for:
            if w.quantity and e.cause != HEALTHY:
                value = found.table[w.quantity].residual.value
                signs = COOLS[e.cause].signs_on(TXV, "psc")
                assert not signs or w.quantity not in signs or max(s * value for s in signs[w.quantity]) > 0, (
                    e.cause,
                    w,
                )


def test_the_next_step_is_the_one_that_tells_most_for_its_minutes_and_what_was_seen_is_not_asked_again():
    found, said = judge(walk(liquid=107.0))
    steps = found.diagnosis.steps
    assert "pressures" not in [a.step.id for a in steps] and all(a.gain > 0 for a in steps)
    assert any("Flash noise: likely low on charge" in text for a in steps for text in step_meanings(a, found))
    told, said = judge(walk(liquid=125.0))
    assert told.diagnosis.steps[0].step.id == "condenser_coil" and said.next_step == "Look at the condenser coil.", (
        "the look before the wash"
    )
    looked, _ = judge(walk(liquid=125.0, seen={"condenser_coil": "matted"}))
    assert "condenser_coil" not in [a.step.id for a in looked.diagnosis.steps]


def test_in_cooling_superheat_and_condensing_follow_from_the_other_signs():
    """By hand for a starved coil: suction line up 12, its rise up 2, evaporating down 5.5 make 19.5 more."""
    for cause in causes_in(Setting(TXV)).values():
        assert not FOLLOWS_FROM.keys() & {*cause.signs, *(kind for signs in cause.by.values() for kind in signs)}, (
            cause.id
        )
    starved = EVERY_CAUSE["starving_valve"].signs_on(TXV, "psc")
    assert (starved["suction"][1], starved["suction_rise"][1], starved["evaporating"][1]) == (12.0, 2.0, -5.5)
    assert starved["superheat"][1] == 19.5
    assert starved["condensing"] == tuple(map(sum, zip(starved["approach"], starved["subcooling"], strict=True)))


def test_a_baseline_sharpens_and_its_own_odd_numbers_are_no_fault():
    odd = walk(liquid=108.0, coil_line=52.0)
    table = table_of(odd)
    assert assess(odd).diagnosis.ranked.healthy < 0.55 < 0.65 < assess(odd, table).diagnosis.ranked.healthy
    worse = walk(liquid=122.0, coil_line=52.0)  # more than all the subcooling there was to lose
    assert assess(worse, table).diagnosis.ranked.by_group["condenser"] > 0.5


# These change readings besides: what an airflow was guessed from, what a probe read.
CHANGES_READINGS = ("ducts", "outdoor_shaded")


@pytest.mark.parametrize("heating", [False, True])
def test_what_a_look_is_said_to_mean_is_what_follows_once_it_is_taken(heating):
    said = 0
    for row in range(8):
        read = visit_of(bundle(88, row, "heat_pump", heating=heating)).rounds[0][1]
        found = assess(read).diagnosis
        meant = [m.group for a in found.steps for m in a.means]
        assert all(found.ranked.by_group[group] > 0 for group in meant), "as these readings tell the groups"
        looks = [a for a in found.steps if a.step.look and a.step.look not in CHANGES_READINGS]
        for look, meaning in ((a.step.look, m) for a in looks for m in a.means if len(m.outcomes) == 1):
            taken = replace(read, observations={**read.observations, look: meaning.outcomes[0]})
            by_group = assess(taken).diagnosis.ranked.by_group
            assert by_group[meaning.group] == max(by_group.values()) == pytest.approx(meaning.probability), (row, look)
            said += 1
    assert said > 5


def test_after_a_fix_what_moved_what_did_not_and_what_cannot_be():
    before = assess(walk(liquid=125.0, coil_line=52.0))
    mended, same = assess(walk(liquid=101.0, coil_line=52.0)), assess(walk(liquid=124.5, coil_line=52.0))
    washed = after_fix(before, mended, ("condenser_washed",), FAHRENHEIT)
    assert any("Approach moved towards" in text and "as it should" in text for text in washed)
    assert "Nothing out of line any more." in washed
    assert any("did not move" in text for text in after_fix(before, same, ("condenser_washed",), FAHRENHEIT))
    better = assess(walk(liquid=101.0, coil_line=52.0, supply_f=46.0))
    assert any("better than possible" in text for text in after_fix(before, better, (), FAHRENHEIT))


def test_gauges_are_warranted_where_the_circuit_is_at_fault_whichever_part_and_the_airflow_is_proved():
    """Common practice, no single source: out of line after the airflow is proved; no refrigerant before it is known
    which.
    """
    short = walk(
        liquid=100.0, coil_line=61.0, return_f=75.8, return_rh=51.0, supply_f=59.2, supply_rh=88.0, outdoor_f=88.4,
        cfm=1010.0, nominal_tons=2.5, seer=13.0, target_subcooling_f=None, refrigerant="R-410A",
    )  # fmt: skip
    found = assess(with_readings(short, ("condenser_air_out", "dry_bulb", 100.0), ("compressor", "current", 7.4)))
    assert found.verdict.group == PUMPS_LITTLE and not found.verdict.cause, "which part is not told"
    assert (found.diagnosis.gauges.decides, found.diagnosis.gauges.rule) == ("warranted", "in_the_circuit")
    assert "gauges are warranted" in gauges_said(found)
    assert "Add no refrigerant" in verdict_said(found, FAHRENHEIT).next_step
    guessed = replace(short, readings=tuple(r for r in short.readings if r.quantity != "airflow"))
    assert assess(guessed).diagnosis.gauges.decides != "warranted", "the airflow first"
