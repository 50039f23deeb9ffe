"""Superheat and subcooling by gauge over their targets, in cooling: what a pressure says when one was read."""

from math import hypot

from engine.assessment.residuals.sources import clamp
from engine.assessment.result import RoundResult
from engine.constants import (
    ORIFICE_TARGET_SPREAD,
    SUBCOOLING_SPREAD,
    SUPERHEAT_SPREAD,
    TXV_TOTAL_SUPERHEAT_HIGH,
    TXV_TOTAL_SUPERHEAT_LOW,
)
from engine.errors import EngineError
from engine.judgement.cause import ORIFICE
from engine.judgement.residuals import KINDS, Residual
from engine.readings.round import Round
from engine.refrigerant import charge
from engine.refrigerant.properties import saturation_u95_f
from engine.wording import difference


def gauge_residuals(round_: Round, air: RoundResult) -> list[Residual | None]:
    """Superheat at the outdoor unit and subcooling, where their pressures, lines and the refrigerant are known."""
    try:
        return [_superheat(round_, air), _subcooling(round_)]
    except EngineError:  # a pressure or a refrigerant outside the tables: said at the charge section
        return []


def _superheat(round_: Round, air: RoundResult) -> Residual | None:
    """TXV: the middle of the usual band of total superheat; fixed orifice: the charging formula's target."""
    low, line = round_.value("gauge_suction", "pressure"), round_.value("suction_line_outdoor", "temperature")
    plate, outdoor = round_.equipment, round_.value("outdoor", "dry_bulb")
    if not plate.refrigerant or low is None or line is None:
        return None
    least, most = TXV_TOTAL_SUPERHEAT_LOW.value, TXV_TOTAL_SUPERHEAT_HIGH.value
    target, spread, origin = (
        (least + most) / 2,
        (most - least) / 2,
        f"{difference(least, 0)} to {difference(most, 0)} is usual at the outdoor unit",
    )
    if plate.metering_device == ORIFICE:
        wet_bulb = air["return_wet_bulb_f"]
        formula = charge.orifice_target_superheat_f(wet_bulb.value, outdoor) if wet_bulb.known and outdoor is not None else None
        if formula is None:
            return None  # no target in this weather
        target, spread, origin = (
            formula,
            hypot(SUPERHEAT_SPREAD.value, ORIFICE_TARGET_SPREAD.value * formula),
            "by the charging formula",
        )
    value = charge.superheat_f(plate.refrigerant, line, low, round_.altitude_ft)
    pushes = clamp(round_, "suction_line_outdoor") | {
        "suction gauge": -saturation_u95_f(plate.refrigerant, low, round_.altitude_ft, "dew")
    }
    says = f"{difference(value)} against {difference(target)}"
    slopes = {"suction_line_outdoor": 1.0}
    return Residual(
        KINDS["superheat"], value - target, pushes, spread, SUPERHEAT_SPREAD.value, slopes, says, -target, target, origin
    )


def _subcooling(round_: Round) -> Residual | None:
    high, line = round_.value("gauge_liquid", "pressure"), round_.value("liquid_line_outdoor", "temperature")
    plate = round_.equipment
    if not plate.refrigerant or high is None or line is None:
        return None
    target, source = charge.target_subcooling_f(plate.target_subcooling_f)
    value = charge.subcooling_f(plate.refrigerant, line, high, round_.altitude_ft)
    minus_clamp = {s: -p for s, p in clamp(round_, "liquid_line_outdoor").items()}
    pushes = minus_clamp | {"liquid gauge": saturation_u95_f(plate.refrigerant, high, round_.altitude_ft, "bubble")}
    says = f"{difference(value)} against {difference(target)}"
    spread, slopes = SUBCOOLING_SPREAD.value, {"liquid_line_outdoor": -1.0}
    return Residual(
        KINDS["subcooling"], value - target, pushes, spread, spread, slopes, says, -target, target, f"target from the {source}"
    )
