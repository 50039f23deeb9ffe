"""Signing in: a name and a password, and a pause for whoever guesses, at this door or at a secret address."""

import time
from functools import wraps

from django.contrib.auth import login
from django.contrib.auth.views import LoginView
from django.http import Http404
from django.shortcuts import redirect, render

from web.accounts import guard
from web.accounts.limits import seconds_to
from web.accounts.sessions import ADDRESS, DEVICE, SEEN
from web.shell.address import client_address
from web.shell.views import too_often


class SignIn(LoginView):
    """Django's own, which remembers the device, and says how long a pause lasts."""

    template_name = "accounts/sign_in.html"
    redirect_authenticated_user = True

    def form_valid(self, form):
        return signed_in(self.request, form.get_user(), self.get_success_url())

    def form_invalid(self, form):
        until = guard.paused_until(self.request, form.data.get("username", ""))
        return paused(self.request, until) if until else super().form_invalid(form)


def signed_in(request, person, to: str):
    """Let a person in who has shown who they are; the session and the device become theirs."""
    login(request, person)
    request.session[DEVICE] = request.headers.get("User-Agent", "")[:200]
    request.session[ADDRESS] = client_address(request)
    request.session[SEEN] = int(time.time())
    answer = redirect(to)
    guard.remember(request, answer, person)
    return answer


def paused(request, until):
    """The page for whoever has to wait."""
    wait_s = seconds_to(until)
    answer = render(request, "accounts/paused.html", {"minutes": -(-wait_s // 60)}, status=429)
    answer["Retry-After"] = str(wait_s)
    return answer


def slow_to_guess(view, told=(401, 404)):
    """A view that a token opens: who tries many that open nothing has to wait.

    told: the statuses with which it says that a token opens nothing.
    """

    @wraps(view)
    def answered(request, *args, **kwargs):
        try:
            answer = view(request, *args, **kwargs)
        except Http404:
            if until := guard.wrong_token(request):
                return too_often(request, seconds_to(until))
            raise
        if answer.status_code in told and (until := guard.wrong_token(request)):
            return too_often(request, seconds_to(until))
        return answer

    return answered
