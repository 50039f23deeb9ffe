"""Whether two rounds of one visit agree: airflow against static, and whether a pair was read in the same way."""

from math import hypot

from engine.constants import DRY_BULB_ACCURACY
from engine.physics.airflow.drop_ratio import manometer_u95_inwc
from engine.readings.measured import Measured
from engine.uncertainty.margin import OUT_OF_RANGE, state_of, surely_above
from engine.validity.finding import NOTE, Finding

COMPARED = ("return_unit", "supply_plenum")


def disagreements(first: Measured, second: Measured) -> tuple[Finding, ...]:
    """What between two rounds cannot be, or cannot be compared."""
    found = list(airflow_against_static(first, second))
    for place in COMPARED:
        found += same_way(first, second, place)
    return tuple(found)


def airflow_against_static(first: Measured, second: Measured) -> tuple[Finding, ...]:
    """More airflow through the same ducts raises their static with about its square (turbulent flow): airflow [CFM]
    against the supply side's static.
    """
    if not (first.airflows.measured and second.airflows.measured and first.statics and second.statics):
        return ()
    before, after = abs(first.statics.supply_inwc), abs(second.statics.supply_inwc)
    if not min(before, after) > 0:
        return ()
    flow, static = second.cfm / first.cfm, after / before
    u_flow = 2 * flow**2 * hypot(first.airflow_share_u95, second.airflow_share_u95)
    u_static = static * hypot(manometer_u95_inwc(before) / before, manometer_u95_inwc(after) / after)
    if state_of(static - flow**2, hypot(u_flow, u_static), 0.0, 0.0) != OUT_OF_RANGE:
        return ()
    return (
        Finding(
            "airflow_against_static",
            NOTE,
            numbers={"flow_share": flow, "should_share": flow**2, "static_share": static},
        ),
    )


def same_way(first: Measured, second: Measured, place: str) -> tuple[Finding, ...]:
    """Whether a place was read with the same probe at the same spot in both rounds.

    A moved probe breaks the comparison; another probe only widens it by both their accuracies.
    """
    before, after = first.round.reading(place, "dry_bulb"), second.round.reading(place, "dry_bulb")
    if not (before and after):
        return ()
    if before.spot != after.spot:
        return (Finding("probe_moved", NOTE, names={"place": place, "before": before.spot, "after": after.spot}),)
    change = abs(after.value - before.value)
    apart = hypot(DRY_BULB_ACCURACY.value, DRY_BULB_ACCURACY.value)
    if before.instrument != after.instrument and not surely_above(0.0, change, apart):
        return (Finding("probe_changed", NOTE, numbers={"change_f": change}, names={"place": place}),)
    return ()
