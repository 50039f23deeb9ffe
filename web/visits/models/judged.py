"""What was judged of a round, and the rounds that later ones are judged against."""

import uuid

from django.conf import settings
from django.db import models
from django.db.models import Q
from django.utils import timezone

from web.accounts.models import Shop
from web.houses.models import System
from web.shell.append_only import AppendOnly
from web.visits.models.entries import Action, empty
from web.visits.models.visit import Round
from web.visits.querysets import AssessmentQuerySet, BaselineQuerySet, KnownKindsQuerySet, OutcomeQuerySet


class Assessment(AppendOnly):
    """A saved engine result: what was judged, by which engine and rules, from which entries."""

    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="assessments")
    created_at = models.DateTimeField(default=timezone.now, editable=False)
    engine_version = models.CharField(max_length=20)
    rules_version = models.CharField(max_length=20)
    known_kinds = models.PositiveIntegerField(null=True)  # the version of what is known of kinds; None: not used
    kind = models.CharField(max_length=20)
    state = models.CharField(max_length=20, default="")  # the verdict's, so that nobody reads a result for it
    headline = models.CharField(max_length=200)
    entries = models.JSONField()
    result = models.JSONField()

    objects = AssessmentQuerySet.as_manager()

    class Meta:
        indexes = [models.Index(fields=["round", "-id"])]


class KnownKinds(AppendOnly):
    """One version of what the shop knows of sound machines of each kind: learnt from its own visits, or taken in as a
    file. The newest of the source that the house rules name is in force.
    """

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="+", editable=False)
    number = models.PositiveIntegerField()
    source = models.CharField(max_length=20)  # as the house rule names it
    made_at = models.DateTimeField(default=timezone.now)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.PROTECT, related_name="+")
    machines = models.PositiveIntegerField()
    engine_version = models.CharField(max_length=20)
    document = models.TextField()  # the kind file
    says = models.CharField(max_length=300, blank=True, default="")  # of a file: where it comes from

    objects = KnownKindsQuerySet.as_manager()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["shop", "number"], name="one_known_kinds_per_number")]
        indexes = [models.Index(fields=["shop", "source", "-number"])]


class Baseline(models.Model):
    """A round sealed as what its machine does when it is sound; later rounds in its mode are judged against it. It is
    never deleted; it ends by what was done to the machine, by another that takes its place, or by a lead.
    """

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="+", editable=False)
    public_id = models.UUIDField(default=uuid.uuid4, editable=False)  # made by the page, so that twice is once
    system = models.ForeignKey(System, on_delete=models.PROTECT, related_name="baselines")
    mode = models.CharField(max_length=10)
    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="baselines")
    sealed_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    sealed_at = models.DateTimeField(default=timezone.now)
    why = models.CharField(max_length=300)
    lacks = models.JSONField(default=list)  # places of the follow-up walk that were not read
    live = models.BooleanField(null=True, default=True)  # true or none: one live for a system and mode
    ended_at = models.DateTimeField(null=True)
    ended_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.PROTECT, related_name="+")
    ended_why = models.CharField(max_length=300, blank=True, default="")
    was_wrong = models.BooleanField(default=False)  # a lead says so: nothing is held to it, whenever it was read
    ended_by_action = models.ForeignKey(Action, null=True, on_delete=models.PROTECT, related_name="+")

    objects = BaselineQuerySet.as_manager()

    def holds_for(self, round_: Round) -> bool:
        """Whether a round is judged against it: one of the same machine, read later, and before it ended."""
        same = (self.round.visit.system_id, self.round.machine) == (round_.visit.system_id, round_.machine)
        ended = self.ended_at is not None and self.ended_at <= round_.started_at
        return same and self.round.started_at < round_.started_at and not ended and not self.was_wrong

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "public_id"], name="one_baseline_per_number"),
            models.UniqueConstraint(fields=["system", "mode", "live"], name="one_live_baseline_per_mode"),
            models.CheckConstraint(condition=~empty("mode", "why"), name="baseline_says_mode_and_why"),
            models.CheckConstraint(
                condition=Q(live=True, ended_at__isnull=True) | Q(live__isnull=True, ended_at__isnull=False),
                name="baseline_is_live_or_ended",
            ),
        ]


# How it was seen whether a verdict was right.
SEEN_BY = {
    "part": "The part was found faulty",
    "gauges": "By gauges",
    "re_read": "Read again after the fix",
    "seen": "Seen with the eyes",
    "customer": "By what the customer said later",
}


class Outcome(AppendOnly):
    """What became of a verdict: it was right, or wrong and what it was. The last row of a round counts. It keeps what
    was said, which later judging does not change.
    """

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="+", editable=False)
    public_id = models.UUIDField(default=uuid.uuid4, editable=False)  # made by the page, so that twice is once
    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="outcomes")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(default=timezone.now)
    right = models.BooleanField()
    by = models.CharField(max_length=10)
    was = models.CharField(max_length=30, blank=True, default="")  # the group it was, where the verdict was wrong
    words = models.CharField(max_length=300, blank=True, default="")
    engine_version = models.CharField(max_length=20)
    said_state = models.CharField(max_length=20)
    said_group = models.CharField(max_length=30)
    said_mode = models.CharField(max_length=10, null=True)  # none: kept before outcomes knew theirs
    said_headline = models.CharField(max_length=200)
    said_probability = models.FloatField()

    objects = OutcomeQuerySet.as_manager()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "public_id"], name="one_outcome_per_number"),
            models.CheckConstraint(condition=Q(by__in=list(SEEN_BY)), name="outcome_was_seen_somehow"),
        ]
        indexes = [models.Index(fields=["shop", "-id"])]

    @property
    def by_words(self):
        """How it was seen."""
        return SEEN_BY[self.by]
