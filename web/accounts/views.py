"""A person's own page: preferences, and signing out."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods

from web.accounts import services
from web.accounts.forms import PreferencesForm


@require_http_methods(["GET", "POST"])
def preferences(request):
    """°F or °C for this person."""
    form = PreferencesForm(request.POST or None, initial={"temperatures": request.user.temperatures})
    if request.method == "POST" and form.is_valid():
        services.set_temperatures(request.user, form.cleaned_data["temperatures"])
        messages.info(request, "Kept.")
        return redirect("accounts:preferences")
    return render(request, "accounts/preferences.html", {"form": form, "here": "preferences"})
