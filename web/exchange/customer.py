"""What the customer reads of a visit: from what was stored when it was closed, in plain words."""

from web.shell.drawing.palette import SCREEN
from web.shell.drawing.shares import before_and_after
from web.visits.bridge import stored
from web.visits.load.gauges import done_by, steps_by_round
from web.visits.load.leaks import leak_search_of_visit
from web.visits.load.material import standing
from web.visits.models import FINISHED, LEAK_FOUND, NO_LEAK_FOUND, Action, Assessment, Visit


def page_of(visit: Visit) -> dict:
    """What the customer's page of a finished visit shows."""
    ending = visit.closings.deciding().first()
    rounds = list(visit.rounds.order_by("number"))
    results = Assessment.objects.newest_of(rounds)
    told = [of for row in rounds if (of := stored.for_customer(results.get(row.pk))) is not None]
    actions = standing(Action.objects.filter(round__visit=visit))
    moved = [step for steps in steps_by_round(visit).values() for step in steps]
    done = [*(row.done for row in actions), *done_by(moved)]
    heating = any((results.get(row.pk) or {}).get("mode") == "heating" for row in rounds)
    said = stored.told_to_customer(told, done, heating, _leak(visit))
    picture = ""
    if said.before is not None and said.after is not None:
        picture = before_and_after(said.before, said.after, SCREEN)
    return {
        "visit": visit,
        "shop": visit.shop,
        "told": said,
        "picture": picture,
        "heating": heating,
        "ending": ending if ending and ending.did == FINISHED else None,
    }


def _leak(visit: Visit) -> str:
    """What came of looking for a leak, as the words want it."""
    found = leak_search_of_visit(visit)
    if found is None:
        return ""
    repaired = found.found == LEAK_FOUND and found.repaired
    return "repaired" if repaired else "none" if found.found == NO_LEAK_FOUND else ""
