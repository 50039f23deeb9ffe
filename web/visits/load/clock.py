"""The visit's clocks: how long the system has been running, and when one must go."""

from datetime import datetime, timedelta

from django.utils import timezone

from web.visits.load.material import Material

# Nobody stays that long at one machine: the visit is history, and its clocks no longer tick.
FORGOTTEN_AFTER_MIN = 12 * 60.0


def started_at(material: Material) -> datetime | None:
    """When the system started or was last changed: the running time last entered says so; else a later round starts its
    clock itself.
    """
    slot = material.entries.readings.get(("system", "running_time"))
    if slot and slot.current.value is not None:
        return slot.current.taken_at - timedelta(minutes=slot.current.value)
    return material.round.started_at if material.round.number > 1 else None


def leave_by(material: Material) -> datetime | None:
    """When one must go, or None when that was not said or is long past."""
    slot = material.entries.readings.get(("system", "time_available"))
    if not slot or slot.current.value is None:
        return None
    leave = slot.current.taken_at + timedelta(minutes=slot.current.value)
    return leave if leave > timezone.now() - timedelta(minutes=FORGOTTEN_AFTER_MIN) else None


def is_under_way(material: Material) -> bool:
    """Whether the round was begun so lately that somebody may be standing there."""
    return timezone.now() - material.round.started_at < timedelta(minutes=FORGOTTEN_AFTER_MIN)


def running_minutes(material: Material) -> float | None:
    """Minutes it had been running when the air was last read (now, when it was not read yet)."""
    start = started_at(material)
    if start is None:
        return None
    read = [
        r.taken_at
        for r in material.entries.current
        if r.quantity == "dry_bulb" and r.place in ("return_unit", "supply_plenum")
    ]
    at = max(read) if read else timezone.now()
    slot = material.entries.readings.get(("system", "running_time"))
    least = slot.current.value if slot and slot.current.value is not None else 0.0
    return max((at - start).total_seconds() / 60.0, least)


def running_now(material: Material) -> float | None:
    """Minutes it has been running now, by the clock; None while the clock does not run. Of a visit long past: when the
    air was read.
    """
    start = started_at(material)
    if start is None:
        return None
    return max((timezone.now() - start).total_seconds() / 60.0, 0.0) if ticks(material) else running_minutes(material)


def ticks(material: Material) -> bool:
    """Whether the clock still runs: somebody may be standing there."""
    start = started_at(material)
    return start is not None and timezone.now() - start < timedelta(minutes=FORGOTTEN_AFTER_MIN)
