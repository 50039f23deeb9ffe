"""The parts of an assessment beside the air: lines, charge, statics, electrical, ducts, water. Each from the readings it needs.

A section answers values (Estimate, or Predicted where only gauges could measure) and sentences; without its readings it is left out.
"""

from dataclasses import dataclass, field
from math import hypot

from engine.air import moist
from engine.air.state import AirState, state
from engine.airflow.statics import Statics, assess_statics
from engine.assessment.result import RoundResult
from engine.capacity.electrical import amps_findings, eer, power_w
from engine.constants import (
    CONDENSING_OVER_AMBIENT_SPREAD,
    DRY_BULB_ACCURACY,
    DUCT_CARRY_SPREAD,
    DUCT_RUN_GAIN_LIMIT,
    ELECTRICAL_ACCURACY,
    EVAPORATOR_DIFFERENCE,
    EVAPORATOR_DIFFERENCE_SPREAD,
    FRICTION_RATE_USUAL,
    MATCHED_PAIR_ACCURACY,
    MEASURED_FAN_POWER_ACCURACY,
    STANDARD_AIR_VOLUME,
    STATIC_RATING_LIMIT,
    TXV_TOTAL_SUPERHEAT_HIGH,
    TXV_TOTAL_SUPERHEAT_LOW,
    WATER_FLOW_ACCURACY,
    WET_BULB_ACCURACY,
)
from engine.ducts import leakage
from engine.ducts.rooms import FLEX_STRETCHED, duct_airflow_cfm, room
from engine.errors import EngineError
from engine.judgement.indicators import state_of, word_of
from engine.judgement.validity import ICED
from engine.readings.round import Round
from engine.readings.vocabulary import HUMIDITY_QUANTITIES, ROOM
from engine.refrigerant import charge, lines
from engine.refrigerant.properties import saturation_u95_f
from engine.uncertainty.estimate import Estimate, Predicted
from engine.units import BTUH_PER_W
from engine.water.exchanger import flow_from_drop, published
from engine.water.rejection import against_published, delivered_cooling_btuh, delivered_heating_btuh, loop_heat
from engine.wording import difference, signed_difference, temperature


@dataclass
class Section:
    """One part of an assessment: values by name, sentences, and what is urgent among them."""

    id: str
    values: dict[str, Estimate | Predicted] = field(default_factory=dict)
    says: list[str] = field(default_factory=list)
    urgent: list[str] = field(default_factory=list)

    def __bool__(self) -> bool:
        return bool(self.values or self.says or self.urgent)


def _word(off: float, u95: float, tolerance: float) -> str:
    """In range, high, low, borderline or can't tell yet, by the same margin rule as every indicator."""
    return word_of(state_of(off, u95, tolerance), off)


def volumes(round_: Round) -> dict[str, float]:
    """Specific volume [ft3/lb] by plane, from the air as read; dry 75 and 55 °F stand in where it was not."""
    p = float(moist.pressure_psia(round_.altitude_ft))
    warm, cold = round_.value("return_unit", "dry_bulb") or 75.0, round_.value("supply_plenum", "dry_bulb") or 55.0
    return {
        "return": float(moist.specific_volume_ft3lb(warm, 0.009, p)),
        "supply": float(moist.specific_volume_ft3lb(cold, 0.008, p)),
        "standard": STANDARD_AIR_VOLUME.value,
    }


URGENT_ON_THE_LINES = ("liquid_return", "icing")


def lines_section(round_: Round, load: float = 1.0) -> Section:
    """Approach against expected, drops, suction limits, and what the lines predict of the inside."""
    found, plate = Section("lines"), round_.equipment
    outdoor, liquid = round_.value("outdoor", "dry_bulb"), round_.value("liquid_line_outdoor", "temperature")
    suction, indoor = round_.value("suction_line_outdoor", "temperature"), round_.value("liquid_line_indoor", "temperature")
    returning = round_.value("return_unit", "dry_bulb")
    efficiency = lines.class_of(plate.seer) if plate.seer else None
    target, target_from = charge.target_subcooling_f(plate.target_subcooling_f)
    if liquid is not None:
        drier = round_.value("drier_in", "temperature"), round_.value("drier_out", "temperature")
        for finding in lines.liquid_line_findings(outdoor, liquid, indoor, *drier, round_.rules.drier_drop_f):
            found.says.append(f"{finding.message} {finding.hint}")
    if outdoor is not None:
        expected = lines.expected_approach(efficiency, target, load, round_.rules)
        spread = CONDENSING_OVER_AMBIENT_SPREAD.value
        found.values["expected_approach_f"] = Estimate(expected.value_f, spread, "°F")
        found.values["approach_tolerance_f"] = Estimate(expected.tolerance_f, 0.0, "°F")
        found.values["expected_liquid_line_f"] = Estimate(lines.expected_liquid_line(outdoor, expected).value_f, spread, "°F")
        if liquid is not None:
            _approach(found, round_, outdoor, liquid, expected, target_from)
        if liquid is not None and efficiency:
            condensing = lines.predicted_condensing(outdoor, efficiency, load, round_.rules)
            found.values["condensing_f"] = condensing
            found.values["subcooling_f"] = lines.predicted_subcooling(liquid, condensing)
    if returning is not None:
        evaporating = lines.predicted_evaporating(returning)
        found.values["evaporating_f"] = evaporating
        if suction is not None:
            found.values["superheat_f"] = lines.predicted_superheat(suction, evaporating)
    for finding in lines.suction_findings(suction, None, at_coil_f=round_.value("suction_line_indoor", "temperature")):
        (found.urgent if finding.id in URGENT_ON_THE_LINES else found.says).append(f"{finding.message} {finding.hint}")
    if round_.observations.get("ice") in ICED:
        found.urgent.append("There is ice: compressor off, thaw it fully before anything else.")
    return found


def _approach(
    found: Section, round_: Round, outdoor: float, liquid: float, expected: lines.ExpectedLine, target_from: str
) -> None:
    approach, u95 = liquid - outdoor, hypot(round_.line_u95_f("liquid_line_outdoor"), DRY_BULB_ACCURACY.value)
    found.values["approach_f"] = Estimate(approach, u95, "°F")
    word = _word(approach - expected.value_f, u95, expected.tolerance_f)
    found.says.append(
        f"Approach {signed_difference(approach)}: {word} ({expected.basis}; target from the {target_from}). Line temperature alone never decides."
    )


def charge_section(round_: Round, return_wet_bulb_f: float | None) -> Section:
    """With gauges on: measured superheat and subcooling against their targets, at the altitude's gauge pressure."""
    found, plate = Section("charge"), round_.equipment
    low, high = round_.value("gauge_suction", "pressure"), round_.value("gauge_liquid", "pressure")
    suction, liquid = round_.value("suction_line_outdoor", "temperature"), round_.value("liquid_line_outdoor", "temperature")
    if not plate.refrigerant or (low is None and high is None):
        return found
    try:
        if low is not None and suction is not None:
            value = charge.superheat_f(plate.refrigerant, suction, low, round_.altitude_ft)
            u95 = saturation_u95_f(plate.refrigerant, low, round_.altitude_ft, "dew")
            joint = hypot(round_.line_u95_f("suction_line_outdoor"), u95)
            found.values["superheat_f"] = Estimate(value, joint, "°F")
            found.says += _evaporating_says(found, round_, suction - value, u95)
            found.says += _superheat_says(round_, value, joint, return_wet_bulb_f)
            for finding in lines.suction_findings(suction, suction - value):
                (found.urgent if finding.id in URGENT_ON_THE_LINES else found.says).append(f"{finding.message} {finding.hint}")
        if high is not None and liquid is not None:
            value = charge.subcooling_f(plate.refrigerant, liquid, high, round_.altitude_ft)
            target, source = charge.target_subcooling_f(plate.target_subcooling_f)
            u95 = saturation_u95_f(plate.refrigerant, high, round_.altitude_ft, "bubble")
            joint = hypot(round_.line_u95_f("liquid_line_outdoor"), u95)
            found.values["subcooling_f"] = Estimate(value, joint, "°F")
            outdoor = round_.value("outdoor", "dry_bulb")
            if outdoor is not None:
                found.values["condensing_over_ambient_f"] = Estimate(
                    value + liquid - outdoor, hypot(u95, DRY_BULB_ACCURACY.value), "°F"
                )
            word = _word(value - target, joint, round_.rules.subcooling_tolerance_f)
            found.says.append(
                f"Subcooling {signed_difference(value)} against a target of {difference(target)} ({source}): {word}."
            )
    except EngineError as error:
        found.says.append(f"{error}. Check the pressure and the refrigerant.")
    return found


def _evaporating_says(found: Section, round_: Round, evaporating: float, u95: float) -> list[str]:
    """The measured evaporating temperature, and how far it lies under the return air."""
    found.values["evaporating_f"] = Estimate(evaporating, u95, "°F")
    returning = round_.value("return_unit", "dry_bulb")
    if returning is None:
        return []
    under, usual = returning - evaporating, EVAPORATOR_DIFFERENCE.value
    found.values["evaporator_difference_f"] = Estimate(under, hypot(u95, DRY_BULB_ACCURACY.value), "°F")
    word = "as usual" if abs(under - usual) <= EVAPORATOR_DIFFERENCE_SPREAD.value else "larger" if under > usual else "smaller"
    return [
        f"Evaporating {temperature(evaporating, 0)} is {difference(under, 0)} under the return air, {word} "
        f"(about {difference(usual, 0)} at 400 CFM/ton and 50 %RH)."
    ]


def _superheat_says(round_: Round, superheat: float, u95: float, return_wet_bulb_f: float | None) -> list[str]:
    if round_.equipment.metering_device == "txv":
        word = "in range" if charge.txv_total_superheat_in_range(superheat) else "out of range"
        return [
            f"Superheat at the outdoor unit is {signed_difference(superheat)}; a TXV system shows {difference(TXV_TOTAL_SUPERHEAT_LOW.value, 0)} to "
            f"{difference(TXV_TOTAL_SUPERHEAT_HIGH.value, 0)}: {word}."
        ]
    outdoor = round_.value("outdoor", "dry_bulb")
    if return_wet_bulb_f is None or outdoor is None:
        return [f"Superheat {signed_difference(superheat)}: an orifice's target needs return wet bulb and outdoor temperature."]
    target = charge.orifice_target_superheat_f(return_wet_bulb_f, outdoor)
    if target is None:
        return [f"Superheat {signed_difference(superheat)}: no target below {difference(5.0, 0)} in this weather."]
    # the target moves 1.5 °F with each °F of return wet bulb and half a degree with each of outdoor air
    u95 = hypot(u95, 1.5 * WET_BULB_ACCURACY.value, 0.5 * DRY_BULB_ACCURACY.value)
    word = _word(superheat - target, u95, round_.rules.orifice_superheat_tolerance_f)
    return [
        f"Superheat {signed_difference(superheat)} against a target of {difference(target)} (the plate's chart wins): {word}."
    ]


def statics_of(round_: Round) -> Statics | None:
    """The statics read in a round, or None when a side is missing."""
    sides = round_.value("return_plenum", "static_pressure"), round_.value("supply_plenum", "static_pressure")
    if None in sides:
        return None
    drops = round_.value("filter", "pressure_drop"), round_.value("coil", "pressure_drop")
    return Statics(*sides, *drops, round_.observations.get("coil") != "dry")


def statics_section(round_: Round, volume_ft3lb: float, baseline: Round | None) -> Section:
    """Total external static, what is external, against rating and baseline."""
    found, read = Section("statics"), statics_of(round_)
    if read is None:
        return found
    rating = round_.equipment.rating_static_inwc or STATIC_RATING_LIMIT.value
    answer = assess_statics(
        read, round_.equipment.unit, volume_ft3lb, rating, statics_of(baseline) if baseline else None, round_.rules
    )
    found.values["total_external_static_inwc"] = Estimate(answer.total_inwc, answer.u95_inwc, "in. w.c.")
    for name, share in answer.shares.items():
        found.values[f"{name}_share"] = Estimate(share, 2 * answer.u95_inwc / answer.total_inwc, "")
    found.says = [*answer.findings, answer.what_is_external]
    return found


def electrical_section(round_: Round, net: Estimate | None, baseline_amps: float | None = None) -> Section:
    """Watts per load, amps against plate and weather-corrected baseline (compressor), EER where all three loads are known."""
    found, plate = Section("electrical"), round_.equipment
    watts = {}
    for place, plate_amps in (("compressor", plate.compressor_rla), ("outdoor_fan", plate.outdoor_fan_fla)):
        amps, volts = round_.by_leg(place, "current"), round_.by_leg(place, "voltage")
        was, tolerance = baseline_amps if place == "compressor" else None, round_.rules.amps_tolerance_share
        for finding in amps_findings(place.replace("_", " "), max(amps.values()), plate_amps, was, tolerance) if amps else []:
            (found.urgent if finding.urgent else found.says).append(finding.message)
        if amps and set(volts) == set(amps):
            power = power_w(list(volts.values()), [amps[leg] for leg in volts], round_.value(place, "power_factor"))
            watts[place] = power.watts
            found.values[f"{place}_w"] = Estimate(power.watts, power.u95_w, "W")
            found.says.append(f"{place.replace('_', ' ').capitalize()}: {power.stated}.")
        elif (direct := round_.value(place, "power")) is not None:
            watts[place] = direct
            found.values[f"{place}_w"] = Estimate(direct, MEASURED_FAN_POWER_ACCURACY.value * direct, "W")
    blower = round_.value("blower", "power")
    if blower is not None and len(watts) == 2 and net and net.known and net.value > 0:
        total = sum(watts.values()) + blower
        found.values["total_w"] = Estimate(total, ELECTRICAL_ACCURACY.value * total, "W")
        ratio = eer(net.value, total)
        found.values["eer"] = Estimate(ratio, ratio * hypot(net.u95 / net.value, ELECTRICAL_ACCURACY.value), "BTU/h per W")
    return found


def ducts_section(round_: Round, result: RoundResult) -> Section:
    """Grille against unit, plenum against register, the attic's share of the return, heat added inside the unit."""
    found, at = (
        Section("ducts"),
        {place: _air(round_, place) for place in ("return_grille", "return_unit", "supply_plenum", "supply_register", "attic")},
    )
    if at["return_grille"] and at["return_unit"]:
        found.says.append(leakage.return_side(at["return_grille"], at["return_unit"]).message)
        if at["attic"]:
            try:
                leak = leakage.return_leak_fraction(at["return_grille"], at["return_unit"], at["attic"])
                found.values["return_leak_share"] = Estimate(leak.value, leak.u95, "")
                found.says.append(leak.message)
            except EngineError as error:
                found.says.append(f"{str(error).capitalize()}.")
    if at["supply_plenum"] and at["supply_register"]:
        gain = leakage.supply_side(at["supply_plenum"], at["supply_register"])
        found.values["supply_gain_f"] = Estimate(gain.value, gain.u95, "°F")
        found.says.append(gain.message)
    expected, w = result["expected_supply_dry_bulb_f"], result["expected_supply_humidity_ratio"]
    if found and at["supply_plenum"] and expected.known and w.known:
        dew = state(expected.value, "rh", min(100.0, result["expected_supply_rh_pct"].value), round_.altitude_ft).dew_point_f
        heat = leakage.reheat_inside(at["supply_plenum"], expected.value, dew, expected.u95)
        if heat.sure:
            found.says.append(heat.message)
    return found


def rooms_section(round_: Round) -> Section:
    """Each room's register against the plenum, and its duct against what the room wants, at the usual friction rate."""
    found, plenum = Section("rooms"), round_.value("supply_plenum", "dry_bulb")
    for duct in round_.equipment.rooms:
        register = round_.value(f"{ROOM}{duct.name}", "dry_bulb")
        if register is not None and plenum is not None:
            gain = register - plenum
            found.values[f"{duct.name}: gain"] = Estimate(gain, MATCHED_PAIR_ACCURACY.value, "°F")
            if gain > DUCT_RUN_GAIN_LIMIT.value + MATCHED_PAIR_ACCURACY.value:
                found.says.append(
                    f"{duct.name}: the air warms {difference(gain)} on its way. Look at that run's insulation and length."
                )
        try:
            carries = duct_airflow_cfm(FRICTION_RATE_USUAL.value, duct.diameter_in, duct.duct, FLEX_STRETCHED)
            found.values[f"{duct.name}: carries"] = Estimate(carries, DUCT_CARRY_SPREAD.value * carries, "CFM")
            if duct.wants_cfm:
                wanted = room(duct.wants_cfm, FRICTION_RATE_USUAL.value, [duct.diameter_in], duct.duct, FLEX_STRETCHED)
                found.says.append(f"{duct.name}: {wanted.sentence}")
        except EngineError as error:
            found.says.append(f"{duct.name}: {error}.")
    return found


def _air(round_: Round, place: str) -> AirState | None:
    dry_bulb, humid = round_.reading(place, "dry_bulb"), round_.reading(place, *HUMIDITY_QUANTITIES)
    if not (dry_bulb and humid):
        return None
    try:
        return state(dry_bulb.value, humid.quantity, humid.value, round_.altitude_ft)
    except EngineError:  # a contradiction there is already a finding
        return None


def water_section(round_: Round) -> Section:
    """Water flow, heat of rejection or extraction against the published table, and what is delivered."""
    found, plate = Section("water"), round_.equipment
    entering, leaving = round_.value("water_in", "temperature"), round_.value("water_out", "temperature")
    drop, flow = round_.value("water_loop", "water_drop"), round_.value("water_loop", "flow")
    if entering is None or leaving is None or (flow is None and drop is None):
        return found
    try:
        if flow is None and plate.drop_table is None:
            raise EngineError("water flow from a pressure drop needs the unit's own exchanger table")
        gpm, u95 = (
            (flow, WATER_FLOW_ACCURACY.value * flow)
            if flow is not None
            else _gpm(flow_from_drop(plate.drop_table, plate.model, drop, entering))
        )
        heat = loop_heat(gpm, u95, entering, leaving, plate.loop_fluid, plate.loop_share)
    except EngineError as error:
        return Section("water", says=[f"{error}."])
    kind = "rejection" if round_.mode == "cooling" else "extraction"
    pocket = round_.rules.water_factor == "pocket"
    btuh = heat.pocket_btuh if pocket else heat.btuh
    found.values |= {"water_flow_gpm": Estimate(gpm, u95, "GPM"), f"{kind}_btuh": Estimate(btuh, heat.u95_btuh, "BTU/h")}
    found.says.append(
        f"{heat.factor:.0f} BTU/h per GPM and °F for this fluid; the pocket factor is {100 * heat.pocket_error_share:+.1f} % off here."
    )
    if plate.heat_table is not None:
        try:
            table = published(plate.heat_table, plate.model, entering, gpm)
            found.values["published_btuh"] = Estimate(table, 0.0, "BTU/h")
            found.says.append(
                against_published(heat, table, kind, plate.nominal_tons, round_.rules.rejection_tolerance_share).sentence
            )
        except EngineError as error:
            found.says.append(f"{error}.")
    watts = electrical_watts(round_)
    if watts is not None:
        delivered = delivered_cooling_btuh(btuh, watts) if kind == "rejection" else delivered_heating_btuh(btuh, watts)
        found.values["delivered_btuh"] = Estimate(
            delivered, hypot(heat.u95_btuh, ELECTRICAL_ACCURACY.value * watts * BTUH_PER_W), "BTU/h"
        )
    return found


def _gpm(flow) -> tuple[float, float]:
    return flow.gpm, flow.u95_gpm


def electrical_watts(round_: Round) -> float | None:
    """All electrical heat inside the ledger [W]: compressor and blower; None when the compressor's is not known."""
    amps, volts = round_.by_leg("compressor", "current"), round_.by_leg("compressor", "voltage")
    watts = round_.value("compressor", "power")
    if watts is None and amps and set(volts) == set(amps):
        watts = power_w(list(volts.values()), [amps[leg] for leg in volts], round_.value("compressor", "power_factor")).watts
    return None if watts is None else watts + (round_.value("blower", "power") or 0.0)
