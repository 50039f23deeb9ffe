"""What the sound visits of a shop teach, and which of them are left out."""

import uuid

from django.conf import settings
from django.db import models
from django.db.models import Q
from django.utils import timezone

from web.accounts.models import Shop
from web.shell.append_only import AppendOnly, AppendOnlyQuerySet
from web.visits.models import Round, Visit

BY_BASELINE, BY_GAUGES, BY_OUTCOME = "baseline", "gauges", "outcome"
CONFIRMED_BY = {
    BY_BASELINE: "sealed as a baseline",
    BY_GAUGES: "confirmed by gauges",
    BY_OUTCOME: "confirmed by what came of it",
}


class Lesson(models.Model):
    """What a sound round teaches, worked out once: made anew where the round was judged anew, or by other rules."""

    round = models.OneToOneField(Round, on_delete=models.CASCADE, related_name="+")
    said = models.PositiveBigIntegerField()  # the assessment's key
    rules_version = models.CharField(max_length=20)
    engine_version = models.CharField(max_length=20)
    confirmed_by = models.CharField(max_length=10)
    content = models.JSONField()


class LeftOutQuerySet(AppendOnlyQuerySet):
    def standing(self, shop):
        """What is left out now: the last word on each visit or person."""
        rows = self.filter(shop=shop).order_by().values("visit", "person")
        last = rows.annotate(last=models.Max("pk")).values("last")
        return self.filter(pk__in=last, back=False)


class LeftOut(AppendOnly):
    """A lead says that a visit, or a person's visits, teach nothing; or that they teach again (back)."""

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="+", editable=False)
    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    visit = models.ForeignKey(Visit, null=True, on_delete=models.PROTECT, related_name="+")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.PROTECT, related_name="+")
    why = models.CharField(max_length=200)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(default=timezone.now)
    back = models.BooleanField(default=False)

    objects = LeftOutQuerySet.as_manager()

    class Meta:
        constraints = [
            models.CheckConstraint(
                condition=Q(visit__isnull=True, person__isnull=False) | Q(visit__isnull=False, person__isnull=True),
                name="left_out_is_a_visit_or_a_person",
            )
        ]
        indexes = [models.Index(fields=["shop", "-id"])]
