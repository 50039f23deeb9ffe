"""The only unit conversions. Edges call these; nothing inside the engine does.

The engine thinks in the trade's units: °F, ft, CFM, BTU/h, W, minutes, percent.
Exact definitions: NIST Special Publication 811 (2008), appendix B (from memory of its factors; each is the
defined inch, pound, degree, or the International Table Btu).
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import overload

import numpy as np
from numpy.typing import NDArray

from engine.errors import EngineError

Numbers = float | NDArray[np.float64]  # one number, or an array of them: what the pure array arithmetic takes and gives
Columns = Mapping[str, Numbers]  # numbers by name

RANKINE = 459.67  # °F to °R, defined
BTUH_PER_W = 3.412141633  # 1 W in International Table BTU/h
M_PER_FT = 0.3048  # defined
PA_PER_INWC = 249.08891  # conventional inch of water, 4 °C
KPA_PER_PSI = 6.894757293168
KPA_PER_BAR = 100.0  # defined
OZ_PER_LB = 16.0  # defined
OZ_PER_KG = 1 / 0.028349523125  # defined
HPA_PER_INHG = 33.86389  # conventional inch of mercury, 0 °C
L_PER_GAL = 3.785411784  # US gallon, defined
L_S_PER_CFM = 0.3048**3 * 1000 / 60  # defined through the foot


def f_from_c(value_c: float) -> float:
    """°F from °C."""
    return value_c * 1.8 + 32.0


@overload
def c_from_f(value_f: float) -> float: ...
@overload
def c_from_f(value_f: NDArray[np.float64]) -> NDArray[np.float64]: ...
def c_from_f(value_f: Numbers) -> Numbers:
    """°C from °F."""
    return (value_f - 32.0) / 1.8


@dataclass(frozen=True)
class Unit:
    """A unit a reading may be given in: its code in bundles, its sign on paper, its way into the engine's unit."""

    code: str
    sign: str
    quantity: str
    to_engine: Callable[[float], float]


def _same(value: float) -> float:
    return value


UNITS = {
    unit.code: unit
    for unit in (
        Unit("degF", "°F", "temperature", _same),
        Unit("degC", "°C", "temperature", f_from_c),
        Unit("pct", "%", "share", _same),
        Unit("CFM", "CFM", "airflow", _same),
        Unit("L/s", "L/s", "airflow", lambda value: value / L_S_PER_CFM),
        Unit("W", "W", "power", _same),
        Unit("kW", "kW", "power", lambda value: value * 1000.0),
        Unit("min", "min", "time", _same),
        Unit("inwc", "in. w.c.", "air_pressure", _same),
        Unit("Pa", "Pa", "air_pressure", lambda value: value / PA_PER_INWC),
        Unit("psi", "psi", "pressure", _same),
        Unit("kPa", "kPa", "pressure", lambda value: value / KPA_PER_PSI),
        Unit("bar", "bar", "pressure", lambda value: value * KPA_PER_BAR / KPA_PER_PSI),
        Unit("inHg", "in. Hg", "barometer", _same),
        Unit("hPa", "hPa", "barometer", lambda value: value / HPA_PER_INHG),
        Unit("V", "V", "voltage", _same),
        Unit("A", "A", "current", _same),
        Unit("ratio", "", "ratio", _same),
        Unit("GPM", "GPM", "water_flow", _same),
        Unit("L/min", "L/min", "water_flow", lambda value: value / L_PER_GAL),
        Unit("BTU/h", "BTU/h", "heat", _same),
        Unit("kW_heat", "kW", "heat", lambda value: value * 1000.0 * BTUH_PER_W),
        Unit("degF_diff", "°F", "temperature_difference", _same),
        Unit("degC_diff", "°C", "temperature_difference", lambda value: value * 1.8),
        Unit("fpm", "ft/min", "velocity", _same),
        Unit("m/s", "m/s", "velocity", lambda value: value * 60.0 / M_PER_FT),
        Unit("in2", "in²", "area", _same),
        Unit("cm2", "cm²", "area", lambda value: value / (100 * M_PER_FT / 12) ** 2),
        Unit("ft", "ft", "length", _same),
        Unit("m", "m", "length", lambda value: value / M_PER_FT),
    )
}


def to_engine(value: float, code: str, quantity: str) -> float:
    """The value in the engine's unit. An unknown unit, or one of another quantity, is an error naming it."""
    unit = UNITS.get(code)
    if unit is None:
        raise EngineError(f"unit '{code}' is unknown; known are {', '.join(UNITS)}")
    if unit.quantity != quantity:
        raise EngineError(f"unit '{code}' is for {unit.quantity}, not for {quantity}")
    return unit.to_engine(value)
