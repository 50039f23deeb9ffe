"""The cooling process from entering to leaving air: apparatus dew point and bypass factor.

Theory: a coil acts as if a share BF of the air passed it untouched and the rest left saturated at the apparatus dew
point; both lie with the entering and leaving state on one mixing line (straight in enthalpy and humidity ratio).
ASHRAE Handbook - Fundamentals (2017), chapter 1, adiabatic mixing; the bypass-factor method (MEM).
"""

from typing import NamedTuple

import numpy as np

from engine.physics.air import moist
from engine.units import Numbers

_STEPS = 14  # at most; it ends when every length is steady
_STILL = 5e-4  # the step after it would be about its square
_MEETS = 1e-5  # lb/lb: the gap before the last step, which closes it
_LONGEST = 60.0  # times the measured process; beyond it the line runs along the saturation curve
_LEAST_DRYING = 2e-5  # lb/lb; a process drier than that is level, and a level line says nothing about the coil


class Apparatus(NamedTuple):
    """Apparatus dew point [°F] and bypass factor [share]; NaN where `missing` says why.

    missing: 0 found, 1 no moisture removed, 2 the line misses the saturation curve, 3 an input is missing.
    """

    dew_point_f: np.ndarray
    bypass_factor: np.ndarray
    missing: np.ndarray


REASONS = {
    0: "",
    1: "no moisture was removed, so the process line is level and never points at the coil surface",
    2: "the process line misses the saturation curve",
    3: "an input is missing",
}


def apparatus(t_in_f: Numbers, w_in: Numbers, t_out_f: Numbers, w_out: Numbers, p_psia: Numbers) -> Apparatus:
    """Where the mixing line from entering through leaving air meets saturation. Arrays of one shape or floats.

    Newton in the line's length s (1 at the leaving air): W_sat(t(s)) - W(s) is convex, so the first crossing past the
    leaving air is found or there is none. BF = 1 - 1/s. A leaving state at or past saturation is its own apparatus
    dew point with bypass factor 0.
    """
    t_in_f, w_in, t_out_f, w_out, p_psia = np.broadcast_arrays(t_in_f, w_in, t_out_f, w_out, p_psia)
    h_in, h_out = moist.enthalpy_btulb(t_in_f, w_in), moist.enthalpy_btulb(t_out_f, w_out)
    d_h, d_w = h_out - h_in, w_out - w_in
    s = np.ones_like(h_in)
    gap = np.full_like(h_in, np.nan)
    with np.errstate(all="ignore"):
        for _ in range(_STEPS):
            w = w_in + s * d_w
            t = moist.dry_bulb_from_enthalpy_f(h_in + s * d_h, w)
            saturated, saturated_slope = moist.saturated_with_slope(t, p_psia)
            gap = saturated - w
            t_slope = (d_h - moist.vapor_enthalpy_btulb(t) * d_w) / moist.specific_heat_btulbf(w)
            gap_slope = saturated_slope * t_slope - d_w
            before, s = s, np.minimum(np.maximum(s - gap / gap_slope, 1.0), _LONGEST)
            if moist.stands_still(s - before, _STILL):
                break
        t = moist.dry_bulb_from_enthalpy_f(h_in + s * d_h, w_in + s * d_w)  # where the last step has come to
        found = (np.abs(gap) < _MEETS) | ((s <= 1.0) & (gap <= 0))
    missing = np.where(found & (s < _LONGEST), 0, 2)
    missing = np.where(-d_w < _LEAST_DRYING, 1, missing)
    missing = np.where(np.isnan(d_h + d_w), 3, missing)
    good = missing == 0
    return Apparatus(np.where(good, t, np.nan), np.where(good, 1.0 - 1.0 / s, np.nan), missing)
