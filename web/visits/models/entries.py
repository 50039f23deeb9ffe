"""The append-only entries of a round: readings, what was seen, said and done, gauges and refrigerant.

An entry is never changed or deleted: a correction is a new row that names the one it supersedes.
"""

from django.conf import settings
from django.db import models
from django.db.models import Q
from django.utils import timezone

from web.accounts.models import Shop
from web.houses.models import Instrument
from web.probes.models import Probe
from web.shell.append_only import AppendOnly
from web.visits.models.visit import Round
from web.visits.querysets import EntryQuerySet

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


def empty(*names: str) -> Q:
    """Any of the columns is empty text."""
    return Q(*((name, "") for name in names), _connector=Q.OR)


class Entry(models.Model):
    """What every entry carries. uuid is made by the device, so that a retry never doubles."""

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="+", editable=False)
    uuid = models.UUIDField(editable=False)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    device = models.UUIDField()
    sequence = models.PositiveBigIntegerField()  # counts up on the device
    taken_at = models.DateTimeField()  # device clock, corrected by clock_offset_ms
    clock_offset_ms = models.BigIntegerField(default=0)  # server clock minus device clock when it was sent
    received_at = models.DateTimeField(default=timezone.now, editable=False)
    supersedes = models.UUIDField(null=True)  # may name an entry that has not arrived yet
    round: models.ForeignKey  # each of them has its own

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
    value = models.FloatField(null=True)  # none: not possible, or undone
    reason = models.CharField(max_length=20, blank=True, default="")  # why it was not possible
    source = models.CharField(max_length=20)
    instrument = models.ForeignKey(Instrument, null=True, on_delete=models.PROTECT, related_name="+")
    method = models.CharField(max_length=30, blank=True, default="")
    plane = models.CharField(max_length=10, blank=True, default="")
    probe = models.ForeignKey(Probe, null=True, on_delete=models.PROTECT, related_name="+")  # which was held
    # How steady its series was then; '' where nobody watched.
    steady = models.CharField(max_length=10, blank=True, default="")
    swing = models.FloatField(default=0.0)  # how far it went to and fro, in the engine's unit

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "uuid"], name="one_reading_per_number"),
            models.CheckConstraint(
                condition=~empty("place", "quantity", "slot", "unit", "source"), name="reading_names_everything"
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
            models.CheckConstraint(condition=~empty("seen", "degree"), name="observation_names_everything"),
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
            models.CheckConstraint(condition=~empty("about", "text"), name="remark_says_something"),
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
            models.CheckConstraint(condition=~empty("done"), name="action_names_what_was_done"),
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
    certificate_until = models.DateField(null=True)
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

    @property
    def under(self):
        """Under which certificate, in words."""
        if not self.certificate:
            return "no certificate on record"
        ran_out = self.certificate_until and self.certificate_until < timezone.localdate(self.taken_at)
        ended = f", which ran out on {self.certificate_until:%b %-d, %Y}" if ran_out else ""
        return f"certificate {self.certificate}{ended}"


ADDED, RECOVERED = "add", "recover"


class ChargeStep(Entry, AppendOnly):
    """Refrigerant moved in one weighed step. The latest row of a number counts; undone, it has no weights."""

    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="charge_steps")
    number = models.PositiveSmallIntegerField()
    way = models.CharField(max_length=10)
    before_oz = models.FloatField(null=True)  # the cylinder on the scale
    after_oz = models.FloatField(null=True)
    cylinder = models.CharField(max_length=40, blank=True, default="")
    why = models.CharField(max_length=300, blank=True, default="")  # it was moved before the machine was proved
    refrigerant = models.CharField(max_length=10, blank=True, default="")  # where it is not the plate's
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
        """How much was moved [oz]; 0 where it was undone."""
        before, after = self.weighed
        return abs(after - before)

    @property
    def weighed(self) -> tuple[float, float]:
        """What the scale said before and after [oz]; both 0 where it was undone."""
        return self.before_oz or 0.0, self.after_oz or 0.0
