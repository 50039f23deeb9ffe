"""The lead's page of background work: what runs, what failed, and starting it again."""

from django.core.paginator import Paginator
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET, require_POST

from web.background import services
from web.background.access import work_for
from web.background.models import Work

SHOWN = 20


@require_GET
def page(request):
    """What runs and what ran."""
    return render(request, "background/page.html", _listed(request) | {"here": "shop"})


@require_GET
def listed(request):
    """A fragment: the list, as long as something in it runs."""
    return render(request, "background/_listed.html", _listed(request))


@require_GET
def progress(request, public_id):
    """A fragment: how far one piece of work is, for the page that it was started from. ?page=whole: a page that shows
    more once it has ended comes anew then.
    """
    work, whole_page = work_for(request.user, public_id), request.GET.get("page") == "whole"
    if whole_page and not work.goes_on:
        return HttpResponse(headers={"HX-Refresh": "true"})
    return render(request, "background/_progress.html", {"work": work, "whole_page": whole_page})


@require_POST
def stop(request, public_id):
    """Stop work after its present step."""
    services.stop(request.user, work_for(request.user, public_id))
    return redirect("background:page")


@require_POST
def go_on(request, public_id):
    """Go on with stopped or failed work."""
    services.go_on(request.user, work_for(request.user, public_id))
    return redirect("background:page")


def _listed(request) -> dict:
    rows = Work.objects.visible_to(request.user).newest().select_related("started_by")
    found = Paginator(rows, SHOWN).get_page(request.GET.get("page"))
    due = Work.objects.last_due()
    return {"works": found, "due": due, "runs": any(work.goes_on for work in (*found, *due))}
