"""Planning a visit: who goes, when, for what; moving it, calling it off; one event as a file."""

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_GET, require_http_methods

from web.accounts.access import people_of
from web.history import calendar, plans
from web.history.bridge.upkeep import modes_of, weather_wanted
from web.history.forms import CallOffForm, PlanForm
from web.history.models import VisitSummary
from web.houserules.services import rules_of
from web.houses.access import system_for
from web.shell.once import NumberUsed
from web.visits import changes
from web.visits.models import FollowUp, PlannedVisit


@require_http_methods(["GET", "POST"])
def new(request, public_id):
    """Plan a visit to a machine. mode, why, day: as the due list proposes them."""
    system = system_for(request.user, public_id)
    usual = {"person": request.user.public_id} | {
        name: request.GET[name] for name in ("mode", "why", "day") if request.GET.get(name)
    }
    form = _form(request, system, usual)
    if request.method == "POST" and form.is_valid() and (plan := _planned(request, form, system)):
        messages.info(request, f"Planned: {plan.system}, {timezone.localtime(plan.starts_at):%b %-d, %H:%M}.")
        return redirect("history:due")
    rules, open_ = rules_of(request.user.shop), FollowUp.objects.visible_to(request.user).filter(system=system).open()
    last = VisitSummary.objects.visible_to(request.user).filter(system=system, is_last=True).first()
    context = {
        "system": system,
        "form": form,
        "wanted": weather_wanted(system, form.only_mode, rules),
        "bring": plans.bring(system, last, open_, timezone.localdate()),
        "open": open_,
        "last": last,
        "here": "due",
    }
    return render(request, "history/plan_new.html", context)


@require_GET
def ahead(request, public_id):
    """A fragment: what is forecast for the day and hour in the form, and what of the test that withholds."""
    system = system_for(request.user, public_id)
    form = PlanForm(request.GET, people=people_of(request.user), modes=modes_of(system.kind))
    form.is_valid()  # what else is wrong is said when it is kept
    when = form.starts_at()
    forecast, withholds = plans.ahead(system, form.in_mode(), when, rules_of(request.user.shop)) if when else ("", "")
    return render(request, "history/_ahead.html", {"forecast": forecast, "withholds": withholds, "when": when})


@require_http_methods(["GET", "POST"])
def one(request, public_id):
    """A planned visit: its hour, who goes, what the forecast says, what to bring; moved or called off here."""
    plan = plan_for(request.user, public_id)
    at = timezone.localtime(plan.starts_at)
    now = {"person": plan.person.public_id, "day": at.date(), "hour": at.time(), "minutes": plan.minutes}
    off = "called_off_why" in request.POST
    form = _form(request, plan.system, now, moving=True, bound=not off)
    off_form = CallOffForm(request.POST if off else None)
    if request.method == "POST" and _changed(request, plan, off_form if off else form):
        return redirect(plan)
    context = {
        "row": plans.shown(request.user, [plan])[0],
        "plan": plan,
        "moves": plan.moves.select_related("was_with", "by").order_by("pk"),
        "form": form,
        "off_form": off_form,
        "here": "due",
    }
    return render(request, "history/plan.html", context)


@require_GET
def event(request, public_id):
    """One planned visit as a calendar file."""
    plan = plan_for(request.user, public_id)
    answer = HttpResponse(calendar.of_plans(plan.system.house.shop, [plan]), content_type=calendar.CONTENT_TYPE)
    answer["Content-Disposition"] = f'attachment; filename="visit-{plan.public_id}.ics"'
    return answer


def plan_for(user, public_id) -> PlannedVisit:
    """A planned visit the person may see, or Http404."""
    rows = PlannedVisit.objects.visible_to(user).select_related(
        "system__house__shop", "person", "visit", "called_off_by"
    )
    return get_object_or_404(rows, public_id=public_id)


def _form(request, system, initial: dict, moving: bool = False, bound: bool = True) -> PlanForm:
    data = request.POST if request.method == "POST" and bound else None
    modes = modes_of(system.kind)
    return PlanForm(data, people=people_of(request.user), modes=modes, moving=moving, initial=initial)


def _planned(request, form: PlanForm, system) -> PlannedVisit | None:
    asked = form.cleaned_data
    try:
        return changes.plan_visit(
            request.user, system, asked["person"], form.starts_at(), asked["minutes"], asked["why"], form.in_mode(),
            asked["number"],
        )  # fmt: skip
    except changes.PlanRefused as error:
        form.add_error(error.field, str(error))
    except NumberUsed as error:
        form.used_already(error, "visit")
    return None


def _changed(request, plan: PlannedVisit, form) -> bool:
    if not form.is_valid():
        return False
    asked = form.cleaned_data
    try:
        if isinstance(form, CallOffForm):
            changes.call_off(request.user, plan, asked["called_off_why"])
        else:
            changes.move_plan(
                request.user, plan, asked["person"], form.starts_at(), asked["minutes"], asked["moved_why"]
            )
    except changes.PlanRefused as error:
        form.add_error(error.field, str(error))
    return not form.errors
