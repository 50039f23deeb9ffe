"""The suction line in cooling: against evaporating (predicted) and superheat,
and what it warms by on its way outdoors.
"""

from math import hypot

from engine.constants import (
    NO_TARGET_SUPERHEAT,
    ORIFICE_TARGET_SPREAD,
    SUCTION_RISE_REPEAT,
    SUCTION_RISE_SPREAD,
    SUCTION_RISE_USUAL,
    SUPERHEAT_SPREAD,
    TXV_SUPERHEAT_AT_COIL,
    TXV_SUPERHEAT_SPREAD,
)
from engine.expected.lines import evaporating_over_usual_f
from engine.expected.today import Expected
from engine.quantities.line_scatter import EVAPORATING_OF_SOUND, RISE_OF_SOUND, SUPERHEAT_OF_SOUND, repeat_f
from engine.quantities.quantity import At, Quantity, compared
from engine.quantities.split import carried
from engine.quantities.superheat import orifice_target, orifice_target_slopes
from engine.readings.measured import Measured
from engine.readings.round import ORIFICE, TXV
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.estimate import Estimate, missing
from engine.uncertainty.sources import less

COIL, OUTDOORS = "suction_line_indoor", "suction_line_outdoor"


def suction(m: Measured, e: Expected) -> Quantity | None:
    """Suction line [°F] at the coil - outdoors, less the usual rise, where only that was read - against evaporating +
    superheat. Never judges.
    """
    if m.round.equipment.kind == GROUND_SOURCE or e.evaporating is None:
        return None
    coil, out = m.round.value(COIL, "temperature"), m.round.value(OUTDOORS, "temperature")
    outdoors = coil is None and out is not None
    place, read = (OUTDOORS, out) if outdoors else (COIL, coil)
    superheat, superheat_spread = superheat_at_coil(m)
    rise = SUCTION_RISE_USUAL.value if outdoors else 0.0
    machine = {
        EVAPORATING_OF_SOUND: evaporating_over_usual_f(m.round.equipment.seer)[1], SUPERHEAT_OF_SOUND: superheat_spread,
        RISE_OF_SOUND: SUCTION_RISE_SPREAD.value if outdoors else 0.0,
    }  # fmt: skip
    spread = hypot(*machine.values())
    level = e.evaporating.value + superheat + rise
    measured = (
        missing("°F", "needs", "suction line") if read is None else Estimate(read, m.round.line_u95_f(place), "°F")
    )
    residual = None
    pushes = m.clamp(place)
    if e["expected_apparatus_dew_point_f"].known:
        surface, by_surface = carried(m, e, "expected_apparatus_dew_point_f", 1.0)
        pushes = less(pushes, surface)
        slopes = less(less({OUTDOORS: 1.0} if outdoors else {}, by_surface), orifice_target_slopes(m))
        repeat = repeat_f(m.round, SUPERHEAT_SPREAD.value)
        residual = {"machine": machine, "model_u95": 0.0, "repeat_u95": repeat, "slopes": slopes}
        if not outdoors:  # at the coil no suction is warmer than the air that feeds it
            residual["highest"] = max(m.round.read("return_unit", "dry_bulb") - level, 0.0)
    return compared(
        "suction",
        "°F",
        measured,
        Estimate(level, spread, "°F"),
        (spread, spread),
        pushes=pushes,
        authority="evaporating_predicted",
        basis={"evaporating_f": e.evaporating.value, "superheat_f": superheat, "rise_f": rise},
        predicted=True,
        residual=residual,
        at=At(place, "temperature", own_u95=m.round.line_u95_f(place)),
        assumed_airflow=m.airflows.assumed,
    )


def superheat_at_coil(m: Measured) -> tuple[float, float]:
    """Superheat at the coil [°F] and how sound machines scatter about it [°F, 95 %]: what a TXV holds; an orifice's
    target at the outdoor unit less the line's rise. Either may be there where the plate names none.
    """
    device = m.round.equipment.metering_device
    if device != ORIFICE:
        return TXV_SUPERHEAT_AT_COIL.value, (TXV_SUPERHEAT_SPREAD if device == TXV else SUPERHEAT_SPREAD).value
    target = orifice_target(m)
    level = target.value if target.known else NO_TARGET_SUPERHEAT.value
    superheat = max(level - SUCTION_RISE_USUAL.value, 0.0)
    return superheat, hypot(ORIFICE_TARGET_SPREAD.value * superheat, SUPERHEAT_SPREAD.value)


def suction_rise(m: Measured) -> Quantity | None:
    """What the suction line warms by between coil and outdoor unit [°F]: little flow or a bare line; a line that still
    holds liquid does not warm.
    """
    coil, out = m.round.value(COIL, "temperature"), m.round.value(OUTDOORS, "temperature")
    if coil is None or m.round.equipment.kind == GROUND_SOURCE:
        return None
    first, second = m.clamp(OUTDOORS), m.clamp(COIL)
    pushes = less(first, second)
    measured = (
        missing("°F", "needs", "suction line outdoors")
        if out is None
        else Estimate(out - coil, hypot(*pushes.values()), "°F")
    )
    spread = SUCTION_RISE_SPREAD.value
    return compared(
        "suction_rise",
        "°F",
        measured,
        Estimate(SUCTION_RISE_USUAL.value, spread, "°F"),
        (spread, spread),
        pushes=pushes,
        authority="usual",
        at=At(OUTDOORS, "temperature", coil, own_u95=m.round.line_u95_f(OUTDOORS)),
        residual={
            "machine": {RISE_OF_SOUND: spread},
            "model_u95": 0.0,
            "repeat_u95": repeat_f(m.round, SUCTION_RISE_REPEAT.value),
            "slopes": {OUTDOORS: 1.0},
        },
    )
