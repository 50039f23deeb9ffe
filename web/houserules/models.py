"""The shop's choices, version by version. A change is a new row; the newest counts, and old visits keep theirs."""

from django.conf import settings
from django.db import models

from web.accounts.models import Shop
from web.shell.append_only import AppendOnly


class Choices(AppendOnly):
    """One version of a shop's house rules: only what differs from the default is held."""

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="house_rules")
    number = models.PositiveIntegerField()
    choices = models.JSONField()
    chosen_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    chosen_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["shop", "number"], name="one_version_per_number")]
        indexes = [models.Index(fields=["shop", "-number"])]
