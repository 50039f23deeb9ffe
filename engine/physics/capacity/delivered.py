"""Delivered cooling from the air's change of state, and the pocket formulas beside it.

Arrays of one shape or floats, unchecked; states as from `engine.physics.air.moist`. Source of the method: the
air-enthalpy method of ANSI/ASHRAE 37 (MEM) on the ASHRAE Fundamentals moist-air equations.
"""

from typing import NamedTuple

from engine.constants import (
    BTUH_PER_TON,
    CONDENSATE_CP,
    GRAINS_PER_LB,
    POCKET_LATENT,
    POCKET_SENSIBLE,
    POCKET_TOTAL,
)
from engine.physics.air import moist
from engine.units import BTUH_PER_W, Numbers


class Delivered(NamedTuple):
    """Cooling delivered between two states [BTU/h]; condensate_btuh is the heat that leaves down the drain."""

    total_btuh: Numbers
    sensible_btuh: Numbers
    latent_btuh: Numbers
    sensible_heat_ratio: Numbers
    condensate_btuh: Numbers

    @property
    def total_less_condensate_btuh(self) -> Numbers:
        """Total with the condensate's heat taken off: for the heat ledger only, not for comparing with ratings."""
        return self.total_btuh - self.condensate_btuh


def delivered(mass_flow_lbh: Numbers, t_in_f: Numbers, w_in: Numbers, t_out_f: Numbers, w_out: Numbers) -> Delivered:
    """Total m (h_in - h_out); sensible m cp (t_in - t_out) with cp of the leaving air; latent the rest; SHR."""
    total = mass_flow_lbh * (moist.enthalpy_btulb(t_in_f, w_in) - moist.enthalpy_btulb(t_out_f, w_out))
    sensible = mass_flow_lbh * moist.specific_heat_btulbf(w_out) * (t_in_f - t_out_f)
    condensate = mass_flow_lbh * (w_in - w_out) * CONDENSATE_CP.value * (t_out_f - 32.0)
    return Delivered(total, sensible, total - sensible, sensible / total, condensate)


def coil_leaving_f(t_out_f: Numbers, w_out: Numbers, fan_heat_btuh: Numbers, mass_flow_lbh: Numbers) -> Numbers:
    """Air off the coil [°F] when the blower sits between coil and plenum (draw-through): plenum less the blower's
    rise."""
    return t_out_f - fan_heat_btuh / (mass_flow_lbh * moist.specific_heat_btulbf(w_out))


def fan_heat_btuh(fan_w: Numbers) -> Numbers:
    """Heat [BTU/h] a blower gives the air: all of its electrical power [W] ends up there."""
    return fan_w * BTUH_PER_W


def delivered_heating_btuh(mass_flow_lbh: Numbers, return_f: Numbers, supply_f: Numbers, w: Numbers) -> Numbers:
    """Heating delivered [BTU/h] = m cp (supply - return), the exact form of 1.08 x CFM x rise; strips off."""
    return mass_flow_lbh * moist.specific_heat_btulbf(w) * (supply_f - return_f)


def tons(total_btuh: Numbers) -> Numbers:
    """Delivered tons, 12,000 BTU/h each."""
    return total_btuh / BTUH_PER_TON.value


class Pocket(NamedTuple):
    """What the pocket formulas, true for standard air only, would have said [BTU/h]."""

    sensible_btuh: Numbers
    total_btuh: Numbers
    latent_btuh: Numbers


def pocket(cfm: Numbers, t_in_f: Numbers, w_in: Numbers, t_out_f: Numbers, w_out: Numbers) -> Pocket:
    """1.08 CFM dT, 4.5 CFM dh, 0.68 CFM d-grains (common practice)."""
    d_h = moist.enthalpy_btulb(t_in_f, w_in) - moist.enthalpy_btulb(t_out_f, w_out)
    return Pocket(
        sensible_btuh=POCKET_SENSIBLE.value * cfm * (t_in_f - t_out_f),
        total_btuh=POCKET_TOTAL.value * cfm * d_h,
        latent_btuh=POCKET_LATENT.value * cfm * (w_in - w_out) * GRAINS_PER_LB.value,
    )
