"""Refrigerant properties from the generated tables in engine/data/refrigerants (source and error in their headers).

Saturation: ln p over 1/T is nearly straight, so straight lines between rows 2 °F apart serve; -40 to 152 °F. Vapor:
bilinear in dew point and superheat. Enthalpy and entropy count from an arbitrary datum: use differences.
Floats or arrays; a value outside the tables is NaN in array calls and OutOfRange in the scalar ones named `*_at`.
"""

import csv
from dataclasses import dataclass
from functools import cache
from pathlib import Path

import numpy as np

from engine.constants import GAUGE_FLOOR, GAUGE_SHARE
from engine.errors import EngineError, OutOfRange
from engine.physics.table import between
from engine.units import RANKINE, Numbers

TABLES = Path(__file__).parent.parent.parent / "data" / "refrigerants"
REFRIGERANTS = ("R-22", "R-32", "R-134a", "R-407C", "R-410A", "R-454B")


@dataclass(frozen=True)
class Refrigerant:
    """One refrigerant's tables. saturation: column -> array over temperature; vapor:
    column -> (dew, superheat) array.
    """

    name: str
    saturation: dict[str, np.ndarray]
    dew_f: np.ndarray
    superheat_f: np.ndarray
    vapor: dict[str, np.ndarray]

    def pressure_psia(self, temperature_f: Numbers, side: str) -> Numbers:
        """Saturation pressure [psia] at a temperature [°F]; side 'bubble' (liquid line) or 'dew' (suction line)."""
        x = -1.0 / (np.asarray(temperature_f, float) + RANKINE)
        return np.exp(np.interp(x, self._inverse(), np.log(self.saturation[f"{side}_psia"]), np.nan, np.nan))

    def temperature_f(self, pressure_psia: Numbers, side: str) -> Numbers:
        """Saturation temperature [°F] at a pressure [psia]; side 'bubble' or 'dew'."""
        with np.errstate(invalid="ignore", divide="ignore"):
            log_p = np.log(np.asarray(pressure_psia, float))
        return (
            -1.0 / np.interp(log_p, np.log(self.saturation[f"{side}_psia"]), self._inverse(), np.nan, np.nan) - RANKINE
        )

    def saturated(self, column: str, temperature_f: Numbers) -> Numbers:
        """A saturation column, such as 'liquid_enthalpy_btulb', at a temperature [°F]."""
        return np.interp(temperature_f, self.saturation["temperature_f"], self.saturation[column], np.nan, np.nan)

    def superheated(self, column: str, dew_f: Numbers, superheat_f: Numbers) -> Numbers:
        """A vapor column, such as 'enthalpy_btulb', at a dew point [°F] and a superheat [°F, 0 to 150]."""
        return between(self.dew_f, self.superheat_f, self.vapor[column], dew_f, superheat_f)

    def _inverse(self) -> np.ndarray:
        return -1.0 / (self.saturation["temperature_f"] + RANKINE)


@cache
def refrigerant(name: str) -> Refrigerant:
    """The tables of one refrigerant; an unknown name is an error naming the known ones."""
    if name not in REFRIGERANTS:
        raise EngineError(f"refrigerant '{name}' has no tables; known are {', '.join(REFRIGERANTS)}")
    stem = name.lower().replace("-", "")
    flat = _columns(TABLES / f"{stem}-vapor.csv")
    dew, superheat = np.unique(flat["dew_f"]), np.unique(flat["superheat_f"])
    shape = (len(dew), len(superheat))
    vapor = {column: values.reshape(shape) for column, values in flat.items() if column not in ("dew_f", "superheat_f")}
    return Refrigerant(name, _columns(TABLES / f"{stem}-saturation.csv"), dew, superheat, vapor)


def saturation_temperature_at(name: str, gauge_psig: float, air_psia: float, side: str) -> float:
    """Saturation temperature [°F] for a gauge pressure [psig], which is read above the air's [psia]; raises OutOfRange
    outside the tables.
    """
    tables = refrigerant(name)
    pressures = tables.saturation[f"{side}_psia"]
    p = gauge_psig + air_psia
    if not pressures[0] <= p <= pressures[-1]:
        raise OutOfRange(f"{name} pressure", gauge_psig, "psig", pressures[0] - air_psia, pressures[-1] - air_psia)
    return float(tables.temperature_f(p, side))


def saturation_u95_f(name: str, gauge_psig: float, air_psia: float, side: str) -> float:
    """95 % uncertainty [°F] that a gauge's own accuracy leaves on a saturation temperature: half of what +- its
    accuracy moves it.
    """
    u = GAUGE_SHARE.value * abs(gauge_psig) + GAUGE_FLOOR.value
    tables, p = refrigerant(name), gauge_psig + air_psia
    return float(tables.temperature_f(p + u, side) - tables.temperature_f(p - u, side)) / 2


def _columns(path: Path) -> dict[str, np.ndarray]:
    lines = [line for line in path.read_text().splitlines() if not line.startswith("#")]
    rows = list(csv.reader(lines))
    return {column: np.array([float(row[i]) for row in rows[1:]]) for i, column in enumerate(rows[0])}
