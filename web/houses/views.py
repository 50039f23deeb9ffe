"""Houses, their systems and nameplates, tables, rooms; the shop's instruments."""

import uuid

from django.contrib import messages
from django.core.paginator import Paginator
from django.http import Http404
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods, require_POST

from web.accounts.rights import SHOP, may
from web.houses import bridge, services
from web.houses.access import house_for, instrument_for, system_for
from web.houses.forms import HouseForm, InstrumentForm, RoomForms, SystemForm, TableForm, rooms_in
from web.houses.models import CHANGED, House, Instrument, System
from web.shell.drawing.curves import table_svg
from web.shell.drawing.palette import SCREEN
from web.shell.forms import read_uuid
from web.shell.once import NumberUsed

SHOWN = 60
NOT_COPIED = ("id", "public_id", "house", "name", "serial", "indoor_serial")
JUST_SAID = ("metering_device",)  # unknown is no contradiction: it is said, and saved


def house_list(request):
    """The shop's houses; ?q= finds, Enter goes to the first found."""
    typed = request.GET.get("q", "").strip()[:60]
    houses = House.objects.visible_to(request.user).real().found_by(request.user, typed).prefetch_related("systems")
    found = Paginator(houses, SHOWN).get_page(request.GET.get("page"))
    if request.GET.get("go") and typed and not request.htmx and found:
        return redirect("houses:house", public_id=found[0].public_id)
    page = "houses/_found.html" if request.htmx else "houses/list.html"
    return render(request, page, {"houses": found, "typed": typed, "here": "houses"})


def house(request, public_id):
    """One house: its systems as their plates have them, each with the way to start a visit."""
    found = house_for(request.user, public_id)
    systems = [_with_plate(system) for system in found.systems.prefetch_related("tables", "rooms")]
    return render(request, "houses/house.html", {"house": found, "systems": systems, "here": "houses"})


def _with_plate(system: System) -> dict:
    tables = {table.kind: table for table in sorted(system.tables.all(), key=lambda table: table.pk)}
    says = bridge.plate_says(bridge.equipment(system, tables, system.rooms.all()), system.year)
    return {
        "system": system,
        "efficiency": bridge.efficiency_class(system.seer),
        "tables": [bridge.TABLE_KINDS[kind].title for kind in tables if kind in bridge.TABLE_KINDS],
        "odd": [text for texts in says.findings.values() for text in texts],
        "defaults": says.defaults,
    }


USUAL_PLACE = ("altitude_ft", "climate", "weather_place")  # what a new house starts from


@require_http_methods(["GET", "POST"])
def edit_house(request, public_id=None):
    """Add a house, or correct one."""
    known = house_for(request.user, public_id) if public_id else None
    shop = request.user.shop
    usual = {} if known or shop is None else {name: getattr(shop, name) for name in USUAL_PLACE}
    form = HouseForm(request.POST or None, instance=known, initial=usual)
    if request.method == "POST" and form.is_valid():
        try:
            saved = services.save_house(request.user, form.save(commit=False), form.cleaned_data["number"])
        except NumberUsed as error:
            form.used_already(error, "house")
        else:
            return redirect("houses:house", public_id=saved.public_id)
    return render(request, "houses/edit_house.html", {"form": form, "house": known, "here": "houses"})


@require_http_methods(["GET", "POST"])
def add_system(request, house_id):
    """Add a system to a house; ?like= copies a twin's nameplate and tables."""
    found = house_for(request.user, house_id)
    like = read_uuid(request.POST.get("like") or request.GET.get("like"))
    twin = (
        System.objects.visible_to(request.user).filter(public_id=like).select_related("house").first() if like else None
    )
    initial = (
        {name: getattr(twin, name) for name in SystemForm().fields if hasattr(twin, name) and name not in NOT_COPIED}
        if twin
        else {}
    )
    initial.setdefault("name", "" if found.systems.exists() else "main")
    form = SystemForm(request.POST or None, initial=initial, instance=System(house=found))
    return _edit_system(request, form, found, twin)


@require_http_methods(["GET", "POST"])
def system(request, public_id):
    """Correct a nameplate."""
    found = system_for(request.user, public_id)
    return _edit_system(request, SystemForm(request.POST or None, instance=found), found.house, None)


def _edit_system(request, form: SystemForm, found: House, twin: System | None):
    # A new system gets the form's number: its plate's picture is sent there once it is kept.
    number = form.instance.public_id if form.instance.pk else read_uuid(str(form["number"].value())) or uuid.uuid4()
    context = {"form": form, "house": found, "twin": twin, "here": "houses", "accepted": "", "picture_of": number}
    if request.method == "POST" and form.is_valid():
        odd = _oddities(form)
        if not odd or request.POST.get("accepted") == "|".join(odd):
            try:
                _keep_system(request.user, form, twin)
            except NumberUsed as error:
                form.used_already(error, "system")
            else:
                return redirect("houses:house", public_id=found.public_id)
        context["accepted"] = "|".join(odd)
    if form.instance.pk is None:
        newest = System.objects.visible_to(request.user).filter(house__is_practice=False).exclude(model="")
        by_model: dict[str, System] = {}
        for candidate in newest.order_by("-id")[:SHOWN]:
            by_model.setdefault(candidate.model, candidate)
        context["candidates"] = list(by_model.values())
    return render(request, "houses/edit_system.html", context)


def _keep_system(person, form: SystemForm, twin: System | None) -> None:
    if form.instance.pk is not None:
        services.save_system(person, form.instance, changed=form.cleaned_data["why"] == CHANGED)
        return
    saved = services.add_system(person, form.instance, form.cleaned_data["number"])
    if twin and saved is form.instance:  # sent again, its tables are there
        services.copy_tables(person, twin, saved)


def _oddities(form: SystemForm) -> list[str]:
    """What of the plate does not fit together, put beside its fields; the person may say that it is so."""
    says = _says(form.instance)
    odd = []
    for field, texts in says.findings.items():
        for text in texts:
            form.add_error(field if field in form.fields else None, text)
        odd += texts if field not in JUST_SAID else []
    if not odd:
        form.errors.clear()
    return odd


def _says(row: System) -> bridge.PlateSays:
    tables = row.tables.newest() if row.pk else {}
    return bridge.plate_says(bridge.equipment(row, tables, ()), row.year)


@require_POST
def plate_help(request):
    """A fragment while a nameplate is typed: tons from capacity, the class, what is odd, what is taken where the plate
    is silent.
    """
    known = read_uuid(request.GET.get("system"))
    found = (
        System.objects.visible_to(request.user).select_related("house").filter(public_id=known).first()
        if known
        else None
    )
    form = SystemForm(request.POST, instance=found)  # a known one has its tables
    form.is_valid()
    capacity, seer = form.cleaned_data.get("capacity_btuh"), form.cleaned_data.get("seer")
    says = _says(form.instance) if form.cleaned_data.get("nominal_tons") else None
    context = {
        "tons": f"{bridge.tons_of(capacity):g}" if capacity else "",
        "capacity": capacity,
        "seer": seer,
        "efficiency": bridge.efficiency_class(seer),
        "odd": [text for texts in says.findings.values() for text in texts] if says else [],
        "defaults": says.defaults if says else (),
    }
    return render(request, "houses/_plate_help.html", context)


@require_http_methods(["GET", "POST"])
def tables(request, public_id, kind=None):
    """The maker's tables of a system: typed or pasted, shown as understood."""
    found = system_for(request.user, public_id)
    newest = found.tables.newest()
    kinds = bridge.table_kinds(found)
    chosen = next((k for k in kinds if k.id == kind), kinds[0])
    row = newest.get(chosen.id)
    form = TableForm(request.POST or None, initial={"text": row.text, "source": row.source} if row else {})
    context = {
        "system": found,
        "kinds": kinds,
        "kind": chosen,
        "form": form,
        "row": row,
        "here": "houses",
        "have": set(newest),
    }
    if request.method == "POST" and form.is_valid():
        try:
            services.add_table(request.user, found, chosen.id, form.cleaned_data["text"], form.cleaned_data["source"])
        except bridge.TableError as error:
            form.add_error("text", str(error))
        else:
            messages.info(request, f"{chosen.title}: kept.")
            return redirect("houses:tables_of", public_id=found.public_id, kind=chosen.id)
    context |= _understood(found, chosen, form["text"].value() or "")
    return render(request, "houses/tables.html", context)


@require_POST
def check_table(request, public_id, kind):
    """A fragment while a table is typed: the plot of what was understood, or what is wrong and where."""
    found = system_for(request.user, public_id)
    if kind not in bridge.TABLE_KINDS:
        raise Http404
    return render(
        request, "houses/_understood.html", _understood(found, bridge.TABLE_KINDS[kind], request.POST.get("text", ""))
    )


def _understood(found: System, kind, text: str) -> dict:
    """A table as understood, drawn; or the trouble with it."""
    if not text.strip():
        return {"plot": "", "trouble": "", "remarks": ()}
    try:
        table = bridge.understand(kind.id, text, found)
    except bridge.TableError as error:
        return {"plot": "", "trouble": str(error), "remarks": ()}
    size = f"{len(table.rows)} rows, {len(table.columns)} columns"
    return {"plot": table_svg(table, kind.row, kind.value, SCREEN), "trouble": "", "remarks": (size, *table.remarks)}


@require_http_methods(["GET", "POST"])
def rooms(request, public_id):
    """The rooms of a system and their supply ducts."""
    found = system_for(request.user, public_id)
    initial = [
        {"name": r.name, "diameter_in": r.diameter_in, "duct": r.duct, "wants_cfm": r.wants_cfm}
        for r in found.rooms.all()
    ]
    forms = RoomForms(request.POST or None, initial=initial)
    if request.method == "POST" and forms.is_valid():
        services.set_rooms(request.user, found, rooms_in(forms))
        return redirect("houses:house", public_id=found.house.public_id)
    return render(request, "houses/rooms.html", {"system": found, "forms": forms, "here": "houses"})


def instruments(request):
    """The shop's instruments, the overdue first."""
    rows = sorted(
        Instrument.objects.visible_to(request.user), key=lambda row: (row.retired, not row.overdue, row.label)
    )
    found = Paginator(rows, SHOWN).get_page(request.GET.get("page"))
    return render(request, "houses/instruments.html", {"instruments": found, "here": "shop"})


@require_http_methods(["GET", "POST"])
def edit_instrument(request, public_id=None):
    """Add an instrument, or correct one."""
    known = instrument_for(request.user, public_id) if public_id else None
    form = InstrumentForm(request.POST or None, instance=known)
    if not may(request.user, SHOP):
        del form.fields["retired"]
    if request.method == "POST" and form.is_valid():
        services.save_instrument(request.user, form.save(commit=False))
        return redirect("houses:instruments")
    return render(request, "houses/edit_instrument.html", {"form": form, "instrument": known, "here": "shop"})
