"""Sound simulated machines beside the figures that technicians go by. Common practice, no single source: the charging
formula of a fixed orifice, the superheat that a TXV holds, condensing over outdoor air by class, return air over
evaporating, approach as the difference of two.

At its rating a machine is sized for some of these (plant.sizing: evaporating and condensing by class, 10 °F of
superheat at the coil and the line's gain): there the checks show that the solution comes back to them, and no more.
What no machine was sized for is how they go with weather, load and airflow.
"""

import numpy as np
import pytest

from engine.physics.air import moist
from plant.faults import with_faults
from plant.machine import Spec
from plant.places import Run, Weather, run
from plant.sizing import machine
from tests.plant.test_plant import QUIET, RATED

SEA_LEVEL_PSIA = float(moist.pressure_psia(0.0))
FLUIDS = ("R-22", "R-410A", "R-32", "R-454B")
# Return air 76 to 80 °F, humid to fairly dry, outdoors mild to hot.
WEATHERS = tuple(
    Weather(inside, rh, outside) for inside in (76.0, 80.0) for rh in (48.0, 58.0) for outside in (82.0, 90.0, 98.0)
)


def wet_bulb_f(weather: Weather) -> float:
    ratio = moist.humidity_ratio_from_rh(weather.inside_f, weather.inside_rh, SEA_LEVEL_PSIA)
    return float(moist.wet_bulb_f(np.float64(weather.inside_f), np.float64(ratio), SEA_LEVEL_PSIA))


def target_f(weather: Weather) -> float:
    """(3 x return wet bulb - 80 - outdoor) / 2 [°F]: charging formula of a fixed orifice."""
    return (3.0 * wet_bulb_f(weather) - 80.0 - weather.outside_f) / 2.0


def total_superheat_f(found: Run) -> float:
    """Suction line at the outdoor unit less evaporating [°F]."""
    return found.values["suction_line_outdoor", "temperature"] - found.evaporating_f


@pytest.mark.parametrize("refrigerant", FLUIDS)
def test_an_orifice_charged_by_weight_goes_by_the_charging_formula(refrigerant):
    """About within the ±5 °F that the trade allows, wherever the formula gives a target, and with slopes like its own:
    the bounds of the slopes are ours, set around what was found (R-22 is the steepest, 2.2 for each degree of wet
    bulb).
    """
    spec = Spec(refrigerant=refrigerant, metering_device="fixed_orifice")
    rows = [(w, run(machine(spec), w, QUIET)) for w in WEATHERS]
    fit = [(w.outside_f, wet_bulb_f(w), total_superheat_f(r)) for w, r in rows if target_f(w) >= 5.0]
    off = [total_superheat_f(r) - target_f(w) for w, r in rows if target_f(w) >= 5.0]
    assert len(fit) > 8 and np.abs(off).max() < 5.5 and abs(np.mean(off)) < 4.0, off
    outside, wet_bulb, superheat = np.array(fit).T
    slopes, *_ = np.linalg.lstsq(np.column_stack([np.ones_like(outside), outside, wet_bulb]), superheat, rcond=None)
    assert -0.7 < slopes[1] < -0.2, "half a degree less for each degree outdoors"
    assert 1.1 < slopes[2] < 2.4, "one and a half more for each degree of wet bulb, or half as much again"


@pytest.mark.parametrize("refrigerant", FLUIDS)
def test_a_txv_holds_its_superheat_whatever_the_weather(refrigerant):
    found = [total_superheat_f(run(machine(Spec(refrigerant=refrigerant)), w, QUIET)) for w in WEATHERS]
    assert all(8.0 < superheat < 17.0 for superheat in found), "in range at the outdoor unit"
    assert max(found) - min(found) < 3.0, "and much the same on any of these days"


@pytest.mark.parametrize(("efficiency", "over_f"), [("old", 30.0), ("low", 25.0), ("mid", 20.0), ("high", 15.0)])
def test_condensing_comes_back_to_the_class_it_was_sized_for_and_grows_with_the_load(efficiency, over_f):
    spec = Spec(efficiency=efficiency)
    rated = run(machine(spec), RATED, QUIET)
    over = rated.condensing_f - RATED.outside_f
    assert over == pytest.approx(over_f, abs=2.5)
    humid, dry = (run(machine(spec), Weather(80.0, rh, 90.0), QUIET).condensing_f for rh in (62.0, 40.0))
    assert humid - dry > 0.5, "more is taken out of a damp house, and given off outdoors"
    approach = rated.values["liquid_line_outdoor", "temperature"] - RATED.outside_f
    assert approach == pytest.approx(over - rated.subcooling_f, abs=0.5)


@pytest.mark.parametrize("refrigerant", FLUIDS)
def test_return_air_over_evaporating_comes_back_to_35_degrees_and_grows_with_the_load(refrigerant):
    """At 400 CFM a ton and half humidity, as sized; more where more is to be taken out."""
    m = machine(Spec(refrigerant=refrigerant))
    cool, usual, hot = (
        inside - run(m, Weather(inside, 50.0, 95.0), QUIET).evaporating_f for inside in (74.0, 80.0, 86.0)
    )
    assert usual == pytest.approx(35.0, abs=3.0) and cool < usual < hot


@pytest.mark.parametrize("device", ["txv", "fixed_orifice"])
def test_less_air_is_a_colder_coil_and_a_larger_split_for_little_capacity(device):
    """ "Capacity fine" does not clear airflow: a fifth of it lost costs a few percent."""
    sound = machine(Spec(metering_device=device))
    slow, house = with_faults(sound, QUIET, {"low_tap": 0.3})
    before, after = run(sound, RATED, QUIET), run(slow, RATED, house)
    flow, lost = after.cfm / before.cfm, 1.0 - after.net_btuh / before.net_btuh
    assert 0.6 < flow < 0.9 and 0.0 < lost < 0.45 * (1.0 - flow)
    assert split_f(after) > split_f(before) + 2.0 and after.evaporating_f < before.evaporating_f - 1.0


def split_f(found: Run) -> float:
    return found.values["return_unit", "dry_bulb"] - found.values["supply_plenum", "dry_bulb"]
