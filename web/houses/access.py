"""Fetching what a person may see of houses; anything else does not exist for them (404, never 403)."""

from django.core.exceptions import PermissionDenied
from django.shortcuts import get_object_or_404

from web.houses.models import House, Instrument, System


def house_for(user, public_id) -> House:
    """A house of the person's shop, or Http404."""
    return get_object_or_404(House.objects.visible_to(user), public_id=public_id)


def need_not_erased(house: House) -> None:
    """Raise PermissionDenied for a house whose customer was erased: its record is closed."""
    if house.erased_at:
        raise PermissionDenied("The customer of this house was erased. Enter the house anew.")


def system_for(user, public_id) -> System:
    """A system with its house and shop, or Http404."""
    return get_object_or_404(System.objects.visible_to(user).select_related("house__shop"), public_id=public_id)


def instrument_for(user, public_id) -> Instrument:
    """An instrument, or Http404."""
    return get_object_or_404(Instrument.objects.visible_to(user), public_id=public_id)
