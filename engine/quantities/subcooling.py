"""Subcooling at the condenser's outlet, by gauge, against its target. Cooling; of a ground-source unit no cause goes by
it.
"""

from math import hypot

from engine.constants import SUBCOOLING_SPREAD
from engine.expected.lines import target_subcooling
from engine.quantities.line_scatter import SUBCOOLING_OF_SOUND
from engine.quantities.quantity import Quantity, compared
from engine.quantities.saturation import SATURATION_SOURCES, condensing_at, gauge_lines
from engine.readings.measured import Measured
from engine.readings.round import TXV
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.estimate import Estimate


def subcooling(m: Measured) -> Quantity | None:
    """Subcooling [°F] = condensing by gauge less the liquid line; the plate's target, else the usual stand-in, and the
    words say which. Behind what is, or may be, a fixed orifice no target is held, and the tolerance is as wide as that.
    """
    by_water = m.round.equipment.kind == GROUND_SOURCE
    place = gauge_lines(m.round.equipment.kind, m.round.mode)["liquid"]
    condensing, line = condensing_at(m), m.round.value(place, "temperature")
    if condensing is None or line is None:
        return None
    plate, outdoor = m.round.equipment, None if by_water else m.round.value("outdoor", "dry_bulb")
    target = target_subcooling(plate.target_subcooling_f, plate.metering_device == TXV, outdoor)
    pushes = {s: -p for s, p in m.clamp(place).items()} | {SATURATION_SOURCES["bubble"]: condensing.u95}
    measured = Estimate(condensing.value - line, hypot(*pushes.values()), "°F")
    tolerance = m.round.rules.subcooling_tolerance_f if target.is_exact else target.spread_f
    residual = {
        "machine": {SUBCOOLING_OF_SOUND: target.spread_f}, "model_u95": 0.0, "repeat_u95": SUBCOOLING_SPREAD.value,
        "slopes": {place: -1.0}, "lowest": -target.value_f,
    }  # fmt: skip
    return compared(
        "subcooling",
        "°F",
        measured,
        Estimate(target.value_f, 0.0, "°F"),
        (tolerance, tolerance),
        pushes=pushes,
        authority="plate" if target.is_exact else "plate_not_held" if target.of_plate else "stand_in_target",
        residual=None if by_water else residual,
    )
