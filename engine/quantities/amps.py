"""Electrical: the compressor's draw over that of a sound one of its rating and rated amps in this weather,
and amps against the plate.
"""

from collections.abc import Mapping
from dataclasses import replace
from math import exp, hypot, log
from types import MappingProxyType

from engine.constants import (
    BTUH_PER_TON,
    CLAMP_AMPS_ACCURACY,
    COMPRESSOR_POWER_FACTOR,
    COMPRESSOR_WATTS_SPREAD,
    DRAW_PER_CONDENSING_F,
    DRAWN_OF_RATED_AMPS,
    DRAWN_OF_RATED_AMPS_SPREAD,
    ELECTRICAL_ACCURACY,
    FAN_W_PER_CFM,
    HEATING_WATTS_AT_47_SPREAD,
    MEASURED_FAN_POWER_ACCURACY,
    NO_RATING_WIDER,
    NOMINAL_CFM_PER_TON,
    PLATE_VOLTS,
    STANDS_STILL,
    USUAL_WATER_EER,
    WATTS_PER_OUTDOOR_F,
)
from engine.expected.cooling import rated_compressor_w
from engine.expected.heating import HEATING_WATTS_OF_RATED, heating_power_fraction
from engine.expected.lines import class_of
from engine.expected.today import STEP_F, Expected
from engine.physics.capacity.electrical import eer
from engine.quantities.line_scatter import CONDENSING_OF_SOUND, as_ln_tolerance
from engine.quantities.quantity import At, Quantity, compared, limited
from engine.quantities.residual import LN
from engine.readings.measured import Measured
from engine.readings.round import Equipment
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.estimate import Estimate, missing
from engine.validity.finding import CONDITION, EVERYTHING, Finding

NOTHING_SHARED: Mapping[str, float] = MappingProxyType({})
# (plate names an efficiency, plate names rated amps) -> what the expected draw goes by
_AUTHORITY = {
    (True, True): "rating_and_amps", (True, False): "rating", (False, True): "rated_amps",
    (False, False): "usual_for_its_tons",
}  # fmt: skip


def sound_compressor_w(plate: Equipment) -> tuple[float, float]:
    """(watts of a sound compressor at the rating point, how sound ones scatter about them [ln, 95 %]).

    By the efficiency rating and, where the plate names them, by the rated-load amps: two witnesses that know nothing of
    each other, each weighed by its own spread.
    """
    by_rating = COMPRESSOR_WATTS_SPREAD.value * (1.0 if plate.seer else NO_RATING_WIDER.value)
    witnesses = [(rated_compressor_w(plate.seer, plate.nominal_tons), by_rating)]
    if plate.compressor_rla:
        full = plate.compressor_rla * PLATE_VOLTS.value * COMPRESSOR_POWER_FACTOR.value
        witnesses.append((DRAWN_OF_RATED_AMPS.value * full, DRAWN_OF_RATED_AMPS_SPREAD.value))
    weight = sum(1 / spread**2 for _, spread in witnesses)
    middle = sum(log(watts) / spread**2 for watts, spread in witnesses) / weight
    return exp(middle), weight**-0.5


def rated_water_compressor_w(plate: Equipment) -> float:
    """Compressor watts of a sound ground-source unit of its EER (the plate's efficiency), at its rating's water; in
    heating at its rating's they are about the same (makers' tables, MEM).
    """
    eer_ = plate.seer or USUAL_WATER_EER.value
    return (BTUH_PER_TON.value / eer_ - FAN_W_PER_CFM.value * NOMINAL_CFM_PER_TON.value) * plate.nominal_tons


def draw(m: Measured, e: Expected) -> Quantity | None:
    """Compressor's draw in cooling [W]."""
    fraction = e.compressor_fraction
    if fraction is None:
        return None
    higher = DRAW_PER_CONDENSING_F.value * e.over_ambient.u95
    return _draw(m, fraction, WATTS_PER_OUTDOOR_F.value, machine={CONDENSING_OF_SOUND: higher})


def heating_draw(m: Measured, e: Expected) -> Quantity | None:
    """Compressor's draw in heating [W]."""
    if e.heating is None:
        return None
    returning, outdoor = m.round.read("return_unit", "dry_bulb"), m.round.read("outdoor", "dry_bulb")
    flow = float(e.heating.now.flow_fraction)
    fraction = heating_power_fraction(returning, outdoor, flow)
    per_outdoor = log(heating_power_fraction(returning, outdoor + STEP_F, flow) / fraction) / STEP_F
    more = hypot(float(e.heating.now.spread), HEATING_WATTS_AT_47_SPREAD.value)
    found = _draw(m, HEATING_WATTS_OF_RATED[class_of(m.round.equipment.seer)] * fraction, per_outdoor, more)
    if m.airflows.measured or found.residual is None:
        return found
    half = heating_power_fraction(returning, outdoor, flow / 2)  # a guessed airflow that is wrong shows in it
    slopes = {**found.residual.slopes, "airflow": log(half / fraction) / log(2)}
    return replace(found, residual=replace(found.residual, slopes=slopes))


def _draw(
    m: Measured,
    fraction: float,
    per_outdoor_f: float,
    more_spread: float = 0.0,
    machine: Mapping[str, float] = NOTHING_SHARED,
) -> Quantity:
    """fraction: of the rated watts, in this weather; per_outdoor_f: by how much ln of it goes with the outdoor air
    [1/°F]. more_spread: 95 %, added. machine: as draw_of.
    """
    plate = m.round.equipment
    rated, spread = sound_compressor_w(plate)
    return draw_of(
        m,
        rated * fraction,
        hypot(spread, more_spread),
        _AUTHORITY[bool(plate.seer), bool(plate.compressor_rla)],
        per_outdoor_f,
        machine=machine,
    )


def draw_of(
    m: Measured,
    level: float,
    spread: float,
    authority: str,
    per_outdoor_f: float = 0.0,
    weather: tuple[float, float] = (0.0, 0.0),
    machine: Mapping[str, float] = NOTHING_SHARED,
) -> Quantity:
    """Compressor's draw [W] against the level a sound one draws today. spread: of sound ones [ln, 95 %]; machine: what
    of it comes of a difference that moves other quantities too [ln, 95 %]; per_outdoor_f: as in _draw; weather: as
    Residual has it.
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
        as_ln_tolerance(level, spread),
        form=LN,
        pushes=pushes,
        authority=authority,
        basis={"seer": plate.seer or 0.0},
        residual={
            "machine": dict(machine),
            "model_u95": (spread**2 - hypot(*machine.values()) ** 2) ** 0.5,
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


def compressor_off(m: Measured) -> Finding | None:
    """The compressor's amps [A] are next to none: it does not run, whatever else was read."""
    plate, amps = m.round.equipment, m.amps("compressor")
    usual_w = rated_water_compressor_w(plate) if plate.kind == GROUND_SOURCE else sound_compressor_w(plate)[0]
    if amps is None or amps >= STANDS_STILL.value * usual_w / (PLATE_VOLTS.value * COMPRESSOR_POWER_FACTOR.value):
        return None
    return Finding(
        "compressor_off", CONDITION, EVERYTHING, (("compressor", "current"),), minutes=10.0, numbers={"amps": amps}
    )


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
