"""The calendar's addresses, and what a calendar program reads there."""

from zoneinfo import ZoneInfo

from django.contrib import messages
from django.contrib.auth.decorators import login_not_required
from django.core.exceptions import PermissionDenied
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_GET, require_http_methods

from web.accounts.views.door import slow_to_guess
from web.history import calendar, due, services
from web.history.models import CalendarFeed
from web.houserules.services import rules_of
from web.shell.address import public_address
from web.shell.bridge import shown_in

OF_SHOP = "shop"


@require_http_methods(["GET", "POST"])
def page(request):
    """The person's own calendar address and, for a lead, the shop's: made, made anew, ended. Shown once."""
    address = ""
    if request.method == "POST":
        of_shop = request.POST.get("of") == OF_SHOP
        try:
            if request.POST.get("did") == "end":
                services.end_feed(request.user, of_shop)
                messages.info(request, "That address shows nothing any more.")
                return redirect("history:calendar")
            _, token = services.make_feed(request.user, of_shop)
        except PermissionDenied:
            raise Http404 from None
        address = public_address(reverse("history:feed", args=[token]))
    live = CalendarFeed.objects.visible_to(request.user).filter(ended_at__isnull=True)
    context = {
        "address": address,
        "own": live.filter(person=request.user).first(),
        "of_shop": live.filter(person__isnull=True).select_related("made_by").first(),
        "here": "due",
    }
    answer = render(request, "history/calendar.html", context)
    answer["Cache-Control"] = "no-store"
    return answer


@login_not_required
@slow_to_guess
@require_GET
def feed(request, token):
    """What a calendar program reads: whoever has the address may, so it is long, random and can be renewed."""
    row = get_object_or_404(CalendarFeed.objects.with_token(token).select_related("shop", "person", "made_by"))
    reader = row.person or row.made_by
    with timezone.override(ZoneInfo(row.shop.time_zone)), shown_in(reader.temperatures):
        own = due.Narrowed(person=str(row.person.public_id)) if row.person else None
        found = due.with_weather(due.due_of(reader, own), rules_of(row.shop))
        name = f"{row.shop.name}, {row.person.short_name}" if row.person else row.shop.name
        text = calendar.of_plans(row.shop, calendar.feed_plans(row), found, name)
    answer = HttpResponse(text, content_type=calendar.CONTENT_TYPE)
    answer["Cache-Control"], answer["X-Robots-Tag"] = "private, no-store", "noindex"
    return answer
