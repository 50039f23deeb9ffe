"""What lists choose by, worked out of the record by the queue, and the addresses of calendars."""

import uuid

from django.conf import settings
from django.db import models

from web.accounts.models import Shop
from web.history.querysets import CalendarFeedQuerySet, VisitSummaryQuerySet
from web.houses.models import System
from web.visits.models import Closing, Visit


class VisitSummary(models.Model):
    """What one finished visit came to. It is worked out of the record, and made anew when that changes; nothing is
    kept here alone.
    """

    visit = models.OneToOneField(Visit, on_delete=models.CASCADE, primary_key=True, related_name="summary")
    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="+")
    system = models.ForeignKey(System, on_delete=models.PROTECT, related_name="+")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    closing = models.ForeignKey(Closing, on_delete=models.PROTECT, related_name="+")  # the last it was worked out of
    started_at = models.DateTimeField()
    machine = models.PositiveSmallIntegerField(default=1)  # which of the system: another one owes nothing to it
    finished = models.BooleanField(default=True)  # not opened again since
    is_last = models.BooleanField(null=True)  # of its machine; true or none: an index finds them
    state = models.CharField(max_length=20, default="")  # of the last verdict; '' where nothing was read
    group = models.CharField(max_length=30, default="")
    headline = models.CharField(max_length=200, default="")
    fixed = models.BooleanField(default=False)  # something was mended, or refrigerant moved
    hooked = models.BooleanField(default=False)
    without_gauges = models.CharField(max_length=200, default="")  # the headline without them, where it is another
    calls_back = models.BooleanField(default=False)  # unplanned, soon after a fix of the same machine
    drifts = models.CharField(max_length=600, default="")  # of the machine's last visit, in words
    filter_due = models.DateField(null=True)  # of the machine's last visit
    filter_why = models.CharField(max_length=120, default="")

    objects = VisitSummaryQuerySet.as_manager()

    class Meta:
        indexes = [
            # Read from its end: an index that falls would have the key rise in it, and the order of a list does not.
            models.Index(fields=["shop", "finished", "started_at"]),
            # What the lists of machines choose and order by: they are counted without a look at the rows.
            models.Index(fields=["shop", "is_last", "finished", "state", "machine", "system", "started_at"]),
            models.Index(fields=["shop", "is_last", "drifts"]),
            models.Index(fields=["shop", "filter_due"]),
            models.Index(fields=["closing"]),
        ]


class CalendarFeed(models.Model):
    """A secret address at which calendar programs read the plans of one person, or of the whole shop (person: None).
    Of the address only its hash is kept; a new one ends the old one.
    """

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="+")
    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.PROTECT, related_name="calendar_feeds"
    )
    token_hash = models.CharField(max_length=64, unique=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True)

    objects = CalendarFeedQuerySet.as_manager()

    class Meta:
        indexes = [models.Index(fields=["shop", "ended_at"])]
