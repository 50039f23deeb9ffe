"""What can be done between rounds, and which of it the findings ask for. Cheapest honest fix first, as listed.

An action says what it fits, so that the list comes in the order of the work at hand; nothing hides what does not fit.
"""

from collections.abc import Callable
from dataclasses import dataclass

from engine.assessment.whole import Whole
from engine.readings.round import Round


@dataclass(frozen=True)
class Action:
    """One thing to do: permanent id, label, when the findings ask for it, the cautions it carries. minutes: about, of a practised hand."""

    id: str
    label: str
    fits: Callable[[Round, Whole], bool]
    cautions: tuple[str, ...] = ()
    do: str = ""  # as a thing to do
    causes: tuple[str, ...] = ()  # what it mends
    clears: tuple[str, ...] = ()  # what was seen before it and is no longer so: not carried into the next round
    minutes: float = 15.0


def _seen(name: str, *degrees: str) -> Callable[[Round, Whole], bool]:
    return lambda round_, whole: round_.observations.get(name) in degrees


def _air_is_out(round_: Round, whole: Whole) -> bool:
    return whole.verdict.rule in ("airflow_low", "split_high", "airflow_high", "heating_rise_above")


def _filter(round_: Round, whole: Whole) -> bool:
    return _air_is_out(round_, whole) or round_.observations.get("filter") in ("loaded", "blocked", "restrictive")


def _condenser(round_: Round, whole: Whole) -> bool:
    return round_.observations.get("condenser_coil") == "matted" or any(i.id == "approach" and i.high for i in whole.indicators)


def _over_plate(round_: Round, whole: Whole) -> bool:
    return any(section.urgent for section in whole.sections if section.id == "electrical")


def _by_judgement(round_: Round, whole: Whole) -> bool:
    return False  # no sight of its own asks for it: it comes by the causes it mends


ACTIONS = (
    Action("filter_changed", "Filter changed", _filter, clears=("filter",), do="Change the filter", causes=('blocked_filter',), minutes=3.0),
    Action("registers_opened", "Registers opened", _seen("registers", "closed"), clears=("registers",), do="Open the registers", causes=('tight_ducts',), minutes=4.0),
    Action("panel_on", "Panel put on", _seen("panels", "off"), clears=("panels",), minutes=1.0),
    Action("strips_off", "Strips switched off", _seen("strip_heat", "on"), ("disconnect",), clears=("strip_heat",), do="Switch the strips off", causes=('heat_on',), minutes=2.0),
    Action("duct_straightened", "Duct straightened or rejoined", _seen("ducts", "kinked", "collapsed", "open"), ("attic",), clears=("ducts",), do="Straighten or rejoin the duct", causes=('tight_ducts',), minutes=20.0),
    Action("return_sealed", "Return duct sealed", _by_judgement, ("attic",), do="Seal the return duct", causes=('return_leak',), minutes=40.0),
    Action("blower_speed_set", "Blower speed set", _seen("blower_speed", "changed", "drive_added"), ("disconnect",), clears=("blower_speed",), do="Set the blower speed", causes=('low_blower', 'high_airflow')),
    Action("evaporator_cleaned", "Evaporator cleaned", _seen("evaporator_face", "dirty", "covered"), ("disconnect",), clears=("evaporator_face",), do="Clean the evaporator", causes=('dirty_evaporator',), minutes=60.0),
    Action("blower_wheel_cleaned", "Blower wheel cleaned", _seen("blower_wheel", "dirty"), ("disconnect", "rotating"), clears=("blower_wheel",), do="Clean the blower wheel", causes=('low_blower',), minutes=60.0),
    Action("condenser_washed", "Condenser washed", _condenser, ("disconnect", "washing"), clears=("condenser_coil",), do="Wash the condenser", causes=('dirty_condenser', 'outdoor_coil'), minutes=30.0),
    Action("fan_mended", "Condenser fan mended", _seen("outdoor_fan_blade", "wrong", "slow", "stopped"), ("disconnect", "capacitor"), minutes=45.0,
           clears=("outdoor_fan_blade",), do="Mend the condenser fan", causes=('weak_condenser_fan', 'outdoor_coil')),
    Action("service_valves_opened", "Service valves opened fully", _seen("service_valves", "not_open"), ("refrigerant",), clears=("service_valves",), do="Open the service valves fully", causes=('restriction',), minutes=10.0),
    Action("caps_tightened", "Caps replaced and tightened", _seen("caps", "loose", "missing"), ("refrigerant",), clears=("caps",), do="Replace and tighten the caps", causes=('undercharge',), minutes=5.0),
    Action("thawed", "Thawed fully", _seen("ice", "coil", "suction_line", "after_spot"), ("thaw",), clears=("ice",), minutes=60.0),
    Action("duct_insulated", "Duct insulated", _by_judgement, ("attic",), do="Insulate the duct run", causes=('supply_gain',), minutes=60.0),
    Action("wiring_mended", "Capacitor or wiring mended", _over_plate, ("disconnect", "capacitor"), minutes=30.0),
    Action("nothing_done", "Nothing done: read again", _by_judgement),
)  # fmt: skip
BY_ID = {action.id: action for action in ACTIONS}


def by_cause(likely: dict[str, float], least: float) -> tuple[Action, ...]:
    """The actions that mend the likely causes, most likely mended for each minute first. likely: cause -> probability; least of it to be listed."""
    worth = [(max((likely.get(c, 0.0) for c in action.causes), default=0.0), action) for action in ACTIONS]
    return tuple(action for _, action in sorted((w for w in worth if w[0] >= least), key=lambda w: -w[0] / w[1].minutes))


def by_fit(round_: Round, whole: Whole) -> tuple[tuple[Action, ...], tuple[Action, ...]]:
    """The actions the findings ask for, and the others; each in its listed order."""
    fitting = tuple(action for action in ACTIONS if action.fits(round_, whole))
    return fitting, tuple(action for action in ACTIONS if action not in fitting)
