"""Expected cooling from the published curves: capacity, sensible share, supply state, split.

Capacity is the rated gross value times the curve of entering wet bulb and outdoor temperature and the curve of flow;
the sensible share comes from the apparatus-dew-point / bypass method with BF = exp(-A0 / m), A0 fixed at the rating
point. Both as in EnergyPlus, Engineering Reference, "Single-Speed DX Cooling Coil" (MEM), with the curves of
NREL/TP-5500-56354. Altitude enters through mass flow: the flow fraction is dry-air mass over rated dry-air mass.
Draw-through unit: published capacity is net, so the blower's heat is added for the coil and taken off again.
Arrays of one shape or floats, unchecked; NaN in -> NaN out.
"""

from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from engine.constants import (
    BTUH_PER_TON,
    CARRIED_ON_FLOW,
    CARRIED_ON_OUTDOOR,
    CARRIED_ON_PER_FLOW,
    CARRIED_ON_PER_OUTDOOR,
    CARRIED_ON_PER_WET_BULB,
    CARRIED_ON_WET_BULB,
    EER_BY_SEER,
    EER_BY_SEER_SQUARED,
    FAN_W_PER_CFM,
    NOMINAL_CFM_PER_TON,
    OUTDOOR_FAN_W_PER_TON,
    RATING_RETURN_DRY_BULB,
    RATING_RETURN_WET_BULB,
    STANDARD_AIR_VOLUME,
    USUAL_SEER,
)
from engine.expected.curves import (
    COOLING_CURVES,
    FLOW_RANGE_PCT,
    OUTDOOR_RANGE_F,
    WET_BULB_RANGE_F,
    by_flow,
    by_weather,
    outside,
)
from engine.physics.air import moist
from engine.physics.air.process import apparatus
from engine.physics.capacity.delivered import fan_heat_btuh
from engine.uncertainty.estimate import Outside
from engine.units import Numbers

_DRY_STEPS, _DRY_STILL_F = 16, 1e-4  # at most; °F from step to step
_FEW = 16
_LEAST_BYPASS = 0.01  # a rating with less would leave the coil saturated; the sensible share asked for is then too high


class Machine(NamedTuple):
    """The unit as rated: nominal tons, kind ('air_conditioner' or 'heat_pump'), sensible share and blower at rating."""

    nominal_tons: Numbers
    kind: str
    sensible_share: Numbers  # net, at the rating point
    fan_w_per_cfm: Numbers
    capacity_factor: Numbers = 1.0  # for the spread of real units about nominal


class Expected(NamedTuple):
    """Expected values. Net of blower heat unless gross is said. °F, lb/lb, BTU/h.
    coil_dry: the coil takes no moisture.
    """

    total_btuh: Numbers
    sensible_btuh: Numbers
    sensible_heat_ratio: Numbers
    supply_dry_bulb_f: Numbers
    supply_humidity_ratio: Numbers
    split_f: Numbers
    gross_btuh: Numbers
    wet_bulb_used_f: Numbers
    flow_fraction: Numbers
    coil_dry: NDArray[np.bool_]


class _Coil(NamedTuple):
    gross_btuh: Numbers
    h_out: Numbers
    w_out: Numbers
    drying: Numbers  # w_in - w at the coil surface; negative where the coil is dry


def expected_cooling(
    machine: Machine,
    t_in_f: Numbers,
    w_in: Numbers,
    outdoor_f: Numbers,
    p_psia: Numbers,
    mass_flow_lbh: Numbers,
    fan_heat_btuh: Numbers,
    wet_bulb_f: Numbers | None = None,
) -> Expected:
    """What the unit should do with this air [°F, lb/lb], this outdoor temperature, pressure, dry-air flow and blower
    heat.

    Where the bypass method would have the coil add moisture, it is dry: the wet bulb is raised to the one at which it
    just goes dry, capacity is taken there, and all of it is sensible. `out_of_range` tells where no answer holds.
    """
    t_in_f, w_in, outdoor_f, p_psia, mass_flow_lbh, fan_heat_btuh, *_ = np.broadcast_arrays(
        t_in_f, w_in, outdoor_f, p_psia, mass_flow_lbh, fan_heat_btuh, *machine[2:]
    )
    rated = _rated(machine)
    with np.errstate(all="ignore"):
        of_air = moist.wet_bulb_f(t_in_f, w_in, p_psia) if wet_bulb_f is None else wet_bulb_f
        wet_bulb: Numbers = np.broadcast_to(of_air, t_in_f.shape)
        flow = mass_flow_lbh / rated.mass_flow_lbh
        bypass = np.exp(np.log(rated.bypass) / flow)
        flow_factor = (
            rated.gross_btuh * machine.capacity_factor * by_flow(f"{rated.prefix}_cooling_capacity_flow")(flow)
        )

        entering = _Entering(rated.prefix, flow_factor, bypass, t_in_f, outdoor_f, p_psia, mass_flow_lbh)
        coil = entering.coil(wet_bulb, w_in)
        dry = np.asarray(coil.drying <= 0)
        if dry.any():
            wet_bulb, coil = _where_dry(entering, dry, w_in, wet_bulb, coil)
        coil_leaving = moist.dry_bulb_from_enthalpy_f(coil.h_out, coil.w_out)
        cp = moist.specific_heat_btulbf(coil.w_out)
        supply = coil_leaving + fan_heat_btuh / (mass_flow_lbh * cp)
        total = coil.gross_btuh - fan_heat_btuh
        sensible = mass_flow_lbh * cp * (t_in_f - supply)
    return Expected(
        total_btuh=total,
        sensible_btuh=sensible,
        sensible_heat_ratio=sensible / total,
        supply_dry_bulb_f=supply,
        supply_humidity_ratio=coil.w_out,
        split_f=t_in_f - supply,
        gross_btuh=coil.gross_btuh,
        wet_bulb_used_f=wet_bulb,
        flow_fraction=flow,
        coil_dry=dry,
    )


def rated_compressor_w(seer: float | None, nominal_tons: float) -> float:
    """Compressor watts [W] of a sound unit of its rating (None: the usual one) in cooling at 95 °F outdoors: what its
    efficiency ratio there leaves when both fans are taken off.
    """
    seer = USUAL_SEER.value if seer is None else seer
    eer = EER_BY_SEER.value * seer - EER_BY_SEER_SQUARED.value * seer**2
    fans = FAN_W_PER_CFM.value * NOMINAL_CFM_PER_TON.value + OUTDOOR_FAN_W_PER_TON.value
    return (BTUH_PER_TON.value / eer - fans) * nominal_tons


def power_fraction(kind: str, wet_bulb_f: float, outdoor_f: float, flow_fraction: float) -> float:
    """Electrical power as a fraction of that at rating: capacity fraction times energy-input ratio fraction, both from
    the curves.
    """
    prefix = COOLING_CURVES[kind]
    capacity = by_weather(f"{prefix}_cooling_capacity_temperature")(wet_bulb_f, outdoor_f) * by_flow(
        f"{prefix}_cooling_capacity_flow"
    )(flow_fraction)
    ratio = by_weather(f"{prefix}_cooling_eir_temperature")(wet_bulb_f, outdoor_f) * by_flow(
        f"{prefix}_cooling_eir_flow"
    )(flow_fraction)
    return float(capacity * ratio)


def out_of_range(wet_bulb_used_f: float, outdoor_f: float, flow_fraction: float) -> tuple[Outside, ...]:
    """What of this case the published curves do not cover; empty when they cover it."""
    return outside(
        ("return wet bulb", wet_bulb_used_f, "°F", WET_BULB_RANGE_F),
        ("outdoor temperature", outdoor_f, "°F", OUTDOOR_RANGE_F),
        ("airflow by mass", 100 * flow_fraction, "% of rated", FLOW_RANGE_PCT),
    )


_REACH = {
    "return wet bulb": CARRIED_ON_WET_BULB.value,
    "outdoor temperature": CARRIED_ON_OUTDOOR.value,
    "airflow by mass": CARRIED_ON_FLOW.value,
}


def too_far(wet_bulb_used_f: float, outdoor_f: float, flow_fraction: float) -> tuple[Outside, ...]:
    """What lies further outside the published curves than their trend is carried on; empty when nothing does."""
    beyond = out_of_range(wet_bulb_used_f, outdoor_f, flow_fraction)
    return tuple(
        (name, value, unit, low, high)
        for name, value, unit, low, high in beyond
        if max(low - value, value - high) > _REACH[name]
    )


def doubt_beyond(wet_bulb_used_f: Numbers, outdoor_f: Numbers, flow_fraction: Numbers) -> NDArray[np.float64]:
    """What carrying the curves on adds to the doubt of the capacity [share, 95 %]: nothing inside them, more with the
    distance outside. Return wet bulb and outdoor air [°F], dry-air flow as a share of rated.

    The slope of each curve may be off by itself beyond its range: working figures, engine.constants.
    """
    each = (
        (wet_bulb_used_f, WET_BULB_RANGE_F, CARRIED_ON_PER_WET_BULB),
        (outdoor_f, OUTDOOR_RANGE_F, CARRIED_ON_PER_OUTDOOR),
        (100.0 * np.asarray(flow_fraction), FLOW_RANGE_PCT, CARRIED_ON_PER_FLOW),
    )
    doubts = [per.value * np.maximum(np.maximum(low - x, x - high), 0.0) for x, (low, high), per in each]
    return np.sqrt(sum(np.nan_to_num(doubt) ** 2 for doubt in doubts))


class _Rated(NamedTuple):
    prefix: str
    gross_btuh: Numbers
    mass_flow_lbh: Numbers
    bypass: Numbers


def _rated(machine: Machine) -> _Rated:
    """The rating point: 80 °F / 67 °F in, 95 °F outdoors, 400 CFM of standard air per ton."""
    net = machine.nominal_tons * BTUH_PER_TON.value
    cfm = machine.nominal_tons * NOMINAL_CFM_PER_TON.value
    mass_flow = cfm * 60.0 / STANDARD_AIR_VOLUME.value
    fan_heat = fan_heat_btuh(machine.fan_w_per_cfm * cfm)
    gross = net + fan_heat
    share, fan = np.broadcast_arrays(
        np.asarray(machine.sensible_share, float), np.asarray(machine.fan_w_per_cfm, float)
    )
    # Most points of an uncertainty share one pair: the rating point is worked out once for each.
    pairs = list(zip(share.ravel().tolist(), fan.ravel().tolist(), strict=True))
    few = len(set(pairs)) <= _FEW
    bypass = (
        np.reshape([_rated_bypass_once(*pair) for pair in pairs], share.shape) if few else _rated_bypass(share, fan)
    )
    return _Rated(COOLING_CURVES[machine.kind], gross, mass_flow, bypass)


def _rated_bypass(sensible_share: Numbers, fan_w_per_cfm: Numbers) -> NDArray[np.float64]:
    """Bypass factor at the rating point, per ton: the same for any number of tons."""
    cfm = NOMINAL_CFM_PER_TON.value
    mass_flow, fan_heat = cfm * 60.0 / STANDARD_AIR_VOLUME.value, fan_heat_btuh(fan_w_per_cfm * cfm)
    gross, sensible = BTUH_PER_TON.value + fan_heat, sensible_share * BTUH_PER_TON.value + fan_heat
    t_in, p = RATING_RETURN_DRY_BULB.value, moist.pressure_psia(0.0)
    w_in = moist.humidity_ratio_from_wet_bulb(t_in, RATING_RETURN_WET_BULB.value, p)
    # (t, w) off the coil from total and sensible: latent heat is m (w_in - w_out) times the vapor's enthalpy, exactly
    # eq. (30).
    w_out = w_in - (gross - sensible) / mass_flow / moist.vapor_enthalpy_btulb(t_in)
    t_out = moist.dry_bulb_from_enthalpy_f(moist.enthalpy_btulb(t_in, w_in) - gross / mass_flow, w_out)
    bypass = apparatus(t_in, w_in, t_out, w_out, p).bypass_factor
    return np.where(np.isnan(bypass), _LEAST_BYPASS, np.maximum(bypass, _LEAST_BYPASS))


@lru_cache(maxsize=256)
def _rated_bypass_once(sensible_share: float, fan_w_per_cfm: float) -> float:
    return float(_rated_bypass(sensible_share, fan_w_per_cfm))


class _Entering(NamedTuple):
    """What enters the coil but for its moisture. °F, psia, lb of dry air per hour.
    flow_factor: gross BTU/h at this flow and rated temperatures.
    """

    prefix: str
    flow_factor: Numbers
    bypass: Numbers
    t_in_f: Numbers
    outdoor_f: Numbers
    p_psia: Numbers
    mass_flow_lbh: Numbers

    def only(self, chosen: NDArray[np.bool_]) -> "_Entering":
        """The chosen points alone, in a row."""
        return _Entering(self.prefix, *(np.asarray(x)[chosen] for x in self[1:]))

    def coil(self, wet_bulb: Numbers, w_in: Numbers) -> _Coil:
        """What the coil makes of this air with this wet bulb [°F] and humidity ratio [lb/lb]."""
        gross = self.flow_factor * by_weather(f"{self.prefix}_cooling_capacity_temperature")(wet_bulb, self.outdoor_f)
        h_in = moist.enthalpy_btulb(self.t_in_f, w_in)
        d_h = gross / self.mass_flow_lbh
        surface = moist.saturation_temperature_from_enthalpy_f(h_in - d_h / (1.0 - self.bypass), self.p_psia)
        drying = w_in - moist.saturation_humidity_ratio(surface, self.p_psia)
        return _Coil(gross, h_in - d_h, w_in - (1.0 - self.bypass) * drying, drying)

    def drying(self, wet_bulb: Numbers) -> Numbers:
        """w_in - w at the coil surface [lb/lb] for air of this wet bulb [°F]."""
        return self.coil(wet_bulb, moist.humidity_ratio_from_wet_bulb(self.t_in_f, wet_bulb, self.p_psia)).drying


def _where_dry(
    entering: _Entering, dry: NDArray[np.bool_], w_in: Numbers, wet_bulb: Numbers, coil: _Coil
) -> tuple[Numbers, _Coil]:
    """The wet bulb that counts and what the coil does, with the dry coils as they are: capacity is taken at the wet
    bulb at which the coil just goes dry, and no moisture leaves the air.
    """
    at_dry = entering.only(dry)
    wet, gross, h_out, w_out = (np.array(x) for x in (wet_bulb, *coil[:3]))
    w_dry = np.asarray(w_in)[dry]
    just_dry = _wet_bulb_at_dry_out(at_dry, wet[dry], np.asarray(coil.drying)[dry])
    raised = at_dry.coil(just_dry, moist.humidity_ratio_from_wet_bulb(at_dry.t_in_f, just_dry, at_dry.p_psia))
    wet[dry], gross[dry], w_out[dry] = just_dry, raised.gross_btuh, w_dry
    h_out[dry] = moist.enthalpy_btulb(at_dry.t_in_f, w_dry) - raised.gross_btuh / at_dry.mass_flow_lbh
    return wet, _Coil(gross, h_out, w_out, coil.drying)


def _wet_bulb_at_dry_out(entering: _Entering, wet_bulb: Numbers, drying: Numbers) -> Numbers:
    """The wet bulb [°F], at this dry bulb, at which the coil just goes dry: where the surface takes no moisture.

    Regula falsi (Illinois kind) between the wet bulb at hand (dry) and saturation (certainly wet).
    """
    low, high = wet_bulb, entering.t_in_f
    f_low, f_high = drying, entering.drying(high)
    middle, was_below = low, np.zeros(np.shape(low))
    for _ in range(_DRY_STEPS):
        before, middle = middle, (low * f_high - high * f_low) / (f_high - f_low)
        f_middle = entering.drying(middle)
        below = np.where(f_middle <= 0, 1, -1)
        # An end that stays a second time counts half, so that the bracket closes from both sides.
        half = np.where(below == was_below, 0.5, 1.0)
        f_low, f_high = np.where(below > 0, f_middle, half * f_low), np.where(below > 0, half * f_high, f_middle)
        low, high = np.where(below > 0, middle, low), np.where(below > 0, high, middle)
        was_below = below
        if moist.stands_still(middle - before, _DRY_STILL_F):
            break
    return middle
