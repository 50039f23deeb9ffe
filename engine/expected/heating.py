"""Expected heating from the published curves, delivered heating, and which mode the weather allows to be tested.

Curves: NREL/TP-5500-56354 heating set (engine/data/residential-curves.csv): x = return dry bulb, y = outdoor dry bulb.
The file states no range; 55 to 80 °F and -10 to 75 °F are our own guard: over 50 °F no circuit is judged in heating,
but a probe in the sun reads so. Blower heat adds to what the coil gives, so net = coil + blower.
"""

from typing import NamedTuple

import numpy as np

from engine.constants import (
    BTUH_PER_TON,
    CARRIED_ON_PER_FLOW,
    HEATING_PLATE_SPREAD,
    HEATING_RATED_SPREAD,
    HEATING_TWO_POINTS_SPREAD,
    HEATING_WEATHER_SPREAD,
    NOMINAL_CFM_PER_TON,
    STANDARD_AIR_VOLUME,
)
from engine.expected.cooling import Machine
from engine.expected.curves import FLOW_RANGE_PCT, by_flow, by_weather, outside
from engine.houserules.rules import HouseRules
from engine.physics.air import moist
from engine.physics.capacity.delivered import fan_heat_btuh
from engine.uncertainty.estimate import Outside
from engine.units import Numbers

RETURN_RANGE_F = (55.0, 80.0)
OUTDOOR_RANGE_F = (-10.0, 75.0)
# Outside their flow the curves are carried on as at their edge, with a margin that grows: down to here an indoor coil
# still condenses (working figure).
CARRIED_ON_FLOW_PCT = (25.0, 175.0)
RATED_LOW_F = (70.0, 17.0)  # return and outdoor air of the lower heating rating
# Rated heating at 47 °F over nominal tons, where the plate is silent: an older class has the larger compressor for the
# same tons. An ideal cycle between a class's usual saturations, with the blower's heat, gives 1.08 to 1.10 (high) and
# 1.18 to 1.24 (old), before what lines, wet fins and frost take; makers' plates 0.9 to 1.15 (MEM). Between the two
# (working figure).
HEATING_OVER_NOMINAL = {"old": 1.09, "low": 1.07, "mid": 1.05, "high": 1.04}
# Compressor's watts at 70 and 47 °F over those in cooling at its rating. The better the class, the less it lifts in
# cooling, while in heating the same indoor coil condenses: an ideal cycle between a class's usual saturations (within
# 0.03, a test); makers' tables 0.83 to 0.97 (MEM).
HEATING_WATTS_OF_RATED = {"old": 0.79, "low": 0.83, "mid": 0.88, "high": 0.95}


class ExpectedHeating(NamedTuple):
    """Net heating [BTU/h], rise [°F], flow as a share of rated; how sound heat pumps scatter about it [share, 95 %];
    heating over its own rated at 47 °F.
    """

    total_btuh: Numbers
    rise_f: Numbers
    flow_fraction: Numbers
    spread: Numbers
    load: Numbers


class RatedHeating(NamedTuple):
    """Net rated heating as the plate or the maker's sheet has it [BTU/h]: at 47 and at 17 °F outdoors, 70 °F return
    (ANSI/AHRI 210/240, MEM); None for what it does not name, then nominal tons times over_nominal.
    """

    at_47_btuh: float | None = None
    at_17_btuh: float | None = None
    over_nominal: float = 1.0


def expected_heating(
    machine: Machine,
    rated: RatedHeating,
    return_f: Numbers,
    w: Numbers,
    outdoor_f: Numbers,
    mass_flow_lbh: Numbers,
    fan_heat: Numbers,
) -> ExpectedHeating:
    """What a heat pump should give with this return air [°F, lb/lb], outdoor air [°F], dry-air flow [lb/h] and blower
    heat [BTU/h].

    Its rated heating at 47 °F where the plate names it, else what is usual for its tons; with that at 17 °F too the
    curve is stretched so that it meets both. Arrays of one shape or floats, unchecked.
    """
    rated_flow = machine.nominal_tons * NOMINAL_CFM_PER_TON.value * 60.0 / STANDARD_AIR_VOLUME.value
    rated_fan = fan_heat_btuh(machine.fan_w_per_cfm * machine.nominal_tons * NOMINAL_CFM_PER_TON.value)
    flow = mass_flow_lbh / rated_flow
    usual = machine.nominal_tons * BTUH_PER_TON.value * rated.over_nominal
    at_47 = usual if rated.at_47_btuh is None else rated.at_47_btuh
    coil = (at_47 - rated_fan) * machine.capacity_factor
    curve = by_weather("hp_heating_capacity_temperature")
    weather, rated_spread, weather_spread = curve(return_f, outdoor_f), HEATING_RATED_SPREAD, HEATING_WEATHER_SPREAD
    if rated.at_47_btuh is not None:
        rated_spread = HEATING_PLATE_SPREAD
        if rated.at_17_btuh is not None:
            lost = 1.0 - (rated.at_17_btuh - rated_fan) / coil
            weather = 1.0 + (weather - 1.0) * lost / (1.0 - curve(*RATED_LOW_F))
            weather_spread = HEATING_TWO_POINTS_SPREAD
    by_curve, beyond = _carried_on(flow)
    total = coil * weather * by_curve + fan_heat
    spread = np.hypot(rated_spread.value, weather_spread.value * np.abs(1.0 - weather) / weather)
    spread = np.hypot(spread, CARRIED_ON_PER_FLOW.value * beyond)
    rise = total / (mass_flow_lbh * moist.specific_heat_btulbf(w))
    return ExpectedHeating(total, rise, flow, spread, total / at_47)


def _carried_on(flow: Numbers) -> tuple[Numbers, Numbers]:
    """(capacity over that at rated flow, % of rated flow beyond the curve): beyond, as at its edge."""
    low, high = (pct / 100 for pct in FLOW_RANGE_PCT)
    nearest = np.clip(flow, low, high)
    return by_flow("hp_heating_capacity_flow")(nearest), 100 * np.abs(flow - nearest)


def heating_power_fraction(return_f: float, outdoor_f: float, flow_fraction: float) -> float:
    """Electrical power as a fraction of that at 70 and 47 °F: capacity fraction times energy-input ratio fraction, both
    from the curves, outside their flow as at their edge.
    """
    low, high = (pct / 100 for pct in FLOW_RANGE_PCT)
    flow = min(max(flow_fraction, low), high)
    capacity = by_weather("hp_heating_capacity_temperature")(return_f, outdoor_f) * by_flow("hp_heating_capacity_flow")(
        flow
    )
    ratio = by_weather("hp_heating_eir_temperature")(return_f, outdoor_f) * by_flow("hp_heating_eir_flow")(flow)
    return float(capacity * ratio)


def out_of_range(return_f: float, outdoor_f: float, flow_fraction: float) -> tuple[Outside, ...]:
    """Why nothing is expected by the heating curves; empty where they hold or are carried on."""
    return outside(
        ("return dry bulb", return_f, "°F", RETURN_RANGE_F),
        ("outdoor temperature", outdoor_f, "°F", OUTDOOR_RANGE_F),
        ("airflow by mass", 100 * flow_fraction, "% of rated", CARRIED_ON_FLOW_PCT),
    )


COOLING, HEATING, NEITHER = "cooling", "heating", "neither"


def mode_by_weather(outdoor_f: float, heat_pump: bool, rules: HouseRules) -> str:
    """Which test the weather allows: cooling from the shop's least outdoor temperature up; a heat pump below its most
    in heating; between, neither.
    """
    if outdoor_f >= rules.least_outdoor_f:
        return COOLING
    return HEATING if heat_pump and outdoor_f < rules.most_outdoor_heating_f else NEITHER
