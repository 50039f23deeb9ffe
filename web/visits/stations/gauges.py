"""The Gauges station: before connecting, the pressures and what they come to, charging in weighed steps, and taking the
gauges off.
"""

from datetime import datetime, timedelta

from django.utils import timezone
from django.utils.functional import SimpleLazyObject

from web.houses.models import REFRIGERANTS
from web.shell.drawing.ports import cabinet_drawing, ports_drawing
from web.shell.drawing.trace import TracePoint, trace
from web.visits import figures
from web.visits.access import Around
from web.visits.bridge import charging, vocabulary
from web.visits.load.gauges import is_on, is_wrong, moved_words
from web.visits.load.leaks import blocked_by, is_asked_about, leak_search_of_visit
from web.visits.load.sheet import Sheet
from web.visits.models import OFF, ON, RECOVERED, SEARCHED, TESTED, Cylinder
from web.visits.querysets import OPEN
from web.visits.stations.stops import SHAPES, lives

WARRANTED, PRESSURES, ADD = "warranted", "gauges", "add"


def is_warranted(sheet: Sheet) -> bool:
    """Whether the verdict asks for gauges."""
    return sheet.assessed.diagnosis.gauges.decides == WARRANTED


def is_open(sheet: Sheet) -> bool:
    """Whether the station is there: gauges are warranted, were opened with a reason, or were read."""
    read = any(f.typed for f in sheet.of_stop(PRESSURES))
    return read or bool(sheet.material.hook_ups) or is_warranted(sheet)


def context(sheet: Sheet, around: Around, person, palette: dict[str, str]) -> dict:
    """What the station shows beside its fields."""
    material = sheet.material
    on, steps = is_on(material.hook_ups), material.charge_steps
    places = charging.gauge_lines(sheet.system.kind, sheet.mode).values()
    in_cabinet = sheet.system.kind == "ground_source"
    return {
        "gauges_on": on,
        "hook_ups": [_hooked(row) for row in material.hook_ups],
        "warranted": is_warranted(sheet),
        "checks": vocabulary.checks_before_connecting(sheet.system.refrigerant),
        "ports": vocabulary.ports(sheet.mode, sheet.system.kind),
        "ports_drawn": cabinet_drawing(palette) if in_cabinet else ports_drawing(sheet.mode == "heating", palette),
        "lines": [(stop.id, stop.name.lower()) for stop in sheet.stops if stop.id in places],
        "person": person,
        "next_number": steps[-1].number + 1 if steps else 1,
        "most_steps": vocabulary.MOST_STEPS,
        "leak_search": SimpleLazyObject(lambda: leak_search_of_visit(sheet.visit)),  # asked for where it is shown
        "searched": SEARCHED,
        "tested": TESTED,
        "cylinders": Cylinder.objects.filter(shop=sheet.visit.shop_id).order_by("label"),
        "refrigerants": [name for name in REFRIGERANTS if name != sheet.system.refrigerant],
        "scale_now": charging.weight(steps[-1].after_oz) if steps else "",
        "own_stops": [_own_stop(sheet, stop, around) for stop in sheet.stops if stop.question == vocabulary.GAUGES],
    }


def _own_stop(sheet: Sheet, stop, around: Around) -> dict:
    """A stop of the station itself: the pressures, or what is read after a step."""
    here = lives(stop, around)
    if stop.id != PRESSURES:  # after a step the clamps of the walk stay where they are; an earlier step is read
        last = stop is sheet.stops[-1]
        here = [live for live in here if last and live["probe"] is not None]
    return {"stop": stop, "fields": sheet.of_stop(stop.id), "lives": here}


def _hooked(row) -> dict:
    more = []
    if row.did == ON:
        more = [
            f"{row.ports.replace(',', ' and ')} side",
            row.under,
        ]
    if row.did == OFF:
        more = [
            "hose charge returned" if row.hose_returned else "hose charge not returned",
            f"{charging.weight(row.lost_oz)} lost" if row.lost_oz else "nothing lost",
            "caps on with a wrench" if row.caps_on else "caps not on",
        ]
    return {"row": row, "more": ", ".join(more), "attention": row.did == OFF and not row.caps_on}


def figures_context(sheet: Sheet, palette: dict[str, str]) -> dict:
    """What is decided about gauges, what the pressures come to and added, and the charging: changes while somebody
    types.
    """
    material, steps = sheet.material, sheet.material.charge_steps
    by = charging.ByGauge(
        sheet.assessed,
        tuple(
            (row.way, row.oz, tuple(map(charging.step_reading, sheet.after_steps.get(f"s{row.number}", ()))))
            for row in steps
        ),
        sheet.system.factory_charge_oz,
    )
    found = {
        "decision": sheet.assessed.gauges_say,
        "gauge_figures": by.figures,
        "gauges_added": by.added,
        "charging": None,
        "charge_steps": [_step(row, material, unasked=row.number == 1 and not by.asked_for(row.way)) for row in steps],
    }
    if not by.is_read:
        return found
    plan = by.plan
    last = steps[-1] if steps else None
    waits = plan.says == "read" and last is not None
    return found | {
        "charging": by.said,
        "set_by": by.set_by,
        "plan": plan,
        "blocked": _blocked(material, plan),
        "asks_for_leak": plan.says == "on_target"
        and bool(steps)
        and plan.way != "recover"
        and is_asked_about(material.visit),
        "next_way": plan.way or (last.way if last else "add"),
        "moved": moved_words(steps),
        "trace": _trace(by, palette, _settling(sheet, last) if waits else ""),
        "settles_until": _settles_until(sheet, last) if waits else None,
    }


def _blocked(material, plan) -> str:
    """Why the next step is not proposed; '' for nothing. What comes before it, to prove or to read, is said as ever."""
    adds = plan.says == "step" and plan.way == ADD
    return blocked_by(material) if adds and material.visit.ended in OPEN else ""


def _trace(by: charging.ByGauge, palette: dict[str, str], waits: str):
    points = [
        TracePoint(p.lean, p.own, SHAPES[p.state], figures.plain(p.value_f, "°F", True), p.label) for p in by.points
    ]
    return (
        trace(points, palette, f"{by.plan.target.by.capitalize()} after each step", waits)
        if len(points) > 1 or waits
        else ""
    )


def _settles_until(sheet: Sheet, last) -> datetime:
    """When a step has settled, by the shop's settle time."""
    return last.taken_at + timedelta(minutes=sheet.material.rules.settle_minutes)


def _settling(sheet: Sheet, last) -> str:
    until = _settles_until(sheet, last)
    return f"settles until {timezone.localtime(until):%H:%M}" if until > timezone.now() else "settled: read it"


def _step(row, material, unasked: bool) -> dict:
    """A step in words, with what is odd about it. unasked: whether the machine as found did not ask for it."""
    odd = ["The machine as found does not ask for it, and no reason is given."] if unasked and not row.why else []
    charge = material.system.factory_charge_oz
    if charge and row.oz > charge:
        odd.append("More than the plate's whole charge: check the two weights.")
    if is_wrong(row, plate := material.system.refrigerant):
        odd.append(f"{row.refrigerant} in a machine for {plate}: stop, recover all of it. A follow-up is left.")
    if row.way == RECOVERED and row.cylinder and row.tare_oz is None:
        odd.append("Recover into a recovery cylinder only, and enter its empty weight.")
    if row.capacity_oz and row.tare_oz is not None and row.way == RECOVERED:
        full = (row.after_oz - row.tare_oz) / row.capacity_oz
        most = charging.FULL_SHARE.value
        if full > most:
            over = f"{100 * full:.0f} % full, over {100 * most:.0f} %"
            odd.append(f"The cylinder is {over}: change it before the next step.")
    return {
        "row": row,
        "oz": charging.weight(row.oz),
        "odd": odd,
        "word": "recovered" if row.way == RECOVERED else "added",
    }
