"""Where a place is not read, or cannot be, the nearest that is: with what usually lies between them, and the doubt of
that; and the blower's watts from its volts and amps.

The near register for the plenum, the return grille for the unit's return (common practice). Air gains or loses heat
in a duct and keeps its moisture, so that the dew point is carried over as it is. What stands in for a place that can
be read tells the split, and no cause is weighed by it: the duct between may be what is wrong.
"""

from dataclasses import dataclass, replace

from engine.constants import (
    RETURN_GAIN_SPREAD,
    RETURN_GAIN_USUAL,
    SUPPLY_GAIN_SPREAD,
    SUPPLY_GAIN_USUAL,
    Constant,
)
from engine.errors import EngineError
from engine.physics.air.state import state_at
from engine.physics.capacity.electrical import BLOWER, power_w
from engine.readings.round import STAND_IN, SUBSTITUTE, Reading, Round
from engine.readings.vocabulary import GROUND_SOURCE, HUMIDITY_QUANTITIES, limits_at


@dataclass(frozen=True)
class Nearest:
    """What is taken instead of a place: where, what lies between [°F, cooling; heating the other way], its doubt, and
    which way it goes from the substitute to the place.
    """

    place: str
    between: Constant
    spread: Constant
    sign: float


NEAREST = {
    "supply_plenum": Nearest("supply_register", SUPPLY_GAIN_USUAL, SUPPLY_GAIN_SPREAD, -1.0),
    "return_unit": Nearest("return_grille", RETURN_GAIN_USUAL, RETURN_GAIN_SPREAD, 1.0),
}


def with_substitutes(round_: Round) -> Round:
    """The round with what is taken for the places that nobody has read here, marked as such."""
    more = [reading for place in NEAREST for reading in _taken_for(place, round_)] + _blower_watts(round_)
    return replace(round_, readings=(*round_.readings, *more)) if more else round_


def _taken_for(place: str, round_: Round) -> list[Reading]:
    """What is not read at a place, taken from the nearest: a substitute where it cannot be read, else a stand-in (of a
    ground-source unit none: its water answers without the air).
    """
    nearest, own = NEAREST[place], round_.reading(place, "dry_bulb")
    dry, humid = round_.reading(nearest.place, "dry_bulb"), round_.reading(nearest.place, *HUMIDITY_QUANTITIES)
    if dry is None or (round_.equipment.kind == GROUND_SOURCE and round_.can_be_read(place, "dry_bulb")):
        return []
    found = []
    if own is None:
        between_f = nearest.sign * (-1.0 if round_.mode == "heating" else 1.0) * nearest.between.value
        own = replace(dry, place=place, value=dry.value + between_f, u95=nearest.spread.value)
        found.append(replace(own, source=_source(round_, place, "dry_bulb")))
    if humid is not None and round_.reading(place, *HUMIDITY_QUANTITIES) is None:
        dew_point_f = _dew_point_f(dry, humid, round_.pressure_psia)
        if dew_point_f is not None:  # the duct keeps it, never above the dry bulb that is taken there
            at_place, source = min(dew_point_f, own.value), _source(round_, place, "rh")
            found.append(Reading(place, "dew_point", at_place, humid.instrument, source=source))
    return found


def _source(round_: Round, place: str, quantity: str) -> str:
    return STAND_IN if round_.can_be_read(place, quantity) else SUBSTITUTE


def _dew_point_f(dry: Reading, humid: Reading, pressure_psia: float) -> float | None:
    """The dew point of air as read [°F]; None where no air is like that."""
    try:
        return state_at(dry.value, humid.quantity, humid.value, pressure_psia).dew_point_f
    except EngineError:
        return None


def _blower_watts(round_: Round) -> list[Reading]:
    """Volts x amps x power factor, where no meter gave the watts."""
    volts, amps = (round_.value("blower", quantity) for quantity in ("voltage", "current"))
    if volts is None or amps is None or round_.reading("blower", "power") is not None:
        return []
    found = power_w([volts], [amps], round_.value("blower", "power_factor"), BLOWER)
    low, high = limits_at("blower", "power")
    return [Reading("blower", "power", found.watts, u95=found.u95_w)] if low <= found.watts <= high else []


def needs_substitute(round_: Round, place: str) -> bool:
    """Whether a place has a substitute, cannot be read here and was not."""
    if place not in NEAREST or round_.can_be_read(place, "dry_bulb"):
        return False
    return round_.reading(place, "dry_bulb") is None
