"""Airflow from velocities over a grille or across a duct: free area times mean velocity."""

from collections.abc import Sequence
from math import hypot
from statistics import mean, stdev

from engine.constants import TRAVERSE_INSTRUMENT_ACCURACY, TRAVERSE_METHOD_ACCURACY
from engine.errors import EngineError, OutOfRange
from engine.physics.airflow.methods import AirflowEstimate, Caveat

VELOCITY_RANGE_FPM = (50.0, 3000.0)
FREE_AREA_RANGE = (0.3, 1.0)
FEW_POINTS = 9


def traverse(
    velocities_fpm: Sequence[float], gross_area_ft2: float, free_area: float = 1.0, plane: str = "supply"
) -> AirflowEstimate:
    """Airflow [CFM] at the density of the traversed air.

    velocities_fpm: at points of equal area [ft/min], 50 to 3,000. gross_area_ft2: [ft2], 0.05 to 20. free_area: the
    share that is open, 0.3 to 1: a grille's factor, 1 for a duct.
    Equation: CFM = free area x mean velocity [1]. Uncertainty: instrument 3 % and method 5 % (MEM), and the scatter of
    the mean of the points.

    [1] Conservation of volume over equal areas: ASHRAE Handbook - Fundamentals, "Measurement and Instruments" (MEM).
    """
    if not FREE_AREA_RANGE[0] <= free_area <= FREE_AREA_RANGE[1]:
        raise OutOfRange("free-area factor", free_area, "", *FREE_AREA_RANGE)
    if not 0.05 <= gross_area_ft2 <= 20.0:
        raise OutOfRange("area", gross_area_ft2, "ft2", 0.05, 20.0)
    if len(velocities_fpm) < 2:
        raise EngineError("a traverse needs at least two points")
    for velocity in velocities_fpm:
        if not VELOCITY_RANGE_FPM[0] <= velocity <= VELOCITY_RANGE_FPM[1]:
            raise OutOfRange("velocity", velocity, "ft/min", *VELOCITY_RANGE_FPM)
    cfm = mean(velocities_fpm) * gross_area_ft2 * free_area
    scatter = 2.0 * stdev(velocities_fpm) / len(velocities_fpm) ** 0.5 / mean(velocities_fpm)
    share = hypot(TRAVERSE_INSTRUMENT_ACCURACY.value, TRAVERSE_METHOD_ACCURACY.value, scatter)
    caveats: list[Caveat] = []
    if len(velocities_fpm) < FEW_POINTS:
        caveats.append(("few_points", (len(velocities_fpm), FEW_POINTS)))
    if free_area < 1.0:
        caveats.append(("free_area", ()))
    return AirflowEstimate("traverse", cfm, share * cfm, plane, tuple(caveats))
