"""The discharge line: what leaves the compressor, against what a sound one makes of the suction it draws and the head
it works against. Cold, where liquid comes back with the vapor; hot, where the compressor gets little back, works
against a high head or has worn.
"""

from dataclasses import dataclass
from math import hypot

from engine.constants import (
    BLED_COOLS,
    BLED_COOLS_SPREAD,
    COMPRESSOR_EFFICIENCY,
    COMPRESSOR_EFFICIENCY_SPREAD,
    COMPRESSOR_SHELL_LOSS,
    DISCHARGE_LOSS,
    DISCHARGE_LOSS_SPREAD,
    DISCHARGE_REPEAT,
    HEATING_EVAPORATING_SPREAD,
    PISTON_SUPERHEAT,
    REVERSING_VALVE_DROP,
    REVERSING_VALVE_DROP_SPREAD,
    SUCTION_RISE_SPREAD,
    SUCTION_RISE_USUAL,
)
from engine.errors import EngineError
from engine.expected.lines import evaporating_over_usual_f, superheat_in_heating
from engine.expected.today import Expected
from engine.physics.refrigerant.compression import PER_CONDENSING_F, PER_EVAPORATING_F, PER_SUCTION_F, discharge_f
from engine.physics.refrigerant.properties import REFRIGERANTS
from engine.quantities.heating_lines import (
    condensing_over_return,
    evaporating_in_heating_f,
    superheat_per_outdoor,
    weather_of,
)
from engine.quantities.line_scatter import (
    CONDENSING_OF_SOUND,
    EVAPORATING_OF_SOUND,
    HEATING_COIL_OF_SOUND,
    RISE_OF_SOUND,
    SUPERHEAT_OF_SOUND,
    as_tolerance,
    repeat_f,
)
from engine.quantities.quantity import At, Quantity, compared
from engine.quantities.suction import superheat_at_coil
from engine.quantities.superheat import orifice_target
from engine.readings.measured import Measured
from engine.readings.round import TXV
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.estimate import Estimate, missing
from engine.uncertainty.sources import less

PLACE = "discharge_line"
EFFICIENCY_OF_SOUND, BLED_OF_SOUND, REVERSING_OF_SOUND = (
    "compressors of sound machines", "accumulators of sound machines", "reversing valves of sound machines",
)  # fmt: skip
# With the vapor's superheat unchanged, the suction line moves with the evaporating temperature.
_BOTH_F = PER_SUCTION_F + PER_EVAPORATING_F


@dataclass(frozen=True)
class _Between:
    """What the compressor works between today: evaporating, suction and condensing [°F]. machine: what sound machines
    differ in; pushes: what the errors of readings move the expected discharge by [°F, 95 %, signed]; slopes: what one
    °F of error in a reading moves it by. cooled_f: what liquid in the suction takes off the discharge.
    """

    at: tuple[float, float, float]
    machine: dict[str, float]
    pushes: dict[str, float]
    slopes: dict[str, float]
    cooled_f: float = 0.0


def _in_cooling(m: Measured, e: Expected) -> _Between | None:
    outdoor = m.round.value("outdoor", "dry_bulb")
    if e.evaporating is None or outdoor is None:
        return None
    over, evaporating = e.over_ambient, e.evaporating.value
    superheat, superheat_spread = superheat_at_coil(m)
    return _Between(
        (evaporating, evaporating + superheat + SUCTION_RISE_USUAL.value, outdoor + over.value),
        {
            EVAPORATING_OF_SOUND: _BOTH_F * evaporating_over_usual_f(m.round.equipment.seer)[1],
            SUPERHEAT_OF_SOUND: PER_SUCTION_F * superheat_spread,
            RISE_OF_SOUND: PER_SUCTION_F * SUCTION_RISE_SPREAD.value,
            CONDENSING_OF_SOUND: PER_CONDENSING_F * over.u95,
        },
        {s: PER_CONDENSING_F * push for s, push in m.on("outdoor").items()},
        {"outdoor": PER_CONDENSING_F},
    )


def _in_heating(m: Measured, e: Expected) -> _Between | None:
    h, returning = e.heating, m.round.value("return_unit", "dry_bulb")
    if h is None or returning is None:
        return None
    over, evaporating = condensing_over_return(m, h), evaporating_in_heating_f(m, h)
    device, outdoor = m.round.equipment.metering_device, m.round.read("outdoor", "dry_bulb")
    superheat, superheat_spread = superheat_in_heating(device, outdoor)
    # How surely the accumulator holds liquid: where a piston leaves no superheat.
    holds = 0.0 if device == TXV else max(1.0 - superheat / PISTON_SUPERHEAT.value, 0.0)
    # Return air + what is over it, whose pushes and slopes are of a difference.
    condensing, by_reading = less(m.on("return"), over.pushes), less({"return": 1.0}, over.slopes)
    by_outdoor = _BOTH_F + PER_SUCTION_F * superheat_per_outdoor(m) + PER_CONDENSING_F * by_reading.get("outdoor", 0.0)
    return _Between(
        (evaporating - REVERSING_VALVE_DROP.value, evaporating + superheat, returning + over.value_f),
        {
            EVAPORATING_OF_SOUND: _BOTH_F * HEATING_EVAPORATING_SPREAD.value,
            SUPERHEAT_OF_SOUND: PER_SUCTION_F * superheat_spread,
            HEATING_COIL_OF_SOUND: PER_CONDENSING_F * over.spread_f,
            BLED_OF_SOUND: holds * BLED_COOLS_SPREAD.value,
            REVERSING_OF_SOUND: PER_EVAPORATING_F * REVERSING_VALVE_DROP_SPREAD.value,
        },
        {s: PER_CONDENSING_F * push for s, push in condensing.items()},
        {reading: PER_CONDENSING_F * slope for reading, slope in by_reading.items()} | {"outdoor": by_outdoor},
        holds * BLED_COOLS.value,
    )


def discharge(m: Measured, e: Expected) -> Quantity | None:
    """Discharge line [°F] near the compressor. Air source; nothing where the refrigerant has no tables, nor in cooling
    where what may be a fixed orifice has no target superheat: it floods a sound machine too, which has no accumulator.
    """
    plate, line = m.round.equipment, m.round.value(PLACE, "temperature")
    if plate.kind == GROUND_SOURCE or plate.refrigerant not in REFRIGERANTS:
        return None
    if plate.metering_device != TXV and m.round.mode == "cooling" and not orifice_target(m).known:
        return None
    between = _in_heating(m, e) if m.round.mode == "heating" else _in_cooling(m, e)
    if between is None:
        return None
    how = COMPRESSOR_EFFICIENCY.value, COMPRESSOR_SHELL_LOSS.value
    try:
        leaves = discharge_f(plate.refrigerant, *between.at, *how)
    except EngineError:  # between temperatures that no machine works between
        return None
    of_work = (leaves - between.at[1]) * COMPRESSOR_EFFICIENCY_SPREAD.value / COMPRESSOR_EFFICIENCY.value
    machine = between.machine | {EFFICIENCY_OF_SOUND: of_work}
    spread = hypot(DISCHARGE_LOSS_SPREAD.value, *machine.values())
    accuracy = m.round.line_u95_f(PLACE)
    pushes = m.clamp(PLACE) | {s: -push for s, push in between.pushes.items()}
    return compared(
        "discharge",
        "°F",
        missing("°F", "needs", "discharge line") if line is None else Estimate(line, accuracy, "°F"),
        Estimate(leaves - DISCHARGE_LOSS.value - between.cooled_f, spread, "°F"),
        as_tolerance(spread),
        pushes=pushes,
        authority="compression",
        at=At(PLACE, "temperature", own_u95=accuracy),
        residual={
            "machine": machine,
            "model_u95": DISCHARGE_LOSS_SPREAD.value,
            "repeat_u95": repeat_f(m.round, DISCHARGE_REPEAT.value),
            "slopes": {PLACE: 1.0, **{reading: -slope for reading, slope in between.slopes.items()}},
            "weather": weather_of(m, "true_suction") if m.round.mode == "heating" else (0.0, 0.0),
        },
        assumed_airflow=m.airflows.assumed,
    )
