"""The check every change makes: is the person of the shop that the thing belongs to, and may their role do it?"""

from django.core.exceptions import PermissionDenied

from web.accounts.models import User
from web.accounts.rights import RIGHTS, ROLES, may, roles_in_words


class RoleNeeded(PermissionDenied):
    """What somebody may not do whose role is another: in words, for the person."""

    def __init__(self, actor, right: str):
        own = ROLES.get(actor.role, actor.role).lower()
        self.says = f"{RIGHTS[right].words}: that is for a {roles_in_words(right)}. Your role is {own}."
        super().__init__(self.says)


def need(actor, right: str, shop_id) -> None:
    """Raises PermissionDenied unless the person is of this shop, RoleNeeded unless their role may."""
    if not actor.shop_id or actor.shop_id != shop_id:
        raise PermissionDenied("it belongs to another shop")
    if not may(actor, right):
        raise RoleNeeded(actor, right)


def people_of(user):
    """The people of the person's shop who have not left, by first name."""
    return User.objects.filter(shop__isnull=False, shop=user.shop_id, is_active=True).order_by("first_name")


def colleagues_among(people, user):
    """Of people of the shop who were loaded already: those that `people_of` finds, but the person."""
    return sorted((p for p in people if p.is_active and p != user), key=lambda person: person.first_name)
