"""What of the gateways a person may see, and which gateway a token belongs to."""

from django.db import models

from web.shell.tokens import hash_of


class GatewayQuerySet(models.QuerySet):
    def visible_to(self, user):
        """The gateways of the person's shop."""
        return self.filter(shop__isnull=False, shop=user.shop_id)

    def of_the_vans(self):
        """Those that go from house to house."""
        return self.filter(house__isnull=True)

    def to_hold_in(self, house):
        """Those whose probes can be held in a house: its own, and the vans' unless the house is simulated."""
        own = models.Q(house=house)
        return self.filter(own if house.is_practice else own | models.Q(house__isnull=True))

    def with_token(self, token: str):
        """The gateway that sends this token, unless it was revoked; none or one."""
        return self.filter(token_hash=hash_of(token), revoked_at__isnull=True)
