"""A visit, its rounds, and the append-only entries (readings and observations) in them.

An entry is never changed or deleted: a correction is a new row that names the one it supersedes.
"""

import uuid

from django.conf import settings
from django.db import models
from django.db.models import Q
from django.urls import reverse
from django.utils import timezone

from web.accounts.models import Shop
from web.houses.models import Instrument, System
from web.probes.models import Probe
from web.shell.append_only import AppendOnly
from web.visits.querysets import (
    AssessmentQuerySet,
    ClosingQuerySet,
    EntryQuerySet,
    FollowUpQuerySet,
    PhotoQuerySet,
    RoundQuerySet,
    VisitQuerySet,
)

TYPED, PROBE, WEATHER, ESTIMATE, NOT_POSSIBLE, WITHDRAWN = (
    "typed",
    "probe",
    "weather",
    "estimate",
    "not_possible",
    "withdrawn",
)
SOURCES = {
    TYPED: "typed",
    PROBE: "held from a probe",
    WEATHER: "by the weather service",
    ESTIMATE: "stated guess",
    NOT_POSSIBLE: "not possible",
    WITHDRAWN: "undone",
}
VALUELESS = (NOT_POSSIBLE, WITHDRAWN)
SUBJECTS = {
    "nameplate": "Nameplate",
    "coil": "Coil",
    "filter": "Filter",
    "thermal": "Thermal picture",
    "other": "Other",
}


def _empty(*names: str) -> Q:
    """Any of the columns is empty text."""
    return Q(*((name, "") for name in names), _connector=Q.OR)


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

    objects = VisitQuerySet.as_manager()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["shop", "public_id"], name="one_visit_per_number")]
        indexes = [
            models.Index(fields=["system", "-started_at"]),
            # With the key, so that the order of a list is the index's own.
            models.Index(fields=["shop", "is_practice", "-started_at", "-id"]),
            models.Index(fields=["shop", "is_practice", "ended", "-started_at", "-id"]),
        ]

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
    # Which machine was read: its plates as last corrected judge the round.
    machine = models.PositiveSmallIntegerField(default=1)

    objects = RoundQuerySet.as_manager()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["visit", "number"], name="one_round_per_number")]


class Entry(models.Model):
    """What every entry carries. uuid is made by the device, so that a retry never doubles."""

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="+", editable=False)
    uuid = models.UUIDField(editable=False)
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
        if not self.pk:
            self.shop_id = self.round.visit.shop_id
        super().save(*args, **kwargs)


class Reading(Entry, AppendOnly):
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
    # How its series stood then; '' where nobody watched.
    steady = models.CharField(max_length=10, blank=True, default="")
    swing = models.FloatField(default=0.0)  # how far it went to and fro, in the engine's unit

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "uuid"], name="one_reading_per_number"),
            models.CheckConstraint(
                condition=~_empty("place", "quantity", "slot", "unit", "source"), name="reading_names_everything"
            ),
            models.CheckConstraint(
                condition=Q(value__isnull=True, source__in=VALUELESS)
                | (Q(value__isnull=False) & ~Q(source__in=VALUELESS)),
                name="reading_has_a_value_where_its_source_has",
            ),
        ]
        indexes = [models.Index(fields=["round", "place", "slot"])]


class Observation(Entry, AppendOnly):
    """Something seen, in the degrees of the vocabulary."""

    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="observations")
    seen = models.CharField(max_length=40)
    degree = models.CharField(max_length=20)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "uuid"], name="one_observation_per_number"),
            models.CheckConstraint(condition=~_empty("seen", "degree"), name="observation_names_everything"),
        ]
        indexes = [models.Index(fields=["round", "seen"])]


class Remark(Entry, AppendOnly):
    """Something said or noted in words: the complaint, a fault code, a remark."""

    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="remarks")
    about = models.CharField(max_length=20)
    text = models.CharField(max_length=600)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "uuid"], name="one_remark_per_number"),
            models.CheckConstraint(condition=~_empty("about", "text"), name="remark_says_something"),
        ]
        indexes = [models.Index(fields=["round", "about"])]


class Action(Entry, AppendOnly):
    """What was done after a round, before the next one."""

    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="actions")
    done = models.CharField(max_length=30)
    text = models.CharField(max_length=300, blank=True, default="")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "uuid"], name="one_action_per_number"),
            models.CheckConstraint(condition=~_empty("done"), name="action_names_what_was_done"),
        ]
        indexes = [models.Index(fields=["round", "done"])]


OPENED, ON, OFF = "opened", "on", "off"
HOOKED = {OPENED: "Opened with a reason", ON: "Gauges connected", OFF: "Gauges off"}


class HookUp(Entry, AppendOnly):
    """Gauges at a circuit: the station was opened with a reason, the hoses were connected, the hoses came off."""

    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="hook_ups")
    did = models.CharField(max_length=10)
    why = models.CharField(max_length=300, blank=True, default="")  # where gauges were not warranted
    certificate = models.CharField(max_length=40, blank=True, default="")  # the person's, as it was then
    ports = models.CharField(max_length=20, blank=True, default="")  # sides: 'low,high'
    checks = models.JSONField(default=list)  # what was seen to before connecting, by id
    hose_returned = models.BooleanField(null=True)
    lost_oz = models.FloatField(null=True)
    caps_on = models.BooleanField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "uuid"], name="one_hook_up_per_number"),
            models.CheckConstraint(condition=Q(did__in=list(HOOKED)), name="hook_up_is_a_known_step"),
        ]
        indexes = [models.Index(fields=["round", "id"])]

    @property
    def label(self):
        return HOOKED[self.did]


ADDED, RECOVERED = "add", "recover"


class ChargeStep(Entry, AppendOnly):
    """Refrigerant moved in one weighed step. The latest row of a number counts; taken back, it has no weights."""

    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="charge_steps")
    number = models.PositiveSmallIntegerField()
    way = models.CharField(max_length=10)
    before_oz = models.FloatField(null=True)  # the cylinder on the scale
    after_oz = models.FloatField(null=True)
    cylinder = models.CharField(max_length=40, blank=True, default="")
    why = models.CharField(max_length=300, blank=True, default="")  # it was moved before the machine was proved
    tare_oz = models.FloatField(null=True)  # of a recovery cylinder
    capacity_oz = models.FloatField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "uuid"], name="one_charge_step_per_number"),
            models.CheckConstraint(
                condition=Q(way=WITHDRAWN, before_oz__isnull=True, after_oz__isnull=True)
                | Q(way__in=[ADDED, RECOVERED], before_oz__isnull=False, after_oz__isnull=False),
                name="charge_step_has_weights_unless_taken_back",
            ),
        ]
        indexes = [models.Index(fields=["round", "number"])]

    @property
    def oz(self):
        """How much was moved [oz]; 0 where it was taken back."""
        return abs(self.after_oz - self.before_oz) if self.way != WITHDRAWN else 0.0


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
    received_at = models.DateTimeField(auto_now_add=True)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()

    objects = PhotoQuerySet.as_manager()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["shop", "public_id"], name="one_photo_per_number")]
        indexes = [models.Index(fields=["system", "-id"])]

    @property
    def subject_label(self):
        return SUBJECTS.get(self.subject, self.subject)


class Handover(AppendOnly):
    """A visit passed from one person to another. Nothing of the visit changes hands but the work."""

    visit = models.ForeignKey(Visit, on_delete=models.PROTECT, related_name="handovers")
    given_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    given_to = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    given_at = models.DateTimeField(auto_now_add=True)
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
            models.CheckConstraint(condition=~_empty("text"), name="follow_up_says_something"),
        ]
        indexes = [models.Index(fields=["system", "closed_at"]), models.Index(fields=["shop", "closed_at", "due_on"])]


BLOCKS = {"": "Nothing", "charge": "Adding refrigerant", "baseline": "A new baseline"}


class Assessment(AppendOnly):
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
