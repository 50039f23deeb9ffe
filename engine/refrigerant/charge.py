"""Superheat, subcooling and their targets, with gauges on. Measured values; predicted ones are another type (see lines)."""

from engine.constants import (
    DEFAULT_TARGET_SUBCOOLING,
    TXV_TOTAL_SUPERHEAT_HIGH,
    TXV_TOTAL_SUPERHEAT_LOW,
)
from engine.errors import EngineError
from engine.refrigerant.properties import saturation_temperature_at

LEAST_ORIFICE_TARGET_F = 5.0  # below it there is no target: common practice, no single source


def superheat_f(name: str, suction_line_f: float, suction_psig: float, altitude_ft: float) -> float:
    """Superheat [°F]: suction line less dew point (glide counts on blends). Line [°F], gauge pressure [psig], altitude [ft]."""
    return suction_line_f - saturation_temperature_at(name, suction_psig, altitude_ft, "dew")


def subcooling_f(name: str, liquid_line_f: float, liquid_psig: float, altitude_ft: float) -> float:
    """Subcooling [°F]: bubble point less liquid line. Line [°F], gauge pressure [psig], altitude [ft]."""
    return saturation_temperature_at(name, liquid_psig, altitude_ft, "bubble") - liquid_line_f


def orifice_target_superheat_f(return_wet_bulb_f: float, outdoor_f: float) -> float | None:
    """Target superheat [°F] of a fixed orifice: (3 x return wet bulb - 80 - outdoor) / 2. Common practice; the plate's chart wins.

    None below 5 °F: there is no target then. Wet bulb 50 to 76 °F and outdoors 55 to 115 °F, else an error.
    """
    if not 50.0 <= return_wet_bulb_f <= 76.0 or not 55.0 <= outdoor_f <= 115.0:
        raise EngineError(
            f"no orifice target for return wet bulb {return_wet_bulb_f:g} °F and outdoors {outdoor_f:g} °F: "
            "the rule covers 50 to 76 °F and 55 to 115 °F"
        )
    target = (3.0 * return_wet_bulb_f - 80.0 - outdoor_f) / 2.0
    return target if target >= LEAST_ORIFICE_TARGET_F else None


def target_subcooling_f(plate_f: float | None) -> tuple[float, str]:
    """The TXV target subcooling [°F] and where it comes from: the plate, else the usual stand-in of 10 °F, named so."""
    if plate_f is not None:
        return plate_f, "nameplate"
    return DEFAULT_TARGET_SUBCOOLING.value, "usual stand-in: ask the maker"


def txv_total_superheat_in_range(total_superheat_f: float) -> bool:
    """Whether superheat at the outdoor unit [°F] is in the 8 to 17 °F that a TXV system shows. Common practice."""
    return TXV_TOTAL_SUPERHEAT_LOW.value <= total_superheat_f <= TXV_TOTAL_SUPERHEAT_HIGH.value
