"""Visits that are still to come: who goes to which machine, when, and why."""

import uuid
from datetime import timedelta

from django.conf import settings
from django.db import models
from django.db.models import Q
from django.urls import reverse
from django.utils import timezone

from web.accounts.models import Shop
from web.houses.models import System
from web.shell.append_only import AppendOnly
from web.visits.models.entries import empty
from web.visits.models.visit import Visit
from web.visits.querysets import PlannedVisitQuerySet


class PlannedVisit(models.Model):
    """A visit planned for a person at an hour. It ends by the visit that does it, or by being called off."""

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="+", editable=False)
    public_id = models.UUIDField(default=uuid.uuid4, editable=False)  # made by the page, so that twice is once
    system = models.ForeignKey(System, on_delete=models.PROTECT, related_name="planned")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="planned")
    starts_at = models.DateTimeField()
    minutes = models.PositiveSmallIntegerField(default=60)
    mode = models.CharField(max_length=10, blank=True, default="")  # the test it is for; '' where nobody said
    why = models.CharField(max_length=200)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    changed_at = models.DateTimeField(default=timezone.now)
    revision = models.PositiveIntegerField(default=0)  # how often it was changed: a calendar takes the highest
    visit = models.OneToOneField(Visit, null=True, on_delete=models.PROTECT, related_name="plan")
    called_off_at = models.DateTimeField(null=True)
    called_off_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.PROTECT, related_name="+")
    called_off_why = models.CharField(max_length=200, blank=True, default="")

    objects = PlannedVisitQuerySet.as_manager()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "public_id"], name="one_planned_visit_per_number"),
            models.CheckConstraint(condition=~empty("why"), name="planned_visit_says_why"),
            models.CheckConstraint(condition=Q(minutes__gt=0), name="planned_visit_takes_time"),
        ]
        indexes = [models.Index(fields=["shop", "starts_at"]), models.Index(fields=["person", "starts_at"])]

    def __str__(self):
        return f"a visit to {self.system}"

    def get_absolute_url(self):
        return reverse("history:plan", args=[self.public_id])

    @property
    def ends_at(self):
        """When it should be over."""
        return self.starts_at + timedelta(minutes=self.minutes)

    @property
    def is_to_come(self):
        """Whether nobody has done it or called it off yet."""
        return self.visit_id is None and self.called_off_at is None


class PlanMove(AppendOnly):
    """A planned visit went to another hour or another person, and why."""

    plan = models.ForeignKey(PlannedVisit, on_delete=models.PROTECT, related_name="moves")
    was_at = models.DateTimeField()
    was_with = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    why = models.CharField(max_length=200)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(default=timezone.now)
