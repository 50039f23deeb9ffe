"""Filling a sheet: from what is stored, then with what is typed in the browser laid over it."""

from functools import partial

from django.utils.timezone import localtime

from web.shell.trace import or_else
from web.visits.bridge import results, rounds, vocabulary
from web.visits.bridge.vocabulary import IN_CELSIUS, METHODS, PLANES, QUANTITIES, SYSTEM_SLOTS, UNITS, sign_of
from web.visits.forms import DraftField, SheetDraft
from web.visits.load.clock import running_minutes, running_now
from web.visits.load.current import Slot
from web.visits.load.for_engine import after_steps, engine_readings, mode_of, round_for_engine
from web.visits.load.held import held_of
from web.visits.load.material import Entries, Material
from web.visits.load.notes import annotate
from web.visits.load.sheet import HUMIDITY_KINDS, FieldState, Note, Sheet
from web.visits.models import NOT_POSSIBLE, PROBE, VALUELESS, WEATHER

AIR_AT_UNIT = ("return_unit.dry_bulb", "supply_plenum.dry_bulb")


def stored_sheet(
    material: Material, person, last_used: dict[str, str] | None = None, before: Entries | None = None
) -> Sheet:
    """The sheet as stored, assessed. last_used: instrument by kind, for places nobody has read yet; before: the entries
    of the round before.
    """
    sheet = _filled(material, person, last_used or {}, before)
    sheet.after_steps = after_steps(material)
    return _assess(sheet, engine_readings(material))


def drafted_sheet(material: Material, person, draft: SheetDraft) -> Sheet:
    """The stored sheet with what is typed in the browser laid over it, assessed; nothing is stored."""
    sheet = _filled(material, person, {}, None)
    sheet.choices |= {name: chosen for name in sheet.choices if _may_be(name, chosen := draft.choice(name))}
    _planes(sheet)
    kept = {name: degree for name, degree in sheet.seen.items() if name not in vocabulary.OBSERVATIONS}
    sheet.seen = kept | draft.sights(vocabulary.OBSERVATIONS | {vocabulary.TAP: material.taps})
    was = {name: sheet.fields[name].stored for name in AIR_AT_UNIT}
    known = {(f.place, f.slot_id) for f in sheet.fields.values()}
    readings = [r for row, r in _elsewhere(material) if (row.place, row.slot) not in known]
    for f in sheet.fields.values():
        drafted = _drafted(sheet, f, draft)
        if f.slot.variant in vocabulary.STEP_VARIANTS:
            sheet.after_steps.setdefault(f.slot.variant, []).extend(drafted)
        else:
            readings += drafted
    moved = any(sheet.fields[name].typed != stored for name, stored in was.items())
    return _assess(sheet, [*readings, *_clock(sheet, moved)])


def _filled(material: Material, person, last_used: dict[str, str], before: Entries | None) -> Sheet:
    mode, why = mode_of(material, _outdoor_f(material), material.seen)
    system = material.system
    stops = vocabulary.walk(
        system.kind,
        mode,
        system.unit == "furnace_with_cased_coil",
        tuple(room.name for room in material.rooms),
        material.rules.walk_order,
    )
    stops += tuple(vocabulary.charge_stop(step.number) for step in material.charge_steps)
    slots = [(slot, stop.id) for stop in stops for slot in stop.slots] + [(slot, "system") for slot in SYSTEM_SLOTS]
    fields = {slot.name: _field(slot, stop, person) for slot, stop in slots}
    seen_ids = {name: str(slot.current.uuid) for name, slot in material.entries.observations.items()}
    choices = _choices(stops, last_used) | {f.plane_choice: _own_plane(f) for f in fields.values() if f.plane_choice}
    sheet = Sheet(material, mode, why, stops, fields, choices, dict(material.seen), seen_ids)
    for slot in material.entries.readings.values():
        _fill(sheet, slot)
    if before:
        _recall(sheet, before)
    _planes(sheet)
    return sheet


def _own_plane(f: FieldState) -> str:
    """A flow device states its own air; of a traverse nobody knows before it is said."""
    return METHODS["flow_device"].plane if f.slot.variant == "flow_device" else ""


def _planes(sheet: Sheet) -> None:
    for f in sheet.fields.values():
        f.plane = sheet.choices.get(f.plane_choice, "")


def _outdoor_f(material: Material) -> float | None:
    return next(
        (row.value for row in material.entries.current if (row.place, row.quantity) == ("outdoor", "dry_bulb")), None
    )


def _field(slot: vocabulary.Slot, stop: str, person) -> FieldState:
    unit = QUANTITIES[slot.quantity].unit
    own = IN_CELSIUS.get(unit, unit) if person.temperatures == "C" else unit
    if slot.place in vocabulary.GAUGE_PLACES:
        own = person.pressures if slot.quantity == "pressure" else own
    return FieldState(slot, stop, own, own, Note(slot.name))


def _choices(stops, last_used: dict[str, str]) -> dict[str, str]:
    """Selects before anything is read: the instrument this person used last, relative humidity, the flow device's own
    air.
    """
    choices = {f"{stop.id}.instrument": last_used.get(stop.instrument, "") for stop in stops}
    choices |= {f"{stop.id}.humidity": "rh" for stop in stops if any(slot.quantity == "rh" for slot in stop.slots)}
    return choices


def _fill(sheet: Sheet, slot: Slot) -> None:
    row = slot.current
    f = sheet.fields.get(f"{row.place}.{row.quantity}" + (f"@{row.variant}" if row.variant else ""))
    if f is None:  # a place of another mode, or of a room that is no more: it stays in the assessment
        return
    f.reading = str(row.uuid)
    f.note.earlier = [_was(old) for old in slot.earlier if old.source not in VALUELESS]
    if row.source in VALUELESS:
        f.reason = row.reason
        f.note.impossible = vocabulary.NOT_POSSIBLE.get(row.reason, "") if row.source == NOT_POSSIBLE else ""
        return
    f.typed = f.stored = row.typed
    f.row = row
    f.note.source = _came(row)
    f.unit = row.unit
    if slot.rivals:
        f.note.rivals = [_was(entry) for entry in (*slot.rivals, row) if entry.source not in VALUELESS]
    if f.is_humidity:
        sheet.choices[f"{row.place}.humidity"] = row.quantity
    if row.instrument:
        sheet.choices[f"{f.stop}.instrument"] = str(row.instrument.public_id)
    if row.plane and f.plane_choice:
        sheet.choices[f.plane_choice] = row.plane


def _came(row) -> str:
    """How a reading came here: from a probe and how steady it was, or by the weather service."""
    if row.source == WEATHER:
        return f"By the weather service, {localtime(row.taken_at):%H:%M}: a stand-in, with a wider margin."
    if row.source == PROBE and row.steady:
        return {"settled": "Held from a probe, steady.", "swinging": "Held from a probe: the mean of a swing."}.get(
            row.steady, "Held from a probe while still moving: hold it again once it is steady."
        )
    return "Held from a probe." if row.source == PROBE else ""


def _recall(sheet: Sheet, before: Entries) -> None:
    """What each field was in the round before: one tap repeats it, where it is still so."""
    for row in before.current:
        f = sheet.fields.get(f"{row.place}.{row.quantity}" + (f"@{row.variant}" if row.variant else ""))
        if f is not None and row.place != "system":
            f.before, f.before_unit = row.typed, row.unit


def _was(row) -> str:
    from_kind = f"{HUMIDITY_KINDS[row.quantity].lower()} " if row.quantity in HUMIDITY_KINDS else ""
    return f"{from_kind}{row.typed} {sign_of(row.unit)}, {localtime(row.taken_at):%H:%M}, {row.person.short_name}"


def _may_be(name: str, chosen: str) -> bool:
    """Whether a select may hold this value; any instrument, or none, may be named."""
    known = {"plane": ("", *PLANES), "humidity": HUMIDITY_KINDS}.get(name.rpartition(".")[2])
    return known is None or chosen in known


def _elsewhere(material: Material) -> list:
    """The stored readings that count, each with its row; the clock's minutes come from the clock."""
    return [
        (row, rounds.stored_reading(row))
        for row in material.entries.current
        if row.place != "system" and row.variant not in vocabulary.STEP_VARIANTS
    ]


def _drafted(sheet: Sheet, f: FieldState, draft: SheetDraft) -> list:
    """The reading a field gives as it is typed, and its message where it gives none."""
    typed = draft.field(f.name)
    f.typed, f.unit = typed.typed, typed.unit if typed.unit in UNITS else f.unit
    if not f.typed or not sheet.counts(f):
        return []
    f.note.impossible = ""
    checked = _check(sheet, f, typed)
    if checked.value is not None:
        if f.row is not None and (f.typed, f.unit) == (f.row.typed, f.row.unit) and f.row.source in (PROBE, WEATHER):
            return [rounds.stored_reading(f.row)]  # what it is worth goes with it
        f.note.source = ""
        instrument = sheet.choices.get(f"{f.stop}.instrument") or None
        plane = sheet.choices[f.plane_choice] if f.plane_choice else ""
        return (
            [rounds.reading(f.place, f.quantity, checked.value, instrument, f.slot.variant, plane)]
            if f.stop != "system"
            else []
        )
    if draft.focused != f.name:  # no complaint about a number half typed
        f.note.message, f.note.hint = checked.message, checked.hint
        f.note.units = [(code, f"{f.typed} {sign_of(code)}") for code in checked.units]
    return []


def _check(sheet: Sheet, f: FieldState, typed: DraftField) -> vocabulary.Checked:
    chosen = sheet.choices.get(f"{f.stop}.instrument")
    instrument = next((row for row in sheet.material.instruments if str(row.public_id) == chosen), None)
    confirmed = typed.confirmed or bool(f.stored and f.typed == f.stored)
    return vocabulary.check(f.place, f.quantity, f.typed, f.unit, confirmed, instrument, sheet.system)


def _clock(sheet: Sheet, air_moved: bool) -> list:
    """The running time: as typed just now, else by the clock - now when the air is being read, else when it was."""
    f = sheet.fields["system.running_time"]
    if f.typed and f.typed != f.stored:
        checked = vocabulary.check("system", "running_time", f.typed, f.unit, True)
        return [] if checked.value is None else [rounds.reading("system", "running_time", checked.value, None)]
    minutes = running_now(sheet.material) if air_moved else running_minutes(sheet.material)
    return [] if minutes is None else [rounds.reading("system", "running_time", min(minutes, 1440.0), None)]


def _assess(sheet: Sheet, readings: list) -> Sheet:
    """Assess what the sheet holds. Where that fails, the fields are shown all the same, on an empty assessment: the
    page says so.
    """
    material, whose = sheet.material, f"round {sheet.round.public_id}"

    def nothing():
        sheet.broken = True
        return results.assessed(round_for_engine(material, [], {}, sheet.mode))

    round_ = round_for_engine(material, readings, sheet.seen, sheet.mode)
    whole = partial(results.assessed, round_, material.shown, held_of(material, sheet.mode))
    sheet.assessed = or_else(f"assessment of {whose}", whole, nothing)
    or_else(f"notes of {whose}", partial(annotate, sheet), lambda: None)
    return sheet
