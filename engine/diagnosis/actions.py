"""What can be done between rounds, and which of it is asked for: only where the fault was seen, never against what was
seen good.

Cheapest honest fix first, as listed. Common practice, no single source.
"""

from dataclasses import dataclass, field

from engine.readings.observations import AIR_SOURCE
from engine.readings.round import Round
from engine.readings.vocabulary import GROUND_SOURCE


@dataclass(frozen=True, eq=False)
class Action:
    """One thing to do: permanent id, what it is called when done, the cautions it carries.

    do: as a thing to do. causes: what it mends. seen: look -> the degrees that ask for it; any: the look alone is
    enough, whatever it saw.
    clears: what was seen before it and is no longer so: not carried into the next round. minutes: about, of a practised
    hand. ends_baseline: it makes the machine another one than its baseline was taken of. mends: a fault may be gone by
    it; what only makes the readings count mends none.
    """

    id: str
    label: str
    do: str = ""
    causes: tuple[str, ...] = ()
    seen: dict[str, tuple[str, ...]] = field(default_factory=dict)
    any: tuple[str, ...] = ()
    clears: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    minutes: float = 15.0
    ends_baseline: bool = False
    mends: bool = True
    kinds: tuple[str, ...] = ()  # of machines that have what it is done to; () for all

    def is_of(self, kind: str) -> bool:
        """Whether it can be done to a machine of this kind."""
        return not self.kinds or kind in self.kinds

    @property
    def look(self) -> str:
        """The look that shows whether it is called for, '' for none."""
        return next(iter((*self.seen, *self.any)), "")

    def is_seen(self, seen: dict[str, str]) -> bool:
        """Whether the fault it mends was seen."""
        return any(seen.get(look) in degrees for look, degrees in self.seen.items())

    def may_be(self, seen: dict[str, str]) -> bool:
        """Whether it may be advised for a cause: the fault was seen, or, for what shows in readings alone, the place
        was looked at.
        """
        return self.is_seen(seen) or any(look in seen for look in self.any)


# What was seen or heard of the charge as it was: listened and looked at anew once some was moved. Stains of oil stay
# where they are, and tell of what had leaked before.
TOLD_BY_CHARGE = ("liquid_line_noise", "sight_glass", "outdoor_coil_fed")

# fmt: off
ACTIONS = (
    Action("filter_changed", "Filter changed", "Change the filter", ("blocked_filter",), {"filter": ("loaded", "blocked", "restrictive")}, clears=("filter",), minutes=3.0),
    Action("registers_opened", "Registers opened", "Open the registers", ("tight_ducts",), {"registers": ("closed",)}, clears=("registers",), minutes=4.0),
    Action("panel_on", "Panel put on", "Put the panel on", (), {"panels": ("off",)}, clears=("panels",), minutes=1.0, mends=False),
    Action("strips_off", "Strips switched off", "Switch the strips off", ("heat_on",), {"strip_heat": ("on",)}, clears=("strip_heat",), cautions=("disconnect",), minutes=2.0),
    Action("duct_straightened", "Duct straightened or rejoined", "Straighten or rejoin the duct", ("tight_ducts",), {"ducts": ("kinked", "collapsed", "open")}, clears=("ducts",), cautions=("attic",), minutes=20.0),
    Action("return_sealed", "Return duct sealed", "Seal the return duct", ("return_leak",), {"ducts": ("open",)}, cautions=("attic",), minutes=40.0),
    Action("blower_speed_set", "Blower speed set", "Set the blower speed", ("low_blower", "high_airflow"), {"blower_speed": ("changed", "drive_added")}, clears=("blower_speed",), cautions=("disconnect",), ends_baseline=True),
    Action("evaporator_cleaned", "Evaporator cleaned", "Clean the {inside}", ("dirty_evaporator",), {"evaporator_face": ("dirty", "covered")}, clears=("evaporator_face",), cautions=("disconnect",), minutes=60.0),
    Action("blower_wheel_cleaned", "Blower wheel cleaned", "Clean the blower wheel", ("low_blower",), {"blower_wheel": ("dirty",)}, clears=("blower_wheel",), cautions=("disconnect", "rotating"), minutes=60.0),
    Action("condenser_washed", "Outdoor coil washed", "Wash the outdoor coil", ("dirty_condenser", "outdoor_coil"), {"condenser_coil": ("matted",)}, clears=("condenser_coil",), cautions=("disconnect", "washing"), minutes=30.0, kinds=AIR_SOURCE),
    Action("fan_mended", "Outdoor fan mended", "Mend the outdoor fan", ("weak_condenser_fan", "outdoor_coil"), {"outdoor_fan_blade": ("wrong", "slow", "stopped")}, clears=("outdoor_fan_blade",), kinds=AIR_SOURCE,
           cautions=("disconnect", "capacitor"), minutes=45.0),
    Action("strainer_cleaned", "Water strainer cleaned", "Clean the water strainer", ("low_water_flow",), {"strainer": ("plugged",)}, clears=("strainer",), minutes=15.0, kinds=(GROUND_SOURCE,)),
    Action("loop_purged", "Loop purged, pump mended", "Purge the air from the loop, and mend the pump", ("low_water_flow",), {"loop_pump": ("noisy", "stopped")}, clears=("loop_pump",), cautions=("disconnect",), minutes=45.0, kinds=(GROUND_SOURCE,)),
    Action("water_coil_flushed", "Water coil flushed", "Flush the water coil as its maker allows", ("fouled_exchanger",), any=("strainer",), minutes=90.0, kinds=(GROUND_SOURCE,)),
    Action("service_valves_opened", "Service valves opened fully", "Open the service valves fully", ("restriction", "restriction_outdoors"), {"service_valves": ("not_open",)}, clears=("service_valves",), cautions=("refrigerant",), minutes=10.0),
    Action("caps_tightened", "Caps replaced and tightened", "Replace and tighten the caps", (), {"caps": ("loose", "missing")}, clears=("caps",), cautions=("refrigerant",), minutes=5.0, mends=False),
    Action("thawed", "Thawed fully", "Thaw it fully", (), {"ice": ("coil", "suction_line", "after_spot")}, clears=("ice",), cautions=("thaw",), minutes=60.0, mends=False),
    Action("duct_insulated", "Duct insulated", "Insulate the duct run", ("supply_gain", "return_gain"), any=("ducts",), cautions=("attic",), minutes=60.0),
    Action("suction_line_insulated", "Suction line insulated", "Insulate the suction line", ("bare_suction_line",), {"suction_insulation": ("bare",)}, clears=("suction_insulation",), cautions=("attic",), minutes=20.0, kinds=AIR_SOURCE),
    Action("wiring_mended", "Capacitor or wiring mended", cautions=("disconnect", "capacitor"), minutes=30.0),
    Action("compressor_changed", "Compressor changed", cautions=("disconnect", "capacitor", "refrigerant"), minutes=240.0, ends_baseline=True),
    Action("coil_changed", "Coil changed, indoors or outdoors", clears=("evaporator_face", "condenser_coil"), cautions=("disconnect", "refrigerant"), minutes=240.0, ends_baseline=True),
    Action("metering_device_changed", "Metering device changed", cautions=("disconnect", "refrigerant"), minutes=180.0, ends_baseline=True),
    Action("leak_repaired", "Circuit opened: leak or drier", cautions=("disconnect", "refrigerant"), minutes=120.0, ends_baseline=True),
    Action("blower_changed", "Blower or its motor changed", clears=("blower_wheel",), cautions=("disconnect", "rotating", "capacitor"), minutes=90.0, ends_baseline=True),
    Action("ducts_changed", "Ducts changed", clears=("ducts",), cautions=("attic",), minutes=240.0, ends_baseline=True),
    Action("charge_added", "Refrigerant added", "Find the leak, then add refrigerant in weighed steps", ("undercharge",), clears=(*TOLD_BY_CHARGE, "oil_stains"), cautions=("refrigerant",)),
    Action("charge_recovered", "Refrigerant recovered", "Recover refrigerant in weighed steps", ("overcharge",), clears=TOLD_BY_CHARGE, cautions=("refrigerant",)),
    Action("nothing_done", "Nothing done: read again", mends=False),
)
# fmt: on
BY_ID = {action.id: action for action in ACTIONS}
LEAST_TO_DO = 0.15  # probability of a cause from which what mends it is listed


def seen_faults(round_: Round) -> tuple[Action, ...]:
    """The actions whose fault was seen, in their order: said and done whatever the readings are worth."""
    return tuple(action for action in ACTIONS if action.is_seen(round_.observations))


def to_do(round_: Round, likely: dict[str, float]) -> tuple[Action, ...]:
    """What mends the likely causes, most likely mended for each minute first; then the other faults that were seen.
    likely: cause -> probability.
    """
    worth = {
        a: max((likely.get(c, 0.0) for c in a.causes), default=0.0) / a.minutes
        for a in ACTIONS
        if a.may_be(round_.observations)
    }
    first = [a for a in worth if worth[a] * a.minutes >= LEAST_TO_DO]
    return tuple(dict.fromkeys((*sorted(first, key=lambda a: -worth[a]), *seen_faults(round_))))


def is_fault(look: str, degree: str) -> bool:
    """Whether what is seen so is a fault by itself, whatever the readings say."""
    return any(degree in action.seen.get(look, ()) for action in ACTIONS)


def look_for(cause: str, seen: dict[str, str]) -> tuple[str, ...]:
    """The looks that show whether a cause is there and were not taken, in the order of what mends it."""
    return tuple(dict.fromkeys(a.look for a in ACTIONS if cause in a.causes and a.look and a.look not in seen))
