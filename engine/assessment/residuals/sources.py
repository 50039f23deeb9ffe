"""What pushes what: the error sources of a round, by the reading they are an error in."""

from engine.airflow.methods import METHODS
from engine.assessment.result import RoundResult
from engine.readings.round import Round
from engine.uncertainty.sources import split_offset

# reading -> the sources that are an error in it
READINGS = {
    "return": ("return_dry_bulb_offset", "return_dry_bulb_repeat"), "supply": ("supply_dry_bulb_offset", "supply_dry_bulb_repeat"),
    "outdoor": ("outdoor_offset", "outdoor_repeat"),
}  # fmt: skip
_INPUTS = {"return": "return_dry_bulb", "supply": "supply_dry_bulb", "outdoor": "outdoor"}


def pushed(air: RoundResult, source: str, reading: str) -> float:
    """By how much a source pushes a reading [°F]."""
    name = _INPUTS[reading]
    for found in air.carried.sources:
        if found.id == source:
            for touched, push in found.pushes:
                if touched == name:
                    return float(push[air.row]) if getattr(push, "ndim", 0) else float(push)
    return 0.0


def parts(air: RoundResult, name: str) -> dict[str, float]:
    """What each error source moves a quantity of the air side by, signed, 95 %, in the quantity's unit."""
    index = air.carried.names.index(name)
    return {s.id: float(air.carried.parts[index, i, air.row]) for i, s in enumerate(air.carried.sources)}


def measured(round_: Round) -> bool:
    """Whether the airflow was measured; a guess from nominal tons is none."""
    reading = round_.reading("blower", "airflow")
    return bool(reading and METHODS[reading.method or "nominal_guess"].measured)


def airflow_accuracy(round_: Round) -> float:
    """95 % of the airflow's method, as a share of the airflow."""
    reading = round_.reading("blower", "airflow")
    return METHODS[(reading.method if reading else None) or "nominal_guess"].accuracy


def clamp(round_: Round, place: str) -> dict[str, float]:
    """A clamp's error sources: its offset, shared by every place read with the same one, and its repeatability there."""
    reading, accuracy = round_.reading(place, "temperature"), round_.line_u95_f(place)
    repeat = accuracy / 3.0
    owner = reading.instrument if reading and reading.instrument else place
    return {f"clamp {owner}": split_offset(accuracy, repeat), f"repeat {place}": repeat}


def outdoor_sources(air: RoundResult) -> dict[str, float]:
    """What each source pushes the outdoor reading by [°F], as the air side carries it."""
    return {s.id: p for s in air.carried.sources if (p := pushed(air, s.id, "outdoor"))}


def minus(first: dict[str, float], second: dict[str, float], by: float = 1.0) -> dict[str, float]:
    """The pushes of first - by * second."""
    return {s: first.get(s, 0.0) - by * second.get(s, 0.0) for s in first.keys() | second.keys()}
