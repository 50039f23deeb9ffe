"""The plant's refrigerant cycle against an independent cycle library: TESPy on CoolProp's equations of state, at the
temperatures the plant settled at.

The library is given those temperatures, the liquid's and the share of an ideal compression that the plant's compressor
reaches; heat taken in and work per pound of refrigerant are its own. Neither shares a table or a line with the other.
"""

import pytest
from tespy.components import Compressor, CycleCloser, SimpleHeatExchanger, Valve
from tespy.connections import Connection
from tespy.networks import Network

from plant.circuit import BEST_ISENTROPIC, BEST_RATIO, ISENTROPIC_FALL
from plant.fluid import fluid
from plant.machine import Spec
from plant.places import Weather, run
from plant.sizing import machine
from tests.engine.checks import record

MILD, HOT = Weather(76.0, 50.0, 82.0), Weather(80.0, 51.1, 105.0)


def cycle(
    refrigerant: str, low_kpa: float, high_kpa: float, coil_c: float, suction_c: float, liquid_c: float, share: float
):
    """Heat taken in by the coil and work [kJ/kg] of a one-stage cycle with a suction line that warms."""
    network = Network(iterinfo=False)
    network.units.set_defaults(temperature="degC", pressure="kPa", pressure_difference="kPa", enthalpy="kJ/kg")
    closer, compressor, valve = CycleCloser("closer"), Compressor("compressor"), Valve("valve")
    condenser, evaporator, line = (SimpleHeatExchanger(name) for name in ("condenser", "evaporator", "suction line"))
    suction = Connection(closer, "out1", compressor, "in1")
    hot = Connection(compressor, "out1", condenser, "in1")
    liquid = Connection(condenser, "out1", valve, "in1")
    cold = Connection(valve, "out1", evaporator, "in1")
    outlet, back = Connection(evaporator, "out1", line, "in1"), Connection(line, "out1", closer, "in1")
    network.add_conns(suction, hot, liquid, cold, outlet, back)
    suction.set_attr(fluid={refrigerant: 1}, m=1.0, p=low_kpa, T=suction_c)
    outlet.set_attr(T=coil_c)
    liquid.set_attr(p=high_kpa, T=liquid_c)
    compressor.set_attr(eta_s=share)
    condenser.set_attr(pr=1)
    evaporator.set_attr(pr=1)
    line.set_attr(pr=1)
    network.solve("design")
    network.assert_convergence()
    return outlet.h.val - cold.h.val, hot.h.val - suction.h.val


@pytest.mark.parametrize("refrigerant", ["R-410A", "R-22", "R-32"])
@pytest.mark.parametrize("weather", [MILD, HOT], ids=["mild", "hot"])
@pytest.mark.parametrize("device", ["txv", "fixed_orifice"])
def test_heat_and_work_per_pound_are_an_independent_cycle_library_s(refrigerant, weather, device):
    state = run(machine(Spec(3.0, "mid", refrigerant, device)), weather).state
    f, (te, tc, _, _) = fluid(refrigerant), state.unknowns
    low, high = f.dew_kpa(te), f.dew_kpa(tc)
    share = BEST_ISENTROPIC - ISENTROPIC_FALL * (high / low / BEST_RATIO - 1.0) ** 2
    warm = (state.coil_outlet_c, state.suction_c, state.valve_liquid_c)
    heat, work = cycle(refrigerant.replace("-", ""), low, high, *warm, share)
    ours = state.coil_kw / state.flow_kgs, state.compressor_kw / state.flow_kgs
    record(f"heat taken in by a pound of {refrigerant}", "TESPy cycle", abs(ours[0] / heat - 1.0), 0.01, "share")
    record(f"work on a pound of {refrigerant}", "TESPy cycle", abs(ours[1] / work - 1.0), 0.01, "share")
