"""The lead's page of what the shop knows of sound machines: versions, groups, visits that teach, what is left out."""

from django.core.paginator import Paginator
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from web.accounts.models import User
from web.background.models import Work
from web.houserules import bridge as houserules
from web.houserules.services import rules_of
from web.kinds import bridge, services
from web.kinds.access import taught_in
from web.kinds.forms import FileForm, PersonForm
from web.kinds.models import CONFIRMED_BY, LeftOut
from web.visits.models import KnownKinds, Visit

SHOWN, VERSIONS_SHOWN = 30, 8


@require_http_methods(["GET", "POST"])
def page(request):
    """What is known now; a file is taken in here, and a person left out."""
    people = User.objects.filter(shop=request.user.shop_id).order_by("first_name", "last_name")
    sent = request.POST.get("form") if request.method == "POST" else None
    file = FileForm(request.POST if sent == "file" else None, request.FILES if sent == "file" else None)
    person = PersonForm(request.POST if sent == "person" else None, people=people)
    if sent and _kept(request, sent, file, person):
        return redirect("kinds:page")
    return render(request, "kinds/page.html", _context(request) | {"file_form": file, "person_form": person})


def _kept(request, sent: str, file: FileForm, person: PersonForm) -> bool:
    """Whether a form was kept; else it says what is wrong with it."""
    form = file if sent == "file" else person
    if not form.is_valid():
        return False
    try:
        if sent == "file":
            services.take_in(request.user, form.cleaned_data["file"].read(), form.cleaned_data["says"])
        else:
            services.leave_out(request.user, form.cleaned_data["why"], person=form.cleaned_data["person"])
    except services.Refused as error:
        form.add_error("file" if sent == "file" else "why", str(error))
        return False
    return True


def _context(request) -> dict:
    shop = request.user.shop
    source = rules_of(shop).kinds_from
    versions = KnownKinds.objects.visible_to(request.user).order_by("-number").select_related("made_by")
    newest = versions.filter(source=source).first()
    rows = taught_in(shop).select_related("round__visit__system__house", "round__visit__started_by")
    taught = Paginator(rows.defer("content").order_by("-round"), SHOWN).get_page(request.GET.get("page"))
    return {
        "source": source,
        "nowhere": source == houserules.NOWHERE,
        "rule": houserules.title_of("kinds_from"),
        "in_force": newest,
        "groups": bridge.groups_in(newest.document) if newest else [],
        "waiting": bridge.waiting_in(newest.document) if newest else [],
        "versions": versions.defer("document")[:VERSIONS_SHOWN],
        "taught": taught,
        "confirmed_by": CONFIRMED_BY,
        "left_out": LeftOut.objects.standing(shop).select_related("visit__system__house", "person", "by"),
        "work": Work.objects.visible_to(request.user).filter(kind=services.KIND).newest().first(),
        "without": houserules.NOWHERE,
        "here": "shop",
    }


@require_POST
def learn_now(request):
    """Learn now, in the background."""
    services.learn_now(request.user)
    return redirect("kinds:page")


@require_POST
def leave_out(request, public_id):
    """Leave a visit out, with a reason."""
    visit = get_object_or_404(Visit.objects.visible_to(request.user), public_id=public_id)
    try:
        services.leave_out(request.user, request.POST.get("why", ""), visit=visit)
    except services.Refused:
        return redirect(f"{reverse('kinds:page')}?why={visit.public_id}#taught")
    return redirect("kinds:page")


@require_POST
def take_back(request, public_id):
    """Let what was left out teach again."""
    row = get_object_or_404(LeftOut.objects.standing(request.user.shop), public_id=public_id)
    services.take_back(request.user, row)
    return redirect("kinds:page")


@require_GET
def exported(request, number):
    """A version as a file: lines, models and numbers, no customer."""
    row = get_object_or_404(KnownKinds.objects.visible_to(request.user), number=number)
    answer = HttpResponse(row.document, content_type="application/json; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="known-kinds-{row.number}.json"'
    return answer
