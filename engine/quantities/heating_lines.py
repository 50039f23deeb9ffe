"""Heating, air source: the rise through the indoor coil, the liquid line over return air, the suction at the
compressor.
"""

from dataclasses import dataclass
from math import exp, hypot

from engine.constants import (
    AIR_PAIR_DIFFERENCE,
    AIRFLOW_SPREAD_SOUND,
    FAN_W_PER_CFM,
    HEATING_APPROACH_PER_F,
    HEATING_COIL_NTU,
    HEATING_COIL_SPREAD,
    HEATING_EVAPORATING_SPREAD,
    HEATING_RISE_PER_F,
    HEATING_SUBCOOLING,
    HEATING_WATTS_PER_F,
    ORIFICE_WEATHER_WIDER,
    READS_WARM_BY,
    REVERSING_VALVE_GAIN,
    SUBCOOLING_SPREAD,
    TRUE_SUCTION_PER_F,
    TRUE_SUCTION_REPEAT,
    WINTER_HUMIDITY_RATIO,
)
from engine.expected import lines
from engine.expected.today import Expected, HeatingToday
from engine.physics.air import moist
from engine.physics.capacity.delivered import fan_heat_btuh
from engine.quantities.line_scatter import (
    EVAPORATING_OF_SOUND,
    HEATING_COIL_OF_SOUND,
    SUBCOOLING_OF_SOUND,
    SUPERHEAT_OF_SOUND,
    as_tolerance,
    heating_spread_f,
)
from engine.quantities.quantity import At, Quantity, compared
from engine.quantities.residual import SHARE
from engine.readings.measured import Measured
from engine.readings.round import TXV
from engine.uncertainty.estimate import Estimate, missing
from engine.uncertainty.sources import less

LEAST_FLOW = 0.1  # of rated: under it no air moves that a coil could be judged by
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
    by_piston = id_ in ("heat_approach", "true_suction") and m.round.equipment.metering_device != TXV
    slope = WEATHER_SLOPES.get(id_, 0.0) * (ORIFICE_WEATHER_WIDER.value if by_piston else 1.0)
    return m.round.value("outdoor", "dry_bulb") or 0.0, slope


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
        as_tolerance(spread * level),
        form=SHARE,
        pushes=pushes,
        authority="heating_curves",
        at=At("supply_plenum", "dry_bulb", returning, own_u95=hypot(*supply.values(), 0.0)),
        residual=residual,
        assumed_airflow=m.airflows.assumed,
        decided_by="airflow_method",
    )


@dataclass(frozen=True)
class OverReturn:
    """Condensing over return air [°F] of this indoor coil, with its spread among sound ones [°F, 95 %] and where it
    comes from. pushes, slopes: what each error source, and one °F of error in a reading, moves a measured less this by.
    """

    value_f: float
    spread_f: float
    pushes: dict[str, float]
    slopes: dict[str, float]
    authority: str


def condensing_over_return(m: Measured, h: HeatingToday) -> OverReturn:
    """What of the rise comes from the coil, over its effectiveness: by the rise as measured, whatever the machine
    gives; before that is read, by the rise expected of it.

    Effectiveness of a stream along a coil of one temperature, 1 - exp(-NTU), with NTU falling as the 0.4 power of the
    flow (any heat-transfer text; the power from published coil correlations, MEM).
    """
    flow, split = max(float(h.now.flow_fraction), LEAST_FLOW), m["split_f"]
    by_blower = blower_rise_f(m)
    effectiveness = 1.0 - exp(-HEATING_COIL_NTU.value * flow**-0.4)
    if not split.known or split.value >= 0:
        value = (float(h.now.rise_f) - by_blower) / effectiveness
        per_outdoor = -value * h.rise_per_outdoor
        pushes = {s: per_outdoor * p for s, p in m.on("outdoor").items()}
        spread = hypot(HEATING_COIL_SPREAD.value, float(h.now.spread)) * value
        return OverReturn(value, spread, pushes, {"outdoor": per_outdoor}, "condensing_by_the_rise_expected")
    pushes = {s: p / effectiveness for s, p in less(m.on("return"), m.on("supply")).items()}
    value, slopes = (
        max(-split.value - by_blower, 0.0) / effectiveness,
        {"supply": -1.0 / effectiveness, "return": 1.0 / effectiveness},
    )
    return OverReturn(value, HEATING_COIL_SPREAD.value * value, pushes, slopes, "condensing_by_the_rise")


def superheat_per_outdoor(m: Measured) -> float:
    """How much superheat in heating [°F] goes with each °F that the outdoor probe reads."""
    device, outdoor = m.round.equipment.metering_device, m.round.read("outdoor", "dry_bulb")
    read, true = (lines.superheat_in_heating(device, outdoor - off)[0] for off in (0.0, READS_WARM_BY.value))
    return (read - true) / READS_WARM_BY.value


def subcooling_per_outdoor(m: Measured, h: HeatingToday, over: OverReturn) -> float:
    """How much subcooling in heating [°F] goes with each °F that the outdoor probe reads."""
    read, true = (usual_subcooling_f(m, h, over, off)[0] for off in (0.0, READS_WARM_BY.value))
    return (read - true) / READS_WARM_BY.value


def usual_subcooling_f(m: Measured, h: HeatingToday, over: OverReturn, warm_by_f: float = 0.0) -> tuple[float, float]:
    """(subcooling of a sound unit, how sound ones scatter about it) [°F, 95 %], were the outdoor air so much colder
    than it reads. A TXV's goes with what lies between condensing and the return air that cools the liquid, about with
    its root: between a subcooling that stays and one that goes with it.
    """
    usual = max((float(h.usual.rise_f) - blower_rise_f(m)) / (1.0 - exp(-HEATING_COIL_NTU.value)), 1.0)
    held = HEATING_SUBCOOLING.value * (over.value_f / usual) ** 0.5
    outdoor = m.round.read("outdoor", "dry_bulb") - warm_by_f
    return lines.subcooling_in_heating(m.round.equipment.metering_device, outdoor, held)


def blower_rise_f(m: Measured) -> float:
    """What the blower's heat adds to the rise [°F], where no strips are on."""
    watts = m.round.value("blower", "power") or FAN_W_PER_CFM.value * m.cfm
    per_f = m.cfm * 60.0 / m.volumes["return"] * float(moist.specific_heat_btulbf(WINTER_HUMIDITY_RATIO.value))
    return float(fan_heat_btuh(watts)) / per_f


def heat_approach(m: Measured, e: Expected) -> Quantity | None:
    """Liquid line over return air [°F], against condensing at this rise less the subcooling of a sound unit: what is
    left is what the charge does.
    """
    h, liquid = e.heating, m.round.value("liquid_line_indoor", "temperature")
    if h is None:
        return None
    returning, over = m.round.read("return_unit", "dry_bulb"), condensing_over_return(m, h)
    subcooling, scatter = usual_subcooling_f(m, h, over)
    level = max(over.value_f - subcooling, 0.0)
    clamp, ret = m.clamp("liquid_line_indoor"), m.on("return")
    pushes = {
        s: clamp.get(s, 0.0) - ret.get(s, 0.0) + over.pushes.get(s, 0.0)
        for s in clamp.keys() | ret.keys() | over.pushes.keys()
    }
    own = hypot(*clamp.values(), AIR_PAIR_DIFFERENCE.value)
    measured = missing("°F", "needs", "liquid line") if liquid is None else Estimate(liquid - returning, own, "°F")
    machine = {
        HEATING_COIL_OF_SOUND: over.spread_f,
        SUBCOOLING_OF_SOUND: -scatter,
    }
    spread = hypot(*machine.values())
    by_outdoor = over.slopes.get("outdoor", 0.0) + subcooling_per_outdoor(m, h, over)
    own_slopes = {"liquid_line_indoor": 1.0, "return": over.slopes.get("return", 0.0) - 1.0, "outdoor": by_outdoor}
    residual = {
        "machine": machine,
        "model_u95": 0.0,
        "repeat_u95": hypot(m.round.rules.follow_up_line_f, SUBCOOLING_SPREAD.value),
        "lowest": -level,
        "highest": subcooling + over.spread_f,  # all of it lost, and condensing as far over the air as it may be
        "slopes": over.slopes | own_slopes,
        "weather": weather_of(m, "heat_approach"),
    }
    return compared(
        "heat_approach",
        "°F",
        measured,
        Estimate(level, spread, "°F"),
        as_tolerance(spread),
        pushes=pushes,
        authority=over.authority,
        at=At("liquid_line_indoor", "temperature", returning, own_u95=m.round.line_u95_f("liquid_line_indoor")),
        residual=residual,
    )


def evaporating_in_heating_f(m: Measured, h: HeatingToday) -> float:
    """Evaporating temperature [°F] of a sound heat pump: under the outdoor air by the heat it takes in there."""
    under = lines.HEATING_EVAPORATING_UNDER_F[lines.class_of(m.round.equipment.seer)]
    return m.round.read("outdoor", "dry_bulb") - under * float(h.usual.load)


def true_suction(m: Measured, e: Expected) -> Quantity | None:
    """Suction at the compressor [°F] against evaporating + superheat; evaporating is under the outdoor air by the heat
    taken in there.
    """
    h, line = e.heating, m.round.value("true_suction", "temperature")
    if h is None:
        return None
    outdoor, evaporates = m.round.read("outdoor", "dry_bulb"), evaporating_in_heating_f(m, h)
    superheat, superheat_spread = lines.superheat_in_heating(m.round.equipment.metering_device, outdoor)
    level = evaporates + superheat
    pushes = {**m.clamp("true_suction"), **{s: -p for s, p in m.on("outdoor").items()}}
    machine = {
        EVAPORATING_OF_SOUND: HEATING_EVAPORATING_SPREAD.value,
        SUPERHEAT_OF_SOUND: superheat_spread,
    }
    spread = hypot(*machine.values())
    measured = (
        missing("°F", "needs", "true suction")
        if line is None
        else Estimate(line, m.round.line_u95_f("true_suction"), "°F")
    )
    residual = {
        "machine": machine,
        "model_u95": 0.0,
        "repeat_u95": heating_spread_f(m.round, TRUE_SUCTION_REPEAT.value),
        "slopes": {"true_suction": 1.0, "outdoor": -1.0 - superheat_per_outdoor(m)},
        "weather": weather_of(m, "true_suction"),
        "highest": outdoor + REVERSING_VALVE_GAIN.value - level,
    }
    return compared(
        "true_suction",
        "°F",
        measured,
        Estimate(level, spread, "°F"),
        as_tolerance(spread),
        pushes=pushes,
        authority="heat_taken_in",
        basis={"outdoor_f": outdoor},
        at=At("true_suction", "temperature", own_u95=m.round.line_u95_f("true_suction")),
        residual=residual,
    )
