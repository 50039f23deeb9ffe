"""What is a person's own: where they are signed in, and a second factor."""

from urllib.parse import parse_qs, urlsplit

import segno
from django.contrib import messages
from django.contrib.auth.views import PasswordChangeView
from django.db import transaction
from django.shortcuts import redirect, render
from django.urls import reverse_lazy
from django.utils import timezone
from django.utils.safestring import mark_safe
from django.views.decorators.debug import sensitive_post_parameters
from django.views.decorators.http import require_http_methods

from web.accounts import second, services
from web.accounts.deeds import note
from web.accounts.forms import EmailForm
from web.accounts.models import Session
from web.shell.forms import read_uuid


class OwnPassword(PasswordChangeView):
    """A new password, by who knows the old one."""

    template_name = "accounts/password.html"
    success_url = reverse_lazy("accounts:preferences")

    def form_valid(self, form):
        with transaction.atomic():
            note(self.request.user, "password")
            return super().form_valid(form)


@sensitive_post_parameters()
@require_http_methods(["GET", "POST"])
def email(request):
    """Where the person's letters go."""
    form = EmailForm(request.user, request.POST if request.method == "POST" else None)
    if form.is_bound and form.is_valid():
        services.set_email(request.user, form.cleaned_data["email"])
        messages.info(request, "Kept.")
        return redirect("accounts:preferences")
    return render(request, "accounts/email.html", {"form": form, "here": "shop"})


@require_http_methods(["GET", "POST"])
def sessions(request):
    """Where the person is signed in; one of them, or all others, ended."""
    own, here = Session.objects.of(request.user), request.session.session_key
    if request.method == "POST":
        services.end_sessions(request.user, request.user, but=here, only=read_uuid(request.POST.get("one")))
        messages.info(request, "Signed out there.")
        return redirect("accounts:sessions")
    shown = [(session, session.session_key == here) for session in own]
    return render(request, "accounts/sessions.html", {"sessions": shown, "now": timezone.now(), "here": "shop"})


@sensitive_post_parameters()
@require_http_methods(["GET", "POST"])
def second_factor(request):
    """Switch a second factor on, make new recovery codes, switch it off: with the password, whoever holds the phone."""
    did, codes, said = request.POST.get("did", ""), [], ""
    if did == "begin":
        codes = second.confirm(request.user, request.POST.get("code", ""))
        said = "" if codes else "That code does not fit. Is the phone's clock right? Type the one it shows now."
    elif did in ("codes", "off") and not request.user.check_password(request.POST.get("password", "")):
        said = "That is not your password."
    elif did == "codes" and second.is_on(request.user):
        codes = second.new_codes(request.user)
    elif did == "off":
        second.switch_off(request.user, request.user)
        messages.info(request, "No code is asked for any more.")
        return redirect("accounts:second_factor")
    is_on = second.is_on(request.user)
    address = "" if is_on else second.begin(request.user).config_url
    context = {
        "is_on": is_on,
        "codes": codes,
        "said": said,
        "left": second.codes_left(request.user),
        "secret": address and parse_qs(urlsplit(address).query)["secret"][0],
        "code": address and mark_safe(segno.make(address, error="m", micro=False).svg_inline(border=2, scale=5)),
        "here": "shop",
    }
    answer = render(request, "accounts/second_factor.html", context)
    answer["Cache-Control"] = "no-store"
    return answer
