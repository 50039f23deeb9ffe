"""Dew point of the supply air: whether the coil dries as it should. Good dew point with a warm plenum is heat added
past the coil.
"""

from engine.constants import SUPPLY_DEW_POINT_SPREAD
from engine.expected.today import Expected
from engine.quantities.quantity import Quantity, compared
from engine.readings.measured import Measured


def supply_dew_point(m: Measured, e: Expected) -> Quantity | None:
    """Supply dew point [°F] against that of the expected supply state, whose errors it shares. Cooling."""
    expected, off = e["expected_supply_dew_point_f"], e["dew_point_minus_expected_f"]
    if not expected.known:
        return None
    spread = SUPPLY_DEW_POINT_SPREAD.value
    return compared(
        "supply_dew_point",
        "°F",
        m["supply_dew_point_f"],
        expected,
        (spread, spread),
        off=off if off.known else None,
        authority="published_curves",
        assumed_airflow=m.airflows.assumed,
        decided_by=e.largest("dew_point_minus_expected_f"),
    )
