"""The people of a shop: invited, given a role, let go; coming in by a link."""

from itertools import chain

from django.contrib import messages
from django.contrib.auth.decorators import login_not_required
from django.core.exceptions import PermissionDenied
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.debug import sensitive_post_parameters
from django.views.decorators.http import require_http_methods, require_POST

from web.accounts import guard, letters, second, services
from web.accounts.forms import CertificateForm, ComeInForm, InviteForm
from web.accounts.models import DoorLink, User
from web.accounts.rights import RIGHTS, ROLES
from web.accounts.views.door import slow_to_guess
from web.shell.address import public_address


@require_http_methods(["GET", "POST"])
def page(request):
    """Who is in the shop, who is asked in, and the form that asks somebody. Leads only."""
    form, address = InviteForm(request.POST if request.method == "POST" else None), ""
    if form.is_bound and form.is_valid():
        asked = form.cleaned_data
        token = services.invite(request.user, **asked)
        address = _sent_or_shown(request, token, "join", asked.get("email", ""))
        form = InviteForm()
    return _shown(request, form, address)


@require_POST
def change(request, public_id):
    """A role, a way to a new password, leaving, coming back."""
    person = get_object_or_404(User, shop__isnull=False, shop=request.user.shop_id, public_id=public_id)
    did = request.POST.get("did", "")
    try:
        if did == "password":
            token = services.let_choose_password(request.user, person)
            return _shown(request, InviteForm(), _sent_or_shown(request, token, "password", person.email))
        if did == "go":
            services.let_go(request.user, person)
        elif did == "no_code":
            second.switch_off(request.user, person)
        elif did == "sign_out":
            services.end_sessions(request.user, person, but=request.session.session_key or "")
        elif did == "certificate":
            _certify(request, person)
        elif did == "lift":
            services.lift_pause(request.user, person)
        elif did == "back":
            services.let_in_again(request.user, person)
        else:
            services.set_role(request.user, person, request.POST.get("role", ""))
    except services.NotPossible as error:
        messages.error(request, str(error))
    else:
        messages.info(request, f"Kept for {person.short_name}.")
    return redirect("accounts:people")


def _certify(request, person: User) -> None:
    form = CertificateForm(request.POST)
    if not form.is_valid():
        raise services.NotPossible(" ".join(str(said) for said in chain(*form.errors.values())))
    services.set_certificate(request.user, person, form.cleaned_data["certificate"], form.cleaned_data["until"])


@require_POST
def end(request, public_id):
    """End a link that nobody has used."""
    services.end_door(request.user, get_object_or_404(DoorLink.objects.visible_to(request.user), public_id=public_id))
    messages.info(request, "That link opens no more.")
    return redirect("accounts:people")


@sensitive_post_parameters()
@login_not_required
@slow_to_guess
@require_http_methods(["GET", "POST"])
def come_in(request, token):
    """For whoever has the link: a name and a password, or a new password."""
    link = DoorLink.objects.with_token(token).select_related("shop", "person").first()
    if link is None:
        return render(request, "accounts/door_shut.html", status=404)
    names = {"person": link.person, "first_name": link.first_name, "last_name": link.last_name}
    form = ComeInForm(request.POST if request.method == "POST" else None, **names)
    if form.is_bound and form.is_valid():
        try:
            services.come_in(link, form.cleaned_data.get("username", ""), form.cleaned_data["password"])
        except PermissionDenied:
            return render(request, "accounts/door_shut.html", status=404)
        messages.info(request, "Kept. Sign in with it.")
        return redirect("accounts:sign_in")
    answer = render(request, "accounts/come_in.html", {"form": form, "link": link})
    answer["Cache-Control"], answer["Referrer-Policy"] = "no-store", "no-referrer"
    return answer


def _shown(request, form: InviteForm, address: str):
    people = list(User.objects.filter(shop=request.user.shop_id).order_by("-is_active", "first_name"))
    paused = guard.paused_names(people)
    asked = DoorLink.objects.visible_to(request.user).live().select_related("person", "made_by").order_by("-pk")
    context = {
        "form": form,
        "address": address,
        "people": [(person, paused.get(person)) for person in people],
        "with_code": second.who_has_it(people),
        "asked": asked,
        "roles": ROLES,
        "rights": RIGHTS.values(),
        "now": timezone.now(),
        "here": "shop",
    }
    answer = render(request, "accounts/people.html", context)
    answer["Cache-Control"] = "no-store"
    return answer


def _sent_or_shown(request, token: str, letter: str, to: str) -> str:
    """Send a link by mail; '' where it is on its way, else the address, to be shown."""
    address = public_address(reverse("accounts:come_in", args=[token]))
    if letters.send(to, letter, request.user.shop, address, "a week"):
        messages.info(request, f"Sent to {to}. It opens once, for a week.")
        return ""
    if to and letters.are_sent():
        messages.error(request, "The mail server did not take it. Give them the address yourself.")
    return address
