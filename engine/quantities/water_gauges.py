"""Ground source, by gauge: superheat in either mode, by the line that leaves the coil which evaporates. No cause goes
by it, nor by this kind's subcooling (engine.quantities.subcooling): they tell whoever reads them what the water side
cannot, and a compressor that gets liquid is stopped.
"""

from math import hypot

from engine.constants import TXV_TOTAL_SUPERHEAT_HIGH, TXV_TOTAL_SUPERHEAT_LOW
from engine.quantities.heating_gauges import on_hot_gas
from engine.quantities.quantity import Quantity, compared
from engine.quantities.saturation import SATURATION_SOURCES, evaporating_at, gauge_lines
from engine.readings.measured import Measured
from engine.readings.round import TXV
from engine.uncertainty.estimate import Estimate, missing


def water_superheat(m: Measured) -> Quantity | None:
    """Superheat [°F] = suction line in the cabinet less evaporating by gauge: at the coil in cooling, at the true
    suction in heating. A TXV's usual band; a fixed orifice's target goes by outdoor air, which this unit does not meet.
    None by a gauge on hot gas.
    """
    lines = gauge_lines(m.round.equipment.kind, m.round.mode)
    place = lines.get("coil", lines.get("total", ""))
    evaporating, line = evaporating_at(m), m.round.value(place, "temperature")
    if evaporating is None or line is None or (m.round.mode == "heating" and on_hot_gas(m)):
        return None
    low, high = TXV_TOTAL_SUPERHEAT_LOW.value, TXV_TOTAL_SUPERHEAT_HIGH.value
    pushes = m.clamp(place) | {SATURATION_SOURCES["dew"]: -evaporating.u95}
    measured = Estimate(line - evaporating.value, hypot(*pushes.values()), "°F")
    is_txv, half = m.round.equipment.metering_device == TXV, (high - low) / 2
    expected = Estimate((low + high) / 2, 0.0, "°F") if is_txv else missing("°F", "no_target_by_water")
    return compared(
        "superheat", "°F", measured, expected, (half, half), pushes=pushes, authority="txv_band",
        basis={"low_f": low, "high_f": high},
    )  # fmt: skip
