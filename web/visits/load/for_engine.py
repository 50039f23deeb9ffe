"""A round's material as the engine takes it: its readings, its mode, where the technician is."""

from dataclasses import replace

from web.houses.weather import weather_for
from web.visits.bridge import rounds, vocabulary
from web.visits.load.clock import is_under_way, running_minutes
from web.visits.load.material import Material


def engine_readings(material: Material) -> list:
    """The readings that count, with the clock's minutes in place of the minutes once typed."""
    found = [
        rounds.stored_reading(row)
        for row in material.entries.current
        if row.quantity != "running_time" and row.variant not in vocabulary.STEP_VARIANTS
    ]
    minutes = running_minutes(material)
    if minutes is not None:
        found.append(rounds.reading("system", "running_time", min(minutes, 1440.0), None))
    return found


def after_steps(material: Material) -> dict[str, list]:
    """What was read after each step of charging, by the step's variant."""
    found: dict[str, list] = {}
    for row in material.entries.current:
        if row.variant in vocabulary.STEP_VARIANTS:
            found.setdefault(row.variant, []).append(rounds.stored_reading(row))
    return found


def stands(material: Material) -> str:
    """Where the technician is, by the place of the last reading taken: inside, outside, '' before the first."""
    placed = [row for row in material.entries.current if vocabulary.side_of(row.place)]
    return vocabulary.side_of(max(placed, key=lambda row: (row.taken_at, row.sequence)).place) if placed else ""


def mode_of(material: Material, outdoor_f: float | None, seen: dict[str, str]) -> tuple[str, str]:
    """The mode under test and why: as somebody said, else by the outdoor air as read; before that, of a visit under
    way, by what the weather service says.
    """
    if outdoor_f is None and is_under_way(material):
        service = weather_for(material.system.house)
        outdoor_f = service.outdoor_f if service else None
    by_weather, why = rounds.mode_for(material.system, outdoor_f, material.rules)
    said = seen.get("mode")
    if said and material.system.kind != "air_conditioner":
        return said, "" if said == by_weather else why
    return by_weather, why


def tap_of(material: Material, seen: dict[str, str]) -> str:
    """The blower tap in use: as read or set at this visit, else as on the plate; '' where it was changed and nobody
    said to which.
    """
    return seen.get(vocabulary.TAP, material.system.tap)


def stored_round(material: Material):
    """The round as stored, for the engine."""
    readings = engine_readings(material)
    outdoor = next((r.value for r in readings if r.place == "outdoor"), None)
    mode, _ = mode_of(material, outdoor, material.seen)
    return round_for_engine(material, readings, material.seen, mode)


def round_for_engine(material: Material, readings: list, seen: dict[str, str], mode: str):
    """A round of these readings on what it rests on, for the engine."""
    plate = replace(material.plate, tap=tap_of(material, seen) or None)
    return rounds.round_of(
        material.system.house,
        plate,
        readings,
        seen,
        material.instruments,
        material.rules,
        mode,
        stands(material),
        rounds.not_possible(material.entries.impossible),
        material.carried.done,
    )
