"""Heating: the liquid line held to the rise as measured, the bounds of a suction line, and what pressures add."""

from dataclasses import replace

import numpy as np
import pytest

from engine.assessment import assess, table_of
from engine.diagnosis.cause import WARM_LIQUID
from engine.diagnosis.gauges import NOT_ENOUGH
from engine.physics.refrigerant.properties import refrigerant
from engine.readings.round import Reading
from engine.report.finding_words import said
from engine.report.verdict_words import verdict_said
from engine.report.words import FAHRENHEIT
from plant.machine import Spec
from plant.places import faulty
from tests.engine.rounds import judge, walk, with_readings
from tests.engine.test_causes_elsewhere import cold, read

HEAT_PUMP = Spec(kind="heat_pump")
AIR_PSIA = 14.696


def heated(faults, outside_f=38.0, **plate):
    """A simulated heat pump, read without noise, with both pressures on its plate's refrigerant."""
    weather = cold(outside_f)
    run = faulty(HEAT_PUMP, faults, weather)
    found = read(run, weather, seer=14.0, refrigerant="R-410A", heating_btuh_47=39000.0, **plate)
    gauges = tuple(
        Reading(place, "pressure", run.values[place, "pressure"]) for place in ("gauge_suction", "gauge_liquid")
    )
    return found, replace(found, readings=(*found.readings, *gauges))


@pytest.mark.parametrize(
    ("fault", "severity"), [("blocked_filter", "slight"), ("weak_compressor", "severe"), ("dirty_condenser", "severe")]
)
def test_less_air_or_less_heat_does_not_move_what_is_expected_of_the_liquid_line(fault, severity):
    """Condensing over return air follows from the rise and the coil, whatever the machine gives (energy balance)."""
    sound, off = (assess(heated(f)[0]).table["heat_approach"] for f in ({}, {fault: severity}))
    assert abs(off.residual.value - sound.residual.value) < 5.0
    assert off.expected.value != pytest.approx(sound.expected.value, abs=1.0), "expected moves with the rise"


@pytest.mark.parametrize(("more", "side"), [(1.0, 0), (1.35, 1), (0.65, -1)])
def test_a_third_more_or_less_heat_than_the_tons_can_give_is_out_of_range(more, side):
    """Whatever the plate is silent on: rated heating at 47 °F is 0.9 to 1.15 of nominal tons (makers' tables, memory)."""
    found, _ = heated({})
    silent = replace(found, equipment=replace(found.equipment, heating_btuh_47=None))
    returning, plenum = (found.value(place, "dry_bulb") for place in ("return_unit", "supply_plenum"))
    warmed = returning + more * (plenum - returning)
    readings = tuple(
        replace(r, value=warmed) if (r.place, r.quantity) == ("supply_plenum", "dry_bulb") else r
        for r in found.readings
    )
    assert assess(replace(silent, readings=readings)).table["rise"].side == side


def test_lost_charge_brings_the_liquid_line_up_by_the_subcooling_there_was():
    sound, low = (assess(heated(f)[0]).table["heat_approach"] for f in ({}, {"undercharge": "moderate"}))
    assert 8.0 < low.residual.value - sound.residual.value < 22.0


def test_no_cause_warms_the_suction_beyond_the_air_that_feeds_its_coil():
    """Outdoor air + 3 °F of the reversing valve at most (memory); cooling: return air."""
    ranked = assess(heated({"undercharge": "severe"})[0])
    i = ranked.diagnosis.ranked.kinds.index("true_suction")
    q = ranked.table["true_suction"]
    highest = q.basis["outdoor_f"] + 3.0 - q.expected.value
    of_machine = np.array(
        ["probe" not in c and "clamp" not in c for (c, *_) in ranked.diagnosis.ranked.hypotheses.causes]
    )
    assert ranked.diagnosis.ranked.shifts[of_machine, i].max() <= highest + 1e-9


def test_pressures_tell_a_coil_that_is_not_fed_from_one_that_takes_in_too_little():
    """Both evaporate low; superheat is high behind the one and as usual behind the other (field practice)."""
    for fault, group, superheat in (("restriction", "starved", 1), ("dirty_condenser", "outdoor_coil", 0)):
        _, gauged = heated({fault: "severe"})
        found = assess(gauged)
        assert found.table["superheat"].side == superheat, (fault, found.table["superheat"].off)
        shares = found.diagnosis.ranked.by_group
        assert shares[group] > 0.3 and shares[group] > shares["outdoor_coil" if group == "starved" else "starved"], (
            fault
        )


def test_a_hose_on_hot_gas_is_said_and_nothing_is_worked_out_from_it():
    _, gauged = heated({})
    wrong = replace(gauged, readings=tuple(
        replace(r, value=float(refrigerant("R-410A").pressure_psia(105.0, "dew")) - AIR_PSIA) if r.place == "gauge_suction" else r
        for r in gauged.readings
    ))  # fmt: skip
    assessed = assess(wrong)
    finding = next(f for f in assessed.findings if f.id == "gauge_on_hot_gas")
    assert "true-suction port" in said(finding, FAHRENHEIT).hint
    assert assessed.table.get("superheat") is None and assessed.table.get("evaporating") is None
    assert not any(f.id == "gauge_on_hot_gas" for f in assess(gauged).findings)
    assert assess(gauged).table["superheat"].measured.known


def test_what_it_gives_is_held_to_its_own_baseline_as_its_rise_is():
    now, then = heated({}, 30.0)[0], heated({}, 46.0)[0]
    found = assess(now, table_of(then))
    rise, capacity = found.table["rise"], found.table["capacity"]
    assert capacity.authority == rise.authority == "own_baseline"
    assert capacity.off.value / capacity.expected.value == pytest.approx(rise.off.value / rise.expected.value, abs=0.02)


def test_a_warm_liquid_line_that_may_be_the_condenser_is_no_reason_for_gauges_yet():
    """Schools differ on a high approach; looking at the condenser takes a minute (common practice, no single source)."""
    told = []
    for liquid in np.arange(106.0, 116.0, 0.5):
        found, words = judge(walk(liquid=liquid, coil_line=52.0))
        if found.verdict.group == WARM_LIQUID:
            told.append(words.next_step)
            assert found.diagnosis.gauges.decides == NOT_ENOUGH and found.diagnosis.gauges.rule == "condenser_first"
    assert told and all("Add no refrigerant before" in text for text in told)
    seen, words = judge(with_readings(walk(liquid=112.0, coil_line=52.0, seen={"condenser_coil": "matted"})))
    assert seen.verdict.group == "condenser" and "Wash the outdoor coil" in words.next_step
    assert verdict_said(seen, FAHRENHEIT).headline == "The condenser is matted."
