"""Customers and systems from a spreadsheet: shown first, made on a yes, undone as a whole."""

from django.contrib import messages
from django.core.paginator import Paginator
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_http_methods

from web.exchange import register, services
from web.exchange.forms import RegisterForm
from web.exchange.models import RegisterIntake

SHOWN, LISTED = 100, 10


@require_http_methods(["GET", "POST"])
def page(request):
    """A file to read, and those that were read before."""
    form = RegisterForm(request.POST, request.FILES) if request.method == "POST" else RegisterForm()
    if request.method == "POST" and form.is_valid():
        file = form.cleaned_data["file"]
        try:
            intake = services.read_register(request.user, file.name, file.read())
        except register.FileRefused as error:
            form.add_error("file", str(error))
        else:
            return redirect("exchange:register", public_id=intake.public_id)
    before = RegisterIntake.objects.visible_to(request.user).select_related("by").order_by("-pk")[:LISTED]
    return render(request, "exchange/registers.html", {"form": form, "before": before, "here": "shop"})


@require_http_methods(["GET", "POST"])
def one(request, public_id):
    """What a file would make, or made; a yes, or its undoing."""
    intake = get_object_or_404(RegisterIntake.objects.visible_to(request.user), public_id=public_id)
    if request.method == "POST":
        if request.POST.get("did") == "undo":
            intake = services.undo_register(request.user, intake)
            messages.info(request, "Undone." if not intake.left else f"Undone, but {len(intake.left)}.")
        else:
            intake = services.make_register(request.user, intake)
            messages.info(request, f"{len(intake.houses)} houses and {len(intake.systems)} systems were made.")
        return redirect("exchange:register", public_id=public_id)
    counts = {becomes: sum(row["becomes"] == becomes for row in intake.rows) for becomes in ("new", "known", "wrong")}
    doubtful_first = sorted(intake.rows, key=lambda row: ("wrong", "known", "new").index(row["becomes"]))
    rows = Paginator(doubtful_first, SHOWN).get_page(request.GET.get("page"))
    return render(request, "exchange/register.html", {"intake": intake, "rows": rows, "counts": counts, "here": "shop"})
