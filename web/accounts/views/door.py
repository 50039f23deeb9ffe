"""Signing in: a name and a password, and a pause for whoever guesses, at this door or at a secret address."""

import time
from functools import wraps

from django.contrib.auth import login
from django.contrib.auth.decorators import login_not_required
from django.contrib.auth.views import LoginView
from django.http import Http404
from django.shortcuts import redirect, render
from django.views.decorators.debug import sensitive_post_parameters
from django.views.decorators.http import require_http_methods

from web.accounts import guard, letters, second
from web.accounts.deeds import note
from web.accounts.forms import ForgottenForm
from web.accounts.limits import seconds_to
from web.accounts.models import User
from web.accounts.sessions import ADDRESS, DEVICE, SEEN
from web.accounts.tasks import send_forgotten
from web.shell.address import client_address
from web.shell.views import too_often

HALF_IN, HALF_IN_FOR_S = "half-in", 300  # a right password, and no code yet: who, since when, and where to
BACKEND = "web.accounts.backends.PersonBackend"


class SignIn(LoginView):
    """Django's own, which remembers the device, and says how long a pause lasts."""

    template_name = "accounts/sign_in.html"
    redirect_authenticated_user = True

    def form_valid(self, form):
        person = form.get_user()
        if not second.is_on(person):
            return signed_in(self.request, person, self.get_success_url())
        self.request.session[HALF_IN] = [person.pk, int(time.time()), self.get_success_url()]
        return redirect("accounts:second")

    def form_invalid(self, form):
        until = guard.paused_until(self.request, form.data.get("username", ""))
        return paused(self.request, until) if until else super().form_invalid(form)


@login_not_required
@require_http_methods(["GET", "POST"])
def forgotten(request):
    """Who has forgotten the password: by mail, where there is a server. The answer never tells who has an account."""
    form = ForgottenForm(request.POST if request.method == "POST" else None)
    is_asked = letters.are_sent() and form.is_bound and form.is_valid()
    if is_asked and guard.may_ask_for_letter(request, name := form.cleaned_data["name"]):
        send_forgotten.enqueue(name)
    context = {"form": form, "is_asked": is_asked, "are_sent": letters.are_sent()}
    return render(request, "accounts/forgotten.html", context)


@sensitive_post_parameters()
@login_not_required
@require_http_methods(["GET", "POST"])
def ask_code(request):
    """The second step of who wants two: the code of the app, or a recovery code."""
    pk, since, to = request.session.get(HALF_IN, (0, 0, ""))
    person = User.objects.select_related("shop").filter(pk=pk, is_active=True).first()
    if person is None or since < time.time() - HALF_IN_FOR_S:
        return redirect("accounts:sign_in")
    is_wrong = False
    if request.method == "POST":
        if until := guard.paused_until(request, person.username):
            return paused(request, until)
        if second.fits(person, request.POST.get("code", "")):
            del request.session[HALF_IN]
            return signed_in(request, person, to)
        guard.note_wrong(request, person.username)
        is_wrong = True
    return render(request, "accounts/code.html", {"is_wrong": is_wrong})


def signed_in(request, person, to: str):
    """Let a person in who has shown who they are; the session and the device become theirs."""
    login(request, person, BACKEND)
    request.session[DEVICE] = request.headers.get("User-Agent", "")[:200]
    request.session[ADDRESS] = client_address(request)
    request.session[SEEN] = int(time.time())
    note(person, "signed_in", detail="with a code" if second.is_on(person) else "")
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
