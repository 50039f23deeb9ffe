"""A sheet as the templates show it: a whole page, or only what changes while typing."""

import uuid
from collections.abc import Callable

from web.shell.drawing.palette import SCREEN
from web.shell.trace import or_else, request_number
from web.visits.access import Around
from web.visits.bridge import vocabulary
from web.visits.forms import SheetDraft
from web.visits.load.sheet import Sheet
from web.visits.stations import air, arrive, bar, baseline, close, drawing, fix, gauges, judge, stops, verdict


def page_context(sheet: Sheet, around: Around, person) -> dict:
    """A round with every field filled; drawing, marks, Air, Judge, the work at hand and the rounds side by side come
    with its first preview.
    around: what is around the sheet (history, colleagues, earlier rounds).
    """
    return {
        **_always(sheet, around.acknowledged),
        **arrive.context(sheet, around),
        **fix.record(sheet, around),
        **close.context(sheet, around),
        **baseline.context(sheet, around),
        **gauges.context(sheet, around, person, SCREEN),
        **_parts(
            sheet,
            verdict=lambda: verdict.context(sheet),
            gauges=lambda: gauges.figures_context(sheet, SCREEN),
            baseline=lambda: baseline.fitness(sheet),
        ),
        "stops": stops.all_stops(sheet, around),
        "instruments": stops.instruments_by_kind(sheet),
        "probes": around.probes,
        "reasons": vocabulary.NOT_POSSIBLE,
        "here_stop": stops.first_open(sheet, around),
        "planes": vocabulary.PLANES,
        "guess_cfm": f"{vocabulary.guess_cfm(sheet.system):.0f}",
        "rounds": around.rounds,
        "follow_up_number": uuid.uuid4(),
        "is_last": sheet.round.number == around.rounds[-1].number,
    }


def preview_context(sheet: Sheet, draft: SheetDraft, around: Around | None, is_last: bool = True) -> dict:
    """What changes while typing: verdict, drawing, open counts, the notes at hand, and the parts of the station one
    stands at; at first the parts that the page came without.

    around: the visit's rounds, at first and at the fix station only. is_last: of its rounds.
    """
    at_hand = stops.at_station(sheet, draft.station, draft.stop)
    parts = {draft.station} | ({"air", "judge", "fitting"} if draft.is_first else set())
    wanted = {
        "verdict": lambda: verdict.context(sheet),
        "drawing": lambda: drawing.one(sheet, SCREEN, narrow=draft.narrow),
    }
    if "air" in parts:
        wanted["air"] = lambda: air.context(sheet, SCREEN)
    if "judge" in parts:
        wanted["judge"] = lambda: judge.context(sheet, SCREEN)
    if "gauges" in parts:
        wanted["gauges"] = lambda: gauges.figures_context(sheet, SCREEN)
    if "fix" in parts:
        parts.add("fitting")
    if "fitting" in parts:
        wanted["fitting"] = lambda: fix.fitting(sheet)
    if "close" in parts:
        wanted["baseline"] = lambda: baseline.fitness(sheet)
    if around:
        parts.add("compared")
        wanted["fix"] = lambda: fix.context(sheet, around)
    return {
        **_always(sheet, set()),
        **fix.every_action(sheet.system.kind),
        **(fix.record(sheet, around) if around else {}),
        **_parts(sheet, **wanted),
        "station": draft.station,
        "parts": parts,
        "is_last": is_last,
        "notes": [f.note for stop in at_hand for f in sheet.of_stop(stop.id) if draft.has(f.name)],
        "stop_marks": [
            (s.id, stops.marks_of(sheet, s))
            for s in (sheet.stops if draft.is_first else at_hand)
            if s.question != vocabulary.GAUGES
        ],
    }


def _always(sheet: Sheet, acknowledged: set[str]) -> dict:
    finished = sheet.visit.is_finished
    return {
        "sheet": sheet,
        "finished": finished,
        "visit": sheet.visit,
        "round": sheet.round,
        **verdict.time_context(sheet),
        **bar.context(sheet, finished),
        "walk": stops.walk_state(sheet),
        "machine_cautions": stops.cautions_for_machine(sheet, acknowledged),
    }


def _parts(sheet: Sheet, **parts: Callable[[], dict]) -> dict:
    """The parts made of the assessment, by name. One that fails is named in `failed`, and the page says so in its
    place.
    """
    found: dict = {}
    failed: dict[str, bool] = {}
    for name, context in parts.items():
        made = None if sheet.broken else or_else(f"{name} of round {sheet.round.public_id}", context, lambda: None)
        if made is None:
            failed[name] = True
        found |= made or {}
    return {**found, "failed": failed, "request_number": request_number()}
