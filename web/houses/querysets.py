"""What of the houses a person may see."""

from django.db import models


class HouseQuerySet(models.QuerySet):
    def visible_to(self, user):
        """The houses of the person's shop."""
        return self.filter(shop__isnull=False, shop=user.shop_id)


class SystemQuerySet(models.QuerySet):
    def visible_to(self, user):
        """The systems in the houses of the person's shop."""
        return self.filter(house__shop__isnull=False, house__shop=user.shop_id)


class InstrumentQuerySet(models.QuerySet):
    def visible_to(self, user):
        """The instruments of the person's shop."""
        return self.filter(shop__isnull=False, shop=user.shop_id)
