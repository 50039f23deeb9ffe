"""Today: visits under way with their clocks, follow-ups that block a decision, and what was done lately."""

from datetime import timedelta

from django.db.models import OuterRef, Q, Subquery
from django.shortcuts import render
from django.utils import timezone

from web.history import plans
from web.houserules.services import rules_of
from web.visits.access import newest
from web.visits.models import FINISHED, FollowUp, Reading, Round, Visit

UNDER_WAY_FOR = timedelta(hours=12)
ASKED_ABOUT_FOR = timedelta(days=60)  # a visit that nobody finished; it is never closed silently
SHOWN, FOLLOW_UPS_SHOWN = 20, 20


def today(request):
    """The first screen; a handful of queries however many visits there are."""
    now = timezone.now()
    visits = Visit.objects.visible_to(request.user)
    lately = now - UNDER_WAY_FOR
    under_way = list(_with_clock(newest(visits.open_still().filter(started_at__gte=lately), SHOWN)))
    asked_about = Q(started_at__gte=now - ASKED_ABOUT_FOR) | ~Q(ended="")  # what came back is asked about however old
    left_open = visits.open_still().filter(asked_about, started_at__lt=lately)
    settle = rules_of(request.user.shop).settle_minutes
    for visit in under_way:
        visit.clock = _minutes(visit, now)
    context = {
        "under_way": under_way,
        "settle": settle,
        "left_open": newest(left_open, SHOWN),
        "recent": newest(visits.filter(ended=FINISHED), SHOWN),
        "follow_ups": FollowUp.objects.visible_to(request.user)
        .open()
        .select_related("system__house")[:FOLLOW_UPS_SHOWN],
        "today": timezone.localdate(),
        "planned": plans.shown(request.user, plans.plans_of_day(request.user, timezone.localdate())),
        "now": now,
        "here": "today",
    }
    return render(request, "today/today.html", context)


def _with_clock(visits):
    """With the visit's last round and what its clock was last set to."""
    last = Round.objects.filter(visit=OuterRef("pk")).order_by("-number")
    said = Reading.objects.filter(round__visit=OuterRef("pk"), slot="running_time").order_by("-taken_at")
    return visits.annotate(
        round_number=Subquery(last.values("number")[:1]),
        round_started=Subquery(last.values("started_at")[:1]),
        clock_at=Subquery(said.values("taken_at")[:1]),
        clock_minutes=Subquery(said.values("value")[:1]),
    )


def _minutes(visit, now) -> int | None:
    """Minutes running: since the last round began, or as last said, whichever is later; None while no clock runs."""
    starts = [visit.round_started] if visit.round_number and visit.round_number > 1 else []
    if visit.clock_at and visit.clock_minutes is not None:
        starts.append(visit.clock_at - timedelta(minutes=visit.clock_minutes))
    return int((now - max(starts)).total_seconds() // 60) if starts else None
