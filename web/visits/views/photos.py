"""Pictures: taken at a visit, and shown to people of the shop only."""

import uuid

from django.contrib import messages
from django.core.files.storage import default_storage
from django.http import FileResponse, Http404, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.cache import cache_control
from django.views.decorators.http import require_GET, require_POST

from web.houses.models import System
from web.visits import changes
from web.visits.access import photo_for, round_for
from web.visits.changes.picture_files import SIDES, name_of
from web.visits.models import Photo

PLATES_SHOWN = 2


@require_POST
def add_photo(request, public_id, number):
    """Keep a picture taken in a round. The page makes its number, so that a retry never doubles."""
    round_ = round_for(request.user, public_id, number)
    return _kept(request, round_.visit.system, round_, request.POST.get("subject", ""))


def _kept(request, system: System, round_, subject: str) -> JsonResponse:
    """Keep the picture that the outbox sends, and answer where it is or why it is not kept."""
    try:
        kept = changes.add_photo(
            request.user, uuid.UUID(request.POST.get("id", "")), system, round_, subject, request.FILES["file"]
        )
    except (ValueError, KeyError) as error:
        refused = isinstance(error, changes.PhotoRefused)
        return JsonResponse({"error": str(error) if refused else "A picture needs a file and a number."}, status=400)
    small = reverse("visits:photo", args=[kept.public_id, "small"])
    return JsonResponse(
        {"small": small, "full": reverse("visits:photo", args=[kept.public_id, "full"]), "subject": kept.subject_label}
    )


@require_POST
def add_nameplate(request, system_id):
    """Keep a picture of a nameplate, without a visit: from a page, or from the outbox."""
    system = _system(request, system_id)
    if request.headers.get("Accept") == "application/json":
        return _kept(request, system, None, "nameplate")
    try:
        changes.add_photo(
            request.user, uuid.UUID(request.POST.get("id", "")), system, None, "nameplate", request.FILES["file"]
        )
    except changes.PhotoRefused as error:
        messages.error(request, str(error))
    except (ValueError, KeyError):
        messages.error(request, "Choose a picture first.")
    return redirect("houses:house", public_id=system.house.public_id)


@require_GET
def plates_of(request, system_id):
    """The pictures of a system's nameplates, large, as a fragment to read from while typing."""
    photos = Photo.objects.visible_to(request.user).filter(system=_system(request, system_id), subject="nameplate")
    return render(request, "visits/_plates_of.html", {"photos": photos.order_by("-id")[:PLATES_SHOWN]})


def _system(request, system_id) -> System:
    return get_object_or_404(System.objects.visible_to(request.user).select_related("house"), public_id=system_id)


@require_GET
@cache_control(private=True, max_age=86400, immutable=True)
def photo(request, public_id, size):
    """A picture's file."""
    found = photo_for(request.user, public_id)
    if size not in SIDES:
        raise Http404
    try:
        return FileResponse(default_storage.open(name_of(found, size)), content_type="image/jpeg")
    except FileNotFoundError as error:
        raise Http404 from error
