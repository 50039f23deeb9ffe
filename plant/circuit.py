"""The parts of the refrigerant circuit: compressor, valve, coils, and the charge in them. SI units as in plant.fluid;
flows kg/s, heat kW.
"""

from dataclasses import dataclass, replace
from math import exp, log, sqrt

from plant.air import CP_DRY, Air, Atmosphere
from plant.fluid import Fluid

# A compressor's volumetric and overall isentropic efficiency over the pressure ratio: scroll-like (memory of published
# maps).
VOLUMETRIC_AT_1, VOLUMETRIC_FALL = 1.0, 0.018
BEST_ISENTROPIC, BEST_RATIO, ISENTROPIC_FALL = 0.70, 2.9, 0.045
SHELL_LOSS = 0.06  # share of the power that leaves by the shell
# A valve's flow is choked: what counts downstream is a share of the pressure at which the liquid would flash
# (short-tube practice, memory).
CHOKED_SHARE = 0.6
# K, K, times the rated opening: a TXV opens with the superheat it feels.
STATIC_SUPERHEAT, FULL_SUPERHEAT, WIDEST = 2.2, 5.6, 1.45
# K that count as a whole heat of vaporization where a coil's exit is two-phase, so that one unknown covers both sides
WET_SPAN = 20.0
# Heat transfer of those zones against the two-phase zone's.
SPLIT_DESUPERHEAT, SPLIT_SUBCOOL, SPLIT_SUPERHEAT = 0.55, 0.8, 0.06
ZIVI = 2.0 / 3.0


@dataclass(frozen=True)
class Compressor:
    """Displacement [m3/s] and how much of its efficiencies is left (1: sound)."""

    displacement: float
    volumetric: float = 1.0
    isentropic: float = 1.0


def compress(
    fluid: Fluid, c: Compressor, suction_dew: float, superheat: float, discharge_dew: float
) -> tuple[float, float, float]:
    """Mass flow [kg/s], power [kW], discharge enthalpy [kJ/kg]. Below 0 K of superheat the suction is wet: superheat /
    WET_SPAN is what is missing.
    """
    dry = max(superheat, 0.0)
    rho, h, s = fluid.rho(suction_dew, dry), fluid.h(suction_dew, dry), fluid.s(suction_dew, dry)
    quality = 1.0 + min(superheat, 0.0) / WET_SPAN
    ratio = fluid.dew_kpa(discharge_dew) / fluid.dew_kpa(suction_dew)
    volumetric = c.volumetric * (VOLUMETRIC_AT_1 - VOLUMETRIC_FALL * (ratio - 1.0))
    overall = c.isentropic * (BEST_ISENTROPIC - ISENTROPIC_FALL * (ratio / BEST_RATIO - 1.0) ** 2)
    flow = volumetric * c.displacement * rho / max(quality, 0.3)
    isentropic = fluid.h(discharge_dew, fluid.superheat_of_s(discharge_dew, max(s, fluid.s(discharge_dew, 0.0))))
    work = max(isentropic - h, 1.0) / overall
    latent = fluid.h_vapor(suction_dew) - fluid.h_liquid(suction_dew)
    return flow, flow * work, h + min(superheat, 0.0) / WET_SPAN * latent + work * (1.0 - SHELL_LOSS)


@dataclass(frozen=True)
class Valve:
    """A TXV or a fixed orifice: kind, effective area [m2], the superheat it is set off by [K], and how wide it can open
    (1: sound).
    """

    kind: str
    area: float
    set_off: float = 0.0
    widest: float = WIDEST


def valve_flow(fluid: Fluid, v: Valve, inlet_kpa: float, liquid_c: float, quality: float, superheat: float) -> float:
    """Mass flow [kg/s]. quality: of flash gas before it, which makes the stream light. superheat [K]: what a TXV's bulb
    feels.
    """
    opening = 1.0
    if v.kind == "txv":
        opening = min(
            max((superheat - v.set_off - STATIC_SUPERHEAT) / (FULL_SUPERHEAT - STATIC_SUPERHEAT), 0.05), v.widest
        )
    flashes_at = min(fluid.bubble_kpa(liquid_c), inlet_kpa)
    drop = max(inlet_kpa - CHOKED_SHARE * flashes_at, 1.0)
    volume = 1.0 / fluid.rho_liquid(liquid_c)
    if quality > 0:
        volume += quality * (1.0 / fluid.rho_vapor(fluid.bubble_c(inlet_kpa)) - volume)
    return opening * v.area * sqrt(2000.0 * drop / volume)


@dataclass(frozen=True)
class Coil:
    """A coil: heat transfer of its two-phase zone were it everywhere [kW/K] - air (or water) side and refrigerant side
    -, inner volume [m3].
    """

    air_side: float
    refrigerant_side: float
    volume: float

    def passing(self, share: float) -> "Coil":
        """One of the same volume that passes this share of the heat on both sides."""
        return replace(self, air_side=self.air_side * share, refrigerant_side=self.refrigerant_side * share)


@dataclass(frozen=True)
class Evaporated:
    """An evaporator at work: heat taken up in its two-phase zone [kW], that zone's share of the coil, the surface [°C],
    the air leaving.
    """

    two_phase_kw: float
    wet_share: float
    surface: float
    leaving: Air


def evaporate(
    coil: Coil,
    atmosphere: Atmosphere,
    air: Air,
    air_kgs: float,
    dew: float,
    superheat: float,
    flow: float,
    cp_vapor: float,
) -> Evaporated:
    """Air over a direct-expansion coil: a surface between air and refrigerant, wet where it is below the air's dew
    point, and a superheating end.

    Contact factor and enthalpy potential: ASHRAE Handbook - Fundamentals / HVAC Systems and Equipment, "Air-cooling
    coils".
    """
    contact = 1.0 - exp(-coil.air_side / (air_kgs * CP_DRY))
    share, end_kw = _wet_share(coil, air.t, dew, superheat, flow, cp_vapor)
    surface = _surface(coil, atmosphere, air, air_kgs * contact, dew)
    w_surface = min(air.w, atmosphere.saturated_w(surface))
    kw = share * air_kgs * contact * (air.h - Air(surface, w_surface).h)
    out_t = air.t - share * contact * (air.t - surface) - end_kw / (air_kgs * air.cp)
    return Evaporated(kw, share, surface, Air(out_t, air.w - share * contact * (air.w - w_surface)))


def evaporate_in_water(
    coil: Coil, stream_kwk: float, entering: float, dew: float, superheat: float, flow: float, cp_vapor: float
) -> Evaporated:
    """A stream of water [kW/K] that gives its heat to boiling refrigerant, with a superheating end as in air.

    Effectiveness of a stream along a coil of one temperature, 1 - exp(-NTU): any heat-transfer text.
    """
    share, end_kw = _wet_share(coil, entering, dew, superheat, flow, cp_vapor)
    conductance = 1.0 / (1.0 / coil.air_side + 1.0 / coil.refrigerant_side)
    kw = share * stream_kwk * (1.0 - exp(-conductance / stream_kwk)) * (entering - dew)
    return Evaporated(kw, share, dew, Air(entering - (kw + end_kw) / stream_kwk, 0.0))


def _wet_share(
    coil: Coil, entering: float, dew: float, superheat: float, flow: float, cp_vapor: float
) -> tuple[float, float]:
    """The two-phase zone's share of a coil, and the heat that its superheating end takes [kW]."""
    if superheat <= 0:
        return 1.0, 0.0
    # Vapor is never warmed beyond the stream that warms it: past that the zone grows without end.
    span = max(entering - dew, 0.5)
    reach, beyond = min(superheat / span, 0.9999), max(superheat - 0.9999 * span, 0.0)
    share = 1.0 + log(1.0 - reach) * flow * cp_vapor / (SPLIT_SUPERHEAT * coil.refrigerant_side) - 0.5 * beyond
    return share, flow * cp_vapor * superheat


def _surface(coil: Coil, atmosphere: Atmosphere, air: Air, contact_kgs: float, dew: float) -> float:
    """The surface temperature at which the air gives what the refrigerant side takes: false position after Illinois,
    which halves the weight of an end that stays twice (Dowell and Jarratt 1971, memory).
    """
    h_in = air.h

    def over(t: float) -> float:
        return coil.refrigerant_side * (t - dew) - contact_kgs * (
            h_in - Air(t, min(air.w, atmosphere.saturated_w(t))).h
        )

    low, high = dew, max(air.t, dew + 0.01)
    at_low, at_high = over(low), over(high)
    if at_low >= 0:  # the air is no warmer than the refrigerant
        return low
    middle, stayed = low, 0
    for _ in range(40):
        middle = high - at_high * (high - low) / (at_high - at_low)
        at = over(middle)
        if abs(at) < 1e-11 or high - low < 1e-11:
            break
        if at > 0:
            high, at_high, at_low = middle, at, at_low / 2 if stayed < 0 else at_low
            stayed = -1
        else:
            low, at_low, at_high = middle, at, at_high / 2 if stayed > 0 else at_high
            stayed = 1
    return middle


@dataclass(frozen=True)
class Condensed:
    """A condenser at work: heat its two-phase zone can give [kW], and the shares of its zones: desuperheating,
    two-phase, subcooling.
    """

    two_phase_kw: float
    shares: tuple[float, float, float]


def condense(
    coil: Coil,
    stream_kwk: float,
    entering: float,
    dew: float,
    bubble: float,
    discharge: float,
    subcooling: float,
    flow: float,
    cp: tuple[float, float],
) -> Condensed:
    """A stream of air or water [kW/K] over a condensing coil, each zone meeting it at its entering temperature, which
    the liquid can reach and not pass. cp: vapor's, liquid's.
    """
    over = max(dew - entering, 0.2)
    conductance = 1.0 / (1.0 / coil.air_side + 1.0 / coil.refrigerant_side)
    reach = min(max(discharge - dew, 0.0) / max(discharge - entering, 0.2), 0.999)
    hot = -log(1.0 - reach) * flow * cp[0] / (SPLIT_DESUPERHEAT * conductance)
    cold = 0.0
    if subcooling > 0:
        # Past the stream's own temperature the zone grows without end, as a superheating one does.
        span = max(bubble - entering, 0.1)
        reach, beyond = min(subcooling / span, 0.9999), max(subcooling - 0.9999 * span, 0.0)
        cold = -log(1.0 - reach) * flow * cp[1] / (SPLIT_SUBCOOL * conductance) + 0.5 * beyond
    middle = 1.0 - hot - cold
    kw = middle * stream_kwk * (1.0 - exp(-conductance / stream_kwk)) * over
    return Condensed(kw, (hot, middle, cold))


def mean_density(fluid: Fluid, t: float, quality_in: float, quality_out: float) -> float:
    """Mean density [kg/m3] of a two-phase zone between two qualities, heat flux even, slip after Zivi (1964)."""
    liquid, vapor = fluid.rho_liquid(t), fluid.rho_vapor(t)
    slip = (vapor / liquid) ** ZIVI
    total = 0.0
    for step in range(8):
        x = min(max(quality_in + (quality_out - quality_in) * (step + 0.5) / 8.0, 1e-4), 1 - 1e-4)
        void = 1.0 / (1.0 + (1.0 - x) / x * slip)
        total += void * vapor + (1.0 - void) * liquid
    return total / 8.0
