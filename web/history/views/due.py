"""The due list: overdue, this week, this month, later; a thing is moved with a reason."""

from urllib.parse import quote

from django.core.paginator import Paginator
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods

from web.history import due, plans, services
from web.history.forms import DueForm
from web.houserules.services import rules_of
from web.shell.once import NumberUsed
from web.visits.models import PlannedVisit

SHOWN = 60


@require_http_methods(["GET", "POST"])
def page(request):
    """What is due, narrowed by kind, person, area or house, kept in the address."""
    rows = due.due_of(request.user)
    form = DueForm(request.POST or None)
    if request.method == "POST" and form.is_valid() and _moved(request, rows, form):
        return redirect(request.get_full_path())
    chosen = {name: request.GET.get(name, "") for name in ("kind", "person", "area", "q")}
    shown = [row for row in rows if _wanted(row, chosen)]
    page_of = Paginator(shown, SHOWN).get_page(request.GET.get("page"))
    rules, planned = rules_of(request.user.shop), plans.plans_ahead(request.user)
    to_come = [row for row in plans.shown(request.user, planned) if _is_of(row.plan, chosen)]
    context = {
        "planned": to_come if page_of.number == 1 and not chosen["kind"] else [],
        "now": timezone.now(),
        "groups": due.grouped(due.with_weather(page_of, rules), timezone.localdate()),
        "rows": page_of,
        "kept": "".join(f"&{name}={quote(want)}" for name, want in chosen.items() if want),
        "kinds": due.KINDS,
        "areas": due.areas_of(request.user),
        "people": sorted({row.person for row in rows if row.person} | {plan.person.short_name for plan in planned}),
        "chosen": chosen,
        "form": form,
        "moving": (form.data.get("kind"), form.data.get("ref")) if form.is_bound else None,
        "here": "due",
    }
    return render(request, "history/due.html", context)


def _wanted(row: due.Due, chosen: dict[str, str]) -> bool:
    if chosen["kind"] and row.kind != chosen["kind"]:
        return False
    if chosen["person"] and row.person != chosen["person"]:
        return False
    if chosen["area"] and row.area != chosen["area"]:
        return False
    return chosen["q"].strip().lower() in str(row.system).lower()


def _is_of(plan: PlannedVisit, chosen: dict[str, str]) -> bool:
    """Whether a visit to come is among those chosen: of the person who goes there."""
    if chosen["person"] and plan.person.short_name != chosen["person"]:
        return False
    if chosen["area"] and due.area_of(plan.system.house) != chosen["area"]:
        return False
    return chosen["q"].strip().lower() in str(plan.system).lower()


def _moved(request, rows: list[due.Due], form: DueForm) -> bool:
    asked = form.cleaned_data
    row = next((row for row in rows if (row.kind, row.ref) == (asked["kind"], asked["ref"])), None)
    if row is None:
        form.add_error(None, "That is not due any more: somebody did it meanwhile.")
        return False
    try:
        services.move_due(request.user, row, asked["until"], asked["why"], asked["number"])
    except services.Refused as error:
        form.add_error(error.field, str(error))
    except NumberUsed as error:
        form.used_already(error, "move")
    return not form.errors
