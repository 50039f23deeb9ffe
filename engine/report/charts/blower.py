"""The blower table as curves with the operating point, as numbers with a role; no SVG."""

from dataclasses import dataclass

from engine.assessment import Assessment
from engine.errors import EngineError
from engine.physics.airflow.blower_table import blower_airflow
from engine.physics.airflow.methods import nominal_guess_cfm
from engine.physics.airflow.statics import at_standard_inwc
from engine.report.words import capital


@dataclass(frozen=True)
class BlowerChart:
    """Curves by tap: ((static in. w.c. at standard density, CFM), ...). tap: the one in use. point: where the machine
    runs, or None.

    point: (static, CFM, static's 95 %, CFM's 95 %). wanted_cfm: 400 per nominal ton. why: why there is no point.
    """

    curves: dict[str, tuple[tuple[float, float], ...]]
    tap: str
    point: tuple[float, float, float, float] | None
    wanted_cfm: float
    why: str


def blower_chart(found: Assessment) -> BlowerChart | None:
    """The chart of a round's blower, or None without a table."""
    plate, read = found.round.equipment, found.measured.statics
    if plate.blower_table is None:
        return None
    curves, tap, wanted = plate.blower_table.taps, plate.tap or "", nominal_guess_cfm(plate.nominal_tons)
    if tap not in curves:
        return BlowerChart(curves, tap, None, wanted, "Which tap is in use is not entered.")
    if read is None:
        return BlowerChart(curves, tap, None, wanted, "Both statics give the operating point.")
    volume = found.measured.volumes["supply"]
    try:
        flow = blower_airflow(plate.blower_table, tap, read.total_inwc, volume)
    except EngineError as error:
        return BlowerChart(curves, tap, None, wanted, f"{capital(str(error))}.")
    total, u95 = (at_standard_inwc(x, volume) for x in (read.total_inwc, read.total_u95_inwc))
    return BlowerChart(curves, tap, (total, flow.cfm, u95, flow.u95_cfm), wanted, "")
