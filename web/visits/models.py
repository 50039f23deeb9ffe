"""A visit, its rounds, and the append-only entries (readings and observations) in them.

An entry is never changed or deleted: a correction is a new row that names the one it supersedes.
"""

import uuid

from django.conf import settings
from django.db import models

from web.houses.models import Instrument, System
from web.visits.querysets import EntryQuerySet, RoundQuerySet, VisitQuerySet

SOURCES = {"typed": "typed", "estimate": "stated guess"}


class AppendOnly(Exception):
    """Somebody tried to change or delete an entry."""


class Visit(models.Model):
    """One visit to one system."""

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    system = models.ForeignKey(System, on_delete=models.PROTECT, related_name="visits")
    started_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="visits")
    started_at = models.DateTimeField()

    objects = VisitQuerySet.as_manager()

    class Meta:
        indexes = [models.Index(fields=["system", "-started_at"]), models.Index(fields=["-started_at"])]


class Round(models.Model):
    """Readings taken together: the first, and one after each fix."""

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    visit = models.ForeignKey(Visit, on_delete=models.PROTECT, related_name="rounds")
    number = models.PositiveSmallIntegerField()
    started_at = models.DateTimeField()

    objects = RoundQuerySet.as_manager()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["visit", "number"], name="one_round_per_number")]


class Entry(models.Model):
    """What every entry carries. uuid is made by the device, so that a retry never doubles."""

    uuid = models.UUIDField(unique=True, editable=False)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    device = models.UUIDField()
    sequence = models.PositiveBigIntegerField()  # counts up on the device
    taken_at = models.DateTimeField()  # device clock, corrected by clock_offset_ms
    clock_offset_ms = models.BigIntegerField(default=0)  # server clock minus device clock when it was sent
    received_at = models.DateTimeField(auto_now_add=True)
    supersedes = models.UUIDField(null=True)  # may name an entry that has not arrived yet

    objects = EntryQuerySet.as_manager()

    class Meta:
        abstract = True

    def save(self, *args, **kwargs):
        if self.pk:
            raise AppendOnly("an entry is never changed; store a new one that supersedes it")
        super().save(*args, **kwargs)

    def delete(self, *args, **kwargs):
        raise AppendOnly("an entry is never deleted")


class Reading(Entry):
    """One value read at one place, exactly as typed, and in the engine's unit."""

    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="readings")
    place = models.CharField(max_length=40)
    quantity = models.CharField(max_length=20)
    slot = models.CharField(max_length=20)  # readings in one slot of a place replace each other
    typed = models.CharField(max_length=20)
    unit = models.CharField(max_length=10)
    value = models.FloatField()
    source = models.CharField(max_length=20)
    instrument = models.ForeignKey(Instrument, null=True, on_delete=models.PROTECT, related_name="+")
    method = models.CharField(max_length=20, blank=True, default="")
    plane = models.CharField(max_length=10, blank=True, default="")

    class Meta:
        indexes = [models.Index(fields=["round", "place", "slot"])]


class Observation(Entry):
    """Something seen, in the degrees of the vocabulary."""

    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="observations")
    seen = models.CharField(max_length=40)
    degree = models.CharField(max_length=20)

    class Meta:
        indexes = [models.Index(fields=["round", "seen"])]


class Assessment(models.Model):
    """A saved engine result: what was judged, by which engine and rules, from which entries."""

    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="assessments")
    created_at = models.DateTimeField(auto_now_add=True)
    engine_version = models.CharField(max_length=20)
    rules_version = models.CharField(max_length=20)
    kind = models.CharField(max_length=20)
    headline = models.CharField(max_length=80)
    entries = models.JSONField()
    result = models.JSONField()

    class Meta:
        indexes = [models.Index(fields=["round", "-id"])]
