"""Residuals of a ground-source unit in either mode: its airflow and ducts, the water's flow and heat, and whether air and water agree."""

from math import log

from engine.air import moist
from engine.assessment.heating import USUAL_WINTER_HUMIDITY, heating_section
from engine.assessment.residuals.air import airflow_residual, drops, ducts
from engine.assessment.residuals.sources import airflow_accuracy, measured, parts, pushed
from engine.assessment.result import RoundResult
from engine.assessment.sections import Section, electrical_watts, volumes, water_section
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
)
from engine.judgement.residuals import KINDS, Residual
from engine.readings.round import Round
from engine.units import BTUH_PER_W
from engine.wording import capacity


def water_residuals(round_: Round, air: RoundResult) -> list[Residual]:
    """The residuals of a ground-source round. air: the round as assessed, with the airflow it has."""
    water = water_section(round_)
    found = [airflow_residual(round_, air), *drops(round_, air), *ducts(round_), _flow(round_, water), _moved(round_, water)]
    return [r for r in (*found, _closure(round_, air, water)) if r is not None]


def _heat(water: Section) -> float | None:
    found = water.values.get("rejection_btuh") or water.values.get("extraction_btuh")
    return found.value if found else None


def _flow(round_: Round, water: Section) -> Residual | None:
    flow = water.values.get("water_flow_gpm")
    if flow is None:
        return None
    usual = WATER_GPM_PER_TON.value * round_.equipment.nominal_tons
    says = f"{flow.value:.1f} GPM; {usual:.1f} is usual"
    pushes = {"water flow": flow.u95 / flow.value}
    return Residual(
        KINDS["water_flow"], log(flow.value / usual), pushes, WATER_FLOW_SPREAD.value, WATER_FLOW_REPEAT.value, {}, says
    )


def _moved(round_: Round, water: Section) -> Residual | None:
    """Heat of rejection or extraction over the unit's own table, or over what its tons make usual."""
    heat, table = _heat(water), water.values.get("published_btuh")
    if heat is None:
        return None
    share = HEAT_REJECTED_RATIO.value if round_.mode == "cooling" else EXTRACTED_SHARE.value
    expected = table.value if table else share * BTUH_PER_TON.value * round_.equipment.nominal_tons
    spread = HEAT_MOVED_TABLE_SPREAD.value if table else HEAT_MOVED_SPREAD.value
    says = f"{capacity(heat)} against {capacity(expected)}{' in its table' if table else ', usual for its tons'}"
    return Residual(
        KINDS["heat_moved"], heat / expected - 1.0, _pushes(round_, water, heat / expected), spread, HEAT_MOVED_REPEAT.value,
        _slopes(round_, heat / expected), says, expected=log(expected),
    )  # fmt: skip


def _pushes(round_: Round, water: Section, share: float) -> dict[str, float]:
    flow, difference = water.values["water_flow_gpm"], _difference(round_)
    return {"water flow": share * flow.u95 / flow.value, "water probes": share * WATER_PROBE_PAIR_ACCURACY.value / difference}


def _slopes(round_: Round, share: float) -> dict[str, float]:
    return {"water_pair": share / _difference(round_)}


def _difference(round_: Round) -> float:
    return abs(round_.value("water_out", "temperature") - round_.value("water_in", "temperature"))


def _closure(round_: Round, air: RoundResult, water: Section) -> Residual | None:
    """Heat that the air gains over what water and electricity account for, as a share of what the water moves."""
    heat, watts, by_air = _heat(water), electrical_watts(round_), _gained(round_, air)
    if heat is None or watts is None or by_air is None:
        return None
    gained, pushes, per_f = by_air
    electrical, sign = watts * BTUH_PER_W, 1.0 if round_.mode == "cooling" else -1.0
    accounted = electrical - sign * heat
    pushes = {s: p / heat for s, p in pushes.items()} | {s: sign * p for s, p in _pushes(round_, water, 1.0).items()}
    pushes["electrical"] = -ELECTRICAL_ACCURACY.value * electrical / heat
    slopes = {reading: sign * slope for reading, slope in _slopes(round_, 1.0).items()} | {
        "supply": per_f / heat,
        "return": -per_f / heat,
    }
    if not measured(round_):
        slopes["airflow"] = pushes.pop("airflow_method", 0.0) / airflow_accuracy(round_)
        pushes["airflow_of_sound_systems"] = slopes["airflow"] * AIRFLOW_SPREAD_SOUND.value
    says = f"{capacity(abs(gained))} by the air, {capacity(abs(accounted))} by water and electricity"
    return Residual(
        KINDS["closure"], (gained - accounted) / heat, pushes, CLOSURE_SPREAD.value, CLOSURE_SPREAD.value, slopes, says
    )


def _gained(round_: Round, air: RoundResult) -> tuple[float, dict[str, float], float] | None:
    """Heat the air gains [BTU/h], the pushes of the error sources on it, and what one °F of supply air makes of it; None where it is not known."""
    flow = air["cfm_per_ton"]
    if not flow.known:
        return None
    cfm = flow.value * round_.equipment.nominal_tons
    per_f = cfm * 60.0 / volumes(round_)["return"] * float(moist.specific_heat_btulbf(USUAL_WINTER_HUMIDITY))
    if round_.mode == "cooling":
        taken = air["total_less_condensate_btuh"]
        return (
            (-taken.value, {s: -p for s, p in parts(air, "total_less_condensate_btuh").items() if p}, per_f)
            if taken.known
            else None
        )
    warmed = heating_section(round_).values.get("delivered_btuh")
    if warmed is None:
        return None
    pushes = {s.id: per_f * (pushed(air, s.id, "supply") - pushed(air, s.id, "return")) for s in air.carried.sources}
    return (
        warmed.value,
        {s: p for s, p in pushes.items() if p} | {"airflow_method": airflow_accuracy(round_) * warmed.value},
        per_f,
    )
