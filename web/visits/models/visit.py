"""A visit, its rounds, and how it ends."""

import uuid
from datetime import datetime
from functools import cached_property

from django.conf import settings
from django.db import models
from django.db.models import Q
from django.urls import reverse
from django.utils import timezone

from web.accounts.models import Shop
from web.houses.models import System
from web.shell.append_only import AppendOnly
from web.visits.querysets import ClosingQuerySet, RoundQuerySet, VisitQuerySet


class Visit(models.Model):
    """One visit to one system."""

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="visits")
    # Made by the page, so that pressing twice starts one.
    public_id = models.UUIDField(default=uuid.uuid4, editable=False)
    system = models.ForeignKey(System, on_delete=models.PROTECT, related_name="visits")
    started_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="visits")
    started_at = models.DateTimeField()
    # None: who started it.
    with_person = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.PROTECT, related_name="holding"
    )
    # What lists choose by, so that none goes through every visit: the last closing that decides ("" for none), and
    # whether the house is simulated.
    ended = models.CharField(max_length=10, blank=True, default="")
    is_practice = models.BooleanField(default=False)
    # Of the machine's last finished visit only: when maintenance is due, and whether a fix was not read again.
    next_due = models.DateField(null=True)
    next_mode = models.CharField(max_length=10, blank=True, default="")  # in which maintenance is due; '' not said
    left_unread = models.BooleanField(null=True)  # true or none: few are, and an index finds them

    objects = VisitQuerySet.as_manager()

    # Where the due list loads one: when it was finished, and why nobody read again.
    finished_at: datetime
    why: str

    class Meta:
        constraints = [models.UniqueConstraint(fields=["shop", "public_id"], name="one_visit_per_number")]
        indexes = [
            models.Index(fields=["system", "-started_at"]),
            # With the key, so that the order of a list is the index's own.
            models.Index(fields=["shop", "is_practice", "-started_at", "-id"]),
            models.Index(fields=["shop", "is_practice", "ended", "-started_at", "-id"]),
            models.Index(fields=["shop", "is_practice", "next_due"]),
            models.Index(fields=["shop", "left_unread"]),
        ]

    def get_absolute_url(self):
        return reverse("visits:sheet", args=[self.public_id])

    @property
    def is_finished(self) -> bool:
        """Whether it is finished and was not opened again."""
        return self.ended == FINISHED

    @cached_property
    def finished_on(self) -> datetime | None:
        """When it was finished, as it was loaded; None while it is open."""
        last = self.closings.deciding().first() if self.is_finished else None
        return last.at if last else None

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
    # Which machine was read: its plates as last corrected judge the round.
    machine = models.PositiveSmallIntegerField(default=1)

    objects = RoundQuerySet.as_manager()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["visit", "number"], name="one_round_per_number")]


class Handover(AppendOnly):
    """A visit passed from one person to another. Nothing of the visit changes hands but the work."""

    visit = models.ForeignKey(Visit, on_delete=models.PROTECT, related_name="handovers")
    given_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    given_to = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    given_at = models.DateTimeField(default=timezone.now, editable=False)
    note = models.CharField(max_length=300, blank=True, default="")


FINISHED, REVIEWED, RETURNED, REOPENED = "finished", "reviewed", "returned", "reopened"
ENDS = {
    FINISHED: "Finished", REVIEWED: "Reviewed", RETURNED: "Returned to be done again", REOPENED: "Reopened",
}  # fmt: skip


class Closing(AppendOnly):
    """One step at the end of a visit: it was finished, reviewed, returned or reopened. The last finish, return or
    reopening says whether the visit is open; a review leaves it as it is.
    """

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="+", editable=False)
    public_id = models.UUIDField(default=uuid.uuid4, editable=False)  # made by the page, so that twice is once
    visit = models.ForeignKey(Visit, on_delete=models.PROTECT, related_name="closings")
    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="+")  # the last one then
    did = models.CharField(max_length=10)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(default=timezone.now)
    for_customer = models.CharField(max_length=1000, blank=True, default="")
    for_shop = models.CharField(max_length=1000, blank=True, default="")
    # What was seen to before leaving: id -> "" where it was done, else why not.
    looks = models.JSONField(default=dict)
    no_recheck_why = models.CharField(max_length=200, blank=True, default="")
    next_due = models.DateField(null=True, blank=True)
    next_mode = models.CharField(max_length=10, blank=True, default="")  # a test in cooling or in heating
    pictures = models.JSONField(default=list)  # ids of those chosen for the report

    objects = ClosingQuerySet.as_manager()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "public_id"], name="one_closing_per_number"),
            models.CheckConstraint(condition=Q(did__in=list(ENDS)), name="closing_is_a_known_step"),
        ]
        indexes = [models.Index(fields=["visit", "-id"])]

    @property
    def label(self):
        return ENDS[self.did]
