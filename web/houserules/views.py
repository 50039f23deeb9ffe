"""The house rules: where the trade disagrees, what this shop has chosen and why one would choose it."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET, require_POST

from web.houserules import bridge, services
from web.houserules.forms import ChangeForm


@require_GET
def rules(request):
    """Every rule with its alternatives, the one in force marked."""
    found = services.current(request.user.shop)
    in_force = services.rules_of(request.user.shop)
    context = {
        "rules": bridge.as_shown(in_force),
        "version": found.number if found else 0,
        "last": found,
        "here": "shop",
    }
    return render(request, "houserules/rules.html", context)


@require_POST
def change(request):
    """Choose one alternative; leads only."""
    form = ChangeForm(request.POST)
    if not form.is_valid():
        messages.error(request, "Choose one of the alternatives.")
        return redirect("houserules:rules")
    rule_id = form.cleaned_data["rule"]
    try:
        value = bridge.read_choice(rule_id, form.cleaned_data["value"])
        services.change(request.user, rule_id, value, form.cleaned_data["seen_version"])
    except bridge.UnknownChoice as error:
        messages.error(request, str(error))
    except services.Overtaken:
        messages.error(request, "Somebody chose meanwhile: look at the page as it is now, then choose again.")
    else:
        messages.info(
            request,
            f"{bridge.title_of(rule_id)}: chosen. "
            "Visits already judged keep the rules they were judged by until they are read again.",
        )
    return redirect("houserules:rules")
