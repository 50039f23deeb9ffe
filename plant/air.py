"""Moist air at one pressure in SI, quickly: saturation from the engine's equations on an even grid; enthalpy per kg of
dry air.
"""

from dataclasses import dataclass
from functools import cache

import numpy as np

from engine.physics.air import moist
from engine.units import c_from_f, f_from_c

# KJ/(kg K), kJ/(kg K), kJ/kg: ASHRAE Handbook - Fundamentals, "Psychrometrics".
CP_DRY, CP_VAPOR, LATENT_0 = 1.006, 1.86, 2501.0
PA_PER_PSI = 6894.757
R_DRY = 287.042  # J/(kg K), the same source
LOWEST_C, HIGHEST_C, STEP_C = -40.0, 80.0, 0.5


@dataclass(frozen=True)
class Air:
    """Air at a place: dry bulb [°C] and humidity ratio [kg/kg]."""

    t: float
    w: float

    @property
    def h(self) -> float:
        """Enthalpy [kJ per kg of dry air]."""
        return CP_DRY * self.t + self.w * (LATENT_0 + CP_VAPOR * self.t)

    @property
    def cp(self) -> float:
        """Specific heat [kJ/(K kg dry air)]."""
        return CP_DRY + CP_VAPOR * self.w

    def mixed(self, other: "Air", share: float) -> "Air":
        """With a share of other air in it."""
        return Air(self.t + share * (other.t - self.t), self.w + share * (other.w - self.w))

    def warmed(self, dt: float) -> "Air":
        """Warmed without moisture."""
        return Air(self.t + dt, self.w)


class Atmosphere:
    """Air pressure and what saturates at it."""

    def __init__(self, altitude_ft: float):
        self.psia = float(moist.pressure_psia(altitude_ft))
        self.pa = self.psia * PA_PER_PSI
        t = np.arange(LOWEST_C, HIGHEST_C + STEP_C, STEP_C)
        self._saturated = [float(moist.saturation_humidity_ratio(f_from_c(float(at)), self.psia)) for at in t]

    def saturated_w(self, t: float) -> float:
        """Humidity ratio at saturation [kg/kg]."""
        x = (min(max(t, LOWEST_C), HIGHEST_C) - LOWEST_C) / STEP_C
        i = min(int(x), len(self._saturated) - 2)
        return self._saturated[i] + (x - i) * (self._saturated[i + 1] - self._saturated[i])

    def density(self, air: Air) -> float:
        """kg of dry air per m3."""
        return self.pa / (R_DRY * (air.t + 273.15) * (1 + 1.6078 * air.w))

    def of_rh(self, t: float, rh_pct: float) -> Air:
        """Air of a relative humidity [%]."""
        return Air(t, float(moist.humidity_ratio_from_rh(f_from_c(t), rh_pct, self.psia)))

    def rh_pct(self, air: Air) -> float:
        """Relative humidity [%]; over 100 is never returned."""
        return min(100.0, float(moist.rh_pct(f_from_c(air.t), air.w, self.psia)))

    def wet_bulb_c(self, air: Air) -> float:
        """Wet bulb [°C]."""
        return c_from_f(float(moist.wet_bulb_f(np.float64(f_from_c(air.t)), np.float64(air.w), self.psia)))


@cache
def atmosphere(altitude_ft: float) -> Atmosphere:
    """The atmosphere of an altitude [ft]."""
    return Atmosphere(altitude_ft)
