"""Background work as it is kept."""

import uuid

from django.conf import settings
from django.db import models

from web.accounts.models import Shop
from web.background.kinds import label_of

WAITING, RUNNING, STOPPED, FAILED, FINISHED = "waiting", "running", "stopped", "failed", "finished"
STATES = {
    WAITING: "Waiting",
    RUNNING: "Running",
    STOPPED: "Stopped",
    FAILED: "Failed",
    FINISHED: "Finished",
}
GOES_ON = (WAITING, RUNNING)
LONGEST_TEXT = 300


class WorkQuerySet(models.QuerySet):
    def visible_to(self, user):
        """The work of the person's shop."""
        return self.filter(shop__isnull=False, shop=user.shop_id)

    def last_due(self):
        """The newest of each kind that is due by itself, for every shop alike."""
        newest = self.filter(due__isnull=False).order_by().values("kind").annotate(last=models.Max("pk"))
        return self.filter(pk__in=newest.values("last")).order_by("kind")

    def newest(self):
        """The newest first."""
        return self.order_by("-created_at", "-id")


class Work(models.Model):
    """One piece of background work. shop: None for what the whole installation needs. due: the name of a scheduled
    one's due time, so that two schedulers start it once. wants: what was asked; cursor: where the next step begins.
    """

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    shop = models.ForeignKey(Shop, null=True, on_delete=models.PROTECT, related_name="+")
    kind = models.CharField(max_length=40)
    due = models.CharField(max_length=80, null=True, unique=True)
    wants = models.JSONField(default=dict)
    state = models.CharField(max_length=10, default=WAITING)
    done = models.PositiveIntegerField(default=0)
    total = models.PositiveIntegerField(null=True)
    cursor = models.JSONField(default=dict)
    says = models.CharField(max_length=LONGEST_TEXT, blank=True, default="")
    last_error = models.CharField(max_length=LONGEST_TEXT, blank=True, default="")
    started_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.PROTECT, related_name="+")
    created_at = models.DateTimeField(auto_now_add=True)
    beat_at = models.DateTimeField(auto_now_add=True)  # when something was last heard of it
    ended_at = models.DateTimeField(null=True)

    objects = WorkQuerySet.as_manager()

    class Meta:
        indexes = [
            models.Index(fields=["shop", "-created_at"]),
            models.Index(fields=["state", "beat_at"]),
            models.Index(fields=["kind", "-created_at"]),
        ]

    @property
    def label(self) -> str:
        """What kind of work it is, in words."""
        return label_of(self.kind)

    @property
    def state_label(self) -> str:
        """How far it is, in words."""
        return STATES[self.state]

    @property
    def goes_on(self) -> bool:
        """Whether it runs, or waits its turn."""
        return self.state in GOES_ON

    @property
    def percent(self) -> int | None:
        """How much of it is done; None where nobody knows how much there is."""
        return None if not self.total else min(100, int(100 * self.done / self.total))
