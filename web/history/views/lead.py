"""The lead's page: worst first, numbers by person, refrigerant by month; each number leads to its visits."""

import csv

from django.core.paginator import Paginator
from django.http import Http404, HttpResponse
from django.shortcuts import render
from django.utils import timezone
from django.views.decorators.http import require_GET

from web.accounts.models import User
from web.history import lead
from web.history.due import areas_of
from web.shell.spreadsheet import harmless
from web.visits.access import with_verdicts
from web.visits.models import Visit

FIRST, SHOWN, MOST_IN_FILE = 5, 50, 20_000
COLUMNS = (
    "started_at", "house", "system", "model", "area", "person", "state", "headline", "fixed", "gauges",
    "without_gauges", "called_back", "outcome_recorded", "drifts",
)  # fmt: skip


@require_GET
def page(request):
    """What is wrong now, and what came of the work."""
    by = _narrowed(request)
    now = [(id_, what, _counted(request, id_, by)) for id_, what in lead.WHATS.items() if what.of == lead.NOW]
    context = _filters(request, by) | {
        "now": [(id_, what, found.count, with_headlines(found.page(1))) for id_, what, found in now],
        "none": [what.title for _, what, found in now if not found.count],
        "counted": [(id_, lead.WHATS[id_]) for id_ in lead.COUNTED],
        "people_rows": _by_person(request, by),
        "months": lead.refrigerant_by_month(request.user, by),
        "behind": lead.not_worked_out(request.user),
    }
    return render(request, "history/lead.html", context)


@require_GET
def visits(request):
    """The visits behind a number."""
    by, what = _narrowed(request), request.GET.get("what", "")
    if what not in lead.WHATS:
        raise Http404
    rows = Paginator(lead.keys_of(request.user, what, by), SHOWN).get_page(request.GET.get("page"))
    context = _filters(request, by) | {
        "what": lead.WHATS[what],
        "id": what,
        "rows": rows,
        "shown": with_headlines(rows),
        "kept": f"&{by.address(what=what)}",
    }
    return render(request, "history/lead_visits.html", context)


@require_GET
def as_csv(request):
    """The visits of the time, a line each."""
    by = _narrowed(request)
    answer = HttpResponse(content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="visits.csv"'
    write = csv.writer(answer)
    write.writerow(COLUMNS)
    for row in lead.summaries_in_time(request.user, by)[:MOST_IN_FILE]:
        write.writerow([harmless(cell) for cell in _figures(row)])
    return answer


def with_headlines(page) -> list[Visit]:
    """The visits of a page of keys with what was said of them last, in its order; one query."""
    keys = list(page)
    said = {row.pk: row for row in with_verdicts(Visit.objects.filter(pk__in=keys).select_related("summary"))}
    return [said[key] for key in keys]


def _narrowed(request) -> lead.Narrowed:
    """What is asked for in the address. Leads only."""
    return lead.narrowed_by(request.GET)


def _filters(request, by: lead.Narrowed) -> dict:
    return {
        "by": by,
        "address": by.address(),
        "stretches": lead.STRETCHES,
        "people": User.objects.filter(shop=request.user.shop_id).order_by("first_name"),
        "areas": areas_of(request.user),
        "here": "shop",
    }


def _counted(request, what: str, by: lead.Narrowed) -> Paginator:
    return Paginator(lead.keys_of(request.user, what, by), FIRST)


def _by_person(request, by: lead.Narrowed) -> list[tuple[str, str, list[tuple[str, int]]]]:
    """A row for each person and one for all: name, end of the address, the counts by list."""
    rows = lead.counts_by_person(request.user, by)
    found = [
        (person.short_name, by.address(person=str(person.public_id)), [(id_, counts[id_]) for id_ in lead.COUNTED])
        for person, counts in rows
    ]
    everybody = [(id_, sum(counts[id_] for _, counts in rows)) for id_ in lead.COUNTED]
    return [*found, ("All", by.address(), everybody)] if len(found) > 1 else found


def _figures(row) -> tuple[str, ...]:
    system = row.system
    yes = {True: "yes", False: ""}
    return (
        timezone.localtime(row.started_at).isoformat(timespec="minutes"), system.house.name, system.name, system.model,
        system.house.weather_place, row.person.short_name, row.state, row.headline, yes[row.fixed], yes[row.hooked],
        row.without_gauges, yes[row.calls_back], yes[row.known], row.drifts,
    )  # fmt: skip
