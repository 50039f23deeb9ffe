"""Ground source: the water's flow, the heat it moves against the unit's own table, and whether air and water agree."""

from math import exp, hypot, log, sqrt

from engine.constants import (
    AIRFLOW_SPREAD_SOUND,
    BTUH_PER_TON,
    CLOSURE_SPREAD,
    ELECTRICAL_ACCURACY,
    EXTRACTED_SHARE,
    HEAT_MOVED_REPEAT,
    HEAT_MOVED_SPREAD,
    HEAT_MOVED_TABLE_SPREAD,
    HEAT_REJECTED_RATIO,
    WATER_FLOW_REPEAT,
    WATER_FLOW_SPREAD,
    WATER_GPM_PER_TON,
    WATER_PROBE_PAIR_ACCURACY,
    WINTER_HUMIDITY_RATIO,
)
from engine.errors import EngineError
from engine.physics.air import moist
from engine.physics.water.exchanger import published
from engine.quantities.capacity import delivered_heating
from engine.quantities.quantity import At, Quantity, compared
from engine.quantities.residual import LN, SHARE
from engine.readings.measured import Measured, Water
from engine.uncertainty.estimate import Estimate
from engine.units import BTUH_PER_W


def water_flow(m: Measured) -> Quantity | None:
    """Water flow [GPM]: between the ends of the unit's own table where it has one,
    else about the usual for its tons.
    """
    water = m.water
    if not isinstance(water, Water):
        return None
    plate, spread = m.round.equipment, WATER_FLOW_SPREAD.value
    usual, authority = WATER_GPM_PER_TON.value * plate.nominal_tons, "usual_for_its_tons"
    if plate.heat_table is not None:
        low, high = plate.heat_table.columns[0], plate.heat_table.columns[-1]
        usual, spread, authority = sqrt(low * high), log(high / low) / 2, "own_table"
    pushes = {"water flow": water.flow.u95 / water.flow.value}
    tolerance = (usual * (1 - exp(-spread)), usual * (exp(spread) - 1))
    residual = {"model_u95": spread, "repeat_u95": WATER_FLOW_REPEAT.value}
    return compared(
        "water_flow",
        "GPM",
        water.flow,
        Estimate(usual, spread * usual, "GPM"),
        tolerance,
        form=LN,
        pushes=pushes,
        authority=authority,
        at=At("water_loop", "flow", own_u95=water.flow.u95),
        residual=residual,
    )


def heat_moved(m: Measured) -> Quantity | None:
    """Heat of rejection (cooling) or extraction (heating) [BTU/h], like with like against the unit's own table, else
    what its tons make usual.
    """
    water, plate = m.water, m.round.equipment
    if not isinstance(water, Water):
        return None
    share = HEAT_REJECTED_RATIO.value if water.kind == "rejection" else EXTRACTED_SHARE.value
    level, spread, authority = (
        share * BTUH_PER_TON.value * plate.nominal_tons,
        HEAT_MOVED_SPREAD.value,
        "usual_for_its_tons",
    )
    if plate.heat_table is not None:
        try:
            level = published(plate.heat_table, plate.model, m.round.read("water_in", "temperature"), water.flow.value)
            spread, authority = HEAT_MOVED_TABLE_SPREAD.value, "own_table"
        except EngineError:
            pass  # outside its table: what its tons make usual, with a wider margin, and the words say so
    over = water.heat.value / level
    pushes = {
        "water flow": over * water.flow.u95 / water.flow.value,
        "water probes": over * WATER_PROBE_PAIR_ACCURACY.value / water.difference_f,
    }
    tolerance = (m.round.rules.rejection_tolerance_share if authority == "own_table" else spread) * level
    residual = {
        "model_u95": spread,
        "repeat_u95": HEAT_MOVED_REPEAT.value,
        "slopes": {"water_pair": over / water.difference_f},
    }
    return compared(
        "heat_moved",
        "BTU/h",
        water.heat,
        Estimate(level, spread * level, "BTU/h"),
        (tolerance, tolerance),
        form=SHARE,
        pushes=pushes,
        authority=authority,
        basis={"nominal_btuh": BTUH_PER_TON.value * plate.nominal_tons},
        residual=residual,
    )


def closure(m: Measured) -> Quantity | None:
    """Heat that the air gains against what water and electricity account for, both as shares of the heat the water
    moves.
    """
    water, watts = m.water, m.electrical_w
    by_air = _gained(m)
    if not isinstance(water, Water) or watts is None or by_air is None:
        return None
    gained, pushes, per_f = by_air
    heat, electrical, sign = water.heat.value, watts * BTUH_PER_W, 1.0 if m.round.mode == "cooling" else -1.0
    accounted = electrical - sign * heat
    pushes = {s: p / heat for s, p in pushes.items()}
    pushes |= {
        "water flow": sign * water.flow.u95 / water.flow.value,
        "water probes": sign * WATER_PROBE_PAIR_ACCURACY.value / water.difference_f,
    }
    pushes["electrical"] = -ELECTRICAL_ACCURACY.value * electrical / heat
    slopes = {"water_pair": sign / water.difference_f, "supply": per_f / heat, "return": -per_f / heat}
    if not m.airflows.measured:
        slopes["airflow"] = pushes.pop("airflow_method", 0.0) / m.airflow_share_u95
        pushes["airflow_of_sound_systems"] = slopes["airflow"] * AIRFLOW_SPREAD_SOUND.value
    spread = CLOSURE_SPREAD.value
    measured = Estimate(gained / heat, hypot(*pushes.values()), "")
    return compared(
        "closure",
        "",
        measured,
        Estimate(accounted / heat, spread, ""),
        (spread, spread),
        pushes=pushes,
        authority="energy_balance",
        basis={"air_btuh": gained, "accounted_btuh": accounted},
        assumed_airflow=m.airflows.assumed,
        residual={"model_u95": spread, "repeat_u95": spread, "slopes": slopes},
    )


def _gained(m: Measured) -> tuple[float, dict[str, float], float] | None:
    """Heat the air gains [BTU/h], the pushes of the error sources on it, and what one °F of supply air makes of it;
    None where it is not known.
    """
    per_f = m.cfm * 60.0 / m.volumes["return"] * float(moist.specific_heat_btulbf(WINTER_HUMIDITY_RATIO.value))
    if m.round.mode == "cooling":
        taken = m["total_less_condensate_btuh"]
        return (
            (-taken.value, {s: -p for s, p in m.parts("total_less_condensate_btuh").items()}, per_f)
            if taken.known
            else None
        )
    warmed = delivered_heating(m)
    if not warmed.known or m["split_f"].missing:
        return None
    supply, ret = m.on("supply"), m.on("return")
    pushes = {s: per_f * (supply.get(s, 0.0) - ret.get(s, 0.0)) for s in supply.keys() | ret.keys()}
    return warmed.value, pushes | {"airflow_method": m.airflow_share_u95 * warmed.value}, per_f
