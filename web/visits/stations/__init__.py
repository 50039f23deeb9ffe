"""A sheet as the templates show it: a whole page, or only what changes while typing."""

from web.shell.drawing.palette import SCREEN
from web.visits.access import Around
from web.visits.bridge import vocabulary
from web.visits.forms import SheetDraft
from web.visits.load.sheet import Sheet
from web.visits.stations import air, arrive, bar, drawing, fix, judge, stops, verdict

FIRST_STOP = "return_unit"


def page_context(sheet: Sheet, around: Around) -> dict:
    """Everything of a round, every station filled. around: what stands around the sheet (history, colleagues, earlier rounds)."""
    return {
        **_always(sheet, around.acknowledged),
        **drawing.both(sheet, SCREEN),
        **arrive.context(sheet, around),
        **air.context(sheet, SCREEN),
        **judge.context(sheet, SCREEN),
        **fix.context(sheet, around),
        "stops": stops.all_stops(sheet, around),
        "here_stop": FIRST_STOP,
        "planes": vocabulary.PLANES,
        "guess_cfm": f"{vocabulary.guess_cfm(sheet.system):.0f}",
        "rounds": around.rounds,
        "is_last": sheet.round.number == around.rounds[-1].number,
    }


def preview_context(sheet: Sheet, draft: SheetDraft, around: Around | None) -> dict:
    """What changes while typing: verdict, drawing, open counts, the notes at hand, and the parts of the station one stands at."""
    found = {**_always(sheet, set()), "station": draft.station}
    found |= drawing.one(sheet, SCREEN, narrow=draft.narrow)
    at_hand = stops.at_station(sheet, draft.station, draft.stop)
    found["notes"] = [f.note for stop in at_hand for f in sheet.of_stop(stop.id)]
    found["stop_marks"] = [(stop.id, stops.marks_of(sheet, stop)) for stop in at_hand]
    if draft.station == "air":
        found |= air.context(sheet, SCREEN)
    elif draft.station == "judge":
        found |= judge.context(sheet, SCREEN)
    elif draft.station == "fix" and around:
        found |= fix.context(sheet, around)
    return found


def _always(sheet: Sheet, acknowledged: set[str]) -> dict:
    return {
        "sheet": sheet,
        "visit": sheet.visit,
        "round": sheet.round,
        **verdict.context(sheet),
        **bar.context(sheet),
        "walk": stops.walk_state(sheet),
        "machine_cautions": stops.cautions_for_machine(sheet, acknowledged),
    }
