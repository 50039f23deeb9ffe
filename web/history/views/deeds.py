"""Who did what: of what leaves no row of its own, for leads."""

from django.core.paginator import Paginator
from django.shortcuts import render
from django.views.decorators.http import require_GET

from web.accounts.deeds import DEEDS
from web.accounts.models import Deed, User
from web.houses.models import House, Instrument, System
from web.shell.forms import read_uuid
from web.visits.models import Visit

SHOWN = 50
KINDS = {
    "house": House.objects.all(),
    "system": System.objects.select_related("house"),
    "visit": Visit.objects.select_related("system__house"),
    "instrument": Instrument.objects.all(),
    "user": User.objects.all(),
}


@require_GET
def page(request):
    """The newest first; by person and by what was done."""
    rows = Deed.objects.visible_to(request.user).select_related("by")
    person, did = read_uuid(request.GET.get("person")), request.GET.get("did", "")
    did = did if did in DEEDS else ""
    if person:
        rows = rows.filter(by__public_id=person)
    if did:
        rows = rows.filter(did=did)
    found = Paginator(rows, SHOWN).get_page(request.GET.get("page"))
    context = {
        "rows": found,
        "lines": lines_of(list(found)),
        "people": User.objects.filter(shop=request.user.shop_id).order_by("first_name"),
        "deeds": DEEDS,
        "person": person,
        "did": did,
        "kept": "".join(f"&{key}={value}" for key, value in (("person", person), ("did", did)) if value),
        "here": "shop",
    }
    return render(request, "history/deeds.html", context)


def lines_of(deeds: list[Deed]) -> list[tuple[Deed, str, str]]:
    """Each deed, what was done, and to what: by the name it has now. A query for each kind of thing."""
    names = {kind: _names(kind, [deed.of for deed in deeds if deed.kind == kind]) for kind in KINDS}
    return [(deed, DEEDS.get(deed.did, deed.did), names.get(deed.kind, {}).get(deed.of, "")) for deed in deeds]


def _names(kind: str, ids: list) -> dict:
    return {row.public_id: _name(row) for row in KINDS[kind].filter(public_id__in=ids)} if ids else {}


def _name(row) -> str:
    if isinstance(row, User):
        return row.get_full_name() or row.username
    return f"{row.system}, {row.started_at:%b %-d, %Y}" if isinstance(row, Visit) else str(row)
