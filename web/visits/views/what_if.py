"""What changing a house rule would change on a sheet, before anybody changes it."""

from dataclasses import replace

from django.shortcuts import render
from django.views.decorators.http import require_GET

from web.houserules import bridge as houserules_bridge
from web.houserules.services import tried
from web.shell.trace import or_else
from web.visits.access import last_rounds_of, newest_read, round_for
from web.visits.bridge import results
from web.visits.load.filling import stored_sheet
from web.visits.load.held import stored_rounds
from web.visits.load.material import Material, material_of, materials_of
from web.visits.stations.judge import mark_of

OFFERED, PAST = 12, 10


@require_GET
def what_if(request):
    """A fragment: the chosen visit's verdict by the rules in force, and what the one tried would change of it."""
    visits = newest_read(request.user, OFFERED)
    rule_id, value = request.GET.get("rule", ""), request.GET.get("value", "")
    chosen = next(
        (v for v in visits if str(v.public_id) == request.GET.get("visit", "")), visits[0] if visits else None
    )
    context = {"visits": visits, "chosen": chosen, "rule": rule_id, "value": value, "problem": ""}
    if chosen is not None:
        material = material_of(round_for(request.user, chosen.public_id))
        sheet = stored_sheet(material, request.user)
        now = sheet.assessed
        context |= {"now": now.verdict, "broken": sheet.broken}
        if rule_id and not sheet.broken:
            try:
                rules = tried(request.user.shop, rule_id, value)
            except houserules_bridge.UnknownChoice as error:
                context["problem"] = str(error)
            else:
                then = stored_sheet(replace(material, rules=rules), request.user).assessed
                context |= _against(now, then) | {"title": houserules_bridge.title_of(rule_id)}
    return render(request, "visits/_what_if.html", context)


@require_GET
def what_if_past(request):
    """A fragment: which of the last verdicts would read otherwise by the rule tried. Nothing is rewritten."""
    try:
        rules = tried(request.user.shop, request.GET.get("rule", ""), request.GET.get("value", ""))
    except houserules_bridge.UnknownChoice as error:
        return render(request, "visits/_what_if_past.html", {"problem": str(error)})
    materials = materials_of(last_rounds_of(newest_read(request.user, PAST)), with_people=False)
    read = or_else("trying a rule on past rounds", lambda: _tried(materials, rules), lambda: [])
    moved = [row for row in read if row["moved"]]
    return render(request, "visits/_what_if_past.html", {"moved": moved, "count": len(read), "problem": ""})


def _tried(materials: list[Material], rules) -> list[dict]:
    """What each round says by the rules in force and by those tried, and whether that differs; without those that
    cannot be judged.
    """
    both = results.assessed_many(*stored_rounds([*materials, *(replace(m, rules=rules) for m in materials)]))
    now, then = both[: len(materials)], both[len(materials) :]
    return [_pair(m, a, b) for m, a, b in zip(materials, now, then, strict=True) if a and b]


def _pair(material: Material, now: results.Assessed, then: results.Assessed) -> dict:
    differs = results.differing(now, then)
    return {
        "visit": material.visit,
        "before": _said(now),
        "after": _said(then),
        "moved": differs.verdict or differs.gauges,
    }


def _said(assessed: results.Assessed) -> dict:
    return {"headline": assessed.verdict.headline, "gauges": assessed.diagnosis.gauges.decides}


def _against(now: results.Assessed, then: results.Assessed) -> dict:
    """The verdict by the rule tried, and the marks that differ."""
    differs, before = results.differing(now, then), {q.id: q for q in now.row}
    changed = [
        {"before": mark_of(before[q.id]) if q.id in before else None, "after": mark_of(q)}
        for q in then.row
        if q.id in differs.quantities
    ]
    return {"then": then.verdict, "changed": changed, "same_verdict": not differs.verdict}
