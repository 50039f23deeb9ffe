"""The record as tables for a spreadsheet, and what each column means."""

from collections.abc import Iterable, Iterator, Sequence
from datetime import UTC, datetime

from django.utils import timezone

from web.history import ledger
from web.houses.models import System
from web.shell.spreadsheet import harmless
from web.visits.load.current import read_by_slot
from web.visits.models import VALUELESS, Assessment, Reading, Visit

DICTIONARY_COLUMNS = ("file", "column", "meaning")
READINGS = {
    "visit": "number of the visit",
    "round": "which round of the visit, from 1",
    "house": "name of the house",
    "system": "name of the system",
    "place": "where it was read",
    "quantity": "what was read",
    "variant": "which leg, airflow method or traverse point; empty for the only one",
    "value": "in °F, %, in. w.c., psig, A, V, W, CFM, GPM or min; empty where it was not possible",
    "typed": "as it was typed",
    "unit": "in which it was typed",
    "source": "typed, probe, weather, estimate, not_possible or withdrawn",
    "instrument": "label of the instrument",
    "person": "who took it",
    "taken_at": "by the device's clock, corrected, in UTC",
    "counts": "yes, where it was not replaced by a later one of its place",
}
VISITS = {
    "visit": "number of the visit",
    "house": "name of the house",
    "system": "name of the system",
    "model": "of the outdoor half",
    "person": "who had it in hand",
    "started_at": "in UTC",
    "ended": "finished, returned, reopened; empty while it was never finished",
    "state": "of the last verdict: stop_first, does_not_count, cause, group, sound or cannot_tell",
    "headline": "the last verdict in words",
    "next_due": "day by which maintenance was said to be due",
    "next_mode": "in which mode",
}
REFRIGERANT = {
    "at": "on the shop's clock",
    "house": "",
    "system": "",
    "person": "who moved it",
    "certificate": "of that person, at that time",
    "what": "added, recovered, lost from the hoses",
    "refrigerant": "",
    "oz": "how much, ounces",
    "cylinder": "its label",
    "scale_before_oz": "the cylinder on the scale",
    "scale_after_oz": "",
    "tare_oz": "the empty cylinder",
    "reason": "why it was moved before the machine was proved",
    "leak": "what came of looking for a leak",
    "wrong_refrigerant": "yes, where it was not the plate's",
}
FILES = {"readings.csv": READINGS, "visits.csv": VISITS, "refrigerant.csv": REFRIGERANT}
DICTIONARY = [(file, column, means) for file, columns in FILES.items() for column, means in columns.items()]


def cell(value) -> str:
    """A value as a cell: nothing for None, a moment in UTC, what would be a formula as text."""
    if value is None:
        return ""
    if isinstance(value, datetime):
        return value.astimezone(UTC).isoformat(timespec="seconds")
    if isinstance(value, bool):
        return "yes" if value else ""
    if isinstance(value, float):
        return f"{value:.10g}"
    return harmless(str(value))


def columns_of(name: str) -> tuple[str, ...]:
    """The columns of a file, in their order."""
    return tuple(FILES[name])


def of_systems(shop, systems: Sequence[System]) -> Iterator[tuple[str, Iterable[Sequence]]]:
    """Each file of these machines: its name, and its rows."""
    yield "readings.csv", _readings(systems)
    yield "visits.csv", _visits(systems)
    yield "refrigerant.csv", _refrigerant(shop, systems)


def _readings(systems: Sequence[System]) -> Iterator[Sequence]:
    for system in systems:
        rows = Reading.objects.filter(round__visit__system=system).select_related(
            "round__visit", "instrument", "person"
        )
        by_round: dict[int, list[Reading]] = {}
        for row in rows.order_by("round__visit_id", "round__number", "taken_at", "sequence", "pk"):
            by_round.setdefault(row.round_id, []).append(row)
        for of_round in by_round.values():
            counting = {slot.current.pk for slot in read_by_slot(of_round).values()}
            for row in of_round:
                yield _reading(row, system, row.pk in counting)


def _reading(row: Reading, system: System, counts: bool) -> Sequence:
    value, instrument = None if row.source in VALUELESS else row.value, row.instrument
    return (
        row.round.visit.public_id, row.round.number, system.house.name, system.name, row.place, row.quantity,
        row.variant, value, row.typed, row.unit, row.source, instrument and instrument.label,
        row.person.get_full_name(), row.taken_at, counts,
    )  # fmt: skip


def _visits(systems: Sequence[System]) -> Iterator[Sequence]:
    for system in systems:
        visits = Visit.objects.filter(system=system).select_related("started_by", "with_person").order_by("pk")
        told = {
            visit: (state, headline)
            for visit, state, headline in Assessment.objects.filter(round__visit__system=system)
            .order_by("round__number", "pk")
            .values_list("round__visit", "state", "headline")
        }
        for visit in visits:
            state, headline = told.get(visit.pk, ("", ""))
            yield (
                visit.public_id, system.house.name, system.name, system.model, visit.holder.get_full_name(),
                visit.started_at, visit.ended, state, headline, visit.next_due, visit.next_mode,
            )  # fmt: skip


def _refrigerant(shop, systems: Sequence[System]) -> Iterator[Sequence]:
    for system in systems:
        log = ledger.log_of(shop, datetime.min.replace(tzinfo=UTC), timezone.now(), system)
        yield from (line.figures() for line in reversed(log.lines))
