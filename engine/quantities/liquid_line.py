"""Along the liquid line: what it loses between condenser and metering device, and across a drier."""

from math import hypot

from engine.constants import LIQUID_DROP_REPEAT, LIQUID_DROP_SPREAD, LIQUID_DROP_USUAL, LIQUID_LINE_DROP_LIMIT
from engine.quantities.line_scatter import repeat_f
from engine.quantities.quantity import HOUSE_RULE, At, Quantity, compared, limited
from engine.readings.measured import Measured
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.estimate import Estimate, missing
from engine.uncertainty.sources import less

OUTLET, INLET = "liquid_line_outdoor", "liquid_line_indoor"


def liquid_drop(m: Measured) -> Quantity | None:
    """Drop [°F] from condenser outlet to metering device: over 3 °F is a restriction (common practice). A clogged
    screen at the valve shows none. Cooling.
    """
    outlet, inlet = m.round.value(OUTLET, "temperature"), m.round.value(INLET, "temperature")
    if outlet is None or m.round.equipment.kind == GROUND_SOURCE:
        return None
    pushes = _difference(m, OUTLET, INLET)
    measured = (
        missing("°F", "needs", "liquid line")
        if inlet is None
        else Estimate(outlet - inlet, hypot(*pushes.values()), "°F")
    )
    usual, limit = LIQUID_DROP_USUAL.value, LIQUID_LINE_DROP_LIMIT.value
    residual = {
        "model_u95": LIQUID_DROP_SPREAD.value,
        "repeat_u95": repeat_f(m.round, LIQUID_DROP_REPEAT.value),
        "slopes": {OUTLET: 1.0},
    }
    return compared(
        "liquid_drop",
        "°F",
        measured,
        Estimate(usual, LIQUID_DROP_SPREAD.value, "°F"),
        (limit + usual, limit - usual),
        pushes=pushes,
        authority="common_practice",
        at=At(INLET, "temperature", outlet, -1.0, m.round.line_u95_f(INLET)),
        residual=residual,
    )


def drier_drop(m: Measured) -> Quantity | None:
    """Drop [°F] across a drier, against the shop's rule."""
    before, after = m.round.value("drier_in", "temperature"), m.round.value("drier_out", "temperature")
    if before is None:
        return None
    u95 = hypot(*_difference(m, "drier_in", "drier_out").values())
    measured = missing("°F", "needs", "line after the drier") if after is None else Estimate(before - after, u95, "°F")
    at = At("drier_out", "temperature", before, -1.0, m.round.line_u95_f("drier_out"))
    return limited("drier_drop", "°F", measured, m.round.rules.drier_drop_f, authority=HOUSE_RULE, at=at)


def _difference(m: Measured, first: str, second: str) -> dict[str, float]:
    """The pushes on one clamp's reading less another's: one clamp's offset cancels."""
    return less(m.clamp(first), m.clamp(second))
