"""Airflow from total external static and the blower table at the actual tap."""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from engine.constants import STANDARD_AIR_VOLUME
from engine.errors import EngineError, OutOfRange
from engine.physics.airflow.methods import METHODS, AirflowEstimate, Caveat

EXTRAPOLATE_INWC = 0.1  # beyond the table's ends; further out there is no answer


@dataclass(frozen=True)
class BlowerTable:
    """A maker's table: tap -> ((static in. w.c., CFM of standard air), ...), statics rising. motor: as on the
    nameplate.
    """

    model: str
    taps: dict[str, tuple[tuple[float, float], ...]]
    motor: str = "psc"

    def __post_init__(self) -> None:
        for tap, points in self.taps.items():
            statics = [static for static, _ in points]
            if len(points) < 2 or statics != sorted(set(statics)):
                raise EngineError(f"blower table {self.model}, tap {tap}: give two or more rows, statics rising")
            flows = [cfm for _, cfm in points]
            if self.motor == "psc" and any(later > earlier for earlier, later in pairwise(flows)):
                raise EngineError(
                    f"blower table {self.model}, tap {tap}: a PSC blower moves less air at more static; check the rows"
                )


def blower_airflow(
    table: BlowerTable,
    tap: str,
    static_inwc: float,
    specific_volume_ft3lb: float = STANDARD_AIR_VOLUME.value,
    wet_coil_in_table: bool = True,
) -> AirflowEstimate:
    """Airflow [CFM] through the blower at the measured total external static [in. w.c.].

    A fan moves the same volume at the same speed whatever the density, against a static that goes with density (fan
    laws, ASHRAE Handbook - HVAC Systems and Equipment, "Fans", MEM). So the measured static is scaled to standard air
    by specific_volume_ft3lb (of the air at the blower) and the table's CFM is the volume at the blower: plane 'supply'.
    Raises for an unknown tap, or a static more than 0.1 in. w.c. outside the table.
    """
    if tap not in table.taps:
        raise EngineError(f"tap '{tap}' is not in the table of {table.model}; it has {', '.join(table.taps)}")
    statics, flows = (np.array(column) for column in zip(*table.taps[tap], strict=True))
    at_standard = static_inwc * specific_volume_ft3lb / STANDARD_AIR_VOLUME.value
    low, high = statics[0] - EXTRAPOLATE_INWC, statics[-1] + EXTRAPOLATE_INWC
    if not low <= at_standard <= high:
        raise OutOfRange("total external static at standard density", at_standard, "in. w.c.", low, high)
    caveats: list[Caveat] = []
    method = METHODS["blower_table"]
    cfm, share = float(np.interp(at_standard, statics, flows)), method.accuracy
    if not statics[0] <= at_standard <= statics[-1]:
        i = 0 if at_standard < statics[0] else -2
        slope = (flows[i + 1] - flows[i]) / (statics[i + 1] - statics[i])
        end = 0 if i == 0 else -1
        cfm, share = float(flows[end] + slope * (at_standard - statics[end])), 1.5 * share
        caveats.append(("outside_table", (at_standard, float(statics[0]), float(statics[-1]))))
    if table.motor == "constant_airflow":
        caveats.append(("constant_airflow", ()))
    if not wet_coil_in_table:
        caveats.append(("dry_coil_table", ()))
    caveats.append(("dirty_wheel", ()))
    return AirflowEstimate("blower_table", cfm, share * cfm, "supply", tuple(caveats))
