"""The one way in for entries, and what is stored, for a tab that wants to catch up."""

import logging

from django.http import JsonResponse
from django.utils import timezone
from django.views.decorators.http import require_GET, require_POST

from web.visits import changes
from web.visits.access import round_for
from web.visits.forms import BatchError, parse_batch
from web.visits.load.filling import stored_sheet
from web.visits.load.material import material_of
from web.visits.load.sheet import current_values

logger = logging.getLogger(__name__)


@require_GET
def current(request, public_id, number):
    """The stored values, for a tab that wants to catch up with another."""
    material = material_of(round_for(request.user, public_id, number))
    return JsonResponse(current_values(stored_sheet(material, request.user)))


@require_POST
def entries(request):
    """A batch from one device, idempotent, answered per item."""
    try:
        items, clock = parse_batch(request.body)
    except BatchError as error:
        return JsonResponse({"error": str(error)}, status=400)
    try:
        answers = changes.store_entries(request.user, items, clock)
    except changes.OwnClockWrong as error:
        logger.error("%s", error)
        return JsonResponse(
            {"error": "The server's clock is wrong. What you entered waits on this device."}, status=503
        )
    return JsonResponse({"clock": timezone.now().isoformat(), "results": [answer.as_json() for answer in answers]})
