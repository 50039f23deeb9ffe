"""What to expect at each place of the walk, where that comes from, and how the reading there stands against it.

Expect, then measure: an expectation is given as soon as what it hangs on is read, and the reading's mark when it is taken.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from math import hypot

from engine.air.state import AirState, state
from engine.airflow.drop_ratio import manometer_u95_inwc
from engine.assessment.sections import Section, statics_of, volumes
from engine.assessment.whole import Whole
from engine.constants import (
    CLAMP_AMPS_ACCURACY,
    COIL_DROP_LOOK,
    DUCT_RUN_GAIN_LIMIT,
    FILTER_DROP_LOOK,
    LIQUID_LINE_DROP_LIMIT,
    MATCHED_PAIR_ACCURACY,
    STANDARD_AIR_VOLUME,
    STATIC_RATING_LIMIT,
    TXV_TOTAL_SUPERHEAT_HIGH,
    TXV_TOTAL_SUPERHEAT_LOW,
)
from engine.errors import EngineError
from engine.judgement.indicators import CANT_TELL, Indicator, state_of, word_of
from engine.readings.round import Round
from engine.readings.vocabulary import HUMIDITY_QUANTITIES
from engine.refrigerant.charge import orifice_target_superheat_f
from engine.uncertainty.estimate import Estimate, Predicted

PRACTICE = "common practice; the baseline beats it"


@dataclass(frozen=True)
class PlaceMark:
    """One reading of a place against what is expected there.

    low, high: the band [unit]; expected: its middle, or None for a limit (then low is None too). u95: of expected, None for a limit.
    lean: in half-widths of the band (half [unit]); None when it is not read. predicted: rests on a temperature only gauges could measure.
    """

    place: str
    quantity: str
    unit: str
    measured: Estimate | None
    expected: float | None
    u95: float | None
    low: float | None
    high: float
    authority: str
    state: str
    lean: float | None
    word: str
    half: float
    predicted: bool = False


def place_marks(round_: Round, whole: Whole) -> tuple[PlaceMark, ...]:
    """The expectations that can be given with what was read so far, in the order of the walk."""
    rules = _HEATING if whole.mode == "heating" else _COOLING
    return tuple(mark for rule in rules for mark in rule(round_, whole))


def total_static_mark(round_: Round, whole: Whole) -> PlaceMark | None:
    """Total external static at standard density against its rating limit, or None when a side is not read."""
    read = statics_of(round_)
    if read is None:
        return None
    scale = volumes(round_)["supply"] / STANDARD_AIR_VOLUME.value
    total, u95 = scale * read.total_inwc, scale * read.total_u95_inwc
    rating = round_.equipment.rating_static_inwc
    source = "the plate" if rating else PRACTICE
    limit = rating or STATIC_RATING_LIMIT.value
    return _limit("total_static", "static_pressure", Estimate(total, u95, "in. w.c."), limit, source)


def indicators_of(round_: Round, whole: Whole) -> tuple[Indicator, ...]:
    """Approach and superheat beside the air side's three: the row that hangs from one beam. In heating: rise, airflow, capacity."""
    if whole.mode == "heating":
        return _heating_indicators(round_, whole)
    lines, charge = _section(whole, "lines"), _section(whole, "charge")
    found = list(whole.indicators)
    approach, hoped = lines.values.get("approach_f"), lines.values.get("expected_approach_f")
    if approach and hoped and whole.mode == "cooling":
        found.append(_indicator("approach", "Approach", approach, hoped, round_.rules.approach_tolerance_f, "Efficiency class"))
    superheat = charge.values.get("superheat_f") or lines.values.get("superheat_f")
    band = _superheat_band(round_, whole)
    if superheat and band and whole.mode == "cooling":
        middle, half, source = band
        found.append(_indicator("superheat", "Superheat", superheat, Estimate(middle, 0.0, "°F"), half, source))
    return tuple(found)


def _heating_indicators(round_: Round, whole: Whole) -> tuple[Indicator, ...]:
    values, found = _section(whole, "heating").values, []
    rise, hoped = values.get("rise_f"), values.get("expected_rise_f")
    if rise and hoped:
        found.append(_indicator("rise", "Rise", rise, hoped, hoped.u95, "Heating curves"))
    if whole.air["cfm_per_ton"].known:
        found.append(whole.air.indicator("airflow"))
    delivered, expected = values.get("delivered_btuh"), values.get("expected_btuh")
    if delivered and expected:
        tolerance = round_.rules.capacity_tolerance_share * expected.value
        found.append(
            _indicator(
                "capacity", "Capacity", delivered, expected, tolerance, "Heating curves", hypot(delivered.u95, expected.u95)
            )
        )
    return tuple(found)


def _indicator(
    id_: str, label: str, measured, expected: Estimate, tolerance: float, authority: str, u95: float | None = None
) -> Indicator:
    """u95: of the difference; the measured value's own where the expectation's spread is the tolerance."""
    off, predicted = measured.value - expected.value, isinstance(measured, Predicted)
    found = CANT_TELL if predicted else state_of(off, measured.u95 if u95 is None else u95, tolerance)
    value = Estimate(measured.value, measured.u95, measured.unit)
    lean = off / tolerance
    word = "predicted" if predicted else word_of(found, lean)
    return Indicator(id_, label, value, expected, tolerance, found, lean, word, authority, "", "")


# -- cooling -------------------------------------------------------------------------------------------------------------


def _return_at_unit(round_: Round, whole: Whole) -> Iterator[PlaceMark]:
    grille, unit = round_.value("return_grille", "dry_bulb"), round_.reading("return_unit", "dry_bulb")
    if grille is not None:
        measured = Estimate(unit.value, MATCHED_PAIR_ACCURACY.value, "°F") if unit else None
        yield _band(
            "return_unit",
            "dry_bulb",
            "°F",
            measured,
            grille,
            None,
            2 * MATCHED_PAIR_ACCURACY.value,
            "the grille: nothing gained on the way",
        )


def _supply(round_: Round, whole: Whole) -> Iterator[PlaceMark]:
    expected, off = whole.air["expected_supply_dry_bulb_f"], whole.air["supply_minus_expected_f"]
    if not expected.known:
        return
    value = round_.value("supply_plenum", "dry_bulb")
    measured = Estimate(value, off.u95, "°F") if value is not None and off.known else None
    source = f"{whole.indicators[0].authority.lower()}, for this air"
    yield _band("supply_plenum", "dry_bulb", "°F", measured, expected.value, expected.u95, round_.rules.split_tolerance_f, source)


def _register(round_: Round, whole: Whole) -> Iterator[PlaceMark]:
    plenum, register = round_.value("supply_plenum", "dry_bulb"), round_.value("supply_register", "dry_bulb")
    if plenum is not None:
        measured = None if register is None else Estimate(register, MATCHED_PAIR_ACCURACY.value, "°F")
        half = DUCT_RUN_GAIN_LIMIT.value / 2
        yield _band(
            "supply_register", "dry_bulb", "°F", measured, plenum + half, None, half, "the plenum and an ordinary duct run"
        )


def _drops(round_: Round, whole: Whole) -> Iterator[PlaceMark]:
    wet = round_.observations.get("coil") != "dry"
    for place, limit in (("filter", FILTER_DROP_LOOK), ("coil", COIL_DROP_LOOK)):
        if place == "coil" and not wet:
            continue
        drop = round_.value(place, "pressure_drop")
        measured = None if drop is None else Estimate(abs(drop), manometer_u95_inwc(drop), "in. w.c.")
        yield _limit(place, "pressure_drop", measured, limit.value, PRACTICE)


def _liquid_outdoor(round_: Round, whole: Whole) -> Iterator[PlaceMark]:
    lines = _section(whole, "lines")
    hoped, outdoor = lines.values.get("expected_liquid_line_f"), round_.value("outdoor", "dry_bulb")
    if hoped is None or outdoor is None:
        return
    value = round_.value("liquid_line_outdoor", "temperature")
    measured = None if value is None else Estimate(value, round_.line_u95_f("liquid_line_outdoor"), "°F")
    known = round_.equipment.seer is not None
    source = "outdoor air and the efficiency class" if known else "the bare limit for modern equipment; the class is unknown"
    yield _band(
        "liquid_line_outdoor",
        "temperature",
        "°F",
        measured,
        hoped.value,
        hoped.u95,
        lines.values["approach_tolerance_f"].value,
        source,
    )


def _liquid_indoor(round_: Round, whole: Whole) -> Iterator[PlaceMark]:
    outlet, inlet = round_.value("liquid_line_outdoor", "temperature"), round_.value("liquid_line_indoor", "temperature")
    if outlet is not None:
        measured = None if inlet is None else Estimate(inlet, round_.line_u95_f("liquid_line_indoor"), "°F")
        half = LIQUID_LINE_DROP_LIMIT.value
        yield _band("liquid_line_indoor", "temperature", "°F", measured, outlet, None, half, "the same line outdoors")


def _drier(round_: Round, whole: Whole) -> Iterator[PlaceMark]:
    before, after = round_.value("drier_in", "temperature"), round_.value("drier_out", "temperature")
    if before is not None:
        measured = None if after is None else Estimate(after, round_.line_u95_f("drier_out"), "°F")
        yield _band(
            "drier_out", "temperature", "°F", measured, before, None, round_.rules.drier_drop_f, "the line before the drier"
        )


def _suction_outdoor(round_: Round, whole: Whole) -> Iterator[PlaceMark]:
    """Expected suction line = evaporating + expected superheat; evaporating is predicted unless gauges are on."""
    charge, lines = _section(whole, "charge"), _section(whole, "lines")
    evaporating, band = charge.values.get("evaporating_f") or lines.values.get("evaporating_f"), _superheat_band(round_, whole)
    if evaporating is None or band is None:
        return
    value, (middle, half, source) = round_.value("suction_line_outdoor", "temperature"), band
    predicted = isinstance(evaporating, Predicted)
    measured = None if value is None else Estimate(value, hypot(round_.line_u95_f("suction_line_outdoor"), evaporating.u95), "°F")
    source = f"{'predicted' if predicted else 'measured'} evaporating temperature and {source}"
    yield _band(
        "suction_line_outdoor",
        "temperature",
        "°F",
        measured,
        evaporating.value + middle,
        evaporating.u95,
        half,
        source,
        predicted,
    )


def _superheat_band(round_: Round, whole: Whole) -> tuple[float, float, str] | None:
    """Middle and half-width [°F] of the superheat at the outdoor unit, and whose band it is; None when there is no target today."""
    device = round_.equipment.metering_device
    if device == "txv":
        low, high = TXV_TOTAL_SUPERHEAT_LOW.value, TXV_TOTAL_SUPERHEAT_HIGH.value
        return (low + high) / 2, (high - low) / 2, "superheat of a TXV system"
    wet_bulb, outdoor = whole.air["return_wet_bulb_f"], round_.value("outdoor", "dry_bulb")
    if device != "fixed_orifice" or not wet_bulb.known or outdoor is None:
        return None
    try:
        target = orifice_target_superheat_f(wet_bulb.value, outdoor)
    except EngineError:  # outside the weather the rule covers there is no target, and nothing to expect
        return None
    return None if target is None else (target, round_.rules.orifice_superheat_tolerance_f, "the orifice's target superheat")


def _amps(round_: Round, whole: Whole) -> Iterator[PlaceMark]:
    for place, plate in (("compressor", round_.equipment.compressor_rla), ("outdoor_fan", round_.equipment.outdoor_fan_fla)):
        if plate:
            amps = max(round_.by_leg(place, "current").values(), default=None)
            measured = None if amps is None else Estimate(amps, CLAMP_AMPS_ACCURACY.value * amps, "A")
            yield _limit(place, "current", measured, plate, "the plate")


# -- heating -------------------------------------------------------------------------------------------------------------


def _warm_supply(round_: Round, whole: Whole) -> Iterator[PlaceMark]:
    heating, returning = _section(whole, "heating"), round_.value("return_unit", "dry_bulb")
    rise, hoped = heating.values.get("rise_f"), heating.values.get("expected_rise_f")
    if hoped is None or returning is None:
        return
    measured = Estimate(returning + rise.value, rise.u95, "°F") if rise else None
    yield _band(
        "supply_plenum",
        "dry_bulb",
        "°F",
        measured,
        returning + hoped.value,
        hoped.u95,
        hoped.u95,
        "the heating curves, for this weather",
    )


def _true_suction(round_: Round, whole: Whole) -> Iterator[PlaceMark]:
    outdoor, value = round_.value("outdoor", "dry_bulb"), round_.value("true_suction", "temperature")
    if outdoor is not None:
        measured = None if value is None else Estimate(value, round_.line_u95_f("true_suction"), "°F")
        yield _limit(
            "true_suction",
            "temperature",
            measured,
            outdoor,
            "colder than the outdoor air it takes heat from",
            floor=outdoor - 30.0,
        )


_Rule = Callable[[Round, Whole], Iterator[PlaceMark]]
_COOLING: tuple[_Rule, ...] = (
    _return_at_unit,
    _supply,
    _register,
    _drops,
    _liquid_outdoor,
    _liquid_indoor,
    _drier,
    _suction_outdoor,
    _amps,
)
_HEATING: tuple[_Rule, ...] = (_return_at_unit, _warm_supply, _drops, _true_suction, _amps)


def expected_supply_humidity(round_: Round, whole: Whole) -> dict[str, Estimate]:
    """The expected supply humidity in each way it can be read: %RH, wet bulb and dew point [°F]; without the ones that cannot be given."""
    dry, rh = whole.air["expected_supply_dry_bulb_f"], whole.air["expected_supply_rh_pct"]
    if not (dry.known and rh.known):
        return {}
    try:
        air = state(dry.value, "rh", min(100.0, rh.value), round_.altitude_ft)
    except EngineError:
        return {"rh": rh}
    return {"rh": rh, "wet_bulb": Estimate(air.wet_bulb_f, dry.u95, "°F"), "dew_point": Estimate(air.dew_point_f, dry.u95, "°F")}


def air_states(round_: Round) -> dict[str, AirState]:
    """The air at every place where a dry bulb and a humidity were read; a pair that cannot be is left out (it is a finding elsewhere)."""
    found = {}
    for place in dict.fromkeys(r.place for r in round_.readings if r.quantity == "dry_bulb"):
        dry, humid = round_.value(place, "dry_bulb"), round_.reading(place, *HUMIDITY_QUANTITIES)
        if humid is None:
            continue
        try:
            found[place] = state(dry, humid.quantity, humid.value, round_.altitude_ft)
        except EngineError:
            continue
    return found


def _section(whole: Whole, id_: str) -> Section:
    return next((s for s in whole.sections if s.id == id_), Section(id_))


def _band(place, quantity, unit, measured, expected, u95, tolerance, authority, predicted=False) -> PlaceMark:
    found, lean, word = CANT_TELL, None, ""
    if measured is not None:
        off = measured.value - expected
        lean = off / tolerance
        found = CANT_TELL if predicted else state_of(off, hypot(measured.u95, 0.0), tolerance)
        word = word_of(found, lean)
    return PlaceMark(
        place,
        quantity,
        unit,
        measured,
        expected,
        u95,
        expected - tolerance,
        expected + tolerance,
        authority,
        found,
        lean,
        word,
        tolerance,
        predicted,
    )


def _limit(place, quantity, measured, limit, authority, floor=0.0) -> PlaceMark:
    """A one-sided limit: the band is everything up to it, and only going over it is out of range."""
    found, lean, word, half = CANT_TELL, None, "", (limit - floor) / 2
    if measured is not None:
        lean = (measured.value - floor) / half - 1.0
        found = state_of(max(measured.value - floor - half, 0.0), measured.u95, half)
        word = word_of(found, lean)
        lean = max(lean, -1.0)
    unit = measured.unit if measured else {"current": "A", "temperature": "°F"}.get(quantity, "in. w.c.")
    return PlaceMark(place, quantity, unit, measured, None, None, None, limit, authority, found, lean, word, half)
