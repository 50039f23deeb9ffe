"""The lead's pages of re-assessments: starting one, and what it would change."""

from django.core.paginator import Paginator
from django.http import Http404
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET, require_http_methods

from web.background.access import work_for
from web.background.models import Work
from web.houserules import bridge as houserules
from web.houses.models import KINDS
from web.reassess import services
from web.reassess.forms import ReassessForm

SHOWN, ROUNDS_SHOWN = 10, 40


@require_http_methods(["GET", "POST"])
def page(request):
    """The shop's re-assessments, and the form that starts one."""
    form = ReassessForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        asked = form.cleaned_data
        since = asked["since"].isoformat() if asked["since"] else ""
        try:
            work = services.start(request.user, since, asked["machine"], asked["rule"], asked["value"])
        except houserules.UnknownChoice as error:
            form.add_error(None, str(error))
        else:
            return redirect("reassess:result", public_id=work.public_id)
    works = Work.objects.visible_to(request.user).filter(kind=services.KIND).newest().select_related("started_by")
    context = {"form": form, "works": [(work, _wanted(work)) for work in works[:SHOWN]], "here": "shop"}
    return render(request, "reassess/page.html", context)


@require_GET
def result(request, public_id):
    """One re-assessment: how far it is, and what it would change."""
    work = work_for(request.user, public_id)
    if work.kind != services.KIND:
        raise Http404
    rounds = Paginator(services.moved_rounds(work), ROUNDS_SHOWN).get_page(request.GET.get("page"))
    context = {"work": work, "wanted": _wanted(work), "changes": services.changes_of(work), "rounds": rounds}
    return render(request, "reassess/result.html", context | {"by": work.rejudged.first(), "here": "shop"})


@require_GET
def trial(request):
    """A fragment of the house rules: trying a rule on every visit of the shop."""
    rule, value = request.GET.get("rule", ""), request.GET.get("value", "")
    if not houserules.title_of(rule):
        raise Http404
    before = Work.objects.visible_to(request.user).filter(kind=services.KIND, wants__rule=rule, wants__value=value)
    return render(request, "reassess/_trial.html", {"rule": rule, "value": value, "last": before.newest().first()})


def _wanted(work: Work) -> str:
    """What a re-assessment was asked to do, in words."""
    wants = work.wants
    what = "Today's engine and rules"
    if rule := wants.get("rule"):
        what = f"{houserules.title_of(rule)}: {houserules.choice_said(rule, wants['value'])}"
    which = [KINDS[wants["machine"]].lower()] if wants.get("machine") in KINDS else []
    which += [f"since {wants['since']}"] if wants.get("since") else []
    return f"{what}, {', '.join(which) or 'every visit'}"
