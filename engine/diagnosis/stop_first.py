"""What comes before any explanation: ice, a freezing coil, amps over the plate, liquid on its way to the compressor, a
discharge that burns its oil.
"""

from collections.abc import Callable
from dataclasses import dataclass

from engine.constants import DISCHARGE_LIMIT, ICING_EVAPORATING
from engine.quantities.table import Table
from engine.readings.round import TXV
from engine.readings.steadiness import SWINGING
from engine.uncertainty.estimate import Estimate
from engine.uncertainty.margin import OUT_OF_RANGE, below_probability, surely_above, surely_below
from engine.validity.conditions import ICED, is_restart

ICE, FREEZING, OVER_PLATE, TOO_HOT, LIQUID_RETURN, LIQUID_PERHAPS = (
    "iced",
    "freezing",
    "over_plate",
    "too_hot",
    "liquid_return",
    "liquid_perhaps",
)
# subcooling of this or less through ice says charge on a TXV: "a few degrees" (common practice, no single source)
FEW_DEGREES_F = 5.0


@dataclass(frozen=True)
class Urgent:
    """Why to stop: its id, the quantity it rests on, and for ice whether gauges that are on already say anything
    through it; witness: what shows it besides, where the quantity alone leaves it open.
    """

    id: str
    quantity: str = ""
    place: str = ""
    subcooling_says: str = ""  # charge, hint or ''
    witness: str = ""  # suction_rise, swings, amps or ''


def stop_first(table: Table) -> Urgent | None:
    """The first reason to stop the machine, or None."""
    return next((found for rule in RULES if (found := rule(table)) is not None), None)


def _ice(table: Table) -> Urgent | None:
    round_ = table.measured.round
    if round_.mode != "cooling" or round_.observations.get("ice") not in ICED:
        return None
    return Urgent(ICE, place=round_.observations["ice"], subcooling_says=_through_ice(table))


def _through_ice(table: Table) -> str:
    """What gauges that are on already say through ice: a few degrees of subcooling or less, with superheat clear of
    zero.
    """
    subcooling, superheat = table.get("subcooling"), table.get("superheat")
    if subcooling is None or superheat is None or may_be_liquid(superheat.measured):
        return ""
    low = below_probability(FEW_DEGREES_F, subcooling.measured.value, subcooling.measured.u95) >= 0.5
    return ("charge" if table.measured.round.equipment.metering_device == TXV else "hint") if low else ""


def _freezing(table: Table) -> Urgent | None:
    """A suction line, or evaporating by gauge, under freezing in cooling; just started it dips there for a while."""
    round_ = table.measured.round
    if round_.mode != "cooling" or is_restart(round_):
        return None
    evaporating = table.get("evaporating")
    if evaporating is not None and _is_freezing(evaporating.measured):
        return Urgent(FREEZING, "evaporating")
    for place in ("suction_line_indoor", "suction_line_outdoor"):
        line = round_.value(place, "temperature")
        if line is not None and _is_freezing(Estimate(line, round_.line_u95_f(place), "°F")):
            return Urgent(FREEZING, place=place)
    return None


def _is_freezing(found: Estimate) -> bool:
    return surely_below(ICING_EVAPORATING.value, found.value, found.u95)


def _over_plate(table: Table) -> Urgent | None:
    for id_ in ("compressor_amps", "outdoor_fan_amps"):
        q = table.get(id_)
        if q is not None and q.state == OUT_OF_RANGE:
            return Urgent(OVER_PLATE, id_, id_.removesuffix("_amps"))
    return None


def _too_hot(table: Table) -> Urgent | None:
    """A discharge line so hot that the oil breaks down: what trips it sooner or later."""
    round_ = table.measured.round
    line = round_.value("discharge_line", "temperature")
    if line is None or not surely_above(DISCHARGE_LIMIT.value, line, round_.line_u95_f("discharge_line")):
        return None
    return Urgent(TOO_HOT, place="discharge_line")


def _liquid_return(table: Table) -> Urgent | None:
    """Superheat by measured suction pressure: more likely gone than not; or not excluded, with a second witness."""
    q = table.get("superheat")
    if q is None or not q.measured.known:
        return None
    if below_probability(0.0, q.measured.value, q.measured.u95) >= 0.5 and not _floods_by_design(table):
        return Urgent(LIQUID_RETURN, "superheat")
    witness = _second_witness(table) if may_be_liquid(q.measured) else ""
    return Urgent(LIQUID_RETURN, "superheat", witness=witness) if witness else None


def _floods_by_design(table: Table) -> bool:
    """A fixed heating piston is right at one outdoor temperature and floods below it, into the accumulator: by itself
    no reason to stop.
    """
    round_ = table.measured.round
    return round_.mode == "heating" and round_.equipment.metering_device != TXV


def may_be_liquid(superheat: Estimate) -> bool:
    """Whether a measured superheat leaves it open that there is none."""
    return superheat.known and not surely_above(0.0, superheat.value, superheat.u95)


def liquid_not_ruled_out(table: Table) -> bool:
    """Whether a superheat by gauge leaves it open that liquid returns: the line is then read again, insulated, before
    anything else.
    """
    q = table.get("superheat")
    return q is not None and may_be_liquid(q.measured) and not _floods_by_design(table)


def _second_witness(table: Table) -> str:
    """A suction line that does not warm on its way, one that swings, or a draw above what is expected; '' for none."""
    rise, draw = table.get("suction_rise"), table.get("amps")
    if rise is not None and rise.measured.known and rise.measured.value <= rise.measured.u95:
        return "suction_rise"
    if any(r.steady == SWINGING and r.place.startswith("suction_line") for r in table.measured.round.readings):
        return "swings"
    return "amps" if draw is not None and draw.side > 0 else ""


RULES: tuple[Callable[[Table], Urgent | None], ...] = (_ice, _freezing, _over_plate, _liquid_return, _too_hot)
