"""A round's residuals: every indicator that its readings allow, against what a sound unit of this kind shows today."""

from math import hypot, log

from engine.airflow.methods import METHODS
from engine.assessment.result import RoundResult
from engine.capacity.electrical import power_w
from engine.constants import (
    AIR_PAIR_DIFFERENCE,
    AIRFLOW_REPEAT,
    AIRFLOW_SPREAD_SOUND,
    BTUH_PER_TON,
    CLAMP_AMPS_ACCURACY,
    COIL_DROP_EXPONENT,
    COIL_DROP_USUAL,
    COMPRESSOR_WATTS_SPREAD,
    CONDENSER_CFM_PER_TON_HIGH,
    CONDENSER_CFM_PER_TON_LOW,
    CONDENSER_RISE_REPEAT,
    CONDENSING_OVER_AMBIENT_SPREAD,
    DRY_BULB_ACCURACY,
    DRY_BULB_REPEATABILITY,
    DUCT_DROP_EXPONENT,
    EER_BY_SEER,
    EER_BY_SEER_SQUARED,
    EVAPORATING_SPREAD,
    EVAPORATING_UNDER_APPARATUS,
    FAN_W_PER_CFM,
    FILTER_DROP_EXPONENT,
    FILTER_DROP_USUAL,
    HEAT_REJECTED_RATIO,
    LIQUID_DROP_REPEAT,
    LIQUID_DROP_SPREAD,
    LIQUID_DROP_USUAL,
    NO_VOLTS_SPREAD,
    NOMINAL_CFM_PER_TON,
    OUTDOOR_FAN_W_PER_TON,
    POCKET_SENSIBLE,
    POWER_FACTOR_SPREAD,
    RETURN_DUCT_DROP_USUAL,
    RETURN_GAIN_SPREAD,
    RETURN_GAIN_USUAL,
    ROUNDED_READINGS,
    SUBCOOLING_SPREAD,
    SUCTION_RISE_REPEAT,
    SUCTION_RISE_SPREAD,
    SUCTION_RISE_USUAL,
    SUPERHEAT_SPREAD,
    SUPPLY_DUCT_DROP_USUAL,
    SUPPLY_GAIN_SPREAD,
    SUPPLY_GAIN_USUAL,
    TXV_SUPERHEAT_AT_COIL,
    USUAL_DROP_REPEAT,
    USUAL_DROP_SPREAD,
    USUAL_SEER,
    WATTS_PER_OUTDOOR_F,
)
from engine.expected.cooling import power_fraction
from engine.judgement.residuals import KINDS, Residual
from engine.readings.round import Round
from engine.refrigerant import charge, lines
from engine.uncertainty.sources import split_offset
from engine.wording import airflow, capacity, difference, signed_difference, temperature

NO_GUESS = 0.05  # of anything: below it a logarithm says nothing


def cooling_residuals(round_: Round, air: RoundResult) -> list[Residual]:
    """The residuals of a round in cooling, air source. air: its air side, assessed with the airflow it has."""
    found = [*_air_side(round_, air), *_lines(round_, air), *_outdoors(round_, air), *_drops(round_, air), *_ducts(round_)]
    return [r for r in found if r is not None]


# -- the air side -----------------------------------------------------------------------------------------------------------


def _air_side(round_: Round, air: RoundResult) -> list[Residual | None]:
    expected, total = air["expected_split_f"], air["expected_total_btuh"]
    flow = air["cfm_per_ton"]
    return [
        _carried(round_, air, "split", "split_minus_expected_f", expected.value, "split_f", "expected_split_f")
        if expected.known
        else None,
        _carried(round_, air, "capacity", "total_minus_expected_btuh", total.value, "total_btuh", "expected_total_btuh")
        if total.known
        else None,
        _airflow(round_, air) if flow.known and _measured(round_) else None,
    ]


def _carried(round_: Round, air: RoundResult, kind: str, off: str, scale: float, measured: str, expected: str) -> Residual | None:
    if not (air[off].known and scale > 0):
        return None
    pushes = {s: p / scale for s, p in _parts(air, off).items() if p}
    slopes = {}
    for reading, sources in _READINGS.items():
        moved, pushed = sum(pushes.get(s, 0.0) for s in sources), sum(_pushed(air, s, reading) for s in sources)
        if pushed:
            slopes[reading] = moved / pushed
    if not _measured(round_):
        slopes["airflow"] = pushes.pop("airflow_method", 0.0) / _accuracy(round_)
        pushes["airflow_of_sound_systems"] = slopes["airflow"] * AIRFLOW_SPREAD_SOUND.value
    said = difference if kind == "split" else capacity
    says = f"{said(air[measured].value)} against {said(air[expected].value)}"
    # the follow-up's own tolerances: what the same sound unit scatters by from visit to visit
    repeat = round_.rules.follow_up_split_f / scale if kind == "split" else round_.rules.follow_up_capacity_share
    return Residual(KINDS[kind], air[off].value / scale, pushes, ROUNDED_READINGS.value, repeat, slopes, says)


# reading -> the sources that are an error in it
_READINGS = {
    "return": ("return_dry_bulb_offset", "return_dry_bulb_repeat"), "supply": ("supply_dry_bulb_offset", "supply_dry_bulb_repeat"),
    "outdoor": ("outdoor_offset", "outdoor_repeat"),
}  # fmt: skip
_INPUTS = {"return": "return_dry_bulb", "supply": "supply_dry_bulb", "outdoor": "outdoor"}


def _pushed(air: RoundResult, source: str, reading: str) -> float:
    """By how much a source pushes a reading [°F]."""
    name = _INPUTS[reading]
    for found in air.carried.sources:
        if found.id == source:
            for touched, push in found.pushes:
                if touched == name:
                    return float(push[air.row]) if getattr(push, "ndim", 0) else float(push)
    return 0.0


def _parts(air: RoundResult, name: str) -> dict[str, float]:
    index = air.carried.names.index(name)
    return {s.id: float(air.carried.parts[index, i, air.row]) for i, s in enumerate(air.carried.sources)}


def _measured(round_: Round) -> bool:
    reading = round_.reading("blower", "airflow")
    return bool(reading and METHODS[reading.method or "nominal_guess"].measured)


def _accuracy(round_: Round) -> float:
    reading = round_.reading("blower", "airflow")
    return METHODS[(reading.method if reading else None) or "nominal_guess"].accuracy


def _airflow(round_: Round, air: RoundResult) -> Residual:
    flow, usual = air["cfm_per_ton"], NOMINAL_CFM_PER_TON.value
    pushes = {s: p / flow.value for s, p in _parts(air, "cfm_per_ton").items() if p}
    return Residual(
        KINDS["airflow"],
        log(flow.value / usual),
        pushes,
        AIRFLOW_SPREAD_SOUND.value,
        AIRFLOW_REPEAT.value,
        {},
        f"{airflow(flow.value)}; {usual:.0f} is usual",
    )


# -- the lines --------------------------------------------------------------------------------------------------------------


def _clamp(round_: Round, place: str) -> dict[str, float]:
    """A clamp's error sources: its offset, shared by every place read with the same one, and its repeatability there."""
    reading, accuracy = round_.reading(place, "temperature"), round_.line_u95_f(place)
    repeat = accuracy / 3.0
    owner = reading.instrument if reading and reading.instrument else place
    return {f"clamp {owner}": split_offset(accuracy, repeat), f"repeat {place}": repeat}


def _outdoor_sources(air: RoundResult) -> dict[str, float]:
    """What each source pushes the outdoor reading by [°F], as the air side carries it."""
    return {s.id: p for s in air.carried.sources if (p := _pushed(air, s.id, "outdoor"))}


def _minus(first: dict[str, float], second: dict[str, float], by: float = 1.0) -> dict[str, float]:
    """The pushes of first - by * second."""
    return {s: first.get(s, 0.0) - by * second.get(s, 0.0) for s in first.keys() | second.keys()}


def _load(round_: Round, air: RoundResult) -> float:
    """The heat a sound unit gives off today over that at rating."""
    total = air["expected_total_btuh"]
    load = total.value / (BTUH_PER_TON.value * round_.equipment.nominal_tons) if total.known else 1.0
    return min(max(load, lines.LOAD_RANGE[0]), lines.LOAD_RANGE[1])


def _lines(round_: Round, air: RoundResult) -> list[Residual | None]:
    liquid, indoor = (round_.value(f"liquid_line_{at}", "temperature") for at in ("outdoor", "indoor"))
    out, coil = (round_.value(f"suction_line_{at}", "temperature") for at in ("outdoor", "indoor"))
    found: list[Residual | None] = [_approach(round_, air, liquid)]
    if liquid is not None and indoor is not None:
        pushes = _minus(_clamp(round_, "liquid_line_outdoor"), _clamp(round_, "liquid_line_indoor"))
        says = f"{temperature(liquid)} outdoors, {temperature(indoor)} at the metering device"
        found.append(
            Residual(
                KINDS["liquid_drop"],
                liquid - indoor - LIQUID_DROP_USUAL.value,
                pushes,
                LIQUID_DROP_SPREAD.value,
                LIQUID_DROP_REPEAT.value,
                {"liquid_line_outdoor": 1.0},
                says,
            )
        )
    if coil is not None or out is not None:
        found.append(_suction(round_, air, coil, out))
    if coil is not None and out is not None:
        pushes = _minus(_clamp(round_, "suction_line_outdoor"), _clamp(round_, "suction_line_indoor"))
        says = f"{temperature(coil)} at the coil, {temperature(out)} outdoors"
        found.append(
            Residual(
                KINDS["suction_rise"],
                out - coil - SUCTION_RISE_USUAL.value,
                pushes,
                SUCTION_RISE_SPREAD.value,
                SUCTION_RISE_REPEAT.value,
                {"suction_line_outdoor": 1.0},
                says,
            )
        )
    return found


def _approach(round_: Round, air: RoundResult, liquid: float | None) -> Residual | None:
    outdoor, plate = round_.value("outdoor", "dry_bulb"), round_.equipment
    if liquid is None or outdoor is None:
        return None
    efficiency = lines.class_of(plate.seer or USUAL_SEER.value)
    target, _ = charge.target_subcooling_f(plate.target_subcooling_f)
    over = lines.condensing_over_ambient_f(efficiency, _load(round_, air), round_.rules)
    spread = hypot(CONDENSING_OVER_AMBIENT_SPREAD.value * (1.0 if plate.seer else 2.0), SUBCOOLING_SPREAD.value)
    pushes = _minus(_clamp(round_, "liquid_line_outdoor"), _outdoor_sources(air))
    says = f"{signed_difference(liquid - outdoor)} against {signed_difference(over - target)}"
    slopes = {"liquid_line_outdoor": 1.0, "outdoor": -1.0}
    repeat, off = hypot(round_.rules.follow_up_line_f, SUBCOOLING_SPREAD.value), liquid - outdoor - (over - target)
    return Residual(KINDS["approach"], off, pushes, spread, repeat, slopes, says, min(target - over, 0.0), over - target)


def _suction(round_: Round, air: RoundResult, coil: float | None, out: float | None) -> Residual | None:
    """Suction line at the coil against evaporating + superheat; outdoors, less the usual rise, where only that was read."""
    surface = air["expected_apparatus_dew_point_f"]
    if not surface.known:
        return None
    evaporating = surface.value - EVAPORATING_UNDER_APPARATUS.value
    spread, line = EVAPORATING_SPREAD.value, coil if coil is not None else out - SUCTION_RISE_USUAL.value
    superheat, at = TXV_SUPERHEAT_AT_COIL.value, "suction_line_indoor" if coil is not None else "suction_line_outdoor"
    if round_.equipment.metering_device == "fixed_orifice":
        outdoor, wet_bulb = round_.value("outdoor", "dry_bulb"), air["return_wet_bulb_f"]
        target = charge.orifice_target_superheat_f(wet_bulb.value, outdoor) if wet_bulb.known and outdoor is not None else None
        superheat = max((target if target is not None else 5.0) - SUCTION_RISE_USUAL.value, 0.0)
    spread = hypot(spread, SUPERHEAT_SPREAD.value, 0.0 if coil is not None else SUCTION_RISE_SPREAD.value)
    expected = evaporating + superheat
    slopes = {} if coil is not None else {"suction_line_outdoor": 1.0}
    pushes, says = (
        _minus(_clamp(round_, at), _parts(air, "expected_apparatus_dew_point_f")),
        f"{temperature(line)} against {temperature(expected)}",
    )
    return Residual(KINDS["suction"], line - expected, pushes, spread, SUPERHEAT_SPREAD.value, slopes, says, expected=expected)


# -- outdoors ---------------------------------------------------------------------------------------------------------------


def _outdoors(round_: Round, air: RoundResult) -> list[Residual | None]:
    return [_condenser_rise(round_, air), _amps(round_, air)]


def _condenser_rise(round_: Round, air: RoundResult) -> Residual | None:
    """Air rise over that of a sound condenser: its airflow is hardly ever known, so this is a relative sign."""
    leaving, outdoor, tons = (
        round_.value("condenser_air_out", "dry_bulb"),
        round_.value("outdoor", "dry_bulb"),
        round_.equipment.nominal_tons,
    )
    if leaving is None or outdoor is None or leaving - outdoor < 2.0:
        return None
    low, high = CONDENSER_CFM_PER_TON_LOW.value, CONDENSER_CFM_PER_TON_HIGH.value
    heat = _load(round_, air) * BTUH_PER_TON.value * tons * HEAT_REJECTED_RATIO.value
    thinner = air.pressure_psia / 14.696
    expected = heat / (POCKET_SENSIBLE.value * thinner * (low * high) ** 0.5 * tons)
    rise = leaving - outdoor
    pushes = {s: -p / rise for s, p in _outdoor_sources(air).items()} | {
        "repeat condenser_air_out": DRY_BULB_REPEATABILITY.value * 2 / rise
    }
    says = f"{difference(rise)} against about {difference(expected, 0)}"
    return Residual(
        KINDS["condenser_rise"], log(rise / expected), pushes, log(high / low) / 2, CONDENSER_RISE_REPEAT.value, {"outdoor": -1.0 / rise}, says,
        expected=log(expected),
    )  # fmt: skip


def _amps(round_: Round, air: RoundResult) -> Residual | None:
    """Compressor watts over those of a sound unit of its rating in this weather."""
    amps, volts = round_.by_leg("compressor", "current"), round_.by_leg("compressor", "voltage")
    wet_bulb, flow, outdoor = air["expected_wet_bulb_used_f"], air["expected_flow_fraction"], round_.value("outdoor", "dry_bulb")
    if not amps or max(amps.values()) <= NO_GUESS or not (wet_bulb.known and flow.known) or outdoor is None:
        return None
    given = [volts.get(leg, 120.0) for leg in amps] if len(amps) > 1 else [240.0]
    watts = power_w(given, list(amps.values()), round_.value("compressor", "power_factor")).watts
    plate = round_.equipment
    seer = plate.seer or USUAL_SEER.value
    eer = EER_BY_SEER.value * seer - EER_BY_SEER_SQUARED.value * seer**2
    rated = BTUH_PER_TON.value / eer - FAN_W_PER_CFM.value * NOMINAL_CFM_PER_TON.value - OUTDOOR_FAN_W_PER_TON.value
    kind = "air_conditioner" if plate.kind == "air_conditioner" else "heat_pump"
    expected = rated * plate.nominal_tons * power_fraction(kind, wet_bulb.value, outdoor, flow.value)
    spread = COMPRESSOR_WATTS_SPREAD.value * (1.0 if plate.seer else 1.6)
    pushes = {
        "clamp amps": CLAMP_AMPS_ACCURACY.value,
        "power factor": POWER_FACTOR_SPREAD.value if volts else NO_VOLTS_SPREAD.value,
    } | {s: -WATTS_PER_OUTDOOR_F.value * p for s, p in _outdoor_sources(air).items()}
    says = f"{watts:,.0f} W against about {expected:,.0f} W"
    return Residual(
        KINDS["amps"], log(watts / expected), pushes, spread, round_.rules.amps_tolerance_share / 2, {"outdoor": -WATTS_PER_OUTDOOR_F.value}, says,
        expected=log(expected),
    )  # fmt: skip


# -- statics and ducts --------------------------------------------------------------------------------------------------------


def _drops(round_: Round, air: RoundResult) -> list[Residual | None]:
    """Each part's drop over what is usual at this airflow: what takes more static than its airflow explains."""
    returning, supply = (round_.value(f"{side}_plenum", "static_pressure") for side in ("return", "supply"))
    filter_, coil = (round_.value(part, "pressure_drop") for part in ("filter", "coil"))
    filter_, coil = (None if d is None else abs(d) for d in (filter_, coil))
    found = [_drop(round_, air, "filter_drop", filter_, FILTER_DROP_USUAL.value, FILTER_DROP_EXPONENT.value),
             _drop(round_, air, "coil_drop", coil, COIL_DROP_USUAL.value, COIL_DROP_EXPONENT.value)]  # fmt: skip
    if returning is not None and filter_ is not None:
        duct = abs(returning) - filter_
        found.append(_drop(round_, air, "return_drop", duct, RETURN_DUCT_DROP_USUAL.value, DUCT_DROP_EXPONENT.value))
    inside = round_.equipment.unit != "furnace_with_cased_coil"
    if supply is not None and (inside or coil is not None):
        duct = abs(supply) - (0.0 if inside else coil)
        found.append(_drop(round_, air, "supply_drop", duct, SUPPLY_DUCT_DROP_USUAL.value, DUCT_DROP_EXPONENT.value))
    return found


def _drop(round_: Round, air: RoundResult, kind: str, drop: float | None, usual: float, exponent: float) -> Residual | None:
    if drop is None or drop < 0.01:
        return None
    flow = air["cfm_per_ton"].value / NOMINAL_CFM_PER_TON.value if air["cfm_per_ton"].known and _measured(round_) else 1.0
    pushes = {f"manometer {kind}": min(0.01 / drop, 0.5)}
    slopes = {}
    if _measured(round_):
        pushes |= {s: -exponent * p / air["cfm_per_ton"].value for s, p in _parts(air, "cfm_per_ton").items() if p}
    else:
        slopes["airflow"] = -exponent
        pushes["airflow_of_sound_systems"] = -exponent * AIRFLOW_SPREAD_SOUND.value
    expected = usual * flow**exponent
    return Residual(
        KINDS[kind],
        log(drop / expected),
        pushes,
        USUAL_DROP_SPREAD.value,
        USUAL_DROP_REPEAT.value,
        slopes,
        f"{drop:.2f} against about {expected:.2f} in. w.c.",
    )


def _ducts(round_: Round) -> list[Residual | None]:
    pairs = (
        ("grille_to_unit", "return_grille", "return_unit", RETURN_GAIN_USUAL.value, RETURN_GAIN_SPREAD.value),
        ("unit_to_register", "supply_plenum", "supply_register", SUPPLY_GAIN_USUAL.value, SUPPLY_GAIN_SPREAD.value),
    )
    found = []
    for kind, first, second, usual, spread in pairs:
        one, other = round_.reading(first, "dry_bulb"), round_.reading(second, "dry_bulb")
        if one is None or other is None:
            continue
        same = one.instrument and one.instrument == other.instrument
        pushes = {f"pair {kind}": AIR_PAIR_DIFFERENCE.value if same else hypot(DRY_BULB_ACCURACY.value, DRY_BULB_ACCURACY.value)}
        slopes = {"return": 1.0} if kind == "grille_to_unit" else {"supply": -1.0}
        says = f"{temperature(one.value)}, then {temperature(other.value)}"
        found.append(Residual(KINDS[kind], other.value - one.value - usual, pushes, spread, 1.0, slopes, says))
    return found
