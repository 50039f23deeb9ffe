"""The page of simulated houses, and the panel on such a house's sheet."""

from django.http import Http404, HttpResponseBadRequest
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from web.practice import bridge, services
from web.practice.forms import LIMITS, ForwardForm, MachineForm, TurnForm
from web.practice.models import Practice
from web.visits.access import visit_for

SHOWN = 10


@require_http_methods(["GET", "POST"])
def houses(request):
    """Begin on a new machine, or go on with one begun before."""
    form = MachineForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        begun = services.begin(request.user, form.spec(), form.cleaned_data["mode"] == "heating")
        return redirect(f"{begun.visit.get_absolute_url()}#read")
    found = services.practices_of(request.user)[:SHOWN]
    return render(request, "practice/houses.html", {"form": form, "practices": found, "here": "practice"})


@require_GET
def panel(request, visit_id):
    """What can be turned, as it is set; a fragment of the sheet."""
    practice = practice_for(request.user, visit_id)
    return render(request, "practice/_panel.html", _panel(practice, bridge.Live.recalled(practice.memory)))


@require_POST
def look(request, visit_id):
    """Time passes while the page is looked at: how the house is now, a line of the panel."""
    practice = practice_for(request.user, visit_id)
    return render(request, "practice/_now.html", _now(services.look(practice)))


@require_POST
def turn(request, visit_id):
    """Turn something; answers how the house is now."""
    practice, form = practice_for(request.user, visit_id), TurnForm(request.POST)
    if not form.is_valid():
        return HttpResponseBadRequest("That cannot be turned so far.")
    return render(request, "practice/_now.html", _now(services.turn(practice, form.cleaned_data)))


@require_POST
def forward(request, visit_id):
    """Let minutes pass at once."""
    practice, form = practice_for(request.user, visit_id), ForwardForm(request.POST)
    if not form.is_valid():
        return HttpResponseBadRequest("Choose how many minutes.")
    return render(
        request, "practice/_now.html", _now(services.put_forward(request.user, practice, form.cleaned_data["minutes"]))
    )


def practice_for(user, visit_id) -> Practice:
    """The simulated house of a visit the person may see, or Http404."""
    found = Practice.objects.filter(visit=visit_for(user, visit_id)).first()
    if found is None:
        raise Http404
    return found


def _panel(practice: Practice, live: bridge.Live) -> dict:
    turned = [
        {"id": fault.id, "label": fault.label, "percent": round(100 * live.faults.get(fault.id, 0.0))}
        for fault in bridge.FAULTS.values()
        if bridge.fits(fault.id, live)
    ]
    return {
        "visit": practice.visit,
        "live": live,
        "faults": turned,
        "limits": LIMITS,
        "hunting": live.hunting_k / bridge.MOST_HUNTING_K,
        **_now(live),
    }


def _now(live: bridge.Live) -> dict:
    return {"live": live, "minutes": int(live.running_s // 60), "inside": bridge.inside(live)}
