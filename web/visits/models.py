"""A visit, its rounds, and the append-only entries (readings and observations) in them.

An entry is never changed or deleted: a correction is a new row that names the one it supersedes.
"""

import uuid

from django.conf import settings
from django.db import models
from django.urls import reverse
from django.utils import timezone

from web.houses.models import Instrument, System
from web.probes.models import Probe
from web.visits.querysets import AssessmentQuerySet, EntryQuerySet, FollowUpQuerySet, PhotoQuerySet, RoundQuerySet, VisitQuerySet

TYPED, PROBE, WEATHER, ESTIMATE, NOT_POSSIBLE, WITHDRAWN = "typed", "probe", "weather", "estimate", "not_possible", "withdrawn"
SOURCES = {
    TYPED: "typed",
    PROBE: "held from a probe",
    WEATHER: "by the weather service",
    ESTIMATE: "stated guess",
    NOT_POSSIBLE: "not possible",
    WITHDRAWN: "taken back",
}
VALUELESS = (NOT_POSSIBLE, WITHDRAWN)
SUBJECTS = {"nameplate": "Nameplate", "coil": "Coil", "filter": "Filter", "thermal": "Thermal picture", "other": "Other"}


class AppendOnly(Exception):
    """Somebody tried to change or delete an entry."""


class Visit(models.Model):
    """One visit to one system."""

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    system = models.ForeignKey(System, on_delete=models.PROTECT, related_name="visits")
    started_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="visits")
    started_at = models.DateTimeField()
    with_person = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.PROTECT, related_name="holding"
    )  # none: who started it

    objects = VisitQuerySet.as_manager()

    class Meta:
        indexes = [models.Index(fields=["system", "-started_at"]), models.Index(fields=["-started_at"])]

    def get_absolute_url(self):
        return reverse("visits:sheet", args=[self.public_id])

    @property
    def holder(self):
        """Who has the visit in hand."""
        return self.with_person or self.started_by


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
    place = models.CharField(max_length=60)
    quantity = models.CharField(max_length=20)
    variant = models.CharField(max_length=30, blank=True, default="")  # which leg, airflow method or traverse point
    slot = models.CharField(max_length=50)  # readings in one slot of a place replace each other
    typed = models.CharField(max_length=20)
    unit = models.CharField(max_length=12)
    value = models.FloatField(null=True)  # none: not possible, or taken back
    reason = models.CharField(max_length=20, blank=True, default="")  # why it was not possible
    source = models.CharField(max_length=20)
    instrument = models.ForeignKey(Instrument, null=True, on_delete=models.PROTECT, related_name="+")
    method = models.CharField(max_length=30, blank=True, default="")
    plane = models.CharField(max_length=10, blank=True, default="")
    probe = models.ForeignKey(Probe, null=True, on_delete=models.PROTECT, related_name="+")  # which was held
    steady = models.CharField(max_length=10, blank=True, default="")  # how its series stood then; '' where nobody watched
    swing = models.FloatField(default=0.0)  # how far it went to and fro, in the engine's unit

    class Meta:
        indexes = [models.Index(fields=["round", "place", "slot"])]


class Observation(Entry):
    """Something seen, in the degrees of the vocabulary."""

    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="observations")
    seen = models.CharField(max_length=40)
    degree = models.CharField(max_length=20)

    class Meta:
        indexes = [models.Index(fields=["round", "seen"])]


class Remark(Entry):
    """Something said or noted in words: the complaint, a fault code, a remark."""

    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="remarks")
    about = models.CharField(max_length=20)
    text = models.CharField(max_length=600)

    class Meta:
        indexes = [models.Index(fields=["round", "about"])]


class Action(Entry):
    """What was done after a round, before the next one."""

    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="actions")
    done = models.CharField(max_length=30)
    text = models.CharField(max_length=300, blank=True, default="")

    class Meta:
        indexes = [models.Index(fields=["round", "done"])]


class Pairing(models.Model):
    """A probe held to a place in a visit. A probe is at one place at a time: its stream shows on one sheet only."""

    visit = models.ForeignKey(Visit, on_delete=models.PROTECT, related_name="pairings")
    stop = models.CharField(max_length=60)
    place = models.CharField(max_length=60)
    probe = models.ForeignKey(Probe, on_delete=models.PROTECT, related_name="pairings")
    paired_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    paired_at = models.DateTimeField(auto_now_add=True)
    released_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [models.Index(fields=["visit", "released_at"]), models.Index(fields=["probe", "released_at"])]


class Photo(models.Model):
    """A picture of a system, taken at a visit or for its nameplate. The file is ours: resized, without place or camera data."""

    public_id = models.UUIDField(unique=True, editable=False)  # made by the device, so that a retry never doubles
    system = models.ForeignKey(System, on_delete=models.PROTECT, related_name="photos")
    round = models.ForeignKey(Round, null=True, on_delete=models.PROTECT, related_name="photos")
    subject = models.CharField(max_length=20)
    taken_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    received_at = models.DateTimeField(auto_now_add=True)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()

    objects = PhotoQuerySet.as_manager()

    class Meta:
        indexes = [models.Index(fields=["system", "-id"])]

    @property
    def subject_label(self):
        return SUBJECTS.get(self.subject, self.subject)


class Handover(models.Model):
    """A visit passed from one person to another. Nothing of the visit changes hands but the work."""

    visit = models.ForeignKey(Visit, on_delete=models.PROTECT, related_name="handovers")
    given_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    given_to = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    given_at = models.DateTimeField(auto_now_add=True)
    note = models.CharField(max_length=300, blank=True, default="")


class FollowUp(models.Model):
    """Something left to do on a system. blocks: what must not be decided before it is done, '' for nothing."""

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    system = models.ForeignKey(System, on_delete=models.PROTECT, related_name="follow_ups")
    text = models.CharField(max_length=300)
    blocks = models.CharField(max_length=20, blank=True, default="")
    due_on = models.DateField(null=True, blank=True)
    opened_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    opened_at = models.DateTimeField(default=timezone.now)
    closed_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.PROTECT, related_name="+")
    closed_at = models.DateTimeField(null=True)
    outcome = models.CharField(max_length=300, blank=True, default="")

    objects = FollowUpQuerySet.as_manager()

    @property
    def blocks_words(self):
        """What it blocks, in words."""
        return BLOCKS.get(self.blocks, self.blocks)

    class Meta:
        indexes = [models.Index(fields=["system", "closed_at"]), models.Index(fields=["closed_at", "due_on"])]


BLOCKS = {"": "Nothing", "charge": "Adding refrigerant", "baseline": "A new baseline"}


class Assessment(models.Model):
    """A saved engine result: what was judged, by which engine and rules, from which entries."""

    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="assessments")
    created_at = models.DateTimeField(auto_now_add=True)
    engine_version = models.CharField(max_length=20)
    rules_version = models.CharField(max_length=20)
    kind = models.CharField(max_length=20)
    headline = models.CharField(max_length=200)
    entries = models.JSONField()
    result = models.JSONField()

    objects = AssessmentQuerySet.as_manager()

    class Meta:
        indexes = [models.Index(fields=["round", "-id"])]
