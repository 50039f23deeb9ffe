"""What is a person's own: where they are signed in."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods

from web.accounts import services
from web.accounts.models import Session
from web.shell.forms import read_uuid


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
