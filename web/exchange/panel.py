"""The sheet inside the access panel: this machine's baseline, what it should show over the weather, how it was left,
the last visits, room to write, and a code that opens it here.
"""

import segno
from django.urls import reverse
from django.utils.safestring import mark_safe

from web.exchange import bridge
from web.houses.models import System
from web.shell.address import public_address
from web.shell.trace import or_else
from web.visits.access import with_verdicts
from web.visits.load.for_engine import stored_round
from web.visits.load.held import table_of_round
from web.visits.load.material import material_of
from web.visits.models import FINISHED, ON, Baseline, HookUp, Round, Visit

TEMPLATE = "exchange/panel.html"
VISITS, LINES = 3, 5
# Where the holes and probes are, by number on the drawing of the unit: (x, y), what it is.
RETURN, SUPPLY = ((26, 66), "return air and static"), ((176, 66), "supply static")
FAR = ((204, 28), "supply air, 2 ft past the coil")
HOLES = {
    "air_handler": (RETURN, ((70, 66), "between filter and coil"), SUPPLY, FAR),
    "furnace_with_cased_coil": (RETURN, ((118, 66), "between furnace and coil"), SUPPLY, FAR),
}


def panel_context(user, system: System) -> dict:
    """What the sheet of a machine shows: of its live baseline in cooling, else in heating, else of its last round."""
    baseline = _baseline(user, system)
    round_ = baseline.round if baseline else _last_round(user, system)
    finished = Visit.objects.visible_to(user).filter(system=system, ended=FINISHED)
    visits = list(with_verdicts(finished.listed())[:VISITS])
    hook_ups = HookUp.objects.filter(round__visit__in=[visit.pk for visit in visits], did=ON)
    hooked = set(hook_ups.values_list("round__visit", flat=True))
    context = {
        "system": system,
        "baseline": baseline,
        "round": round_,
        "visits": [(visit, visit.pk in hooked) for visit in reversed(visits)],
        "lines": range(LINES - len(visits)),
        "holes": [(n, at, what) for n, (at, what) in enumerate(HOLES[system.unit], 1)] if system.unit in HOLES else [],
        "code": _code(system),
    }
    if round_ is None:
        return context | {"why_not": "Nothing was read at this machine yet."}
    drawn = or_else(f"panel of system {system.pk}", lambda: _drawn(round_, bool(baseline)), dict)
    return context | (drawn or {"why_not": "These readings could not be worked out."})


def _drawn(round_: Round, is_baseline: bool) -> dict:
    material = material_of(round_)
    read, table = stored_round(material), table_of_round(material)
    found = bridge.panel_of(read, table if is_baseline else None)
    return {
        "as_left": bridge.as_left(read),
        "airflow": bridge.airflow_said(table) if table else "",
        "why_not": bridge.WHY_NOT.get(found.why_not, ""),
        "split": found.split and {
            "drawn": bridge.split_drawn(found.split),
            "note": bridge.correction_said(found.split),
            "tolerance": bridge.tolerance_said(found.split.tolerance_f),
            "by": bridge.by_what(found.split.authority),
        },
        "liquid": found.liquid and {
            "drawn": bridge.liquid_drawn(found.liquid),
            "tolerance": bridge.tolerance_said(found.liquid.tolerance_f),
        },
    }  # fmt: skip


def _baseline(user, system: System) -> Baseline | None:
    live = Baseline.objects.visible_to(user).filter(system=system, live=True).select_related(*_OF_ROUND, "sealed_by")
    return live.order_by("mode").first()  # cooling before heating


def _last_round(user, system: System) -> Round | None:
    rounds = Round.objects.visible_to(user).filter(visit__system=system, readings__isnull=False, machine=system.machine)
    return rounds.select_related(*(name.removeprefix("round__") for name in _OF_ROUND)).order_by("-started_at").first()


_OF_ROUND = ("round__visit__system__house__shop", "round__visit__started_by", "round__visit__with_person")


def _code(system: System) -> str:
    """The machine's address as a code, drawn here."""
    address = public_address(f"{reverse('houses:house', args=[system.house.public_id])}#system-{system.public_id}")
    return mark_safe(segno.make(address, error="m", micro=False).svg_inline(border=0, omitsize=True))
