"""What is kept of gauges at a visit: hook-ups, and the steps of charging that count."""

from collections.abc import Iterable

from web.visits.bridge.charging import weight
from web.visits.models import ADDED, OFF, ON, RECOVERED, WITHDRAWN, ChargeStep, HookUp


def hook_ups_of(visit) -> list[HookUp]:
    """The visit's hook-ups as they happened; one query."""
    return list(HookUp.objects.filter(round__visit=visit).in_order().select_related("person"))


def gauges_on(visit) -> bool:
    """Whether gauges are connected now; one query."""
    return is_on(HookUp.objects.filter(round__visit=visit).in_order())


def is_on(hook_ups) -> bool:
    """Whether, after these hook-ups in order, gauges are connected."""
    last = OFF
    for row in hook_ups:
        last = row.did if row.did in (ON, OFF) else last
    return last == ON


def moved_oz(visit) -> float:
    """Refrigerant added at the visit less what was recovered [oz]; one query."""
    return net_oz([step for steps in steps_by_round(visit).values() for step in steps])


def net_oz(steps: list[ChargeStep]) -> float:
    """Added less recovered [oz]."""
    return sum(-row.oz if row.way == RECOVERED else row.oz for row in steps)


def moved_words(steps: list[ChargeStep]) -> str:
    """'9 oz in over 3 steps'; '' for none."""
    if not steps:
        return ""
    net, count = net_oz(steps), f"{len(steps)} step{'s' if len(steps) != 1 else ''}"
    return f"{weight(abs(net))} {'in' if net >= 0 else 'out'} over {count}"


def steps_by_round(visit) -> dict[int, list[ChargeStep]]:
    """The steps of charging that count, by their round's number; one query."""
    found: dict[int, list[ChargeStep]] = {}
    for row in ChargeStep.objects.filter(round__visit=visit).in_order().select_related("round", "person"):
        found.setdefault(row.round.number, []).append(row)
    return {number: still for number, rows in found.items() if (still := standing_steps(rows))}


def standing_steps(rows: list[ChargeStep]) -> list[ChargeStep]:
    """Of a round's steps in the order they were taken, those that were not undone, by number."""
    newest = {row.number: row for row in rows}
    return [row for _, row in sorted(newest.items()) if row.way != WITHDRAWN]


def standing_of_rounds(rows: Iterable[ChargeStep]) -> list[ChargeStep]:
    """Of the steps of several rounds, in the order they were taken, those that were not undone."""
    by_round: dict[int, list[ChargeStep]] = {}
    for row in rows:
        by_round.setdefault(row.round_id, []).append(row)
    return [step for of_round in by_round.values() for step in standing_steps(of_round)]


def is_wrong(step: ChargeStep, plate: str) -> bool:
    """Whether a step put another refrigerant in than the plate says; of a plate that is silent nobody knows."""
    return step.way == ADDED and bool(plate) and step.refrigerant not in ("", plate)


def done_by(steps: list[ChargeStep]) -> tuple[str, ...]:
    """The actions that moving refrigerant in these steps comes to, by id."""
    ways = {step.way for step in steps}
    return tuple({ADDED: "charge_added", RECOVERED: "charge_recovered"}[way] for way in sorted(ways))
