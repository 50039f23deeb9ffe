"""Delivered capacity: net cooling in the air against the unit's own table or the published curves; in heating against
the heating curves.
"""

from math import hypot

from engine.constants import AIR_PAIR_DIFFERENCE, PUBLISHED_TABLE_SPREAD, ROUNDED_READINGS, WINTER_HUMIDITY_RATIO
from engine.errors import EngineError
from engine.expected.today import Expected, from_published
from engine.physics.capacity.delivered import delivered_heating_btuh
from engine.quantities.line_scatter import as_tolerance
from engine.quantities.quantity import Quantity, compared
from engine.quantities.residual import SHARE
from engine.quantities.split import NO_COOLING, carried
from engine.readings.measured import Measured
from engine.uncertainty.estimate import Estimate, missing


def capacity(m: Measured, e: Expected) -> Quantity | None:
    """Net cooling [BTU/h]; the unit's own published table beats the curves."""
    rules, total = m.round.rules, m["total_btuh"]
    by_table = _by_own_table(m)
    expected = by_table or e["expected_total_btuh"]
    name = "total_btuh" if by_table else "total_minus_expected_btuh"
    off = None if by_table else e[name]
    tolerance = rules.capacity_tolerance_share * expected.value if expected.known else None
    pushes: dict[str, float] = {}
    residual = None
    if expected.known and expected.value > 0 and total.known:
        pushes, slopes = carried(m, e, name, expected.value)
        model = PUBLISHED_TABLE_SPREAD.value if by_table else ROUNDED_READINGS.value
        residual = {
            "model_u95": model,
            "repeat_u95": rules.follow_up_capacity_share,
            "slopes": slopes,
            "lowest": NO_COOLING,
        }
        if by_table:
            off = Estimate(total.value - expected.value, hypot(total.u95, expected.u95), "BTU/h")
    return compared(
        "capacity",
        "BTU/h",
        total,
        expected,
        (tolerance, tolerance),
        form=SHARE,
        pushes=pushes,
        off=off if off is not None and off.known else None,
        authority="own_table" if by_table else "published_curves",
        residual=residual,
        assumed_airflow=m.airflows.assumed,
        decided_by="airflow_method" if by_table else e.largest("total_minus_expected_btuh"),
    )


def _by_own_table(m: Measured) -> Estimate | None:
    table, wet_bulb, outdoor = (
        m.round.equipment.performance_table,
        m["return_wet_bulb_f"],
        m.round.value("outdoor", "dry_bulb"),
    )
    if table is None or outdoor is None or not wet_bulb.known:
        return None
    try:
        return from_published(table, m.round.equipment.model, wet_bulb.value, outdoor)
    except EngineError:
        return None


def delivered_heating(m: Measured) -> Estimate:
    """Heating delivered [BTU/h] by the air: mass flow, specific heat and rise, strips off."""
    returning, warm = m.round.value("return_unit", "dry_bulb"), m.round.value("supply_plenum", "dry_bulb")
    if returning is None or warm is None:
        absent = [name for name, value in (("return dry bulb", returning), ("supply dry bulb", warm)) if value is None]
        return missing("BTU/h", "needs", *absent)
    value = float(
        delivered_heating_btuh(m.cfm * 60.0 / m.volumes["return"], returning, warm, WINTER_HUMIDITY_RATIO.value)
    )
    share = hypot(m.airflow_share_u95, AIR_PAIR_DIFFERENCE.value / max(abs(warm - returning), 1.0))
    return Estimate(value, share * abs(value), "BTU/h")


def heating_capacity(m: Measured, e: Expected) -> Quantity | None:
    """Heating delivered [BTU/h] against the heating curves at today's weather. The rise is what the diagnosis goes by:
    both are one reading.
    """
    if e.heating is None:
        return None
    total, spread = float(e.heating.now.total_btuh), float(e.heating.now.spread)
    expected = Estimate(total, spread * total, "BTU/h")
    measured = delivered_heating(m)
    off = Estimate(measured.value - total, measured.u95, "BTU/h") if measured.known else None
    tolerance = as_tolerance(spread * total)
    return compared(
        "capacity",
        "BTU/h",
        measured,
        expected,
        tolerance,
        off=off,
        authority="heating_curves",
        assumed_airflow=m.airflows.assumed,
    )
