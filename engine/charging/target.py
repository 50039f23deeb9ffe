"""What a charge is set by today, and what is proved before it is touched.

In cooling and weather fit for it a TXV is set by subcooling and a fixed orifice by superheat; everything else is
weighed in, or set by the maker's chart. Common practice, no single source.
"""

from dataclasses import dataclass

from engine.assessment import Assessment
from engine.diagnosis.by_rule import airflow_proved
from engine.diagnosis.cause import COLD_LIQUID, NOT_FED
from engine.diagnosis.stop_first import FREEZING
from engine.diagnosis.verdict import CANNOT_TELL, DOES_NOT_COUNT, SOUND, STOP_FIRST
from engine.quantities.superheat import orifice_target
from engine.readings.round import ORIFICE, TXV, Round
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.margin import IN_RANGE

SUBCOOLING, SUPERHEAT, WEIGH_IN = "subcooling", "superheat", "weigh_in"
ADD, RECOVER = "add", "recover"
# Which way each target asks: what is added raises subcooling and lowers superheat.
RISES_WITH_CHARGE = {SUBCOOLING: 1.0, SUPERHEAT: -1.0}


@dataclass(frozen=True)
class Target:
    """by: what the charge is set by. value_f, tolerance_f: what it should be [°F]; zero where it is weighed in.
    of_plate: whether the plate names it. why: why it is weighed in, by id.
    """

    by: str
    value_f: float = 0.0
    tolerance_f: float = 0.0
    of_plate: bool = False
    why: str = ""


def target_of(found: Assessment) -> Target:
    """What the charge is set by at this visit."""
    round_ = found.round
    if why := _why_weighed(round_):
        return Target(WEIGH_IN, why=why)
    plate, rules = round_.equipment, round_.rules
    if plate.metering_device == TXV:
        q = found.table.get("subcooling")
        if q is None:
            return Target(WEIGH_IN, why="no_subcooling")
        return Target(SUBCOOLING, q.expected.value, rules.subcooling_tolerance_f, plate.target_subcooling_f is not None)
    target = orifice_target(found.measured)
    if not target.known:
        not_read = target.missing is not None and target.missing.id == "needs"
        return Target(WEIGH_IN, why="no_wet_bulb" if not_read else "no_target_superheat")
    charted = plate.superheat_table is not None
    return Target(SUPERHEAT, target.value, rules.orifice_superheat_tolerance_f, charted)


def _why_weighed(round_: Round) -> str:
    outdoor = round_.value("outdoor", "dry_bulb")
    if round_.mode == "heating":
        return "heating"
    if round_.equipment.kind == GROUND_SOURCE:
        return "ground_source"
    if outdoor is None:
        return "no_outdoor"
    if outdoor < round_.rules.least_outdoor_f:
        return "too_cold"
    return "" if round_.equipment.metering_device in (TXV, ORIFICE) else "device_not_known"


# Why nothing can be said of the target yet: something is not read.
NOT_READ = ("no_outdoor", "no_subcooling", "no_wet_bulb")
CLEAN = {"filter": ("clean",), "evaporator_face": ("clean",), "condenser_coil": ("dry",)}
# What shows that a part is clean where nobody could look: the quantity that would be out of range were it not.
SHOWN_BY = {"filter": "filter_drop", "evaporator_face": "coil_drop"}
ALLOWS = {ADD: ("charge_low", NOT_FED), RECOVER: ("charge_high",)}  # the groups that moving charge can mend


def points_at_charge(found: Assessment) -> bool:
    """Whether the verdict tells of the charge, too little or too much, or would were the airflow in range."""
    return _told(found) in (*ALLOWS[ADD], *ALLOWS[RECOVER])


def _told(found: Assessment) -> str:
    """The group that the verdict tells; of a liquid line that reads cold too much charge, where that is likelier than a
    coil that is not fed: refrigerant taken out of a starved machine does harm.
    """
    group, shares = found.verdict.group or found.verdict.behind.group, found.diagnosis.ranked.by_group
    return "charge_high" if group == COLD_LIQUID and shares["charge_high"] > shares["starved"] else group


def to_prove(found: Assessment, way: str) -> tuple[str, ...]:
    """What is proved before charge is moved, by id, in the order of the work: the readings count, the airflow is in
    range, filter, evaporator and condenser are clean, the causes allow it, and no clamp makes it up.
    way: ADD or RECOVER; '' for neither.
    """
    state = found.verdict.state
    if state == DOES_NOT_COUNT or (state == STOP_FIRST and not _freezes_for_want_of_charge(found, way)):
        return (state,)
    left = [] if airflow_proved(found.table) else ["airflow"]
    left += [part for part in _parts(found.round) if not _is_clean(found, part)]
    q = found.table.get("condenser_rise")
    if q is not None and q.side > 0:
        left.append("condenser_rise")
    if way and state not in (CANNOT_TELL, SOUND) and _told(found) not in ALLOWS[way]:
        left.append("cause")
    reads_cold = COLD_LIQUID in (found.verdict.group, found.verdict.behind.group)
    if reads_cold and found.round.observations.get("probes_together") != "agree":
        left.append("clamp")
    return tuple(left)


def _parts(round_: Round) -> tuple[str, ...]:
    """What has to be clean. Of a water coil, and of an outdoor coil in heating, nobody sees that."""
    condenser = round_.mode == "cooling" and round_.equipment.kind != GROUND_SOURCE
    return tuple(part for part in CLEAN if condenser or part != "condenser_coil")


def _freezes_for_want_of_charge(found: Assessment, way: str) -> bool:
    """A coil under freezing whose charge is low, and on which no ice is seen: what is added warms it."""
    urgent = found.verdict.urgent
    low = found.verdict.behind.group in ALLOWS[ADD]
    return way == ADD and low and urgent is not None and urgent.id == FREEZING


def _is_clean(found: Assessment, part: str) -> bool:
    seen = found.round.observations.get(part)
    if seen is not None and seen != "not_seen":
        return seen in CLEAN[part]
    q = found.table.get(SHOWN_BY.get(part, ""))
    return q is not None and q.state == IN_RANGE
