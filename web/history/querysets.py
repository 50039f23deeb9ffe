"""What of the summaries and the calendars a person may see."""

from django.db import models

from web.shell.tokens import hash_of


class VisitSummaryQuerySet(models.QuerySet):
    def visible_to(self, user):
        """Those of the person's shop; practice is no work of the shop's."""
        return self.filter(shop__isnull=False, shop=user.shop_id)


class CalendarFeedQuerySet(models.QuerySet):
    def visible_to(self, user):
        """Those of the person's shop."""
        return self.filter(shop__isnull=False, shop=user.shop_id)

    def with_token(self, token: str):
        """The feed of this address, unless it was ended, or who has it has left: the person, or who made the shop's;
        none or one.
        """
        left = models.Q(person__is_active=False) | models.Q(made_by__is_active=False)
        return self.filter(token_hash=hash_of(token), ended_at__isnull=True).exclude(left)
