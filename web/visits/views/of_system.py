"""A system's visits, follow-ups and pictures, as a fragment for the house's page."""

import uuid

from django.shortcuts import get_object_or_404, render
from django.utils import timezone
from django.views.decorators.http import require_GET

from web.houses.models import System
from web.visits.access import next_due_of, with_verdicts
from web.visits.models import FollowUp, Photo, PlannedVisit, Visit

SHOWN = 8


@require_GET
def of_system(request, system_id):
    """The newest visits with their verdicts, what is left to do, the newest pictures."""
    of_shop = System.objects.visible_to(request.user).select_related("house")
    system = get_object_or_404(of_shop, public_id=system_id)
    context = {
        "system": system,
        "planned": PlannedVisit.objects.visible_to(request.user)
        .to_come()
        .filter(system=system)
        .select_related("person")
        .order_by("starts_at")[:SHOWN],
        "next_due": next_due_of(system),
        "today": timezone.localdate(),
        "history": with_verdicts(Visit.objects.visible_to(request.user).filter(system=system).listed())[:SHOWN],
        "follow_ups": FollowUp.objects.visible_to(request.user).filter(system=system).open(),
        "photos": Photo.objects.visible_to(request.user).filter(system=system).order_by("-id")[:SHOWN],
        "photo_id": uuid.uuid4(),
    }
    return render(request, "visits/_of_system.html", context)
