"""With gauges on: what both pressures, or one, add to the walk, and what they must never take away."""

import pytest
from CoolProp.CoolProp import PropsSI

from engine.assessment import assess, table_of
from engine.diagnosis.cause import NOT_FED
from engine.diagnosis.gauges import WARRANTED
from engine.diagnosis.verdict import STOP_FIRST
from engine.physics.refrigerant.properties import refrigerant
from engine.quantities.by_gauge import gauge_figures
from engine.readings.entry import Accepted, Asked, check_entry
from engine.readings.round import without_gauges
from engine.report.finding_words import said
from engine.report.gauge_words import CHANGED, CONFIRMED, SETTLED, added_said, what_gauges_added
from engine.report.quantity_words import sentence
from engine.report.verdict_words import verdict_said
from engine.report.words import FAHRENHEIT, lower_first
from tests.engine.rounds import walk, with_readings

AIR_PSIA = 14.1  # at the house of these rounds, 1,150 ft


def by_gauge(evaporating=None, condensing=None, liquid=101.0, coil=54.0, out=57.0, **given):
    """A walk of an R-410A machine, outdoors 90.8 °F, with the pressures of these saturation temperatures [°F]."""
    tables = refrigerant(given.get("refrigerant") or "R-410A")
    read = [("suction_line_outdoor", "temperature", out)]
    for place, saturation_f, side in (("gauge_suction", evaporating, "dew"), ("gauge_liquid", condensing, "bubble")):
        if saturation_f is not None:
            read.append((place, "pressure", float(tables.pressure_psia(saturation_f, side)) - AIR_PSIA))
    found = walk(liquid=liquid, coil_line=coil, **{"refrigerant": "R-410A", "target_subcooling_f": 10.0} | given)
    return assess(with_readings(found, *read))


WEAK_SPLIT = {"supply_f": 60.0, "supply_rh": 84.0}  # a quarter of the capacity gone, as 12 °F lower evaporating takes
LOW_AIR = {"cfm": 840.0, "supply_f": 51.0, "supply_rh": 95.0}


@pytest.mark.parametrize(
    ("pressures", "lines", "given", "group"),
    [
        ((45.0, 111.0), (101.0, 54.0, 57.0), {}, "healthy"),
        ((36.0, 106.0), (97.0, 46.0, 50.0), LOW_AIR, "low_airflow"),  # low with low superheat: air, not the valve
        ((30.0, 104.0), (95.0, 40.0, 45.0), LOW_AIR, "low_airflow"),
        ((31.0, 100.0), (93.0, 68.0, 71.0), WEAK_SPLIT, "starved"),  # superheat 40 with subcooling 7
        ((31.0, 99.0), (98.0, 68.0, 71.0), WEAK_SPLIT, "charge_low"),  # superheat 40 with subcooling 1
        ((45.0, 105.0), (104.0, 54.0, 57.0), {}, "charge_low"),  # subcooling gone, the evaporator still fed
        ((45.0, 113.0), (96.0, 54.0, 57.0), {}, "charge_high"),  # subcooling 17 against 10
        ((46.0, 122.0), (111.0, 55.0, 58.0), {"supply_f": 56.0}, "condenser"),  # 425 psig
        ((56.0, 101.0), (94.0, 64.0, 67.0), {"supply_f": 63.0, "supply_rh": 82.0}, "compressor"),
    ],
)
def test_what_every_technician_reads_off_two_gauges(pressures, lines, given, group):
    """Field practice with both gauges on, common practice, no single source."""
    found = by_gauge(*pressures, *lines, **given)
    assert next(iter(found.diagnosis.ranked.by_group)) == group


def test_one_gauge_alone_gives_its_saturation_and_is_evidence():
    low = by_gauge(36.0, None, 97.0, 46.0, 50.0, **LOW_AIR)
    assert low.table["evaporating"].off.value < 0 and low.table.get("subcooling") is None
    assert low.verdict.group == "low_airflow"
    high = by_gauge(None, 122.0, 111.0)
    assert high.table["condensing"].side > 0 and high.verdict.group == "condenser"


def test_a_reading_counts_once_however_many_quantities_rest_on_it():
    """Suction line = evaporating + superheat less the rise; condensing = approach + subcooling."""
    kinds = {r.kind.id for r in by_gauge(45.0, 111.0).diagnosis.residuals}
    assert {"evaporating", "superheat", "approach", "subcooling"} <= kinds and not {"suction", "condensing"} & kinds
    assert "condensing" in {r.kind.id for r in by_gauge(None, 111.0, liquid=None).diagnosis.residuals}


def test_a_baseline_taken_without_gauges_still_counts_when_gauges_are_on():
    """The suction line is then held against the machine's own, superheat and evaporating against what is usual."""
    now, baseline = by_gauge(45.0, 111.0).round, table_of(by_gauge().round)
    held = {r.kind.id: r.at_baseline is not None for r in assess(now, baseline).diagnosis.residuals}
    assert held["suction"] and not held["superheat"] and not held["evaporating"]
    again = {r.kind.id: r.at_baseline is not None for r in assess(now, table_of(now)).diagnosis.residuals}
    assert "suction" not in again and again["superheat"] and again["evaporating"] and again["subcooling"]


def test_a_coil_under_freezing_is_stopped_first_and_explained_after():
    found = by_gauge(30.0, 104.0, 95.0, 40.0, 45.0, **LOW_AIR)
    said = verdict_said(found, FAHRENHEIT)
    assert found.verdict.state == STOP_FIRST and said.headline == "Stop the compressor."
    assert "Likely cause: low airflow" in said.says
    iced = by_gauge(30.0, 104.0, 95.0, 40.0, 45.0, seen={"ice": "coil"}, **LOW_AIR)
    assert "Likely cause" not in verdict_said(iced, FAHRENHEIT).says  # nothing can be told through ice


def test_subcooling_that_no_plate_names_is_trusted_as_a_stand_in():
    held, stand_in, orifice = (
        by_gauge(45.0, 113.0, 96.0, **plate).table["subcooling"]
        for plate in ({}, {"target_subcooling_f": None}, {"metering_device": "fixed_orifice"})
    )
    assert held.high < stand_in.high <= orifice.high
    assert held.side > 0
    assert "The plate is silent" in sentence(stand_in, FAHRENHEIT, by_gauge(45.0, 113.0, 96.0).table)
    assert "only a TXV holds" in sentence(orifice, FAHRENHEIT, by_gauge(45.0, 113.0, 96.0).table)


def test_low_charge_or_a_starving_valve_together_warrant_gauges_and_the_gauges_tell_which():
    """A suction line near the return air, the liquid line where it should be: a charge that is mostly gone, or a valve
    that does not feed. Subcooling of 14 °F by gauge tells.
    """
    lines = (98.0, 68.0, 71.0)
    walked = by_gauge(None, None, *lines, metering_device="fixed_orifice", **WEAK_SPLIT)
    said = verdict_said(walked, FAHRENHEIT)
    assert (walked.verdict.group, walked.diagnosis.gauges.decides) == (NOT_FED, WARRANTED)
    assert said.headline == "The evaporator is not fed enough." and "Add no refrigerant before" in said.next_step
    read = by_gauge(34.0, 112.0, *lines, metering_device="fixed_orifice", **WEAK_SPLIT)
    assert read.verdict.group == "starved"


def figures(*pressures, **given):
    return gauge_figures(by_gauge(*pressures, **given).measured)


def test_the_figures_are_coolprops_at_this_altitude():
    """CoolProp (HEOS; R-410A as its pseudo-pure fluid): saturations and the ratio of absolute pressures."""
    for name, fluid in (("R-410A", "R410A"), ("R-22", "R22"), ("R-32", "R32")):
        low, high = (refrigerant(name).pressure_psia(t, side) for t, side in ((42.0, "dew"), (112.0, "bubble")))
        found = figures(42.0, 112.0, refrigerant=name)
        for figure, pressure, quality in (("evaporating", low, 1), ("condensing", high, 0)):
            kelvin = PropsSI("T", "P", pressure * 6894.757, "Q", quality, fluid)
            assert found[figure].value == pytest.approx(kelvin * 1.8 - 459.67, abs=0.15)
        pascals = [PropsSI("P", "T", (t + 459.67) / 1.8, "Q", q, fluid) for t, q in ((42.0, 1), (112.0, 0))]
        assert found["compression_ratio"].value == pytest.approx(pascals[1] / pascals[0], rel=0.005)
    assert found["total_superheat"].value == pytest.approx(57.0 - 42.0, abs=0.05)
    assert found["coil_superheat"].value == pytest.approx(54.0 - 42.0, abs=0.05)
    assert found["subcooling"].value == pytest.approx(112.0 - 101.0, abs=0.05)
    assert found["evaporator_difference"].value == pytest.approx(76.4 - 42.0, abs=0.05)


@pytest.mark.parametrize(
    ("pressures", "given", "finding"),
    [
        ((112.0, 42.0), {}, "gauges_swapped"),
        ((63.0, 111.0), {}, "colder_than_evaporating"),
        ((45.0, 95.0), {}, "warmer_than_condensing"),
        ((45.0, 111.0), {"refrigerant": ""}, "refrigerant_not_known"),
    ],
)
def test_what_pressures_cannot_be_is_said_at_their_fields(pressures, given, finding):
    found = by_gauge(*pressures, **given)
    said_of = next(f for f in found.findings if f.id == finding)
    assert said_of.fields and said(said_of, FAHRENHEIT).hint


@pytest.mark.parametrize(
    ("place", "text", "unit", "units"),
    [
        ("gauge_suction", "813", "psi", ("kPa", "psi")),
        ("gauge_suction", "8.1", "psi", ("bar", "psi")),
        ("gauge_liquid", "25", "psi", ("bar", "psi")),
        ("gauge_liquid", "350", "bar", ("psi", "bar")),
    ],
)
def test_a_pressure_in_another_unit_is_asked_about_and_kept_when_confirmed(place, text, unit, units):
    asked = check_entry(place, "pressure", text, unit, refrigerant="R-410A")
    assert isinstance(asked, Asked) and asked.units == units
    assert isinstance(
        check_entry(place, "pressure", "118" if "suction" in place else "350", "psi", refrigerant="R-410A"), Accepted
    )


def test_what_the_gauges_added_is_said():
    sound = by_gauge(45.0, 111.0)
    assert what_gauges_added(assess(without_gauges(sound.round)), sound) == CONFIRMED
    low = by_gauge(36.0, 100.0, 97.0, 62.0, 66.0)
    before = assess(without_gauges(low.round))
    assert what_gauges_added(before, low) in (SETTLED, CHANGED)
    assert lower_first(verdict_said(before, FAHRENHEIT).headline.rstrip(".")) in added_said(
        before, low, verdict_said(before, FAHRENHEIT).headline
    )


def test_a_ground_source_units_lines_are_read_inside():
    found = by_gauge(45.0, 100.0, kind="ground_source")
    read = with_readings(found.round, ("liquid_line_indoor", "temperature", 92.0))
    figures = gauge_figures(assess(read).measured)
    assert figures["coil_superheat"].value == pytest.approx(9.0, abs=0.1) and "total_superheat" not in figures
    assert figures["subcooling"].value == pytest.approx(8.0, abs=0.1)
