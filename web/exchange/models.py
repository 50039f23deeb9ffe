"""Links by which a customer reads of a visit."""

import uuid

from django.conf import settings
from django.db import models

from web.accounts.models import Shop
from web.exchange.querysets import ApiTokenQuerySet, CustomerLinkQuerySet, OfShopQuerySet
from web.visits.models import Visit


class CustomerLink(models.Model):
    """A secret address at which the page of one visit is read, until it expires or is ended. Of the address only its
    hash is kept; how often it was opened is counted.
    """

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="+")
    visit = models.ForeignKey(Visit, on_delete=models.PROTECT, related_name="customer_links")
    token_hash = models.CharField(max_length=64, unique=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    expires_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    opened = models.PositiveIntegerField(default=0)
    opened_at = models.DateTimeField(null=True)

    objects = CustomerLinkQuerySet.as_manager()


class RegisterIntake(models.Model):
    """Customers and systems read from a spreadsheet: its rows, waiting for a yes; then what was made of them, so that
    it can be undone.
    """

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="+")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    read_at = models.DateTimeField(auto_now_add=True)
    file_name = models.CharField(max_length=120)
    rows = models.JSONField()
    left_out = models.JSONField(default=list)
    made_at = models.DateTimeField(null=True)
    houses = models.JSONField(default=list)  # keys of those made
    systems = models.JSONField(default=list)
    undone_at = models.DateTimeField(null=True)
    left = models.JSONField(default=list)  # what was not undone, in words

    objects = OfShopQuerySet.as_manager()


SCOPES = {
    "houses": "Houses, customers and systems",
    "visits": "Visits, readings and verdicts",
    "due": "What is due",
    "refrigerant": "The refrigerant log",
}


class ApiToken(models.Model):
    """A token with which another program reads of the shop, as far as its scopes go. Only its hash is kept."""

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="+")
    name = models.CharField(max_length=60)
    scopes = models.JSONField()
    token_hash = models.CharField(max_length=64, unique=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    used_at = models.DateTimeField(null=True)  # to the hour
    revoked_at = models.DateTimeField(null=True)

    objects = ApiTokenQuerySet.as_manager()

    @property
    def scope_labels(self):
        """What it reads, in words."""
        return [SCOPES[scope] for scope in self.scopes if scope in SCOPES]
