"""Tokens with which other programs read: made (shown once), revoked."""

from django.contrib import messages
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_http_methods, require_POST

from web.exchange import services
from web.exchange.forms import TokenForm
from web.exchange.models import ApiToken
from web.shell.address import public_address


@require_http_methods(["GET", "POST"])
def page(request):
    """The shop's tokens, for its leads; a new one is shown once."""
    form, token = TokenForm(request.POST if request.method == "POST" else None), ""
    if form.is_bound and form.is_valid():
        _, token = services.make_token(request.user, form.cleaned_data["name"], form.cleaned_data["scopes"])
        form = TokenForm()
    rows = ApiToken.objects.visible_to(request.user).select_related("made_by").order_by("revoked_at", "-pk")
    document = public_address(reverse("api:openapi-json"))
    context = {"form": form, "token": token, "rows": rows, "document": document, "here": "shop"}
    answer = render(request, "exchange/tokens.html", context)
    answer["Cache-Control"] = "no-store"
    return answer


@require_POST
def revoke(request, public_id):
    """Revoke a token."""
    token = get_object_or_404(ApiToken.objects.visible_to(request.user), public_id=public_id)
    services.revoke_token(request.user, token)
    messages.info(request, f"{token.name} reads nothing any more.")
    return redirect("exchange:tokens")
