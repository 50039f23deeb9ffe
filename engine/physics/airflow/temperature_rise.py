"""Airflow from a known heat and the rise it makes: electric strips, or gas."""

from math import hypot

from engine.constants import (
    FURNACE_EFFICIENCY_SPREAD,
    GAS_DERATE_ABOVE_FT,
    GAS_DERATE_PER_1000_FT,
    MEASURED_FAN_POWER_ACCURACY,
    RISE_ACCURACY,
)
from engine.errors import OutOfRange
from engine.physics.air import moist
from engine.physics.airflow.methods import AirflowEstimate, Caveat
from engine.units import BTUH_PER_W

RISE_RANGE_F = (5.0, 120.0)


def electric_heat_rise(
    strip_w: float, blower_w: float, rise_f: float, return_f: float, humidity_ratio: float, air_psia: float
) -> AirflowEstimate:
    """Airflow [CFM of return air] from electric strips and the air's rise through them.

    strip_w: volts x amps as measured [W]. blower_w: [W]. rise_f: [°F], 5 to 120. return_f: return dry bulb [°F].
    humidity_ratio: [lb/lb]. air_psia: air pressure [psia].
    Equation: m = Q / (cp rise), CFM = m v / 60 with v of the return air: the exact form of 1.08 x CFM x rise [1].

    [1] Energy balance with cp and v of ASHRAE Handbook - Fundamentals (2017), chapter 1.
    """
    heat = (strip_w + blower_w) * BTUH_PER_W
    return _from_heat(
        "temperature_rise_electric",
        heat,
        MEASURED_FAN_POWER_ACCURACY.value,
        rise_f,
        return_f,
        humidity_ratio,
        air_psia,
        (),
    )


def gas_heat_rise(
    input_btuh: float,
    efficiency: float,
    blower_w: float,
    rise_f: float,
    return_f: float,
    humidity_ratio: float,
    air_psia: float,
    altitude_ft: float,
    derated: bool = True,
) -> AirflowEstimate:
    """Airflow [CFM of return air] from a furnace's input [BTU/h] times efficiency [share], plus blower heat [W], and
    the rise [°F].

    air_psia: today's air pressure [psia]; altitude_ft: of the house [ft], which the burner was derated for.
    derated: input falls 4 % per 1,000 ft above 2,000 ft (common practice, MEM); False when the input was clocked at the
    meter here.
    """
    if not 0.5 <= efficiency <= 0.99:
        raise OutOfRange("efficiency", efficiency, "", 0.5, 0.99)
    factor = gas_input_factor(altitude_ft) if derated else 1.0
    heat = input_btuh * factor * efficiency + blower_w * BTUH_PER_W
    caveats = (("clock_the_meter", ()),) if derated else ()
    return _from_heat(
        "temperature_rise_gas",
        heat,
        FURNACE_EFFICIENCY_SPREAD.value,
        rise_f,
        return_f,
        humidity_ratio,
        air_psia,
        caveats,
    )


def gas_input_factor(altitude_ft: float) -> float:
    """Share of the sea-level gas input that burns at an altitude [ft].

    Equation: 1 - 0.04 for every 1,000 ft over 2,000 ft [1].

    [1] Common practice of the fuel-gas codes (MEM); the plate's own derating wins.
    """
    return 1.0 - GAS_DERATE_PER_1000_FT.value * max(0.0, altitude_ft - GAS_DERATE_ABOVE_FT.value) / 1000.0


def _from_heat(
    method: str,
    heat_btuh: float,
    heat_share: float,
    rise_f: float,
    return_f: float,
    w: float,
    air_psia: float,
    caveats: tuple[Caveat, ...],
) -> AirflowEstimate:
    if not RISE_RANGE_F[0] <= rise_f <= RISE_RANGE_F[1]:
        raise OutOfRange("temperature rise", rise_f, "°F", *RISE_RANGE_F)
    mass = heat_btuh / (float(moist.specific_heat_btulbf(w)) * rise_f)
    cfm = mass * float(moist.specific_volume_ft3lb(return_f, w, air_psia)) / 60.0
    share = hypot(heat_share, RISE_ACCURACY.value / rise_f)
    return AirflowEstimate(method, cfm, share * cfm, "return", (*caveats, ("out_of_sight", ())))
