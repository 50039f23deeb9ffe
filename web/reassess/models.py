"""What a re-assessment said of each round. The verdicts of the visits stay as they are."""

from django.db import models

from web.background.models import Work
from web.shell.append_only import AppendOnly
from web.visits.bridge.results import LONGEST_HEADLINE
from web.visits.models import Round


class Rejudged(AppendOnly):
    """One round in one re-assessment: what was said of it, what is said now, and what of its quantities moved. narrow:
    the whole result is worked out when somebody opens the round.
    """

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="rejudged")
    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="+")
    engine_version = models.CharField(max_length=20)
    rules_version = models.CharField(max_length=20)
    known_kinds = models.PositiveIntegerField(null=True)
    was_state = models.CharField(max_length=20)
    was_group = models.CharField(max_length=30, blank=True, default="")
    was_gauges = models.CharField(max_length=40)
    was_says = models.CharField(max_length=LONGEST_HEADLINE)
    state = models.CharField(max_length=20)
    group = models.CharField(max_length=30, blank=True, default="")
    gauges = models.CharField(max_length=40)
    says = models.CharField(max_length=LONGEST_HEADLINE)
    probabilities = models.JSONField()  # of the groups that may be
    quantities = models.JSONField()  # the ids of those that are held against something else now
    moved = models.BooleanField()  # whether the verdict or the gauge decision differs

    class Meta:
        constraints = [models.UniqueConstraint(fields=["work", "round"], name="one_rejudged_per_round_and_work")]
        indexes = [models.Index(fields=["work", "moved", "-round"])]
