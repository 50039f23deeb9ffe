"""Signing in: a name and a password, and a pause for whoever guesses, at this door or at a secret address."""

from functools import wraps

from django.contrib.auth.views import LoginView
from django.http import Http404
from django.shortcuts import render

from web.accounts import guard
from web.accounts.limits import seconds_to
from web.shell.views import too_often


class SignIn(LoginView):
    """Django's own, which remembers the device, and says how long a pause lasts."""

    template_name = "accounts/sign_in.html"
    redirect_authenticated_user = True

    def form_valid(self, form):
        answer = super().form_valid(form)
        guard.remember(self.request, answer, form.get_user())
        return answer

    def form_invalid(self, form):
        until = guard.paused_until(self.request, form.data.get("username", ""))
        return paused(self.request, until) if until else super().form_invalid(form)


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
