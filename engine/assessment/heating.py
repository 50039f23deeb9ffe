"""A round in heating: rise, delivered and expected capacity, approach, and the verdict that follows."""

from math import hypot

from engine.airflow.methods import METHODS
from engine.assessment.sections import Section, volumes
from engine.constants import (
    AIR_PAIR_DIFFERENCE,
    DRY_BULB_ACCURACY,
    FAN_W_PER_CFM,
    SENSIBLE_SHARE_AT_RATING,
)
from engine.expected.cooling import Machine, fan_heat_btuh
from engine.expected.heating import ExpectedHeating, delivered_heating_btuh, expected_heating, mode_by_weather, out_of_range
from engine.judgement.validity import Withheld
from engine.judgement.verdict import Verdict
from engine.readings.round import Round
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.estimate import Estimate
from engine.wording import difference, signed_difference

USUAL_WINTER_HUMIDITY = 0.006  # lb/lb inside in heating: it moves the air's specific heat by a third of a percent at most


def heating_section(round_: Round) -> Section:
    """Heating: rise, delivered and expected capacity, what voids the test, the approach."""
    found, rules = Section("heating"), round_.rules
    outdoor, warm = round_.value("outdoor", "dry_bulb"), round_.value("supply_plenum", "dry_bulb")
    returning, cfm = round_.value("return_unit", "dry_bulb"), round_.value("blower", "airflow")
    if round_.equipment.kind != GROUND_SOURCE and outdoor is not None:
        mode = mode_by_weather(outdoor, round_.equipment.kind == "heat_pump", rules)
        found.says += [mode.reason] if mode.mode != "heating" else []
    if returning is None or warm is None:
        return found
    found.values["rise_f"] = Estimate(warm - returning, AIR_PAIR_DIFFERENCE.value, "°F")
    liquid = round_.value("liquid_line_indoor", "temperature")
    if liquid is not None:
        found.values["heating_approach_f"] = Estimate(
            liquid - returning, hypot(round_.line_u95_f("liquid_line_indoor"), DRY_BULB_ACCURACY.value), "°F"
        )
        found.says.append(
            f"Liquid line is {signed_difference(liquid - returning)} over return air; {difference(3.0, 0)} to {difference(17.0, 0)} is the usual band, "
            "too loose to clear a charge."
        )
    if cfm is None:
        return found
    volume, w = volumes(round_)["return"], USUAL_WINTER_HUMIDITY
    flow = cfm * 60.0 / volume
    share = METHODS[round_.reading("blower", "airflow").method or "nominal_guess"].accuracy
    delivered = float(delivered_heating_btuh(flow, returning, warm, w))
    found.values["delivered_btuh"] = Estimate(
        delivered, hypot(share, AIR_PAIR_DIFFERENCE.value / max(warm - returning, 1.0)) * delivered, "BTU/h"
    )
    if outdoor is None or round_.equipment.kind != "heat_pump":
        return found
    expected = heating_expected(round_, outdoor, cfm)
    outside = out_of_range(returning, outdoor, float(expected.flow_fraction))
    if outside:
        found.says += [f"{reason}." for reason in outside]
        return found
    spread = float(expected.spread)
    found.values["expected_btuh"] = Estimate(float(expected.total_btuh), spread * float(expected.total_btuh), "BTU/h")
    found.values["expected_rise_f"] = Estimate(float(expected.rise_f), hypot(spread, share) * float(expected.rise_f), "°F")
    return found


def heating_expected(round_: Round, outdoor_f: float, cfm: float) -> ExpectedHeating:
    """What a heat pump of this plate should give at this outdoor air [°F] and airflow [CFM, at the return]. Needs the return's dry bulb."""
    fan = fan_heat_btuh(round_.value("blower", "power") or FAN_W_PER_CFM.value * cfm)
    machine = Machine(round_.equipment.nominal_tons, "heat_pump", SENSIBLE_SHARE_AT_RATING.value, FAN_W_PER_CFM.value)
    flow = cfm * 60.0 / volumes(round_)["return"]
    return expected_heating(machine, round_.value("return_unit", "dry_bulb"), USUAL_WINTER_HUMIDITY, outdoor_f, flow, fan)


def heating_verdict(section: Section, withheld: tuple[Withheld, ...]) -> Verdict:
    """The verdict of a heating round: withheld when the test does not count, else the rise against what was expected."""
    rise, hoped = section.values.get("rise_f"), section.values.get("expected_rise_f")
    if rise is None or hoped is None:
        return Verdict(
            "heating_needs",
            "open",
            "Not enough read yet.",
            "Heating needs return, supply, airflow and outdoor air.",
            "Read what is missing.",
        )
    if withheld:
        return Verdict("not_valid", "withheld", "No verdict yet.", " ".join(w.reason for w in withheld), withheld[0].hint)
    off, margin = rise.value - hoped.value, hypot(rise.u95, hoped.u95)
    if abs(off) <= margin:
        text = f"Rise {difference(rise.value)} agrees with {difference(hoped.value)} expected, within {difference(margin)}."
        return Verdict(
            "heating_as_expected", "fine", "Nothing out of range.", text, "Read the lines to see more than the air side shows."
        )
    side = "above" if off > 0 else "below"
    text = f"Rise {difference(rise.value)} is {difference(off)} {side} the {difference(hoped.value)} expected."
    return Verdict(
        f"heating_rise_{side}",
        "attention",
        "Airflow first." if off > 0 else "Heating is short.",
        text,
        "Prove the airflow, then look at the outdoor coil.",
    )
