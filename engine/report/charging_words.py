"""Charging in words: what the charge is set by, what is proved first, the next step, and why to stop."""

from dataclasses import dataclass

from engine.assessment import Assessment
from engine.charging.steps import HIGH_HEAD_F, Plan
from engine.charging.target import ADD, SUBCOOLING, SUPERHEAT, WEIGH_IN
from engine.diagnosis.verdict import STOP_FIRST
from engine.report.words import Words, capital, listed
from engine.units import OZ_PER_KG, OZ_PER_LB

WAYS = {ADD: "Add", "recover": "Recover"}
HOW = {
    ADD: "As liquid, metered slowly so that none reaches the compressor.",
    "recover": "Into a recovery cylinder, never past 80 % full.",
}
WEIGHED = {
    "heating": "In heating a charge is not set by superheat or subcooling.",
    "ground_source": "On a water coil the maker's chart or the scale sets the charge.",
    "too_cold": "It is too cold outdoors to set a charge by its lines.",
    "device_not_known": "The metering device is not known: the plate of the indoor coil names it.",
    "no_outdoor": "Read the outdoor air: it says whether a charge can be set by its lines today.",
    "no_wet_bulb": "Read the return's dry bulb and humidity: the target superheat needs them.",
    "no_subcooling": "Read the high side and the liquid line: without them there is no subcooling.",
    "no_target_superheat": "There is no target superheat for this air: it is too dry inside or too hot outdoors.",
}
PROVE = {
    "stop_first": "what stops the machine", "does_not_count": "what keeps the readings from counting",
    "airflow": "the airflow (measured, in range)", "filter": "the filter (seen clean)", "evaporator_face": "the evaporator (seen clean)",
    "condenser_coil": "the condenser (seen clean and dry)", "condenser_rise": "the condenser's air, which leaves too warm",
    "clamp": "the clamp on the liquid line (probes and clamps side by side)",
}  # fmt: skip
STOPS = {
    "on_target": "On target: stop here.", "no_answer": "Stop: it does not answer.", "head_high": "Stop: the head is too high.",
    "freezing": "Stop: the coil freezes.", "iced": "Stop: there is ice.", "over_plate": "Stop: amps over the plate.",
    "liquid_return": "Stop: liquid returns to the compressor.",
}  # fmt: skip
WHY_STOP = {
    "no_answer": "After two settled steps neither superheat, subcooling, approach nor suction pressure moved: it is not the charge. Look at the metering device, the drier and the compressor.",
    "freezing": "It evaporates under freezing and no warmer than before the step. Compressor off, blower on; look again at the airflow and for a restriction.",
    "iced": "Compressor off, blower on: thaw it fully, then read again.",
    "over_plate": "The compressor draws more than its plate allows. Compressor off; look at the condenser's air and the volts.",
    "liquid_return": "There is no superheat left at the compressor. Compressor off; recover the last step.",
}


@dataclass(frozen=True)
class ChargingSaid:
    """The plan in words."""

    headline: str
    says: str
    attention: bool = False


def set_by(plan: Plan, words: Words) -> str:
    """What the charge is set by today, and where the target comes from."""
    target = plan.target
    if target.by == WEIGH_IN:
        return WEIGHED[target.why]
    value = f"{words.plain(target.value_f, '°F', True)} ± {words.spread(target.tolerance_f, '°F')} {words.sign('°F')}"
    if target.by == SUPERHEAT:
        where = (
            "the maker's chart for this air"
            if target.of_plate
            else "the charging formula for this air; the maker's chart wins"
        )
        return f"Fixed orifice: by superheat, {value}, {where}."
    where = "the plate" if target.of_plate else "a stand-in, because the plate is silent: ask the maker"
    return f"TXV: by subcooling, {value}, {where}."


def plan_said(plan: Plan, found: Assessment, words: Words, factory_oz: float | None = None) -> ChargingSaid:
    """What to do next."""
    if plan.says == "prove":
        return _prove(plan)
    if plan.says == "leave":
        return ChargingSaid(
            "Leave the charge alone.",
            "The verdict does not point at it, and here it cannot be set by its lines. Settle the verdict first.",
        )
    if plan.says == "weigh_in":
        charge = (
            f"{weight(factory_oz)} and the maker's allowance for the line set"
            if factory_oz
            else "the plate's charge and the maker's allowance for the line set"
        )
        return ChargingSaid(
            "Weigh it in.",
            f"Recover what is in it, evacuate, then weigh in {charge}; or go by the maker's chart for this mode.",
        )
    if plan.says == "read":
        return ChargingSaid("Let it settle, then read.", "Both pressures and both lines, with the valves closed.")
    if plan.says == "step":
        return _step(plan, found)
    if plan.says == "on_target":
        name = "Subcooling" if plan.target.by == SUBCOOLING else "Superheat"
        return ChargingSaid(
            STOPS["on_target"],
            f"{name} is where it belongs. Next: read split, airflow and lines again as a round of their own.",
        )
    why = WHY_STOP.get(plan.says) or _head_high(words)
    return ChargingSaid(STOPS[plan.says], why, True)


def _prove(plan: Plan) -> ChargingSaid:
    if "cause" in plan.prove:
        return ChargingSaid(
            "Charge is not the cause.",
            "The verdict names another: mend that, let it settle, read again. A charge moved now would hide it; who moves it all the same says why with the step.",
            True,
        )
    why = "A charge set on a dirty or starved machine is wrong as soon as that is mended."
    if plan.prove == ("clamp",):
        why = "A clamp that reads cold shows subcooling that is not there."
    return ChargingSaid(
        "Prove first.",
        f"{capital(listed([PROVE[id_] for id_ in plan.prove]))}. {why} Who moves it all the same says why with the step.",
        True,
    )


def _step(plan: Plan, found: Assessment) -> ChargingSaid:
    assert plan.oz is not None
    way = f"{WAYS[plan.way]} {weight(plan.oz)}"
    if found.verdict.state == STOP_FIRST:
        return ChargingSaid(
            f"With the machine off: {way[0].lower()}{way[1:]}.",
            "Then let it run and settle, and read again. A guess from the charge and the gap.",
            True,
        )
    how = HOW[plan.way]
    if plan.number > 1:
        return ChargingSaid(f"{way}, then let it settle.", f"{how} The amount follows what the last step did.")
    guess = "The amount is a guess from the charge and the gap; the next one learns from it."
    if plan.way == ADD:  # the verdict asks for the leak too: one order of work
        return ChargingSaid(f"Look for the leak, then {way[0].lower()}{way[1:]} and let it settle.", f"{how} {guess}")
    return ChargingSaid(f"{way}, then let it settle.", f"{how} {guess}")


def _head_high(words: Words) -> str:
    over = words.difference(HIGH_HEAD_F.value, 0)
    return f"It condenses more than {over} over what is expected here. Compressor off; look at the condenser's air, or recover the last step."


def weight(ounces: float, scale: str = "F") -> str:
    """'4 oz', '7 lb 6 oz', for who reads °C '115 g', '3.35 kg': no finer than a scale reads."""
    if scale == "C":
        grams = round(ounces / OZ_PER_KG * 200) * 5
        return f"{grams} g" if grams < 1000 else f"{grams / 1000:.2f} kg"
    pounds, rest = divmod(round(ounces * 4) / 4, OZ_PER_LB)
    small = f"{rest:g} oz"
    return small if not pounds else f"{pounds:.0f} lb" if not rest else f"{pounds:.0f} lb {small}"
