"""Ground source: the water's flow, the heat it moves against the unit's own table, and whether air and water agree."""

from math import exp, hypot, log, sqrt

from engine.constants import (
    AIRFLOW_SPREAD_SOUND,
    BTUH_PER_TON,
    CLOSURE_SPREAD,
    COOLING_WATTS_PER_WATER_F,
    DESIGN_FLOW_SPREAD,
    ELECTRICAL_ACCURACY,
    EXTRACTED_PER_WATER_F,
    EXTRACTED_SHARE,
    EXTRACTED_SPREAD,
    HEAT_MOVED_PER_FLOW,
    HEAT_MOVED_PER_WATER_F,
    HEAT_MOVED_REPEAT,
    HEAT_MOVED_TABLE_SPREAD,
    HEATING_WATTS_PER_WATER_F,
    LOOP_UNKNOWN_FLOW_SPREAD,
    NO_RATING_WIDER,
    OPEN_WELL_GPM_PER_TON,
    RATED_WATER_COOLING,
    RATED_WATER_HEATING,
    REJECTED_PER_WATER_F,
    REJECTED_SPREAD,
    TABLE_CARRIED_ON_DOUBT,
    USUAL_WATER_EER,
    WATER_FLOW_REPEAT,
    WATER_FLOW_SPREAD,
    WATER_GPM_PER_TON,
    WATER_PROBE_PAIR_ACCURACY,
    WATER_WATTS_SPREAD,
    WATTS_PER_WATER_F_DOUBT,
    WINTER_HUMIDITY_RATIO,
)
from engine.errors import EngineError
from engine.physics.air import moist
from engine.physics.water.exchanger import published
from engine.quantities.amps import draw_of, rated_water_compressor_w
from engine.quantities.capacity import delivered_heating
from engine.quantities.quantity import At, Quantity, compared
from engine.quantities.residual import LN, SHARE
from engine.readings.measured import Measured, Water
from engine.uncertainty.estimate import Estimate
from engine.uncertainty.sources import less
from engine.units import BTUH_PER_W


def water_flow(m: Measured) -> Quantity | None:
    """Water flow [GPM]: against the plate's design flow, else between the ends of the unit's own table (an open well
    runs at about half a closed loop's flow: at the least the table has), else about the usual of its kind of loop.
    """
    water = m.water
    if not isinstance(water, Water):
        return None
    usual, spread, authority = _usual_flow(m)
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


def _usual_flow(m: Measured) -> tuple[float, float, str]:
    """(flow of a sound unit [GPM], its spread [ln, 95 %], where from)."""
    plate, table = m.round.equipment, m.round.equipment.heat_moved_table(m.round.mode)
    if plate.design_gpm is not None:
        return plate.design_gpm, DESIGN_FLOW_SPREAD.value, "plate"
    if table is not None:
        low, high = table.columns[0], table.columns[-1]
        if plate.loop == "open_well":
            return low, WATER_FLOW_SPREAD.value, "own_table_open_well"
        return sqrt(low * high), log(high / low) / 2, "own_table"
    closed, well = WATER_GPM_PER_TON.value * plate.nominal_tons, OPEN_WELL_GPM_PER_TON.value * plate.nominal_tons
    if plate.loop == "closed":
        return closed, WATER_FLOW_SPREAD.value, "closed_loop"
    if plate.loop == "open_well":
        return well, WATER_FLOW_SPREAD.value, "open_well"
    return sqrt(closed * well), LOOP_UNKNOWN_FLOW_SPREAD.value, "usual_for_its_tons"


def heat_moved(m: Measured) -> Quantity | None:
    """Heat of rejection (cooling) or extraction (heating) [BTU/h], like with like against the unit's own table, else
    what its tons make usual at this entering water and flow.
    """
    water, plate = m.water, m.round.equipment
    if not isinstance(water, Water):
        return None
    level, spread, authority, beyond = _usual_heat(m, water)
    over = water.heat.value / level
    pushes = {
        "water flow": over * water.flow.u95 / water.flow.value,
        "water probes": over * WATER_PROBE_PAIR_ACCURACY.value / water.difference_f,
    }
    house = m.round.rules.rejection_tolerance_share if authority == "own_table" else spread
    tolerance = max(house, spread) * level
    residual = {
        "model_u95": spread,
        "repeat_u95": HEAT_MOVED_REPEAT.value,
        "slopes": {"water_pair": over / water.difference_f},
        "weather": (
            m.round.read("water_in", "temperature"),
            0.0 if authority == "own_table" else HEAT_MOVED_PER_WATER_F.value,
        ),
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
        basis={
            "nominal_btuh": BTUH_PER_TON.value * plate.nominal_tons,
            "beyond_table_btuh": beyond,
            "takes_antifreeze": float(water.physics.takes_antifreeze),
        },
        residual=residual,
    )


def _usual_heat(m: Measured, water: Water) -> tuple[float, float, str, float]:
    """(heat a sound unit moves [BTU/h], its spread [share, 95 %], where from, what of it lies beyond the table)."""
    plate, entering = m.round.equipment, m.round.read("water_in", "temperature")
    table = plate.heat_moved_table(m.round.mode)
    if table is not None:
        try:
            level, beyond = published(table, plate.model, entering, water.flow.value)
        except EngineError:
            table = None  # further outside than its trend goes on: what its tons make usual
        else:
            doubt = TABLE_CARRIED_ON_DOUBT.value * abs(beyond) / level
            return level, hypot(HEAT_MOVED_TABLE_SPREAD.value, doubt), "own_table", beyond
    share, scatter, rated, per_f = (
        (rejected_share(plate.seer), REJECTED_SPREAD, RATED_WATER_COOLING, REJECTED_PER_WATER_F)
        if water.kind == "rejection"
        else (EXTRACTED_SHARE.value, EXTRACTED_SPREAD, RATED_WATER_HEATING, EXTRACTED_PER_WATER_F)
    )
    away, usual = entering - rated.value, _usual_flow(m)[0]
    by_water = exp(per_f.value * away + HEAT_MOVED_PER_FLOW.value * log(water.flow.value / usual))
    spread = hypot(scatter.value, HEAT_MOVED_PER_WATER_F.value * away)
    return share * BTUH_PER_TON.value * plate.nominal_tons * by_water, spread, "usual_for_its_tons", 0.0


def rejected_share(eer: float | None) -> float:
    """Heat of rejection over nominal tons [share] at the cooling rating of a unit of this EER [BTU/Wh], the usual one
    where the plate is silent: what the air gives and the electricity besides (energy balance), 1 + 3.412 / EER.
    """
    return 1.0 + BTUH_PER_W / (eer or USUAL_WATER_EER.value)


def water_draw(m: Measured) -> Quantity | None:
    """Compressor's draw of a ground-source unit [W], by its rating and the entering water: what tells a fouled water
    coil from a circuit that is short.
    """
    entering, plate = m.round.value("water_in", "temperature"), m.round.equipment
    if entering is None:
        return None
    rated, per_f = (
        (RATED_WATER_COOLING, COOLING_WATTS_PER_WATER_F)
        if m.round.mode == "cooling"
        else (RATED_WATER_HEATING, HEATING_WATTS_PER_WATER_F)
    )
    away = entering - rated.value
    return draw_of(
        m,
        rated_water_compressor_w(plate) * exp(per_f.value * away),
        hypot(
            WATER_WATTS_SPREAD.value * (1.0 if plate.seer else NO_RATING_WIDER.value),
            WATTS_PER_WATER_F_DOUBT.value * away,
        ),
        "rating" if plate.seer else "usual_for_its_tons",
        weather=(entering, WATTS_PER_WATER_F_DOUBT.value),
    )


def closure(m: Measured) -> Quantity | None:
    """Heat that the air gains against what water and electricity account for, both as shares of the heat the water
    moves.
    """
    water, watts = m.water, m.electrical_w
    by_air = _gained(m)
    if not isinstance(water, Water) or watts is None or by_air is None:
        return None
    gained, pushes = by_air
    heat, electrical, sign = water.heat.value, watts * BTUH_PER_W, 1.0 if m.round.mode == "cooling" else -1.0
    accounted = electrical - sign * heat
    pushes = {s: p / heat for s, p in pushes.items()}
    slopes = m.slopes(pushes) | {"water_pair": sign / water.difference_f}
    pushes |= {
        "water flow": sign * water.flow.u95 / water.flow.value,
        "water probes": sign * WATER_PROBE_PAIR_ACCURACY.value / water.difference_f,
    }
    pushes["electrical"] = -ELECTRICAL_ACCURACY.value * electrical / heat
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


def _gained(m: Measured) -> tuple[float, dict[str, float]] | None:
    """Heat the air gains [BTU/h] and the pushes of the error sources on it; None where it is not known."""
    if m.round.mode == "cooling":
        taken = m["total_less_condensate_btuh"]
        pushes = less({}, m.parts("total_less_condensate_btuh"))
        return (-taken.value, pushes) if taken.known else None
    warmed = delivered_heating(m)
    if not warmed.known or m["split_f"].missing:
        return None
    per_f = m.cfm * 60.0 / m.volumes["return"] * float(moist.specific_heat_btulbf(WINTER_HUMIDITY_RATIO.value))
    pushes = {s: per_f * p for s, p in less(m.on("supply"), m.on("return")).items()}
    return warmed.value, pushes | {"airflow_method": m.airflow_share_u95 * warmed.value}
