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
    """Heat that the air gives up [BTU/h]: total, sensible, latent, with the condensate; and the sensible share.

    mass_flow_lbh: dry air [lb/h]. t_in_f, t_out_f: dry bulbs [°F]. w_in, w_out: humidity ratios [lb/lb].
    Equation: total = m (h_in - h_out); sensible = m cp (t_in - t_out) with cp of the leaving air; latent the rest [1].

    [1] Air-enthalpy method, ANSI/ASHRAE 37 (MEM), on ASHRAE Handbook - Fundamentals (2017), chapter 1.
    """
    total = mass_flow_lbh * (moist.enthalpy_btulb(t_in_f, w_in) - moist.enthalpy_btulb(t_out_f, w_out))
    sensible = mass_flow_lbh * moist.specific_heat_btulbf(w_out) * (t_in_f - t_out_f)
    condensate = mass_flow_lbh * (w_in - w_out) * CONDENSATE_CP.value * (t_out_f - 32.0)
    return Delivered(total, sensible, total - sensible, sensible / total, condensate)


def coil_leaving_f(t_out_f: Numbers, w_out: Numbers, fan_heat_btuh: Numbers, mass_flow_lbh: Numbers) -> Numbers:
    """Air off the coil [°F] when the blower sits between coil and plenum (draw-through).

    t_out_f: plenum dry bulb [°F]. w_out: humidity ratio [lb/lb]. fan_heat_btuh: [BTU/h]. mass_flow_lbh: [lb/h].
    Equation: t - fan heat / (m cp): energy balance of the blower [1].

    [1] cp of ASHRAE Handbook - Fundamentals (2017), chapter 1, eq. (30).
    """
    return t_out_f - fan_heat_btuh / (mass_flow_lbh * moist.specific_heat_btulbf(w_out))


def fan_heat_btuh(fan_w: Numbers) -> Numbers:
    """Heat [BTU/h] that a blower gives the air: all of its electrical power [W], by the energy balance.

    Equation: 3.412 BTU/h for each watt, the International Table Btu (engine.units).
    """
    return fan_w * BTUH_PER_W


def delivered_heating_btuh(mass_flow_lbh: Numbers, return_f: Numbers, supply_f: Numbers, w: Numbers) -> Numbers:
    """Heating delivered [BTU/h], strips off.

    mass_flow_lbh: dry air [lb/h]. return_f, supply_f: dry bulbs [°F]. w: humidity ratio [lb/lb].
    Equation: m cp (supply - return), the exact form of 1.08 x CFM x rise [1].

    [1] Energy balance with cp of ASHRAE Handbook - Fundamentals (2017), chapter 1, eq. (30).
    """
    return mass_flow_lbh * moist.specific_heat_btulbf(w) * (supply_f - return_f)


def tons(total_btuh: Numbers) -> Numbers:
    """Delivered tons of a capacity [BTU/h]: 12,000 BTU/h each, by definition."""
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
