"""Gateways of a shop, their probes, and what they sent. Samples are numbered by their probe, so that a batch sent again
stores nothing twice.
"""

import uuid

from django.conf import settings
from django.db import models

from web.accounts.models import Shop
from web.houses.models import House
from web.probes.querysets import GatewayQuerySet
from web.shell.append_only import KeptQuerySet


class Gateway(models.Model):
    """A thing that hears probes and sends on what they say. Its token is shown once; only its hash is kept."""

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="gateways")
    name = models.CharField(max_length=40)
    # Of this house's machines only.
    house = models.ForeignKey(House, null=True, on_delete=models.PROTECT, related_name="gateways")
    token_hash = models.CharField(max_length=64, unique=True, editable=False)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    revoked_at = models.DateTimeField(null=True, blank=True)
    heard_at = models.DateTimeField(null=True, blank=True)
    clock_offset_ms = models.BigIntegerField(default=0)  # server clock minus its clock, at its last batch

    objects = GatewayQuerySet.as_manager()

    class Meta:
        ordering = ["name"]
        indexes = [models.Index(fields=["shop", "name"])]

    def __str__(self):
        return self.name


class Probe(models.Model):
    """One probe as its gateway calls it, with the state it last told."""

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    gateway = models.ForeignKey(Gateway, on_delete=models.PROTECT, related_name="probes")
    name = models.CharField(max_length=40)
    battery_pct = models.FloatField(null=True)
    signal_dbm = models.FloatField(null=True)
    heard_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["gateway", "name"], name="one_probe_per_name")]

    def __str__(self):
        return self.name


class Sample(models.Model):
    """One value of one channel, as it came and in the engine's unit. Kept for a day; then ten-second means stay."""

    probe = models.ForeignKey(Probe, on_delete=models.CASCADE, related_name="samples")
    channel = models.CharField(max_length=20)
    sequence = models.PositiveBigIntegerField()
    value = models.FloatField()
    unit = models.CharField(max_length=12)
    raw = models.FloatField()
    taken_at = models.DateTimeField()  # the gateway's clock, corrected by its offset
    received_at = models.DateTimeField(auto_now_add=True)
    held = models.BooleanField(default=False)  # a reading rests on it: it stays

    objects = KeptQuerySet.as_manager()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["probe", "channel", "sequence"], name="one_sample_per_number")]
        indexes = [models.Index(fields=["probe", "channel", "-taken_at"]), models.Index(fields=["taken_at"])]


class Newest(models.Model):
    """The newest sample of a channel, and its last minutes as ten-second sums, so that nobody searches for them.

    trace: [[seconds since 1970 at the start of the ten, sum, count], ...], oldest first.
    """

    probe = models.ForeignKey(Probe, on_delete=models.CASCADE, related_name="newest")
    channel = models.CharField(max_length=20)
    value = models.FloatField()
    taken_at = models.DateTimeField()
    trace = models.JSONField(default=list)

    class Meta:
        ordering = ["channel"]
        constraints = [models.UniqueConstraint(fields=["probe", "channel"], name="one_newest_per_channel")]


class Mean(models.Model):
    """Ten seconds of a channel, once the samples themselves are gone."""

    probe = models.ForeignKey(Probe, on_delete=models.CASCADE, related_name="means")
    channel = models.CharField(max_length=20)
    starts_at = models.DateTimeField()
    value = models.FloatField()
    count = models.PositiveIntegerField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["probe", "channel", "starts_at"], name="one_mean_per_ten_seconds")
        ]
