"""A round's sheet: as a page, and what changes on it while somebody types."""

from django.http import HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET, require_POST

from web.visits.access import around, last_instruments, round_for, rounds_around
from web.visits.forms import SheetDraft
from web.visits.load.filling import drafted_sheet, stored_sheet
from web.visits.load.material import entries_of, material_of
from web.visits.stations import page_context, preview_context
from web.visits.views import typed


@require_GET
def sheet(request, public_id, number=None):
    """A round as stored, every station; the visit's last round unless one is named."""
    material = material_of(round_for(request.user, public_id, number))
    surroundings = around(request.user, material)
    before = next((r for r in reversed(surroundings.rounds) if r.number < material.round.number), None)
    entries_before = entries_of([before], material.instruments, material.people)[before.pk] if before else None
    filled = stored_sheet(material, request.user, last_instruments(request.user), entries_before)
    surroundings.typed = typed.take(request, public_id)
    return render(request, "visits/sheet.html", page_context(filled, surroundings, request.user))


@require_POST
def preview(request, public_id, number):
    """What changes for what is typed in the browser. Stores nothing. When the stored readings have moved the mode, the
    page is asked to come anew.
    """
    material = material_of(round_for(request.user, public_id, number))
    draft = SheetDraft(request.POST)
    drafted = drafted_sheet(material, request.user, draft)
    if draft.mode and drafted.mode != draft.mode:
        return HttpResponse(headers={"HX-Refresh": "true"})
    beside = draft.station == "fix" or (draft.is_first and number > 1)
    surroundings = rounds_around(material) if beside else None
    later = draft.station == "gauges" and material.visit.rounds.filter(number__gt=number).exists()
    context = preview_context(drafted, draft, surroundings, not later)
    return render(request, "visits/_preview.html", context)
