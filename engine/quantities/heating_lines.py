"""Heating, air source: the rise through the indoor coil, the liquid line over return air, the suction at the
compressor.
"""

from math import hypot

from engine.constants import (
    AIR_PAIR_DIFFERENCE,
    AIRFLOW_SPREAD_SOUND,
    BTUH_PER_TON,
    EVAPORATING_UNDER_OUTDOOR,
    HEATING_APPROACH_PER_F,
    HEATING_APPROACH_SPREAD,
    HEATING_COIL_EFFECTIVENESS,
    HEATING_RISE_PER_F,
    HEATING_SUBCOOLING,
    HEATING_WATTS_PER_F,
    ORIFICE_WEATHER_WIDER,
    SUBCOOLING_SPREAD,
    SUPERHEAT_IN_HEATING,
    TRUE_SUCTION_PER_F,
    TRUE_SUCTION_REPEAT,
    TRUE_SUCTION_SPREAD,
)
from engine.expected.heating import ExpectedHeating
from engine.expected.today import STEP_F, Expected
from engine.quantities.line_scatter import heating_spread_f
from engine.quantities.quantity import At, Quantity, compared
from engine.quantities.residual import SHARE
from engine.readings.measured import Measured
from engine.readings.round import TXV
from engine.uncertainty.estimate import Estimate, missing

# quantity -> how much one sound heat pump's may move with the outdoor air beside another's [its terms/°F, 95 %]
WEATHER_SLOPES = {
    "rise": HEATING_RISE_PER_F.value, "heat_approach": HEATING_APPROACH_PER_F.value,
    "true_suction": TRUE_SUCTION_PER_F.value,
    "amps": HEATING_WATTS_PER_F.value,
}  # fmt: skip


def weather_of(m: Measured, id_: str) -> tuple[float, float]:
    """Outdoor air [°F] and how much this quantity's expectation may move for one °F of it: a fixed piston is right at
    one temperature only.
    """
    wider = 1.0 if m.round.equipment.metering_device == TXV else ORIFICE_WEATHER_WIDER.value
    return m.round.value("outdoor", "dry_bulb") or 0.0, WEATHER_SLOPES.get(id_, 0.0) * wider


def rise(m: Measured, e: Expected) -> Quantity | None:
    """Rise through the indoor coil [°F] at this airflow, against the published heating curves."""
    h = e.heating
    if h is None:
        return None
    returning, level, spread, split = (
        m.round.read("return_unit", "dry_bulb"),
        float(h.now.rise_f),
        float(h.now.spread),
        m["split_f"],
    )
    measured = Estimate(-split.value, split.u95, "°F") if split.known else split
    supply, ret, outdoor = m.on("supply"), m.on("return"), m.on("outdoor")
    pushes = {
        s: (supply.get(s, 0.0) - ret.get(s, 0.0)) / level - h.rise_per_outdoor * outdoor.get(s, 0.0)
        for s in supply.keys() | ret.keys() | outdoor.keys()
    }
    slopes = {"supply": 1.0 / level, "return": -1.0 / level, "outdoor": -h.rise_per_outdoor}
    if m.airflows.measured:
        pushes["airflow_method"] = -h.rise_per_flow * m.airflow_share_u95
    else:
        slopes["airflow"] = -h.rise_per_flow
        pushes["airflow_of_sound_systems"] = -h.rise_per_flow * AIRFLOW_SPREAD_SOUND.value
    residual = {
        "model_u95": spread,
        "repeat_u95": m.round.rules.follow_up_capacity_share,
        "slopes": slopes,
        "weather": weather_of(m, "rise"),
    }
    return compared(
        "rise",
        "°F",
        measured,
        Estimate(level, spread * level, "°F"),
        (spread * level, spread * level),
        form=SHARE,
        pushes=pushes,
        authority="heating_curves",
        at=At("supply_plenum", "dry_bulb", returning, own_u95=hypot(*supply.values(), 0.0)),
        residual=residual,
        assumed_airflow=m.airflows.assumed,
        decided_by="airflow_method",
    )


def heat_approach(m: Measured, e: Expected) -> Quantity | None:
    """Liquid line over return air [°F], against condensing over return air less subcooling, both of a sound unit at its
    usual airflow.
    """
    h, liquid = e.heating, m.round.value("liquid_line_indoor", "temperature")
    if h is None:
        return None
    returning = m.round.read("return_unit", "dry_bulb")
    level = _liquid_over_return_f(h.usual)
    per_outdoor = -(_liquid_over_return_f(h.usual_warmer) - level) / STEP_F
    clamp, ret, outdoor = m.clamp("liquid_line_indoor"), m.on("return"), m.on("outdoor")
    pushes = {
        s: clamp.get(s, 0.0) - ret.get(s, 0.0) + per_outdoor * outdoor.get(s, 0.0)
        for s in clamp.keys() | ret.keys() | outdoor.keys()
    }
    own = hypot(*clamp.values(), AIR_PAIR_DIFFERENCE.value)
    measured = missing("°F", "needs", "liquid line") if liquid is None else Estimate(liquid - returning, own, "°F")
    spread = heating_spread_f(m.round, HEATING_APPROACH_SPREAD.value)
    residual = {
        "model_u95": spread,
        "repeat_u95": hypot(m.round.rules.follow_up_line_f, SUBCOOLING_SPREAD.value),
        "lowest": -level,
        "slopes": {"liquid_line_indoor": 1.0, "return": -1.0, "outdoor": per_outdoor},
        "weather": weather_of(m, "heat_approach"),
    }
    return compared(
        "heat_approach",
        "°F",
        measured,
        Estimate(level, spread, "°F"),
        (spread, spread),
        pushes=pushes,
        authority="condensing_by_the_rise",
        at=At("liquid_line_indoor", "temperature", returning, own_u95=m.round.line_u95_f("liquid_line_indoor")),
        residual=residual,
    )


def _liquid_over_return_f(usual: ExpectedHeating) -> float:
    return max(float(usual.rise_f) / HEATING_COIL_EFFECTIVENESS.value - HEATING_SUBCOOLING.value, 0.0)


def true_suction(m: Measured, e: Expected) -> Quantity | None:
    """Suction at the compressor [°F] against evaporating + superheat; evaporating is under the outdoor air by the heat
    taken in there.
    """
    h, line = e.heating, m.round.value("true_suction", "temperature")
    if h is None:
        return None
    outdoor = m.round.read("outdoor", "dry_bulb")
    rated = float(h.usual.total_btuh) / (BTUH_PER_TON.value * m.round.equipment.nominal_tons)
    level = outdoor - EVAPORATING_UNDER_OUTDOOR.value * rated + SUPERHEAT_IN_HEATING.value
    pushes = {**m.clamp("true_suction"), **{s: -p for s, p in m.on("outdoor").items()}}
    spread = heating_spread_f(m.round, TRUE_SUCTION_SPREAD.value)
    measured = (
        missing("°F", "needs", "true suction")
        if line is None
        else Estimate(line, m.round.line_u95_f("true_suction"), "°F")
    )
    residual = {
        "model_u95": spread,
        "repeat_u95": heating_spread_f(m.round, TRUE_SUCTION_REPEAT.value),
        "slopes": {"true_suction": 1.0, "outdoor": -1.0},
        "weather": weather_of(m, "true_suction"),
    }
    return compared(
        "true_suction",
        "°F",
        measured,
        Estimate(level, spread, "°F"),
        (spread, spread),
        pushes=pushes,
        authority="heat_taken_in",
        basis={"outdoor_f": outdoor},
        at=At("true_suction", "temperature", own_u95=m.round.line_u95_f("true_suction")),
        residual=residual,
    )
