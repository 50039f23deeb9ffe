"""The stops of the walk as the sheet shows them: fields, where the probe goes, cautions, and the mark each reading
hangs from.
"""

from functools import partial

from web.houses.models import ATTIC
from web.shell.bridge import words
from web.shell.drawing.palette import SCREEN
from web.shell.drawing.plumb import PlumbMark, beam
from web.shell.trace import or_else
from web.visits import figures
from web.visits.access import Around
from web.visits.bridge import vocabulary
from web.visits.bridge.results import PlaceMark
from web.visits.bridge.vocabulary import Stop
from web.visits.load.for_engine import tap_of
from web.visits.load.sheet import HUMIDITY_KINDS, FieldState, Sheet
from web.visits.models import WEATHER

AIRFLOW = "airflow"
# What a probe can be held for.
LIVE = ("dry_bulb", "temperature", "pressure", "static_pressure", "pressure_drop", "current", "airflow", "flow")
WIDE = 300.0  # how wide a mark of its own is drawn
SHAPES = {"in range": "round", "borderline": "half", "out of range": "triangle", "can't tell yet": "hollow"}


def all_stops(sheet: Sheet, around: Around) -> list[dict]:
    """Every stop with its fields, in walking order."""
    sides = {side: [stop for stop in sheet.stops if stop.side == side] for side in ("inside", "outside")}
    return [
        _stop(sheet, stop, sides[stop.side], around.acknowledged)
        | {"lives": lives(stop, around), "service": _service(sheet, stop, around)}
        for stop in sheet.stops
        if stop.question != vocabulary.GAUGES
    ]


def lives(stop: Stop, around: Around) -> list[dict]:
    """The places of a stop that a probe can be held to, with the one that is."""
    places = dict.fromkeys(slot.place for slot in stop.slots if slot.quantity in LIVE) if around.probes else {}
    several = len(places) > 1
    again = stop.question == vocabulary.GAUGES  # the clamps of the walk stay where they are
    held = {at: probe for (id_, at), probe in around.pairings.items() if again or id_ == stop.id}
    return [
        {
            "place": place,
            "label": next(slot.words for slot in stop.slots if slot.place == place) if several else stop.name,
            "probe": next((probe for probe in around.probes if held.get(place) == probe.pk), None),
        }
        for place in places
    ]


def _service(sheet: Sheet, stop: Stop, around: Around) -> dict | None:
    """What the weather service has for the fields of this stop, as this person would type it. at_once: the page takes
    it by itself, because nothing was said of this stop yet.
    """
    if stop.id != "outdoor" or around.weather is None:
        return None
    figures_ = ((slot, around.weather.value_of(slot.quantity)) for slot in stop.slots)
    said = [_figure(slot, value) for slot, value in figures_ if value is not None]
    return {
        "station": around.weather.station,
        "at": around.weather.observed_at,
        "said": said,
        "within": f"{figures.spread(vocabulary.SERVICE_WITHIN_F, '°F')} {figures.sign('°F')}",
        "at_once": not (is_read(sheet, stop) or is_impossible(sheet, stop)),
    }


def _figure(slot: vocabulary.Slot, value: float) -> dict:
    unit = vocabulary.QUANTITIES[slot.quantity].unit
    celsius = unit == "degF" and words().scale == "C"
    shown = f"{words().in_scale(value):.1f}" if celsius else f"{value:g}"
    unit = vocabulary.IN_CELSIUS[unit] if celsius else unit
    return {"name": slot.name, "value": shown, "unit": unit, "sign": vocabulary.UNITS[unit].sign}


def _stop(sheet: Sheet, stop: Stop, same_side: list[Stop], acknowledged: set[str]) -> dict:
    fields = sheet.of_stop(stop.id)
    numbered = [s for s in same_side if s.number]
    position = f", {numbered.index(stop) + 1} of {len(numbered)}" if stop in numbered else ""
    humid = [f for f in fields if f.is_humidity]
    cautions = [c for c in stop.cautions if c != ATTIC or stop.id == ATTIC or sheet.system.may_be_in_attic]
    unread = [id_ for id_ in cautions if id_ not in acknowledged]
    return {
        "stop": stop,
        "at": f"{stop.side.capitalize()}{position}",
        "fields": [f for f in fields if not f.is_humidity],
        "humid": humid,
        "humidity": sheet.choices.get(f"{humid[0].place}.humidity", "") if humid else "",
        "humidity_name": f"{humid[0].place}.humidity" if humid else "",
        "kinds": HUMIDITY_KINDS,
        "instrument": _instrument(sheet, stop),
        "has_instruments": any(row.kind == stop.instrument and not row.retired for row in sheet.material.instruments),
        "cautions": [_caution(id_, acknowledged) for id_ in cautions],
        "cautions_together": " ".join(unread) if len(unread) > 1 else "",
        "in_air": stop.question == AIRFLOW or stop.id.startswith(vocabulary.ROOM),
        "sight": _tap_sight(sheet) if stop.id == "blower" and sheet.material.taps else None,
        "is_extra": stop.question == AIRFLOW and not stop.number and not is_read(sheet, stop),
    }


def _tap_sight(sheet: Sheet) -> dict:
    """The tap in use as a thing to see: in the words of the blower's own table."""
    said = vocabulary.TAP in sheet.seen
    return {
        "sight": {
            "id": vocabulary.TAP,
            "degrees": {tap: tap for tap in sheet.material.taps},
            "look": "" if said else "as on the plate: read it on the board",
        },
        "label": "Blower tap in use",
        "seen": tap_of(sheet.material, sheet.seen),
        "entry": sheet.seen_ids.get(vocabulary.TAP, ""),
        "carried": vocabulary.TAP in sheet.material.carried.seen and vocabulary.TAP not in sheet.seen_ids,
    }


def instruments_by_kind(sheet: Sheet) -> dict[str, list]:
    """The instruments that may be named, by kind: once for the whole page, however many places ask for one."""
    found: dict[str, list] = {}
    for row in sheet.material.instruments:
        if not row.retired:
            found.setdefault(row.kind, []).append(row)
    return found


def _instrument(sheet: Sheet, stop: Stop):
    """The instrument named at a stop, retired or not; None for none."""
    chosen = sheet.choices.get(f"{stop.id}.instrument", "")
    return next((row for row in sheet.material.instruments if str(row.public_id) == chosen), None)


def _caution(id_: str, acknowledged: set[str]) -> dict:
    return {"id": id_, "text": vocabulary.CAUTIONS[id_].text, "read": id_ in acknowledged}


def cautions_for_machine(sheet: Sheet, acknowledged: set[str]) -> list[dict]:
    """The cautions the machine itself, or ice on it, calls for."""
    return [_caution(c.id, acknowledged) for c in vocabulary.machine_cautions(sheet.system.refrigerant, sheet.seen)]


def at_station(sheet: Sheet, station: str, stop_id: str) -> list[Stop]:
    """The stops in view."""
    if station == "air":
        return [s for s in sheet.stops if s.question == AIRFLOW or s.id.startswith(vocabulary.ROOM)]
    if station == "gauges":
        return [s for s in sheet.stops if s.question == vocabulary.GAUGES]
    return [s for s in sheet.stops if s.id == stop_id] if station == "read" else []


def is_read(sheet: Sheet, stop: Stop) -> bool:
    """Whether something was read there."""
    return any(f.typed for f in sheet.of_stop(stop.id))


def is_impossible(sheet: Sheet, stop: Stop) -> bool:
    """Whether it was said not to be possible, and nothing was read after all."""
    return not is_read(sheet, stop) and any(f.note.impossible for f in sheet.of_stop(stop.id))


def is_wanted(sheet: Sheet, stop: Stop) -> bool:
    """Whether the question at hand needs it. Ways to work an airflow out are the air station's own; a room's register
    is a duct question.
    """
    return bool(stop.number or stop.id.startswith(vocabulary.ROOM)) and stop.question in sheet.assessed.to_ask


def is_done(sheet: Sheet, stop: Stop) -> bool:
    """Whether nothing is left to read there: read, or not possible. What only the weather service said is still
    open.
    """
    typed = [f for f in sheet.of_stop(stop.id) if f.typed]
    return any(not _by_service(f) for f in typed) or is_impossible(sheet, stop)


def _only_by_service(sheet: Sheet, stop: Stop) -> bool:
    return is_read(sheet, stop) and not is_done(sheet, stop)


def _by_service(f: FieldState) -> bool:
    return f.row is not None and f.row.source == WEATHER and f.typed == f.stored


def first_open(sheet: Sheet, around: Around) -> str:
    """The stop to begin at: the first that is wanted and open, past the outdoor air where the weather service stands in
    for it.
    """
    wanted = [s for s in sheet.stops if is_wanted(sheet, s) and not is_done(sheet, s)]
    stands_in = around.weather is not None
    return next((s.id for s in wanted if not (stands_in and s.id == "outdoor")), sheet.stops[0].id)


def walk_state(sheet: Sheet) -> dict:
    """Which stops are quiet (not needed now), which are done, and which wait until their side of the walk because the
    weather service stands in there, for *next* to walk by.
    """
    return {
        "quiet": " ".join(s.id for s in sheet.stops if not is_wanted(sheet, s) and not is_read(sheet, s)),
        "done": " ".join(s.id for s in sheet.stops if is_done(sheet, s)),
        "later": " ".join(s.id for s in sheet.stops if _only_by_service(sheet, s)),
    }


def marks_of(sheet: Sheet, stop: Stop) -> list[dict]:
    """The stop's readings against what is expected there; none where that cannot be drawn."""
    return or_else(f"marks of round {sheet.round.public_id}", partial(_marks_of, sheet, stop), list)


def _marks_of(sheet: Sheet, stop: Stop) -> list[dict]:
    at = {(slot.place, slot.quantity): slot for slot in stop.slots}
    found = [m for m in sheet.assessed.marks if (m.place, m.reading) in at]
    if stop.id == "statics" and sheet.assessed.total_static:
        found.append(sheet.assessed.total_static)
    return [mark_words(m, _label(m, stop)) for m in found]


def _label(mark: PlaceMark, stop: Stop) -> str:
    if mark.place == "total_static":
        return "Total external static"
    several = len({slot.place for slot in stop.slots}) > 1
    return next((s.words for s in stop.slots if (s.place, s.quantity) == (mark.place, mark.reading) and several), "")


def expectation(mark: PlaceMark) -> str:
    """'expect 54.3 ± 3.0', with '≈' where it is only predicted; a bare limit as 'at most'."""
    return mark.allowed(words()) if mark.expected is None else f"expect {mark.allowed(words())}"


def mark_words(mark: PlaceMark, label: str) -> dict:
    """One mark: its drawing and the words that are beside it always."""
    read = mark.measured is not None
    own = mark.u95 / mark.half if read and mark.lean is not None and mark.u95 is not None else None
    return {
        "label": label,
        "how": "Taken" if mark.taken else "Read",
        "value": figures.plain(mark.measured, mark.unit, mark.difference) if read else "",
        "unit": figures.sign(mark.unit),
        "own": f"± {figures.spread(mark.u95, mark.unit)}" if read and mark.u95 else "",
        "expect": expectation(mark),
        "source": mark.authority,
        "word": "predicted: can't tell" if mark.predicted and read else mark.word,
        "out": mark.state == "out of range",
        "beam": beam([PlumbMark(mark.lean, own, "hollow" if mark.predicted else SHAPES[mark.state])], SCREEN, WIDE),
    }
