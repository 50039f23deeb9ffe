"""What is kept beside the rounds: probes held to places, pictures, and what is left to do on a system."""

import uuid

from django.conf import settings
from django.db import models
from django.db.models import Q
from django.utils import timezone

from web.accounts.models import Shop
from web.houses.models import System
from web.probes.models import Probe
from web.shell.append_only import AppendOnly
from web.visits.models.entries import empty
from web.visits.models.visit import Round, Visit
from web.visits.querysets import FollowUpQuerySet, OfShopKeptQuerySet, PhotoQuerySet

SUBJECTS = {
    "nameplate": "Nameplate",
    "coil": "Coil",
    "filter": "Filter",
    "thermal": "Thermal picture",
    "other": "Other",
}
BLOCKS = {"": "Nothing", "charge": "Adding refrigerant", "baseline": "A new baseline"}


class Pairing(models.Model):
    """A probe held to a place in a visit. A probe is at one place at a time: its stream shows on one sheet only."""

    visit = models.ForeignKey(Visit, on_delete=models.PROTECT, related_name="pairings")
    stop = models.CharField(max_length=60)
    place = models.CharField(max_length=60)
    probe = models.ForeignKey(Probe, on_delete=models.PROTECT, related_name="pairings")
    paired_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    paired_at = models.DateTimeField(auto_now_add=True)
    live = models.BooleanField(null=True, default=True)  # true or none: of each only one true goes into a unique key
    released_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["probe", "live"], name="one_live_pairing_per_probe"),
            models.UniqueConstraint(fields=["visit", "stop", "place", "live"], name="one_live_probe_per_place"),
            models.CheckConstraint(
                condition=Q(live=True, released_at__isnull=True) | Q(live__isnull=True, released_at__isnull=False),
                name="pairing_is_live_or_released",
            ),
        ]


class Photo(models.Model):
    """A picture of a system, taken at a visit or for its nameplate. The file is ours: resized, without place or camera
    data.
    """

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="photos")
    public_id = models.UUIDField(editable=False)  # made by the device, so that a retry never doubles
    system = models.ForeignKey(System, on_delete=models.PROTECT, related_name="photos")
    round = models.ForeignKey(Round, null=True, on_delete=models.PROTECT, related_name="photos")
    subject = models.CharField(max_length=20)
    taken_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    received_at = models.DateTimeField(default=timezone.now, editable=False)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()

    objects = PhotoQuerySet.as_manager()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["shop", "public_id"], name="one_photo_per_number")]
        indexes = [models.Index(fields=["system", "-id"])]

    @property
    def subject_label(self):
        return SUBJECTS.get(self.subject, self.subject)


class FollowUp(models.Model):
    """Something left to do on a system. blocks: what must not be decided before it is done, '' for nothing."""

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="follow_ups")
    # Made by the page, so that keeping it twice keeps one.
    public_id = models.UUIDField(default=uuid.uuid4, editable=False)
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
        constraints = [
            models.UniqueConstraint(fields=["shop", "public_id"], name="one_follow_up_per_number"),
            models.CheckConstraint(condition=~empty("text"), name="follow_up_says_something"),
        ]
        indexes = [models.Index(fields=["system", "closed_at"]), models.Index(fields=["shop", "closed_at", "due_on"])]


class DueMove(AppendOnly):
    """Something that is due was moved to another day, with a reason. kind, ref: what, as the due list names it."""

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="+", editable=False)
    public_id = models.UUIDField(default=uuid.uuid4, editable=False)  # made by the page, so that twice is once
    system = models.ForeignKey(System, on_delete=models.PROTECT, related_name="+")
    kind = models.CharField(max_length=20)
    ref = models.CharField(max_length=40)
    until = models.DateField()
    why = models.CharField(max_length=200)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(default=timezone.now)

    objects = OfShopKeptQuerySet.as_manager()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "public_id"], name="one_due_move_per_number"),
            models.CheckConstraint(condition=~empty("kind", "ref", "why"), name="due_move_says_what_and_why"),
        ]
        indexes = [models.Index(fields=["shop", "kind", "ref"])]
