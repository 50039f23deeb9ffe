"""The blower table as curves with the operating point, as numbers with a role; no SVG."""

from dataclasses import dataclass

from engine.airflow.blower_table import blower_airflow
from engine.assessment.sections import statics_of, volumes
from engine.constants import STANDARD_AIR_VOLUME
from engine.errors import EngineError
from engine.readings.round import Round


@dataclass(frozen=True)
class BlowerChart:
    """Curves by tap: ((static in. w.c. at standard density, CFM), ...). tap: the one in use. point: where the machine runs, or None.

    point: (static, CFM, static's 95 %, CFM's 95 %). wanted_cfm: 400 per nominal ton. why: why there is no point.
    """

    curves: dict[str, tuple[tuple[float, float], ...]]
    tap: str
    point: tuple[float, float, float, float] | None
    wanted_cfm: float
    why: str


def blower_chart(round_: Round, wanted_cfm: float) -> BlowerChart | None:
    """The chart of a round's blower, or None without a table."""
    plate, read = round_.equipment, statics_of(round_)
    if plate.blower_table is None:
        return None
    curves, tap = plate.blower_table.taps, plate.tap or ""
    if tap not in curves:
        return BlowerChart(curves, tap, None, wanted_cfm, "Which tap is in use is not entered.")
    if read is None:
        return BlowerChart(curves, tap, None, wanted_cfm, "Both statics give the operating point.")
    total, volume = read.total_inwc, volumes(round_)["supply"]
    try:
        found = blower_airflow(plate.blower_table, tap, total, volume)
    except EngineError as error:
        return BlowerChart(curves, tap, None, wanted_cfm, f"{str(error)[:1].upper()}{str(error)[1:]}.")
    scale = volume / STANDARD_AIR_VOLUME.value
    u95 = scale * read.total_u95_inwc
    return BlowerChart(curves, tap, (total * scale, found.cfm, u95, found.u95_cfm), wanted_cfm, "")
