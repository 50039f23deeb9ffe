"""Ice and what follows it: stop and thaw first, then a restart reading that tells air from feed and nothing more.
Common practice, no single source.
"""

from dataclasses import replace

import pytest

from engine.assessment import assess
from engine.diagnosis.cause import NOT_FED
from engine.diagnosis.gauges import NOT_ENOUGH
from engine.diagnosis.verdict import CANNOT_TELL, DOES_NOT_COUNT, GROUP, RESTART, STOP_FIRST
from engine.report.timing import timing
from engine.report.verdict_words import verdict_said
from engine.report.words import FAHRENHEIT
from tests.engine.test_by_gauge import by_gauge

HIGH_SPLIT = {"supply_f": 49.5, "supply_rh": 95.0}


def restart(*pressures, lines=(101.0, 54.0, 57.0), minutes=4.0, seen=None, **given):
    """A reading in the first minutes after a thaw; saturations and lines [°F] where gauges are on."""
    return by_gauge(*pressures, *lines, minutes=minutes, seen={"restart": "reading", **(seen or {})}, **given)


@pytest.mark.parametrize(
    ("pressures", "lines", "given", "group"),
    [
        ((45.0, 111.0), (101.0, 54.0, 57.0), {}, "low_airflow"),  # TXV: superheat as usual, split as usual
        ((38.0, 108.0), (100.0, 46.0, 50.0), HIGH_SPLIT, "low_airflow"),
        ((35.0, 99.0), (98.0, 68.0, 71.0), {"supply_f": 64.0, "supply_rh": 80.0}, NOT_FED),
        ((38.0, 100.0), (98.0, 68.0, 71.0), {}, ""),  # high superheat with a normal split: neither
        ((43.0, 111.0), (101.0, 45.0, 46.5), HIGH_SPLIT | {"metering_device": "fixed_orifice"}, "low_airflow"),
        ((45.0, 111.0), (101.0, 54.0, 57.0), {"metering_device": "fixed_orifice"}, ""),
        ((), (None, None, None), HIGH_SPLIT, "low_airflow"),  # without gauges a high split alone
        ((), (None, None, None), {}, ""),
    ],
)
def test_a_restart_reading_tells_air_from_feed_and_nothing_more(pressures, lines, given, group):
    found = restart(*(pressures or (None, None)), lines=tuple(line or 57.0 for line in lines), **given)
    assert (found.verdict.reason, found.verdict.group) == (RESTART, group)
    assert found.verdict.state == (GROUP if group else CANNOT_TELL)
    assert found.diagnosis.causes == () and found.diagnosis.gauges.decides == NOT_ENOUGH
    assert "unsettled" in found.baseline_obstacles
    said = verdict_said(found, FAHRENHEIT)
    assert "restart reading" in said.says.lower() and "let it settle" in said.next_step.lower()
    assert "charge" not in said.headline.lower()


def test_once_it_has_settled_it_is_a_round_like_any_other():
    assert restart(45.0, 111.0, minutes=20.0).verdict.reason != RESTART
    assert by_gauge(45.0, 111.0, minutes=4.0).verdict.state == DOES_NOT_COUNT
    assert restart(45.0, 111.0, seen={"ice": "coil"}).verdict.state == STOP_FIRST


@pytest.mark.parametrize(("where", "minutes"), [("coil", "60"), ("suction_line", "30"), ("after_spot", "30")])
def test_ice_is_thawed_first_with_its_minutes_and_the_looks_that_need_no_running_machine(where, minutes):
    found = by_gauge(seen={"ice": where, "filter": "clean"})
    said = verdict_said(found, FAHRENHEIT)
    assert said.headline == "Stop the compressor." and f"about {minutes} min" in said.next_step
    assert "evaporator face" in said.says and "filter" not in said.says.split("Meanwhile")[1]


def test_a_thaw_that_outlasts_the_visit_becomes_a_follow_up():
    assert "outlasts the visit" in timing(20.0, 45.0, thaw_min=60.0).says[-1]
    assert "outlasts" not in timing(20.0, 45.0).says[-1]
    assert "outlasts" not in timing(20.0, 240.0, thaw_min=60.0).says[-1]


def test_in_heating_frost_is_its_own_case():
    found = by_gauge()
    iced = assess(
        replace(found.round, mode="heating", observations={**found.round.observations, "outdoor_coil": "iced"})
    )
    assert iced.verdict.state == DOES_NOT_COUNT and "outdoor_coil_iced" in [f.id for f in iced.findings]
