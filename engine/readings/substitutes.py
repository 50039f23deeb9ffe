"""Where a place cannot be read, the nearest that can: with what usually lies between them, and the doubt of that;
and the blower's watts from its volts and amps.

The near register for the plenum, the return grille for the unit's return (common practice). Air gains or loses heat
in a duct and keeps its moisture, so that the dew point is carried over as it is.
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
from engine.readings.round import SUBSTITUTE, Reading, Round
from engine.readings.vocabulary import HUMIDITY_QUANTITIES, limits_at


@dataclass(frozen=True)
class Nearest:
    """What is read instead of a place: where, what lies between [°F, cooling; heating the other way], its doubt, and
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
    """The round with what is taken for the places that nobody can read here, marked as such."""
    more: list[Reading] = []
    for place, nearest in NEAREST.items():
        if needs_substitute(round_, place) and (read := round_.reading(nearest.place, "dry_bulb")) is not None:
            sign = nearest.sign * (-1.0 if round_.mode == "heating" else 1.0)
            value = read.value + sign * nearest.between.value
            more.append(replace(read, place=place, value=value, u95=nearest.spread.value, source=SUBSTITUTE))
            more += _moisture(round_, place, nearest.place, value)
    more += _blower_watts(round_)
    return replace(round_, readings=(*round_.readings, *more)) if more else round_


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


def _moisture(round_: Round, place: str, by: str, dry_bulb_f: float) -> list[Reading]:
    """The dew point of the substitute, at the place; never above the dry bulb that is taken there."""
    dry, humid = round_.reading(by, "dry_bulb"), round_.reading(by, *HUMIDITY_QUANTITIES)
    if dry is None or humid is None or round_.reading(place, *HUMIDITY_QUANTITIES) is not None:
        return []
    try:
        air = state_at(dry.value, humid.quantity, humid.value, round_.pressure_psia)
    except EngineError:
        return []
    return [Reading(place, "dew_point", min(air.dew_point_f, dry_bulb_f), humid.instrument, source=SUBSTITUTE)]
