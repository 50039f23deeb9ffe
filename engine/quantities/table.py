"""Every quantity of a round, by id in the order they are shown; against the unit's own baseline where there is one; and
what contradicts what.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property
from math import hypot

from engine.constants import (
    COMPRESSOR_INLET_LIMIT,
    CONDENSER_RISE_REPEAT,
    DISCHARGE_REPEAT,
    DUCT_PAIR_REPEAT,
    HUMID_HOUSE_DEW_POINT,
    NO_HEAT,
    RATING_RETURN_DRY_BULB,
)
from engine.expected.today import Expected
from engine.houserules.rules import HouseRules
from engine.quantities.airflow import airflow
from engine.quantities.amps import compressor_off, draw, heating_draw, plate_amps
from engine.quantities.approach import approach
from engine.quantities.by_gauge import gauge_findings
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
from engine.readings.measured import WATER_WRONG_WAY, Measured
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.estimate import Estimate, Why
from engine.uncertainty.margin import IN_RANGE, surely_above, surely_below
from engine.validity.finding import CONDITION, CONTRADICTION, EVERYTHING, NOTE, Finding

# A quantity that is the sum or difference of these others has nothing of its own to say beside them: suction line =
# evaporating + superheat less the line's rise, condensing over outdoor air = approach + subcooling.
COUNTED_BY = {
    "suction": {"evaporating", "superheat"}, "true_suction": {"evaporating", "superheat"},
    "condensing": {"approach", "subcooling"}, "heat_condensing": {"heat_approach", "subcooling"},
}  # fmt: skip


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
        """What the diagnosis goes by, each reading once."""
        found = {q.id: q.residual for q in self.quantities.values() if q.residual is not None}
        counted = {
            id_ for id_, parts in COUNTED_BY.items() if found.keys() >= {id_, *parts} and _alike(id_, parts, found)
        }
        return tuple(residual for id_, residual in found.items() if id_ not in counted)

    @cached_property
    def ledger(self) -> HeatLedger | None:
        """The heat ledger, or None until both sides of it are read."""
        return heat_ledger(self.measured)

    def __getitem__(self, id_: str) -> Quantity:
        return self.quantities[id_]

    def get(self, id_: str) -> Quantity | None:
        """A quantity, or None where this round has none of that id."""
        return self.quantities.get(id_)


def worked_out(m: Measured, e: Expected) -> Table:
    """The quantities of a round, in the order they are shown."""
    if m.round.equipment.kind == GROUND_SOURCE:
        first = [water_flow(m), heat_moved(m), closure(m), split(m, e)]
        lines: list[Quantity | None] = [water_draw(m)]
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


# -- what the quantities say of each other -----------------------------------------------------------------------------

_Rule = Callable[[Table], Finding | None]


def _ledger_open(table: Table) -> Finding | None:
    """A ledger that cannot close. Too little air through the condenser is a fault of its own, no contradiction."""
    ledger = table.ledger
    if ledger is None or not ledger.open:
        return None
    if ledger.implied_cfm is not None and ledger.band_cfm is not None and ledger.implied_cfm.value < ledger.band_cfm[0]:
        return None
    return Finding("ledger_open", CONTRADICTION)


def _sensible_share(table: Table) -> Finding | None:
    """A sensible share over 1: by more than its own doubt it cannot be, within it the coil is dry."""
    share = table.measured["sensible_heat_ratio"]
    if table.measured.round.mode != "cooling" or not share.known or not share.value > 1.0:
        return None
    numbers = {"share": share.value, "u95": share.u95}
    if surely_above(1.0, share.value, share.u95):
        return Finding("sensible_share_over_one", CONTRADICTION, "", (("supply_plenum", "rh"),), numbers=numbers)
    return Finding("coil_dry", NOTE, numbers=numbers)


def _curves_carried_on(table: Table) -> Finding | None:
    """Return air, weather or airflow outside the published curves, where these are carried on."""
    beyond, split = table.expected.carried_on, table.get("split")
    if not beyond or split is None or not split.expected.known:
        return None
    name, value, unit, low, high = beyond[0]
    return Finding(
        "curves_carried_on",
        NOTE,
        names={"name": name, "unit": unit},
        numbers={"value": value, "low": low, "high": high},
    )


def _no_heat_moved(table: Table) -> Finding | None:
    """The air is as warm after the unit as before, and outdoors nothing is warmed: it is no use to judge a circuit
    before anybody has seen the compressor run. Its amps, where they were read, say that.
    """
    m = table.measured
    inside = table.get("rise") if m.round.mode == "heating" else table.get("split")
    if m.amps("compressor") is not None or inside is None or not _is_none(inside):
        return None
    outside = [q for id_ in ("condenser_rise", "approach") if (q := table.get(id_)) and q.measured.known]
    if m.round.mode == "cooling" and not any(_is_none(q) for q in outside):
        return None
    at = (("compressor", "current"),)
    numbers, names = {"off_f": inside.measured.value}, {"mode": m.round.mode}
    return Finding("no_heat_moved", CONDITION, EVERYTHING, at, minutes=3.0, numbers=numbers, names=names)


def _is_none(q: Quantity) -> bool:
    return q.measured.known and surely_below(NO_HEAT.value, abs(q.measured.value), q.measured.u95)


def _water_wrong_way(table: Table) -> Finding | None:
    """The loop water leaves colder in cooling, or warmer in heating: its ends are swapped, or the mode is another."""
    m, fields = table.measured, (("water_in", "temperature"), ("water_out", "temperature"))
    if not (isinstance(m.water, Why) and WATER_WRONG_WAY in m.water.names):
        return None
    entering_f, leaving_f = (m.round.read(*field) for field in fields)
    numbers = {"entering_f": entering_f, "leaving_f": leaving_f}
    return Finding(WATER_WRONG_WAY, CONTRADICTION, EVERYTHING, fields, minutes=3.0, numbers=numbers)


def _liquid_below_outdoor(table: Table) -> Finding | None:
    """The liquid line at the condenser is below outdoor air by more than clamp and probe leave open: it cannot be, with
    good probes.
    """
    q = table.get("approach")
    if q is None or not q.measured.known or not surely_below(0.0, q.measured.value, q.measured.u95):
        return None
    fields = (("liquid_line_outdoor", "temperature"), ("outdoor", "dry_bulb"))
    return Finding("liquid_below_outdoor", NOTE, "", fields, numbers={"below_f": -q.measured.value})


def _compressor_inlet_hot(table: Table) -> Finding | None:
    """Suction into the compressor over 65 °F overheats it: not with superheat on target, nor while a damp or hot house
    is drawn down.
    """
    round_, superheat = table.measured.round, table.get("superheat")
    line = round_.value("suction_line_outdoor", "temperature")
    if line is None or round_.mode != "cooling" or round_.equipment.kind == GROUND_SOURCE:
        return None
    limit = COMPRESSOR_INLET_LIMIT.value
    if not surely_above(limit, line, round_.line_u95_f("suction_line_outdoor")):
        return None
    known = superheat is not None and superheat.off.known
    if _drawn_down(table.measured) if not known else superheat is not None and superheat.side <= 0:
        return None
    return Finding(
        "compressor_inlet_hot",
        NOTE,
        "",
        (("suction_line_outdoor", "temperature"),),
        numbers={"line_f": line, "limit_f": limit},
    )


def _drawn_down(m: Measured) -> bool:
    """Whether the house is damp or hot, so that its load is above the usual."""
    dew_point, returning = m["return_dew_point_f"], m.round.value("return_unit", "dry_bulb")
    damp = dew_point.known and dew_point.value > HUMID_HOUSE_DEW_POINT.value
    return damp or (returning is not None and returning > RATING_RETURN_DRY_BULB.value)


def _heat_added_inside(table: Table) -> Finding | None:
    """A warm plenum with a dew point as expected or better, at an airflow in range: heat is added past the coil."""
    split, dew, flow = (table.get(id_) for id_ in ("split", "supply_dew_point", "airflow"))
    if split is None or dew is None or flow is None or split.side >= 0 or flow.state != IN_RANGE:
        return None
    dries = dew.state == IN_RANGE or dew.side < 0
    return Finding("heat_added_inside", NOTE, numbers={"warm_f": -split.off.value}) if dries else None


def _better_than_baseline(table: Table) -> Finding | None:
    """Dirt never improves a system."""
    for id_, dirt in DIRT.items():
        q = table.get(id_)
        if q is not None and q.authority == OWN_BASELINE and q.side == -dirt:
            return Finding("better_than_baseline", NOTE, names={"subject": id_}, numbers={"off": q.off.value})
    return None


BETWEEN: tuple[_Rule, ...] = (
    lambda table: compressor_off(table.measured),
    _no_heat_moved,
    _water_wrong_way,
    _ledger_open,
    _sensible_share,
    _curves_carried_on,
    _liquid_below_outdoor,
    _compressor_inlet_hot,
    _heat_added_inside,
    _better_than_baseline,
)


def findings_between(table: Table, before: tuple[Finding, ...]) -> tuple[Finding, ...]:
    """What the quantities say of each other. before: what was found already: what contradicts takes the good word about
    the coil back.
    """
    found = tuple(finding for rule in BETWEEN if (finding := rule(table)) is not None)
    found += tuple(gauge_findings(table.measured))
    contradicted = any(f.level == CONTRADICTION for f in (*before, *found))
    return tuple(f for f in found if not (contradicted and f.id == "heat_added_inside"))
