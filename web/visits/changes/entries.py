"""The one way in for readings, observations, remarks and actions."""

import uuid
from collections.abc import Iterable
from dataclasses import asdict, dataclass
from datetime import datetime, timedelta
from functools import partial

from django.db import IntegrityError, transaction
from django.utils import timezone

from web.accounts.access import RoleNeeded, need
from web.accounts.rights import FINISH, WORK, may
from web.houses.models import Instrument
from web.houses.services import note_tap
from web.houses.weather import weather_for
from web.probes.models import Probe
from web.probes.services import Held, hold
from web.shell.forms import read_uuid
from web.shell.once import NumberUsed
from web.shell.retry import retried
from web.shell.trace import or_else
from web.visits.access import rounds_for
from web.visits.bridge import results, vocabulary
from web.visits.changes.admission import GRACE, Refusal, refusal
from web.visits.changes.baselines import BaselineRefused, follow_actions, take_baseline
from web.visits.changes.closing import ClosingRefused, take_closing
from web.visits.changes.gauges import charge_step_of, hook_up_of
from web.visits.changes.numbers import is_stored, kinds_of
from web.visits.changes.outcomes import OutcomeRefused, keep_outcome
from web.visits.changes.refrigerant import close_unsearched, follow_wrong_refrigerant, leak_search_of
from web.visits.forms import EntryItem
from web.visits.load.for_engine import stored_round
from web.visits.load.held import held_of
from web.visits.load.material import left_as, material_of
from web.visits.models import (
    NOT_POSSIBLE,
    PROBE,
    TYPED,
    VALUELESS,
    WEATHER,
    WITHDRAWN,
    Action,
    Entry,
    Observation,
    Pairing,
    Reading,
    Remark,
    Round,
    Visit,
)

MOST_JUDGED_ANEW = 12  # at once, when a baseline is sealed or ended; the rest when they are touched, or judged again
SERVER, MOST_MINUTES = uuid.UUID(int=0), 1440.0
ROUNDED_BY_SERVICE = {"dry_bulb": 0.1, "sea_level_pressure": 0.011}  # a person who reads °C gets a tenth of one
JUDGED = ("reading", "observation", "action")  # what an assessment may rest on
_WORDS = {
    "observation": lambda item: Observation(seen=item.seen, degree=item.degree),
    "remark": lambda item: Remark(about=item.about, text=item.text),
    "action": lambda item: Action(done=item.done, text=item.text[:300]),
}


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


def store_entries(actor, items: list[EntryItem], device_clock: datetime) -> list[ItemAnswer]:
    """Store a batch from one device, each item by itself, and assess the rounds it touched.

    Idempotent by uuid: an item sent again answers 'duplicate' and changes nothing. Raises OwnClockWrong.
    """
    now = timezone.now()  # asked once: a clock that is set meanwhile would judge by two
    offset = now - device_clock
    rounds = rounds_for(actor, {item.round for item in items if item.is_readable})
    _need_own_clock(rounds.values(), now)
    named = any(item.instrument for item in items)
    instruments = {str(row.public_id): row for row in Instrument.objects.visible_to(actor)} if named else {}
    kinds = kinds_of(actor, [item.id for item in items if item.is_readable])
    answers: list[ItemAnswer] = []
    touched: dict[int, Round] = {}
    tapped, follow = {}, {}
    for item in items:
        round_ = rounds.get(item.round)
        answer = _store(actor, item, round_, instruments, kinds, now, offset)
        answers.append(answer)
        if round_ is None:
            continue
        if answer.status in ("stored", "duplicate") and item.kind in JUDGED:
            touched[round_.pk] = round_
        if answer.status == "stored" and (
            item.seen == vocabulary.TAP or item.done in (vocabulary.SPEED_SET, WITHDRAWN)
        ):
            tapped[round_.visit_id] = round_.visit
        if answer.status == "stored" and item.kind in _FOLLOWED:
            follow[item.kind, round_.visit_id] = round_.visit
        if answer.status == "stored" and item.kind == "baseline":
            touched |= {later.pk: later for later in _read_since(round_)}
    for visit in tapped.values():
        keep_tap(actor, visit)
    for (kind, _), visit in follow.items():
        _FOLLOWED[kind](actor, visit)
    for round_ in _with_later(
        touched.values(), {item.round for item in items if item.kind in ("observation", "action")}
    ):
        # The entries are kept.
        or_else(f"saved assessment of round {round_.public_id}", partial(reassess, round_), lambda: None)
    return answers


class OwnClockWrong(Exception):
    """The server's clock is before visits that it has begun: nobody's times can be judged by it."""


def _need_own_clock(rounds: Iterable[Round], now: datetime) -> None:
    if any(now < round_.visit.started_at - GRACE for round_ in rounds):
        raise OwnClockWrong("the clock of this machine is behind what is stored: set it")


# What follows for the machine from entries of a kind.
_FOLLOWED = {"action": follow_actions, "charge_step": follow_wrong_refrigerant, "leak_search": close_unsearched}


def note_running_time(actor, round_: Round, minutes: float) -> None:
    """The running time as the server knows it: of a simulated house, whose time can be put forward."""
    need(actor, WORK, round_.visit.system.house.shop_id)
    now, before = timezone.now(), round_.readings.filter(place="system", slot="running_time").in_order().last()
    minutes = round(min(minutes, MOST_MINUTES))
    Reading(
        round=round_,
        uuid=uuid.uuid4(),
        person=actor,
        device=SERVER,
        sequence=0,
        taken_at=now,
        supersedes=before.uuid if before else None,
        place="system",
        quantity="running_time",
        slot="running_time",
        typed=f"{minutes}",
        unit="min",
        value=minutes,
        source=TYPED,
    ).save()
    reassess(round_)


def note_mode(actor, round_: Round, mode: str) -> None:
    """The mode under test as the server knows it: of a simulated house, whose weather is chosen."""
    need(actor, WORK, round_.visit.system.house.shop_id)
    Observation(
        round=round_,
        uuid=uuid.uuid4(),
        person=actor,
        device=SERVER,
        sequence=0,
        taken_at=timezone.now(),
        seen="mode",
        degree=mode,
    ).save()
    reassess(round_)


def keep_tap(actor, visit: Visit) -> None:
    """The blower tap as the visit leaves it becomes the plate's, for the next visit.
    Not where a later visit has been.
    """
    system = visit.system
    if system.visits.filter(started_at__gt=visit.started_at).exists():
        return
    first = material_of(
        visit.rounds.select_related("visit__system__house__shop").order_by("number")[0], with_people=False
    )
    note_tap(actor, system, left_as(visit).get(vocabulary.TAP, first.system.tap))


@transaction.atomic
def reassess(round_: Round) -> None:
    """Assess a round as stored and keep the result, where the last one does not rest on the same entries.

    One at a time for a round: of two batches that arrive together, the one assessed last sees both.
    """
    Round.objects.select_for_update().values_list("pk").get(pk=round_.pk)
    material = material_of(round_, with_people=False)
    entries = material.rests_on()
    last = round_.assessments.order_by("-id").values_list("entries", flat=True).first()
    if last is None or sorted(last) != sorted(entries):
        found = stored_round(material)
        held = held_of(material, found.mode)
        results.assessment_row(round_, found, entries, material.shown, held).save()


def _read_since(round_: Round) -> list[Round]:
    """The rounds of the system that were read after one."""
    later = Round.objects.filter(visit__system=round_.visit.system_id, started_at__gt=round_.started_at)
    return list(later.select_related("visit__system__house__shop").order_by("started_at")[:MOST_JUDGED_ANEW])


def _with_later(rounds: Iterable[Round], changed: set[str]) -> list[Round]:
    """The rounds, and the later rounds of their visits where what these carry on from was changed.
    changed: public ids.
    """
    firsts = {round_.visit_id: round_.number for round_ in rounds if str(round_.public_id) in changed}
    later = (
        Round.objects.filter(visit__in=firsts, number__gt=1).select_related("visit__system__house__shop")
        if firsts
        else []
    )
    more = {row.pk: row for row in later if row.number > firsts[row.visit_id]}
    return list(({round_.pk: round_ for round_ in rounds} | more).values())


def _store(
    actor,
    item: EntryItem,
    round_: Round | None,
    instruments: dict,
    kinds: dict[str, str],
    now: datetime,
    offset: timedelta,
) -> ItemAnswer:
    if not item.is_readable:
        return ItemAnswer(item.id, "refused", item.problem, "Enter it again.")
    if round_ is None:
        return ItemAnswer(
            item.id, "refused", "This visit is not open to you.", "Sign in as the person who took the readings."
        )
    if not may(actor, right := _RIGHTS.get(item.kind, WORK)):
        return ItemAnswer(item.id, "refused", RoleNeeded(actor, right).says, "Ask them to enter it.")
    taken_at = item.taken_at + offset
    if refused := refusal(item, round_, taken_at, now):
        return ItemAnswer(item.id, "refused", refused.message, refused.hint)
    if item.kind in _STEPS:
        return _step_taken(actor, item, round_, min(taken_at, timezone.now()))
    row = _row(actor, item, instruments, round_, taken_at)
    if isinstance(row, ItemAnswer):
        return row
    if isinstance(row, Refusal):
        return ItemAnswer(item.id, "refused", row.message, row.hint)
    row.uuid, row.round, row.person = uuid.UUID(item.id), round_, actor
    row.device, row.sequence, row.supersedes = item.device, item.sequence, item.supersedes
    row.taken_at, row.clock_offset_ms = taken_at, int(offset.total_seconds() * 1000)
    if kinds.setdefault(item.id, item.kind) != item.kind:
        return _taken(item.id)
    try:
        retried(lambda: _insert(row))
    except IntegrityError:
        return _already_there(row)
    return ItemAnswer(item.id, "stored")


@transaction.atomic
def _insert(row: Entry) -> None:
    row.save(force_insert=True)


def _row(actor, item: EntryItem, instruments: dict, round_: Round, taken_at: datetime) -> Entry | ItemAnswer | Refusal:
    """What an item is kept as, or why it is not."""
    if item.kind == "reading":
        return _reading(item, instruments, round_, taken_at)
    if item.kind == "hook_up":
        return hook_up_of(item, round_, actor)
    if item.kind == "leak_search":
        return leak_search_of(item)
    return charge_step_of(item, round_) if item.kind == "charge_step" else _WORDS[item.kind](item)


# Entries that are a change of their own. at: by the device's clock, as far as the server's allows.
_STEPS = {
    "closing": lambda actor, round_, says, number, at: take_closing(actor, round_.visit, says, number, at),
    "baseline": lambda actor, round_, says, number, at: take_baseline(actor, round_, says, number),
    "outcome": lambda actor, round_, says, number, at: keep_outcome(actor, round_, says, number),
}


_RIGHTS = {"baseline": FINISH, "outcome": FINISH}


def _step_taken(actor, item: EntryItem, round_: Round, at: datetime) -> ItemAnswer:
    try:
        _STEPS[item.kind](actor, round_, item.says, uuid.UUID(item.id), at)
    except (ClosingRefused, BaselineRefused, OutcomeRefused) as why:
        return ItemAnswer(item.id, "refused", str(why))
    except NumberUsed:
        return _taken(item.id)
    return ItemAnswer(item.id, "stored")


def _already_there(row: Entry) -> ItemAnswer:
    """A uuid that exists: the same entry sent again, or another one."""
    return ItemAnswer(str(row.uuid), "duplicate") if is_stored(row) else _taken(str(row.uuid))


def _taken(id_: str) -> ItemAnswer:
    return ItemAnswer(id_, "refused", "This entry's number is taken by another entry.", "Enter it again.")


def _reading(item: EntryItem, instruments: dict, round_: Round, taken_at: datetime) -> Reading | ItemAnswer:
    instrument = instruments.get(item.instrument) if item.instrument else None
    if item.instrument and instrument is None:
        return ItemAnswer(item.id, "refused", "That instrument is not the shop's.", "Choose another.")
    slot = vocabulary.slot_of(item.quantity, item.variant)
    common = {"place": item.place, "quantity": item.quantity, "variant": item.variant, "slot": slot, "unit": item.unit}
    if item.source in VALUELESS:
        reason = item.reason if item.source == NOT_POSSIBLE else ""
        common["unit"] = item.unit or vocabulary.QUANTITIES[item.quantity].unit
        return Reading(**common, typed="", value=None, source=item.source, reason=reason)
    checked = vocabulary.check(
        item.place, item.quantity, item.typed, item.unit, item.confirmed, instrument, round_.visit.system
    )
    if checked.units:
        return ItemAnswer(item.id, "ask", checked.message, units=checked.units)
    if checked.value is None:
        return ItemAnswer(item.id, "refused", checked.message, checked.hint)
    probe, held = None, None
    if item.source == PROBE:
        probe, held = _held(item, round_, checked.value, taken_at)
        if held is None:
            return ItemAnswer(
                item.id,
                "refused",
                "The probe did not show that value at this place then.",
                "Hold it again, or type the reading.",
            )
    if item.source == WEATHER and not _service_said(item, round_, checked.value, taken_at):
        return ItemAnswer(
            item.id, "refused", "The weather service did not say that for that hour.", "Take it again, or read it here."
        )
    return Reading(
        **common,
        typed=item.typed.strip(),
        value=checked.value,
        probe=probe,
        steady=held.steady if held else "",
        swing=held.swing if held else 0.0,
        source=item.source,
        instrument=None if item.source == WEATHER else instrument,
        method=item.variant if (item.place, item.quantity) == ("blower", "airflow") else "",
        plane=item.plane,
    )


def _held(item: EntryItem, round_: Round, value: float, at: datetime) -> tuple[Probe | None, Held | None]:
    """The probe a reading was held from and how steady its series was, its samples kept; None when it was not at this
    place, or did not show that.
    """
    public_id = read_uuid(item.probe)
    if public_id is None:
        return None, None
    pairings = Pairing.objects.filter(visit=round_.visit_id, place=item.place, probe__public_id=public_id)
    found = pairings.select_related("probe").first()
    return (found.probe, hold(found.probe, item.quantity, value, at)) if found else (None, None)


def _service_said(item: EntryItem, round_: Round, value: float, at: datetime) -> bool:
    """Whether the weather service had that figure for the house, then or in the hour before,
    as far as rounding goes.
    """
    for when in (at, at - timedelta(hours=1)):
        said = weather_for(round_.visit.system.house, when)
        figure = said and item.place == "outdoor" and said.value_of(item.quantity)
        if figure and abs(value - figure) <= ROUNDED_BY_SERVICE.get(item.quantity, 0.0):
            return True
    return False
