"""What changing a house rule would change on a sheet, before anybody changes it."""

from dataclasses import replace

from django.shortcuts import render
from django.views.decorators.http import require_GET

from web.houserules import bridge as houserules_bridge
from web.houserules.services import tried
from web.visits.access import round_for
from web.visits.bridge import results
from web.visits.load.filling import stored_sheet
from web.visits.load.material import material_of, stored_round
from web.visits.models import Visit
from web.visits.stations.judge import row_of_marks

OFFERED, PAST = 12, 10


@require_GET
def what_if(request):
    """A fragment: the chosen visit's verdict and marks by the rules in force, and by the one tried."""
    visits = list(Visit.objects.visible_to(request.user).filter(rounds__readings__isnull=False).distinct().for_list()[:OFFERED])
    rule_id, value = request.GET.get("rule", ""), request.GET.get("value", "")
    chosen = next((v for v in visits if str(v.public_id) == request.GET.get("visit", "")), visits[0] if visits else None)
    context = {"visits": visits, "chosen": chosen, "rule": rule_id, "value": value, "problem": ""}
    if chosen is not None:
        material = material_of(round_for(request.user, chosen.public_id))
        context |= {"now": _seen_by(stored_sheet(material, request.user))}
        if rule_id:
            try:
                rules = tried(request.user.shop, rule_id, value)
            except houserules_bridge.UnknownChoice as error:
                context["problem"] = str(error)
            else:
                context |= _against(context["now"], _seen_by(stored_sheet(replace(material, rules=rules), request.user)))
                context["title"] = houserules_bridge.title_of(rule_id)
    return render(request, "visits/_what_if.html", context)


@require_GET
def what_if_past(request):
    """A fragment: which of the last verdicts would read otherwise by the rule tried. Nothing is rewritten."""
    try:
        rules = tried(request.user.shop, request.GET.get("rule", ""), request.GET.get("value", ""))
    except houserules_bridge.UnknownChoice as error:
        return render(request, "visits/_what_if_past.html", {"problem": str(error)})
    visits = Visit.objects.visible_to(request.user).filter(rounds__readings__isnull=False).distinct().for_list()[:PAST]
    moved = [row for visit in visits if (row := _moved(request.user, visit, rules))]
    return render(request, "visits/_what_if_past.html", {"moved": moved, "count": len(visits), "problem": ""})


def _moved(user, visit, rules) -> dict | None:
    """What a visit's last round says by the rules in force and by those tried; None where that is the same."""
    material = material_of(round_for(user, visit.public_id), with_people=False)
    now, then = (results.assessed(stored_round(m)) for m in (material, replace(material, rules=rules)))
    said = [(a.verdict.headline, a.diagnosis.gauges.decides) for a in (now, then)]
    return None if said[0] == said[1] else {"visit": visit, "before": said[0], "after": said[1]}


def _seen_by(sheet) -> dict:
    return {"verdict": sheet.assessed.verdict, "marks": row_of_marks(sheet)}


def _against(now: dict, then: dict) -> dict:
    """Both verdicts, and the marks that differ."""
    before = {mark["label"]: mark for mark in now["marks"]}
    changed = [
        {"label": mark["label"], "before": before.get(mark["label"]), "after": mark}
        for mark in then["marks"]
        if _says(before.get(mark["label"])) != _says(mark)
    ]
    return {"then": then, "changed": changed, "same_verdict": now["verdict"] == then["verdict"]}


def _says(mark: dict | None) -> tuple:
    return tuple(mark.get(key, "") for key in ("value", "expect", "word")) if mark else ()
