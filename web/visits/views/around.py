"""Changes around a sheet: starting a visit, its next round, handing it over, follow-ups."""

from itertools import chain

from django.contrib import messages
from django.http import Http404
from django.shortcuts import get_object_or_404, redirect
from django.views.decorators.http import require_POST

from web.houses.models import System
from web.shell.forms import read_uuid
from web.shell.once import NumberUsed
from web.visits import changes
from web.visits.access import FOLLOW_UP_FORM, colleagues_of, finished_moment, follow_up_for, visit_for
from web.visits.forms import FollowUpForm, HandOverForm, NextRoundForm, StartForm
from web.visits.views import typed


@require_POST
def start(request, system_id):
    """Start a visit to a system; pressing twice starts one."""
    system = get_object_or_404(System.objects.visible_to(request.user).select_related("house"), public_id=system_id)
    form = StartForm(request.POST)
    try:
        visit = changes.start_visit(request.user, system, public_id=form.public_id())
    except NumberUsed:
        messages.error(request, "Another visit has that number. Press start again.")
        return redirect("houses:house", public_id=system.house.public_id)
    return redirect(f"{visit.get_absolute_url()}{form.anchor()}")


@require_POST
def next_round(request, public_id):
    """Start the round after the one on the page."""
    visit = visit_for(request.user, public_id)
    form = NextRoundForm(request.POST)
    if not form.is_valid():
        raise Http404
    if finished_moment(visit):
        messages.error(request, "This visit is finished. Open it again first, or start another.")
        return redirect(f"{visit.get_absolute_url()}#close")
    started = changes.next_round(request.user, visit, form.cleaned_data["seen"])
    messages.info(
        request,
        f"Round {started.number}: the clock started again. "
        "Let it settle, then read the same places with the same instruments.",
    )
    return redirect(f"{visit.get_absolute_url()}#settle")


@require_POST
def hand_over(request, public_id):
    """Hand the visit to a colleague of the shop."""
    visit = visit_for(request.user, public_id)
    form = HandOverForm(request.POST, colleagues=colleagues_of(request.user))
    if not form.is_valid():
        messages.error(request, "Choose a colleague of the shop. Nothing was handed over.")
        return redirect(visit.get_absolute_url())
    colleague = form.cleaned_data["colleague"]
    changes.hand_over(request.user, visit, colleague, form.cleaned_data["note"])
    messages.info(request, f"{visit.system}: handed to {colleague.short_name}.")
    return redirect("today:today")


@require_POST
def open_follow_up(request, public_id):
    """Leave something to do on the visit's system."""
    visit = visit_for(request.user, public_id)
    form = FollowUpForm(request.POST)
    if form.is_valid():
        try:
            changes.open_follow_up(request.user, visit.system, **form.cleaned_data)
            messages.info(request, "The follow-up is kept.")
        except NumberUsed:
            messages.error(request, "This page has kept another follow-up already. Reload it, then leave this one.")
    else:
        messages.error(request, " ".join(str(said) for said in chain(*form.errors.values())))
        typed.keep(request, visit, FOLLOW_UP_FORM)
    return redirect(f"{visit.get_absolute_url()}#arrive")


@require_POST
def close_follow_up(request, public_id):
    """Say that a follow-up is done."""
    follow_up = follow_up_for(request.user, public_id)
    changes.close_follow_up(request.user, follow_up, request.POST.get("outcome", ""))
    visit = read_uuid(request.POST.get("visit"))
    return redirect(f"{visit_for(request.user, visit).get_absolute_url()}#arrive") if visit else redirect("today:today")
