"""Every quantity of a round, by id in the order they are shown; against the unit's own baseline where there is one."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property
from math import hypot

from engine.constants import (
    CONDENSER_RISE_REPEAT,
    DISCHARGE_REPEAT,
    DUCT_PAIR_REPEAT,
)
from engine.expected.today import Expected
from engine.houserules.rules import HouseRules
from engine.quantities.airflow import airflow
from engine.quantities.amps import draw, heating_draw, plate_amps
from engine.quantities.approach import approach
from engine.quantities.capacity import capacity, heating_capacity
from engine.quantities.condenser_rise import condenser_rise
from engine.quantities.dew_point import supply_dew_point
from engine.quantities.discharge import discharge
from engine.quantities.drops import drops, total_static
from engine.quantities.ducts import duct_gains, return_leak, room_airflows, room_gains
from engine.quantities.heat_ledger import HeatLedger, heat_ledger
from engine.quantities.heating_gauges import heating_gauges
from engine.quantities.heating_lines import heat_approach, rise, true_suction, weather_of
from engine.quantities.liquid_line import drier_drop, liquid_drop
from engine.quantities.quantity import OWN_BASELINE, Quantity, against_baseline, compared
from engine.quantities.residual import Residual
from engine.quantities.saturation import condensing, evaporating
from engine.quantities.split import split
from engine.quantities.subcooling import subcooling
from engine.quantities.suction import suction, suction_rise
from engine.quantities.superheat import superheat
from engine.quantities.water import closure, heat_moved, water_draw, water_flow
from engine.quantities.water_gauges import water_superheat
from engine.readings.measured import Measured
from engine.readings.round import STAND_IN
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.estimate import Estimate

# A quantity that is the sum or difference of these others has nothing of its own to say beside them: suction line =
# evaporating + superheat less the line's rise, condensing over outdoor air = approach + subcooling.
COUNTED_BY = {
    "suction": {"evaporating", "superheat"}, "true_suction": {"evaporating", "superheat"},
    "condensing": {"approach", "subcooling"}, "heat_condensing": {"heat_approach", "subcooling"},
}  # fmt: skip

AIR_READINGS = {"return_unit": "return", "supply_plenum": "supply"}  # as the slopes of a residual name them


def _alike(id_: str, parts: set[str], found: dict[str, Residual]) -> bool:
    """Whether a sum and its parts are taken from the same: all from what is expected, or all from the own baseline."""
    return len({found[kind].at_baseline is None for kind in (id_, *parts)}) == 1


@dataclass(frozen=True)
class Table:
    """A round worked out: measured, expected, and every quantity once."""

    measured: Measured
    expected: Expected
    quantities: dict[str, Quantity]

    @cached_property
    def residuals(self) -> tuple[Residual, ...]:
        """What the diagnosis goes by, each reading once. What rests on a stand-in is left out: what is wrong may be
        between it and the place that is still to be read.
        """
        found = {
            q.id: q.residual
            for q in self.quantities.values()
            if q.residual is not None and not self.rests_on_a_stand_in(q)
        }
        counted = {
            id_ for id_, parts in COUNTED_BY.items() if found.keys() >= {id_, *parts} and _alike(id_, parts, found)
        }
        return tuple(residual for id_, residual in found.items() if id_ not in counted)

    def rests_on_a_stand_in(self, q: Quantity) -> bool:
        """Whether the air it is worked out from was taken from another place for now."""
        return q.residual is not None and not self._stand_ins.isdisjoint(q.residual.slopes)

    @cached_property
    def _stand_ins(self) -> frozenset[str]:
        taken = {r.place for r in self.measured.round.readings if (r.quantity, r.source) == ("dry_bulb", STAND_IN)}
        return frozenset(reading for place, reading in AIR_READINGS.items() if place in taken)

    @cached_property
    def ledger(self) -> HeatLedger | None:
        """The heat ledger, or None until both sides of it are read."""
        return heat_ledger(self.measured)

    @property
    def over_the_coil(self) -> Quantity | None:
        """The split, in heating the rise; None where neither can be given."""
        return self.get("rise" if self.measured.round.mode == "heating" else "split")

    def __getitem__(self, id_: str) -> Quantity:
        return self.quantities[id_]

    def get(self, id_: str) -> Quantity | None:
        """A quantity, or None where this round has none of that id."""
        return self.quantities.get(id_)


def worked_out(m: Measured, e: Expected) -> Table:
    """The quantities of a round, in the order they are shown."""
    if m.round.equipment.kind == GROUND_SOURCE:
        first = [water_flow(m), heat_moved(m), closure(m), split(m, e)]
        lines: list[Quantity | None] = [water_draw(m), water_superheat(m)]
        if m.round.mode == "cooling":  # in heating no charge is set by it
            lines.append(subcooling(m))
    elif m.round.mode == "heating":
        first, lines = (
            [rise(m, e), heating_capacity(m, e)],
            [
                heat_approach(m, e),
                true_suction(m, e),
                discharge(m, e),
                _in_weather(m, heating_draw(m, e)),
                *heating_gauges(m, e),
            ],
        )
    else:
        first = [split(m, e), capacity(m, e), supply_dew_point(m, e)]
        lines = [
            approach(m, e),
            suction(m, e),
            suction_rise(m),
            liquid_drop(m),
            drier_drop(m),
            discharge(m, e),
            condenser_rise(m, e),
            draw(m, e),
            superheat(m),
            subcooling(m),
            evaporating(m, e),
            condensing(m, e),
        ]
    found = [
        *first,
        airflow(m),
        total_static(m),
        *drops(m),
        *lines,
        *plate_amps(m),
        *duct_gains(m),
        *return_leak(m),
        *room_gains(m),
        *room_airflows(m),
    ]
    return Table(m, e, {q.id: q for q in found if q is not None})


def _in_weather(m: Measured, q: Quantity | None) -> Quantity | None:
    """The draw in heating, with how far its expectation may move with the weather."""
    if q is None or q.residual is None:
        return q
    return replace(q, residual=replace(q.residual, weather=weather_of(m, q.id)))


# -- against the unit's own baseline -----------------------------------------------------------------------------------

_Tolerance = Callable[[HouseRules, float], float]


def _share(rule: str) -> _Tolerance:
    return lambda rules, expected: getattr(rules, rule) * abs(expected)


def _rule(rule: str) -> _Tolerance:
    return lambda rules, expected: getattr(rules, rule)


def _static(rules: HouseRules, expected: float) -> float:
    return max(rules.follow_up_static_inwc, rules.follow_up_static_share * abs(expected))


# quantity -> how far it may be from its baseline, corrected for weather [its unit]. Common practice, no single source;
# house rules.
FOLLOW_UP: dict[str, _Tolerance] = {
    "split": _rule("follow_up_split_f"),
    **dict.fromkeys(("capacity", "airflow", "rise", "heat_moved", "water_flow"), _share("follow_up_capacity_share")),
    **dict.fromkeys(("approach", "suction", "suction_rise", "liquid_drop", "evaporating"), _rule("follow_up_line_f")),
    **dict.fromkeys(("heat_approach", "true_suction", "condensing", "heat_condensing"), _rule("follow_up_line_f")),
    **dict.fromkeys(("filter_drop", "coil_drop", "return_drop", "supply_drop"), _static),
    "amps": _share("amps_tolerance_share"),
    "superheat": _rule("orifice_superheat_tolerance_f"), "subcooling": _rule("subcooling_tolerance_f"),
    "discharge": lambda rules, expected: DISCHARGE_REPEAT.value,
    "condenser_rise": lambda rules, expected: CONDENSER_RISE_REPEAT.value * expected, "closure": lambda rules,
    expected: rules.follow_up_capacity_share,
    **dict.fromkeys(("grille_to_unit", "unit_to_register"), lambda rules, expected: DUCT_PAIR_REPEAT.value),
}  # fmt: skip
# Error sources that are the same in a baseline and in a later visit, so that they cancel as far as both feel them
# alike. The airflow method joins them when both used the same one: a table's or a device's error is mostly a lasting
# one.
LASTING = ("capacity_model", "sensible_share", "fan_power", "airflow_of_sound_systems", "power factor")
# Which way dirt and wear move a quantity: a reading better than baseline by more than its margin is suspect.
DIRT = {"capacity": -1, "airflow": -1, "filter_drop": +1, "coil_drop": +1, "heat_moved": -1}


def comparable(id_: str, now: Table, baseline: Table) -> bool:
    """Whether a quantity of a round can be held to the same one of the unit's own baseline."""
    q, then = now.get(id_), baseline.get(id_)
    return (
        q is not None
        and then is not None
        and q.residual is not None
        and then.residual is not None
        and id_ in FOLLOW_UP
        and id_ not in _not_alike(now.measured, baseline.measured)
    )


def held_against(now: Table, baseline: Table) -> Table:
    """The table with every quantity against the unit's own baseline, corrected to today,
    where the two can be compared.
    """
    lasting, rules, found = lasting_between(now, baseline), now.measured.round.rules, {}
    for id_, q in now.quantities.items():
        if not comparable(id_, now, baseline):
            found[id_] = q
            continue
        then = baseline[id_]
        tolerance = FOLLOW_UP[id_](rules, q.expected.value)
        found[id_] = against_baseline(q, then, lasting, (tolerance, tolerance))
    rise = found.get("rise")
    if rise is not None and rise.authority == OWN_BASELINE:
        found["capacity"] = _by_rise(found["capacity"], now["rise"], rise)
    return Table(now.measured, now.expected, found)


def _by_rise(capacity: Quantity, rise: Quantity, held: Quantity) -> Quantity:
    """Heating delivered against the baseline: it is the rise again, times the airflow."""
    if not capacity.measured.known:
        return capacity
    level = capacity.expected.value * held.expected.value / rise.expected.value
    share, tolerance = held.off.u95 / held.expected.value, (held.high or 0.0) / held.expected.value
    return compared(
        "capacity",
        "BTU/h",
        capacity.measured,
        Estimate(level, share * level, "BTU/h"),
        (tolerance * level, tolerance * level),
        off=Estimate(capacity.measured.value - level, hypot(capacity.measured.u95, share * level), "BTU/h"),
        authority=OWN_BASELINE,
        assumed_airflow=capacity.assumed_airflow,
    )


def lasting_between(now: Table, then: Table) -> tuple[str, ...]:
    """The error sources that are the same in two rounds of one machine."""
    readings = [table.measured.round.reading("blower", "airflow") for table in (now, then)]
    same = [reading.method if reading else None for reading in readings]
    method = ("airflow_method",) if same[0] == same[1] else ()
    return (*LASTING, *method, *(f"clamp {i.id}" for i in now.measured.round.instruments))


def _not_alike(now: Measured, then: Measured) -> tuple[str, ...]:
    """What cannot be held against this baseline: the coil's drop wet against dry, and most in the other mode."""
    coil = ("coil_drop",) if now.round.observations.get("coil") != then.round.observations.get("coil") else ()
    other_mode = ("amps", "grille_to_unit", "unit_to_register", "heat_moved", "closure", "capacity")
    return coil if now.round.mode == then.round.mode else ("coil_drop", *other_mode)
