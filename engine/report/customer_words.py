"""A visit in words for who lives in the house: what was wrong, what was done, what it does now. No trade words, nothing
that frightens, nothing that sells.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from engine.diagnosis.cause import HEALTHY
from engine.diagnosis.verdict import CANNOT_TELL, CAUSE, DOES_NOT_COUNT, GROUP, SOUND, STOP_FIRST

# fmt: off
# By cause, then by group: what was wrong.
WRONG = {
    "blocked_filter": "The air filter was clogged, so too little air came through.",
    "dirty_evaporator": "The cooling coil indoors was dirty, so too little air came through it.",
    "tight_ducts": "The air ducts let too little air through.",
    "low_blower": "The indoor fan moved too little air.",
    "return_leak": "The system drew in hot air from outside your rooms.",
    "return_gain": "The air warmed up on its way back to the unit.",
    "supply_gain": "The cooled air warmed up on its way to the rooms.",
    "reheat": "Something warmed the cooled air again on its way to the rooms.",
    "outdoor_coil": "The outdoor unit was iced over or dirty.",
    "dirty_condenser": "The outdoor unit was dirty and could not give its heat off well.",
    "weak_condenser_fan": "The fan of the outdoor unit moved too little air.",
    "undercharge": "The sealed circuit had lost some of its refrigerant.",
    "overcharge": "There was more refrigerant in the sealed circuit than it needs.",
    "low_water_flow": "Too little water came through the unit.",
    "fouled_exchanger": "The water side of the unit was coated inside and passed too little heat.",
    "weak_compressor": "The compressor, the pump of the sealed circuit, was weak.",
    "restriction_outdoors": "Something held the refrigerant up inside the outdoor unit.",
    "restriction": "Something held the refrigerant up in the sealed circuit.",
    "starving_valve": "A valve in the sealed circuit let too little refrigerant through.",
    "overfeeding": "A valve in the sealed circuit let too much refrigerant through.",
    "low_airflow": "Too little air came through the system.",
    "high_airflow": "More air came through the system than it needs, so it dried the house too little.",
    "charge_low": "The sealed circuit had lost some of its refrigerant.",
    "charge_high": "There was more refrigerant in the sealed circuit than it needs.",
    "starved": "The cooling coil got too little refrigerant.",
    "overfed": "The cooling coil got too much refrigerant.",
    "condenser": "The outdoor unit could not give its heat off well.",
    "water_flow": "The water flow was not what it should be.",
    "exchanger": "The water side of the unit passed too little heat.",
    "heat_on": "A heater ran while the system cooled.",
    "return_duct": "The air warmed up or cooled off on its way back to the unit.",
    "supply_duct": "The air warmed up or cooled off on its way to the rooms.",
    "suction_line": "One of the pipes between the units picked up heat on its way.",
    "compressor": "The compressor, the pump of the sealed circuit, was weak.",
    "plate": "The machine is not the one its label says.",
}
# What is otherwise where the system was tested in heating: the coils have changed places, and cold is what harms.
WRONG_IN_HEATING = {
    "dirty_evaporator": "The coil indoors was dirty, so too little air came through it.",
    "return_leak": "The system drew in cold air from outside your rooms.",
    "return_gain": "The air cooled off on its way back to the unit.",
    "supply_gain": "The warm air cooled off on its way to the rooms.",
    "high_airflow": "More air came through the system than it needs, so it came out cool.",
    "starved": "The coil outdoors got too little refrigerant.",
    "overfed": "The coil outdoors got too much refrigerant.",
    "condenser": "The coil indoors could not give its heat off well.",
    "heat_on": "An extra heater ran while the system was tested.",
}
PROBE = "probe"
NOT_SURE = "The system did less than it should, and one more look has to show why."
DONE = {
    "filter_changed": "put in a new air filter", "registers_opened": "opened the closed air outlets", "panel_on": "closed the unit again",
    "strips_off": "switched the heater off", "duct_straightened": "straightened an air duct", "return_sealed": "sealed an air duct",
    "blower_speed_set": "set the speed of the indoor fan", "evaporator_cleaned": "cleaned the coil indoors", "blower_wheel_cleaned": "cleaned the indoor fan",
    "condenser_washed": "washed the outdoor unit", "fan_mended": "mended the fan of the outdoor unit", "strainer_cleaned": "cleaned the water strainer",
    "loop_purged": "let the air out of the water loop", "water_coil_flushed": "flushed the water side of the unit", "service_valves_opened": "opened two valves fully",
    "caps_tightened": "put tight caps on the service valves", "thawed": "thawed the ice", "duct_insulated": "insulated an air duct", "suction_line_insulated": "insulated a pipe",
    "wiring_mended": "mended the wiring",
    "compressor_changed": "put in a new compressor", "coil_changed": "put in a new coil", "metering_device_changed": "put in a new valve",
    "leak_repaired": "repaired a leak", "blower_changed": "put in a new indoor fan", "ducts_changed": "changed the air ducts",
    "charge_added": "filled refrigerant up, by weight", "charge_recovered": "took refrigerant out, by weight",
}
# fmt: on
# By cause: what to keep an eye on, in the house.
WATCH = {
    "blocked_filter": "Look at the filter each month while it runs much, and change it when it is gray.",
    "dirty_condenser": "Keep grass, leaves and lint off the outdoor unit.",
    "outdoor_coil": "Keep snow, leaves and grass off the outdoor unit.",
    "tight_ducts": "Leave the air outlets in the rooms open.",
    "low_airflow": "Leave the air outlets open and the filter clean.",
    "charge_low": "Call us if it does less than now.",
}
LEAK = {
    "repaired": "We found where it leaked and repaired it.",
    "none": "We looked for a leak and found none that day.",
}


@dataclass(frozen=True)
class Round:
    """One round as it matters here: its verdict's state, group and cause, and the share of the cooling or heating it
    should give today that it gave, None where it was not measured.
    """

    state: str
    group: str = ""
    cause: str = ""
    share: float | None = None


@dataclass(frozen=True)
class Told:
    """The page's sentences: what was wrong, what was done, what it does now, what to watch; '' where there is nothing
    to say. before, after: share of what it should give that it gave [%], None where it was not measured twice.
    """

    wrong: str
    done: str
    now: str
    watch: str
    before: int | None = None
    after: int | None = None


def told_to_customer(rounds: Sequence[Round], done: Sequence[str], heating: bool, leak: str = "") -> Told:
    """A visit in plain words. rounds: all that tell something, in order; done: actions by id; heating: whether it was
    tested in heating; leak: what came of looking for one, 'repaired', 'none' or ''.
    """
    if not rounds:
        return Told("", _done(done), "Nothing was measured at this visit.", "")
    first, last = rounds[0], rounds[-1]
    said_of_leak = LEAK.get(leak, "")
    done_said = f"{_done(done)} {said_of_leak}".strip()
    told = Told(
        _wrong(first, heating),
        done_said,
        _now(first, last, heating),
        WATCH.get(first.cause) or WATCH.get(first.group, ""),
    )
    if first is last or first.share is None or last.share is None:
        return told
    return replace(told, before=_percent(first.share), after=_percent(last.share))


def _percent(share: float) -> int:
    """As a customer reads it: in steps of five, at most all of it."""
    return min(5 * round(20.0 * share), 100)


def _wrong(first: Round, heating: bool) -> str:
    if first.state == SOUND or first.group == HEALTHY:
        return "Nothing was wrong."
    if first.group == PROBE:  # of our instruments, not of the system
        return ""
    if first.state in (CAUSE, GROUP, STOP_FIRST):
        known = WRONG | WRONG_IN_HEATING if heating else WRONG
        return known.get(first.cause) or known.get(first.group) or NOT_SURE
    return "" if first.state == DOES_NOT_COUNT else NOT_SURE if first.state == CANNOT_TELL and _is_short(first) else ""


def _done(done: Sequence[str]) -> str:
    said = [DONE[id_] for id_ in dict.fromkeys(done) if id_ in DONE]
    if not said:
        return "We measured how the system runs. Nothing had to be changed."
    listed = said[0] if len(said) == 1 else f"{', '.join(said[:-1])} and {said[-1]}"
    return f"We {listed}."


def _now(first: Round, last: Round, heating: bool) -> str:
    does = "heats" if heating else "cools"
    if last.state == SOUND:
        return f"It {does} as it should for a day like this."
    if last.state in (DOES_NOT_COUNT, CANNOT_TELL):
        return "How well it runs can only be said after one more measurement."
    if last is not first and _share(last) > _share(first) + 0.05:
        return f"It {does} better than before, and there is something left to do."
    return f"It runs, and {does} less than it should until that is done."


def _is_short(of: Round) -> bool:
    return of.share is not None and of.share < 0.9


def _share(of: Round) -> float:
    return of.share or 0.0
