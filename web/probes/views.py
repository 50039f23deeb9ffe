"""The gateways' one way in, and the page that shows what they hear."""

from django.contrib import messages
from django.contrib.auth.decorators import login_not_required
from django.http import JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from web.accounts.limits import seconds_to
from web.accounts.views.door import slow_to_guess
from web.probes import bridge, services
from web.probes.forms import BatchError, GatewayForm, parse_batch
from web.probes.models import Gateway, Newest

FLAT_PCT, SILENT_S = 15.0, 30


@csrf_exempt  # no cookie is looked at here: the token in the header is all that counts
@login_not_required
@slow_to_guess
@require_POST
def samples(request):
    """A batch from one gateway, idempotent, answered per sample. See docs/gateway.md."""
    kind, _, token = request.headers.get("Authorization", "").partition(" ")
    gateway = Gateway.objects.with_token(token).first() if kind.lower() == "bearer" and token else None
    if gateway is None:
        return JsonResponse({"error": "The token is not known, or was revoked."}, status=401)
    try:
        items, clock = parse_batch(request.body)
        answers = services.store_samples(gateway, items, clock)
    except BatchError as error:
        return JsonResponse({"error": str(error)}, status=400)
    except services.TooOften as error:
        answer = JsonResponse({"error": "Too many batches: send fewer, with more samples in each."}, status=429)
        answer.headers["Retry-After"] = str(seconds_to(error.until))
        return answer
    return JsonResponse({"clock": timezone.now().isoformat(), "results": answers})


@require_http_methods(["GET", "POST"])
def gateways(request):
    """The shop's gateways; adding one shows its token, once."""
    form, token = GatewayForm(request.POST or None), ""
    if request.method == "POST" and form.is_valid():
        made, token = services.add_gateway(request.user, form.cleaned_data["name"])
        form = GatewayForm()
        messages.info(request, f"{made.name} is added. Its token is shown below, this once.")
    return render(
        request, "probes/gateways.html", {**_heard(request.user), "form": form, "token": token, "here": "shop"}
    )


@require_GET
def heard(request):
    """A fragment: what every probe says now. Asked for again and again; two queries, no assessment."""
    return render(request, "probes/_heard.html", _heard(request.user))


def _heard(user) -> dict:
    found = list(Gateway.objects.visible_to(user).of_the_vans())
    now = timezone.now()
    by_gateway: dict[int, list[dict]] = {gateway.pk: [] for gateway in found}
    rows = Newest.objects.filter(probe__gateway__in=found).select_related("probe").order_by("probe__name", "channel")
    for row in rows:
        probes = by_gateway[row.probe.gateway_id]
        if not probes or probes[-1]["probe"].pk != row.probe_id:
            flat = row.probe.battery_pct is not None and row.probe.battery_pct < FLAT_PCT
            probes.append({"probe": row.probe, "flat": flat, "channels": []})
        age, (text, sign) = max(0, int((now - row.taken_at).total_seconds())), bridge.shown(row.channel, row.value)
        channel = {
            "label": bridge.label_of(row.channel),
            "value": text,
            "sign": sign,
            "age": age,
            "silent": age > SILENT_S,
        }
        probes[-1]["channels"].append(channel)
    return {"gateways": [{"gateway": gateway, "probes": by_gateway[gateway.pk]} for gateway in found]}


@require_POST
def revoke(request, public_id):
    """Take a gateway's token back."""
    gateway = get_object_or_404(Gateway.objects.visible_to(request.user), public_id=public_id)
    services.revoke(request.user, gateway)
    messages.info(request, f"{gateway.name}: its token no longer works. What it sent is kept.")
    return redirect("probes:gateways")
