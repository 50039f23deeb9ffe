"""The customer's page: shown to who has its address, and to the shop before it gives one away."""

from zoneinfo import ZoneInfo

from django.contrib import messages
from django.contrib.auth.decorators import login_not_required
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from web.accounts.views.door import slow_to_guess
from web.exchange import customer, services
from web.exchange.models import CustomerLink
from web.shell.address import public_address
from web.visits.access import visit_for

# Nobody keeps a copy, no search engine finds it, no address that is followed from it learns of it.
KEPT_PRIVATE = {
    "Cache-Control": "private, no-store",
    "X-Robots-Tag": "noindex, nofollow",
    "Referrer-Policy": "no-referrer",
}


@login_not_required
@slow_to_guess
@require_GET
def read(request, token):
    """The page of one visit, for whoever has its address; nothing else is reached from it."""
    found = CustomerLink.objects.with_token(token).select_related(
        "visit__system__house__shop", "visit__shop", "visit__started_by", "visit__with_person"
    )
    link = found.first()
    if link is None:
        answer = render(request, "exchange/customer_gone.html", status=404)
    else:
        services.count_opened(link)
        with timezone.override(ZoneInfo(link.shop.time_zone)):
            answer = render(request, "exchange/customer.html", customer.page_of(link.visit))
    for name, value in KEPT_PRIVATE.items():
        answer[name] = value
    return answer


@require_http_methods(["GET", "POST"])
def links(request, public_id):
    """What the customer would read, and the links to it: made (shown once), counted, ended."""
    visit = visit_for(request.user, public_id)
    address, refused = "", ""
    if request.method == "POST":
        days = request.POST.get("days", "")
        try:
            _, token = services.make_link(request.user, visit, int(days) if days.isdecimal() else 0)
            address = public_address(reverse("exchange:customer", args=[token]))
        except services.LinkRefused as error:
            refused = str(error)
    rows = CustomerLink.objects.visible_to(request.user).filter(visit=visit).select_related("made_by").order_by("-pk")
    context = customer.page_of(visit) | {
        "address": address,
        "refused": refused,
        "links": rows,
        "now": timezone.now(),
        "lasts": services.LASTS_DAYS,
        "usual": services.USUAL_DAYS,
        "here": "houses",
    }
    answer = render(request, "exchange/links.html", context)
    answer["Cache-Control"] = "no-store"
    return answer


@require_POST
def end(request, public_id):
    """End a link."""
    link = get_object_or_404(CustomerLink.objects.visible_to(request.user).select_related("visit"), public_id=public_id)
    services.end_link(request.user, link)
    messages.info(request, "That link opens no more.")
    return redirect("exchange:links", public_id=link.visit.public_id)
