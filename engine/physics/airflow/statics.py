"""Static pressures: the total external static, as read and at standard density, and what lies outside the unit."""

from dataclasses import dataclass
from math import hypot

from engine.constants import STANDARD_AIR_VOLUME
from engine.errors import OutOfRange
from engine.physics.airflow.drop_ratio import manometer_u95_inwc

# What lies outside the unit's own rating: on an air handler the coil is inside; with a furnace the cased coil, and
# often the filter rack, is outside.
OUTSIDE_THE_UNIT = {"air_handler": ("filter",), "furnace_with_cased_coil": ("filter", "coil")}
STATIC_RANGE_INWC = (0.0, 3.0)


@dataclass(frozen=True)
class Statics:
    """Readings [in. w.c.], signs dropped: on the return side and supply side of the unit, across filter and coil (None:
    not read).
    """

    return_inwc: float
    supply_inwc: float
    filter_drop_inwc: float | None = None
    coil_drop_inwc: float | None = None

    def __post_init__(self) -> None:
        for name, value in vars(self).items():
            if value is not None and abs(value) > STATIC_RANGE_INWC[1]:
                raise OutOfRange(name.replace("_inwc", "").replace("_", " "), value, "in. w.c.", *STATIC_RANGE_INWC)

    @property
    def total_inwc(self) -> float:
        """Total external static [in. w.c.] as read: return + supply, signs dropped."""
        return abs(self.return_inwc) + abs(self.supply_inwc)

    @property
    def total_u95_inwc(self) -> float:
        """95 % of that total: the manometer's, at both ends."""
        return hypot(manometer_u95_inwc(self.return_inwc), manometer_u95_inwc(self.supply_inwc))

    def shares(self, unit: str) -> dict[str, float]:
        """What share of the total the filter and, where it is outside the unit, the coil takes. unit: a key of
        OUTSIDE_THE_UNIT.
        """
        drops = {"filter": self.filter_drop_inwc, "coil": self.coil_drop_inwc}
        outside = OUTSIDE_THE_UNIT[unit]
        return {
            part: abs(drop) / self.total_inwc
            for part, drop in drops.items()
            if drop is not None and part in outside and self.total_inwc > 0
        }


def at_standard_inwc(static_inwc: float, specific_volume_ft3lb: float) -> float:
    """A static [in. w.c.] at the density of standard air.

    static_inwc: as read [in. w.c.]. specific_volume_ft3lb: of the air there [ft3/lb dry air].
    Equation: p x v / 13.33: pressure goes with density at one airflow [1].

    [1] Fan laws: ASHRAE Handbook - HVAC Systems and Equipment, "Fans" (MEM).
    """
    return static_inwc * specific_volume_ft3lb / STANDARD_AIR_VOLUME.value
