"""Background work: judging the shop's rounds again."""

from collections.abc import Sequence
from dataclasses import replace
from functools import partial
from typing import cast

from web.accounts.models import Shop
from web.background.cores import let_go, over_cores, parted
from web.background.kinds import Kind, Step
from web.background.models import Work
from web.houserules.services import tried
from web.reassess import bridge
from web.reassess.models import Rejudged
from web.visits.bridge.held import Held
from web.visits.bridge.results import LONGEST_HEADLINE
from web.visits.load.held import stored_rounds
from web.visits.load.material import Material, materials_of
from web.visits.models import Assessment, Round

AT_ONCE, WINDOW = 300, 5_000  # rounds a step at most, and how many numbers of rounds it looks among
LIKELY = 0.01  # a group less likely than that is not kept


def rounds_of(work: Work):
    """The rounds that a re-assessment goes through: all of the shop, as narrowed by what it wants."""
    rounds = Round.objects.filter(visit__shop=work.shop_id, visit__is_practice=False)
    if since := work.wants.get("since"):
        rounds = rounds.filter(visit__started_at__date__gte=since)
    if machine := work.wants.get("machine"):
        rounds = rounds.filter(visit__system__kind=machine)
    return rounds


def _step(work: Work) -> Step:
    """The next rounds by number, judged on all cores. Within a window of numbers, so that the database goes through the
    rounds from there on and not through every visit of the shop.
    """
    after = work.cursor.get("after", 0)
    within = rounds_of(work).filter(pk__gt=after, pk__lte=after + WINDOW).order_by("pk")
    keys = list(within.values_list("pk", flat=True)[:AT_ONCE])
    found = over_cores(partial(_rejudged, cast(int, work.shop_id), work.wants), parted(keys)) if keys else []
    Rejudged.objects.bulk_create([Rejudged(work=work, **row) for rows in found for row in rows])
    upto = keys[-1] if len(keys) == AT_ONCE else after + WINDOW
    ended = not Round.objects.filter(pk__gt=upto).exists()
    if ended:
        let_go()
    total = rounds_of(work).count() if work.total is None else None
    return Step(len(keys), {"after": upto}, ended, total, says=_summary(work) if ended else "")


def _summary(work: Work) -> str:
    kept = Rejudged.objects.filter(work=work)
    judged, moved = kept.count(), kept.filter(moved=True).count()
    rounds = "1 round" if judged == 1 else f"{judged} rounds"
    return f"{rounds} judged again: {moved or 'none'} would read otherwise."


def _rejudged(shop_id: int, wants: dict, keys: Sequence[int]) -> list[dict]:
    """The rows of these rounds, by column; one that cannot be judged is left out and logged, one of which nothing was
    read is left out.
    """
    rounds = list(Round.objects.filter(pk__in=keys).order_by("pk").select_related("visit__system__house__shop"))
    said = Assessment.objects.newest_of(rounds)
    materials = materials_of([row for row in rounds if row.pk in said], with_people=False, last=said)
    if not materials:
        return []
    stored, held = stored_rounds(materials)
    if rule := wants.get("rule"):
        rules = tried(Shop.objects.get(pk=shop_id), rule, wants["value"])
        was = bridge.judged_many(stored, held)
        stored, held = stored_rounds([replace(material, rules=rules) for material in materials])
        now = bridge.judged_many(stored, held)
    else:
        was = [bridge.as_stored(said[material.round.pk]) for material in materials]
        now = bridge.judged_many(stored, held, [material.shown for material in materials])
    return [
        _row(material, by, before, after)
        for material, by, before, after in zip(materials, held, was, now, strict=True)
        if before and after
    ]


def _row(material: Material, held: Held, was: bridge.Judged, now: bridge.Judged) -> dict:
    return {
        "round_id": material.round.pk,
        "engine_version": bridge.VERSION,
        "rules_version": now.rules_version,
        "known_kinds": held.kinds_version,
        "was_state": was.state,
        "was_group": was.group,
        "was_gauges": was.gauges,
        "was_says": was.says[:LONGEST_HEADLINE],
        "state": now.state,
        "group": now.group,
        "gauges": now.gauges,
        "says": now.says[:LONGEST_HEADLINE],
        "probabilities": {group: round(p, 3) for group, p in now.groups.items() if p >= LIKELY},
        "quantities": now.moved_from(was),
        "moved": now.decides != was.decides,
    }


REASSESS = Kind("Judging again", _step)
