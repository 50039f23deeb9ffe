"""The check every change makes: is the person of the shop that the thing belongs to, and its lead where need be?"""

from django.core.exceptions import PermissionDenied


def need_shop(actor, shop_id) -> None:
    """Raises PermissionDenied unless the person belongs to this shop."""
    if not actor.shop_id or actor.shop_id != shop_id:
        raise PermissionDenied("it belongs to another shop")


def need_lead(actor, shop_id) -> None:
    """Raises PermissionDenied unless the person is a lead of this shop."""
    need_shop(actor, shop_id)
    if not actor.is_lead:
        raise PermissionDenied("the shop's lead decides it")
