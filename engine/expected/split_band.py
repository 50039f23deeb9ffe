"""The split before all that it goes with is read: between what it lies in a sound machine, over the humidity, the
weather and the airflow that nobody has read yet.
"""

from itertools import product
from typing import NamedTuple

import numpy as np

from engine.constants import CAPACITY_MODEL_SPREAD, FAN_W_PER_CFM, NOMINAL_CFM_PER_TON, SENSIBLE_SHARE_AT_RATING
from engine.expected.cooling import Machine, expected_cooling
from engine.physics.air import moist
from engine.physics.capacity.delivered import fan_heat_btuh
from engine.readings.measured import Measured
from engine.readings.vocabulary import GROUND_SOURCE

# What is tried for what is not read: ordinary houses in cooling weather, airflow as it is in sound systems (working
# figures; 350 to 450 CFM per ton is normal, common practice).
HUMIDITIES_PCT, OUTDOORS_F, FLOW_SHARES = (35.0, 45.0, 55.0, 65.0), (75.0, 85.0, 95.0, 105.0), (0.875, 1.0, 1.125)
HUMIDITY, OUTDOOR, AIRFLOW = "return humidity", "outdoor temperature", "airflow"


class SplitBand(NamedTuple):
    """From low to high [°F], and what of it is not read."""

    low_f: float
    high_f: float
    unread: tuple[str, ...]


def split_band(m: Measured) -> SplitBand | None:
    """The band of the split in cooling, air source; None without the return dry bulb, or where everything is read."""
    round_, plate = m.round, m.round.equipment
    returning = round_.value("return_unit", "dry_bulb")
    if round_.mode != "cooling" or plate.kind == GROUND_SOURCE or returning is None:
        return None
    w, outdoor, measured = m["return_humidity_ratio"], round_.value("outdoor", "dry_bulb"), m.airflows.measured
    unread = tuple(
        name
        for name, is_read in ((HUMIDITY, w.known), (OUTDOOR, outdoor is not None), (AIRFLOW, measured))
        if not is_read
    )
    if not {HUMIDITY, OUTDOOR} & {*unread}:
        return None
    p, spread = m.pressure_psia, CAPACITY_MODEL_SPREAD.value
    nominal = NOMINAL_CFM_PER_TON.value * plate.nominal_tons
    tried = np.array(list(product(
        (w.value,) if w.known else [float(moist.humidity_ratio_from_rh(returning, rh, p)) for rh in HUMIDITIES_PCT],
        OUTDOORS_F if outdoor is None else (outdoor,),
        (m.cfm,) if measured else [share * nominal for share in FLOW_SHARES],
        (1 - spread, 1 + spread),
    ))).T  # fmt: skip
    cfm = tried[2]
    machine = Machine(
        plate.nominal_tons, plate.kind, SENSIBLE_SHARE_AT_RATING.value, FAN_W_PER_CFM.value, capacity_factor=tried[3]
    )
    mass = cfm * 60.0 / moist.specific_volume_ft3lb(returning, tried[0], p)
    expected = expected_cooling(
        machine, returning, tried[0], tried[1], p, mass, fan_heat_btuh(FAN_W_PER_CFM.value * cfm)
    )
    found = np.asarray(expected.split_f)
    kept = found[np.isfinite(found) & (found > 0)]
    return SplitBand(float(kept.min()), float(kept.max()), unread) if kept.size else None
