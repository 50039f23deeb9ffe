"""Every change to a visit: who may, in a transaction, once."""

import uuid
from dataclasses import asdict, dataclass
from datetime import datetime, timedelta

from django.core.exceptions import PermissionDenied
from django.db import IntegrityError, transaction
from django.utils import timezone

from web.houses.models import Instrument
from web.visits import bridge
from web.visits.access import rounds_for
from web.visits.current import slots
from web.visits.forms import EntryItem
from web.visits.models import SOURCES, Observation, Reading, Round, Visit


@dataclass(frozen=True)
class ItemAnswer:
    """What became of one item: stored, duplicate, refused (message, hint) or ask (message, units)."""

    id: str
    status: str
    message: str = ""
    hint: str = ""
    units: tuple[str, ...] = ()

    def as_json(self) -> dict:
        """For the response."""
        return asdict(self)


@transaction.atomic
def start_visit(actor, system, at: datetime | None = None) -> Visit:
    """Start a visit to a system of the actor's shop, with its first round, now or at a given time."""
    if system.house.shop_id != actor.shop_id:
        raise PermissionDenied("the system belongs to another shop")
    now = at or timezone.now()
    visit = Visit.objects.create(system=system, started_by=actor, started_at=now)
    Round.objects.create(visit=visit, number=1, started_at=now)
    return visit


def store_entries(actor, items: list[EntryItem], device_clock: datetime) -> list[ItemAnswer]:
    """Store a batch from one device, each item by itself, and assess the rounds it touched.

    Idempotent by uuid: an item sent again answers 'duplicate' and changes nothing.
    """
    offset = timezone.now() - device_clock
    rounds = rounds_for(actor, {item.round for item in items if item.is_readable})
    instruments = {str(row.public_id): row for row in Instrument.objects.visible_to(actor)}
    answers, touched = [], {}
    for item in items:
        round_ = rounds.get(item.round)
        answer = _store(actor, item, round_, instruments, offset)
        answers.append(answer)
        if answer.status == "stored":
            touched[round_.pk] = round_
    for round_ in touched.values():
        reassess(round_, list(instruments.values()))
    return answers


def reassess(round_: Round, instruments: list[Instrument]) -> None:
    """Assess a round as stored and keep the result."""
    readings = slots(round_.readings.select_related("instrument").in_order())
    observations = slots(round_.observations.in_order())
    current = [slot.current for slot in readings.values()]
    seen = {name: slot.current.degree for name, slot in observations.items()}
    assessed = bridge.assessed(round_.visit.system, [bridge.stored_reading(row) for row in current], seen, instruments)
    used = [str(row.uuid) for row in (*current, *(slot.current for slot in observations.values()))]
    bridge.assessment_row(round_, assessed, used).save()


def _store(actor, item: EntryItem, round_: Round | None, instruments: dict, offset: timedelta) -> ItemAnswer:
    if not item.is_readable:
        return ItemAnswer(item.id, "refused", item.problem)
    if round_ is None:
        return ItemAnswer(item.id, "refused", "This visit is not open to you.", "Sign in as the person who took the readings.")
    row = _observation(item) if item.kind == "observation" else _reading(item, instruments)
    if isinstance(row, ItemAnswer):
        return row
    row.uuid, row.round, row.person = uuid.UUID(item.id), round_, actor
    row.device, row.sequence, row.supersedes = item.device, item.sequence, item.supersedes
    row.taken_at, row.clock_offset_ms = item.taken_at + offset, int(offset.total_seconds() * 1000)
    try:
        with transaction.atomic():
            row.save(force_insert=True)
    except IntegrityError:
        return _already_there(item, round_)
    return ItemAnswer(item.id, "stored")


def _already_there(item: EntryItem, round_: Round) -> ItemAnswer:
    """A uuid that exists: the same entry sent again, or somebody else's."""
    model = Observation if item.kind == "observation" else Reading
    if model.objects.filter(uuid=item.id, round=round_).exists():
        return ItemAnswer(item.id, "duplicate")
    return ItemAnswer(item.id, "refused", "This reading's number is taken.", "Type it again.")


def _observation(item: EntryItem) -> Observation | ItemAnswer:
    if not bridge.is_observation(item.seen, item.degree):
        return ItemAnswer(item.id, "refused", f"'{item.seen}: {item.degree}' is not in the vocabulary.")
    return Observation(seen=item.seen, degree=item.degree)


def _reading(item: EntryItem, instruments: dict) -> Reading | ItemAnswer:
    instrument = instruments.get(item.instrument) if item.instrument else None
    if item.instrument and instrument is None:
        return ItemAnswer(item.id, "refused", "That instrument is not the shop's.", "Choose another.")
    if item.quantity == "airflow" and not bridge.is_method(item.method):
        return ItemAnswer(item.id, "refused", "Say how the airflow was found.", "Choose a method.")
    checked = bridge.check(item.place, item.quantity, item.typed, item.unit, item.confirmed, instrument)
    if checked.units:
        return ItemAnswer(item.id, "ask", checked.message, units=checked.units)
    if checked.value is None:
        return ItemAnswer(item.id, "refused", checked.message, checked.hint)
    return Reading(
        place=item.place,
        quantity=item.quantity,
        slot=bridge.slot_of(item.quantity),
        typed=item.typed.strip(),
        unit=item.unit,
        value=checked.value,
        source=item.source if item.source in SOURCES else "typed",
        instrument=instrument,
        method=item.method if item.quantity == "airflow" else "",
        plane=item.plane if item.quantity == "airflow" else "",
    )
