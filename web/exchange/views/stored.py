"""What is stored about whom, how long, and erasing a customer."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods

from web.exchange import erasing
from web.exchange.forms import KeepingForm
from web.houses.access import house_for
from web.visits.models import Photo, Reading, Visit

SHOWN = 20


@require_http_methods(["GET", "POST"])
def page(request):
    """What is stored about whom; and how long customers are kept."""
    shop = request.user.shop
    form = KeepingForm(request.POST if request.method == "POST" else None, initial={"keeps_years": shop.keeps_years})
    if form.is_bound and form.is_valid():
        erasing.set_keeping(request.user, form.cleaned_data["keeps_years"])
        messages.info(request, "Kept. What is past it is erased within a day.")
        return redirect("exchange:stored")
    past = erasing.past_keeping(shop, timezone.now())
    context = {"form": form, "past": past[:SHOWN], "past_count": past.count(), "here": "shop"}
    return render(request, "exchange/stored.html", context)


@require_http_methods(["GET", "POST"])
def erase(request, public_id):
    """Ask once more, saying what goes and what stays; then erase the customer of a house."""
    house, said = house_for(request.user, public_id), ""
    if request.method == "POST":
        if request.POST.get("sure") == "yes":
            try:
                erasing.erase(request.user, house)
            except erasing.EraseRefused as error:
                said = str(error)
            else:
                messages.info(request, "Erased. The readings are kept without name.")
                return redirect("exchange:stored")
        else:
            said = "Tick the box to erase: it cannot be undone."
    context = {
        "house": house,
        "said": said,
        "photos": Photo.objects.filter(system__house=house).count(),
        "visits": Visit.objects.filter(system__house=house).count(),
        "readings": Reading.objects.filter(round__visit__system__house=house).count(),
        "here": "houses",
    }
    return render(request, "exchange/erase.html", context)
