"""What of the visits a person may see, and which entries are current."""

from django.db import models


class VisitQuerySet(models.QuerySet):
    def visible_to(self, user):
        """The visits to houses of the person's shop."""
        return self.filter(system__house__shop__isnull=False, system__house__shop=user.shop_id)

    def for_list(self):
        """With what a list shows, in one query."""
        return self.select_related("system__house", "started_by").order_by("-started_at")


class RoundQuerySet(models.QuerySet):
    def visible_to(self, user):
        """The rounds of visits to houses of the person's shop."""
        return self.filter(visit__system__house__shop__isnull=False, visit__system__house__shop=user.shop_id)


class EntryQuerySet(models.QuerySet):
    def in_order(self):
        """As the devices took them: by corrected device time, then device sequence."""
        return self.order_by("taken_at", "sequence", "id")
