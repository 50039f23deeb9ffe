"""The compressor's draw over that of a sound one of its rating in this weather."""

from math import hypot, log

from engine.assessment.residuals.sources import outdoor_sources
from engine.assessment.result import RoundResult
from engine.capacity.electrical import power_w
from engine.constants import (
    BTUH_PER_TON,
    CLAMP_AMPS_ACCURACY,
    COMPRESSOR_WATTS_SPREAD,
    EER_BY_SEER,
    EER_BY_SEER_SQUARED,
    FAN_W_PER_CFM,
    LEG_VOLTS,
    NO_RATING_WIDER,
    NO_VOLTS_SPREAD,
    NOMINAL_CFM_PER_TON,
    OUTDOOR_FAN_W_PER_TON,
    POWER_FACTOR_SPREAD,
    USUAL_SEER,
)
from engine.judgement.residuals import KINDS, Residual
from engine.readings.round import Equipment, Round

NO_GUESS = 0.05  # of anything: below it a logarithm says nothing


def _volts(amps: dict[str, float], volts: dict[str, float]) -> list[float]:
    return [volts.get(leg, LEG_VOLTS.value) for leg in amps] if len(amps) > 1 else [2 * LEG_VOLTS.value]


def rated_compressor_w(plate: Equipment) -> float:
    """Compressor watts of a sound unit of its rating at 95 °F; a heat pump's at 47 °F in heating are about the same (common practice)."""
    seer = plate.seer or USUAL_SEER.value
    eer = EER_BY_SEER.value * seer - EER_BY_SEER_SQUARED.value * seer**2
    rated = BTUH_PER_TON.value / eer - FAN_W_PER_CFM.value * NOMINAL_CFM_PER_TON.value - OUTDOOR_FAN_W_PER_TON.value
    return rated * plate.nominal_tons


def watts_residual(
    round_: Round, air: RoundResult, fraction: float, per_outdoor_f: float, more_spread: float = 0.0
) -> Residual | None:
    """Compressor watts over those of a sound unit of its rating in this weather; None where the amps were not read.

    fraction: of the rated watts, in this weather; per_outdoor_f: by how much ln of it goes with the outdoor air [1/°F]. more_spread: 95 %, added.
    """
    amps, volts = round_.by_leg("compressor", "current"), round_.by_leg("compressor", "voltage")
    if not amps or max(amps.values()) <= NO_GUESS:
        return None
    watts = power_w(_volts(amps, volts), list(amps.values()), round_.value("compressor", "power_factor")).watts
    expected = rated_compressor_w(round_.equipment) * fraction
    spread = hypot(COMPRESSOR_WATTS_SPREAD.value * (1.0 if round_.equipment.seer else NO_RATING_WIDER.value), more_spread)
    pushes = {
        "clamp amps": CLAMP_AMPS_ACCURACY.value,
        "power factor": POWER_FACTOR_SPREAD.value if volts else NO_VOLTS_SPREAD.value,
    } | {s: -per_outdoor_f * p for s, p in outdoor_sources(air).items()}
    rating = f"a sound unit of {round_.equipment.seer:g} SEER" if round_.equipment.seer else "a usual unit of its tons"
    origin = f"{rating} in this weather"
    says = f"{watts:,.0f} W against about {expected:,.0f} W"
    return Residual(
        KINDS["amps"], log(watts / expected), pushes, spread, round_.rules.amps_tolerance_share / 2, {"outdoor": -per_outdoor_f}, says,
        expected=log(expected), origin=origin,
    )  # fmt: skip
