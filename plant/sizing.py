"""A machine sized so that it meets its rating: 80/67 °F inside, 95 °F outside, 400 CFM a ton, sea level (AHRI 210/240
conditions).

Every size follows from the tons, the class and the refrigerant; nothing is fitted to what anybody expects of a visit.
"""

from dataclasses import replace
from functools import cache
from typing import Any

import numpy as np

from engine.errors import EngineError
from engine.units import c_from_f
from plant.air import CP_DRY, Air, atmosphere
from plant.circuit import (
    FULL_SUPERHEAT,
    Coil,
    Compressor,
    Condensed,
    Evaporated,
    Valve,
    compress,
    condense,
    evaporate,
    valve_flow,
)
from plant.duct import M3S_PER_CFM, PA_PER_INWC, Ducts, Fan
from plant.fluid import Fluid, fluid
from plant.machine import (
    ACCUMULATOR_OVER_CHARGE,
    CP_WATER,
    KINDS,
    METERING_DEVICES,
    Machine,
    Spec,
    charge,
    cp_liquid,
    cp_vapor,
)
from plant.steady import Conditions, NotConverged, Point, newton

KW_PER_TON = 3.516853
RATED_INSIDE_F, RATED_WET_BULB_F, RATED_OUTSIDE_F = 80.0, 67.0, 95.0
# A ground loop's rating: entering water in cooling and in heating (ISO 13256-1, ground-loop heat pumps: memory)
RATED_WATER_F, RATED_HEATING_WATER_F = 77.0, 32.0
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
# A heat pump heats with its small coil as the condenser: its compensator and its second metering device are such that
# at the heating rating (70 °F inside, 47 °F outside: AHRI 210/240) the subcooling is this and the superheat is
# cooling's.
RATED_HEATING_INSIDE_F, RATED_HEATING_OUTSIDE_F, HEATING_SUBCOOLING_K = 70.0, 47.0, 8.0
# Evaporator's bypass factor at rating; the condenser's refrigerant side over its air side.
BYPASS, REFRIGERANT_TO_AIR = 0.10, 3.0
EVAPORATOR_M3_PER_TON, CONDENSER_M3_PER_TON = 0.00075, 0.00125
LIQUID_LINE_M2, SUCTION_LINE_M2 = 5.0e-5, 2.6e-4
WATER_LS_PER_TON, WATER_PSI = 0.19, 4.0  # 3 GPM a ton, and the water coil's drop at it


@cache
def machine(spec: Spec = Spec()) -> Machine:  # noqa: B008 - frozen
    """The machine of a spec; raises EngineError for a spec that is none."""
    _check(spec)
    f = fluid(spec.refrigerant)
    over_te, over_tc, outdoor_cfm, volume = CLASSES[spec.efficiency]
    te, tc = c_from_f(over_te), c_from_f(_rated_sink_f(spec) + over_tc)
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
        spec,
        compressor,
        valve,
        indoor,
        outdoor,
        _fan(spec, flow_m3s),
        _ducts(flow_m3s),
        outdoor_m3s,
        0.0 if spec.kind == "ground_source" else 0.075 * spec.tons,
        0.0,
        LIQUID_LINE_M2 * spec.line_m,
        SUCTION_LINE_M2 * spec.line_m,
        LINE_GAIN_K,
    )
    if spec.kind == "ground_source":
        design_ls = WATER_LS_PER_TON * spec.tons
        sized = replace(sized, water_ls=design_ls, water_psi=WATER_PSI, water_psi_ls=design_ls)
    shares = _rated_condenser(outdoor, spec, outdoor_m3s, f, tc, liquid, kgs, h_discharge).shares
    wet = _rated_evaporator(sized, f, te, kgs, flow_m3s).wet_share
    sized = replace(sized, charge_kg=charge(sized, te, tc, FULL_SUPERHEAT, SUBCOOLING_K, shares, wet))
    if spec.kind == "heat_pump":
        sized = replace(sized, accumulator_kg=ACCUMULATOR_OVER_CHARGE * sized.charge_kg)
    return sized if spec.kind == "air_conditioner" else _for_heating(sized)


def _rated_sink_f(spec: Spec) -> float:
    """What takes the heat at the cooling rating [°F]: outdoor air, or the loop's water."""
    return RATED_WATER_F if spec.kind == "ground_source" else RATED_OUTSIDE_F


def _for_heating(m: Machine) -> Machine:
    """A heat pump with the compensator and the heating metering device that its heating rating asks for."""
    inside, outside = (
        atmosphere(0.0).of_rh(c_from_f(t), rh)
        for t, rh in ((RATED_HEATING_INSIDE_F, 50.0), (RATED_HEATING_OUTSIDE_F, 73.0))
    )
    point = Point(m, Conditions(inside, outside, heating=True, water_c=c_from_f(RATED_HEATING_WATER_F)))

    def at(dew: np.ndarray) -> dict[str, Any]:
        return point.work(np.array([*dew, FULL_SUPERHEAT, HEATING_SUBCOOLING_K]))

    dew = newton(lambda x: at(x)["residuals"][1:3], np.array([point.source_c - 10.0, inside.t + 20.0]))
    if dew is None:
        raise NotConverged("no heating rating found for this heat pump")
    rated = at(dew)
    return replace(m, compensator_kg=m.charge_kg - rated["held"], heating_opening=rated["kgs"] / rated["through"])


def _check(spec: Spec) -> None:
    wrong = [
        name
        for name, value, known in (
            ("class", spec.efficiency, CLASSES),
            ("metering device", spec.metering_device, METERING_DEVICES),
            ("kind", spec.kind, KINDS),
        )
        if value not in known
    ]
    if wrong or not 1.5 <= spec.tons <= 5.0:
        raise EngineError(f"no such machine: {', '.join(wrong) or f'{spec.tons:g} tons, 1.5 to 5 are known'}")


def _compressor(f: Fluid, te: float, tc: float, kgs: float) -> Compressor:
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
            (w, high)
            if from_table.wet_bulb_c(Air(c_from_f(RATED_INSIDE_F), w)) < c_from_f(RATED_WET_BULB_F)
            else (low, w)
        )
    return w


def _evaporator(spec: Spec, f: Fluid, te: float, kgs: float, h_in: float, flow_m3s: float) -> Coil:
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
    spec: Spec, f: Fluid, tc: float, liquid: float, kgs: float, h_discharge: float, outdoor_m3s: float, volume: float
) -> Coil:
    """Sized so that its two-phase zone gives what the refrigerant can."""
    wanted, low, high = kgs * (f.h_vapor(tc) - f.h_liquid(f.bubble_c(f.dew_kpa(tc)))), 0.01, 30.0 * spec.tons
    for _ in range(60):
        side = (low + high) / 2
        coil = Coil(side, REFRIGERANT_TO_AIR * side, CONDENSER_M3_PER_TON * spec.tons * volume)
        found = _rated_condenser(coil, spec, outdoor_m3s, f, tc, liquid, kgs, h_discharge)
        low, high = (side, high) if found.two_phase_kw < wanted else (low, side)
    return coil


def _rated_condenser(
    coil: Coil, spec: Spec, outdoor_m3s: float, f: Fluid, tc: float, liquid: float, kgs: float, h_discharge: float
) -> Condensed:
    stream = WATER_LS_PER_TON * spec.tons * CP_WATER if spec.kind == "ground_source" else outdoor_m3s * 1.14 * CP_DRY
    discharge, cp = tc + f.superheat_of_h(tc, h_discharge), (cp_vapor(f, tc), cp_liquid(f, liquid))
    return condense(
        coil, stream, c_from_f(_rated_sink_f(spec)), tc, f.bubble_c(f.dew_kpa(tc)), discharge, SUBCOOLING_K, kgs, cp
    )


def _rated_evaporator(m: Machine, f: Fluid, te: float, kgs: float, flow_m3s: float) -> Evaporated:
    air, density = rated_air()
    return evaporate(m.indoor, atmosphere(0.0), air, flow_m3s * density, te, FULL_SUPERHEAT, kgs, cp_vapor(f, te))


def _fan(spec: Spec, flow_m3s: float) -> Fan:
    """A blower that moves the design flow at 0.5 in. w.c. external beside the coil's own drop."""
    shape = {"psc": 2.0, "constant_torque": 3.5, "constant_airflow": 6.0}[spec.blower_motor]
    free = 1.45 * flow_m3s if spec.blower_motor == "psc" else 1.3 * flow_m3s
    total = sum(_ducts(flow_m3s).drops(flow_m3s, 1.2).values())
    shut = total / (1.0 - (flow_m3s / free) ** shape)
    holds = flow_m3s if spec.blower_motor == "constant_airflow" else 0.0
    return Fan(
        spec.blower_motor, free, shut * (1.25 if holds else 1.0), shape, 1000.0 * FAN_KW_PER_M3S * flow_m3s, holds
    )


def _ducts(flow_m3s: float) -> Ducts:
    """Sound ducts at the design flow: 0.10 return, 0.07 filter, 0.22 wet coil, 0.25 in. w.c. supply."""
    return Ducts(flow_m3s, 0.10 * PA_PER_INWC, 0.07 * PA_PER_INWC, 0.22 * PA_PER_INWC, 0.25 * PA_PER_INWC)
