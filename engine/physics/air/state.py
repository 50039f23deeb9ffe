"""A state of moist air from dry bulb and any one humidity, checked.

`state` takes numbers, raises and returns Python floats. `states` takes arrays and returns a mask and a reason per row,
so that one bad row never stops the rest.
"""

from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np

from engine.errors import EngineError, Impossible, OutOfRange
from engine.physics.air import moist
from engine.units import Numbers

DRY_BULB_RANGE_F = (-20.0, 130.0)
ALTITUDE_RANGE_FT = (-300.0, 12000.0)
RH_RANGE_PCT = (0.0, 100.0)
HUMIDITIES = {"rh": "relative humidity", "wet_bulb": "wet bulb", "dew_point": "dew point"}


@dataclass(frozen=True)
class AirState:
    """Moist air. Floats from `state`, arrays of one shape from `states` (NaN in refused rows).

    Units: °F, lb/lb, psia, %, BTU per lb dry air, ft3 per lb dry air.
    """

    dry_bulb_f: float
    humidity_ratio: float
    pressure_psia: float
    rh_pct: float
    wet_bulb_f: float
    dew_point_f: float
    enthalpy_btulb: float
    specific_volume_ft3lb: float


def altitude_pressure_psia(altitude_ft: float) -> float:
    """Standard-atmosphere pressure [psia], -300 to 12,000 ft; raises OutOfRange."""
    _check("altitude", altitude_ft, "ft", ALTITUDE_RANGE_FT)
    return float(moist.pressure_psia(altitude_ft))


def state(dry_bulb_f: float, humidity: str, value: float, altitude_ft: float = 0.0) -> AirState:
    """The state of air at dry_bulb_f [°F, -20 to 130] and one humidity at an altitude [ft, -300 to 12,000].

    humidity: 'rh' [%, 0 to 100], 'wet_bulb' [°F] or 'dew_point' [°F], neither above the dry bulb.
    Raises OutOfRange or Impossible, naming value and range. Source: see engine.physics.air.moist.
    """
    return state_at(dry_bulb_f, humidity, value, altitude_pressure_psia(altitude_ft))


@lru_cache(maxsize=4096)  # a sheet asks for the same few states again with every key pressed
def state_at(dry_bulb_f: float, humidity: str, value: float, pressure: float) -> AirState:
    """The same at an air pressure [psia] instead of an altitude."""
    _check_pair(dry_bulb_f, humidity, value)
    w = humidity_ratio(np.float64(dry_bulb_f), humidity, np.float64(value), pressure)
    if w <= 0:
        raise Impossible(f"wet bulb {value:g} °F is too far below dry bulb {dry_bulb_f:g} °F: air cannot be that dry")
    found = from_humidity_ratio(np.float64(dry_bulb_f), w, pressure)
    return AirState(*(float(part) for part in vars(found).values()))


def states(
    dry_bulb_f: Numbers, humidity: str, value: Numbers, altitude_ft: Numbers
) -> tuple[AirState, np.ndarray, list[str]]:
    """Many states at once: arrays of shape (n,) in the units of `state`.

    Returns the states (arrays, NaN in refused rows), a mask (n,) of the good rows, and a reason per row ('' when good).
    """
    rows = np.broadcast_arrays(*(np.asarray(part, float) for part in (dry_bulb_f, value, altitude_ft)))
    dry_bulb, humid, altitude = (part.copy() for part in rows)
    reasons = [_reason(*row, humidity) for row in zip(dry_bulb, humid, altitude, strict=True)]
    good = np.array([not reason for reason in reasons])
    dry_bulb[~good] = np.nan
    with np.errstate(invalid="ignore"):
        pressure = np.where(good, moist.pressure_psia(altitude), np.nan)
        w = humidity_ratio(dry_bulb, humidity, humid, pressure)
        for row in np.flatnonzero(good & ~(w > 0)):
            reasons[row] = f"wet bulb {humid[row]:g} °F is too far below dry bulb {dry_bulb[row]:g} °F"
        good &= w > 0
        return from_humidity_ratio(np.where(good, dry_bulb, np.nan), w, pressure), good, reasons


def humidity_ratio(dry_bulb_f: Numbers, humidity: str, value: Numbers, pressure_psia: Numbers) -> Numbers:
    """Humidity ratio [lb/lb] from dry bulb and one humidity; unchecked arrays in and out."""
    if humidity == "rh":
        return moist.humidity_ratio_from_rh(dry_bulb_f, value, pressure_psia)
    if humidity == "wet_bulb":
        return moist.humidity_ratio_from_wet_bulb(dry_bulb_f, value, pressure_psia)
    if humidity == "dew_point":
        return moist.humidity_ratio_from_dew_point(value, pressure_psia)
    raise EngineError(f"humidity '{humidity}' is unknown; known are {', '.join(HUMIDITIES)}")


def from_humidity_ratio(dry_bulb_f: Numbers, w: Numbers, pressure_psia: Numbers) -> AirState:
    """All properties at dry bulb and humidity ratio; unchecked arrays in and out."""
    dew_f = moist.dew_point_f(w, pressure_psia)
    fields: dict[str, Any] = {  # arrays, in the place of the numbers of one state
        "dry_bulb_f": dry_bulb_f,
        "humidity_ratio": w,
        "pressure_psia": pressure_psia,
        "rh_pct": moist.rh_pct(dry_bulb_f, w, pressure_psia),
        "wet_bulb_f": moist.wet_bulb_f(dry_bulb_f, w, pressure_psia, dew_f),
        "dew_point_f": dew_f,
        "enthalpy_btulb": moist.enthalpy_btulb(dry_bulb_f, w),
        "specific_volume_ft3lb": moist.specific_volume_ft3lb(dry_bulb_f, w, pressure_psia),
    }
    return AirState(**fields)


def _check(name: str, value: float, unit: str, limits: tuple[float, float]) -> None:
    if not limits[0] <= value <= limits[1]:  # NaN fails too
        raise OutOfRange(name, value, unit, *limits)


def _check_pair(dry_bulb_f: float, humidity: str, value: float) -> None:
    _check("dry bulb", dry_bulb_f, "°F", DRY_BULB_RANGE_F)
    if humidity not in HUMIDITIES:
        raise EngineError(f"humidity '{humidity}' is unknown; known are {', '.join(HUMIDITIES)}")
    if humidity == "rh":
        _check("relative humidity", value, "%", RH_RANGE_PCT)
        return
    _check(HUMIDITIES[humidity], value, "°F", DRY_BULB_RANGE_F)
    if value > dry_bulb_f:
        raise Impossible(f"{HUMIDITIES[humidity]} {value:g} °F is above dry bulb {dry_bulb_f:g} °F")


def _reason(dry_bulb_f: float, value: float, altitude_ft: float, humidity: str) -> str:
    try:
        _check("altitude", altitude_ft, "ft", ALTITUDE_RANGE_FT)
        _check_pair(dry_bulb_f, humidity, value)
    except EngineError as error:
        return str(error)
    return ""
