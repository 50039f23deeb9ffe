"""The record of what was taken away."""

from django.conf import settings
from django.db import models

from web.shell.append_only import AppendOnly


class Removal(AppendOnly):
    """Rows that were taken away: who did it (none: the scheduled thinning), of which table, how many, and why."""

    person = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.PROTECT, related_name="+")
    table = models.CharField(max_length=60)
    rows = models.PositiveIntegerField()
    why = models.CharField(max_length=200)
    at = models.DateTimeField(auto_now_add=True)
