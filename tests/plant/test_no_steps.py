"""The plant's balances have no steps: a solution is sought by their slopes, and one that lies where a balance jumps is
never found. Where a zone ends or a phase begins they may bend, and no more.
"""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from plant.air import atmosphere
from plant.faults import House, with_faults
from plant.machine import BLED_WHEN_FULL, Spec
from plant.sizing import machine
from plant.steady import Conditions, Point

SEA_LEVEL = atmosphere(0.0)
COOLING = Conditions(SEA_LEVEL.of_rh(25.5, 50.0), SEA_LEVEL.of_rh(34.0, 40.0))
HEATING = Conditions(SEA_LEVEL.of_rh(21.1, 40.0), SEA_LEVEL.of_rh(0.0, 75.0), heating=True)
# evaporating, condensing [°C] about where a machine settles
NEAR = {"cooling": (8.0, 46.0), "heating": (-6.0, 37.0)}
FAULTS = ({}, {"non_condensables": 0.6}, {"restriction": 0.3}, {"dirty_condenser": 0.5})
SUPERHEAT, SUBCOOLING = 2, 3
STEP_K = 1e-7
LEAST = 2e-3  # what the tables' own grid and the slices of a zone leave, in shares of capacity, flow and charge


def point(mode, device, faults, refrigerant="R-410A"):
    kind = "heat_pump" if mode == "heating" else "air_conditioner"
    m, _ = with_faults(machine(Spec(refrigerant=refrigerant, metering_device=device, kind=kind)), House(), faults)
    return Point(m, HEATING if mode == "heating" else COOLING)


def jump(of: Point, x: np.ndarray, which: int) -> float:
    """How far the balances move over a step that is next to nothing."""
    under, over = x.copy(), x.copy()
    under[which] -= STEP_K
    over[which] += STEP_K
    return float(np.abs(of.work(over)["residuals"] - of.work(under)["residuals"]).max())


every_machine = pytest.mark.parametrize(
    ("mode", "device"), [(mode, device) for mode in NEAR for device in ("txv", "fixed_orifice")]
)


@every_machine
@pytest.mark.parametrize("faults", FAULTS, ids=lambda f: ", ".join(f) or "sound")
@pytest.mark.parametrize(("which", "beside"), [(SUPERHEAT, 6.0), (SUBCOOLING, 5.0)], ids=["superheat", "subcooling"])
def test_no_balance_jumps_where_a_phase_begins(mode, device, faults, which, beside):
    """At no superheat the coil's exit turns wet, at no subcooling the condenser's turns to flash gas."""
    x = np.array([*NEAR[mode], beside, beside])
    x[which] = 0.0
    assert jump(point(mode, device, faults), x, which) < LEAST


@pytest.mark.parametrize("refrigerant", ["R-22", "R-410A", "R-32", "R-454B"])
def test_no_balance_jumps_where_the_compressor_begins_to_draw_liquid(refrigerant):
    """The suction line's gain and the reversing valve lie between the coil and the compressor: it is not where the
    coil's exit turns wet.
    """
    of = point("heating", "fixed_orifice", {}, refrigerant)

    def at(superheat: float) -> np.ndarray:
        return np.array([*NEAR["heating"], superheat, 3.0])

    low, high = -2.0, 2.0  # wet, dry
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (low, middle) if of.work(at(middle))["suction"] > NEAR["heating"][0] else (middle, high)
    assert high < 0.0, "the line dries what leaves the coil a little wet"
    assert max(jump(of, at(x), SUPERHEAT) for x in (low, high)) < LEAST
    full = low - 20.0 * BLED_WHEN_FULL
    assert of.work(at(full))["held"] - of.work(at(high))["held"] > 0.9 * of.m.accumulator_kg
    assert jump(of, at(full), SUPERHEAT) < LEAST


@given(st.floats(-3.0, 12.0), st.floats(-3.0, 15.0), st.sampled_from(sorted(NEAR)))
def test_no_balance_jumps_anywhere_near_a_solution(superheat, subcooling, mode):
    of, x = point(mode, "fixed_orifice", {}), np.array([*NEAR[mode], superheat, subcooling])
    assert max(jump(of, x, which) for which in range(4)) < LEAST


def test_an_accumulator_holds_nothing_of_a_dry_suction_and_never_more_than_it_can():
    m = machine(Spec(metering_device="fixed_orifice", kind="heat_pump"))
    full = -20.0 * BLED_WHEN_FULL
    assert m.accumulated_kg(5.0) == m.accumulated_kg(0.0) == 0.0
    assert m.accumulated_kg(full) == pytest.approx(m.accumulator_kg) == m.accumulated_kg(3 * full)
    assert m.accumulated_kg(full / 2) == pytest.approx(m.accumulator_kg / 4), "the flow goes with the root of the level"
    assert replace(m, accumulator_kg=0.0).accumulated_kg(full) == 0.0
    assert machine(Spec(metering_device="fixed_orifice")).accumulator_kg == 0.0, "none in what only cools"
