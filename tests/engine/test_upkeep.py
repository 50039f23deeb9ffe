"""What comes due by itself, which weather spoils a test, what to bring."""

from dataclasses import replace
from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from engine.houserules.rules import DEFAULT, choose
from engine.over_time.upkeep import BY_DROP, BY_MONTHS, FEWEST_DAYS_AHEAD, REACHED, SEASONS, filter_due, next_test
from engine.report.upkeep_words import filter_said, forecast_says, to_bring, weather_wanted
from engine.report.words import FAHRENHEIT, words_in
from engine.validity.conditions import failed_conditions
from engine.validity.weather import withheld_ahead
from tests.engine.rounds import round_

YEAR = 365.25


# The first row by hand: 0.04 in. w.c. in 180 days, so 0.02 more, to twice the clean 0.06, in 90.
@pytest.mark.parametrize(("clean", "drops", "by", "days", "limit"), [
    (0.06, [(0, 0.06), (90, 0.08), (180, 0.10)], BY_DROP, 270, 0.12),
    (0.06, [(0, 0.06), (90, 0.062)], BY_MONTHS, YEAR, 0.12),  # less than the manometer leaves open
    (0.06, [(0, 0.06), (200, 0.05)], BY_MONTHS, YEAR, 0.12),  # falling: a better one was put in
    (0.06, [(0, 0.06), (300, 0.08)], BY_MONTHS, YEAR, 0.12),  # it would lead to 900 days: the months come first
    (0.06, [(0, 0.06), (90, 0.13)], REACHED, 90, 0.12),
    (0.03, [(0, 0.03), (90, 0.11)], REACHED, 90, 0.10),
    (None, [(40, 0.25)], REACHED, 40, 0.16),  # nobody read it clean: against twice the usual drop
    (None, [], BY_MONTHS, YEAR, 0.16),
])  # fmt: skip
def test_a_filter_is_due_by_its_drop_where_that_tells(clean, drops, by, days, limit):
    due = filter_due(0.0, clean, drops, 12.0)
    assert (due.by, due.limit_inwc) == (by, pytest.approx(limit))
    assert due.days == pytest.approx(days, abs=0.5)
    assert filter_said(due)


@given(st.floats(0.02, 0.2), st.floats(0.001, 0.4), st.integers(30, 300), st.sampled_from((3.0, 6.0, 12.0)))
def test_a_filter_is_never_due_later_than_its_months_and_sooner_the_faster_it_loads(clean, rise, day, months):
    first, faster = (filter_due(0.0, clean, [(0, clean), (day, clean + r)], months) for r in (rise, 1.5 * rise))
    assert first.days <= max(months / 12 * YEAR, day) + 1e-6
    assert faster.days <= first.days or faster.by == REACHED


@given(st.dates(date(2024, 1, 1), date(2040, 1, 1)), st.sampled_from(("air_conditioner", "heat_pump", "ground_source")))
def test_the_next_test_is_in_the_next_season_that_is_not_this_one(today, kind):
    mode, day = next_test(kind, today)
    assert day.month == SEASONS[mode] and FEWEST_DAYS_AHEAD <= day - today <= timedelta(days=366 + 120)
    assert mode == "cooling" or kind != "air_conditioner"
    if kind != "air_conditioner":
        assert day - today <= timedelta(days=184 + 120), "both modes are read within a year"


@pytest.mark.parametrize(("kind", "mode", "outdoor_f", "wet", "withheld", "says"), [
    ("air_conditioner", "cooling", 64.0, False, ("too_cold_out",), "64 °F is forecast: too cold to judge the circuit in cooling"),
    ("air_conditioner", "cooling", 65.0, False, (), ""),
    ("heat_pump", "heating", 50.0, False, ("too_warm_out",), "50 °F is forecast: too warm to judge the circuit in heating"),
    ("heat_pump", "heating", 30.0, True, ("rain",), "rain is forecast: a wet outdoor coil spoils the test"),
    ("heat_pump", "", 57.0, False, ("too_cold_out", "too_warm_out"), "57 °F is forecast: too cold for a cooling test and too warm for a heating test"),
    ("heat_pump", "", 40.0, False, (), ""),  # cold enough to heat
    ("ground_source", "cooling", 20.0, True, (), ""),
])  # fmt: skip
def test_the_weather_ahead_withholds_what_it_would_withhold_that_day(kind, mode, outdoor_f, wet, withheld, says):
    found = withheld_ahead(kind, mode, outdoor_f, wet, DEFAULT)
    assert found == withheld and forecast_says(found, outdoor_f, FAHRENHEIT) == says


@given(st.floats(20.0, 110.0), st.sampled_from(("cooling", "heating")))
def test_a_forecast_and_a_round_read_that_day_agree(outdoor_f, mode):
    """What a forecast withholds is what the conditions of a round find, of the same number."""
    rules = choose({"least_outdoor_f": 60.0, "most_outdoor_heating_f": 55.0}, "t")
    read = replace(round_(outdoor_f=outdoor_f, rules=rules, kind="heat_pump"), mode=mode)
    of_weather = {f.id for f in failed_conditions(read)} & {"too_cold_out", "too_warm_out"}
    assert of_weather == set(withheld_ahead("heat_pump", mode, outdoor_f, False, rules))


def test_the_weather_a_test_wants_comes_from_the_rules_in_the_persons_scale():
    assert (
        weather_wanted("air_conditioner", "cooling", DEFAULT, FAHRENHEIT) == "65 °F or more outside, outdoor coil dry"
    )
    both = weather_wanted("heat_pump", "", DEFAULT, words_in("C"))
    assert both == "18 °C or more outside for cooling or under 10 °C outside for heating, outdoor coil dry"
    assert weather_wanted("ground_source", "heating", DEFAULT, FAHRENHEIT) == ""


@pytest.mark.parametrize(("asked", "first", "never"), [
    (("air_conditioner", "R-410A", ["healthy"], False, False), None, "Gauges"),
    (("air_conditioner", "R-410A", ["low_airflow"], True, False), "Filter", "Gauges"),
    (("heat_pump", "R-32", ["charge_low"], False, False), "Leak detector", "Recovery"),
    (("heat_pump", "R-454B", [""], False, True), "Leak detector", "Recovery"),
    (("air_conditioner", "R-22", ["charge_high"], False, False), "Gauges", "Leak"),
    (("ground_source", "R-410A", [], False, False), "Water probe", "Gauges"),
])  # fmt: skip
def test_what_to_bring_follows_from_the_last_verdict(asked, first, never):
    found = to_bring(*asked)
    assert (found[0].startswith(first) if first else found == []) and never not in " ".join(found)
    rated = any("rated for A2L" in line for line in found)
    assert rated == (asked[1] in ("R-32", "R-454B")), "mildly flammable ones want their own tools"
