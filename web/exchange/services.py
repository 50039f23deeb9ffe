"""Every change to what leaves the shop."""

from datetime import timedelta

from django.db.models import F
from django.utils import timezone

from web.accounts.access import need_shop
from web.exchange.models import CustomerLink
from web.shell.tokens import hash_of, new_token
from web.visits.access import finished_moment
from web.visits.models import Visit

LASTS_DAYS = {30: "a month", 90: "three months", 365: "a year"}
USUAL_DAYS = 90


class LinkRefused(ValueError):
    """Why no link is made, in words for the person."""


def make_link(actor, visit: Visit, days: int = USUAL_DAYS) -> tuple[CustomerLink, str]:
    """A link to the customer's page of a finished visit, and its token: the only time it can be seen. Raises
    LinkRefused.
    """
    need_shop(actor, visit.shop_id)
    if days not in LASTS_DAYS:
        raise LinkRefused("Choose how long the link lasts.")
    if finished_moment(visit) is None:
        raise LinkRefused("Finish the visit first: the customer reads what was closed.")
    token = new_token()
    expires = timezone.now() + timedelta(days=days)
    row = CustomerLink.objects.create(
        shop=visit.shop, visit=visit, token_hash=hash_of(token), made_by=actor, expires_at=expires
    )
    return row, token


def end_link(actor, link: CustomerLink) -> None:
    """The link opens no more; ending it twice keeps the first moment."""
    need_shop(actor, link.shop_id)
    CustomerLink.objects.filter(pk=link.pk, ended_at__isnull=True).update(ended_at=timezone.now())


def count_opened(link: CustomerLink) -> None:
    """Somebody opened the link."""
    CustomerLink.objects.filter(pk=link.pk).update(opened=F("opened") + 1, opened_at=timezone.now())
