"""What a machine's differences are explained by before they are called scatter: weather, humidity, size; and the groups
it belongs to.
"""

from dataclasses import dataclass
from math import log

import numpy as np

from engine.diagnosis.causes import Setting, setting_of
from engine.expected.lines import class_of
from engine.quantities.table import Table
from engine.readings.vocabulary import GROUND_SOURCE

ALL, CLASS, LINE, MODEL = "all", "class", "line", "model"
LEVELS = (CLASS, LINE, MODEL)  # from many machines to few
# Where each feature is 0 and what counts as one of it: about the middle and half the range of what is met (working
# figures). Outdoor air (entering water), return wet bulb (dry bulb in heating), size.
COLUMNS = ("offset", "outdoor", "return", "size")
_MIDDLE = {"cooling": ((90.0, 15.0), (65.0, 4.0)), "heating": ((35.0, 15.0), (70.0, 4.0))}
_WATER = {"cooling": (70.0, 15.0), "heating": (45.0, 15.0)}
_TONS, _TONS_LN = 3.0, 0.4


@dataclass(frozen=True)
class Place:
    """Where a round belongs among machines: its setting in a word, its features in the order of COLUMNS, and the group
    it belongs to at each level ('' where nobody knows).
    """

    setting: str
    features: np.ndarray
    groups: dict[str, str]


def place_of(table: Table) -> Place:
    """The place of a round."""
    m, plate = table.measured, table.measured.round.equipment
    mode, water = m.round.mode, plate.kind == GROUND_SOURCE
    outdoor = m.round.value("water_in", "temperature") if water else m.round.value("outdoor", "dry_bulb")
    wet_bulb, dry = m["return_wet_bulb_f"], m.round.value("return_unit", "dry_bulb")
    returning = (wet_bulb.value if wet_bulb.known else None) if mode == "cooling" else dry
    (out_middle, out_one), (in_middle, in_one) = _MIDDLE[mode]
    if water:
        out_middle, out_one = _WATER[mode]
    scaled = (
        0.0 if value is None else (value - middle) / one
        for value, middle, one in ((outdoor, out_middle, out_one), (returning, in_middle, in_one))
    )
    features = np.array([1.0, *scaled, log(plate.nominal_tons / _TONS) / _TONS_LN])
    groups = {CLASS: class_of(plate.seer), LINE: plate.line, MODEL: plate.model}
    return Place(setting_id(setting_of(m.round)), features, groups)


def setting_id(setting: Setting) -> str:
    """What is learnt apart from what: by mode, source and metering device."""
    return f"{setting.mode}/{setting.source}/{setting.device}"
