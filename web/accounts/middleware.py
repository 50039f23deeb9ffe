"""Times are shown in the shop's own time zone."""

from zoneinfo import ZoneInfo

from django.utils import timezone


class ShopTimeZone:
    """Activates the time zone of the signed-in person's shop for the request."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        shop = getattr(request.user, "shop", None) if request.user.is_authenticated else None
        with timezone.override(ZoneInfo(shop.time_zone) if shop else None):
            return self.get_response(request)
