"""Readings that cannot be true together. Each check is a small function; CHECKS turns them on.

A contradiction withholds the results that hang on its fields; a note only says what was done. Nothing is repaired.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from math import hypot, isnan

from engine.air import moist
from engine.judgement.steadiness import SWINGING
from engine.readings.round import Round
from engine.readings.vocabulary import PLACES, QUANTITIES, place_name
from engine.units import UNITS
from engine.wording import difference, temperature

CONTRADICTION, NOTE = "contradiction", "note"


@dataclass(frozen=True)
class Finding:
    """What is wrong between readings: a permanent id, level, message, hint, the fields it stands at, the inputs it withholds."""

    id: str
    level: str
    message: str
    hint: str
    fields: tuple[tuple[str, str], ...]
    withholds: tuple[str, ...] = ()


@dataclass(frozen=True)
class Evidence:
    """What a check looks at: the round, its numeric inputs, and each input's own 95 % uncertainty."""

    round: Round
    numbers: dict[str, float]
    u95: dict[str, float]


_ENDS = (("return", "return_unit"), ("supply", "supply_plenum"))
_HUMID = {"wet_bulb": "Wet bulb", "dew_point": "Dew point"}


def humidity_above_dry_bulb(evidence: Evidence) -> Iterator[Finding]:
    """Wet bulb or dew point above dry bulb: saturated within the probes' uncertainty, impossible beyond it."""
    for name, place in _ENDS:
        reading = evidence.round.reading(place, *_HUMID)
        dry, humid = evidence.numbers[f"{name}_dry_bulb"], evidence.numbers[f"{name}_humidity"]
        if not reading or isnan(dry) or not humid > dry:
            continue
        what, fields = _HUMID[reading.quantity], ((place, "dry_bulb"), (place, reading.quantity))
        if humid - dry <= hypot(evidence.u95[f"{name}_dry_bulb"], evidence.u95[f"{name}_humidity"]):
            message = f"{what} is {difference(humid - dry)} above dry bulb, within the probes' uncertainty: taken as saturated."
            yield Finding("taken_as_saturated", NOTE, message, "", fields)
        else:
            message = f"{what} {temperature(humid)} is above dry bulb {temperature(dry)}: no air is like that."
            hint = "Are the two swapped? Read both again."
            yield Finding(
                "humidity_above_dry_bulb", CONTRADICTION, message, hint, fields, (f"{name}_dry_bulb", f"{name}_humidity")
            )


def wet_bulb_too_low(evidence: Evidence) -> Iterator[Finding]:
    """A wet bulb so far below the dry bulb that the air would hold less than no water."""
    for name, place in _ENDS:
        reading = evidence.round.reading(place, *_HUMID)
        dry, wet = evidence.numbers[f"{name}_dry_bulb"], evidence.numbers[f"{name}_humidity"]
        if not reading or reading.quantity != "wet_bulb" or isnan(dry) or wet > dry:
            continue
        if moist.humidity_ratio_from_wet_bulb(dry, wet, evidence.numbers["pressure"]) <= 0:
            message = f"Wet bulb {temperature(wet)} is too far below dry bulb {temperature(dry)}: air cannot be that dry."
            fields = ((place, "dry_bulb"), (place, "wet_bulb"))
            hint = "Is it a dew point? Choose the humidity that was read."
            yield Finding("wet_bulb_too_low", CONTRADICTION, message, hint, fields, (f"{name}_dry_bulb", f"{name}_humidity"))


def supply_above_return(evidence: Evidence) -> Iterator[Finding]:
    """Cooling with the supply warmer than the return by more than the probes' uncertainty."""
    if evidence.round.mode != "cooling":
        return
    warm, cold = evidence.numbers["supply_dry_bulb"], evidence.numbers["return_dry_bulb"]
    if warm - cold > hypot(evidence.u95["supply_dry_bulb"], evidence.u95["return_dry_bulb"]):
        message = f"Supply {temperature(warm)} is above return {temperature(cold)}: that is not cooling."
        hint = "Are the probes swapped, or is heat on? Read both again."
        fields = (("return_unit", "dry_bulb"), ("supply_plenum", "dry_bulb"))
        yield Finding("supply_above_return", CONTRADICTION, message, hint, fields, ("return_dry_bulb", "supply_dry_bulb"))


def pair_not_one_probe(evidence: Evidence) -> Iterator[Finding]:
    """A pair read with two probes, or with a probe not named: its offset cannot cancel."""
    ends = [evidence.round.reading(place, "dry_bulb") for _, place in _ENDS]
    if all(ends) and not (ends[0].instrument and ends[0].instrument == ends[1].instrument):
        message = "Return and supply were not read with one named probe, so its offset does not cancel."
        hint = "Read both with the same probe: the split gets sharper."
        yield Finding("pair_not_one_probe", NOTE, message, hint, (("supply_plenum", "dry_bulb"),))


def swings(evidence: Evidence) -> Iterator[Finding]:
    """A reading that swings for good: its mean is taken, and the swing is evidence of its own."""
    for reading in evidence.round.readings:
        if reading.steady != SWINGING:
            continue
        hot = reading.quantity in ("dry_bulb", "temperature")
        size = difference(reading.swing) if hot else f"{reading.swing:.2g} {UNITS[QUANTITIES[reading.quantity].unit].sign}"
        message = f"{place_name(reading.place)} swings by {size}; the mean is taken."
        hint = (
            "A metering device that hunts does that: watch the suction line at the coil."
            if hot
            else "Turbulence: move the probe."
        )
        yield Finding("swings", NOTE, message, hint, ((reading.place, reading.quantity),))


CHECKS: tuple[Callable[[Evidence], Iterator[Finding]], ...] = (
    humidity_above_dry_bulb,
    wet_bulb_too_low,
    supply_above_return,
    pair_not_one_probe,
    swings,
)


def contradictions(evidence: Evidence) -> list[Finding]:
    """All findings between the readings as entered."""
    return [finding for check in CHECKS for finding in check(evidence)]


def moisture_findings(round_: Round, removed: float | None, removed_u95: float | None) -> list[Finding]:
    """Findings that need the computed moisture [lb/lb]: water gained over the coil, or a 'dry' coil that takes water."""
    if removed is None or round_.mode != "cooling":
        return []
    humid = round_.reading("supply_plenum", "rh", "wet_bulb", "dew_point")
    fields = (("supply_plenum", humid.quantity),) if humid else ()
    if removed < -removed_u95:
        message = f"{PLACES['supply_plenum']} carries more water than the return: a cooling coil does not add water."
        hint = "Let the humidity sensor settle in the stream 2 to 3 minutes and read it again."
        return [Finding("moisture_gained", CONTRADICTION, message, hint, fields, ("supply_humidity",))]
    if removed > removed_u95 and round_.observations.get("coil") == "dry":
        message = "The coil was seen dry, but the supply carries less water than the return."
        return [Finding("dry_coil_takes_water", NOTE, message, "Look again, or read both humidities again.", fields)]
    return []
