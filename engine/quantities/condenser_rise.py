"""Air rise through the condenser, a relative sign: its airflow is hardly ever known, but larger condensers, which
condense nearer to the outdoor air, move more.
"""

from math import hypot

from engine.constants import (
    CONDENSER_EFFECTIVENESS,
    CONDENSER_EFFECTIVENESS_SPREAD,
    CONDENSER_RISE_REPEAT,
    CONDENSING_BY_AIRFLOW,
    DRY_BULB_ACCURACY,
    DRY_BULB_REPEATABILITY,
)
from engine.expected.today import Expected
from engine.physics.air import moist
from engine.quantities.line_scatter import CONDENSING_OF_SOUND, as_ln_tolerance
from engine.quantities.quantity import At, Quantity, compared
from engine.quantities.residual import LN
from engine.readings.measured import Measured
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.estimate import Estimate, missing

LEAST_RISE_F = 2.0  # under it the leaving air was not read in the stream


def condenser_rise(m: Measured, e: Expected) -> Quantity | None:
    """Air rise [°F] over that of a sound condenser. Cooling, air source.

    A coil in which refrigerant condenses warms its air by its effectiveness, 1 - exp(-NTU), of condensing over ambient;
    in thinner air as many CFM carry less heat, so that the rise is larger by that and no more: what more it condenses
    by there is what the same heat takes. Of two machines of a class, the one whose
    condenser moves less air condenses higher too.
    """
    outdoor, leaving = m.round.value("outdoor", "dry_bulb"), m.round.value("condenser_air_out", "dry_bulb")
    if outdoor is None or m.round.equipment.kind == GROUND_SOURCE:
        return None
    over = e.over_ambient_at_sea_level
    thinner = m.pressure_psia / float(moist.pressure_psia(0.0))
    level = CONDENSER_EFFECTIVENESS.value * over.value / thinner
    differs = over.u95 / over.value
    by_airflow, by_coil = differs * CONDENSING_BY_AIRFLOW.value, differs * (1 - CONDENSING_BY_AIRFLOW.value**2) ** 0.5
    own = hypot(CONDENSER_EFFECTIVENESS_SPREAD.value, by_coil)
    spread = hypot(own, by_airflow)
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
        as_ln_tolerance(level, spread),
        form=LN,
        pushes=pushes,
        authority="condenser_of_usual_class" if m.round.equipment.seer is None else "condenser_of_class",
        at=At("condenser_air_out", "dry_bulb", outdoor, own_u95=DRY_BULB_ACCURACY.value),
        residual={
            "machine": {CONDENSING_OF_SOUND: by_airflow},
            "model_u95": own,
            "repeat_u95": CONDENSER_RISE_REPEAT.value,
            "slopes": {"outdoor": -1.0 / max(rise, LEAST_RISE_F)},
        },
    )
