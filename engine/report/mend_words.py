"""What to do about a verdict: what was seen and mends it, what gauges are for and what follows from them."""

from engine.assessment import Assessment
from engine.diagnosis import gauges
from engine.diagnosis.actions import Action, look_for
from engine.diagnosis.cause import (
    COLD_LIQUID,
    COLD_OUTDOORS,
    HEAD_HIGH,
    HEAT_OR_PROBE,
    HEAT_SHORT,
    IN_THE_CIRCUIT,
    NOT_FED,
    PUMPS_LITTLE,
    STARVED_OR_WEAK,
    WARM_LIQUID,
    WARM_SUCTION,
    is_in,
)
from engine.diagnosis.causes import EVERY_CAUSE, group_of
from engine.report import finding_words, quantity_words
from engine.report.words import capital, coils, listed, lower_first


def seen_bad(found: Assessment) -> str:
    """The faults that were seen, in sentences: 'The filter is blocked.'"""
    return " ".join(
        f"{text}."
        for text in dict.fromkeys(
            seen_of(a, found) for a in found.diagnosis.actions if a.is_seen(found.round.observations)
        )
    )


def seen_of(action: Action, found: Assessment) -> str:
    """What was seen that an action mends, without a full stop."""
    seen = found.round.observations
    look = next(look for look, degrees in action.seen.items() if seen.get(look) in degrees)
    return finding_words.seen_said(look, seen[look], found.round.mode)


def do_words(actions: list[Action], mode: str) -> str:
    """'Change the filter, or open the registers'."""
    return listed([actions[0].do, *(lower_first(a.do) for a in actions[1:2])]).format(**coils(mode))


def do_and_read_again(actions: list[Action], mode: str) -> str:
    """'Change the filter; then let it settle and read again.'"""
    return f"{do_words(actions, mode)}; then let it settle and read again."


def mend(found: Assessment) -> str:
    """What to do about a fault: mend what was seen; connect where that is decided; else the step that is worth most."""
    d = found.diagnosis
    mends = [a for a in d.actions if found.verdict.cause in a.causes] or [a for a in d.actions if _of_group(a, found)]
    if mends:
        return f"{do_words(mends, found.round.mode)}; then settle and read again."
    to_prove = TO_PROVE | (IN_HEATING if found.round.mode == "heating" else {})
    if found.verdict.cause in to_prove:
        return to_prove[found.verdict.cause]
    own = EVERY_CAUSE[found.verdict.cause].group if found.verdict.cause else found.verdict.group
    if own in PROVE_FIRST:
        return PROVE_FIRST[own]
    if d.gauges.rule == gauges.BELOW_OUTDOOR and d.steps and d.steps[0].step.id == "probes_together":
        return ""  # the step leads
    if d.steps and d.steps[0].step.look in look_for(found.verdict.cause, found.round.seen):
        return ""  # so does a look at what may be mended without a hose: a valve half closed
    if d.gauges.decides == gauges.WARRANTED and own in IN_THE_CIRCUIT:
        return _by_gauge(found, own)
    return ""


def at_last(found: Assessment) -> str:
    """What to do about a fault that is told when every step has been taken; '' where none is told."""
    own = EVERY_CAUSE[found.verdict.cause].group if found.verdict.cause else found.verdict.group
    if own == "water_flow":
        return "Prove the flow by a meter, then look for what takes it: strainer, pump, air in the loop, a valve half closed."
    then = _after_gauges(own, found)
    return f"{then} By licensed people." if then else ""


def _after_gauges(group: str, found: Assessment) -> str:
    """What follows from the pressures where a group is told; '' where nothing does."""
    of_mode = AFTER_IN_HEATING if found.round.mode == "heating" else {}
    return (AFTER_GAUGES | of_mode).get(group, "")


# Refrigerant may be the matter, or look like it: what the pressures are held to is said before anybody connects.
SAID_AT_ONCE = ("charge_low", "circuit", NOT_FED, PUMPS_LITTLE, STARVED_OR_WEAK)


def _by_gauge(found: Assessment, group: str) -> str:
    """What gauges are for, of what they have not said yet; then what they have said asks for."""
    cooling = found.round.mode == "cooling"
    pressures = [] if found.round.by_gauge else ["pressures"]
    by_both = [lower_first(quantity_words.LABELS[q]) for q in ("superheat", "subcooling") if found.table.get(q) is None]
    left = by_both if cooling else pressures
    then = _after_gauges(group, found)
    if not left:
        return f"{then} By licensed people."
    return f"{capital(listed(left))} by gauge, by licensed people.{f' {then}' if group in SAID_AT_ONCE else ''}"


_CLAMP = "Put the clamp on clean bare copper, out of the sun, insulation back over it, on {}; then read it again, with another clamp if there is one."
_PROBE = "Read the {} again with another probe, in the stream and out of sight of hot or cold metal."
# What proves or mends a cause that is told and that no look shows (common practice, no single source).
TO_PROVE = {
    "heat_on": "Find what heats the air: strips off at their breaker and no amps on them, no hot-water coil leaking through. Then settle and read again.",
    "reheat": "Look past the plenum for what heats the air: a hot-water coil leaking through, strips in the duct. Then read plenum and register again.",
    "other_size": "Read both nameplates again: model, tons, refrigerant, metering device. Correct the plate, and everything is judged anew.",
    "liquid_clamp": _CLAMP.format("the thin line"),
    "suction_clamp": _CLAMP.format("the thick line"),
    "discharge_clamp": _CLAMP.format("the hot line near the compressor"),
    "outdoor_probe": "Hold the outdoor probe in the shade, in the air entering the outdoor unit, and read it again.",
    "supply_probe": _PROBE.format("supply plenum"),
    "return_probe": _PROBE.format("return"),
    "water_probe": "Read both water ports again with one probe, needle well into the stream.",
    "non_condensables": "Prove the outdoor coil clean and its fan right first. Then it is recover, evacuate and weigh in: by licensed people.",
}
# In heating the thick line outdoors is hot gas: the suction is a third line; and the coil indoors makes the head.
IN_HEATING = {
    "suction_clamp": _CLAMP.format("the line between reversing valve and compressor"),
    "non_condensables": "Prove filter, indoor coil and blower right first. Then it is recover, evacuate and weigh in: by licensed people.",
}
_WATER_COIL = "Prove the water coil first: flow by a meter against flow by its drop. A fouled coil drops more than its flow explains."
# What is proved before anybody connects.
PROVE_FIRST = {
    "high_airflow": "Look at the blower's tap, or its switches, and at the airflow it should give: then set it and read again.",
    "supply_duct": "Read at the plenum and at the register with one probe, then walk the duct between: insulation, length, joints, and what it runs through.",
    "probe": "Hold the probes and clamps side by side in one place: the one that differs is the one to leave out.",
    "exchanger": _WATER_COIL,
    HEAD_HIGH: _WATER_COIL,
    WARM_SUCTION: "Look along the suction line for bare copper, and for a run in the sun or through a hot attic. Then put the thick line's clamp on clean bare copper, cover it again, and read once more.",
    COLD_OUTDOORS: "Look at the outdoor coil for ice and dirt, and at its fan. Then hold the outdoor probe in the shade, in the air entering the coil, and read once more.",
    HEAT_OR_PROBE: "Look at the strips: off at their breaker, no amps on them. If they are off, hold the probes side by side: the one that differs is the one to leave out.",
    COLD_LIQUID: _CLAMP.format("the thin line"),
    WARM_LIQUID: "Look at the outdoor coil and its fan. Its air rise and the draw tell: both up is the condenser, both down is lost charge. Add no refrigerant before.",
}
# What follows from the pressures, or once all that can be looked at was (common practice, no single source).
AFTER_GAUGES = {
    "charge_low": "Look for the leak before anything is added.", "charge_high": "Recover to the target in weighed steps.",
    NOT_FED: "Add no refrigerant before it is known which: low subcooling is charge, subcooling at its target or over is a valve or a line.",
    "starved": "Find the spot: frost, a temperature drop, the drier, the valve's screen.",
    "overfed": "Look at the valve's bulb and its insulation, or at the piston's size.", "compressor": "Prove the compressor before it is condemned.",
    "circuit": "High superheat with low subcooling is charge; with subcooling at its target or over it is a valve or a line; high suction with superheat in range is the compressor. Add no refrigerant before it is known which.",
    "high_side": "The pressures tell; look at airflow and water first, they raise the head too.",
    PUMPS_LITTLE: "Low suction with high superheat is charge; high suction with little heat moved is the compressor. Add no refrigerant before it is known which.",
    STARVED_OR_WEAK: "Low suction with high superheat is a valve or a line; high suction with little heat moved is the compressor. Add no refrigerant.",
    HEAT_SHORT: "Low suction with high superheat is the circuit; low suction with normal superheat is the water coil.",
    "condenser": "With its coil and its fan right, gas that does not condense is left: off and cooled down to the outdoor air, the pressure is then over the refrigerant's own at that temperature.",
}  # fmt: skip
# No charge is set by superheat or subcooling in heating (common practice, no single source).
AFTER_IN_HEATING = {
    "charge_high": "Recover it and weigh in the plate's charge and the line set's, or go by the maker's heating chart.",
    "condenser": "With filter, indoor coil and blower right, gas that does not condense is left: off and cooled down, both coils at one temperature, the pressure is then over the refrigerant's own at that temperature.",
}


def _of_group(action: Action, found: Assessment) -> bool:
    kinds = found.diagnosis.ranked.kinds
    return any(is_in(group_of(EVERY_CAUSE[c], kinds), found.verdict.group) for c in action.causes)
