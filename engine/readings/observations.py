"""What is asked, seen and heard, in degrees: evidence like any reading, and often the strongest.

Each: a permanent id, what to call it, its degrees in order, when in the visit it is asked, in which modes and on what
equipment.
"""

from dataclasses import dataclass
from typing import Protocol

from engine.readings.vocabulary import AIR_HANDLER, TWO_STAGE, VARIABLE_SPEED

COMPLAINT, CONDITION, INSIDE, OUTSIDE, TESTS = "complaint", "condition", "inside", "outside", "tests"
THAWED = "thawed"  # asked only after a thaw
ALL_MODES = ("cooling", "heating")


@dataclass(frozen=True)
class Sight:
    """One thing to ask, see or hear. group: when. kinds: the equipment it can be seen on, () for all. look: where to
    look, in a few words.

    heating_label: what to call it in heating, where the coils have changed places. unit: the indoor unit it can be seen
    on, '' for any. stages: the compressors it is asked of, () for any.
    """

    id: str
    label: str
    degrees: dict[str, str]
    group: str
    look: str = ""
    modes: tuple[str, ...] = ALL_MODES
    kinds: tuple[str, ...] = ()
    heating_label: str = ""
    unit: str = ""
    stages: tuple[str, ...] = ()

    def label_in(self, mode: str) -> str:
        """What to call it in this mode."""
        return self.heating_label if mode == "heating" and self.heating_label else self.label


YES_NO = {"no": "No", "yes": "Yes"}
AIR_SOURCE = ("air_conditioner", "heat_pump")
STAGED = (TWO_STAGE, VARIABLE_SPEED)
# One entry a line or two: a table.
# fmt: off
SIGHTS = (
    Sight("visit_kind", "Kind of visit", {"commissioning": "Commissioning", "first": "First visit", "maintenance": "Maintenance", "service": "Service call", "recheck": "Re-check"}, COMPLAINT),
    Sight("complaint_where", "Where", {"none": "No complaint", "whole_house": "Whole house", "some_rooms": "Some rooms"}, COMPLAINT),
    Sight("complaint_feel", "How it feels", {"warm": "Warm", "humid": "Humid", "both": "Both", "cold": "Cold"}, COMPLAINT),
    Sight("complaint_hour", "What time of day", {"morning": "Morning", "afternoon": "Afternoon", "evening": "Evening", "night": "Night", "all_day": "All day"}, COMPLAINT),
    Sight("iced", "Iced up before", YES_NO, COMPLAINT),
    Sight("tripped", "Tripped or stopped", YES_NO, COMPLAINT),
    Sight("recent_work", "Recent work by others", {"none": "None", "charge_added": "Charge added", "part_changed": "Part changed", "cleaned": "Cleaned", "unknown": "Not known"}, COMPLAINT),
    Sight("mode", "Tested in", {"cooling": "Cooling", "heating": "Heating"}, CONDITION, "by the weather, unless you say otherwise", kinds=("heat_pump", "ground_source")),
    Sight("runs_at", "Runs at", {"full": "Full capacity", "part": "Part of it"}, CONDITION, "forced by the thermostat's or the board's test mode", stages=STAGED),
    Sight("strip_heat", "Strip heat", {"off": "Off", "on": "On", "none": "None fitted"}, CONDITION, "at its breaker or by its amps", unit=AIR_HANDLER),
    Sight("panels", "Panels", {"on": "On", "off": "One off"}, CONDITION, "with one off the blower moves more air"),
    Sight("coil", "Coil surface", {"wet": "Wet", "dry": "Dry"}, CONDITION, "condensate running means wet", modes=("cooling",)),
    Sight("zeroed", "Instruments zeroed", {"done": "Done", "not_done": "Not done"}, CONDITION, "manometer, needle; clamps and probes side by side"),
    Sight("filter", "Filter", {"clean": "Clean", "loaded": "Loaded", "blocked": "Blocked", "restrictive": "Restrictive type"}, INSIDE, "pull it out, hold it to the light"),
    Sight("evaporator_face", "Evaporator face", {"clean": "Clean", "dirty": "Dirty", "covered": "Covered by a liner or a bag", "not_seen": "Not seen"}, INSIDE, "with a mirror, upstream side", heating_label="Indoor coil's face"),
    Sight("blower_wheel", "Blower wheel", {"clean": "Clean", "dirty": "Dirty", "not_seen": "Not seen"}, INSIDE, "between the blades"),
    Sight("ducts", "Ducts", {"sound": "Sound", "kinked": "Kinked", "collapsed": "Collapsed", "open": "Come apart"}, INSIDE, "along their run in the attic"),
    Sight("registers", "Registers", {"open": "Open", "closed": "Some closed"}, INSIDE, "every room"),
    Sight("blower_speed", "Blower speed", {"as_listed": "As listed", "changed": "Changed", "drive_added": "Drive added"}, INSIDE, "the tap or the switches on the board"),
    Sight("condensate", "Condensate", {"running": "Running", "dry": "None", "backed_up": "Backed up"}, INSIDE, "at the drain", modes=("cooling",)),
    Sight("ice", "Ice or frost", {"none": "None", "coil": "On the coil", "suction_line": "On the suction line", "after_spot": "Starts after a spot"}, INSIDE, "where does the frost start?", modes=("cooling",)),
    Sight("strainer", "Water strainer", {"clean": "Clean", "plugged": "Plugged", "none": "None fitted"}, INSIDE, "before the unit's entering port", kinds=("ground_source",)),
    Sight("loop_pump", "Loop pump", {"quiet": "Running, quiet", "noisy": "Noisy, air in it", "stopped": "Not running"}, INSIDE, "each pump by itself", kinds=("ground_source",)),
    Sight("liquid_line_noise", "Liquid line", {"quiet": "Quiet", "flash": "Flash noise"}, INSIDE, "an ear at the metering device", kinds=AIR_SOURCE),
    Sight("condenser_coil", "Condenser coil", {"dry": "Clean, dry", "wet": "Wet", "matted": "Matted"}, OUTSIDE, "grass, lint, between the fins", kinds=AIR_SOURCE, heating_label="Outdoor coil's fins"),
    Sight("outdoor_coil", "Outdoor coil", {"clear": "Clear", "iced": "Iced", "defrosting": "Defrosting"}, OUTSIDE, "all sides", modes=("heating",), kinds=("heat_pump",)),
    Sight("outdoor_coil_fed", "Outdoor coil in a thermal picture", {"even": "Cold all over", "part": "Part stays warm"}, OUTSIDE, "dry bands beyond what its circuits explain", modes=("heating",), kinds=("heat_pump",)),
    Sight("outdoor_fan_blade", "Fan blade and motor", {"right": "Right and running", "wrong": "Wrong part", "slow": "Slow", "stopped": "Stopped"}, OUTSIDE, "part numbers against the plate", kinds=AIR_SOURCE),
    Sight("service_valves", "Service valves", {"open": "Fully open", "not_open": "Not fully open"}, OUTSIDE, "back-seated"),
    Sight("caps", "Caps", {"on": "On, tight", "loose": "Loose", "missing": "Missing"}, OUTSIDE, "the usual leak"),
    Sight("oil_stains", "Oil stains", {"none": "None", "seen": "Seen"}, OUTSIDE, "joints, cores, the coil's bends"),
    Sight("sight_glass", "Sight glass", {"clear": "Clear", "bubbles": "Bubbles", "none": "None fitted"}, OUTSIDE, "once settled", kinds=AIR_SOURCE),
    Sight("suction_sweating", "Suction line", {"sweating": "Sweating", "dry": "Dry", "warm": "Warm to the hand"}, OUTSIDE, "a sign, not a measurement", modes=("cooling",), kinds=AIR_SOURCE),
    Sight("suction_insulation", "Suction line's insulation", {"whole": "Whole", "bare": "Bare or torn"}, OUTSIDE, "along its whole run", modes=("cooling",), kinds=AIR_SOURCE),
    Sight("restart", "After the thaw", {"reading": "First minutes: a restart reading", "settled": "It has settled"}, THAWED, "read at once, it tells air from feed, and nothing more", modes=("cooling",)),
    Sight("valve_bulb", "TXV's bulb warmed", {"answers": "Suction answers", "no_answer": "No answer"}, TESTS, "in the hand; watch the suction line"),
    Sight("probes_together", "Probes side by side", {"agree": "Agree", "differ": "Differ"}, TESTS, "one place, same minutes; clamps on one line"),
    Sight("outdoor_shaded", "Outdoor probe shaded", {"stayed": "Reads the same", "fell": "Reads lower"}, TESTS, "a hand's width off hot metal", kinds=AIR_SOURCE),
    Sight("house_loaded", "House loaded, read again", {"came_right": "Came right", "stayed": "As before"}, TESTS, "heat or moisture added, settled", modes=("cooling",)),
    Sight("drier", "Drier", {"seen": "Seen", "hidden": "Hidden in the outdoor unit", "none": "None"}, OUTSIDE, "a spot that may restrict", kinds=AIR_SOURCE),
)
# fmt: on
BY_ID = {sight.id: sight for sight in SIGHTS}
OBSERVATIONS = {sight.id: sight.degrees for sight in SIGHTS}


class Machine(Protocol):
    """What of a plate decides what there is to see: kind, indoor unit, and the stages of its compressor."""

    @property
    def kind(self) -> str: ...
    @property
    def unit(self) -> str: ...
    @property
    def stages(self) -> str: ...


def sights(group: str, machine: Machine, mode: str) -> tuple[Sight, ...]:
    """What is asked or looked at in a group, on this machine in this mode."""
    there = (s for s in SIGHTS if (not s.kinds or machine.kind in s.kinds) and s.unit in ("", machine.unit))
    asked = (s for s in there if not s.stages or machine.stages in s.stages)
    return tuple(s for s in asked if s.group == group and mode in s.modes)
