"""Leak searches as entries, and what follows from refrigerant that was moved: a fact is always kept, and what it asks
for is left as a follow-up.
"""

import uuid
from datetime import datetime

from web.houserules.bridge import SEARCH_NOW, SECOND_ADDITION
from web.houserules.services import rules_of
from web.visits.changes.admission import Refusal
from web.visits.changes.follow_ups import close_follow_up, open_follow_up
from web.visits.forms import EntryItem
from web.visits.load.gauges import is_wrong, steps_by_round
from web.visits.load.leaks import is_asked_about, leak_search_of_visit
from web.visits.models import ADDED, LEAK_FOUND, NOT_SEARCHED, SEARCHED, TESTED, FollowUp, LeakSearch, Visit

UNSEARCHED = "Refrigerant was added and no leak search is recorded: search before any more is added."
_OF_STEP = uuid.UUID("5d1c6a1e-2a37-4c59-9a53-5b8b3c1f5a10")  # names the follow-up of a step, so that twice is once


def leak_search_of(item: EntryItem) -> LeakSearch | Refusal:
    """The row of a leak search as the page says it."""
    says = item.says
    row = LeakSearch(
        found=says.get("found", ""),
        where=says.get("where", "").strip()[:200],
        repaired="repaired" in says,
        tested=says.get("tested", ""),
    )
    if row.found not in SEARCHED or row.tested not in TESTED:
        return Refusal("Say what came of the search: a leak, none, or that nobody searched.")
    if row.found == LEAK_FOUND and not row.where:
        return Refusal("Say where the leak is.", "Such as: flare at the liquid service valve.")
    if row.repaired and row.found != LEAK_FOUND:
        return Refusal("Nothing can be repaired where no leak was found.", "Choose leak found, or leave repaired out.")
    return row


def follow_wrong_refrigerant(actor, visit: Visit) -> None:
    """Leave a follow-up for each step that put another refrigerant in than the plate's, where the plate says which."""
    plate = visit.system.refrigerant
    for steps in steps_by_round(visit).values():
        for step in steps:
            if is_wrong(step, plate):
                mixed = f"{step.refrigerant} was put into a machine for {plate}"
                todo = "recover all of it into a cylinder for mixed refrigerant, evacuate, weigh the right charge in."
                _leave(actor, visit, f"{mixed}: {todo}", step.uuid)


def follow_unsearched(actor, visit: Visit, at: datetime | None = None) -> None:
    """Leave a follow-up where refrigerant was added and nobody looked for the leak, as the house rule has it."""
    added = [s for steps in steps_by_round(visit).values() for s in steps if s.way == ADDED]
    if not added or not is_asked_about(visit):
        return
    if rules_of(visit.shop).leak_search not in (SEARCH_NOW, SECOND_ADDITION):
        return
    _leave(actor, visit, UNSEARCHED, added[-1].uuid, at)


def close_unsearched(actor, visit: Visit) -> None:
    """A leak search ends what waited for it."""
    search = leak_search_of_visit(visit)
    if search is None or search.found == NOT_SEARCHED:
        return
    for row in FollowUp.objects.filter(system=visit.system, blocks="charge", text=UNSEARCHED).open():
        close_follow_up(actor, row, search.label)


def _leave(actor, visit: Visit, text: str, of: uuid.UUID, at: datetime | None = None) -> None:
    open_follow_up(actor, visit.system, text, "charge", at=at, number=uuid.uuid5(_OF_STEP, f"{of}"))
