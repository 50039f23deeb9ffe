"""Subcooling at the condenser's outlet, by gauge, against its target. Cooling."""

from math import hypot

from engine.constants import SUBCOOLING_SPREAD
from engine.expected.lines import target_subcooling_f
from engine.quantities.quantity import Quantity, compared
from engine.quantities.saturation import SATURATION_SOURCES, condensing_at
from engine.readings.measured import Measured
from engine.uncertainty.estimate import Estimate


def subcooling(m: Measured) -> Quantity | None:
    """Subcooling [°F] = condensing by gauge less the liquid line; the plate's target, else the usual stand-in, and the
    words say which.
    """
    condensing, line = condensing_at(m), m.round.value("liquid_line_outdoor", "temperature")
    if condensing is None or line is None:
        return None
    target, of_plate = target_subcooling_f(m.round.equipment.target_subcooling_f)
    pushes = {s: -p for s, p in m.clamp("liquid_line_outdoor").items()} | {SATURATION_SOURCES["bubble"]: condensing.u95}
    measured = Estimate(condensing.value - line, hypot(*pushes.values()), "°F")
    tolerance, spread = m.round.rules.subcooling_tolerance_f, SUBCOOLING_SPREAD.value
    residual = {"model_u95": spread, "repeat_u95": spread, "slopes": {"liquid_line_outdoor": -1.0}, "lowest": -target}
    return compared(
        "subcooling",
        "°F",
        measured,
        Estimate(target, 0.0, "°F"),
        (tolerance, tolerance),
        pushes=pushes,
        authority="plate" if of_plate else "stand_in_target",
        residual=residual,
    )
