"""Refrigerant properties in SI, for one scalar at a time and quickly: the engine's tables (source in their headers) on
even grids.

Temperatures in °C, pressures in kPa, enthalpies in kJ/kg, entropies in kJ/(kg K), densities in kg/m3. Enthalpy and
entropy count from the tables' own datum: use differences. A value outside the tables raises OutOfTables, so that no
solution rests on an extrapolation.
"""

from bisect import bisect_right
from functools import cache
from math import exp, log

from engine.errors import EngineError
from engine.physics.refrigerant.properties import refrigerant
from engine.units import c_from_f

KPA_PER_PSI = 6.894757
KJKG_PER_BTULB = 2.326
KJKGK_PER_BTULBF = 4.1868
KGM3_PER_LBFT3 = 16.018463


class OutOfTables(EngineError):
    """A state outside the property tables."""


class Fluid:
    """One refrigerant. Saturation by temperature; vapor by dew temperature and superheat [K]."""

    def __init__(self, name: str):
        tables = refrigerant(name)
        self.name = name
        s = tables.saturation
        self._t0, self._t1 = c_from_f(s["temperature_f"][0]), c_from_f(s["temperature_f"][-1])
        self._step = (self._t1 - self._t0) / (len(s["temperature_f"]) - 1)
        self._log_bubble = [log(p * KPA_PER_PSI) for p in s["bubble_psia"]]
        self._log_dew = [log(p * KPA_PER_PSI) for p in s["dew_psia"]]
        self._h_liquid = [h * KJKG_PER_BTULB for h in s["liquid_enthalpy_btulb"]]
        self._h_vapor = [h * KJKG_PER_BTULB for h in s["vapor_enthalpy_btulb"]]
        self._rho_liquid = [d * KGM3_PER_LBFT3 for d in s["liquid_density_lbft3"]]
        self._rho_vapor = [d * KGM3_PER_LBFT3 for d in s["vapor_density_lbft3"]]
        self._dew = [c_from_f(t) for t in tables.dew_f]
        self._superheat = [dt / 1.8 for dt in tables.superheat_f]
        scale = {"enthalpy_btulb": KJKG_PER_BTULB, "entropy_btulbf": KJKGK_PER_BTULBF, "density_lbft3": KGM3_PER_LBFT3}
        self._h, self._s, self._rho = ((tables.vapor[key] * factor).tolist() for key, factor in scale.items())

    # -- saturation ----------------------------------------------------------------------------------------------------

    def _at(self, column: list[float], t: float) -> float:
        x = (t - self._t0) / self._step
        if not 0.0 <= x <= len(column) - 1:
            raise OutOfTables(f"{self.name} has no saturation table at {t:.1f} °C")
        i = min(int(x), len(column) - 2)
        return column[i] + (x - i) * (column[i + 1] - column[i])

    def bubble_kpa(self, t: float) -> float:
        return exp(self._at(self._log_bubble, t))

    def dew_kpa(self, t: float) -> float:
        return exp(self._at(self._log_dew, t))

    def bubble_c(self, kpa: float) -> float:
        """Temperature at which liquid of this pressure begins to boil."""
        return self._inverse(self._log_bubble, kpa)

    def dew_c(self, kpa: float) -> float:
        """Temperature at which vapor of this pressure begins to condense."""
        return self._inverse(self._log_dew, kpa)

    def _inverse(self, column: list[float], kpa: float) -> float:
        wanted = log(max(kpa, 1e-6))
        if not column[0] <= wanted <= column[-1]:
            raise OutOfTables(f"{self.name} has no saturation table at {kpa:.0f} kPa")
        i = min(bisect_right(column, wanted), len(column) - 1) - 1
        return self._t0 + self._step * (i + (wanted - column[i]) / (column[i + 1] - column[i]))

    def h_liquid(self, t: float) -> float:
        return self._at(self._h_liquid, t)

    def h_vapor(self, t: float) -> float:
        return self._at(self._h_vapor, t)

    def rho_liquid(self, t: float) -> float:
        return self._at(self._rho_liquid, t)

    def rho_vapor(self, t: float) -> float:
        return self._at(self._rho_vapor, t)

    # -- vapor ---------------------------------------------------------------------------------------------------------

    def _cell(self, dew: float, superheat: float) -> tuple[int, float, int, float]:
        if not (self._dew[0] <= dew <= self._dew[-1] and 0.0 <= superheat <= self._superheat[-1]):
            raise OutOfTables(f"{self.name} has no vapor table at dew {dew:.1f} °C and {superheat:.1f} K of superheat")
        i = min(bisect_right(self._dew, dew), len(self._dew) - 1) - 1
        j = min(bisect_right(self._superheat, superheat), len(self._superheat) - 1) - 1
        u = (dew - self._dew[i]) / (self._dew[i + 1] - self._dew[i])
        v = (superheat - self._superheat[j]) / (self._superheat[j + 1] - self._superheat[j])
        return i, u, j, v

    def _vapor(self, z: list[list[float]], dew: float, superheat: float) -> float:
        i, u, j, v = self._cell(dew, superheat)
        low, high = z[i][j] * (1 - v) + z[i][j + 1] * v, z[i + 1][j] * (1 - v) + z[i + 1][j + 1] * v
        return low * (1 - u) + high * u

    def h(self, dew: float, superheat: float) -> float:
        return self._vapor(self._h, dew, superheat)

    def s(self, dew: float, superheat: float) -> float:
        return self._vapor(self._s, dew, superheat)

    def rho(self, dew: float, superheat: float) -> float:
        return self._vapor(self._rho, dew, superheat)

    def superheat_of_s(self, dew: float, s: float) -> float:
        """Superheat [K] at which vapor of this dew temperature has this entropy; OutOfTables when none has."""
        return self._superheat_of(self._s, dew, s)

    def superheat_of_h(self, dew: float, h: float) -> float:
        """Superheat [K] at which vapor of this dew temperature has this enthalpy; OutOfTables when none has."""
        return self._superheat_of(self._h, dew, h)

    def _superheat_of(self, z: list[list[float]], dew: float, wanted: float) -> float:
        i, u, _, _ = self._cell(dew, 0.0)
        row = [low * (1 - u) + high * u for low, high in zip(z[i], z[i + 1], strict=True)]
        if not row[0] <= wanted <= row[-1]:
            raise OutOfTables(f"{self.name}: no superheated state at dew {dew:.1f} °C has the value {wanted:.3f}")
        j = min(bisect_right(row, wanted), len(row) - 1) - 1
        return self._superheat[j] + (wanted - row[j]) / (row[j + 1] - row[j]) * (
            self._superheat[j + 1] - self._superheat[j]
        )


@cache
def fluid(name: str) -> Fluid:
    """The refrigerant by its name."""
    return Fluid(name)
