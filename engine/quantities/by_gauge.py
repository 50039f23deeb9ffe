"""What two gauges say beside the quantities that are judged: the figures a technician writes down, and what among them
cannot be. Cooling and heating.
"""

from collections.abc import Iterator
from math import hypot

from engine.constants import GAUGE_FLOOR, GAUGE_SHARE
from engine.errors import EngineError
from engine.physics.refrigerant.properties import REFRIGERANTS, saturation_temperature_at
from engine.quantities.heating_gauges import heat_source, on_hot_gas
from engine.quantities.saturation import condensing_at, evaporating_at, gauge_lines
from engine.quantities.superheat import orifice_target
from engine.readings.measured import Measured
from engine.readings.round import TXV
from engine.uncertainty.estimate import Estimate
from engine.uncertainty.margin import surely_above, surely_below
from engine.validity.finding import CIRCUIT, CONTRADICTION, NOTE, Finding

SUCTION_LOSS_F = 2.0  # saturation a suction line may lose between coil and gauge (working figure: usual line sizing)
LIQUID_LOSS_F = 3.0  # saturation a liquid line may lose between clamp and gauge (CP: more is a restriction)
_PRESSURES = {"gauge_suction": "dew", "gauge_liquid": "bubble"}


def gauge_figures(m: Measured) -> dict[str, Estimate]:
    """What the pressures come to, by name, as far as they were read [°F; the ratio of absolute pressures].

    evaporating, condensing: saturation at dew and bubble point. coil_superheat, total_superheat, subcooling: against
    the line's temperature. over_outdoor: condensing less outdoor air. evaporator_difference: return dry bulb less
    evaporating. target_superheat: a fixed orifice's, by its chart or the charging formula. Nothing by a gauge on hot
    gas.
    """
    low = None if m.round.mode == "heating" and on_hot_gas(m) else evaporating_at(m)
    high, lines = condensing_at(m), gauge_lines(m.round.equipment.kind, m.round.mode)
    found = {"evaporating": low, "condensing": high}
    if low is not None:
        found["coil_superheat"] = _over(m, lines.get("coil", ""), low)
        found["total_superheat"] = _over(m, lines.get("total", ""), low)
        found["evaporator_difference"] = _between(m, "return_unit", low) if m.round.mode == "cooling" else None
    if high is not None:
        over = _over(m, lines["liquid"], high)
        found["subcooling"] = None if over is None else Estimate(-over.value, over.u95, "°F")
        over = _between(m, "outdoor", high) if m.round.mode == "cooling" else None
        found["over_outdoor"] = None if over is None else Estimate(-over.value, over.u95, "°F")
    if low is not None and high is not None:
        found["compression_ratio"] = compression_ratio(m)
    if m.round.mode == "cooling" and m.round.equipment.metering_device != TXV:
        found["target_superheat"] = orifice_target(m)
    return {name: estimate for name, estimate in found.items() if estimate is not None and estimate.known}


def compression_ratio(m: Measured) -> Estimate | None:
    """Absolute high side over absolute low side pressure; None unless both were read."""
    low, high = (m.round.value(place, "pressure") for place in _PRESSURES)
    if low is None or high is None:
        return None
    air = m.round.pressure_psia
    doubt = [(GAUGE_SHARE.value * abs(psig) + GAUGE_FLOOR.value) / (psig + air) for psig in (low, high)]
    ratio = (high + air) / (low + air)
    return Estimate(ratio, ratio * hypot(*doubt), "")


def _over(m: Measured, place: str, saturation: Estimate) -> Estimate | None:
    """A line over a saturation temperature [°F]."""
    line = m.round.value(place, "temperature") if place else None
    if line is None:
        return None
    return Estimate(line - saturation.value, hypot(m.round.line_u95_f(place), saturation.u95), "°F")


def _between(m: Measured, place: str, saturation: Estimate) -> Estimate | None:
    """Air at a place over a saturation temperature [°F]."""
    air = m.round.value(place, "dry_bulb")
    if air is None:
        return None
    pushes = m.on("return" if place == "return_unit" else place)
    return Estimate(air - saturation.value, hypot(saturation.u95, *pushes.values()), "°F")


def gauge_findings(m: Measured) -> Iterator[Finding]:
    """What the pressures cannot be: of another refrigerant, on swapped ports, on hot gas, beside a line that cannot be
    so.
    """
    outside = list(_outside_the_table(m))
    yield from outside
    low, high = (m.round.value(place, "pressure") for place in _PRESSURES)
    if m.round.mode == "heating" and on_hot_gas(m):
        source, _ = heat_source(m.round.equipment.kind)
        yield Finding("gauge_on_hot_gas", NOTE, "", (("gauge_suction", "pressure"),), names={"source": source})
    elif low is not None and high is not None and low > high:
        fields = tuple((place, "pressure") for place in _PRESSURES)
        yield Finding("gauges_swapped", CONTRADICTION, CIRCUIT, fields, minutes=5.0)
    elif not outside:
        yield from _lines_that_cannot_be(m)


def _outside_the_table(m: Measured) -> Iterator[Finding]:
    name = m.round.equipment.refrigerant
    read = {place: psig for place in _PRESSURES if (psig := m.round.value(place, "pressure")) is not None}
    if read and name not in REFRIGERANTS:
        fields = tuple((place, "pressure") for place in read)
        yield Finding("refrigerant_not_known", NOTE, "", fields, names={"refrigerant": name})
        return
    for place, psig in read.items():
        try:
            saturation_temperature_at(name, psig, m.round.pressure_psia, _PRESSURES[place])
        except EngineError:
            fields, about = ((place, "pressure"),), {"place": place, "refrigerant": name}
            yield Finding("not_of_this_refrigerant", CONTRADICTION, CIRCUIT, fields, (), 5.0, {"psig": psig}, about)


def _lines_that_cannot_be(m: Measured) -> Iterator[Finding]:
    """A suction line clearly colder than what evaporates in it, a liquid line clearly warmer than what condenses."""
    figures, lines = gauge_figures(m), gauge_lines(m.round.equipment.kind, m.round.mode)
    for name in ("coil_superheat", "total_superheat"):
        found = figures.get(name)
        if found is not None and surely_below(-SUCTION_LOSS_F, found.value, found.u95):
            place = lines[name.removesuffix("_superheat")]
            yield _line("colder_than_evaporating", place, "gauge_suction", -found.value)
    found = figures.get("subcooling")
    if found is not None and surely_above(0.0, -found.value, found.u95):
        # What boils in the line loses a little more; beyond that clamp or gauge is wrong: no charge is judged by it.
        withholds = CIRCUIT if surely_above(LIQUID_LOSS_F, -found.value, found.u95) else ""
        yield _line("warmer_than_condensing", lines["liquid"], "gauge_liquid", -found.value, withholds)


def _line(id_: str, place: str, gauge: str, by_f: float, withholds: str = "") -> Finding:
    fields = ((place, "temperature"), (gauge, "pressure"))
    return Finding(id_, CONTRADICTION, withholds, fields, minutes=3.0, numbers={"by_f": by_f}, names={"place": place})
