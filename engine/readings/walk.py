"""The walk: where a reading is taken, in the order of the walk, inside then outside, for this equipment and mode.

A stop is one place to stand with one instrument; a spot on the drawing belongs to it. Everything here is data with the
field's own words.
"""

from dataclasses import dataclass, replace
from functools import cache

from engine.houserules.rules import INSIDE_FIRST, OUTDOOR_AIR_FIRST, OUTSIDE_FIRST
from engine.readings.vocabulary import GROUND_SOURCE, QUANTITIES, ROOM

INSIDE, OUTSIDE = "inside", "outside"
AIR_SOURCE = ("air_conditioner", "heat_pump")
HEAT_PUMPS = ("heat_pump", GROUND_SOURCE)
# What a stop's readings answer: always wanted, the airflow, the charge, the ducts, the electrical side, the pressures,
# what the compressor makes of its vapor.
AIR, AIRFLOW, CHARGE, DUCTS, ELECTRICAL, GAUGES = "air", "airflow", "charge", "ducts", "electrical", "gauges"
COMPRESSION = "compression"


@dataclass(frozen=True)
class Slot:
    """One field of a stop: place, quantity, and which of several (a leg, an airflow method, a traverse point), '' for
    the only one.
    """

    place: str
    quantity: str
    variant: str = ""
    label: str = ""

    @property
    def name(self) -> str:
        """The field's name: 'compressor.current@1'."""
        return f"{self.place}.{self.quantity}" + (f"@{self.variant}" if self.variant else "")

    @property
    def words(self) -> str:
        """What to call it."""
        return self.label or QUANTITIES[self.quantity].label


@dataclass(frozen=True)
class Stop:
    """One stop. where: exactly where the probe goes; mistakes: made there; instrument: its kind; question: what it is
    needed for.
    """

    id: str
    name: str
    side: str
    where: str
    mistakes: tuple[str, ...]
    slots: tuple[Slot, ...]
    instrument: str
    question: str
    spots: tuple[str, ...]  # places on the drawing that lead here
    cautions: tuple[str, ...] = ()
    modes: tuple[str, ...] = ("cooling", "heating")
    kinds: tuple[str, ...] = ()  # () for all
    number: int = 0


HUMIDITY = ("rh", "wet_bulb", "dew_point")
LEGS = ("1", "2")


def _air(place: str) -> tuple[Slot, ...]:
    return tuple(Slot(place, quantity) for quantity in ("dry_bulb", *HUMIDITY))


def _electrical(place: str) -> tuple[Slot, ...]:
    legs = [
        slot
        for leg in LEGS
        for slot in (
            Slot(place, "voltage", leg, f"Volts, leg {leg} to ground"),
            Slot(place, "current", leg, f"Amps, leg {leg}"),
        )
    ]
    return (*legs, Slot(place, "power_factor"), Slot(place, "power", label="Watts, if metered"))


AIRFLOW_METHODS = (
    ("flow_device", "Flow device"), ("blower_table", "Blower table, read off"), ("traverse", "Traverse, worked out elsewhere"), ("nominal_guess", "Guess, 400 per ton"),
)  # fmt: skip
TRAVERSE_POINTS = 9

# One stop a few lines: a table in the order of the walk.
# fmt: off
STOPS = (
    Stop("return_grille", "Return grille", INSIDE, "In the stream, a hand off the grille.",
         ("Resting on the grille it reads the metal.", "A lamp or the sun on it."), _air("return_grille"), "air_probe", DUCTS, ("return_grille",)),
    Stop("return_unit", "Return at the unit", INSIDE, "In the stream just before the filter, 2 to 3 minutes.",
         ("Relative humidity belongs to its own dry bulb: look at the dew point beside it.", "Return and supply not read together: the house moves meanwhile."),
         _air("return_unit"), "air_probe", AIR, ("return_unit",), ("attic",)),
    Stop("supply_plenum", "Supply plenum", INSIDE, "Two feet past the coil, out of its sight, middle of the stream.",
         ("Coil or strips in view: it reads their radiation.", "Humidity read before it settled.", "Another probe than at the return: its offset stays in the split."),
         _air("supply_plenum"), "air_probe", AIR, ("supply_plenum",), ("drilling", "attic")),
    Stop("supply_register", "Near register", INSIDE, "In the stream of the register nearest the unit.",
         ("Held at the edge it draws in room air.",), _air("supply_register"), "air_probe", DUCTS, ("supply_register",)),
    Stop("statics", "Statics", INSIDE, "Return side before the unit, supply side after it; tip into the stream.",
         ("The coil counted as external on an air handler, or left out on a furnace.", "The manometer not zeroed.", "A hole on a bend."),
         (Slot("return_plenum", "static_pressure", label="Return side"), Slot("supply_plenum", "static_pressure", label="Supply side")), "manometer", AIRFLOW,
         ("return_plenum", "supply_static"), ("drilling",)),
    Stop("filter", "Filter drop", INSIDE, "One tip on each side of the filter.", ("The filter door open.",),
         (Slot("filter", "pressure_drop"),), "manometer", AIRFLOW, ("filter",)),
    Stop("coil", "Coil drop", INSIDE, "One tip on each side of the coil.", ("Wet compared with dry.", "The tip against the coil."),
         (Slot("coil", "pressure_drop"),), "manometer", AIRFLOW, ("coil",), ("drilling",)),
    Stop("blower", "Blower and airflow", INSIDE, "Clamp round one blower lead, panels on.", ("A panel off: more air, more amps.", "A guess taken for a measurement."),
         (*(Slot("blower", "airflow", method, label) for method, label in AIRFLOW_METHODS), Slot("blower", "voltage", label="Volts across its leads"), Slot("blower", "current"),
          Slot("blower", "power_factor", label="Power factor, if metered"), Slot("blower", "power", label="Watts, if metered")),
         "amp_clamp", AIRFLOW, ("blower",), ("rotating", "disconnect")),
    Stop("traverse", "Traverse", INSIDE, "Points of equal area over the grille or across the duct.", ("Gross area taken for free area.", "Too few points."),
         (*(Slot("traverse", "velocity", str(n), f"Point {n}") for n in range(1, TRAVERSE_POINTS + 1)), Slot("traverse", "gross_area"), Slot("traverse", "free_area")),
         "vane", AIRFLOW, ()),
    Stop("strips", "Temperature rise, strips", INSIDE, "Strips on by themselves, compressor off; both probes out of their sight.",
         ("Rise read with the strips in view.", "Volts and amps from the plate."),
         (Slot("strips", "voltage"), Slot("strips", "current"), Slot("strips", "temperature_rise")), "amp_clamp", AIRFLOW, (), ("disconnect",)),
    Stop("furnace", "Temperature rise, gas", INSIDE, "Burner at full fire; both probes out of sight of the exchanger.", ("Input from the plate: clock the meter.",),
         (Slot("furnace", "gas_input"), Slot("furnace", "efficiency"), Slot("furnace", "temperature_rise")), "air_probe", AIRFLOW, (), ("gas",)),
    Stop("suction_line_indoor", "Suction line at the coil", INSIDE, "On clean bare copper at the coil's outlet, insulation pulled back and re-covered.",
         ("Clamped over paint or insulation.", "Beside the liquid line."), (Slot("suction_line_indoor", "temperature"),), "line_clamp", CHARGE, ("suction_line_indoor",), modes=("cooling",)),
    Stop("liquid_line_indoor", "Liquid line indoors", INSIDE, "On clean bare copper: in cooling just before the metering device, in heating where the liquid leaves the indoor coil.",
         ("The wrong line: it is the thin one.",), (Slot("liquid_line_indoor", "temperature"),), "line_clamp", CHARGE, ("liquid_line_indoor",)),
    Stop("attic", "Attic", INSIDE, "In the air beside the return duct, off the joists.", ("Under the hot roof deck.",), _air("attic"), "air_probe", DUCTS, ("attic",), ("attic", "ladder")),
    Stop("loop", "Loop water", INSIDE, "Digital probe in the ports, thin needle, water-based lubricant; the same gauge moved from one port to the other. Where the unit shows its own figures, compare.",
         ("Two gauges: 1 psi ruins the flow.", "Petroleum on the port's seal.", "Entering and leaving changed over."),
         (Slot("water_in", "temperature", label="Entering water"), Slot("water_out", "temperature", label="Leaving water"),
          Slot("water_in", "pressure", label="Pressure, entering port"), Slot("water_out", "pressure", label="Pressure, leaving port"),
          Slot("water_loop", "water_drop", label="Or the drop between them"), Slot("water_loop", "flow", label="Flow, by a meter")), "water_probe", CHARGE, ("water_in", "water_out"), kinds=(GROUND_SOURCE,)),
    Stop("outdoor", "Outdoor, shade", OUTSIDE, "In the air entering the outdoor unit, in the shade.",
         ("Sun on the probe or hot metal in view: the classic misdiagnosis.", "A weather service's figure: a weak stand-in."), (Slot("outdoor", "dry_bulb"), Slot("outdoor", "sea_level_pressure")), "air_probe", AIR, ("outdoor",), kinds=AIR_SOURCE),
    Stop("liquid_line_outdoor", "Liquid line outdoors", OUTSIDE, "On the thin line as it leaves the condenser, clean bare copper, out of the sun.",
         ("The wrong line voids the visit.", "In the condenser's warm air."), (Slot("liquid_line_outdoor", "temperature"),), "line_clamp", CHARGE, ("liquid_line_outdoor",), modes=("cooling",), kinds=AIR_SOURCE),
    Stop("drier", "Across the drier", OUTSIDE, "A clamp on each side of the drier.", ("The drier may be hidden in the outdoor unit.",),
         (Slot("drier_in", "temperature", label="In"), Slot("drier_out", "temperature", label="Out")), "line_clamp", CHARGE, ("drier_in",), modes=("cooling",), kinds=AIR_SOURCE),
    Stop("suction_line_outdoor", "Suction line outdoors", OUTSIDE, "On the thick line a foot before the service valve, re-covered.",
         ("Bare in the sun.", "In heating this line is hot gas: another place is the suction."), (Slot("suction_line_outdoor", "temperature"),), "line_clamp", CHARGE, ("suction_line_outdoor",), modes=("cooling",), kinds=AIR_SOURCE),
    Stop("true_suction", "True suction", OUTSIDE, "At the compressor, between the reversing valve and the compressor: a third line.",
         ("The thick line outdoors is hot gas in heating.",), (Slot("true_suction", "temperature"),), "line_clamp", CHARGE, ("true_suction",), ("disconnect", "rotating"), modes=("heating",), kinds=HEAT_PUMPS),
    Stop("discharge_line", "Discharge line", OUTSIDE, "On the hot line about 6 in. from the compressor, insulation over the clamp.",
         ("Past the reversing valve, where it has cooled.", "The clamp open to the air: it reads too cold."), (Slot("discharge_line", "temperature"),), "line_clamp", COMPRESSION, ("discharge_line",),
         ("hot_line", "disconnect", "rotating"), kinds=AIR_SOURCE),
    Stop("condenser_air_out", "Air leaving the condenser", OUTSIDE, "In the stream over the fan, a hand off the guard.", ("A relative sign only: the condenser's airflow is hardly ever known.",),
         (Slot("condenser_air_out", "dry_bulb"), Slot("condenser_air", "airflow", label="Airflow, if known")), "air_probe", ELECTRICAL, ("condenser_air_out",), ("rotating", "blocked_condenser"), modes=("cooling",), kinds=AIR_SOURCE),
    Stop("gauges", "Pressures", OUTSIDE, "Both hoses connected, valves closed, needles at rest.", ("Read while a valve is open.", "Needle not zeroed."),
         (Slot("gauge_suction", "pressure", label="Low side"), Slot("gauge_liquid", "pressure", label="High side")), "gauge", GAUGES, ("gauge_suction", "gauge_liquid"), ("refrigerant",)),
    Stop("compressor", "Compressor", OUTSIDE, "Each leg to ground; clamp round one lead at a time.", ("Volts leg to leg entered as to ground.", "Two leads in the clamp."),
         _electrical("compressor"), "amp_clamp", ELECTRICAL, ("compressor",), ("disconnect", "capacitor")),
    Stop("outdoor_fan", "Outdoor fan", OUTSIDE, "Clamp round one fan lead.", ("The compressor's lead.",), _electrical("outdoor_fan"), "amp_clamp", ELECTRICAL, ("outdoor_fan",),
         ("disconnect", "capacitor", "rotating"), kinds=AIR_SOURCE),
)
# fmt: on
BY_ID = {stop.id: stop for stop in STOPS}
# (place, quantity) -> which of several it can be: a leg, an airflow method, a traverse point; '' for the only one.
VARIANTS: dict[tuple[str, str], tuple[str, ...]] = {}
for _slot in (slot for stop in STOPS for slot in stop.slots):
    VARIANTS[_slot.place, _slot.quantity] = (*VARIANTS.get((_slot.place, _slot.quantity), ()), _slot.variant)
# Ways to an airflow that are no place of the walk, and gauges, which have their own station.
OFF_THE_WALK = ("traverse", "strips", "furnace", "gauges")
# What is read after each step of charging; a step's readings are the variant 's1', 's2' ... of their places.
MOST_STEPS = 12
STEP_VARIANTS = tuple(f"s{number}" for number in range(1, MOST_STEPS + 1))
_AFTER_A_STEP = (
    ("gauge_suction", "pressure", "Low side"),
    ("gauge_liquid", "pressure", "High side"),
    ("suction_line_outdoor", "temperature", "Suction line"),
    ("liquid_line_outdoor", "temperature", "Liquid line"),
)
for _place, _quantity, _ in _AFTER_A_STEP:
    VARIANTS[_place, _quantity] = (*VARIANTS.get((_place, _quantity), ()), *STEP_VARIANTS)


def charge_stop(number: int) -> Stop:
    """Where a step of charging is read, once it has settled. number: 1 to MOST_STEPS."""
    slots = tuple(Slot(place, what, f"s{number}", label) for place, what, label in _AFTER_A_STEP)
    where = "Valves closed, settled: the same clamps on the same places."
    return Stop(f"step_{number}", f"After step {number}", OUTSIDE, where, (), slots, "gauge", GAUGES, ())


# Why a reading can not be taken: a value too. A substitute is then taken, with wider uncertainty, and named.
NOT_POSSIBLE = {
    "no_access": "No access", "no_port": "No port or hole", "unsafe": "Not safe", "no_instrument": "No instrument here",
    "not_settling": "Would not settle", "no_time": "No time left", "no_consent": "Customer says no",
}  # fmt: skip


@cache
def walk(
    kind: str,
    mode: str,
    gas_furnace: bool = False,
    rooms: tuple[str, ...] = (),
    order: str = OUTDOOR_AIR_FIRST,
) -> tuple[Stop, ...]:
    """The stops of this equipment in this mode, numbered in walking order; each room's register is a stop at the end of
    the inside walk. order: one of WALK_ORDERS.

    On a ground-source unit the compressor stands inside. Stops that only work out an airflow carry no number.
    """
    found = [s for s in STOPS if mode in s.modes and (not s.kinds or kind in s.kinds)]
    found = [s for s in found if s.id not in ("strips", "furnace") or (s.id == "furnace") == gas_furnace]
    inside = [s for s in found if s.side == INSIDE or kind == GROUND_SOURCE]
    registers = [
        Stop(
            f"{ROOM}{index}",
            f"Register, {name}",
            INSIDE,
            "In the stream of the room's register.",
            ("Held at the edge it draws in room air.",),
            (Slot(ROOM + name, "dry_bulb"),),
            "air_probe",
            DUCTS,
            (),
        )
        for index, name in enumerate(rooms, start=1)
    ]
    outside = [s for s in found if s not in inside]
    outdoor_air = [s for s in outside if s.id == "outdoor"]
    in_order = {
        OUTDOOR_AIR_FIRST: (*outdoor_air, *inside, *registers, *(s for s in outside if s not in outdoor_air)),
        INSIDE_FIRST: (*inside, *registers, *outside),
        OUTSIDE_FIRST: (*outside, *inside, *registers),
    }[order]
    numbered, number = [], 0
    for stop in in_order:
        counts = stop.id not in OFF_THE_WALK and not stop.id.startswith(ROOM)
        number += counts
        side = OUTSIDE if stop in outside else INSIDE
        numbered.append(replace(stop, number=number if counts else 0, side=side))
    return tuple(numbered)


@cache
def side_of(place: str) -> str:
    """Inside or outside, where a place of the walk is; '' for what is no place to stand, such as the system."""
    return next(
        (stop.side for stop in STOPS if any(slot.place == place for slot in stop.slots)),
        INSIDE if place.startswith(ROOM) else "",
    )


@cache
def is_read_in(place: str, mode: str) -> bool:
    """Whether a place is read in this mode: what was clamped for the other mode is no part of the round. What is no
    stop is read in both.
    """
    modes = [stop.modes for stop in STOPS if any(slot.place == place for slot in stop.slots)]
    return not modes or any(mode in of for of in modes)
