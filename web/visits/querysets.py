"""What of the visits a person may see, and which entries are current."""

from django.db import models


class VisitQuerySet(models.QuerySet):
    def visible_to(self, user):
        """The visits to houses of the person's shop."""
        return self.filter(system__house__shop__isnull=False, system__house__shop=user.shop_id)

    def for_list(self):
        """With what a list shows, in one query; practice is no visit of the shop's."""
        return (
            self.filter(system__house__is_practice=False)
            .select_related("system__house", "started_by", "with_person")
            .order_by("-started_at")
        )


class RoundQuerySet(models.QuerySet):
    def visible_to(self, user):
        """The rounds of visits to houses of the person's shop."""
        return self.filter(visit__system__house__shop__isnull=False, visit__system__house__shop=user.shop_id)


class EntryQuerySet(models.QuerySet):
    def in_order(self):
        """As the devices took them: by corrected device time, then device sequence."""
        return self.order_by("taken_at", "sequence", "id")


class PhotoQuerySet(models.QuerySet):
    def visible_to(self, user):
        """The pictures of systems of the person's shop."""
        return self.filter(system__house__shop__isnull=False, system__house__shop=user.shop_id)


class FollowUpQuerySet(models.QuerySet):
    def visible_to(self, user):
        """The follow-ups on systems of the person's shop."""
        return self.filter(system__house__shop__isnull=False, system__house__shop=user.shop_id)

    def open(self):
        """Those not done yet, the ones that block a decision first, then by due day."""
        return self.filter(closed_at__isnull=True, system__house__is_practice=False).order_by(
            models.Case(models.When(blocks="", then=1), default=0), "due_on", "opened_at"
        )
