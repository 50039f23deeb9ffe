"""Evaporating and condensing temperature, by gauge, against what this air, weather and class make of a sound machine.
Cooling.
"""

from math import hypot

from engine.constants import CONDENSING_OVER_AMBIENT_SPREAD, SUPERHEAT_SPREAD
from engine.errors import EngineError
from engine.expected.lines import evaporating_over_usual_f
from engine.expected.today import Expected
from engine.physics.refrigerant.properties import saturation_temperature_at, saturation_u95_f
from engine.quantities.line_scatter import CONDENSING_OF_SOUND, EVAPORATING_OF_SOUND, repeat_f
from engine.quantities.quantity import Quantity, compared
from engine.quantities.split import carried
from engine.readings.measured import Measured
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.estimate import Estimate

SATURATION_SOURCES = {"dew": "suction gauge", "bubble": "liquid gauge"}  # side -> error source
_GAUGES = {"dew": "gauge_suction", "bubble": "gauge_liquid"}
# Where each line's temperature is read, by mode: of the superheat at the coil, of the total, of the subcooling.
_LINES = {
    "cooling": {"coil": "suction_line_indoor", "total": "suction_line_outdoor", "liquid": "liquid_line_outdoor"},
    "heating": {"total": "true_suction", "liquid": "liquid_line_indoor"},
}
_LINES_GROUND_SOURCE = _LINES | {"cooling": {"coil": "suction_line_indoor", "liquid": "liquid_line_indoor"}}


def gauge_lines(kind: str, mode: str) -> dict[str, str]:
    """The places whose line temperatures go with the pressures: 'coil', 'total', 'liquid' -> place. A ground-source
    unit has all of it in one cabinet: its lines are read inside.
    """
    return (_LINES_GROUND_SOURCE if kind == GROUND_SOURCE else _LINES)[mode]


def saturation_at(m: Measured, side: str) -> Estimate | None:
    """Saturation temperature [°F] of a gauge reading, 'dew' on the suction side and 'bubble' on the liquid side; None
    without it or outside the tables.
    """
    pressure, name = m.round.value(_GAUGES[side], "pressure"), m.round.equipment.refrigerant
    if pressure is None or not name:
        return None
    try:
        value = saturation_temperature_at(name, pressure, m.round.pressure_psia, side)
        return Estimate(value, saturation_u95_f(name, pressure, m.round.pressure_psia, side), "°F")
    except EngineError:
        return None


def evaporating_at(m: Measured) -> Estimate | None:
    """Evaporating temperature [°F] by gauge."""
    return saturation_at(m, "dew")


def condensing_at(m: Measured) -> Estimate | None:
    """Condensing temperature [°F] by gauge, where the liquid leaves it."""
    return saturation_at(m, "bubble")


def evaporating(m: Measured, e: Expected) -> Quantity | None:
    """Evaporating temperature [°F]: low with low superheat is a coil that cannot pick up heat, low with high superheat
    one that is not fed.
    """
    found = evaporating_at(m)
    if found is None or e.evaporating is None:
        return None
    spread = e.evaporating.u95
    pushes, authority = {SATURATION_SOURCES["dew"]: found.u95}, f"evaporating_{e.evaporating.basis}"
    residual = None
    if e["expected_apparatus_dew_point_f"].known:
        by_surface, slopes = carried(m, e, "expected_apparatus_dew_point_f", -1.0)
        pushes |= by_surface
        machine = {EVAPORATING_OF_SOUND: evaporating_over_usual_f(m.round.equipment.seer)[1]}
        residual = {
            "machine": machine, "model_u95": 0.0, "slopes": slopes,
            "repeat_u95": repeat_f(m.round, SUPERHEAT_SPREAD.value),
        }  # fmt: skip
    return compared(
        "evaporating",
        "°F",
        found,
        e.evaporating,
        (spread, spread),
        pushes=pushes,
        authority=authority,
        residual=residual,
    )


def condensing(m: Measured, e: Expected) -> Quantity | None:
    """Condensing over outdoor air [°F], against its class at today's load."""
    found, outdoor = condensing_at(m), m.round.value("outdoor", "dry_bulb")
    if found is None or outdoor is None or m.round.equipment.kind == GROUND_SOURCE:
        return None
    pushes = {SATURATION_SOURCES["bubble"]: found.u95, **{s: -p for s, p in m.on("outdoor").items()}}
    measured = Estimate(found.value - outdoor, hypot(*pushes.values()), "°F")
    tolerance = max(e.over_ambient.u95, CONDENSING_OVER_AMBIENT_SPREAD.value)
    authority = "class_alone" if m.round.equipment.seer is not None else "usual_class"
    residual = {
        "machine": {CONDENSING_OF_SOUND: e.over_ambient.u95}, "model_u95": 0.0, "slopes": {"outdoor": -1.0},
        "repeat_u95": repeat_f(m.round, m.round.rules.follow_up_line_f),
    }  # fmt: skip
    return compared(
        "condensing", "°F", measured, e.over_ambient, (tolerance, tolerance), pushes=pushes, authority=authority,
        residual=residual,
    )  # fmt: skip
