"""What a rule of the shop or the trade finds in the readings themselves, before any cause is weighed."""

from engine.diagnosis.cause import CIRCUIT_OR_OUTDOORS, NOT_FED
from engine.physics.airflow.statics import OUTSIDE_THE_UNIT
from engine.quantities.between import plenum_warm_and_dry
from engine.quantities.quantity import OWN_BASELINE
from engine.quantities.table import Table
from engine.readings.round import CONSTANT_TORQUE, ORIFICE, PSC
from engine.uncertainty.margin import BORDERLINE, IN_RANGE

# By mode: what an approach is made of, where the high pressure is read.
APPROACH_PARTS = {"approach": ("condensing", "subcooling"), "heat_approach": ("heat_condensing", "subcooling")}
DUCT_STATICS = ("total_static", "return_drop", "supply_drop")


def airflow_proved(table: Table) -> bool:
    """Whether the airflow was measured and is in range by the shop's limits, or near the upper one: it is too little
    air that reads like a fault of the circuit.
    """
    q = table.get("airflow")
    if q is None or not table.measured.airflows.measured:
        return False
    return q.state == IN_RANGE or (q.state == BORDERLINE and q.measured.value > q.expected.value)


def flow_group(table: Table) -> str:
    """Water flow first, under what the unit is made for; then airflow, where it was measured, by the shop's limits;
    else ''.
    """
    water = table.get("water_flow")
    if water is not None and water.side < 0:
        return "water_flow"
    q = table.get("airflow")
    if q is None or not table.measured.airflows.measured:
        return ""
    return {-1: "low_airflow", 0: "", 1: "high_airflow"}[q.side]


def found_by_rule(table: Table) -> str:
    """The group that a rule of the shop or the trade finds in the readings themselves, before any cause is weighed: a
    flow out of its limits, else a supply duct that gains (in heating loses) more than a duct does, else a return duct
    that does, or draws other air; '' for none. What has changed since a baseline is weighed: the space that a duct runs
    through changes too.
    """
    worse = -1 if table.measured.round.mode == "heating" else 1
    supply, back = (_side_by_its_own(table, id_) == worse for id_ in ("unit_to_register", "grille_to_unit"))
    back = back or _side_by_its_own(table, "return_leak_share") > 0
    return flow_group(table) or ("supply_duct" if supply else "return_duct" if back else "")


MOST_IS_GAIN = 0.5  # of what a duct gains: a leak that surely explains less of it is not what warms it (working figure)


def not_of_the_return(table: Table) -> tuple[str, ...]:
    """What of the return duct's causes cannot be behind a change from grille to unit. A dew point that differs, or a
    share that surely came from elsewhere, is a leak; a share by moisture far under what the warming would take is a
    gain. Common practice, no single source; the share from the balance of mixing.
    """
    dew_point, share, gain = (table.get(id_) for id_ in ("return_dew_point", "return_leak_share", "grille_to_unit"))
    if (dew_point is not None and dew_point.side) or (share is not None and share.side > 0):
        return ("return_gain",)
    grille, attic = table.measured.air_at("return_grille"), table.measured.air_at("attic")
    if share is None or gain is None or not gain.measured.known or grille is None or attic is None:
        return ()
    by_a_leak_f = (share.measured.value + share.measured.u95) / 100.0 * (attic.dry_bulb_f - grille.dry_bulb_f)
    return ("return_leak",) if abs(by_a_leak_f) < MOST_IS_GAIN * abs(gain.measured.value) else ()


def _side_by_its_own(table: Table, id_: str) -> int:
    """On which side a quantity is out of range, where that is by no baseline; 0 for none."""
    q = table.get(id_)
    return 0 if q is None or q.authority == OWN_BASELINE else q.side


def reads_as_heated(table: Table, told: str) -> bool:
    """Whether the air alone was read, and heat added inside the unit may be all that is wrong. told: the group."""
    return told == CIRCUIT_OR_OUTDOORS and plenum_warm_and_dry(table)


def statics_with_the_airflow_right(table: Table) -> tuple[str, ...]:
    """The statics of the ducts that are high while the airflow, measured, is in range all the same: worth a word, and
    no fault of today. None before a motor that may hold its airflow (the static is then the only witness), unless
    each part was read and takes no more than is usual; nor against a baseline (something has changed).
    """
    lets_it_fall = table.measured.round.equipment.blower_motor in (PSC, CONSTANT_TORQUE)
    if not airflow_proved(table) or not (lets_it_fall or _no_part_takes_more(table)):
        return ()
    read = [q for id_ in DUCT_STATICS if (q := table.get(id_)) is not None]
    return tuple(q.id for q in read if q.side > 0 and q.authority != OWN_BASELINE)


def static_of_much_air(table: Table) -> tuple[str, ...]:
    """A total static that is high because the blower moves more air than is usual: the airflow, measured, is
    borderline high, and filter, ducts and a cased coil each take what is usual at it.
    """
    airflow, total = table.get("airflow"), table.get("total_static")
    if airflow is None or total is None or not table.measured.airflows.measured:
        return ()
    much = airflow.state == BORDERLINE and airflow.measured.value > airflow.expected.value
    if not much or total.side <= 0 or total.authority == OWN_BASELINE or not _no_part_takes_more(table):
        return ()
    return (total.id,)


def _no_part_takes_more(table: Table) -> bool:
    """Whether filter, ducts and a cased coil were read, each in range at this airflow."""
    outside = OUTSIDE_THE_UNIT[table.measured.round.equipment.unit]
    parts = [table.get(id_) for id_ in ("return_drop", "supply_drop", *(f"{part}_drop" for part in outside))]
    return all(q is not None and q.measured.known and q.state == IN_RANGE for q in parts)


def approach_settled_by_gauge(table: Table) -> tuple[str, ...]:
    """The approach that is out of range where both its parts were read by gauge and neither is: it is condensing less
    subcooling, and says nothing that they do not. None against a baseline: something has changed.
    """
    for approach, parts in APPROACH_PARTS.items():
        q = table.get(approach)
        read = [part for id_ in parts if (part := table.get(id_)) and part.state in (IN_RANGE, BORDERLINE)]
        if q is not None and q.side and q.authority != OWN_BASELINE and len(read) == len(parts):
            return (approach,)
    return ()


def restart_group(table: Table) -> str:
    """What a restart reading tells: 'low_airflow', NOT_FED, or '' for neither. Common practice, no single source.

    TXV: superheat no higher than usual with a normal to high split is airflow; orifice: low superheat with a high
    split. High superheat with a low split is a coil that is not fed. Without gauges a high split alone says airflow.
    """
    split, superheat = table.get("split"), table.get("superheat")
    if split is None or not split.off.known:
        return ""
    if superheat is None or not superheat.off.known:
        return "low_airflow" if split.side > 0 else ""
    if superheat.side > 0:
        return NOT_FED if split.side < 0 else ""
    if table.measured.round.equipment.metering_device == ORIFICE:
        return "low_airflow" if superheat.side < 0 and split.side > 0 else ""
    return "low_airflow" if split.side >= 0 else ""
