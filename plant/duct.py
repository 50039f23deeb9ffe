"""Fan against ducts: the airflow that moves, and the static at every place it is measured. m3/s and Pa; static scales
with density.
"""

from dataclasses import dataclass

from engine.errors import EngineError

PA_PER_INWC = 249.089
M3S_PER_CFM = 4.719474e-4
STANDARD_DENSITY = 1.2
# Pressure drop over flow: ducts about square (turbulent), a pleated filter and a coil less (memory; ASHRAE Handbook -
# HVAC Systems)
DUCT_POWER, FILTER_POWER, COIL_POWER = 2.0, 1.4, 1.8
MOTORS = ("psc", "constant_torque", "constant_airflow")


class NoAirflow(EngineError):
    """Fan and ducts meet nowhere."""


@dataclass(frozen=True)
class Fan:
    """A blower at one tap. free_m3s: flow against nothing; shut_pa: pressure at no flow, at standard density; watts at
    the design point.

    shape: how the pressure falls with flow: 2 is a parabola (PSC); higher is stiffer (constant torque). holds_m3s: a
    constant-airflow motor's flow, held as long as the pressure it can reach at that flow allows.
    """

    motor: str
    free_m3s: float
    shut_pa: float
    shape: float
    watts: float
    holds_m3s: float = 0.0

    def pressure_pa(self, flow: float, density: float) -> float:
        """Rise across the blower at a flow."""
        return density / STANDARD_DENSITY * self.shut_pa * (1.0 - (flow / self.free_m3s) ** self.shape)


@dataclass(frozen=True)
class Ducts:
    """Drops [Pa] at the design flow [m3/s] and standard density: return side, filter, coil (wet), supply side."""

    design_m3s: float
    return_pa: float
    filter_pa: float
    coil_pa: float
    supply_pa: float

    def drops(self, flow: float, density: float) -> dict[str, float]:
        """The drop of each part at a flow."""
        x, d = flow / self.design_m3s, density / STANDARD_DENSITY
        return {
            "return": d * self.return_pa * x**DUCT_POWER,
            "filter": d * self.filter_pa * x**FILTER_POWER,
            "coil": d * self.coil_pa * x**COIL_POWER,
            "supply": d * self.supply_pa * x**DUCT_POWER,
        }


def airflow(fan: Fan, ducts: Ducts, density: float) -> float:
    """The flow [m3/s] at which blower and ducts agree; raises NoAirflow."""
    low, high = 1e-4, fan.free_m3s

    def short(flow: float) -> float:
        return fan.pressure_pa(flow, density) - sum(ducts.drops(flow, density).values())

    if short(low) <= 0:
        raise NoAirflow("the ducts are shut: the blower moves nothing")
    for _ in range(50):
        middle = (low + high) / 2
        low, high = (middle, high) if short(middle) > 0 else (low, middle)
    return min(low, fan.holds_m3s) if fan.holds_m3s else low


def blower_watts(fan: Fan, ducts: Ducts, flow: float, density: float) -> float:
    """Electrical power. A PSC or constant-torque motor draws about as the flow it moves; a constant-airflow motor by
    the pressure it works against.
    """
    if fan.motor == "constant_airflow":
        at_design = sum(ducts.drops(ducts.design_m3s, density).values()) or 1.0
        return fan.watts * (flow / ducts.design_m3s) * max(sum(ducts.drops(flow, density).values()) / at_design, 0.3)
    return fan.watts * density / STANDARD_DENSITY * (0.35 + 0.65 * flow / ducts.design_m3s)
