"""A machine over the years: trends with their doubt, steps at what happened, and what is said of both."""

import numpy as np
import pytest
from scipy.stats import binomtest, theilslopes

from engine.assessment import assess, table_of
from engine.errors import EngineError
from engine.over_time.history import FIX, PERSON, Event, Visited, events_between, strings_of
from engine.report.history_words import drift_said, drifts_say, state_said, step_said
from engine.report.words import FAHRENHEIT
from engine.uncertainty.share import wilson
from engine.uncertainty.trend import trend_of
from tests.engine.rounds import walk, with_readings


@pytest.mark.parametrize("count", [5, 8, 20, 60])
def test_slope_and_scatter_are_scipys(count):
    """scipy.stats.theilslopes, at 95 %, on random points; the instruments' part is zero where they have no error."""
    random = np.random.default_rng(count)
    years, values = np.sort(random.uniform(0, 4, count)), random.normal(size=count)
    theirs, ours = theilslopes(values, years, 0.95), trend_of(years, values, [0.0] * count)
    assert ours.slope == pytest.approx(theirs.slope)
    assert ours.u95 == pytest.approx((theirs.high_slope - theirs.low_slope) / 2)


def test_two_points_are_a_trend_only_beyond_both_margins():
    """By construction: the slope of two points has the 95 % hypot(u1, u2) / time between."""
    found = trend_of([0.0, 2.0], [0.0, 3.0], [1.2, 1.6])
    assert (found.slope, found.u95) == (1.5, pytest.approx(1.0)) and found.is_known
    assert not trend_of([0.0, 2.0], [0.0, 1.9], [1.2, 1.6]).is_known
    assert trend_of([1.0, 1.0], [0.0, 3.0], [0.1, 0.1]) is None and trend_of([1.0], [0.0], [0.1]) is None


def test_a_line_is_found_exactly_and_one_bad_visit_hardly_moves_it():
    years = np.arange(8) / 2
    straight = trend_of(years, 1.5 * years - 1.0, [0.2] * 8)
    assert straight.slope == pytest.approx(1.5) and straight.now == pytest.approx(4.25)
    assert straight.years_to(5.0) == pytest.approx(0.5) and straight.years_to(4.0) is None
    off = 1.5 * years - 1.0
    off[5] += 12.0
    assert trend_of(years, off, [0.2] * 8).slope == pytest.approx(1.5, abs=0.3)


def test_a_sound_machine_hardly_ever_drifts():
    """Eight visits over four years with the margins they claim: of 300 machines at most one in fifty has a known slope."""
    random = np.random.default_rng(7)
    years = np.arange(8) / 2
    known = sum(trend_of(years, random.normal(scale=0.5, size=8), [0.98] * 8).is_known for _ in range(300))
    assert known <= 6


def history(liquids, watts=None, since=None, every_days=182.0):
    """Half-yearly visits of one machine with these liquid lines [°F], each against the first. since: visit -> events."""
    rounds = [
        with_readings(walk(liquid=liquid), ("compressor", "power", (watts or [2200.0] * len(liquids))[n]))
        for n, liquid in enumerate(liquids)
    ]
    anchor = table_of(rounds[0])
    return [
        Visited(str(n), every_days * n, assess(round_, anchor), (since or {}).get(n, ()))
        for n, round_ in enumerate(rounds)
    ]


def string(visited, id_):
    return next(found for found in strings_of(visited) if found.id == id_)


def test_a_slow_leak_is_seen_said_and_pointed_at():
    visited = history([100.5, 101.4, 102.3, 103.2, 104.1, 105.0], [2200, 2160, 2120, 2080, 2030, 1990])
    approach = string(visited, "approach")
    assert approach.drift == 1 and approach.trend.slope == pytest.approx(1.8, abs=0.1)
    said = drift_said(approach, "June 2024", FAHRENHEIT)
    assert said.startswith("Approach has risen 1.8 ± ") and "°F a year since June 2024" in said
    # Of less than a year nobody is told a year's worth: 4.5 °F in six visits two months apart.
    quick = string(history([100.5, 101.4, 102.3, 103.2, 104.1, 105.0], every_days=60), "approach")
    assert drift_said(quick, "May 2024", FAHRENHEIT).startswith("Approach has risen 4.5 ± ")
    assert " a year" not in drift_said(quick, "May 2024", FAHRENHEIT).partition(";")[0]
    assert drifts_say(strings_of(visited)) == "Losing charge."
    assert drifts_say(strings_of(history([100.5, 102.0, 103.6, 105.2, 106.8], [2200, 2290, 2380, 2470, 2560]))) == (
        "The condenser is getting dirty."
    )


def test_a_sound_machine_is_a_straight_string():
    visited = history([100.5, 100.9, 100.2, 100.7, 100.4])
    assert {state_said(found) for found in strings_of(visited)} <= {"as ever", "can't tell yet"}
    assert drifts_say(strings_of(visited)) == "Nothing drifts."
    assert drifts_say(strings_of(visited[:2])) == "Too few visits yet to see a drift."
    jumped = history([100.5, 100.9, 112.0], since={2: (Event(PERSON, "Tomas"),)})
    assert drifts_say(strings_of(jumped)) == "Out of range now: approach."


def test_a_step_is_named_by_what_happened_and_the_drift_begins_after_it():
    done = {3: (Event(FIX, "Outdoor coil washed"),), 4: (Event(PERSON, "Tomas"),)}
    visited = history([100.5, 103.5, 106.5, 101.0, 101.2, 100.8], since=done)
    approach = string(visited, "approach")
    (step,) = approach.steps
    assert step.size.value == pytest.approx(-5.5) and step.after.at.key == "3"
    events = events_between(step, visited)
    assert step_said(approach, step, events, "Jul 2, 2026", FAHRENHEIT).endswith(
        "on Jul 2, 2026: outdoor coil washed."
    ), "the person of the visit after it is no part of it"
    assert approach.drift == 0 and approach.since.at.key == "3"
    nobody = string(history([100.5, 103.5, 106.5, 101.0, 101.2, 100.8]), "approach")
    assert nobody.steps == (), "without anything that happened a jump is scatter"


@pytest.mark.parametrize(("hits", "cases"), [(0, 1), (1, 1), (4, 5), (50, 80), (999, 1000)])
def test_the_interval_of_a_share_is_scipys(hits, cases):
    """scipy.stats.binomtest, proportion_ci by Wilson's method."""
    theirs = binomtest(hits, cases).proportion_ci(0.95, "wilson")
    assert wilson(hits, cases) == pytest.approx((theirs.low, theirs.high), abs=1e-12)
    with pytest.raises(EngineError, match="no share"):
        wilson(cases + 1, cases)
