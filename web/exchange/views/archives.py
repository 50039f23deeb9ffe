"""Open data: the archive of a machine, a house or the shop, and taking one in."""

import tempfile

from django.contrib import messages
from django.core.files.storage import default_storage
from django.http import FileResponse, Http404, JsonResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from web.background import services as background
from web.background.access import work_for
from web.background.models import Work
from web.exchange import services
from web.exchange.archive import write_archive
from web.exchange.bundles import bundle_of_visit
from web.exchange.forms import ArchiveForm
from web.exchange.intake import IntakeRefused
from web.exchange.tasks import fetchable, name_of
from web.history import lead
from web.houses.access import house_for, system_for
from web.houses.models import System
from web.visits.access import visit_for

EXPORT, REPORTS, TAKE_IN, LISTED = "export", "reports", "take_in", 5
MOST_REPORTS = 2_000
IN_MEMORY = 8 * 2**20  # a larger archive waits on the disk while it is sent


@require_GET
def of_system(request, public_id):
    """All that is on record of a machine."""
    system = system_for(request.user, public_id)
    services.note_taken_out(request.user, system.house, system)
    return _sent(request, [system], f"system-{public_id}")


@require_GET
def of_house(request, public_id):
    """All that is on record of a house's machines."""
    house = house_for(request.user, public_id)
    services.note_taken_out(request.user, house)
    return _sent(request, list(house.systems.select_related("house__shop")), f"house-{public_id}")


@require_GET
def of_visit(request, public_id):
    """A visit as a bundle: what the command line assesses."""
    visit = visit_for(request.user, public_id)
    answer = JsonResponse(bundle_of_visit(visit), json_dumps_params={"indent": 1, "ensure_ascii": False})
    answer["Content-Disposition"] = f'attachment; filename="visit-{public_id}.json"'
    answer["Cache-Control"] = "private, no-store"
    return answer


@require_POST
def start(request):
    """Begin the archive of the whole shop."""
    background.start(request.user, EXPORT)
    return redirect("exchange:archives")


@require_POST
def start_narrowed(request):
    """Begin the archive of the machines whose finished visits the lead's page has narrowed to."""
    visits = lead.keys_of(request.user, "finished", lead.narrowed_by(request.POST))
    systems = System.objects.filter(visits__in=visits).distinct().values_list("pk", flat=True)
    background.start(request.user, EXPORT, {"systems": list(systems)})
    return redirect("exchange:archives")


@require_POST
def start_reports(request):
    """Begin the reports of those visits."""
    keys = list(lead.keys_of(request.user, "finished", lead.narrowed_by(request.POST))[:MOST_REPORTS])
    background.start(request.user, REPORTS, {"visits": keys})
    return redirect("exchange:archives")


@require_GET
def of_shop(request, public_id):
    """The archive of the shop, or the reports, once they are packed."""
    work = work_for(request.user, public_id)
    if not fetchable(request.user.shop, [work]):
        raise Http404
    try:
        archive = default_storage.open(name_of(work))
    except FileNotFoundError:  # tidied away meanwhile
        raise Http404 from None
    answer = FileResponse(archive, as_attachment=True, filename=f"{work.kind}.zip", content_type="application/zip")
    answer["Cache-Control"] = "private, no-store"
    return answer


@require_http_methods(["GET", "POST"])
def page(request):
    """Exports and what is taken in, for leads."""
    form = ArchiveForm(request.POST, request.FILES) if request.method == "POST" else ArchiveForm()
    if request.method == "POST" and form.is_valid():
        try:
            messages.info(request, services.receive_archive(request.user, form.cleaned_data["file"]))
        except IntakeRefused as error:
            form.add_error("file", f"{error} Nothing was taken in.")
        else:
            return redirect("exchange:archives")
    works = Work.objects.visible_to(request.user).filter(kind__in=(EXPORT, REPORTS, TAKE_IN)).newest()[:LISTED]
    there = fetchable(request.user.shop, works)
    waiting = [(work, work in there) for work in works]
    return render(request, "exchange/archives.html", {"form": form, "works": waiting, "here": "shop"})


def _sent(request, systems: list[System], name: str) -> FileResponse:
    file = tempfile.SpooledTemporaryFile(max_size=IN_MEMORY)  # noqa: SIM115 - closed by the answer
    write_archive(file, request.user.shop, systems)
    file.seek(0)
    answer = FileResponse(file, as_attachment=True, filename=f"{name}.zip", content_type="application/zip")
    answer["Cache-Control"] = "private, no-store"
    return answer
