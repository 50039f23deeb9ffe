"""The check every change makes: is the person of the shop that the thing belongs to, and its lead where need be?"""

from django.core.exceptions import PermissionDenied

from web.accounts.models import User


def need_shop(actor, shop_id) -> None:
    """Raises PermissionDenied unless the person belongs to this shop."""
    if not actor.shop_id or actor.shop_id != shop_id:
        raise PermissionDenied("it belongs to another shop")


def need_lead(actor, shop_id) -> None:
    """Raises PermissionDenied unless the person is a lead of this shop."""
    need_shop(actor, shop_id)
    if not actor.is_lead:
        raise PermissionDenied("the shop's lead decides it")


def people_of(user):
    """The people of the person's shop who have not left, by first name."""
    return User.objects.filter(shop__isnull=False, shop=user.shop_id, is_active=True).order_by("first_name")
