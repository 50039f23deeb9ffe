"""The sheet's pages and its one way in."""

from django.http import JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_GET, require_POST

from web.houses.models import Instrument, System
from web.visits import services
from web.visits.access import visit_for
from web.visits.forms import BatchError, SheetDraft, parse_batch
from web.visits.presenting import page_context, results_context
from web.visits.sheet import assess_stored, current_values, drafted_sheet, stored_sheet


def _stored(request, public_id):
    visit = visit_for(request.user, public_id)
    instruments = list(Instrument.objects.visible_to(request.user))
    return stored_sheet(visit, visit.rounds.order_by("-number").first(), request.user, instruments)


@require_POST
def start(request, system_id):
    """Start a visit to a system."""
    system = get_object_or_404(System.objects.visible_to(request.user).select_related("house"), public_id=system_id)
    visit = services.start_visit(request.user, system)
    return redirect("visits:sheet", public_id=visit.public_id)


@require_GET
def sheet(request, public_id):
    """The sheet as stored."""
    return render(request, "visits/sheet.html", page_context(assess_stored(_stored(request, public_id))))


@require_POST
def preview(request, public_id):
    """Results for what stands in the browser. Stores nothing."""
    drafted = drafted_sheet(_stored(request, public_id), SheetDraft(request.POST))
    return render(request, "visits/_preview.html", results_context(drafted))


@require_GET
def current(request, public_id):
    """The stored values, for a tab that wants to catch up with another."""
    return JsonResponse(current_values(_stored(request, public_id)))


@require_POST
def entries(request):
    """The one way in for readings and observations: a batch, idempotent, answered per item."""
    try:
        items, clock = parse_batch(request.body)
    except BatchError as error:
        return JsonResponse({"error": str(error)}, status=400)
    answers = services.store_entries(request.user, items, clock)
    return JsonResponse({"clock": timezone.now().isoformat(), "results": [answer.as_json() for answer in answers]})
