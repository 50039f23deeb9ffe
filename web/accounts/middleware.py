"""Times are shown in the shop's own time zone; no page of a person is kept by a browser."""

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


class NotKept:
    """A page that a signed-in person sees is not kept: after signing out, *back* shows nothing of it."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        answer = self.get_response(request)
        is_page = answer.get("Content-Type", "").startswith("text/html")
        if request.user.is_authenticated and is_page and not answer.has_header("Cache-Control"):
            answer["Cache-Control"] = "no-store"
        return answer
