"""Heating, by gauge: evaporating and superheat at the compressor, condensing over return air, subcooling. Air source.

The low-side hose belongs on the true-suction port: the large line outdoors is hot gas in heating, and no superheat is
worked out from it.
"""

from math import hypot

from engine.constants import (
    HEATING_EVAPORATING_SPREAD,
    SUBCOOLING_SPREAD,
    SUPERHEAT_SPREAD,
)
from engine.expected.lines import superheat_in_heating
from engine.expected.today import Expected
from engine.quantities.heating_lines import (
    condensing_over_return,
    evaporating_in_heating_f,
    subcooling_per_outdoor,
    superheat_per_outdoor,
    usual_subcooling_f,
    weather_of,
)
from engine.quantities.line_scatter import (
    EVAPORATING_OF_SOUND,
    HEATING_COIL_OF_SOUND,
    SUBCOOLING_OF_SOUND,
    SUPERHEAT_OF_SOUND,
    as_tolerance,
    heating_spread_f,
)
from engine.quantities.quantity import Quantity, compared
from engine.quantities.saturation import SATURATION_SOURCES, condensing_at, evaporating_at
from engine.readings.measured import Measured
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.estimate import Estimate
from engine.uncertainty.margin import surely_above
from engine.uncertainty.sources import less


def heat_source(kind: str) -> tuple[str, str]:
    """Place and quantity of what the heat is taken from in heating: the loop's water, else the outdoor air."""
    return ("water_in", "temperature") if kind == GROUND_SOURCE else ("outdoor", "dry_bulb")


def on_hot_gas(m: Measured) -> bool:
    """Whether the suction gauge shows what no evaporator can: a saturation above what it takes its heat from."""
    source, found = m.round.value(*heat_source(m.round.equipment.kind)), evaporating_at(m)
    return found is not None and source is not None and surely_above(source, found.value, found.u95)


def heating_gauges(m: Measured, e: Expected) -> list[Quantity]:
    """What the pressures that were read say in heating; nothing where nothing is expected, or by a gauge on hot gas."""
    if e.heating is None:
        return []
    low = [] if on_hot_gas(m) else [_evaporating(m, e), _superheat(m)]
    return [q for q in (*low, _condensing(m, e), _subcooling(m, e)) if q is not None]


def _evaporating(m: Measured, e: Expected) -> Quantity | None:
    """Evaporating temperature [°F], under the outdoor air by the heat that is taken in there."""
    found = evaporating_at(m)
    if found is None or e.heating is None:
        return None
    level, spread = evaporating_in_heating_f(m, e.heating), HEATING_EVAPORATING_SPREAD.value
    return compared(
        "evaporating",
        "°F",
        found,
        Estimate(level, spread, "°F"),
        as_tolerance(spread),
        pushes={SATURATION_SOURCES["dew"]: found.u95, **{s: -p for s, p in m.on("outdoor").items()}},
        authority="heat_taken_in",
        residual={
            "machine": {EVAPORATING_OF_SOUND: spread},
            "model_u95": 0.0,
            "repeat_u95": m.round.rules.follow_up_line_f,
            "slopes": {"outdoor": -1.0},
            "weather": weather_of(m, "true_suction"),
        },
    )


def _superheat(m: Measured) -> Quantity | None:
    """Superheat [°F] = true suction at the compressor less evaporating by gauge."""
    evaporating, line = evaporating_at(m), m.round.value("true_suction", "temperature")
    if evaporating is None or line is None:
        return None
    level, spread = superheat_in_heating(m.round.equipment.metering_device, m.round.read("outdoor", "dry_bulb"))
    pushes = m.clamp("true_suction") | {SATURATION_SOURCES["dew"]: -evaporating.u95}
    return compared(
        "superheat",
        "°F",
        Estimate(line - evaporating.value, hypot(*pushes.values()), "°F"),
        Estimate(level, 0.0, "°F"),
        as_tolerance(spread),
        pushes=pushes,
        authority="usual_in_heating",
        residual={
            "machine": {SUPERHEAT_OF_SOUND: spread},
            "model_u95": 0.0,
            "repeat_u95": heating_spread_f(m.round, SUPERHEAT_SPREAD.value),
            "slopes": {"true_suction": 1.0, "outdoor": -superheat_per_outdoor(m)},
            "lowest": -level,
        },
    )


def _condensing(m: Measured, e: Expected) -> Quantity | None:
    """Condensing over return air [°F], against what the indoor coil needs for its rise."""
    found, returning = condensing_at(m), m.round.value("return_unit", "dry_bulb")
    if found is None or returning is None or e.heating is None:
        return None
    over = condensing_over_return(m, e.heating)
    ret = m.on("return")
    pushes = less(over.pushes, ret)
    pushes |= {SATURATION_SOURCES["bubble"]: found.u95}
    return compared(
        "heat_condensing",
        "°F",
        Estimate(found.value - returning, hypot(found.u95, *ret.values()), "°F"),
        Estimate(over.value_f, over.spread_f, "°F"),
        as_tolerance(over.spread_f),
        pushes=pushes,
        authority=over.authority,
        residual={
            "machine": {HEATING_COIL_OF_SOUND: over.spread_f},
            "model_u95": 0.0,
            "repeat_u95": m.round.rules.follow_up_line_f,
            "slopes": over.slopes | {"return": over.slopes.get("return", 0.0) - 1.0},
        },
    )


def _subcooling(m: Measured, e: Expected) -> Quantity | None:
    """Subcooling [°F] = condensing by gauge less the liquid line at the indoor coil."""
    condensing, line = condensing_at(m), m.round.value("liquid_line_indoor", "temperature")
    if condensing is None or line is None or e.heating is None:
        return None
    over = condensing_over_return(m, e.heating)
    level, spread = usual_subcooling_f(m, e.heating, over)
    pushes = {s: -p for s, p in m.clamp("liquid_line_indoor").items()} | {SATURATION_SOURCES["bubble"]: condensing.u95}
    return compared(
        "subcooling",
        "°F",
        Estimate(condensing.value - line, hypot(*pushes.values()), "°F"),
        Estimate(level, 0.0, "°F"),
        as_tolerance(spread),
        pushes=pushes,
        authority="usual_in_heating",
        residual={
            "machine": {SUBCOOLING_OF_SOUND: spread},
            "model_u95": 0.0,
            "repeat_u95": SUBCOOLING_SPREAD.value,
            "slopes": {"liquid_line_indoor": -1.0, "outdoor": -subcooling_per_outdoor(m, e.heating, over)},
            "lowest": -level,
            "weather": weather_of(m, "heat_approach"),
        },
    )
