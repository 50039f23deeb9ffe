"""What the sheet shows: places and fields, filled from what is stored or being typed, and the notes beside them."""

from dataclasses import dataclass, field

from django.utils.timezone import localtime

from web.visits import bridge
from web.visits.access import last_instrument
from web.visits.bridge import METHODS, OBSERVATIONS, PLANES, QUANTITIES, UNITS, Assessed
from web.visits.current import Slot, slots
from web.visits.figures import figure, grains, with_uncertainty
from web.visits.forms import DraftField, SheetDraft

HUMIDITY_KINDS = {"rh": "Relative humidity", "wet_bulb": "Wet bulb", "dew_point": "Dew point"}


@dataclass(frozen=True)
class Place:
    """One place of the walk: its number on drawing and chart, where the probe goes, what is read there."""

    id: str
    number: str
    name: str
    tab: str
    where: str
    quantities: tuple[str, ...]

    @property
    def takes_probe(self) -> bool:
        """Whether an air probe is held here."""
        return "dry_bulb" in self.quantities

    @property
    def takes_humidity(self) -> bool:
        """Whether a humidity is read here."""
        return "rh" in self.quantities


AIR = ("dry_bulb", *HUMIDITY_KINDS)
PLACES = (
    Place("system", "", "Running", "Run", "Thermostat well below room temperature. Panels on.", ("running_time",)),
    Place("outdoor", "1", "Outdoor, shade", "Outdoor", "In the air entering the condenser, out of the sun.", ("dry_bulb",)),
    Place("return_unit", "2", "Return at the unit", "Return", "Probe in the stream, 2 to 3 minutes.", AIR),
    Place("blower", "3", "Airflow", "Airflow", "Measured is proof; a guess is only a guess.", ("airflow", "power")),
    Place("supply_plenum", "4", "Supply plenum", "Supply",
          "Two feet past the coil, out of its sight, middle of the stream. Drilling: know what is behind.", AIR),
)  # fmt: skip
QUESTIONS = {"strip_heat": "Strip heat", "coil": "Coil surface"}


@dataclass
class Note:
    """What stands at a field: message and hint or question, findings, older values, derived values, what to expect."""

    name: str
    message: str = ""
    hint: str = ""
    units: list[tuple[str, str]] = field(default_factory=list)
    findings: list = field(default_factory=list)
    rivals: list[str] = field(default_factory=list)
    earlier: list[str] = field(default_factory=list)
    beside: str = ""
    expect: str = ""


@dataclass
class FieldState:
    """One field: what is typed in it and what of it is stored."""

    name: str
    place: str
    quantity: str
    label: str
    unit: str
    typed: str = ""
    stored: str = ""
    reading: str = ""
    note: Note | None = None

    @property
    def sign(self) -> str:
        """The unit as printed."""
        return UNITS[self.unit].sign


@dataclass
class Sheet:
    """The whole sheet as it stands."""

    visit: object
    round: object
    fields: dict[str, FieldState]
    choices: dict[str, str]
    observations: dict[str, str]
    observation_ids: dict[str, str]
    instruments: list
    current: list = field(default_factory=list)  # the stored readings that count
    assessed: Assessed | None = None


def stored_sheet(visit, round_, person, instruments: list) -> Sheet:
    """The sheet as stored."""
    sheet = _empty(visit, round_, instruments)
    found = slots(round_.readings.select_related("instrument", "person").in_order())
    seen = slots(round_.observations.in_order())
    sheet.observations = {name: slot.current.degree for name, slot in seen.items()}
    sheet.observation_ids = {name: str(slot.current.uuid) for name, slot in seen.items()}
    sheet.choices = _default_choices(person, found)
    sheet.current = [slot.current for slot in found.values()]
    for slot in found.values():
        _fill(sheet, slot)
    return sheet


def assess_stored(sheet: Sheet) -> Sheet:
    """Assess what is stored."""
    return _assess(sheet, [bridge.stored_reading(row) for row in sheet.current], sheet.observations)


def drafted_sheet(sheet: Sheet, draft: SheetDraft) -> Sheet:
    """The stored sheet with what stands in the browser laid over it, assessed; nothing is stored."""
    sheet.choices |= {name: chosen for name in sheet.choices if _may_be(name, chosen := draft.choice(name))}
    observations = {name: degree for name in QUESTIONS if (degree := draft.choice(name)) in OBSERVATIONS[name]}
    readings = []
    for f in sheet.fields.values():
        typed = draft.field(f.place, f.quantity)
        f.typed, f.unit = typed.typed, typed.unit if typed.unit in UNITS else f.unit
        if not f.typed or not _is_chosen(sheet, f):
            continue
        checked = _check(sheet, f, typed)
        if checked.value is not None:
            readings.append(bridge.reading(f.place, f.quantity, checked.value, *_details(sheet, f.place, f.quantity)))
        elif draft.focused != f.name:  # no complaint about a number half typed
            f.note.message, f.note.hint = checked.message, checked.hint
            f.note.units = [(code, f"{f.typed} {UNITS[code].sign}") for code in checked.units]
    return _assess(sheet, readings, observations)


def current_values(sheet: Sheet) -> dict:
    """The stored values by field, for a second tab that wants to catch up."""
    return {
        "fields": {f.name: {"value": f.stored, "unit": f.unit, "reading": f.reading} for f in sheet.fields.values()},
        "choices": sheet.choices,
        "observations": {name: [degree, sheet.observation_ids[name]] for name, degree in sheet.observations.items()},
    }


# -- filling -------------------------------------------------------------------------------------------------------------


def _empty(visit, round_, instruments: list) -> Sheet:
    fields = {}
    for place in PLACES:
        for quantity in place.quantities:
            name, what = f"{place.id}.{quantity}", QUANTITIES[quantity]
            fields[name] = FieldState(name, place.id, quantity, what.label, what.unit, note=Note(name))
    return Sheet(visit, round_, fields, {}, {}, {}, instruments)


def _default_choices(person, found: dict) -> dict[str, str]:
    """Selects before anything is read: the probe this person used last, relative humidity, the blower table's own air."""
    last = last_instrument(person) if not any(slot.current.instrument for slot in found.values()) else ""
    choices = {f"{place}.instrument": last for place in ("outdoor", "return_unit", "supply_plenum")}
    choices |= {f"{place}.humidity": "rh" for place in ("return_unit", "supply_plenum")}
    return choices | {"blower.method": "blower_table", "blower.plane": METHODS["blower_table"].plane}


def _fill(sheet: Sheet, slot: Slot) -> None:
    row = slot.current
    f = sheet.fields.get(f"{row.place}.{row.quantity}")
    if f is None:  # a place this form of the sheet does not show
        return
    f.typed = f.stored = row.typed
    f.unit, f.reading = row.unit, str(row.uuid)
    f.note.earlier = [_was(old) for old in slot.earlier]
    if slot.rivals:
        f.note.rivals = [_was(entry) for entry in (*slot.rivals, row)]
    if row.slot == "humidity":
        sheet.choices[f"{row.place}.humidity"] = row.quantity
    if row.instrument:
        sheet.choices[f"{row.place}.instrument"] = str(row.instrument.public_id)
    if row.method:
        sheet.choices["blower.method"], sheet.choices["blower.plane"] = row.method, row.plane or METHODS[row.method].plane


def _was(row) -> str:
    from_kind = f"{HUMIDITY_KINDS[row.quantity].lower()} " if row.quantity in HUMIDITY_KINDS else ""
    return f"{from_kind}{row.typed} {UNITS[row.unit].sign}, {localtime(row.taken_at):%H:%M}, {row.person.short_name}"


def _details(sheet: Sheet, place: str, quantity: str) -> tuple:
    """Instrument, method and plane of a reading as chosen on the sheet."""
    if quantity == "airflow":
        return None, sheet.choices["blower.method"], sheet.choices["blower.plane"]
    return sheet.choices.get(f"{place}.instrument") or None, "", ""


def _may_be(name: str, chosen: str) -> bool:
    """Whether a select may hold this value; any probe, or none, may be named."""
    known = {"method": METHODS, "plane": PLANES, "humidity": HUMIDITY_KINDS}.get(name.split(".")[1])
    return known is None or chosen in known


def _is_chosen(sheet: Sheet, f: FieldState) -> bool:
    """Of the humidities at a place only the chosen one counts."""
    return f.quantity not in HUMIDITY_KINDS or sheet.choices[f"{f.place}.humidity"] == f.quantity


def _check(sheet: Sheet, f: FieldState, typed: DraftField):
    chosen = sheet.choices.get(f"{f.place}.instrument")
    instrument = next((row for row in sheet.instruments if str(row.public_id) == chosen), None)
    return bridge.check(
        f.place, f.quantity, f.typed, f.unit, typed.confirmed or bool(f.stored and f.typed == f.stored), instrument
    )


def _assess(sheet: Sheet, readings: list, observations: dict[str, str]) -> Sheet:
    sheet.observations = observations
    sheet.assessed = bridge.assessed(sheet.visit.system, readings, observations, sheet.instruments)
    result = sheet.assessed.result
    for finding in result.findings:
        for place, quantity in finding.fields:
            if f"{place}.{quantity}" in sheet.fields:
                sheet.fields[f"{place}.{quantity}"].note.findings.append(finding)
    for place, end in (("return_unit", "return"), ("supply_plenum", "supply")):
        dew_point, ratio = result[f"{end}_dew_point_f"], result[f"{end}_humidity_ratio"]
        if dew_point.known:
            note = sheet.fields[f"{place}.{sheet.choices[f'{place}.humidity']}"].note
            note.beside = f"dew point {figure(dew_point)} °F, {grains(ratio)} grains/lb"
    supply = result["expected_supply_dry_bulb_f"]
    if supply.known:
        sheet.fields["supply_plenum.dry_bulb"].note.expect = f"expect {with_uncertainty(supply)} °F for this air"
    humidity = result["expected_supply_rh_pct"]
    if humidity.known:
        sheet.fields["supply_plenum.rh"].note.expect = f"expect {with_uncertainty(humidity)} %"
    return sheet
