"""Every change to gateways and samples."""

from collections import defaultdict
from dataclasses import dataclass
from datetime import datetime, timedelta

from django.db import transaction
from django.db.models import Max, Min
from django.utils import timezone

from web.accounts.access import need
from web.accounts.deeds import note
from web.accounts.limits import Limit
from web.accounts.rights import INSTRUMENTS, SHOP
from web.houses.models import House
from web.probes import bridge
from web.probes.forms import SampleItem
from web.probes.models import Gateway, Mean, Newest, Probe, Sample
from web.retention.services import remove
from web.shell.retry import retried
from web.shell.tokens import hash_of, new_token

BATCHES = Limit("batches", 60, timedelta(seconds=10))  # of one gateway: six a second, to catch up after a drop-out
MOST_PROBES = 40
KEEP_RAW, MEAN_S = timedelta(hours=24), 10
FARTHEST_AHEAD = timedelta(minutes=2)
TOLD_EVERY = timedelta(seconds=5)
TRACE_TENS = 40  # six minutes and a half: two windows of steadiness
# What is held was shown within that time, rounded.
HOLD_BEFORE, HOLD_AFTER, ROUNDED = (timedelta(seconds=40), timedelta(seconds=10), 0.51)
WATCHED = timedelta(seconds=TRACE_TENS * MEAN_S)  # a swing is held with all of its series


class TooOften(Exception):
    """A gateway that sends more than it may; until when."""

    def __init__(self, until: datetime):
        super().__init__()
        self.until = until


@transaction.atomic
def add_gateway(actor, name: str, token: str = "", house: House | None = None) -> tuple[Gateway, str]:
    """A new gateway of the actor's shop, and its token: the only time it can be seen. token: a given one, for the
    demo's; house: of that house only.
    """
    need(actor, INSTRUMENTS, actor.shop_id)
    token = token or new_token()
    row = Gateway.objects.create(shop=actor.shop, name=name, token_hash=hash_of(token), made_by=actor, house=house)
    if house is None:  # a practice house brings its own
        note(actor, "gateway", detail=name)
    return row, token


def restart(gateway: Gateway) -> None:
    """Its probes speak of another time from now on: what they said is gone, but for what readings rest on."""
    remove(
        Sample.objects.filter(probe__gateway=gateway, held=False),
        "a simulated house was put forward in time",
        gateway.made_by,
    )
    Newest.objects.filter(probe__gateway=gateway).delete()


@transaction.atomic
def revoke(actor, gateway: Gateway) -> None:
    """Its token is no longer taken; what it sent stays."""
    need(actor, SHOP, gateway.shop_id)
    if Gateway.objects.filter(pk=gateway.pk, revoked_at__isnull=True).update(revoked_at=timezone.now()):
        note(actor, "gateway_revoked", detail=gateway.name)


def store_samples(gateway: Gateway, items: list[SampleItem], clock: datetime) -> list[dict]:
    """Store a batch, each sample by itself; answers in order: stored, duplicate or refused. Raises TooOften.

    Idempotent by probe, channel and sequence. The gateway's clock is measured against ours, and its times are
    corrected.
    """
    if until := BATCHES.count(gateway.pk):
        raise TooOften(until)
    now = timezone.now()
    offset = now - clock
    probes = _probes(gateway, items)
    known = _known(probes, items)
    answers, rows = [], []
    for item in items:
        answer, row = _judged(item, probes, known, offset, now)
        answers.append(answer)
        if row is not None:
            rows.append(row)
            known.add((row.probe_id, row.channel, row.sequence))

    @transaction.atomic
    def keep():
        Sample.objects.bulk_create(rows, ignore_conflicts=True)
        _remember_newest(rows)
        _tell(gateway, probes, items, offset, now)

    retried(keep)  # two batches of one van at once hold each other's rows
    return answers


def _probes(gateway: Gateway, items: list[SampleItem]) -> dict[str, Probe]:
    """The gateway's probes by name; ones not heard of before are made, up to what one gateway may have."""
    found = {probe.name: probe for probe in gateway.probes.all()}
    new = [name for name in dict.fromkeys(item.probe for item in items if not item.problem) if name not in found]
    for name in new[: MOST_PROBES - len(found)]:
        found[name], _ = Probe.objects.get_or_create(gateway=gateway, name=name)
    return found


def _known(probes: dict[str, Probe], items: list[SampleItem]) -> set[tuple]:
    named = [probes[item.probe].pk for item in items if item.probe in probes]
    sequences = [item.sequence for item in items if not item.problem]
    found = Sample.objects.filter(probe__in=named, sequence__in=sequences) if named else Sample.objects.none()
    return set(found.values_list("probe_id", "channel", "sequence"))


def _judged(item: SampleItem, probes: dict, known: set, offset: timedelta, now: datetime) -> tuple[dict, Sample | None]:
    if item.problem:
        return {"status": "refused", "message": item.problem}, None
    if item.probe not in probes:
        return {"status": "refused", "message": f"One gateway has at most {MOST_PROBES} probes."}, None
    probe = probes[item.probe]
    if (probe.pk, item.channel, item.sequence) in known:
        return {"status": "duplicate"}, None
    value, problem = bridge.value_of(item.channel, item.raw, item.unit)
    if problem or value is None:
        return {"status": "refused", "message": problem}, None
    taken = item.taken_at + offset
    if taken > now + FARTHEST_AHEAD or taken < now - KEEP_RAW:
        return {"status": "refused", "message": "Its time is ahead of the batch's clock, or more than a day old."}, None
    row = Sample(
        probe=probe,
        channel=item.channel,
        sequence=item.sequence,
        value=value,
        unit=item.unit,
        raw=item.raw,
        taken_at=taken,
    )
    return {"status": "stored"}, row


def _remember_newest(rows: list[Sample]) -> None:
    """The newest of each channel and its trace; a late sample never takes the place of a newer one."""
    by_channel: dict[tuple, list[Sample]] = defaultdict(list)
    for row in rows:
        by_channel[row.probe_id, row.channel].append(row)
    there = {(n.probe_id, n.channel): n for n in Newest.objects.filter(probe__in={probe for probe, _ in by_channel})}
    found = []
    for key, samples in by_channel.items():
        latest = max(samples, key=lambda row: row.taken_at)
        newest = there.get(key) or Newest(probe_id=key[0], channel=key[1], value=latest.value, taken_at=latest.taken_at)
        if latest.taken_at > newest.taken_at:
            newest.value, newest.taken_at = latest.value, latest.taken_at
        newest.trace = _traced(newest.trace, samples)
        found.append(
            Newest(probe_id=key[0], channel=key[1], value=newest.value, taken_at=newest.taken_at, trace=newest.trace)
        )
    # One statement, however many.
    Newest.objects.bulk_create(found, update_conflicts=True, update_fields=["value", "taken_at", "trace"])


def _traced(trace: list, samples: list[Sample]) -> list:
    tens = {start: [total, count] for start, total, count in trace}
    for row in samples:
        ten = tens.setdefault(int(row.taken_at.timestamp()) // MEAN_S * MEAN_S, [0.0, 0])
        ten[0], ten[1] = round(ten[0] + row.value, 4), ten[1] + 1
    return [[start, *tens[start]] for start in sorted(tens)[-TRACE_TENS:]]


@dataclass(frozen=True)
class Held:
    """What a held reading is worth: how steady its series was ('settled', 'swinging', 'not yet', '' when too short to
    tell) and its swing.
    """

    steady: str
    swing: float


def hold(probe: Probe, channel: str, value: float, at: datetime) -> Held | None:
    """Keep what a reading rests on: the samples around a moment, of a swing all that was watched. None when the probe
    showed no such value then.
    """
    watched = Sample.objects.filter(probe=probe, channel=channel, taken_at__range=(at - WATCHED, at + HOLD_AFTER))
    steady, swing = bridge.held_as(bridge.steadiness_of(channel, _traced([], list(watched.order_by("taken_at")))))
    around = watched if swing else watched.filter(taken_at__gte=at - HOLD_BEFORE)
    span = around.aggregate(least=Min("value"), most=Max("value"))
    if span["least"] is None or not span["least"] - ROUNDED <= value <= span["most"] + ROUNDED:
        return None
    around.update(held=True)
    return Held(steady, swing)


def _tell(gateway: Gateway, probes: dict, items: list[SampleItem], offset: timedelta, now: datetime) -> None:
    """What gateway and probes say of themselves: heard, battery, signal. Every few seconds is often enough."""
    if gateway.heard_at and now - gateway.heard_at < TOLD_EVERY and all(probe.heard_at for probe in probes.values()):
        return
    told = {}
    for item in items:
        if item.problem or item.probe not in probes:
            continue
        probe = told[item.probe] = probes[item.probe]
        probe.heard_at = now
        probe.battery_pct = item.battery_pct if item.battery_pct is not None else probe.battery_pct
        probe.signal_dbm = item.signal_dbm if item.signal_dbm is not None else probe.signal_dbm
    Probe.objects.bulk_update(list(told.values()), ["heard_at", "battery_pct", "signal_dbm"])
    Gateway.objects.filter(pk=gateway.pk).update(heard_at=now, clock_offset_ms=int(offset.total_seconds() * 1000))


def thin(before: datetime | None = None, most: int = 20_000) -> int:
    """Turn samples older than a day into ten-second means, at most so many at once; how many went. Run again until it
    is 0.
    """
    limit = before or timezone.now() - KEEP_RAW
    rows = list(Sample.objects.filter(taken_at__lt=limit, held=False).order_by("taken_at")[:most])
    groups: dict[tuple, list[float]] = defaultdict(list)
    for row in rows:
        start = row.taken_at - timedelta(seconds=row.taken_at.second % MEAN_S, microseconds=row.taken_at.microsecond)
        groups[row.probe_id, row.channel, start].append(row.value)
    with transaction.atomic():
        for (probe, channel, start), values in groups.items():
            _into_mean(probe, channel, start, values)
        remove(Sample.objects.filter(pk__in=[row.pk for row in rows]), "ten-second means took their place")
    return len(rows)


def _into_mean(probe: int, channel: str, start: datetime, values: list[float]) -> None:
    mean, made = Mean.objects.get_or_create(
        probe_id=probe,
        channel=channel,
        starts_at=start,
        defaults={"value": sum(values) / len(values), "count": len(values)},
    )
    if not made:
        total = mean.value * mean.count + sum(values)
        mean.count += len(values)
        mean.value = total / mean.count
        mean.save(update_fields=["value", "count"])
