"""Electrical: the compressor's draw over that of a sound one of its rating in this weather,
and amps against the plate.
"""

from math import exp, hypot, log

from engine.constants import (
    BTUH_PER_TON,
    CLAMP_AMPS_ACCURACY,
    COMPRESSOR_WATTS_SPREAD,
    EER_BY_SEER,
    EER_BY_SEER_SQUARED,
    ELECTRICAL_ACCURACY,
    FAN_W_PER_CFM,
    MEASURED_FAN_POWER_ACCURACY,
    NO_RATING_WIDER,
    NOMINAL_CFM_PER_TON,
    OUTDOOR_FAN_W_PER_TON,
    USUAL_SEER,
    USUAL_WATER_EER,
    WATTS_PER_OUTDOOR_F,
)
from engine.expected.cooling import power_fraction
from engine.expected.heating import heating_power_fraction
from engine.expected.today import STEP_F, Expected
from engine.physics.capacity.electrical import eer
from engine.quantities.quantity import At, Quantity, compared, limited
from engine.quantities.residual import LN
from engine.readings.measured import Measured
from engine.readings.round import Equipment
from engine.uncertainty.estimate import Estimate, missing


def rated_compressor_w(plate: Equipment) -> float:
    """Compressor watts of a sound unit of its rating at 95 °F; a heat pump's at 47 °F in heating are about the same
    (common practice).
    """
    seer = plate.seer or USUAL_SEER.value
    eer = EER_BY_SEER.value * seer - EER_BY_SEER_SQUARED.value * seer**2
    rated = BTUH_PER_TON.value / eer - FAN_W_PER_CFM.value * NOMINAL_CFM_PER_TON.value - OUTDOOR_FAN_W_PER_TON.value
    return rated * plate.nominal_tons


def rated_water_compressor_w(plate: Equipment) -> float:
    """Compressor watts of a sound ground-source unit of its EER (the plate's efficiency), at its rating's water; in
    heating at its rating's they are about the same (makers' tables, MEM).
    """
    eer_ = plate.seer or USUAL_WATER_EER.value
    return (BTUH_PER_TON.value / eer_ - FAN_W_PER_CFM.value * NOMINAL_CFM_PER_TON.value) * plate.nominal_tons


def draw(m: Measured, e: Expected) -> Quantity | None:
    """Compressor's draw in cooling [W]."""
    wet_bulb, flow, outdoor = (
        e["expected_wet_bulb_used_f"],
        e["expected_flow_fraction"],
        m.round.value("outdoor", "dry_bulb"),
    )
    if not (wet_bulb.known and flow.known) or outdoor is None:
        return None
    kind = "air_conditioner" if m.round.equipment.kind == "air_conditioner" else "heat_pump"
    return _draw(m, power_fraction(kind, wet_bulb.value, outdoor, flow.value), WATTS_PER_OUTDOOR_F.value)


def heating_draw(m: Measured, e: Expected) -> Quantity | None:
    """Compressor's draw in heating [W]."""
    if e.heating is None:
        return None
    returning, outdoor = m.round.read("return_unit", "dry_bulb"), m.round.read("outdoor", "dry_bulb")
    flow = float(e.heating.now.flow_fraction)
    fraction = heating_power_fraction(returning, outdoor, flow)
    per_outdoor = log(heating_power_fraction(returning, outdoor + STEP_F, flow) / fraction) / STEP_F
    return _draw(m, fraction, per_outdoor, float(e.heating.now.spread))


def _draw(m: Measured, fraction: float, per_outdoor_f: float, more_spread: float = 0.0) -> Quantity:
    """fraction: of the rated watts, in this weather; per_outdoor_f: by how much ln of it goes with the outdoor air
    [1/°F]. more_spread: 95 %, added.
    """
    plate = m.round.equipment
    spread = hypot(COMPRESSOR_WATTS_SPREAD.value * (1.0 if plate.seer else NO_RATING_WIDER.value), more_spread)
    return draw_of(m, rated_compressor_w(plate) * fraction, spread, per_outdoor_f)


def draw_of(
    m: Measured,
    level: float,
    spread: float,
    per_outdoor_f: float = 0.0,
    weather: tuple[float, float] = (0.0, 0.0),
) -> Quantity:
    """Compressor's draw [W] against the level a sound one draws today. spread: of sound ones [ln, 95 %];
    per_outdoor_f: as in _draw; weather: as Residual has it.
    """
    plate, load = m.round.equipment, m.loads.get("compressor")
    measured = (
        missing("W", "needs", "compressor's amps")
        if load is None
        else Estimate(load.watts, load.share_u95 * load.watts, "W")
    )
    pushes = {}
    if load is not None:
        own = (
            {"metered watts": MEASURED_FAN_POWER_ACCURACY.value}
            if load.way == "metered"
            else {"clamp amps": CLAMP_AMPS_ACCURACY.value, "power factor": load.factor_u95}
        )
        pushes = own | {s: -per_outdoor_f * p for s, p in m.on("outdoor").items()}
    return compared(
        "amps",
        "W",
        measured,
        Estimate(level, spread * level, "W"),
        (level * (1 - exp(-spread)), level * (exp(spread) - 1)),
        form=LN,
        pushes=pushes,
        authority="rating" if plate.seer else "usual_for_its_tons",
        basis={"seer": plate.seer or 0.0},
        residual={
            "model_u95": spread,
            "repeat_u95": m.round.rules.amps_tolerance_share / 2,
            "slopes": {"outdoor": -per_outdoor_f},
            "weather": weather,
        },
    )


def plate_amps(m: Measured) -> list[Quantity]:
    """Amps of compressor and outdoor fan [A] against the plate, where the plate names them."""
    plate, found = m.round.equipment, []
    for place, limit in (("compressor", plate.compressor_rla), ("outdoor_fan", plate.outdoor_fan_fla)):
        amps = m.amps(place)
        if limit:
            measured = (
                missing("A", "needs", f"{place} amps")
                if amps is None
                else Estimate(amps, CLAMP_AMPS_ACCURACY.value * amps, "A")
            )
            at = At(place, "current", own_u95=measured.u95 if measured.known else 0.0)
            found.append(limited(f"{place}_amps", "A", measured, limit, authority="plate", at=at))
    return found


def efficiency(m: Measured) -> tuple[Estimate, Estimate] | None:
    """All electrical power [W] and the energy efficiency ratio [BTU/h per W], where every load and the net capacity are
    known. Cooling.
    """
    net = m["total_btuh"]
    if m.round.mode != "cooling" or m.airflows.assumed or len(m.loads) < 3 or not net.known or not net.value > 0:
        return None
    total = sum(load.watts for load in m.loads.values())
    ratio = eer(net.value, total)
    power = Estimate(total, ELECTRICAL_ACCURACY.value * total, "W")
    return power, Estimate(ratio, ratio * hypot(net.u95 / net.value, ELECTRICAL_ACCURACY.value), "BTU/h per W")
