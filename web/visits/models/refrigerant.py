"""Cylinders, and what was found of leaks. What went in or out of a machine are the steps of charging."""

import uuid

from django.conf import settings
from django.db import models
from django.db.models import Q
from django.utils import timezone

from web.accounts.models import Shop
from web.shell.append_only import AppendOnly
from web.visits.models.entries import Entry, empty
from web.visits.models.visit import Round
from web.visits.querysets import OfShopKeptQuerySet, OfShopQuerySet

LEAK_FOUND, NO_LEAK_FOUND, NOT_SEARCHED = "found", "none", "not_searched"
SEARCHED = {
    LEAK_FOUND: "Leak found",
    NO_LEAK_FOUND: "Searched, none found",
    NOT_SEARCHED: "Not searched",
}
TESTED = {
    "": "Not tested",
    "nitrogen": "Held pressure with nitrogen",
    "vacuum": "Held a vacuum",
    "soap": "Soap bubbles",
    "electronic": "Electronic detector",
}


class LeakSearch(Entry, AppendOnly):
    """What came of looking for a leak at a visit. The last of a visit counts."""

    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="leak_searches")
    found = models.CharField(max_length=15)
    where = models.CharField(max_length=200, blank=True, default="")
    repaired = models.BooleanField(default=False)
    tested = models.CharField(max_length=15, blank=True, default="")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "uuid"], name="one_leak_search_per_number"),
            models.CheckConstraint(
                condition=Q(found__in=list(SEARCHED), tested__in=list(TESTED)), name="leak_search_is_a_known_outcome"
            ),
        ]
        indexes = [models.Index(fields=["round", "id"])]

    @property
    def label(self):
        """What came of it, in words."""
        words = SEARCHED[self.found] + (f": {self.where}" if self.where else "")
        mended = f", repaired, {TESTED[self.tested].lower()}" if self.repaired else ""
        return f"{words}{mended}"


class Cylinder(models.Model):
    """A cylinder of the shop's, by the label that is written on it."""

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="cylinders", editable=False)
    public_id = models.UUIDField(default=uuid.uuid4, editable=False)
    label = models.CharField(max_length=40)
    refrigerant = models.CharField(max_length=10)
    is_recovery = models.BooleanField(default=False)
    tare_oz = models.FloatField(null=True)
    holds_oz = models.FloatField(null=True)
    added_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    added_at = models.DateTimeField(default=timezone.now)

    objects = OfShopQuerySet.as_manager()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "public_id"], name="one_cylinder_per_number"),
            models.UniqueConstraint(fields=["shop", "label"], name="one_cylinder_per_label"),
            models.CheckConstraint(condition=~empty("label", "refrigerant"), name="cylinder_has_label_and_refrigerant"),
        ]

    def __str__(self):
        return self.label


BOUGHT, FILLED, RETURNED_TO_SUPPLIER, CORRECTED = "bought", "filled", "returned", "corrected"
MOVES = {
    BOUGHT: "Bought",
    FILLED: "Filled",
    RETURNED_TO_SUPPLIER: "Returned to the supplier",
    CORRECTED: "Corrected",
}


class CylinderMove(AppendOnly):
    """What came into or left a cylinder other than at a machine [oz, out is negative]. A correction is a row more."""

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="+", editable=False)
    public_id = models.UUIDField(default=uuid.uuid4, editable=False)
    cylinder = models.ForeignKey(Cylinder, on_delete=models.PROTECT, related_name="moves")
    did = models.CharField(max_length=10)
    oz = models.FloatField()
    why = models.CharField(max_length=200, blank=True, default="")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(default=timezone.now)

    objects = OfShopKeptQuerySet.as_manager()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "public_id"], name="one_cylinder_move_per_number"),
            models.CheckConstraint(condition=Q(did__in=list(MOVES)), name="cylinder_move_is_a_known_one"),
            models.CheckConstraint(condition=~Q(did=CORRECTED) | ~Q(why=""), name="cylinder_correction_says_why"),
        ]
        indexes = [models.Index(fields=["cylinder", "-id"]), models.Index(fields=["shop", "-at"])]

    @property
    def label(self):
        """What happened, in words."""
        return MOVES[self.did]
