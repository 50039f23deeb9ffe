"""The line drawing's spots: what was read at each place, what is expected, how it is."""

from web.shell.drawing.line import Machine, Spot, line_drawing
from web.visits import figures
from web.visits.bridge import vocabulary
from web.visits.bridge.results import PlaceMark
from web.visits.bridge.vocabulary import Stop
from web.visits.load.sheet import Sheet
from web.visits.stations.stops import expectation, is_impossible, is_read, is_wanted

# spot -> the reading that is shown at it, where the stop's id and 'dry_bulb' do not say it
READINGS = {
    "return_plenum": ("return_plenum", "static_pressure"), "supply_static": ("supply_plenum", "static_pressure"),
    "filter": ("filter", "pressure_drop"),
    "coil": ("coil", "pressure_drop"), "compressor": ("compressor", "current"), "blower": ("blower", "airflow"),
    "outdoor_fan": ("outdoor_fan", "current"),
    "drier_in": ("drier_out", "temperature"), "water_in": ("water_in", "temperature"),
    "water_out": ("water_out", "temperature"),
    "gauge_suction": ("gauge_suction", "pressure"), "gauge_liquid": ("gauge_liquid", "pressure"),
    **{place: (place, "temperature") for place in
       ("suction_line_indoor", "liquid_line_indoor", "liquid_line_outdoor", "suction_line_outdoor", "true_suction",
        "discharge_line")},
}  # fmt: skip
SHORT = {
    "return_grille": "Grille", "return_unit": "Return, unit", "supply_register": "Register", "statics": "Return static",
    "suction_line_indoor": "Suction at coil",
    "liquid_line_indoor": "Liquid inside", "liquid_line_outdoor": "Liquid outside",
    "suction_line_outdoor": "Suction outside", "discharge_line": "Discharge",
    "condenser_air_out": "Condenser air",
    "blower": "Airflow", "drier": "Drier", "loop": "Loop water",
}  # fmt: skip
# Two of one stop, told apart.
OF_SPOT = {"supply_static": "Supply static", "gauge_suction": "Low side", "gauge_liquid": "High side"}
FAULTS = {
    ("filter", "loaded"): "filter", ("filter", "blocked"): "filter", ("filter", "restrictive"): "filter",
    ("evaporator_face", "dirty"): "coil",
    ("evaporator_face", "covered"): "coil", ("ice", "coil"): "coil", ("blower_wheel", "dirty"): "blower",
    ("condenser_coil", "matted"): "condenser",
}  # fmt: skip


def one(sheet: Sheet, palette: dict[str, str], narrow: bool) -> dict:
    """The drawing this screen shows."""
    drawn = line_drawing(
        machine_of(sheet), spots(sheet), palette, words=not narrow, label=f"{sheet.system}: places to read"
    )
    return {"drawing_small" if narrow else "drawing": drawn}


def machine_of(sheet: Sheet) -> Machine:
    """What is drawn: the kind of machine, and what is at fault on it."""
    faults = {part for seen, part in FAULTS.items() if sheet.seen.get(seen[0]) == seen[1]}
    faults |= {m.place for m in sheet.assessed.marks if m.place in ("filter", "coil") and m.state == "out of range"}
    system = sheet.system
    return Machine(system.kind, system.unit == "furnace_with_cased_coil", sheet.mode == "heating", frozenset(faults))


def spots(sheet: Sheet) -> list[Spot]:
    """Every probe place of this equipment and mode."""
    troubled = {f.stop for f in sheet.troubles()}
    return [
        _spot(sheet, stop, spot, stop.id in troubled)
        for stop in sheet.stops
        if stop.question != vocabulary.GAUGES or is_read(sheet, stop)
        for spot in stop.spots
    ]


def _spot(sheet: Sheet, stop: Stop, spot: str, troubled: bool) -> Spot:
    place, quantity = READINGS.get(spot, (spot, "dry_bulb"))
    mark = next((m for m in sheet.assessed.marks if (m.place, m.reading) == (place, quantity)), None)
    value, unit = _airflow(sheet) if spot == "blower" else _reading(sheet, place, quantity)
    beside = sheet.assessed.air_states.get(place) if quantity == "dry_bulb" else None
    if beside and value:
        unit = f"{unit} {beside.rh_pct:.0f} %"
    name = OF_SPOT.get(spot) or SHORT.get(stop.id, stop.name)
    detail = sheet.assessed.saturations.get(spot) or _detail(sheet, mark, beside)
    state = _state(sheet, stop, mark, bool(value), troubled)
    return Spot(spot, stop.id, stop.number, name, value, unit, detail, state, f"{place}|{quantity}")


def _state(sheet: Sheet, stop: Stop, mark: PlaceMark | None, has_value: bool, troubled: bool) -> str:
    if troubled:
        return "doubt"
    to_be_read = mark is not None and mark.taken and not is_impossible(sheet, stop)
    if mark and mark.measured is not None and mark.state == "out of range" and not (mark.predicted or to_be_read):
        return "out"
    if has_value or is_read(sheet, stop):
        return "read"
    if is_impossible(sheet, stop):
        return "impossible"
    return "open" if is_wanted(sheet, stop) else "quiet"


def _reading(sheet: Sheet, place: str, quantity: str) -> tuple[str, str]:
    round_ = sheet.assessed.round
    if quantity == "current":
        amps = max(round_.by_leg(place, quantity).values(), default=None)
        return ("", "") if amps is None else (figures.plain(amps, "A"), "A")
    value = round_.value(place, quantity)
    if value is None:
        return "", ""
    if quantity == "pressure":
        return figures.plain(value, "psi"), "psi"
    unit = "in. w.c." if quantity in ("static_pressure", "pressure_drop") else "°F"
    return figures.plain(abs(value) if quantity == "pressure_drop" else value, unit), figures.sign(unit)


def _airflow(sheet: Sheet) -> tuple[str, str]:
    flow = sheet.assessed.measured("cfm_per_ton")
    return ("", "") if sheet.assessed.airflows.assumed else (figures.figure(flow), "CFM/ton")


def _detail(sheet: Sheet, mark: PlaceMark | None, beside) -> str:
    if mark is None:
        return f"dew point {figures.plain(beside.dew_point_f, '°F')}" if beside else ""
    if mark.expected is None:
        word = "plate" if mark.authority == "the plate" else "at most"
        return f"{word} {figures.plain(mark.high, mark.unit)}"
    return expectation(mark)
