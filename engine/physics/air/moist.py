"""Moist-air properties, the ideal-gas formulation of ASHRAE Handbook - Fundamentals (2017), chapter 1 "Psychrometrics".

Inner functions: pure array arithmetic, floats or numpy arrays of one broadcastable shape, no checks, NaN in -> NaN out.
`engine.physics.air.state` is the checked way in. Symbols: t dry bulb, w humidity ratio (lb water per lb dry air), p
pressure. Intended range: -20 to 130 °F, -300 to 12,000 ft. Equation numbers are the chapter's, inch-pound edition.
"""

import math
from collections.abc import Callable
from typing import NamedTuple

import numpy as np

from engine.units import RANKINE, Numbers

CP_DRY_AIR, CP_VAPOR = 0.240, 0.444  # BTU/lb°F, eq. (30)
VAPOR_AT_ZERO_F = 1061.0  # BTU/lb: enthalpy of water vapor at 0 °F, eq. (30)
SEA_LEVEL_PSIA = 14.696  # eq. (3)
GAS_CONSTANT_DRY_AIR = 53.350  # ft lbf / lb °R, eq. (1)
MOLAR_MASS_RATIO = 0.621945  # water to dry air, eq. (20)
TRIPLE_POINT_F = 32.018  # below it saturation is over ice
FREEZING_F = 32.0  # below it the wet bulb is iced
LEAST_HUMIDITY_RATIO = 1e-7  # keeps logarithms finite in bone-dry air


class _Saturation(NamedTuple):
    """Eq. (5) and (6): ln p_ws = inverse / T + powers[0] + powers[1] T + ... + logarithm ln T, T in °R, p in psia.

    slopes: the powers of its slope.
    """

    inverse: float
    powers: tuple[float, ...]
    logarithm: float
    slopes: tuple[float, ...]


def _saturation_over(inverse: float, powers: tuple[float, ...], logarithm: float) -> _Saturation:
    return _Saturation(inverse, powers, logarithm, tuple(n * c for n, c in enumerate(powers))[1:])


_ICE = _saturation_over(
    -1.0214165e4, (-4.8932428, -5.3765794e-3, 1.9202377e-7, 3.5575832e-10, -9.0344688e-14), 4.1635019
)
_WATER = _saturation_over(-1.0440397e4, (-1.1294650e1, -2.7022355e-2, 1.2890360e-5, -2.4780681e-9), 6.5459673)

# Most Newton steps; each iteration ends as soon as every value is steady, so the usual case takes half of them.
_WET_BULB_STEPS = 10
_DEW_POINT_STEPS = 5
_SATURATION_STEPS = 12
_STILL_F = 2e-3  # °F: Newton doubles the good digits, so the value is then right to about 1e-7


def pressure_psia(altitude_ft: Numbers) -> Numbers:
    """Standard-atmosphere pressure [psia] at an altitude [ft]. Eq. (3)."""
    return SEA_LEVEL_PSIA * (1.0 - 6.8754e-6 * np.asarray(altitude_ft, float)) ** 5.2559


def _polynomial(x: Numbers, powers: tuple[float, ...]) -> Numbers:
    value: Numbers = powers[-1]
    for c in powers[-2::-1]:
        value = value * x + c
    return value


def _absolute(t_f: Numbers) -> Numbers:
    # One temperature is worked out with plain numbers: an array of one costs ten times as much.
    return (float(t_f) if isinstance(t_f, float) else np.asarray(t_f, float)) + RANKINE


def _log_pressure(t: Numbers, over: _Saturation) -> Numbers:
    """ln p_ws at t [°R]."""
    log_t = math.log(t) if isinstance(t, float) and t > 0.0 else np.log(t)
    return over.inverse / t + _polynomial(t, over.powers) + over.logarithm * log_t


def _slope(t: Numbers, over: _Saturation) -> Numbers:
    """The slope of ln p_ws [1/°F] at t [°R]."""
    return (over.logarithm - over.inverse / t) / t + _polynomial(t, over.slopes)


def _saturation(t_f: Numbers) -> tuple[Numbers, Numbers]:
    """ln p_ws and its slope [1/°F], over ice or water as the temperature asks."""
    t = _absolute(t_f)
    return _as_it_asks(_log_pressure, t), _as_it_asks(_slope, t)


def _as_it_asks(of: Callable[[Numbers, _Saturation], Numbers], t: Numbers) -> Numbers:
    """Over ice or water, as the temperature [°R] asks."""
    if isinstance(t, float):
        return of(t, _ICE if t <= TRIPLE_POINT_F + RANKINE else _WATER)
    icy = np.asarray(t <= TRIPLE_POINT_F + RANKINE)
    return np.where(icy, of(t, _ICE), of(t, _WATER)) if icy.any() else of(t, _WATER)


def saturation_pressure_psia(t_f: Numbers) -> Numbers:
    """Saturation pressure of water [psia] at a temperature [°F]. Eq. (5) over ice, (6) over water."""
    return np.exp(_as_it_asks(_log_pressure, _absolute(t_f)))


def humidity_ratio_from_vapor_pressure(vapor_pressure_psia: Numbers, p_psia: Numbers) -> Numbers:
    """Humidity ratio [lb/lb] from the partial pressure of water [psia]. Eq. (20)."""
    return np.maximum(MOLAR_MASS_RATIO * vapor_pressure_psia / (p_psia - vapor_pressure_psia), LEAST_HUMIDITY_RATIO)


def vapor_pressure_psia(w: Numbers, p_psia: Numbers) -> Numbers:
    """Partial pressure of water [psia] from humidity ratio [lb/lb]. Eq. (20) solved."""
    return p_psia * w / (MOLAR_MASS_RATIO + w)


def saturation_humidity_ratio(t_f: Numbers, p_psia: Numbers) -> Numbers:
    """Humidity ratio [lb/lb] of saturated air at t [°F]. Eq. (21)."""
    return humidity_ratio_from_vapor_pressure(saturation_pressure_psia(t_f), p_psia)


def saturated_with_slope(t_f: Numbers, p_psia: Numbers) -> tuple[Numbers, Numbers]:
    """Humidity ratio of saturated air [lb/lb] and its slope [lb/lb per °F], for Newton steps."""
    log_p, slope = _saturation(t_f)
    vapor = np.exp(log_p)
    w = MOLAR_MASS_RATIO * vapor / (p_psia - vapor)
    return w, w * slope * p_psia / (p_psia - vapor)


def humidity_ratio_from_rh(t_f: Numbers, rh_pct: Numbers, p_psia: Numbers) -> Numbers:
    """Humidity ratio [lb/lb] from dry bulb [°F] and relative humidity [%]. Eq. (12) and (20)."""
    return humidity_ratio_from_vapor_pressure(saturation_pressure_psia(t_f) * rh_pct / 100.0, p_psia)


def humidity_ratio_from_dew_point(dew_point_f: Numbers, p_psia: Numbers) -> Numbers:
    """Humidity ratio [lb/lb] from dew point [°F]. Eq. (36): saturated at the dew point."""
    return saturation_humidity_ratio(dew_point_f, p_psia)


def rh_pct(t_f: Numbers, w: Numbers, p_psia: Numbers) -> Numbers:
    """Relative humidity [%] from dry bulb [°F] and humidity ratio [lb/lb]. Eq. (12)."""
    return 100.0 * vapor_pressure_psia(w, p_psia) / saturation_pressure_psia(t_f)


def enthalpy_btulb(t_f: Numbers, w: Numbers) -> Numbers:
    """Enthalpy [BTU per lb dry air], zero for dry air at 0 °F and liquid water at 32 °F. Eq. (30)."""
    return CP_DRY_AIR * t_f + w * vapor_enthalpy_btulb(t_f)


def specific_heat_btulbf(w: Numbers) -> Numbers:
    """Specific heat of moist air [BTU per lb dry air and °F]: the temperature slope of eq. (30)."""
    return CP_DRY_AIR + CP_VAPOR * w


def vapor_enthalpy_btulb(t_f: Numbers) -> Numbers:
    """Enthalpy of water vapor [BTU/lb] at a dry bulb [°F]: the humidity slope of eq. (30)."""
    return VAPOR_AT_ZERO_F + CP_VAPOR * t_f


def dry_bulb_from_enthalpy_f(h_btulb: Numbers, w: Numbers) -> Numbers:
    """Dry bulb [°F] from enthalpy [BTU/lb] and humidity ratio [lb/lb]. Eq. (30) solved."""
    return (h_btulb - VAPOR_AT_ZERO_F * w) / specific_heat_btulbf(w)


def specific_volume_ft3lb(t_f: Numbers, w: Numbers, p_psia: Numbers) -> Numbers:
    """Volume [ft3 per lb of *dry* air]. Eq. (26)."""
    return GAS_CONSTANT_DRY_AIR * (t_f + RANKINE) * (1.0 + 1.607858 * w) / (144.0 * p_psia)


def _humidity_ratio_over_water(t_f: Numbers, wet_bulb_f: Numbers, saturated: Numbers) -> Numbers:
    return ((1093.0 - 0.556 * wet_bulb_f) * saturated - CP_DRY_AIR * (t_f - wet_bulb_f)) / (
        1093.0 + CP_VAPOR * t_f - wet_bulb_f
    )


def _humidity_ratio_over_ice(t_f: Numbers, wet_bulb_f: Numbers, saturated: Numbers) -> Numbers:
    below = (1220.0 - 0.04 * wet_bulb_f) * saturated - CP_DRY_AIR * (t_f - wet_bulb_f)
    return below / (1220.0 + CP_VAPOR * t_f - 0.48 * wet_bulb_f)


def humidity_ratio_from_wet_bulb(t_f: Numbers, wet_bulb_f: Numbers, p_psia: Numbers) -> Numbers:
    """Humidity ratio [lb/lb] from dry bulb and thermodynamic wet bulb [°F]. Eq. (33) over water, (35) over ice.

    May come out negative: then no air has that pair. The checked layer refuses it.
    """
    saturated = saturation_humidity_ratio(wet_bulb_f, p_psia)
    return np.where(
        np.asarray(wet_bulb_f) >= FREEZING_F,
        _humidity_ratio_over_water(t_f, wet_bulb_f, saturated),
        _humidity_ratio_over_ice(t_f, wet_bulb_f, saturated),
    )


def dew_point_f(w: Numbers, p_psia: Numbers) -> Numbers:
    """Dew point [°F] from humidity ratio [lb/lb]: the temperature at which eq. (5)/(6) gives the vapor pressure."""
    log_vapor = np.log(vapor_pressure_psia(np.maximum(w, LEAST_HUMIDITY_RATIO), p_psia))
    x = log_vapor - np.log(0.0885894)  # Magnus form for a start: 0.61078 kPa at 0 °C
    t = 32.0 + 1.8 * 237.3 * x / (17.27 - x)
    for _ in range(_DEW_POINT_STEPS):
        log_p, slope = _saturation(t)
        step = (log_p - log_vapor) / slope
        t = t - step
        if stands_still(step, _STILL_F):
            break
    return t


def stands_still(step: Numbers, tolerance: Numbers) -> bool:
    """Whether no value moves any more; NaN does not."""
    if isinstance(step, float) and isinstance(tolerance, float):
        return not abs(step) > tolerance
    return not (np.abs(step) > tolerance).any()


def wet_bulb_f(t_f: Numbers, w: Numbers, p_psia: Numbers, dew_f: Numbers | None = None) -> Numbers:
    """Thermodynamic wet bulb [°F] from dry bulb [°F] and humidity ratio [lb/lb]. Eq. (33)/(35) inverted.

    dew_f: the dew point [°F] if it is at hand; it gives the start.

    Just below freezing the two equations overlap (a wick may be wet or iced); the wet answer is given where there is
    one.
    """
    if not (isinstance(t_f, float) and isinstance(w, float)):  # one state is worked out with plain numbers
        t_f, w, p_psia = np.broadcast_arrays(np.asarray(t_f, float), w, p_psia)
    dew = np.maximum(dew_point_f(w, p_psia) if dew_f is None else dew_f, t_f - 120.0)
    # How far down it lies between dry bulb and dew point: within 0.7 °F above freezing, up to 6,500 ft (fitted here).
    share = 0.23 + 0.00156 * t_f + 0.00485 * dew - 0.226 * (p_psia / SEA_LEVEL_PSIA - 1.0)
    start = t_f - share * (t_f - dew)
    wet = _wet_bulb_branch(t_f, w, p_psia, start, _humidity_ratio_over_water, _saturation)
    frozen = wet < FREEZING_F
    if not np.asarray(frozen).any():
        return wet
    iced = _wet_bulb_branch(t_f, w, p_psia, start, _humidity_ratio_over_ice, _over_ice)
    return np.where(frozen, np.minimum(iced, FREEZING_F), wet)


# Humidity ratio of dry bulb, wet bulb and its saturated humidity ratio; ln p_ws and its slope.
_Equation = Callable[[Numbers, Numbers, Numbers], Numbers]
_WithSlope = Callable[[Numbers], tuple[Numbers, Numbers]]


def _over_ice(t_f: Numbers) -> tuple[Numbers, Numbers]:
    t = _absolute(t_f)
    return _log_pressure(t, _ICE), _slope(t, _ICE)


def _wet_bulb_branch(
    t_f: Numbers, w: Numbers, p_psia: Numbers, wet: Numbers, equation: _Equation, saturation: _WithSlope
) -> Numbers:
    """Newton. The equation is convex and rising in the wet bulb, so from the second step on every value stays on the
    safe side.
    """
    for _ in range(_WET_BULB_STEPS):
        log_p, slope = saturation(wet)
        vapor = np.exp(log_p)
        saturated = MOLAR_MASS_RATIO * vapor / (p_psia - vapor)
        saturated_slope = saturated * slope * p_psia / (p_psia - vapor)
        if equation is _humidity_ratio_over_water:
            below = 1093.0 + CP_VAPOR * t_f - wet
            value = equation(t_f, wet, saturated)
            rise = ((1093.0 - 0.556 * wet) * saturated_slope - 0.556 * saturated + CP_DRY_AIR + value) / below
        else:
            below = 1220.0 + CP_VAPOR * t_f - 0.48 * wet
            value = equation(t_f, wet, saturated)
            rise = ((1220.0 - 0.04 * wet) * saturated_slope - 0.04 * saturated + CP_DRY_AIR + 0.48 * value) / below
        step = (value - w) / rise
        wet = wet - step
        if stands_still(step, _STILL_F):
            break
    return wet


def saturation_temperature_from_enthalpy_f(h_btulb: Numbers, p_psia: Numbers) -> Numbers:
    """Temperature [°F, 10 to 100] of saturated air with this enthalpy [BTU/lb]. Newton on eq. (21) and (30)."""
    # The start: within 0.7 °F from 20 to 90 °F, up to 6,500 ft (fitted here).
    x, thinner = np.log(np.clip(h_btulb, 5.0, 80.0)), p_psia / SEA_LEVEL_PSIA - 1.0
    t = 29.69 + x * (-37.63 + x * (19.744 - 1.652 * x)) + thinner * (11.74 * x - 16.99)
    for _ in range(_SATURATION_STEPS):
        w, w_slope = saturated_with_slope(t, p_psia)
        step = (enthalpy_btulb(t, w) - h_btulb) / (specific_heat_btulbf(w) + w_slope * vapor_enthalpy_btulb(t))
        t = t - step
        if stands_still(step, _STILL_F):
            break
    return t
