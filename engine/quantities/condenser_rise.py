"""Air rise through the condenser, a relative sign: its airflow is hardly ever known."""

from math import exp, hypot, log

from engine.constants import (
    BTUH_PER_TON,
    CONDENSER_CFM_PER_TON_HIGH,
    CONDENSER_CFM_PER_TON_LOW,
    CONDENSER_RISE_REPEAT,
    DRY_BULB_ACCURACY,
    DRY_BULB_REPEATABILITY,
    HEAT_REJECTED_RATIO,
    POCKET_SENSIBLE,
)
from engine.expected.today import Expected
from engine.physics.air import moist
from engine.quantities.quantity import At, Quantity, compared
from engine.quantities.residual import LN
from engine.readings.measured import Measured
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.estimate import Estimate, missing

LEAST_RISE_F = 2.0  # under it the leaving air was not read in the stream


def condenser_rise(m: Measured, e: Expected) -> Quantity | None:
    """Air rise [°F] over that of a sound condenser: today's heat over the middle of what condensers move. Cooling, air
    source.
    """
    outdoor, leaving = m.round.value("outdoor", "dry_bulb"), m.round.value("condenser_air_out", "dry_bulb")
    if outdoor is None or m.round.equipment.kind == GROUND_SOURCE:
        return None
    low, high = CONDENSER_CFM_PER_TON_LOW.value, CONDENSER_CFM_PER_TON_HIGH.value
    per_ton = e.load * BTUH_PER_TON.value * HEAT_REJECTED_RATIO.value
    thinner = m.pressure_psia / float(moist.pressure_psia(0.0))
    level = per_ton / (POCKET_SENSIBLE.value * thinner * (low * high) ** 0.5)
    spread = log(high / low) / 2
    rise, pushes = 0.0 if leaving is None else leaving - outdoor, {}
    measured = (
        missing("°F", "needs", "air leaving the condenser") if leaving is None else missing("°F", "not_in_the_stream")
    )
    if rise >= LEAST_RISE_F:
        pushes = {s: -p / rise for s, p in m.on("outdoor").items()}
        pushes["repeat condenser_air_out"] = 2 * DRY_BULB_REPEATABILITY.value / rise
        measured = Estimate(rise, rise * hypot(*pushes.values()), "°F")
    return compared(
        "condenser_rise",
        "°F",
        measured,
        Estimate(level, spread * level, "°F"),
        (level * (1 - exp(-spread)), level * (exp(spread) - 1)),
        form=LN,
        pushes=pushes,
        authority="usual_condenser_airflow",
        at=At("condenser_air_out", "dry_bulb", outdoor, own_u95=DRY_BULB_ACCURACY.value),
        residual={
            "model_u95": spread,
            "repeat_u95": CONDENSER_RISE_REPEAT.value,
            "slopes": {"outdoor": -1.0 / max(rise, LEAST_RISE_F)},
        },
    )
