"""A simulated house somebody practises on: its visit, the gateway its probes speak through, and its state between two
looks.
"""

import uuid

from django.conf import settings
from django.db import models

from web.probes.models import Gateway
from web.visits.models import Visit


class Practice(models.Model):
    """One simulated house. memory: what web.practice.bridge makes of the plant; advanced_at:
    the moment it shows.
    """

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    visit = models.OneToOneField(Visit, on_delete=models.PROTECT, related_name="practice")
    gateway = models.OneToOneField(Gateway, on_delete=models.PROTECT, related_name="practice")
    begun_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    begun_at = models.DateTimeField(auto_now_add=True)
    memory = models.JSONField()
    advanced_at = models.DateTimeField()
    sequence = models.PositiveBigIntegerField(default=0)

    class Meta:
        indexes = [models.Index(fields=["begun_by", "-begun_at"])]
