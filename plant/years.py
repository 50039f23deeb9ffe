"""One machine over the years: sealed when it is sound, then visited each half year while something slowly grows."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from random import Random
from typing import Any

from engine.errors import EngineError
from plant.faults import House, with_faults
from plant.places import run
from plant.plates import plate_of
from plant.population import Population
from plant.simulate import NOISE, TRIES, another_weather, any_weather, lasting_errors, round_read

YEARS_BETWEEN = 0.5


@dataclass(frozen=True)
class Course:
    """What becomes of a machine. grows: fault -> amount more at each visit (plant.faults); back_after: visits after
    which that is put right, 0 for never; people: how many go there by turns, each with instruments of their own; wrong:
    visit -> (place, quantity) -> what its reading is off by [its unit].
    """

    name: str
    grows: Mapping[str, float] = field(default_factory=dict)
    back_after: int = 0
    people: int = 1
    wrong: Mapping[int, Mapping[tuple[str, str], float]] = field(default_factory=dict)

    def amounts(self, visit: int) -> dict[str, float]:
        """Fault -> amount at a visit, the baseline being visit 0."""
        times = visit % self.back_after if self.back_after else visit
        return {fault: min(each * times, 1.0) for fault, each in self.grows.items() if times}


def visits_of(seed: int, row: int, course: Course, visits: int, shop: Population) -> list[dict[str, Any]]:
    """Bundles of one machine of a shop, the oldest first: each has one round, and the sealed one as its baseline. Where
    a draw has no steady state the next is drawn. Every draw follows from seed, row and the course's name.
    """
    trouble = EngineError("not drawn")
    for attempt in range(TRIES):
        try:
            return _drawn(Random(f"years {seed}:{row}:{attempt}"), f"{course.name} {row}", course, visits, shop)
        except EngineError as error:
            trouble = error
    raise trouble


def _drawn(random: Random, name: str, course: Course, visits: int, shop: Population) -> list[dict[str, Any]]:
    spec, sound, of_line = shop.drawn(random)
    weather, plate = any_weather(random, heating=False), plate_of(random, spec, False) | of_line
    hands = [lasting_errors(random, shifted=True) for _ in range(course.people)]
    rounds = []
    for visit in range(visits + 1):
        there = with_faults(sound, House(), course.amounts(visit))
        found = run(there[0], another_weather(random, weather), there[1])
        person = visit % course.people
        read = round_read(random, found, hands[person], plate, False)
        _hold(read["readings"], person, course.wrong.get(visit, {}))
        rounds.append(read)
    instruments = [
        {"id": f"{kind} {n}", "dry_bulb_accuracy_f": NOISE["dry_bulb"], "rh_accuracy_pct": NOISE["rh"]}
        for n in range(course.people)
        for kind in ("probe", "clamp")
    ]
    common = {
        "format": "ruddy-visit/1",
        "site": {"altitude": {"value": weather.altitude_ft, "unit": "ft"}, "climate": "humid"},
        "equipment": plate,
        "instruments": instruments,
        "baseline": rounds[0],
        "system": name,
    }
    return [{**common, "name": f"{name}, visit {n}", "rounds": [read]} for n, read in enumerate(rounds[1:], start=1)]


def _hold(readings: Sequence[dict[str, Any]], person: int, wrong: Mapping[tuple[str, str], float]) -> None:
    """Name whose instruments were held, and put in what a reading is off by."""
    for row in readings:
        if row["quantity"] in ("dry_bulb", "rh"):
            row["instrument"] = f"probe {person}"
        if row["quantity"] == "temperature":
            row["instrument"] = f"clamp {person}"
        if off := wrong.get((row["place"], row["quantity"])):
            row["value"] = round(row["value"] + off, 1)
