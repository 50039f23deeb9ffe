"""Every change to a simulated house: begun, looked at, turned, put forward in time."""

from datetime import datetime, timedelta

from django.db import transaction
from django.utils import timezone

from web.accounts.access import need
from web.accounts.rights import WORK
from web.houses.models import House, System
from web.houses.services import save_house, save_system
from web.practice import bridge
from web.practice.models import Practice
from web.probes.forms import SampleItem
from web.probes.models import Probe
from web.probes.services import TooOften, add_gateway, restart, store_samples
from web.visits.changes import note_mode, note_running_time, pair, start_visit
from web.visits.load.clock import running_now
from web.visits.load.gauges import gauges_on, moved_oz
from web.visits.load.material import material_of

PAUSED_AFTER = timedelta(seconds=20)  # no time passes in the house while nobody looks
SETTLED_AFTER_MIN = 20  # what a new house has run: the slowest settle time of the house rules, and a little more
TRACED, TRACE_STEP_S = timedelta(seconds=390), 10


@transaction.atomic
def begin(actor, spec: bridge.Spec, heating: bool) -> Practice:
    """A new simulated house with its machine running and settled, a visit to it, and a probe held at every place."""
    need(actor, WORK, actor.shop_id)
    now = timezone.now()
    altitude = bridge.ORDINARY.altitude_ft
    house = save_house(
        actor,
        House(
            name=f"Practice, {spec.tons:g} ton {spec.refrigerant}",
            altitude_ft=altitude,
            climate="humid",
            is_practice=True,
        ),
    )
    system = save_system(
        actor, System(house=house, name="simulated", model="Simulated machine", **bridge.plate_of(spec))
    )
    visit = start_visit(actor, system, at=now)
    gateway, _ = add_gateway(actor, f"Simulated, {house.pk}", house=house)
    for held in bridge.probes_of(spec.kind, spec.unit == "furnace_with_cased_coil"):
        probe = Probe.objects.create(gateway=gateway, name=held.name)
        pair(actor, visit, held.stop, held.place, probe)
    if heating:
        note_mode(actor, visit.rounds.select_related("visit__system__house__shop").get(), "heating")
    memory = bridge.new_house(spec, heating)
    practice = Practice.objects.create(visit=visit, gateway=gateway, begun_by=actor, memory=memory, advanced_at=now)
    live = bridge.Live.recalled(memory)
    live.start()
    _put_aside(practice, live, now)
    put_forward(actor, practice, SETTLED_AFTER_MIN)
    practice.refresh_from_db()
    return practice


@transaction.atomic
def look(practice: Practice, now: datetime | None = None) -> bridge.Live:
    """Let the time pass since the last look, and let the probes speak. While nobody looked, no time passed."""
    practice, live = _taken_up(practice)
    now = now or timezone.now()
    passed = min(max(now - practice.advanced_at, timedelta(0)), PAUSED_AFTER)
    live.advance(passed.total_seconds())
    _speak(practice, [_said(practice, live, now)] if passed else [], now)
    return _put_aside(practice, live, now)


@transaction.atomic
def turn(practice: Practice, chosen: dict) -> bridge.Live:
    """Turn weather, load, faults and the switch. chosen: the fields of TurnForm."""
    practice, live = _taken_up(practice)
    bridge.turned(live, chosen["outside_f"], chosen["outside_rh"], chosen["load"], chosen["faults"], chosen["hunting"])
    (live.start if chosen["running"] else live.stop)()
    return _put_aside(practice, live, practice.advanced_at)


@transaction.atomic
def put_forward(actor, practice: Practice, minutes: int) -> bridge.Live:
    """Let minutes pass at once. The probes' series start anew with the last of them, and the visit's clock goes on by
    as much.
    """
    practice, live = _taken_up(practice)
    need(actor, WORK, practice.visit.system.house.shop_id)
    now = timezone.now()
    live.advance(max(minutes * 60.0 - TRACED.total_seconds(), 0.0))
    restart(practice.gateway)
    batches = []
    for before in range(int(TRACED.total_seconds()), -1, -TRACE_STEP_S):
        live.advance(float(TRACE_STEP_S))
        batches.append(_said(practice, live, now - timedelta(seconds=before)))
    _speak(practice, batches, now)
    round_ = practice.visit.rounds.select_related("visit__system__house__shop").latest("number")
    running = running_now(material_of(round_))
    note_running_time(actor, round_, (live.running_s / 60.0) if running is None else running + minutes)
    return _put_aside(practice, live, now)


def _taken_up(practice: Practice) -> tuple[Practice, bridge.Live]:
    locked = Practice.objects.select_for_update().select_related("gateway", "visit__system__house").get(pk=practice.pk)
    live = bridge.Live.recalled(locked.memory)
    bridge.set_moved(live, moved_oz(locked.visit))
    return locked, live


def _put_aside(practice: Practice, live: bridge.Live, now: datetime) -> bridge.Live:
    practice.memory, practice.advanced_at = live.remembered(), now
    practice.save(update_fields=["memory", "advanced_at", "sequence"])
    return live


def _said(practice: Practice, live: bridge.Live, at: datetime) -> list[SampleItem]:
    practice.sequence += 1
    system = practice.visit.system
    held = bridge.probes_of(system.kind, system.unit == "furnace_with_cased_coil")
    rows = bridge.said_by(live, held, str(practice.public_id), practice.sequence)
    if not gauges_on(practice.visit):
        rows = [row for row in rows if not bridge.is_pressure(row[1])]
    return [
        SampleItem(probe=probe, channel=channel, sequence=practice.sequence, raw=value, unit=unit, taken_at=at)
        for probe, channel, value, unit in rows
    ]


def _speak(practice: Practice, batches: list[list[SampleItem]], now: datetime) -> None:
    items = [item for batch in batches for item in batch]
    if not items:
        return
    try:
        store_samples(practice.gateway, items, now)
    except TooOften:  # a page asked for too often: the house has moved on all the same, and speaks at the next look
        return


def practices_of(person):
    """The person's simulated houses, latest first."""
    return Practice.objects.filter(begun_by=person).select_related("visit__system__house").order_by("-begun_at")
