"""The heat ledger of a round: closed where the rejected side is known, else the condenser airflow it implies."""

from math import hypot

from engine.assessment.result import RoundResult
from engine.assessment.sections import Section, electrical_watts
from engine.capacity.condenser import air_side_rejection_btuh, implied_condenser_cfm
from engine.capacity.ledger import Entry, close_ledger, implied_airflow_plausible
from engine.constants import CONDENSER_FLOW_ACCURACY, CONDENSER_RISE_ACCURACY, ELECTRICAL_ACCURACY, WATER_PROBE_PAIR_ACCURACY
from engine.errors import EngineError
from engine.readings.round import Round
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.estimate import Estimate
from engine.units import BTUH_PER_W


def ledger_section(round_: Round, air: RoundResult, water: Section) -> Section:
    """Heat in and out: closed where the rejected side is known, else the condenser airflow it implies. water: the loop's section."""
    found, watts = Section("ledger"), electrical_watts(round_)
    taken = air["total_less_condensate_btuh"]
    if watts is None or not taken.known:
        return found
    electrical_u95 = ELECTRICAL_ACCURACY.value * watts * BTUH_PER_W
    fan_w = 0.0 if round_.equipment.kind == GROUND_SOURCE else round_.value("outdoor_fan", "power") or 0.0
    found.values["electrical_btuh"] = Estimate((watts + fan_w) * BTUH_PER_W, electrical_u95, "BTU/h")
    found.values["taken_btuh"] = Estimate(taken.value + (watts + fan_w) * BTUH_PER_W, hypot(taken.u95, electrical_u95), "BTU/h")
    power = Entry("electrical power", watts, ELECTRICAL_ACCURACY.value * watts, "W")
    capacity = Entry("air-side capacity", taken.value, taken.u95, "BTU/h")
    if round_.equipment.kind == GROUND_SOURCE:
        given = water.values.get("rejection_btuh")
        if given is None:
            return found
        flow, ends = (
            water.values["water_flow_gpm"],
            abs(round_.value("water_out", "temperature") - round_.value("water_in", "temperature")),
        )
        factor = given.value / (flow.value * ends)
        entries = [
            capacity,
            power,
            Entry("water flow", flow.value, flow.u95, "GPM"),
            Entry("water temperature difference", ends, WATER_PROBE_PAIR_ACCURACY.value, "°F"),
        ]
        closed = close_ledger(entries, lambda v: v["air-side capacity"], lambda v: v["electrical power"] * BTUH_PER_W,
                              lambda v: v["water flow"] * factor * v["water temperature difference"])  # fmt: skip
        found.says.append(closed.sentence)
        found.values["gap_btuh"] = Estimate(closed.gap_btuh, closed.u95_btuh, "BTU/h")
        found.values["given_btuh"] = given
        return found
    entering, leaving = round_.value("outdoor", "dry_bulb"), round_.value("condenser_air_out", "dry_bulb")
    if entering is None or leaving is None:
        return found
    fan = fan_w
    heat = taken.value + (watts + fan) * BTUH_PER_W
    known = round_.value("condenser_air", "airflow")
    if known is not None:
        entries = [
            capacity,
            power,
            Entry("condenser airflow", known, CONDENSER_FLOW_ACCURACY.value * known, "CFM"),
            Entry("condenser air rise", leaving - entering, CONDENSER_RISE_ACCURACY.value, "°F"),
        ]
        per = air_side_rejection_btuh(1.0, entering, leaving, round_.altitude_ft) / (leaving - entering)
        closed = close_ledger(entries, lambda v: v["air-side capacity"], lambda v: (v["electrical power"] + fan) * BTUH_PER_W,
                              lambda v: v["condenser airflow"] * per * v["condenser air rise"])  # fmt: skip
        found.says.append(closed.sentence)
        found.values["gap_btuh"] = Estimate(closed.gap_btuh, closed.u95_btuh, "BTU/h")
        spread = closed.given_btuh * hypot(CONDENSER_FLOW_ACCURACY.value, CONDENSER_RISE_ACCURACY.value / (leaving - entering))
        found.values["given_btuh"] = Estimate(closed.given_btuh, spread, "BTU/h")
        return found
    try:
        cfm = implied_condenser_cfm(heat, entering, leaving, round_.altitude_ft)
    except EngineError as error:
        found.says.append(f"{error}.")
        return found
    u95 = cfm * hypot(
        hypot(taken.u95, ELECTRICAL_ACCURACY.value * watts * BTUH_PER_W) / heat,
        CONDENSER_RISE_ACCURACY.value / (leaving - entering),
    )
    answer = implied_airflow_plausible(cfm, u95, round_.equipment.nominal_tons)
    found.values["implied_condenser_cfm"] = Estimate(cfm, u95, "CFM")
    found.values["heat_rejected_btuh"] = Estimate(
        heat, hypot(taken.u95, ELECTRICAL_ACCURACY.value * (watts + fan) * BTUH_PER_W), "BTU/h"
    )
    per_cfm = heat / cfm
    for name, limit in zip(("given_least_btuh", "given_most_btuh"), answer.band_cfm, strict=True):
        found.values[name] = Estimate(limit * per_cfm, u95 * per_cfm, "BTU/h")
    found.says.append(answer.sentence)
    return found
