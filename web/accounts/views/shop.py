"""The shop's page, and a person's own: preferences, and signing out."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods

from web.accounts import services
from web.accounts.access import people_of
from web.accounts.forms import PreferencesForm, ShopForm
from web.accounts.rights import SHOP, may


@require_http_methods(["GET", "POST"])
def shop(request):
    """The shop: its people, the way to what few people open daily, and for a lead where its houses are."""
    lead = may(request.user, SHOP)
    form = ShopForm(request.POST or None, instance=request.user.shop) if lead else None
    if request.method == "POST" and lead and form.is_valid():
        services.set_usual_place(request.user, form.instance)
        messages.info(request, "Kept. A new house starts from it.")
        return redirect("accounts:shop")
    return render(request, "accounts/shop.html", {"people": people_of(request.user), "form": form, "here": "shop"})


@require_http_methods(["GET", "POST"])
def preferences(request):
    """°F or °C, and the unit of a gauge, for this person."""
    usual = {"temperatures": request.user.temperatures, "pressures": request.user.pressures}
    form = PreferencesForm(request.POST or None, initial=usual)
    if request.method == "POST" and form.is_valid():
        chosen = form.cleaned_data["pressures"] or request.user.pressures
        services.set_units(request.user, form.cleaned_data["temperatures"], chosen)
        messages.info(request, "Kept.")
        return redirect("accounts:preferences")
    return render(request, "accounts/preferences.html", {"form": form, "here": "shop"})
