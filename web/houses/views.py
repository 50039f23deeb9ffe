"""The list of houses, and one house."""

from django.shortcuts import get_object_or_404, render

from web.houses.models import House


def house_list(request):
    """All houses of the shop with their systems."""
    houses = House.objects.visible_to(request.user).prefetch_related("systems")
    return render(request, "houses/list.html", {"houses": houses, "here": "houses"})


def house(request, public_id):
    """One house: its systems, each with the way to start a visit."""
    found = get_object_or_404(House.objects.visible_to(request.user).prefetch_related("systems"), public_id=public_id)
    return render(request, "houses/house.html", {"house": found, "here": "houses"})
