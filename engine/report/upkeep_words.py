"""What is due, in words: the weather a test wants, what a forecast withholds, why a filter is due, what to bring."""

from collections.abc import Iterable

from engine.houserules.rules import HouseRules
from engine.over_time.upkeep import BY_DROP, REACHED, FilterDue, modes_of, weather_matters
from engine.readings.vocabulary import GROUND_SOURCE
from engine.report.cautions import MILDLY_FLAMMABLE
from engine.report.words import Words, listed
from engine.validity.weather import COOLING, HEATING

CHARGE_LOW, CHARGE_HIGH = ("charge_low", "starved", "not_fed"), ("charge_high", "high_side", "head_high")
# By the group of the last verdict: what its cure wants. Common practice, no single source.
FOR_CURE = {
    "low_airflow": "Light and mirror for coil and wheel",
    "condenser": "What washes a condenser: the test waits until it is dry",
    **dict.fromkeys(("outdoor_coil", "cold_outdoors"), "What washes an outdoor coil: the test waits until it is dry"),
    **dict.fromkeys(("return_duct", "supply_duct"), "Mastic, tape and insulation for ducts"),
    "suction_line": "Pipe insulation for the suction line",
    **dict.fromkeys(("compressor", "pumps_little", "starved_or_weak"), "Gauges, amp clamp"),
    "water_flow": "A clean strainer screen",
}


def weather_wanted(kind: str, mode: str, rules: HouseRules, words: Words) -> str:
    """The weather a test wants: '65 °F or more outside, outdoor coil dry'; '' where any will do."""
    if not weather_matters(kind):
        return ""
    from_, under = words.temperature(rules.least_outdoor_f, 0), words.temperature(rules.most_outdoor_heating_f, 0)
    wanted = {COOLING: f"{from_} or more outside", HEATING: f"under {under} outside"}
    asked = [wanted[mode]] if mode else [f"{wanted[m]} for {m}" for m in modes_of(kind)]
    return f"{listed(asked, 'or')}, outdoor coil dry"


def forecast_says(withheld: Iterable[str], outdoor_f: float, words: Words) -> str:
    """What a forecast withholds of a test, '' where nothing. withheld: as `weather.withheld_ahead` gives it;
    outdoor_f [°F].
    """
    ids, forecast = set(withheld), f"{words.temperature(outdoor_f, 0)} is forecast"
    if {"too_cold_out", "too_warm_out"} <= ids:
        said = [f"{forecast}: too cold for a cooling test and too warm for a heating test"]
    elif "too_cold_out" in ids:
        said = [f"{forecast}: too cold to judge the circuit in cooling"]
    elif "too_warm_out" in ids:
        said = [f"{forecast}: too warm to judge the circuit in heating"]
    else:
        said = []
    if "rain" in ids:
        said.append("rain is forecast: a wet outdoor coil spoils the test")
    return "; ".join(said)


def filter_said(due: FilterDue) -> str:
    """Why a filter is due."""
    if due.by == REACHED:
        return f"Its drop is {due.now_inwc:.2f} in. w.c.; it is changed at {due.limit_inwc:.2f}"
    if due.by == BY_DROP:
        return f"Its drop rises: {due.now_inwc:.2f} in. w.c. when last read, changed at {due.limit_inwc:.2f}"
    return "By months since it was new or seen clean"


def to_bring(kind: str, refrigerant: str, groups: Iterable[str], changes_filter: bool, moves_charge: bool) -> list[str]:
    """What a visit wants beside the usual kit. groups: of the last verdict, '' where there was none; changes_filter: a
    filter is due or was seen loaded; moves_charge: the charge is in doubt, or a leak is searched for.
    """
    told = list(groups)
    low, high = (any(group in of for group in told) for of in (CHARGE_LOW, CHARGE_HIGH))
    found = ["Filter of its size"] if changes_filter else []
    found += [FOR_CURE[group] for group in told if group in FOR_CURE]
    if kind == GROUND_SOURCE:
        found.append("Water probe, thin needle, water-based lubricant, one gauge for both ports")
    if low or moves_charge:
        found.append("Leak detector and soap")
    if low or high or moves_charge:
        scale = "scale and tools rated for A2L" if refrigerant in MILDLY_FLAMMABLE else "scale"
        found.append(f"Gauges with low-loss fittings, {scale}, {refrigerant or 'the refrigerant of the plate'}")
    if high:
        found.append("Recovery machine and recovery cylinder")
    return list(dict.fromkeys(found))
