"""Each address asks for its right; times are shown in the shop's own time zone; a session tells when it was used last;
no page of a person is kept by a browser.
"""

import time
from zoneinfo import ZoneInfo

from django.core.exceptions import PermissionDenied
from django.utils import timezone

from web.accounts.access import need
from web.accounts.sessions import SEEN
from web.addresses import ANYBODY, SIGNED_IN, asked_at

SEEN_TO_S = 600  # a session is written no oftener for it


class ShopTimeZone:
    """Activates the time zone of the signed-in person's shop for the request."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        shop = getattr(request.user, "shop", None) if request.user.is_authenticated else None
        with timezone.override(ZoneInfo(shop.time_zone) if shop else None):
            return self.get_response(request)


class Rights:
    """Asks at each address for the right that web/addresses.py names, before anything of it is looked up."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        return self.get_response(request)

    def process_view(self, request, view, args, kwargs):
        """Raises RoleNeeded for who may not; a stranger has been sent to sign in before."""
        asked = asked_at(request.resolver_match.view_name, request.method)
        if asked in (ANYBODY, SIGNED_IN):
            return
        if asked is None:
            raise PermissionDenied("the address is not in the list")
        need(request.user, asked, request.user.shop_id)


class Seen:
    """When a session was used last."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        now = int(time.time())
        if request.user.is_authenticated and request.session.get(SEEN, 0) < now - SEEN_TO_S:
            request.session[SEEN] = now
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
