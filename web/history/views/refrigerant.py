"""The refrigerant log of the shop: page, CSV, and its cylinders."""

import csv
from datetime import date, datetime, time
from urllib.parse import quote

from django.core.paginator import Paginator
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_GET, require_http_methods

from web.history import ledger, services
from web.history.forms import CylinderForm, MoveForm
from web.shell.once import NumberUsed
from web.shell.spreadsheet import harmless
from web.visits.models import BOUGHT, Cylinder

SHOWN, FIRST_YEAR = 60, 2000


def _year(request) -> int:
    """The year asked for, else this one."""
    asked, this = request.GET.get("year", ""), timezone.localdate().year
    return int(asked) if asked.isdecimal() and FIRST_YEAR <= int(asked) <= this else this


def _moment(year: int) -> datetime:
    return timezone.make_aware(datetime.combine(date(year, 1, 1), time()))


def _log(request) -> tuple[int, ledger.Log]:
    year = _year(request)
    return year, ledger.log_of(request.user.shop, _moment(year), _moment(year + 1))


@require_GET
def page(request):
    """A year of the log with its sums; narrowed by person, refrigerant or what happened, kept in the address."""
    year, log = _log(request)
    chosen = {name: request.GET.get(name, "") for name in ("person", "refrigerant", "way")}
    lines = [
        line for line in log.lines if all(not want or getattr(line, name) == want for name, want in chosen.items())
    ]
    context = {
        "year": year,
        "years": range(timezone.localdate().year, timezone.localdate().year - 5, -1),
        "heads": ledger.SUMS,
        "sums": [(of.refrigerant, list(zip(ledger.SUMS, of.cells(), strict=True))) for of in log.sums],
        "lines": Paginator(lines, SHOWN).get_page(request.GET.get("page")),
        "people": sorted({line.person for line in log.lines}),
        "refrigerants": sorted({line.refrigerant for line in log.lines}),
        "ways": ledger.WAYS | {ledger.STORE: "Cylinders"},
        "chosen": chosen,
        "kept": "".join(f"&{name}={quote(str(want))}" for name, want in {"year": year, **chosen}.items() if want),
        "here": "shop",
    }
    return render(request, "history/refrigerant.html", context)


@require_GET
def as_csv(request):
    """A year of the log, in ounces."""
    year, log = _log(request)
    answer = HttpResponse(content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="refrigerant-{year}.csv"'
    write = csv.writer(answer)
    write.writerow(ledger.COLUMNS)
    write.writerows([harmless(cell) for cell in line.figures()] for line in log.lines)
    return answer


@require_http_methods(["GET", "POST"])
def cylinders(request):
    """The shop's cylinders with what is in them by the log; a new one is added here."""
    form = CylinderForm(request.POST or None)
    if request.method == "POST" and form.is_valid() and _added(request, form):
        return redirect("history:cylinders")
    context = {"held": ledger.cylinders_of(request.user.shop), "form": form, "here": "shop"}
    return render(request, "history/cylinders.html", context)


def _added(request, form: CylinderForm) -> bool:
    asked = form.cleaned_data
    try:
        row = services.add_cylinder(
            request.user, asked["label"], asked["refrigerant"], asked["is_recovery"], asked["tare_oz"],
            asked["holds_oz"], asked["number"],
        )  # fmt: skip
        if asked["has_oz"] and not row.moves.exists():
            services.move(request.user, row, BOUGHT, asked["has_oz"])
    except services.Refused as error:
        form.add_error(error.field, str(error))
    except NumberUsed as error:
        form.used_already(error, "cylinder")
    return not form.errors


@require_http_methods(["GET", "POST"])
def cylinder(request, public_id):
    """One cylinder: what came in and went out, and a move or a correction more."""
    row = get_object_or_404(Cylinder.objects.visible_to(request.user), public_id=public_id)
    form = MoveForm(request.POST or None)
    held = next(held for held in ledger.cylinders_of(request.user.shop) if held.cylinder == row)
    if request.method == "POST" and form.is_valid() and _moved(request, row, form, held.oz):
        return redirect("history:cylinder", public_id=public_id)
    lines = ledger.lines_of(row)
    context = {"held": held, "lines": lines, "form": form, "here": "shop"}
    return render(request, "history/cylinder.html", context)


def _moved(request, row: Cylinder, form: MoveForm, held_oz: float) -> bool:
    asked = form.cleaned_data
    try:
        services.move(
            request.user, row, asked["did"], asked["oz"], asked["why"], asked["on"], asked["number"], held_oz
        )  # fmt: skip
    except services.Refused as error:
        form.add_error(error.field, str(error))
    except NumberUsed as error:
        form.used_already(error, "move")
    return not form.errors
