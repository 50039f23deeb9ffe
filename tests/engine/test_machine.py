"""What the visits since its baseline teach of one machine: the arithmetic, what it may never learn, and drifts as
evidence.
"""

import json
from math import hypot

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from benchmarks.years import BAD_PROBE, BASELINE, KNOWN, years_of
from engine.assessment import assess, table_of
from engine.kinds.machine import FURTHEST, Earlier, drifting, known, learnt, offset_of
from engine.report.advice_words import causes_said
from engine.report.bundle.batch import answers
from engine.report.bundle.reading import visit_of
from engine.report.quantity_words import sentence
from engine.report.words import FAHRENHEIT
from plant.population import Population
from plant.years import Course, visits_of
from tests.engine.rounds import walk

DRIFT_OF_NONE = 1e-12


@given(st.lists(st.floats(-0.5, 0.5), min_size=1, max_size=9), st.floats(0.5, 9.0), st.floats(0.5, 9.0))
def test_without_drift_it_is_the_textbooks_normal_with_known_variance(values, variance, machines):
    """Gelman et al., Bayesian Data Analysis, normal mean with known variance (from memory): the precisions add, and the
    mean is weighed by them. No value here stands off far enough to count less.
    """
    n, y = len(values), np.array(values)
    found = offset_of(np.arange(n) / 2.0, y, np.full(n, variance), machines, DRIFT_OF_NONE)
    precision = 1.0 / machines + n / variance
    assert found.value == pytest.approx(y.sum() / variance / precision, abs=1e-6)
    assert found.variance == pytest.approx(1.0 / precision, rel=1e-6)


@given(st.floats(-3.0, 3.0), st.integers(3, 12))
def test_what_grows_along_a_line_is_not_learnt(slope, visits):
    """By construction: on a straight line from the baseline, the offset is the baseline's, whatever the slope."""
    years = np.arange(visits + 1) / 2.0
    found = offset_of(years, 1.0 + slope * years, np.full(visits + 1, 1.0), 1e6, 1e6)
    assert found.value == pytest.approx(1.0, abs=1e-3)


def test_one_visit_that_stands_apart_counts_less_than_the_others():
    years, values = np.arange(9) / 2.0, np.zeros(9)
    values[5] = 8.0
    plain, apart = (offset_of(years, v, np.ones(9), 25.0, DRIFT_OF_NONE).value for v in (values, np.eye(9)[5]))
    assert plain < 2.0 * apart, "eight times as far off moves it less than twice as far"


def visits(*liquids, sound=True):
    """Half-yearly visits of one machine with these liquid lines [°F]."""
    return [Earlier((n + 1) / 2, table_of(walk(liquid=liquid)), sound) for n, liquid in enumerate(liquids)]


def test_sound_visits_narrow_what_is_expected_and_move_it_by_half_of_what_the_sealed_round_leaves_open():
    sealed = table_of(walk(liquid=100.5))
    alone = assess(walk(liquid=101.0), sealed).table["approach"]
    several = assess(walk(liquid=101.0), learnt(sealed, visits(101.3, 101.2, 101.4, 101.3))).table["approach"]
    assert several.off.u95 < 0.9 * alone.off.u95 and several.expected.value > alone.expected.value
    r = sealed["approach"].residual
    open_u95 = hypot(r.repeat_u95, *r.pushes.values())
    far = learnt(sealed, visits(103.4, 103.3, 103.2, 103.3, 103.4, 103.3))["approach"].residual.value
    assert 0.0 < far - r.value <= FURTHEST * open_u95
    assert learnt(sealed, visits(103.0, 103.2, sound=False)).quantities == sealed.quantities, "only sound visits teach"


def test_on_simulated_years_it_knows_better_and_names_a_leak_no_later():
    """The courses of benchmarks.years, a few machines each; figures of sixty machines are in docs/kinds.md."""
    sound = years_of((4001, 1, Course("sound"), 8))
    widths = [sound[how][-1].widths for how in (BASELINE, KNOWN)]
    assert sum(widths[1][id_] < widths[0][id_] for id_ in widths[0]) > 0.9 * len(widths[0])
    assert not any(year.told for year in sound[KNOWN])
    leaks = [years_of((4001, row, Course("leak", {"undercharge": 0.03 / 0.55}), 8)) for row in (2, 3, 4)]
    first = [[next((n for n, y in enumerate(m[how]) if y.told), 99) for how in (BASELINE, KNOWN)] for m in leaks]
    alone, with_visits = zip(*first, strict=True)
    assert max(*alone, *with_visits) < 99 and sum(with_visits) <= sum(alone) + 1, "but for one visit of one machine"
    loading = years_of((4001, 2, Course("filter", {"blocked_filter": 0.002}), 6))
    alone, with_visits = ([year.told for year in loading[how]].index(True) for how in (BASELINE, KNOWN))
    assert with_visits <= alone
    assert not any(year.told for year in years_of((4001, 2, Course("turns", people=2), 6))[KNOWN])
    bad = years_of((4001, 1, Course("bad", wrong={4: BAD_PROBE}), 5))
    moved = [bad[KNOWN][n].expected["approach"] - bad[BASELINE][n].expected["approach"] for n in (3, 4)]
    assert abs(moved[1] - moved[0]) < 0.25, "of a tolerance, by a reading that is one off"


def test_another_persons_instruments_are_not_taken_for_the_machine():
    """By turns, each with their own: no more is learnt of a machine than the same visits by one person teach."""
    rounds = [visit_of(b) for b in visits_of(4001, 2, Course("turns", people=2), 6, Population("Shop"))]
    sealed = table_of(rounds[0].baseline)
    earlier = [Earlier(n / 2, table_of(v.rounds[0][1]), True) for n, v in enumerate(rounds, start=1)]
    pushes = learnt(sealed, earlier)["approach"].residual.pushes
    assert {"clamp clamp 0", "clamp clamp 1"} <= pushes.keys(), "each clamp's error is its own"


def test_an_airflow_found_another_way_brings_an_error_of_its_own():
    """Of two methods the one that baseline and today share cancels; the other's does not."""
    sealed = table_of(walk(liquid=100.5))
    by_hand = [Earlier(n / 2, table_of(walk(liquid=101.0, method="traverse")), True) for n in (1, 2, 3)]
    mixed = learnt(sealed, [*visits(101.2, 101.1), *by_hand])["split"].residual.pushes
    one = learnt(sealed, visits(101.2, 101.1, 101.0, 101.0, 101.0))["split"].residual.pushes
    assert "airflow_method, otherwise" in mixed and "airflow_method, otherwise" not in one
    lasting = sealed["split"].residual.pushes["airflow_method"]
    assert 0.5 * lasting < one["airflow_method"] < lasting, "drawn to the curves by what one machine is not known by"


# -- drifts --------------------------------------------------------------------------------------------------------------


def test_a_drift_of_the_visits_before_is_evidence_for_what_creeps():
    sealed, climbing = table_of(walk(liquid=100.5)), visits(101.4, 102.3, 103.2, 104.1, 105.0)
    today = walk(liquid=105.4)
    table, trends = known(sealed, climbing)
    plain, told = assess(today, table), assess(today, table, trends=trends)
    assert trends["approach"].slope == pytest.approx(1.8, abs=0.15)
    for cause in ("undercharge", "dirty_condenser"):
        assert told.diagnosis.ranked.by_cause[cause] > plain.diagnosis.ranked.by_cause[cause]
    for cause in ("liquid_clamp", "overcharge", "healthy"):
        assert told.diagnosis.ranked.by_cause[cause] < plain.diagnosis.ranked.by_cause[cause]
    said = {c.cause: c for c in causes_said(told, FAHRENHEIT)}
    sentence = next(s for s in said["undercharge"].speaks_for if "visits before" in s)
    assert sentence.startswith("Approach has risen 1.8 ± ") and sentence.endswith("°F a year over the visits before.")


def test_what_happened_in_between_begins_a_drift_anew():
    sealed, climbing = table_of(walk(liquid=100.5)), visits(101.7, 102.9, 104.1, 105.3, 106.5)
    fixed = [*climbing, *(Earlier(v.years + 2.5, v.table, v.sound, n == 0) for n, v in enumerate(visits(100.4, 100.5)))]
    assert "approach" in drifting(sealed, climbing)
    assert "approach" not in drifting(sealed, fixed)
    assert drifting(None, climbing)["approach"].slope == pytest.approx(2.4, abs=0.15), (
        "without a baseline by the curves"
    )


def test_a_bundle_tells_what_the_engine_is_told():
    bundles = visits_of(4001, 3, Course("leak", {"undercharge": 0.015 / 0.55}), 4, Population("Shop"))
    *before, last = [visit_of(bundle) for bundle in bundles]
    earlier = [{"years": n / 2, "sound": True, "round": b["rounds"][0]} for n, b in enumerate(bundles[:-1], start=1)]
    for each in earlier:
        each["round"].pop("name", None)
    (answer,) = answers([(1, json.dumps({**bundles[-1], "earlier": earlier}))])
    own = [Earlier(n / 2, table_of(v.rounds[0][1]), True) for n, v in enumerate(before, start=1)]
    table, trends = known(table_of(last.baseline), own)
    found = assess(last.rounds[0][1], table, trends=trends)
    approach = answer["rounds"][0]["quantities"]["approach"]
    assert approach["expected"]["value"] == pytest.approx(found.table["approach"].expected.value, rel=1e-5)
    assert approach["sentence"] == sentence(found.table["approach"], FAHRENHEIT, found.table)
    assert "sound visits since, corrected to today" in approach["sentence"]
