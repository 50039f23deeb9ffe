"""The one check every change makes: is the person of the shop that the thing belongs to?"""

from django.core.exceptions import PermissionDenied


def need_shop(actor, shop_id) -> None:
    """Raises PermissionDenied unless the person belongs to this shop."""
    if not actor.shop_id or actor.shop_id != shop_id:
        raise PermissionDenied("it belongs to another shop")
