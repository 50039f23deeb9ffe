"""Probes on a sheet: held to a place, and what they say now."""

from django.http import JsonResponse
from django.shortcuts import get_object_or_404
from django.utils import timezone
from django.views.decorators.http import require_GET, require_POST

from web.probes import bridge as probes_bridge
from web.probes.models import Newest, Probe
from web.visits import changes
from web.visits.access import holdable, visit_for
from web.visits.forms import PairForm
from web.visits.models import Pairing


@require_POST
def pair(request, public_id):
    """Hold a probe of the shop to a place; an empty probe lets go."""
    visit = visit_for(request.user, public_id)
    form = PairForm(request.POST)
    if not form.is_valid():
        return JsonResponse({"error": "Choose a probe and a place."}, status=400)
    chosen, probe = form.cleaned_data, None
    if chosen["probe"]:
        mine = Probe.objects.filter(gateway__in=holdable(request.user, visit.system)).select_related("gateway")
        probe = get_object_or_404(mine, public_id=chosen["probe"])
    changes.pair(request.user, visit, chosen["stop"], chosen["place"], probe)
    return JsonResponse({"paired": bool(probe)})


@require_GET
def live(request, public_id):
    """What the probes held to places of this visit say now. Asked for every second: two queries, no assessment."""
    of_visit = Pairing.objects.filter(visit__public_id=public_id, visit__shop=request.user.shop_id, live=True)
    pairings = list(of_visit.select_related("probe")) if request.user.shop_id else []
    if not pairings:
        visit_for(request.user, public_id)  # nothing held here; or not this person's to see
    rows = Newest.objects.filter(probe__in=[p.probe_id for p in pairings]) if pairings else []
    channels: dict = {}
    for row in rows:
        channels.setdefault(row.probe_id, []).append(probes_bridge.said(row, timezone.now()))
    told = [
        {
            "stop": p.stop,
            "place": p.place,
            "probe": str(p.probe.public_id),
            "name": p.probe.name,
            "channels": channels.get(p.probe_id, []),
        }
        for p in pairings
    ]
    return JsonResponse({"pairings": told})
