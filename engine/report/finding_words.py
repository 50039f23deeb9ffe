"""Every finding in words: what it is, and what to do about it."""

from collections.abc import Callable
from dataclasses import dataclass

from engine.readings.observations import BY_ID as SIGHTS
from engine.readings.round import STAND_IN
from engine.readings.vocabulary import PLACES, QUANTITIES, place_name
from engine.report.entry_words import figure_of
from engine.report.quantity_words import label
from engine.report.why_words import outside
from engine.report.words import Words, capital, coils, lower_first, share
from engine.units import UNITS
from engine.validity.finding import Finding


@dataclass(frozen=True)
class Said:
    """A finding in words: message, and a hint what to do ('' for none)."""

    message: str
    hint: str = ""

    @property
    def both(self) -> str:
        """Both in one."""
        return f"{self.message} {self.hint}".strip()


_Say = Callable[[Finding, Words], Said]
ICE_AT = {"coil": "on the coil", "suction_line": "on the suction line", "after_spot": "after a spot on the line"}
SETTLE = "Let it run until it is steady, then read again."
FULL_CAPACITY = "Force it to full capacity by the thermostat's or the board's test mode"
STRIPS = "Look at the strips; if they are on, switch them off, let it settle, read again."
PROBES = "Read again at the same spot with the same probe."


def _carried_on(f: Finding, w: Words) -> Said:
    beyond = outside((f.names["name"], f.numbers["value"], f.names["unit"], f.numbers["low"], f.numbers["high"]), w)
    return Said(f"{capital(beyond)}, the range of the published curves: they are carried on, with a wider margin.")


def _fixed(message: str, hint: str = "") -> _Say:
    return lambda finding, words: Said(message, hint)


def _moving(f: Finding, w: Words) -> Said:
    places = dict.fromkeys(place_name(place) for place, _ in f.fields)
    return Said(f"Still moving when held: {', '.join(places)}.", "Hold it until it is steady.")


def _not_settled(f: Finding, w: Words) -> Said:
    return Said(f"Not settled: {f.numbers['minutes']:.0f} of {f.numbers['least_minutes']:.0f} minutes running.", SETTLE)


def _too_cold(f: Finding, w: Words) -> Said:
    text = f"Too cold out to judge the circuit in cooling: {w.temperature(f.numbers['outdoor_f'])}, and the shop's rule is {w.temperature(f.numbers['least_f'], 0)} and up."
    return Said(text, "Take the air side and the statics; come back in warmer weather.")


def _too_warm(f: Finding, w: Words) -> Said:
    outdoor, most = w.temperature(f.numbers["outdoor_f"]), w.temperature(f.numbers["most_f"], 0)
    if "suction_under_f" in f.numbers:
        under = w.difference(f.numbers["suction_under_f"], 0)
        text = f"{outdoor} outdoors would be too warm to judge the circuit in heating, but the suction at the compressor is {under} colder: the outdoor probe reads warm, or hardly any air goes through the outdoor coil."
        return Said(
            text,
            "Look at the coil and its fan; hold the outdoor probe in the shade, in the air that enters the coil, and read it again.",
        )
    text = f"Too warm out to judge the circuit in heating: {outdoor}, and the shop's rule is below {most}."
    return Said(
        text,
        "Hold the outdoor probe in the shade first. Then the air side and the statics; come back in colder weather.",
    )


def _iced(f: Finding, w: Words) -> Said:
    return Said(
        f"There is ice {ICE_AT[f.names['where']]}.", "Compressor off, blower on: thaw it fully, then prove the airflow."
    )


def _humidity_above(f: Finding, w: Words) -> Said:
    humid, dry = w.temperature(f.numbers["humidity_f"]), w.temperature(f.numbers["dry_bulb_f"])
    what = f"{PLACES[f.names['place']]}: {QUANTITIES[f.names['quantity']].label.lower()}"
    return Said(
        f"{what} {humid} is above dry bulb {dry}: that is not possible.", "Are the two swapped? Read both again."
    )


def _saturated(f: Finding, w: Words) -> Said:
    over = w.difference(f.numbers["humidity_f"] - f.numbers["dry_bulb_f"])
    what = f"{PLACES[f.names['place']]}: {QUANTITIES[f.names['quantity']].label.lower()}"
    return Said(f"{what} is {over} above dry bulb, within the probes' accuracy: taken as saturated.")


def _too_low(f: Finding, w: Words) -> Said:
    humid, dry = w.temperature(f.numbers["humidity_f"]), w.temperature(f.numbers["dry_bulb_f"])
    text = f"{PLACES[f.names['place']]}: wet bulb {humid} is too far below dry bulb {dry}. Air cannot be that dry."
    return Said(text, "Is it a dew point? Choose the humidity that was read.")


def _wrong_way(f: Finding, w: Words) -> Said:
    supply, ret = w.temperature(f.numbers["supply_f"]), w.temperature(f.numbers["return_f"])
    above = f.id == "supply_above_return"
    text = f"Supply {supply} is {'above' if above else 'below'} return {ret}: that is not {'cooling' if above else 'heating'}."
    return Said(
        text,
        "Are the probes swapped, is heat on, or does a heat pump run in heating? Read both again."
        if above
        else "Are the probes swapped, or does it run in cooling or defrost? Read both again.",
    )


def _water_wrong_way(f: Finding, w: Words) -> Said:
    entering, leaving = (w.temperature(f.numbers[name]) for name in ("entering_f", "leaving_f"))
    cooler = f.numbers["leaving_f"] < f.numbers["entering_f"]
    mode, other = ("cooling", "heating") if cooler else ("heating", "cooling")
    return Said(
        f"The water enters at {entering} and leaves at {leaving}: that is not {mode}.",
        f"Are the two ports swapped, or does the unit run in {other}? Read both again.",
    )


def _swings(f: Finding, w: Words) -> Said:
    unit = QUANTITIES[f.names["quantity"]].unit
    size = w.difference(f.numbers["swing"]) if unit == "degF" else f"{f.numbers['swing']:.2g} {UNITS[unit].sign}"
    hint = "A suction line that swings is a valve that hunts." if f.names["place"].startswith("suction_line") else ""
    return Said(f"{place_name(f.names['place'])} swings by {size}; the mean is taken.", hint)


def _over_one(f: Finding, w: Words) -> Said:
    return Said(
        "The sensible heat is more than the total: a sensible heat ratio over 1 is not possible.",
        "Read both humidities again, settled in the stream.",
    )


def _better(f: Finding, w: Words) -> Said:
    return Said(
        f"{label(f.names['subject'])} is better than at baseline: dirt never improves a system.", "Read it again."
    )


def _substitute(f: Finding, w: Words) -> Said:
    place, by = (lower_first(PLACES[f.names[name]]) for name in ("place", "by"))
    value = w.value(f.numbers["value_f"], "°F", False)
    is_missing = "is not read yet" if f.names["source"] == STAND_IN else "cannot be read here"
    return Said(
        f"The {place} {is_missing}: {value} is taken, from the {by} and what lies between, "
        f"± {w.difference(f.numbers['u95_f'], 1)}."
    )


def _humidity_taken(f: Finding, w: Words) -> Said:
    place, by = (lower_first(PLACES[f.names[name]]) for name in ("place", "by"))
    value = w.value(f.numbers["value_f"], "°F", False)
    return Said(
        f"No humidity is read at the {place}: the dew point of the {by} is taken, {value}. A duct that does not leak keeps it."
    )


def _restart(f: Finding, w: Words) -> Said:
    minutes = f"{f.numbers['minutes']:.0f} min after the start"
    return Said(
        f"A restart reading, {minutes}: it tells airflow from a coil that is not fed, and nothing more.",
        "Let it settle, then read the whole round.",
    )


_TRUE_SUCTION = "Move the low-side hose to the true-suction port at the compressor."
ON_HOT_GAS = {
    "outdoor": Said(
        "The suction gauge shows a saturation above the outdoor air: in heating the large line outdoors is hot gas. "
        "Nothing is worked out from it.",
        _TRUE_SUCTION,
    ),
    "water_in": Said(
        "The suction gauge shows a saturation above the entering water: it sits on hot gas. Nothing is worked out from it.",
        _TRUE_SUCTION,
    ),
}


def _on_hot_gas(f: Finding, w: Words) -> Said:
    return ON_HOT_GAS[f.names["source"]]


def _other_refrigerant(f: Finding, w: Words) -> Said:
    return Said(
        f"{PLACES[f.names['place']]}: {w.value(f.numbers['psig'], 'psi')} is no pressure of {f.names['refrigerant']} here.",
        "Check the unit, the gauge's zero and the refrigerant on the plate.",
    )


def _refrigerant_not_known(f: Finding, w: Words) -> Said:
    named = f.names["refrigerant"]
    text = f"There are no tables for {named}." if named else "The plate does not name the refrigerant."
    return Said(f"{text} Nothing is worked out from the pressures.", "Enter it from the plate of the outdoor unit.")


def _colder(f: Finding, w: Words) -> Said:
    line, by = place_name(f.names["place"]), w.difference(f.numbers["by_f"])
    return Said(
        f"{line} is {by} colder than what evaporates in it: that is not possible.",
        "Check the clamp, the gauge's zero and the refrigerant on the plate.",
    )


def _warmer(f: Finding, w: Words) -> Said:
    line, by = place_name(f.names["place"]), w.difference(f.numbers["by_f"])
    return Said(
        f"{line} is {by} warmer than what condenses: no liquid is.",
        "The clamp may sit on hot gas. Check it, the gauge's zero and the refrigerant on the plate.",
    )


def _compressor_off(f: Finding, w: Words) -> Said:
    return Said(
        f"The compressor draws {f.numbers['amps']:.1f} A: it does not run.",
        "Clamp one lead alone and look again. If it does not run: is it called for, is the contactor in, has a pressure or "
        "overload switch opened, is the capacitor good? Pull the disconnect and verify it dead before hands go in.",
    )


def _no_heat(f: Finding, w: Words) -> Said:
    by = w.difference(abs(f.numbers["off_f"]), 1)
    return Said(
        f"The air changes by only {by} at the unit{', and outdoors no heat is given off' if f.names['mode'] == 'cooling' else ''}.",
        "See first whether the compressor runs: read its amps.",
    )


def _below_outdoor(f: Finding, w: Words) -> Said:
    text = f"The liquid line is {w.difference(f.numbers['below_f'])} below outdoor air: at the condenser that is not possible."
    return Said(text, "Doubt the probes first, then look for a restriction upstream of the clamp.")


def _inlet_hot(f: Finding, w: Words) -> Said:
    line, limit = w.temperature(f.numbers["line_f"], 0), w.temperature(f.numbers["limit_f"], 0)
    return Said(
        f"Suction enters the compressor at {line}: above {limit} it overheats.",
        "Little flow, or a bare suction line: compare it along its way.",
    )


def _heat_inside(f: Finding, w: Words) -> Said:
    warm = w.difference(f.numbers["warm_f"])
    text = f"The plenum is {warm} warm and as dry as it should be: heat is added inside the unit"
    if f.names["fed"]:
        return Said(f"{text}. The suction line says that the coil is fed.")
    return Said(f"{text}, or the coil is not fed enough.", "The suction line at the coil tells which.")


def _ledger(f: Finding, w: Words) -> Said:
    wrong, humidities = "The heat ledger does not close: a reading is wrong", "airflow and both humidities"
    return {
        "given_out": Said(
            f"{wrong}.",
            f"Read the air before and after the condenser again, with one probe in the shade; then {humidities}.",
        ),
        "air": Said(f"{wrong}.", f"Read {humidities} again: most that is wrong is there."),
        "strips": Said(f"{wrong}, or heat is added inside the unit.", "Look whether the strips are off."),
    }[f.names["doubted"]]


def _flow_static(f: Finding, w: Words) -> Said:
    flow, should, static = (share(abs(f.numbers[n] - 1.0)) for n in ("flow_share", "should_share", "static_share"))
    moved = "rose" if f.numbers["flow_share"] >= 1 else "fell"
    by = "rose" if f.numbers["static_share"] >= 1 else "fell"
    text = f"Airflow {moved} by {flow}, so the supply static should have {'risen' if moved == 'rose' else 'fallen'} by about {should}; it {by} by {static}."
    return Said(text, "One of the two was read in another way: read both again.")


def _moved(f: Finding, w: Words) -> Said:
    spots = f"{f.names['before'] or 'not named'}, then {f.names['after'] or 'not named'}"
    return Said(
        f"{PLACES[f.names['place']]}: the probe was moved between the rounds ({spots}). The two cannot be compared.",
        PROBES,
    )


def _changed(f: Finding, w: Words) -> Said:
    change = w.difference(f.numbers["change_f"])
    return Said(
        f"{PLACES[f.names['place']]}: another probe was used, and a change of {change} is within the two probes' difference.",
        PROBES,
    )


def _left_out(f: Finding, w: Words) -> Said:
    what = QUANTITIES[f.names["quantity"]]
    value, low, high = (figure_of(what.id, f.numbers[n], w) for n in ("value", "low", "high"))
    return Said(
        f"{place_name(f.names['place'])}: {what.label.lower()} {value} is left out. It can be {low} to {high}.",
        "Read it again.",
    )


def _not_known(f: Finding, w: Words) -> Said:
    return Said(
        f"A reading is left out: '{f.names['quantity']}' at '{f.names['place']}', read in a way that is not known."
    )


BY_ID: dict[str, _Say] = {
    "reading_left_out": _left_out, "reading_not_known": _not_known,
    "still_moving": _moving, "running_not_entered": _fixed("Nobody entered how long the system has been running.", SETTLE), "not_settled": _not_settled,
    "restart_reading": _restart,
    "too_cold_out": _too_cold, "too_warm_out": _too_warm, "strips_not_seen": _fixed("Nobody entered whether the strips are off.", STRIPS),
    "capacity_not_seen": _fixed("Nobody entered whether it runs at full capacity.", f"{FULL_CAPACITY}, and enter it under Settle."),
    "part_capacity": _fixed("It runs at part of its capacity: what is expected is expected at full.", f"{FULL_CAPACITY}, let it settle, read again."),
    "strips_on": _fixed("The strips are on: they warm the air past the coil.", STRIPS), "iced": _iced,
    "condenser_wet": _fixed("The condenser coil is wet: no test in rain or just after washing.", "Wait until the coil is dry and it has settled again."),
    "panel_off": _fixed("A panel is off: the blower moves more air and draws more amps.", "Put the panel on, let it settle, read again."),
    "outdoor_coil_iced": _fixed("The outdoor coil is iced: that voids a heating test.", "Let it defrost and run 10 minutes more."),
    "outdoor_coil_defrosting": _fixed("The outdoor coil is defrosting: that voids a heating test.", "Let it defrost and run 10 minutes more."),
    "humidity_above_dry_bulb": _humidity_above, "taken_as_saturated": _saturated, "wet_bulb_too_low": _too_low, "supply_above_return": _wrong_way,
    "supply_below_return": _wrong_way,
    "pair_not_one_probe": _fixed("Return and supply were not read with one named probe, so its offset does not cancel.", "Read both with the same probe: the split gets sharper."),
    "swings": _swings, "water_wrong_way": _water_wrong_way,
    "moisture_gained": _fixed("The supply carries more water than the return: a cooling coil does not add water.", "Let the humidity sensor settle in the stream 2 to 3 minutes and read it again."),
    "dry_coil_takes_water": _fixed("The coil was seen dry, but the supply carries less water than the return.", "Look again, or read both humidities again."),
    "sensible_share_over_one": _over_one, "curves_carried_on": _carried_on, "coil_dry": _fixed("The coil takes no water out of this air: it is dry."), "better_than_baseline": _better,
    "compressor_off": _compressor_off, "no_heat_moved": _no_heat,
    "liquid_below_outdoor": _below_outdoor, "gauge_on_hot_gas": _on_hot_gas, "not_of_this_refrigerant": _other_refrigerant, "refrigerant_not_known": _refrigerant_not_known,
    "colder_than_evaporating": _colder, "warmer_than_condensing": _warmer,
    "gauges_swapped": _fixed("The low side reads more than the high side: the machine is off, or the hoses are swapped.", "Trace each hose to its port, let it run, read again."), "substitute_taken": _substitute, "humidity_taken": _humidity_taken, "compressor_inlet_hot": _inlet_hot, "heat_added_inside": _heat_inside,
    "ledger_open": _ledger,
    "airflow_against_static": _flow_static, "probe_moved": _moved, "probe_changed": _changed,
}  # fmt: skip
# What is left to do where no circuit can be judged in the weather there is.
COME_BACK = {"too_cold_out": "Come back in warmer weather.", "too_warm_out": "Come back in colder weather."}
# What keeps a round from being the baseline, and what would cure it.
OBSTACLES = {
    "condenser_wet": Said("The condenser coil is wet.", "No baseline in rain or just after washing: wait until it is dry, and settle."),
    "condenser_not_seen": Said("Nobody entered whether the condenser coil is dry.", "Look at it."),
    "panel_off": Said("A panel is off: the blower moves more air and draws more amps than it will.", "Put it on, settle and read again."),
    "panel_not_seen": Said("Nobody entered whether the panels are on.", "Enter it under Settle."),
    "strips_not_seen": Said("Nobody entered whether the strips are off.", "Enter it under Settle."),
    "capacity_not_seen": Said("Nobody entered whether it runs at full capacity.", "Enter it under Settle."),
    "unsettled": Said("It has not settled.", "Let it run, and read again."),
    "liquid_at_outdoor": Said("The liquid line is at or below outdoor air.", "Doubt the probes, then look for a restriction."),
    "contradictions": Said("Readings contradict each other.", "Read again what is marked."),
    "test_void": Said("Ice, defrost, strip heat or part capacity voids the test.", "Clear it, settle and read again."),
    "no_statics": Said("No static pressures.", "Read both sides: never leave without them."),
    "other_weather": Said("In this weather no circuit is judged.", "Come back in weather for this mode."),
    "air_not_read": Said("The air at the unit is not all read.", "Read return and supply dry bulb, and the return's humidity."),
    "outdoor_not_read": Said("The outdoor air is not read: the weather service is a weak stand-in.", "Read it in the shade, in the air entering the condenser."),
    "no_pressures": Said("No pressures: a baseline taken at commissioning or a first visit has them.", "Connect gauges once all else is read, or enter why it is not possible."),
    "fault_likelier": Said("A fault is likelier than a sound machine.", "Find it, mend it, settle and read again."),
    "not_told_sound": Said("The verdict does not say that this machine is sound.", "Read what it asks for next."),
}  # fmt: skip


def said(finding: Finding, words: Words) -> Said:
    """A finding in words."""
    return BY_ID[finding.id](finding, words)


# What was seen bad, as a statement; {inside}, {outside}: what the coils are called in this mode.
SEEN = {
    ("filter", "loaded"): "The filter is loaded", ("filter", "blocked"): "The filter is blocked", ("filter", "restrictive"): "The filter is a restrictive type",
    ("registers", "closed"): "Some registers are closed", ("panels", "off"): "A panel is off", ("strip_heat", "on"): "The strips are on",
    ("ducts", "kinked"): "A duct is kinked", ("ducts", "collapsed"): "A duct has collapsed", ("ducts", "open"): "A duct has come apart",
    ("blower_speed", "changed"): "The blower speed was changed", ("blower_speed", "drive_added"): "A speed drive was added",
    ("evaporator_face", "dirty"): "The {inside} is dirty", ("evaporator_face", "covered"): "Something covers the {inside}", ("blower_wheel", "dirty"): "The blower wheel is dirty",
    ("strainer", "plugged"): "The water strainer is plugged", ("loop_pump", "noisy"): "There is air in the loop pump", ("loop_pump", "stopped"): "A loop pump is not running",
    ("outdoor_coil_fed", "part"): "Part of the outdoor coil stays warm",
    ("condenser_coil", "matted"): "The {outside} is matted", ("outdoor_fan_blade", "wrong"): "The outdoor fan has the wrong part", ("outdoor_fan_blade", "slow"): "The outdoor fan is slow",
    ("outdoor_fan_blade", "stopped"): "The outdoor fan has stopped", ("service_valves", "not_open"): "A service valve is not fully open", ("caps", "loose"): "A cap is loose",
    ("caps", "missing"): "A cap is missing", ("ice", "coil"): "There is ice on the coil", ("ice", "suction_line"): "There is ice on the suction line",
    ("ice", "after_spot"): "Ice starts after a spot on the line",
}  # fmt: skip


def seen_said(what: str, degree: str, mode: str) -> str:
    """What was seen bad, as a statement without a full stop: 'The filter is blocked'."""
    text = SEEN.get((what, degree), sight_said(what, degree, mode))
    return text.format(**coils(mode))


def sight_said(what: str, degree: str, mode: str) -> str:
    """A look in words: 'Filter: blocked'."""
    return f"{SIGHTS[what].label_in(mode)}: {SIGHTS[what].degrees[degree].lower()}"
