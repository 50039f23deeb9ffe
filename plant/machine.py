"""What a machine is: its spec, its parts, the refrigerant in them. SI units."""

from dataclasses import dataclass, replace

from plant.circuit import WET_SPAN, Coil, Compressor, Valve, mean_density
from plant.duct import Ducts, Fan
from plant.fluid import Fluid, fluid

METERING_DEVICES = ("txv", "fixed_orifice")
KINDS = ("air_conditioner", "heat_pump", "ground_source")
CP_WATER = 4.18
# In heating the suction line is the short one beside the compressor, the reversing valve takes some of the suction
# pressure (stated as what it takes of its dew point), and the wet fins of the outdoor coil let less air through (order
# of magnitude, memory).
HEATING_LINE_GAIN, REVERSING_VALVE_K, WET_FINS_AIR = 0.25, 2.0, 0.9
DRY_COIL_DROP = 0.75  # of the wet indoor coil's (order of magnitude, memory)
# An accumulator before a heat pump's compressor: what it holds when full, over the charge, and the share of liquid that
# its bleed hole lets through then (order of magnitude, memory).
ACCUMULATOR_OVER_CHARGE, BLED_WHEN_FULL = 0.6, 0.05


@dataclass(frozen=True)
class Spec:
    """What a machine is: kind, tons (1.5 to 5), class, refrigerant, metering device, blower motor, indoor unit, line
    length [m].
    """

    tons: float = 3.0
    efficiency: str = "mid"
    refrigerant: str = "R-410A"
    metering_device: str = "txv"
    blower_motor: str = "psc"
    unit: str = "air_handler"
    kind: str = "air_conditioner"
    line_m: float = 9.0


@dataclass(frozen=True)
class Machine:
    """A machine's parts and sizes, SI. A fault is a machine with one of them changed."""

    spec: Spec
    compressor: Compressor
    valve: Valve
    indoor: Coil
    outdoor: Coil
    fan: Fan
    ducts: Ducts
    outdoor_m3s: float
    outdoor_fan_kw: float
    charge_kg: float
    liquid_m3: float
    suction_m3: float
    line_gain_k: float = 0.0
    restriction_kpa: float = 0.0
    restricted_outdoors: bool = False  # inside the outdoor unit, before its liquid line is read
    non_condensable_kpa: float = 0.0
    strips_kw: float = 0.0  # heat on inside the unit
    water_ls: float = 0.0
    water_psi: float = 0.0  # the water coil's drop at its design flow
    water_psi_ls: float = 0.0  # that flow
    suction_drop_k: float = 0.0
    compensator_kg: float = 0.0  # what is out of the round in heating
    heating_opening: float = 1.0  # of the metering device that feeds the outdoor coil, over cooling's
    accumulator_kg: float = 0.0  # of liquid that the accumulator holds when full

    def heating(self, frost: float = 0.0) -> "Machine":
        """As it works in heating: what the compensator holds is out of the round, and the other metering device feeds.
        frost: share of the outdoor coil's air that it keeps out, between two defrosts.
        """
        return replace(
            self,
            charge_kg=self.charge_kg - self.compensator_kg,
            valve=replace(self.valve, area=self.valve.area * self.heating_opening),
            line_gain_k=self.line_gain_k * HEATING_LINE_GAIN,
            suction_drop_k=REVERSING_VALVE_K,
            outdoor_m3s=self.outdoor_m3s * WET_FINS_AIR * (1.0 - frost),
            ducts=replace(self.ducts, coil_pa=self.ducts.coil_pa * DRY_COIL_DROP),
        )

    def accumulated_kg(self, superheat: float) -> float:
        """Liquid in the accumulator [kg] at this superheat at the compressor [K]: none unless the suction is wet. What
        a hole lets through goes with the square root of the level (Torricelli).
        """
        wet = max(-superheat, 0.0) / WET_SPAN
        return self.accumulator_kg * min(wet / BLED_WHEN_FULL, 1.0) ** 2


def charge(
    m: Machine,
    te: float,
    tc: float,
    superheat: float,
    subcooling: float,
    shares: tuple[float, float, float],
    wet_share: float,
    evaporator: Coil | None = None,
    condenser: Coil | None = None,
) -> float:
    """Refrigerant [kg] in coils and lines. shares: the condenser's zones; wet_share: the evaporator's two-phase zone;
    coils: cooling's unless given.
    """
    f = fluid(m.spec.refrigerant)
    evaporator, condenser = evaporator or m.indoor, condenser or m.outdoor
    liquid_c = f.bubble_c(f.dew_kpa(tc)) - max(subcooling, 0.0)
    leaving = max(-subcooling, 0.0) / WET_SPAN
    hot, middle, cold = shares
    in_condenser = (
        hot * f.rho_vapor(tc) * 0.85 + middle * mean_density(f, tc, 1.0, leaving) + cold * f.rho_liquid(liquid_c)
    )
    inlet = min(max((f.h_liquid(liquid_c) - f.h_liquid(te)) / (f.h_vapor(te) - f.h_liquid(te)), 0.0), 1.0)
    outlet = 1.0 + min(superheat, 0.0) / WET_SPAN
    in_evaporator = wet_share * mean_density(f, te, inlet, outlet) + (1.0 - wet_share) * f.rho_vapor(te)
    line = f.rho_liquid(liquid_c) if leaving <= 0 else mean_density(f, tc, leaving, leaving)
    return (
        condenser.volume * in_condenser
        + evaporator.volume * in_evaporator
        + m.liquid_m3 * line
        + m.suction_m3 * f.rho(te, max(superheat, 0.0))
    )


def cp_vapor(f: Fluid, dew: float) -> float:
    """Specific heat of the vapor near its dew point [kJ/(kg K)]."""
    return (f.h(dew, 10.0) - f.h(dew, 0.0)) / 10.0


def cp_liquid(f: Fluid, t: float) -> float:
    """Specific heat of the liquid [kJ/(kg K)]."""
    return (f.h_liquid(t + 1.0) - f.h_liquid(t - 1.0)) / 2.0
