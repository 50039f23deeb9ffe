"""The machine's baseline at the Close station: what later visits are judged against, and whether this round is fit."""

from web.visits.access import Around
from web.visits.bridge import results
from web.visits.load.sheet import Sheet
from web.visits.models import Baseline


def context(sheet: Sheet, around: Around) -> dict:
    """What is sealed for this mode, and what the page offers."""
    rows = [row for row in around.baselines if row.mode == sheet.mode]
    here = next((row for row in reversed(rows) if row.round_id == sheet.round.pk), None)
    live = next((row for row in rows if row.live), None)
    return {
        "baseline_here": here,
        "baseline": live,
        "baseline_wanted": wanted(rows),
        "may_seal": here is None,
    }


def wanted(rows: list[Baseline]) -> str:
    """What ended the last baseline, where a new one is wanted; '' where one is live, or there never was one. rows: of
    one mode, the oldest first.
    """
    if not rows or any(row.live for row in rows):
        return ""
    return rows[-1].ended_why


def fitness(sheet: Sheet) -> dict:
    """What keeps the round as it is from being sealed, with what would cure it, and what it would lack."""
    places = {slot.place: stop.name for stop in sheet.stops for slot in stop.slots}
    lacks = dict.fromkeys(places[place].lower() for place in sheet.assessed.found.baseline_lacks if place in places)
    return {"hinders": results.baseline_obstacles(sheet.assessed), "lacks": list(lacks)}
