"""Charging and recovering in weighed steps: at a simulated machine to its target, and when it is not to go on."""

from dataclasses import replace

import numpy as np
import pytest

from engine.assessment import assess, table_of
from engine.charging.leak import leak_rate_share
from engine.charging.steps import Step, after_step, plan_of
from engine.charging.target import ADD, RECOVER, SUBCOOLING, SUPERHEAT, WEIGH_IN, target_of
from engine.errors import EngineError
from engine.physics.water.exchanger import Grid
from engine.readings.round import Equipment, Reading, Round
from engine.report.charging_words import plan_said, set_by, weight
from engine.report.words import FAHRENHEIT
from plant.machine import Spec
from plant.places import House, Weather, run
from plant.sizing import machine

OZ_PER_KG = 35.274
TO_READ = (
    ("return_unit", "dry_bulb"), ("return_unit", "rh"), ("supply_plenum", "dry_bulb"), ("supply_plenum", "rh"),
    ("outdoor", "dry_bulb"), ("blower", "airflow"), ("suction_line_outdoor", "temperature"),
    ("liquid_line_outdoor", "temperature"), ("gauge_suction", "pressure"), ("gauge_liquid", "pressure"),
)  # fmt: skip
AFTER_A_STEP = TO_READ[-4:]
PROVED = {
    "strip_heat": "off",
    "coil": "wet",
    "filter": "clean",
    "evaporator_face": "clean",
    "condenser_coil": "dry",
    "probes_together": "agree",
}
SEER = {"old": 9.0, "low": 11.0, "mid": 14.0, "high": 17.0}


class Bench:
    """A machine on gauges whose charge can be moved; read without noise."""

    def __init__(self, spec, share, weather=None):
        self.machine, self.spec = machine(spec), spec
        self.weather = weather or Weather(76.0, 50.0, 88.0)
        self.factory_oz = self.machine.charge_kg * OZ_PER_KG
        self.charge_oz = share * self.factory_oz
        self.found = assess(self.round())

    def values(self):
        changed = replace(self.machine, charge_kg=self.charge_oz / OZ_PER_KG)
        return run(changed, self.weather, House()).values

    def round(self, **plate):
        values = self.values()
        readings = [
            Reading(place, what, float(values[place, what]), "probe", "flow_device" if what == "airflow" else None)
            for place, what in TO_READ
        ]
        equipment = Equipment(
            self.spec.tons, metering_device=self.spec.metering_device, refrigerant=self.spec.refrigerant,
            seer=SEER[self.spec.efficiency], target_subcooling_f=10.0 if self.spec.metering_device == "txv" else None,
        )  # fmt: skip
        return Round(replace(equipment, **plate), 0.0, (*readings, Reading("system", "running_time", 20.0)), PROVED)

    def read(self, way, oz):
        values = self.values()
        again = [Reading(place, what, float(values[place, what]), "probe") for place, what in AFTER_A_STEP]
        return Step(way, oz, table_of(after_step(self.found.round, again)))

    def charge_to_target(self, most):
        """The steps as the plan asks for them, and what it says at the end."""
        steps = [Step("", 0.0, self.found.table)]
        for _ in range(most + 1):
            plan = plan_of(self.found, steps, self.factory_oz)
            if plan.says != "step":
                return steps, plan
            self.charge_oz += plan.oz if plan.way == ADD else -plan.oz
            steps.append(self.read(plan.way, plan.oz))
        return steps, plan


@pytest.mark.parametrize("share", [0.75, 0.9, 1.15, 1.3])
@pytest.mark.parametrize(
    ("efficiency", "refrigerant", "tons"),
    [
        ("old", "R-22", 2.0),
        ("low", "R-410A", 3.0),
        ("mid", "R-410A", 5.0),
        ("mid", "R-32", 2.5),
        ("high", "R-454B", 4.0),
    ],
)
def test_a_txv_comes_to_its_subcooling_in_five_steps_and_never_past_it(efficiency, refrigerant, tons, share):
    bench = Bench(Spec(tons, efficiency, refrigerant, "txv"), share)
    bench.found = assess(bench.round())
    steps, plan = bench.charge_to_target(5)
    assert plan.says == "on_target", (plan, [s.oz for s in steps])
    reached = [step.table["subcooling"].measured.value for step in steps]
    assert abs(reached[-1] - 10.0) <= 1.0 and len(steps) - 1 <= 5, reached
    past = max(reached[1:]) - 10.0 if share < 1 else 10.0 - min(reached[1:])
    assert past <= 2.0, reached
    assert min(step.oz for step in steps[1:]) >= 0.5, "nobody waits a quarter of an hour for less"


@pytest.mark.parametrize("share", [0.8, 0.92])
def test_an_orifice_comes_to_its_superheat(share):
    """Its target by the charging formula for 50 %RH at 76 °F and 88 °F outdoors, about 11.5 °F."""
    bench = Bench(Spec(2.0, "low", "R-22", "fixed_orifice"), share)
    steps, plan = bench.charge_to_target(6)
    assert (plan.says, plan.target.by) == ("on_target", SUPERHEAT)
    reached = steps[-1].table["superheat"].measured.value
    assert abs(reached - plan.target.value_f) <= plan.target.tolerance_f
    assert min(step.table["superheat"].measured.value for step in steps) > plan.target.value_f - 5.0, "never flooded"


SOUND = Spec(3.0, "mid", "R-410A", "txv")


def seen(bench, **looks):
    return assess(replace(bench.found.round, observations=PROVED | looks))


def first(found):
    return plan_of(found, [Step("", 0.0, found.table)])


def test_the_charge_is_left_alone_until_airflow_and_coils_are_proved():
    low = Bench(SOUND, 0.7)
    assert first(low.found).says == "step" and first(low.found).way == ADD
    unseen = assess(replace(low.found.round, observations={"strip_heat": "off", "coil": "wet"}))
    assert first(unseen).prove == ("filter", "evaporator_face", "condenser_coil")
    no_flow = tuple(r for r in low.found.round.readings if r.quantity != "airflow")
    assert "airflow" in first(assess(replace(low.found.round, readings=no_flow))).prove
    assert first(seen(low, ice="coil")).prove == ("stop_first",)
    assert first(seen(low, filter="blocked")).prove, "a filter that was seen blocked is changed first"
    assert first(Bench(SOUND, 1.0).found).says == "on_target"
    high = Bench(SOUND, 1.25)
    assert first(high.found).way == RECOVER
    doubted = seen(high, probes_together="not_seen")
    assert first(doubted).prove == ("clamp",), "a clamp that reads cold shows subcooling"
    ranked = doubted.diagnosis.ranked
    starved = replace(ranked, by_group=ranked.by_group | {"starved": 0.6, "charge_high": 0.2})
    likelier = replace(doubted, diagnosis=replace(doubted.diagnosis, ranked=starved))
    assert "cause" in first(likelier).prove, "nothing is recovered from a machine that is more likely starved"


@pytest.mark.parametrize(
    ("changes", "why"),
    [
        ({"mode": "heating"}, "heating"),
        ({"metering_device": "unknown"}, "device_not_known"),
        ({"kind": "ground_source"}, "ground_source"),
    ],
)
def test_what_is_not_set_by_its_lines_is_weighed_in(changes, why):
    found = Bench(SOUND, 0.8).found.round
    plate = {name: value for name, value in changes.items() if name != "mode"}
    mode = changes.get("mode", "cooling")
    weighed = assess(replace(found, mode=mode, equipment=replace(found.equipment, **plate)))
    assert (target_of(weighed).by, target_of(weighed).why) == (WEIGH_IN, why)
    cold = assess(
        replace(found, readings=tuple(replace(r, value=52.0) if r.place == "outdoor" else r for r in found.readings))
    )
    assert target_of(cold).why == "too_cold"


@pytest.mark.parametrize(
    ("left_out", "device", "why"),
    [
        ("outdoor", "txv", "no_outdoor"),
        ("liquid_line_outdoor", "txv", "no_subcooling"),
        ("return_unit", "fixed_orifice", "no_wet_bulb"),
    ],
)
def test_what_is_not_read_is_asked_for_and_nothing_is_weighed_in(left_out, device, why):
    found = Bench(SOUND, 0.8).found.round
    rest = tuple(r for r in found.readings if r.place != left_out)
    plan = first(assess(replace(found, readings=rest, equipment=replace(found.equipment, metering_device=device))))
    assert (plan.says, plan.target.why) == ("read", why)
    assert "Read" in set_by(plan, FAHRENHEIT)


def test_two_settled_steps_without_an_answer_are_no_charge_problem():
    bench = Bench(SOUND, 0.9)
    steps = [Step("", 0.0, bench.found.table), *(Step(ADD, 5.0, bench.found.table) for _ in range(2))]
    assert plan_of(bench.found, steps[:2]).says == "step"
    assert plan_of(bench.found, steps).says == "no_answer"


@pytest.mark.parametrize(
    ("reading", "reason"),
    [
        (Reading("gauge_liquid", "pressure", 470.0), "head_high"),
        (Reading("gauge_suction", "pressure", 88.0), "freezing"),
        (Reading("suction_line_outdoor", "temperature", 42.0), "liquid_return"),
    ],
)
def test_a_step_that_endangers_the_machine_stops_it(reading, reason):
    bench = Bench(SOUND, 0.9)
    after = table_of(after_step(bench.found.round, [reading]))
    assert plan_of(bench.found, [Step("", 0.0, bench.found.table), Step(ADD, 5.0, after)]).says == reason
    assert plan_of(bench.found, [Step("", 0.0, bench.found.table), Step(ADD, 5.0, None)]).says == "read"


def test_the_target_is_the_plates_and_a_stand_in_is_called_one():
    plate, silent = Bench(SOUND, 0.9).found, Bench(SOUND, 0.9)
    assert target_of(plate).of_plate and target_of(plate).by == SUBCOOLING
    stand_in = target_of(assess(silent.round(target_subcooling_f=None)))
    assert not stand_in.of_plate and stand_in.value_f == 10.0  # common practice, no single source


def test_the_makers_chart_sets_an_orifice_and_says_where_it_has_no_target():
    """A made-up chart some 3 °F over the formula's; 0 where a chart leaves its cell empty."""
    bench = Bench(Spec(2.0, "low", "R-22", "fixed_orifice"), 0.9)
    rows, columns = (80.0, 90.0, 100.0), (60.0, 66.0, 72.0)
    chart = Grid("", "outdoor", rows, "wet bulb", columns, ((11.0, 20.0, 29.0), (6.0, 15.0, 24.0), (0.0, 10.0, 19.0)))
    by_chart = assess(bench.round(superheat_table=chart))
    target = target_of(by_chart)
    wet_bulb = by_chart.measured["return_wet_bulb_f"].value
    assert target.of_plate and target.by == SUPERHEAT
    assert target.value_f == pytest.approx(np.interp(wet_bulb, columns, (7.0, 16.0, 25.0))), (
        "88 °F lies at 0.8 of 80 to 90"
    )
    assert by_chart.table["superheat"].authority == "superheat_chart"
    hot = [replace(r, value=99.0) if r.place == "outdoor" else r for r in by_chart.round.readings]
    dry = [replace(r, value=40.0) if (r.place, r.quantity) == ("return_unit", "rh") else r for r in hot]
    assert target_of(assess(replace(by_chart.round, readings=tuple(dry)))).why == "no_target_superheat"


def test_without_a_line_to_set_it_by_a_charge_is_left_alone_until_the_verdict_points_at_it():
    sound, low = Bench(SOUND, 1.0), Bench(SOUND, 0.7)
    unknown = {"metering_device": "unknown"}
    assert first(assess(sound.round(**unknown))).says == "leave"
    assert first(assess(low.round(**unknown))).says == "weigh_in"
    dirty = replace(low.round(**unknown), observations=PROVED | {"filter": "blocked"})
    assert first(assess(dirty)).prove == ("filter",), "first, whatever the charge"
    assert "Leave the charge" in plan_said(first(assess(sound.round(**unknown))), sound.found, FAHRENHEIT).headline


def test_the_leak_rate_is_the_annualizing_one_and_claims_nothing_of_nothing():
    """40 CFR 82 subpart F, annualizing method (from memory): added / charge x 365 / days."""
    assert leak_rate_share(10.0, 100.0, 146.0) == pytest.approx(0.25)
    assert leak_rate_share(8.0, 64.0, 365.0) == pytest.approx(0.125)
    for wrong in ((0.0, 100.0, 10.0), (1.0, 0.0, 10.0), (1.0, 100.0, 0.0)):
        with pytest.raises(EngineError, match="must be over 0"):
            leak_rate_share(*wrong)


def test_weights_are_printed_as_a_scale_reads_them():
    assert [weight(oz) for oz in (4.0, 16.0, 118.1, 0.3)] == ["4 oz", "1 lb", "7 lb 6 oz", "0.25 oz"]
    assert [weight(oz, "C") for oz in (4.0, 118.1)] == ["115 g", "3.35 kg"]
