"""The due list: overdue, this week, this month, later; a thing is moved with a reason."""

from urllib.parse import quote

from django.core.paginator import Paginator
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods

from web.accounts.models import User
from web.history import due, due_kinds, plans, services
from web.history.forms import DueForm
from web.houserules.services import rules_of
from web.shell.forms import read_uuid
from web.shell.once import NumberUsed

SHOWN, PLANNED = 60, 20


@require_http_methods(["GET", "POST"])
def page(request):
    """What is planned and what is due, narrowed by kind, person, area or house, kept in the address."""
    form = DueForm(request.POST or None)
    if request.method == "POST" and form.is_valid() and _moved(request, form):
        return redirect(request.get_full_path())
    asked = {name: request.GET.get(name, "")[:60] for name in ("kind", "person", "area", "q")}
    person = str(read_uuid(asked["person"]) or "")
    by = due.Narrowed(asked["kind"], person, asked["area"], asked["q"])
    listed = Paginator(due.Listing(request.user, by), SHOWN).get_page(request.GET.get("page"))
    rows = due.with_weather(due.load(request.user, list(listed)), rules_of(request.user.shop))
    planned = due.narrow(plans.plans_ahead(request.user), by)
    on_first = listed.number == 1 and not by.kind
    context = {
        "planned": plans.shown(request.user, list(planned[:PLANNED])) if on_first else [],
        "more_planned": max(planned.count() - PLANNED, 0) if on_first else 0,
        "now": timezone.now(),
        "groups": due.grouped(rows, timezone.localdate()),
        "rows": listed,
        "kept": "".join(f"&{name}={quote(want)}" for name, want in asked.items() if want),
        "kinds": due_kinds.KINDS,
        "areas": due.areas_of(request.user),
        "people": User.objects.filter(shop=request.user.shop_id).order_by("first_name"),
        "chosen": asked,
        "form": form,
        "moving": (form.data.get("kind"), form.data.get("ref")) if form.is_bound else None,
        "here": "due",
    }
    return render(request, "history/due.html", context)


def _moved(request, form: DueForm) -> bool:
    asked = form.cleaned_data
    row = due.find(request.user, asked["kind"], asked["ref"])
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
