"""A machine sized so that it meets its rating: 80/67 °F inside, 95 °F outside, 400 CFM a ton, sea level (AHRI 210/240 conditions).

Every size follows from the tons, the class and the refrigerant; nothing is fitted to what anybody expects of a visit.
"""

from dataclasses import dataclass, replace
from functools import cache

from engine.errors import EngineError
from engine.units import c_from_f
from plant.air import CP_DRY, Air, atmosphere
from plant.circuit import (
    FULL_SUPERHEAT,
    WET_SPAN,
    Coil,
    Compressor,
    Valve,
    compress,
    condense,
    evaporate,
    mean_density,
    valve_flow,
)
from plant.duct import M3S_PER_CFM, PA_PER_INWC, Ducts, Fan
from plant.fluid import fluid

KW_PER_TON = 3.516853
RATED_INSIDE_F, RATED_WET_BULB_F, RATED_OUTSIDE_F = 80.0, 67.0, 95.0
CFM_PER_TON, FAN_KW_PER_M3S = 400.0, 0.365 / (1000 * M3S_PER_CFM)  # 365 W per 1,000 CFM: AHRI 210/240 default
# class -> evaporating °F, condensing over ambient °F, condenser CFM a ton, condenser volume over the mid class's
# (condensing over ambient by class is common practice; the rest is chosen so that a coil can do it)
CLASSES = {
    "old": (42.0, 30.0, 750.0, 0.75),
    "low": (44.0, 25.0, 850.0, 0.9),
    "mid": (46.0, 20.0, 950.0, 1.0),
    "high": (48.0, 16.0, 1150.0, 1.25),
}
SUBCOOLING_K, LINE_GAIN_K = 5.6, 2.0
# A heat pump heats with its small coil as the condenser: a compensator takes what is then too much, and a second, smaller piston feeds the outdoor coil.
# Both so that at 47 °F the subcooling is near cooling's and the coil hardly floods (order of magnitude, memory).
COMPENSATOR_SHARE, HEATING_PISTON, HEATING_LINE_GAIN = (
    0.25,
    0.8,
    0.25,
)  # the suction line is then the short one beside the compressor
BYPASS, REFRIGERANT_TO_AIR = 0.10, 3.0  # evaporator's bypass factor at rating; the condenser's refrigerant side over its air side
EVAPORATOR_M3_PER_TON, CONDENSER_M3_PER_TON = 0.00075, 0.00125
LIQUID_LINE_M2, SUCTION_LINE_M2 = 5.0e-5, 2.6e-4
METERING_DEVICES = ("txv", "fixed_orifice")
KINDS = ("air_conditioner", "heat_pump", "ground_source")
WATER_LS_PER_TON, CP_WATER = 0.19, 4.18  # 3 GPM a ton


@dataclass(frozen=True)
class Spec:
    """What a machine is: kind, tons (1.5 to 5), class, refrigerant, metering device, blower motor, indoor unit, line length [m]."""

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
    line_gain_k: float = LINE_GAIN_K
    restriction_kpa: float = 0.0
    non_condensable_kpa: float = 0.0
    strips_kw: float = 0.0  # heat on inside the unit
    water_ls: float = 0.0

    def heating(self) -> "Machine":
        """As it works in heating: what the compensator holds is out of the round, and the heating piston is in."""
        piston = HEATING_PISTON if self.valve.kind == "fixed_orifice" else 1.0
        return replace(
            self, charge_kg=self.charge_kg * (1 - COMPENSATOR_SHARE), valve=replace(self.valve, area=self.valve.area * piston),
            line_gain_k=self.line_gain_k * HEATING_LINE_GAIN,
        )  # fmt: skip


@cache
def machine(spec: Spec = Spec()) -> Machine:
    """The machine of a spec; raises EngineError for a spec that is none."""
    _check(spec)
    f = fluid(spec.refrigerant)
    over_te, over_tc, outdoor_cfm, volume = CLASSES[spec.efficiency]
    te, tc = c_from_f(over_te), c_from_f(RATED_OUTSIDE_F + over_tc)
    liquid = f.bubble_c(f.dew_kpa(tc)) - SUBCOOLING_K
    flow_m3s = CFM_PER_TON * spec.tons * M3S_PER_CFM
    gross = KW_PER_TON * spec.tons + FAN_KW_PER_M3S * flow_m3s
    h_in = f.h_liquid(liquid)
    kgs = gross / (f.h(te, FULL_SUPERHEAT) - h_in)
    compressor = _compressor(f, te, tc, kgs)
    _, _, h_discharge = compress(f, compressor, te, FULL_SUPERHEAT + LINE_GAIN_K, tc)
    valve = Valve(spec.metering_device, 1.0)
    valve = replace(valve, area=kgs / valve_flow(f, valve, f.dew_kpa(tc), liquid, 0.0, FULL_SUPERHEAT))
    indoor = _evaporator(spec, f, te, kgs, h_in, flow_m3s)
    outdoor_m3s = outdoor_cfm * spec.tons * M3S_PER_CFM
    outdoor = _condenser(spec, f, tc, liquid, kgs, h_discharge, outdoor_m3s, volume)
    sized = Machine(
        spec, compressor, valve, indoor, outdoor, _fan(spec, flow_m3s), _ducts(flow_m3s), outdoor_m3s, 0.075 * spec.tons, 0.0,
        LIQUID_LINE_M2 * spec.line_m, SUCTION_LINE_M2 * spec.line_m, water_ls=WATER_LS_PER_TON * spec.tons if spec.kind == "ground_source" else 0.0,
    )  # fmt: skip
    shares = _rated_condenser(sized, f, tc, liquid, kgs, h_discharge).shares
    wet = _rated_evaporator(sized, f, te, kgs, flow_m3s).wet_share
    return replace(sized, charge_kg=charge(sized, te, tc, FULL_SUPERHEAT, SUBCOOLING_K, shares, wet))


def charge(
    m: Machine,
    te: float,
    tc: float,
    superheat: float,
    subcooling: float,
    shares,
    wet_share: float,
    evaporator=None,
    condenser=None,
) -> float:
    """Refrigerant [kg] in coils and lines. shares: the condenser's zones; wet_share: the evaporator's two-phase zone; coils: cooling's unless given."""
    f = fluid(m.spec.refrigerant)
    evaporator, condenser = evaporator or m.indoor, condenser or m.outdoor
    liquid_c = f.bubble_c(f.dew_kpa(tc)) - max(subcooling, 0.0)
    leaving = max(-subcooling, 0.0) / WET_SPAN
    hot, middle, cold = shares
    in_condenser = hot * f.rho_vapor(tc) * 0.85 + middle * mean_density(f, tc, 1.0, leaving) + cold * f.rho_liquid(liquid_c)
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


def _check(spec: Spec) -> None:
    wrong = [
        name
        for name, value, known in (
            ("class", spec.efficiency, CLASSES), ("metering device", spec.metering_device, METERING_DEVICES), ("kind", spec.kind, KINDS),
        )
        if value not in known
    ]  # fmt: skip
    if wrong or not 1.5 <= spec.tons <= 5.0:
        raise EngineError(f"no such machine: {', '.join(wrong) or f'{spec.tons:g} tons, 1.5 to 5 are known'}")


def _compressor(f, te: float, tc: float, kgs: float) -> Compressor:
    one, _, _ = compress(f, Compressor(1.0), te, FULL_SUPERHEAT + LINE_GAIN_K, tc)
    return Compressor(kgs / one)


def rated_air() -> tuple[Air, float]:
    """The rated indoor air and its density [kg dry air per m3] where CFM are standard."""
    w = float(_rated_w())
    return Air(c_from_f(RATED_INSIDE_F), w), 1.2


@cache
def _rated_w() -> float:
    from_table = atmosphere(0.0)
    low, high = 0.004, 0.02
    for _ in range(40):
        w = (low + high) / 2
        low, high = (
            (w, high) if from_table.wet_bulb_c(Air(c_from_f(RATED_INSIDE_F), w)) < c_from_f(RATED_WET_BULB_F) else (low, w)
        )
    return w


def _evaporator(spec: Spec, f, te: float, kgs: float, h_in: float, flow_m3s: float) -> Coil:
    """Sized so that its two-phase zone takes up what the refrigerant can."""
    air, density = rated_air()
    air_kgs = flow_m3s * density
    air_side = air_kgs * CP_DRY * 2.302585  # ln(1 / 0.10)
    wanted, low, high = kgs * (f.h_vapor(te) - h_in), 0.01, 30.0 * spec.tons
    for _ in range(60):
        side = (low + high) / 2
        coil = Coil(air_side, side, EVAPORATOR_M3_PER_TON * spec.tons)
        found = evaporate(coil, atmosphere(0.0), air, air_kgs, te, FULL_SUPERHEAT, kgs, cp_vapor(f, te))
        low, high = (side, high) if found.two_phase_kw < wanted else (low, side)
    return coil


def _condenser(
    spec: Spec, f, tc: float, liquid: float, kgs: float, h_discharge: float, outdoor_m3s: float, volume: float
) -> Coil:
    wanted, low, high = kgs * (f.h_vapor(tc) - f.h_liquid(f.bubble_c(f.dew_kpa(tc)))), 0.01, 30.0 * spec.tons
    discharge = tc + f.superheat_of_h(tc, h_discharge)
    for _ in range(60):
        side = (low + high) / 2
        coil = Coil(side, REFRIGERANT_TO_AIR * side, CONDENSER_M3_PER_TON * spec.tons * volume)
        stream = _rated_stream(spec, outdoor_m3s)
        found = condense(
            coil, stream, c_from_f(RATED_OUTSIDE_F), tc, discharge, SUBCOOLING_K, kgs, (cp_vapor(f, tc), cp_liquid(f, liquid))
        )
        low, high = (side, high) if found.two_phase_kw < wanted else (low, side)
    return coil


def _rated_stream(spec: Spec, outdoor_m3s: float) -> float:
    return WATER_LS_PER_TON * spec.tons * CP_WATER if spec.kind == "ground_source" else outdoor_m3s * 1.14 * CP_DRY


def _rated_condenser(m: Machine, f, tc: float, liquid: float, kgs: float, h_discharge: float):
    discharge = tc + f.superheat_of_h(tc, h_discharge)
    stream = _rated_stream(m.spec, m.outdoor_m3s)
    return condense(
        m.outdoor, stream, c_from_f(RATED_OUTSIDE_F), tc, discharge, SUBCOOLING_K, kgs, (cp_vapor(f, tc), cp_liquid(f, liquid))
    )


def _rated_evaporator(m: Machine, f, te: float, kgs: float, flow_m3s: float):
    air, density = rated_air()
    return evaporate(m.indoor, atmosphere(0.0), air, flow_m3s * density, te, FULL_SUPERHEAT, kgs, cp_vapor(f, te))


def cp_vapor(f, dew: float) -> float:
    """Specific heat of the vapor near its dew point [kJ/(kg K)]."""
    return (f.h(dew, 10.0) - f.h(dew, 0.0)) / 10.0


def cp_liquid(f, t: float) -> float:
    """Specific heat of the liquid [kJ/(kg K)]."""
    return (f.h_liquid(t + 1.0) - f.h_liquid(t - 1.0)) / 2.0


def _fan(spec: Spec, flow_m3s: float) -> Fan:
    """A blower that moves the design flow at 0.5 in. w.c. external beside the coil's own drop."""
    shape = {"psc": 2.0, "constant_torque": 3.5, "constant_airflow": 6.0}[spec.blower_motor]
    free = 1.45 * flow_m3s if spec.blower_motor == "psc" else 1.3 * flow_m3s
    total = sum(_ducts(flow_m3s).drops(flow_m3s, 1.2).values())
    shut = total / (1.0 - (flow_m3s / free) ** shape)
    holds = flow_m3s if spec.blower_motor == "constant_airflow" else 0.0
    return Fan(spec.blower_motor, free, shut * (1.25 if holds else 1.0), shape, 1000.0 * FAN_KW_PER_M3S * flow_m3s, holds)


def _ducts(flow_m3s: float) -> Ducts:
    """Sound ducts at the design flow: 0.10 return, 0.07 filter, 0.22 wet coil, 0.25 in. w.c. supply."""
    return Ducts(flow_m3s, 0.10 * PA_PER_INWC, 0.07 * PA_PER_INWC, 0.22 * PA_PER_INWC, 0.25 * PA_PER_INWC)
