"""Whether a round may become the baseline: the reasons against it, as ids; and what of the follow-up walk it lacks."""

from collections.abc import Callable

from engine.readings.measured import Measured
from engine.readings.round import STAND_IN, WEATHER_SERVICE, Reading, Round
from engine.readings.vocabulary import FURNACE, GROUND_SOURCE, HUMIDITY_QUANTITIES
from engine.readings.walk import walk
from engine.validity.finding import CONTRADICTION, EVERYTHING, Finding

_Case = tuple[Measured, tuple[Finding, ...]]


def _wet(case: _Case) -> bool:
    return case[0].round.observations.get("condenser_coil") == "wet"


def _coil_not_seen(case: _Case) -> bool:
    round_ = case[0].round
    return (
        round_.mode == "cooling"
        and round_.equipment.kind != GROUND_SOURCE
        and "condenser_coil" not in round_.observations
    )


def _panel_off(case: _Case) -> bool:
    return case[0].round.observations.get("panels") == "off"


def _panels_not_seen(case: _Case) -> bool:
    return "panels" not in case[0].round.observations


def _strips_not_seen(case: _Case) -> bool:
    return "strip_heat" not in case[0].round.seen


def _capacity_not_seen(case: _Case) -> bool:
    return any(f.id == "capacity_not_seen" for f in case[1])


def _unsettled(case: _Case) -> bool:
    return any(f.id in ("not_settled", "running_not_entered", "still_moving", "restart_reading") for f in case[1])


def _liquid_at_outdoor(case: _Case) -> bool:
    round_ = case[0].round
    liquid, outdoor = round_.value("liquid_line_outdoor", "temperature"), round_.value("outdoor", "dry_bulb")
    return round_.mode == "cooling" and liquid is not None and outdoor is not None and liquid <= outdoor


def _contradicted(case: _Case) -> bool:
    return any(f.level == CONTRADICTION for f in case[1])


def _void(case: _Case) -> bool:
    return any(
        f.withholds == EVERYTHING
        and f.id in ("iced", "strips_on", "part_capacity", "outdoor_coil_iced", "outdoor_coil_defrosting")
        for f in case[1]
    )


def _no_statics(case: _Case) -> bool:
    return case[0].statics is None


def _weather(case: _Case) -> bool:
    return any(f.id in ("too_cold_out", "too_warm_out") for f in case[1])


def _air_not_read(case: _Case) -> bool:
    round_ = case[0].round
    dry = [round_.reading(place, "dry_bulb") for place in ("return_unit", "supply_plenum")]
    return any(map(_to_be_read, (*dry, round_.reading("return_unit", *HUMIDITY_QUANTITIES))))


def _to_be_read(reading: Reading | None) -> bool:
    return reading is None or reading.source == STAND_IN


def _outdoor_not_read(case: _Case) -> bool:
    round_ = case[0].round
    outdoor = round_.reading("outdoor", "dry_bulb")
    return round_.equipment.kind != GROUND_SOURCE and (outdoor is None or outdoor.source == WEATHER_SERVICE)


def _no_pressures(case: _Case) -> bool:
    """Commissioning and a first visit have gauges on: what only pressures tell belongs to the baseline."""
    round_ = case[0].round
    wanted = round_.observations.get("visit_kind") in ("commissioning", "first")
    ports = [place for place in ("gauge_suction", "gauge_liquid") if round_.can_be_read(place, "pressure")]
    return wanted and any(round_.value(place, "pressure") is None for place in ports)


BY_DIAGNOSIS = ("fault_likelier", "not_told_sound")  # that says so: nothing of a fault is ever taken for normal
OBSTACLES: dict[str, Callable[[_Case], bool]] = {
    "condenser_wet": _wet, "condenser_not_seen": _coil_not_seen, "panel_off": _panel_off,
    "panel_not_seen": _panels_not_seen, "strips_not_seen": _strips_not_seen, "capacity_not_seen": _capacity_not_seen,
    "unsettled": _unsettled, "liquid_at_outdoor": _liquid_at_outdoor, "contradictions": _contradicted,
    "test_void": _void, "no_statics": _no_statics,
    "other_weather": _weather, "air_not_read": _air_not_read, "outdoor_not_read": _outdoor_not_read,
    "no_pressures": _no_pressures,
}  # fmt: skip


def obstacles(measured: Measured, findings: tuple[Finding, ...]) -> tuple[str, ...]:
    """Why this round may not become the baseline, by id; empty when it may. Common practice, no single source."""
    return tuple(id_ for id_, holds in OBSTACLES.items() if holds((measured, findings)))


# What the next visits will read without gauges, and can hold against this baseline only where it was read: common
# practice, no single source.
FOLLOW_UP_WALK = (
    ("supply_plenum", ("rh", "wet_bulb", "dew_point")), ("filter", ("pressure_drop",)), ("coil", ("pressure_drop",)),
    ("blower", ("airflow",)), ("liquid_line_outdoor", ("temperature",)), ("liquid_line_indoor", ("temperature",)),
    ("suction_line_outdoor", ("temperature",)), ("true_suction", ("temperature",)),
    ("condenser_air_out", ("dry_bulb",)), ("compressor", ("current", "power")), ("water_in", ("temperature",)),
    ("water_out", ("temperature",)), ("water_loop", ("flow", "water_drop")),
)  # fmt: skip


def not_read(round_: Round) -> tuple[str, ...]:
    """The places of the follow-up walk, in this mode and on this machine, that a baseline made of the round lacks."""
    stops = walk(round_.equipment.kind, round_.mode, gas_furnace=round_.equipment.unit == FURNACE)
    places = {slot.place for stop in stops for slot in stop.slots}
    return tuple(
        place for place, quantities in FOLLOW_UP_WALK if place in places and round_.value(place, *quantities) is None
    )
