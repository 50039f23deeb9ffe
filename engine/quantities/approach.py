"""Approach: liquid line over outdoor air in cooling, against condensing over ambient of the class less the target
subcooling.
"""

from math import hypot

from engine.constants import APPROACH_LIMIT_UNKNOWN_CLASS, SUBCOOLING_SPREAD
from engine.expected.lines import target_subcooling
from engine.expected.today import Expected
from engine.quantities.line_scatter import CONDENSING_OF_SOUND, SUBCOOLING_OF_SOUND, repeat_f
from engine.quantities.quantity import At, Quantity, compared
from engine.readings.measured import Measured
from engine.readings.round import TXV
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.estimate import Estimate, missing


def approach(m: Measured, e: Expected) -> Quantity | None:
    """Approach [°F]. Of unknown class the bare limit for modern equipment is all the trade has, and the words say so.
    The shop's tolerance is for a target subcooling that is held: of a stand-in, or behind a fixed orifice, the liquid
    line scatters as its subcooling does. Cooling, air source.
    """
    round_, plate = m.round, m.round.equipment
    outdoor, liquid = round_.value("outdoor", "dry_bulb"), round_.value("liquid_line_outdoor", "temperature")
    if plate.kind == GROUND_SOURCE or outdoor is None:
        return None
    target = target_subcooling(plate.target_subcooling_f, plate.metering_device == TXV, outdoor)
    over = e.over_ambient_at_sea_level  # in thin air the liquid is cooled further too, by about as much
    level = over.value - target.value_f
    tolerance = (target.tolerance_f(round_.rules.approach_tolerance_f),) * 2
    if plate.seer is None:
        tolerance = (max(level, tolerance[0]), max(APPROACH_LIMIT_UNKNOWN_CLASS.value - level, tolerance[1]))
    spread = hypot(over.u95, target.spread_f)
    clamp, air = m.clamp("liquid_line_outdoor"), m.on("outdoor")
    pushes = {**clamp, **{s: -p for s, p in air.items()}}
    measured = (
        missing("°F", "needs", "liquid line")
        if liquid is None
        else Estimate(liquid - outdoor, hypot(*pushes.values()), "°F")
    )
    residual = {
        "machine": {CONDENSING_OF_SOUND: over.u95, SUBCOOLING_OF_SOUND: -target.spread_f},
        "model_u95": 0.0,
        "repeat_u95": repeat_f(round_, round_.rules.follow_up_line_f, SUBCOOLING_SPREAD.value),
        "slopes": {"liquid_line_outdoor": 1.0, "outdoor": -1.0},
        "lowest": min(-level, 0.0),
    }
    return compared(
        "approach",
        "°F",
        measured,
        Estimate(level, spread, "°F"),
        tolerance,
        pushes=pushes,
        authority="class_unknown" if plate.seer is None else "class",
        basis={
            "over_ambient_f": over.value,
            "subcooling_f": target.value_f,
            "of_plate": target.of_plate,
            "held": target.held,
        },
        at=At("liquid_line_outdoor", "temperature", outdoor, own_u95=round_.line_u95_f("liquid_line_outdoor")),
        residual=residual,
    )
