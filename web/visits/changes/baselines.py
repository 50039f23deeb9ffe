"""Sealing a round as its machine's baseline, and ending one: by what was done to the machine, by another, by a lead."""

import uuid
from datetime import datetime, timedelta

from django.db import transaction
from django.utils import timezone

from web.accounts.access import need
from web.accounts.rights import FINISH, OVERSEE, READ, may
from web.houses.models import System
from web.shell.once import keep_once
from web.visits.bridge import results, vocabulary
from web.visits.load.for_engine import stored_round
from web.visits.load.held import held_of
from web.visits.load.material import material_of, standing
from web.visits.models import Action, Baseline, FollowUp, Round, Visit

SEALED, ENDED = "sealed", "ended"
CLOCKS_MAY_DIFFER = timedelta(minutes=10)


class BaselineRefused(ValueError):
    """Why a round is not sealed, or a baseline not ended, in words for the person."""


def take_baseline(actor, round_: Round, says: dict[str, str], number: uuid.UUID) -> Baseline:
    """What an entry of the kind *baseline* says: 'did', and the fields of its form. Raises BaselineRefused,
    NumberUsed.
    """
    if says.get("did") == SEALED:
        return seal(actor, round_, says.get("why", ""), says.get("replaces", ""), number)
    if says.get("did") == ENDED:
        found = Baseline.objects.visible_to(actor).filter(round=round_, live=True).first()
        if found is None:
            raise BaselineRefused("It has ended already.")
        return end(actor, found, says.get("why", ""))
    raise BaselineRefused("A baseline is sealed or ended.")


@transaction.atomic
def seal(
    actor,
    round_: Round,
    why: str,
    replaces: str = "",
    number: uuid.UUID | None = None,
    at: datetime | None = None,
) -> Baseline:
    """Seal a round as its machine's baseline in its mode. replaces: the number of the live one that it takes the place
    of. Raises BaselineRefused, NumberUsed.
    """
    visit = round_.visit
    need(actor, FINISH, visit.shop_id)
    system = System.objects.select_for_update().get(pk=visit.system_id)  # one at a time
    kept = Baseline.objects.visible_to(actor).filter(public_id=number).first() if number else None
    if kept and kept.round_id == round_.pk:
        return kept
    material = material_of(round_, with_people=False)
    found = stored_round(material)
    live = Baseline.objects.filter(system=system, mode=found.mode, live=True).select_related("sealed_by").first()
    _need_fit(round_, system, why, live, replaces)
    assessed = results.assessed(found, material.shown, held_of(material, found.mode))
    if hinders := results.baseline_obstacles(assessed):
        raise BaselineRefused(" ".join(said.both for said in hinders))
    if live:
        _end(actor, live, "Another took its place.")
    row = Baseline(shop=visit.shop, system=system, mode=found.mode, round=round_, sealed_by=actor)
    row.sealed_at, row.why = at or timezone.now(), why.strip()[:300]
    row.lacks = list(assessed.found.baseline_lacks)
    return keep_once(Baseline.objects.visible_to(actor), number, row, ("round_id",), row.save)


def _need_fit(round_: Round, system: System, why: str, live: Baseline | None, replaces: str) -> None:
    """What of the round's place in the record keeps it from being sealed, whatever was read."""
    if not why.strip():
        raise BaselineRefused("Say why this round is the baseline.")
    if round_.machine != system.machine:
        raise BaselineRefused("This was read on the machine before its plate was changed: read the new one.")
    if round_.started_at > timezone.now() + CLOCKS_MAY_DIFFER:
        raise BaselineRefused("This round is dated ahead of today: set the device's date, and read it again.")
    if action := _ending(system, round_):
        label = vocabulary.ACTIONS[action.done].label
        raise BaselineRefused(f"{label} came after these readings: settle, read again and seal that round.")
    if blocks := FollowUp.objects.filter(system=system, blocks="baseline").open().first():
        raise BaselineRefused(f"A follow-up blocks a new baseline: {blocks.text}")
    if live and live.round_id == round_.pk:
        raise BaselineRefused("This round is the baseline already.")
    if live and str(live.public_id) != replaces:
        when = f"{timezone.localtime(live.sealed_at):%b %-d, %Y}"
        raise BaselineRefused(
            f"There is one already, sealed by {live.sealed_by.short_name} on {when}: load the page again to replace it."
        )


@transaction.atomic
def end(actor, baseline: Baseline, why: str) -> Baseline:
    """A lead says that a baseline should not have been sealed; raises BaselineRefused."""
    need(actor, READ, baseline.shop_id)
    if not may(actor, OVERSEE):
        raise BaselineRefused("A lead ends a baseline; what is done to the machine ends it by itself.")
    if not why.strip():
        raise BaselineRefused("Say why it is the baseline no more.")
    baseline.was_wrong = True
    _end(actor, baseline, why.strip()[:300])
    return baseline


@transaction.atomic
def follow_actions(actor, visit: Visit) -> None:
    """End the baselines that what was done at a visit ends; bring back those whose ending was undone."""
    system = System.objects.select_for_update().get(pk=visit.system_id)
    for row in Baseline.objects.filter(system=system, live=True).select_related("round"):
        if action := _ending(system, row.round):
            _end(actor, row, vocabulary.ACTIONS[action.done].label, action.taken_at, action)
    live = set(Baseline.objects.filter(system=system, live=True).values_list("mode", flat=True))
    ended = Baseline.objects.filter(system=system, ended_by_action__round__visit=visit).select_related("round")
    for row in ended.order_by("-ended_at"):
        if row.mode not in live and not _ending(system, row.round):
            live.add(row.mode)
            row.live, row.ended_at, row.ended_by, row.ended_by_action, row.ended_why = True, None, None, None, ""
            row.save()


def _ending(system: System, round_: Round) -> Action | None:
    """The first thing done to the machine after a round that makes it another than was read; None for none."""
    since = Action.objects.filter(round__visit__system=system, round__started_at__gte=round_.started_at)
    return next((row for row in standing(since) if _ends(row)), None)


def _ends(action: Action) -> bool:
    known = vocabulary.ACTIONS.get(action.done)
    return known is not None and known.ends_baseline


def _end(actor, row: Baseline, why: str, at: datetime | None = None, action: Action | None = None) -> None:
    row.live, row.ended_at, row.ended_by, row.ended_why = None, at or timezone.now(), actor, why
    row.ended_by_action = action
    row.save()
