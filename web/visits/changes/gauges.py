"""Gauges on and off, and refrigerant moved, as entries: what is recorded is what happened; only what cannot be comes
back to the field.
"""

from web.houses.models import REFRIGERANTS
from web.visits.bridge import vocabulary
from web.visits.bridge.charging import ounces
from web.visits.changes.admission import Refusal
from web.visits.forms import EntryItem
from web.visits.models import (
    ADDED,
    HOOKED,
    OFF,
    ON,
    OPENED,
    RECOVERED,
    WITHDRAWN,
    ChargeStep,
    Cylinder,
    HookUp,
    Round,
)

_SCALE = "Weights as the scale shows them: 14 lb 2.5, 226.5 oz or 6.42 kg."


def hook_up_of(item: EntryItem, round_: Round, actor) -> HookUp | Refusal:
    """The row of a hook-up as the page says it."""
    says = item.says
    did = says.get("did", "")
    if did not in HOOKED:
        return Refusal("Gauges are opened, connected or off.")
    why = says.get("why", "").strip()[:300]
    if did == OPENED and not why:
        return Refusal("Say why they are connected.", "The verdict does not ask for them.")
    row = HookUp(did=did, why=why, certificate=actor.certificate, certificate_until=actor.certificate_until)
    if did == ON:
        ports = [side for side in vocabulary.GAUGE_SIDES if f"port.{side}" in says]
        if not ports:
            return Refusal("Say which port the hoses are on.", "One is enough.")
        known = vocabulary.checks_before_connecting(round_.visit.system.refrigerant)
        row.ports, row.checks = ",".join(ports), [id_ for id_ in known if f"check.{id_}" in says]
    if did == OFF:
        lost = says.get("lost", "").strip()
        row.lost_oz = ounces(lost) if lost else None
        if lost and row.lost_oz is None:
            return Refusal(f"'{lost[:20]}' is no weight.", "Ounces lost from the hoses: 0.5, or leave it out.")
        row.hose_returned, row.caps_on = "hose_returned" in says, "caps_on" in says
    return row


def charge_step_of(item: EntryItem, round_: Round) -> ChargeStep | Refusal:
    """The row of a weighed step as the page says it."""
    says, number = item.says, item.says.get("number", "")
    if not number.isdecimal() or not 1 <= int(number) <= vocabulary.MOST_STEPS:
        return Refusal(
            "A step has a number.", f"At most {vocabulary.MOST_STEPS} in a round: read the whole round again."
        )
    words = {name: says.get(name, "").strip() for name in ("cylinder", "why")}
    row = ChargeStep(
        number=int(number), way=says.get("way", ""), cylinder=words["cylinder"][:40], why=words["why"][:300]
    )
    if row.way == WITHDRAWN:
        return row
    if row.way not in (ADDED, RECOVERED):
        return Refusal("Say whether it was added or recovered.")
    held = Cylinder.objects.filter(shop=round_.visit.shop_id, label=row.cylinder).first() if row.cylinder else None
    chosen = says.get("refrigerant", "")
    if chosen and chosen not in REFRIGERANTS:
        return Refusal("That refrigerant is not among those known here.", "Leave it out where it is the plate's.")
    put_in = chosen or (held.refrigerant if held and not held.is_recovery else "")
    row.refrigerant = put_in if put_in != round_.visit.system.refrigerant else ""
    weights = {name: _weight(says.get(name, "")) for name in ("before", "after", "tare", "capacity")}
    for name in ("before", "after"):
        if weights[name] is None:
            return Refusal(f"The scale {name}: {says.get(name, '').strip()[:20] or 'nothing'} is no weight.", _SCALE)
    row.before_oz, row.after_oz, row.tare_oz, row.capacity_oz = weights.values()
    if held and held.is_recovery:
        row.tare_oz, row.capacity_oz = row.tare_oz or held.tare_oz, row.capacity_oz or held.holds_oz
    return _cannot_be(row, row.tare_oz or (held.tare_oz if held else None)) or row


def _weight(text: str) -> float | None:
    return ounces(text) if text.strip() else None


def _cannot_be(row: ChargeStep, tare_oz: float | None) -> Refusal | None:
    """What no cylinder on a scale does. tare_oz: what it weighs empty, None where nobody knows."""
    before_oz, after_oz = row.weighed
    if row.way == ADDED and after_oz >= before_oz:
        return Refusal(
            "The cylinder did not get lighter while it was added from.",
            "Are before and after changed over, or was it recovered?",
        )
    if row.way == RECOVERED and after_oz <= before_oz:
        return Refusal(
            "The cylinder did not get heavier while it was recovered into.",
            "Are before and after changed over, or was it added?",
        )
    if tare_oz is not None and min(before_oz, after_oz) < tare_oz:
        return Refusal("The cylinder weighs less than empty.", "Check its tare and what else was on the scale.")
    return None
