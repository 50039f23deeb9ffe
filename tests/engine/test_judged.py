"""What is said of a judgement: steady words, the way as work, urgent things first, settling tests, pressures, what to do."""

from dataclasses import replace

import numpy as np
import pytest

from engine.assessment.actions import ACTIONS, by_cause
from engine.assessment.diagnosis import FAULT, KEPT_FOR, OPEN, SURE_GROUP, WITHHELD, Shown, concluded, diagnose
from engine.assessment.judged import in_kept_order, verdict_by
from engine.judgement.cause import ORIFICE
from engine.judgement.causes import EVERY_CAUSE
from engine.judgement.gauges import IN_THE_CIRCUIT
from engine.judgement.next_step import CROSSING_MINUTES, next_steps
from engine.judgement.residuals import KINDS
from engine.readings.round import Reading
from engine.water.exchanger import Grid
from tests.engine.rounds import judge, round_, walk


def test_near_ties_and_what_was_said_do_not_flicker():
    """What was said stays while it nearly holds, and two causes nearly as likely keep their order; a clear change comes through at once."""
    by_cause = {"dirty_condenser": 0.31, "weak_condenser_fan": 0.30, "overcharge": 0.05}
    assert in_kept_order(list(by_cause), by_cause, ("weak_condenser_fan", "dirty_condenser")) == [
        "weak_condenser_fan",
        "dirty_condenser",
        "overcharge",
    ]
    assert in_kept_order(list(by_cause), by_cause, ("overcharge", "dirty_condenser"))[0] == "dirty_condenser"
    states = []
    for liquid in np.arange(106.0, 118.0, 0.25):
        states.append(diagnose(walk(liquid=liquid, coil_line=52.0)))
    first = next(i for i, d in enumerate(states) if d.state == FAULT)
    last_open = states[first - 1]
    assert last_open.state == OPEN and SURE_GROUP - KEPT_FOR <= last_open.probability < SURE_GROUP
    shown = Shown(FAULT, last_open.ranked.by_group and next(iter(last_open.ranked.by_group)), ())
    assert concluded(last_open.ranked, list(last_open.residuals), shown).state == FAULT
    assert concluded(states[0].ranked, list(states[0].residuals), shown).state != FAULT


def test_the_way_to_the_other_side_counts_as_work():
    found = walk(liquid=107.0)
    ways = {side: judge(replace(found, standing=side))[0].steps for side in ("inside", "outside")}
    minutes = {side: {a.step.id: a.minutes for a in steps} for side, steps in ways.items()}
    both = minutes["inside"].keys() & minutes["outside"].keys()
    assert both and all(abs(minutes["inside"][s] - minutes["outside"][s]) == CROSSING_MINUTES for s in both)
    assert ways["inside"][0].step.side == "inside" or ways["outside"][0].step.side == "outside"


def test_the_units_own_published_table_wins_over_the_curves():
    table = Grid("X36", "wet bulb", (58.0, 76.0), "outdoor", (70.0, 115.0), ((30000.0, 24000.0), (42000.0, 36000.0)))
    found = walk(liquid=100.5, model="X36", performance_table=table)
    residual = next(r for r in diagnose(found).residuals if r.kind.id == "capacity")
    assert "its own published table" in residual.origin
    other = next(
        r for r in diagnose(replace(found, equipment=replace(found.equipment, model="Y36"))).residuals if r.kind.id == "capacity"
    )
    assert "curves" in other.origin and other.value != residual.value


@pytest.mark.parametrize("where", ["coil", "suction_line", "after_spot"])
def test_ice_is_urgent_and_nothing_else_is_told_through_it(where):
    """Common practice: thaw fully, prove the airflow, then read; nothing but a low subcooling can be told through ice."""
    found, whole = judge(walk(liquid=100.5, coil_line=40.0, seen={"ice": where}))
    assert found.diagnosis.state == WITHHELD and found.gauges.decides == "not enough to say"
    lines = next(s for s in whole.sections if s.id == "lines")
    assert any("thaw" in text for text in lines.urgent)
    cold = next(s for s in judge(walk(liquid=100.5, coil_line=29.0))[1].sections if s.id == "lines")
    assert any("below freezing" in text for text in cold.urgent), "a line under 32 °F leaves a coil that is colder still"


def test_liquid_on_its_way_back_is_said_before_it_is_explained():
    lines = {"suction_line_indoor": 33.0, "suction_line_outdoor": 33.5, "liquid_line_outdoor": 106.0}
    base = round_(seer=14.0, metering_device=ORIFICE)
    found, _ = judge(
        replace(base, readings=(*base.readings, *(Reading(at, "temperature", t, "clamp") for at, t in lines.items())))
    )
    assert found.diagnosis.group in ("overfed", "charge_high") and "stop it" in found.urgent[0], found.diagnosis.ranked.by_group
    assert not judge(walk(liquid=100.5, coil_line=52.0))[0].urgent


@pytest.mark.parametrize(
    ("supply_f", "supply_rh"), [(62.0, 85.0), (68.0, 68.0), (75.5, 53.5)], ids=["half", "a third", "nothing left"]
)
def test_a_machine_that_has_lost_half_its_capacity_or_all_of_it_is_faulty_not_its_probe(supply_f, supply_rh):
    by_air = diagnose(round_(supply_f=supply_f, supply_rh=supply_rh, seer=14.0))
    assert (by_air.state, by_air.group) == (FAULT, "short")
    starved, _ = judge(walk(supply_f=supply_f, supply_rh=supply_rh, liquid=94.0, coil_line=72.0))
    assert starved.diagnosis.group in ("", *IN_THE_CIRCUIT), starved.diagnosis.ranked.by_group
    assert starved.diagnosis.ranked.by_group["probe"] < 0.05 and starved.gauges.rule not in ("sound", "outside_the_circuit")


def test_the_tests_of_the_trade_settle_what_readings_leave_open():
    """Warm the bulb, hold the probes together, shade the outdoor probe: offered where they tell something, and they tell it."""

    def steps_of(found):
        ranked = diagnose(found).ranked
        return {a.step.id: a for a in next_steps(ranked, tuple(KINDS), found.observations)}, ranked

    starved = walk(liquid=96.0, coil_line=66.0, supply_f=61.0, supply_rh=82.0)
    offered, before = steps_of(starved)
    assert "valve_bulb" in offered and any("No answer" in text for text in offered["valve_bulb"].means)
    _, after = steps_of(replace(starved, observations={**starved.observations, "valve_bulb": "no_answer"}))
    assert after.by_cause["starving_valve"] > before.by_cause["starving_valve"]
    orifice = replace(starved, equipment=replace(starved.equipment, metering_device=ORIFICE))
    assert "valve_bulb" not in steps_of(orifice)[0], "there is no bulb"
    odd = walk(liquid=95.0, coil_line=52.0)
    offered, before = steps_of(odd)
    assert "probes_together" in offered or "outdoor_shaded" in offered
    together = {"agree": 0.0, "differ": 0.0}
    for degree in together:
        _, after = steps_of(replace(odd, observations={**odd.observations, "probes_together": degree}))
        together[degree] = after.by_cause["liquid_clamp"]
    assert together["agree"] < before.by_cause["liquid_clamp"] < together["differ"]


def test_pressures_tell_what_lines_leave_open():
    """R-410A: dew 45 °F at 130 psig, bubble 110 °F at 365 psig (saturation tables checked against CoolProp elsewhere); lines set by hand from those."""
    lines = walk(liquid=109.0, refrigerant="R-410A", supply_f=58.5, supply_rh=86.0)
    lines = replace(lines, readings=(*lines.readings, Reading("suction_line_outdoor", "temperature", 75.0, "clamp")))
    gauged = replace(
        lines, readings=(*lines.readings, Reading("gauge_suction", "pressure", 130.0), Reading("gauge_liquid", "pressure", 365.0))
    )
    before, after = diagnose(lines), diagnose(gauged)
    kinds = {r.kind.id: r for r in after.residuals}
    assert kinds["superheat"].value == pytest.approx(30.0 - 12.5, abs=1.5) and kinds["subcooling"].value == pytest.approx(
        1.0 - 10.0, abs=1.5
    )
    assert after.ranked.by_group["charge_low"] > max(before.ranked.by_group["charge_low"], 0.9)
    swapped = replace(gauged, equipment=replace(gauged.equipment, refrigerant=""))
    assert {r.kind.id for r in diagnose(swapped).residuals} == {r.kind.id for r in before.residuals}, (
        "no refrigerant, no superheat"
    )


def test_what_to_do_is_cheapest_honest_first_and_the_named_cause_says_what_is_next():
    both = [a.id for a in by_cause({"blocked_filter": 0.3, "dirty_evaporator": 0.6, "tight_ducts": 0.02}, 0.15)]
    assert both == ["filter_changed", "evaporator_cleaned"], "three minutes at three in ten before an hour at six in ten"
    assert all(a.minutes > 0 and (not a.causes or a.do) for a in ACTIONS)
    assert {c for a in ACTIONS for c in a.causes} <= set(EVERY_CAUSE)
    matted, whole = judge(walk(liquid=125.0, coil_line=52.0, seen={"condenser_coil": "matted"}))
    assert verdict_by(matted, whole.verdict).next_step.startswith("Wash the condenser")
