"""Which links into a shop a person may see, and which one an address opens; where a person is signed in."""

from django.contrib.sessions.base_session import BaseSessionManager
from django.db import models
from django.utils import timezone

from web.shell.append_only import AppendOnlyQuerySet
from web.shell.tokens import hash_of


class DoorLinkQuerySet(models.QuerySet):
    def visible_to(self, user):
        """Those of the person's shop."""
        return self.filter(shop__isnull=False, shop=user.shop_id)

    def live(self):
        """Those that open: not used, not ended, not expired."""
        return self.filter(used_at__isnull=True, ended_at__isnull=True, expires_at__gt=timezone.now())

    def with_token(self, token: str):
        """The link of this address, while it opens; none or one."""
        return self.live().filter(token_hash=hash_of(token))


class DeedQuerySet(AppendOnlyQuerySet):
    def visible_to(self, user):
        """Those of the person's shop, the newest first."""
        return self.filter(shop__isnull=False, shop=user.shop_id).order_by("-id")


class SessionQuerySet(models.QuerySet):
    def of(self, person):
        """Where a person is signed in, the one used last first."""
        return self.filter(person=person, expire_date__gt=timezone.now()).order_by("-seen", "-begun_at")


class SessionManager(BaseSessionManager.from_queryset(SessionQuerySet)):  # type: ignore[misc]
    """Django's for sessions, with ours."""
