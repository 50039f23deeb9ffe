"""What the quantities say of each other: what contradicts what, and what is worth a note."""

from collections.abc import Callable

from engine.constants import (
    COMPRESSOR_INLET_LIMIT,
    HUMID_HOUSE_DEW_POINT,
    NO_HEAT,
    RATING_RETURN_DRY_BULB,
    SUPPLY_DEW_POINT_SPREAD,
)
from engine.quantities.amps import compressor_off
from engine.quantities.by_gauge import gauge_findings
from engine.quantities.quantity import OWN_BASELINE, Quantity
from engine.quantities.table import DIRT, Table
from engine.readings.measured import WATER_WRONG_WAY, Measured
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.estimate import Why
from engine.uncertainty.margin import CANT_TELL, IN_RANGE, surely_above, surely_below
from engine.validity.finding import CONDITION, CONTRADICTION, EVERYTHING, NOTE, Finding

_Rule = Callable[[Table], Finding | None]


def _ledger_open(table: Table) -> Finding | None:
    """A ledger that cannot close. Too little air through the condenser is a fault of its own, no contradiction."""
    ledger = table.ledger
    if ledger is None or not ledger.open:
        return None
    if ledger.implied_cfm is not None and ledger.band_cfm is not None and ledger.implied_cfm.value < ledger.band_cfm[0]:
        return None
    short = ledger.closed is not None and ledger.closed.gap_btuh < 0
    unseen = short and table.measured.round.seen.get("strip_heat") not in ("none", "off")
    side = "given_out" if ledger.closed is None else "strips" if unseen else "air"
    return Finding("ledger_open", CONTRADICTION, names={"doubted": side})


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
    inside = table.over_the_coil
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


def plenum_warm_and_dry(table: Table) -> bool:
    """Whether the plenum is too warm while its dew point is as expected or better: heat is added past the coil, or the
    coil is not fed enough (what is fed of it is the colder). Strips that are not there add none; what a register tells
    of a plenum may be the duct's. Of a coil that should take next to no moisture the dew point tells nothing.
    """
    split, dew_point = table.get("split"), table.get("supply_dew_point")
    plenum = table.measured.round.reading("supply_plenum", "dry_bulb")
    if split is None or dew_point is None or split.side >= 0 or plenum is None or plenum.is_taken:
        return False
    returning = table.measured["return_dew_point_f"]
    shows = returning.known and returning.value - dew_point.expected.value > SUPPLY_DEW_POINT_SPREAD.value
    dries = dew_point.state == IN_RANGE or (dew_point.state != CANT_TELL and dew_point.off.value < 0.0)
    return shows and dries and table.measured.round.seen.get("strip_heat") != "none"


def _heat_added_inside(table: Table) -> Finding | None:
    """A warm and dry plenum at an airflow in range, where no reading says that the coil is not fed enough."""
    airflow, split = table.get("airflow"), table.get("split")
    if airflow is None or split is None or airflow.state != IN_RANGE or not plenum_warm_and_dry(table):
        return None
    leans = [q.lean for id_ in ("suction", "superheat") if (q := table.get(id_)) is not None and q.lean is not None]
    if any(lean > 1.0 for lean in leans):  # in tolerances: a suction line that is too warm
        return None
    return Finding(
        "heat_added_inside", NOTE, names={"fed": "yes" if leans else ""}, numbers={"warm_f": -split.off.value}
    )


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
