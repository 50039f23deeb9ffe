"""Readings that cannot be true together. Each check is a small function; CHECKS turns them on.

A contradiction withholds the results that rest on its fields; a note only says what was done. Nothing is repaired.
"""

from collections import defaultdict
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from math import hypot, isnan, sqrt

from engine.constants import DEW_POINT_ACCURACY
from engine.physics.air import moist
from engine.physics.air.state import humidity_ratio
from engine.readings.inputs import Pushes
from engine.readings.measured import Measured
from engine.readings.round import Reading, Round
from engine.readings.steadiness import SWINGING
from engine.readings.substitutes import NEAREST
from engine.readings.vocabulary import limits_at, quantities_at
from engine.uncertainty.margin import surely_above, surely_below
from engine.validity.finding import CONTRADICTION, NOTE, SPLIT, Finding


@dataclass(frozen=True)
class Entered:
    """What a check looks at: the round, its numeric inputs, and each input's own 95 % uncertainty."""

    round: Round
    numbers: dict[str, float]
    u95: dict[str, float]


def impossible(left_out: tuple[Reading, ...]) -> tuple[Finding, ...]:
    """Readings that are left out, as nothing can be at that value, or as nobody knows what they are."""
    return tuple(_left_out(reading) for reading in left_out)


def _left_out(reading: Reading) -> Finding:
    about, fields = {"place": reading.place, "quantity": reading.quantity}, ((reading.place, reading.quantity),)
    if reading.quantity not in quantities_at(reading.place):
        return Finding("reading_not_known", NOTE, "", fields, names=about)
    low, high = limits_at(reading.place, reading.quantity)
    if low <= reading.value <= high:
        return Finding("reading_not_known", NOTE, "", fields, names=about)
    numbers = {"value": reading.value, "low": low, "high": high}
    return Finding("reading_left_out", NOTE, "", fields, numbers=numbers, names=about)


def substituted(round_: Round) -> tuple[Finding, ...]:
    """What was taken for a place that nobody has read here: said, and where it cannot be read never asked for again."""
    taken = [r for r in round_.readings if r.is_taken]
    places = {r.place for r in taken if r.quantity == "dry_bulb"}
    return tuple(
        Finding(
            "substitute_taken" if r.quantity == "dry_bulb" else "humidity_taken",
            NOTE,
            "",
            ((r.place, r.quantity),),
            numbers={"value_f": r.value, "u95_f": r.u95 or 0.0},
            names={"place": r.place, "by": NEAREST[r.place].place, "source": r.source},
        )
        for r in taken
        if r.quantity == "dry_bulb" or r.place not in places
    )


_ENDS = (("return", "return_unit"), ("supply", "supply_plenum"))
_HUMID = ("wet_bulb", "dew_point")
# A dry coil takes out no water: in a dry house every visit lies on this bound, and one in twenty would pass it.
SURE_MOISTURE_GAINED = 0.99


def humidity_above_dry_bulb(entered: Entered) -> Iterator[Finding]:
    """Wet bulb or dew point above dry bulb: saturated within the probes' uncertainty, impossible beyond it."""
    for name, place in _ENDS:
        reading = entered.round.reading(place, *_HUMID)
        dry, humid = entered.numbers[f"{name}_dry_bulb"], entered.numbers[f"{name}_humidity"]
        if not reading or isnan(dry) or not humid > dry:
            continue
        fields, about = ((place, "dry_bulb"), (place, reading.quantity)), {"place": place, "quantity": reading.quantity}
        numbers = {"dry_bulb_f": dry, "humidity_f": humid}
        if not surely_above(0.0, humid - dry, hypot(entered.u95[f"{name}_dry_bulb"], entered.u95[f"{name}_humidity"])):
            yield Finding("taken_as_saturated", NOTE, "", fields, numbers=numbers, names=about)
        else:
            inputs = (f"{name}_dry_bulb", f"{name}_humidity")
            yield Finding("humidity_above_dry_bulb", CONTRADICTION, SPLIT, fields, inputs, 3.0, numbers, about)


def wet_bulb_too_low(entered: Entered) -> Iterator[Finding]:
    """A wet bulb so far below the dry bulb that the air would hold less than no water."""
    for name, place in _ENDS:
        reading = entered.round.reading(place, *_HUMID)
        dry, wet = entered.numbers[f"{name}_dry_bulb"], entered.numbers[f"{name}_humidity"]
        if not reading or reading.quantity != "wet_bulb" or isnan(dry) or wet > dry:
            continue
        if moist.humidity_ratio_from_wet_bulb(dry, wet, entered.numbers["pressure"]) <= 0:
            fields, inputs = ((place, "dry_bulb"), (place, "wet_bulb")), (f"{name}_dry_bulb", f"{name}_humidity")
            numbers = {"dry_bulb_f": dry, "humidity_f": wet}
            yield Finding("wet_bulb_too_low", CONTRADICTION, SPLIT, fields, inputs, 3.0, numbers, {"place": place})


def supply_against_return(entered: Entered) -> Iterator[Finding]:
    """Cooling with the supply warmer than the return, or heating with it colder, by more than the probes' uncertainty.

    A warmer supply that holds clearly less water is no contradiction: the coil dries, the probes are not swapped, and
    heat is added after it.
    """
    ret, supply = entered.numbers["return_dry_bulb"], entered.numbers["supply_dry_bulb"]
    if entered.round.mode == "cooling" and _is_dried(entered):
        return
    gain = supply - ret if entered.round.mode == "cooling" else ret - supply
    if surely_above(0.0, gain, hypot(entered.u95["supply_dry_bulb"], entered.u95["return_dry_bulb"])):
        fields = (("return_unit", "dry_bulb"), ("supply_plenum", "dry_bulb"))
        id_ = "supply_above_return" if entered.round.mode == "cooling" else "supply_below_return"
        inputs = ("return_dry_bulb", "supply_dry_bulb")
        yield Finding(id_, CONTRADICTION, SPLIT, fields, inputs, 3.0, {"return_f": ret, "supply_f": supply})


def _is_dried(entered: Entered) -> bool:
    """Whether the supply's dew point is below the return's, 95 % sure; False where one humidity was not read."""
    numbers, dew_points = entered.numbers, []
    for name, place in _ENDS:
        reading = entered.round.reading(place, "rh", *_HUMID)
        dry, humid = numbers[f"{name}_dry_bulb"], numbers[f"{name}_humidity"]
        if reading is None or isnan(dry) or isnan(humid):
            return False
        w = humidity_ratio(dry, reading.quantity, humid, numbers["pressure"])
        dew_points.append(float(moist.dew_point_f(w, numbers["pressure"])))
    return surely_below(0.0, dew_points[1] - dew_points[0], hypot(DEW_POINT_ACCURACY.value, DEW_POINT_ACCURACY.value))


def pair_not_one_probe(entered: Entered) -> Iterator[Finding]:
    """A pair read with two probes, or with a probe not named: its offset cannot cancel."""
    one, other = (entered.round.reading(place, "dry_bulb") for _, place in _ENDS)
    if one and other and not (one.instrument and one.instrument == other.instrument):
        yield Finding("pair_not_one_probe", NOTE, "", (("supply_plenum", "dry_bulb"),))


def swings(entered: Entered) -> Iterator[Finding]:
    """A reading that swings for good: its mean is taken, and the swing is evidence of its own."""
    for r in entered.round.readings:
        if r.steady == SWINGING:
            about = {"place": r.place, "quantity": r.quantity}
            yield Finding("swings", NOTE, "", ((r.place, r.quantity),), numbers={"swing": r.swing}, names=about)


CHECKS: tuple[Callable[[Entered], Iterator[Finding]], ...] = (
    humidity_above_dry_bulb,
    wet_bulb_too_low,
    supply_against_return,
    pair_not_one_probe,
    swings,
)


def contradictions(round_: Round, numbers: dict[str, float], pushes: Pushes) -> tuple[Finding, ...]:
    """All findings between the readings as entered."""
    squares: dict[str, float] = defaultdict(float)
    for touched in pushes.values():
        for name, size in touched.items():
            squares[name] += size**2
    entered = Entered(round_, numbers, defaultdict(float, {name: sqrt(square) for name, square in squares.items()}))
    return tuple(finding for check in CHECKS for finding in check(entered))


def moisture_findings(measured: Measured) -> tuple[Finding, ...]:
    """Findings that need the computed moisture: water gained over the coil, or a coil seen dry that takes water."""
    removed, round_ = measured["moisture_removed_lblb"], measured.round
    if not removed.known or round_.mode != "cooling":
        return ()
    humid = round_.reading("supply_plenum", "rh", *_HUMID)
    fields = (("supply_plenum", humid.quantity),) if humid else ()
    if surely_below(0.0, removed.value, removed.u95, SURE_MOISTURE_GAINED):
        return (Finding("moisture_gained", CONTRADICTION, SPLIT, fields, ("supply_humidity",), 3.0),)
    if surely_above(0.0, removed.value, removed.u95) and round_.observations.get("coil") == "dry":
        return (Finding("dry_coil_takes_water", NOTE, "", fields),)
    return ()
