"""The unit's own published table: the authority that beats its baseline, which beats the published curves of its kind."""

from engine.constants import PUBLISHED_TABLE_SPREAD
from engine.errors import EngineError
from engine.uncertainty.estimate import Estimate
from engine.water.exchanger import Grid


def from_published(table: Grid, model: str, return_wet_bulb_f: float, outdoor_f: float, unit: str = "BTU/h") -> Estimate:
    """The unit's own published table: rows by return wet bulb [°F], columns by outdoor [°F]. Raises outside it or for another model."""
    if table.model.strip().upper() != model.strip().upper():
        raise EngineError(f"the table is of {table.model}, the unit is {model}: use the unit's own table")
    value = table.at(return_wet_bulb_f, outdoor_f)
    return Estimate(value, PUBLISHED_TABLE_SPREAD.value * value, unit)
