"""The numbers and the error sources that follow from a round of readings."""

from dataclasses import dataclass
from math import hypot, nan

import numpy as np

from engine.constants import (
    CAPACITY_MODEL_SPREAD,
    DEW_POINT_ACCURACY,
    DRY_BULB_ACCURACY,
    DRY_BULB_REPEATABILITY,
    FAN_POWER_SPREAD,
    FAN_W_PER_CFM,
    HUMIDITY_REPEATABILITY_SHARE,
    MEASURED_FAN_POWER_ACCURACY,
    RH_ACCURACY,
    SENSIBLE_SHARE_AT_RATING,
    SENSIBLE_SHARE_SPREAD,
    STATION_PRESSURE_SPREAD,
    SWING_MEAN_SHARE,
    WEATHER_PRESSURE_ACCURACY,
    WEATHER_SERVICE_ACCURACY,
    WET_BULB_ACCURACY,
)
from engine.physics.airflow.methods import METHODS
from engine.readings.round import WEATHER_SERVICE, Reading, Round
from engine.readings.vocabulary import GROUND_SOURCE, HUMIDITY_QUANTITIES
from engine.uncertainty.sources import Source, split_offset

Pushes = dict[str, dict[str, float]]  # error source -> input -> what it moves it by, 95 %
HUMIDITY_ACCURACY = {"rh": RH_ACCURACY, "wet_bulb": WET_BULB_ACCURACY, "dew_point": DEW_POINT_ACCURACY}


@dataclass(frozen=True)
class Setup:
    """What differs in kind, not in number, between rounds: rounds of one setup are computed together."""

    return_humidity: str
    supply_humidity: str
    plane: str
    kind: str
    fan_measured: bool


def setup_of(round_: Round) -> Setup:
    """The setup a round belongs to."""
    humid = {place: round_.reading(place, *HUMIDITY_QUANTITIES) for place in ("return_unit", "supply_plenum")}
    airflow = round_.reading("blower", "airflow")
    return Setup(
        return_humidity=humid["return_unit"].quantity if humid["return_unit"] else "rh",
        supply_humidity=humid["supply_plenum"].quantity if humid["supply_plenum"] else "rh",
        plane=_plane(airflow),
        kind="air_conditioner" if round_.equipment.kind == "air_conditioner" else "heat_pump",
        fan_measured=round_.reading("blower", "power") is not None,
    )


def numbers_of(round_: Round) -> dict[str, float]:
    """The numeric inputs of a round; NaN for what was not read. Units as in the names of `engine.readings.air_side`."""

    def value(place: str, *quantities: str) -> float:
        reading = round_.reading(place, *quantities)
        return reading.value if reading else nan

    has_curves = round_.equipment.kind != GROUND_SOURCE
    return {
        "return_dry_bulb": value("return_unit", "dry_bulb"),
        "return_humidity": value("return_unit", *HUMIDITY_QUANTITIES),
        "supply_dry_bulb": value("supply_plenum", "dry_bulb"),
        "supply_humidity": value("supply_plenum", *HUMIDITY_QUANTITIES),
        "outdoor": value("outdoor", "dry_bulb") if has_curves else nan,
        "airflow_cfm": value("blower", "airflow"),
        "fan_w": value("blower", "power"),
        "fan_w_per_cfm": FAN_W_PER_CFM.value,
        "pressure": round_.pressure_psia,
        "nominal_tons": round_.equipment.nominal_tons,
        "capacity_factor": 1.0,
        "sensible_share": SENSIBLE_SHARE_AT_RATING.value,
    }


# Sources every round has, in this order; a round that lacks the instrument has a push of nothing.
SOURCE_LABELS = {
    "shared_dry_bulb_offset": "offset of the one air probe, which cancels in a difference",
    "return_dry_bulb_offset": "offset of the return probe",
    "supply_dry_bulb_offset": "offset of the supply probe",
    "outdoor_offset": "offset of the outdoor probe",
    "return_dry_bulb_repeat": "repeatability of return dry bulb",
    "supply_dry_bulb_repeat": "repeatability of supply dry bulb",
    "outdoor_repeat": "repeatability of outdoor dry bulb",
    "shared_humidity_offset": "offset of the one humidity sensor",
    "return_humidity_offset": "offset of the return humidity sensor",
    "supply_humidity_offset": "offset of the supply humidity sensor",
    "return_humidity_repeat": "repeatability of return humidity",
    "supply_humidity_repeat": "repeatability of supply humidity",
    "airflow_method": "the airflow method",
    "fan_power": "blower power",
    "station_pressure": "weather's effect on air pressure",
    "capacity_model": "spread of sound units about the published curve",
    "sensible_share": "sensible share at rating, which is not on the plate",
}


def pushes_of(round_: Round, setup: Setup, numbers: dict[str, float]) -> Pushes:
    """The 95 % push of every source on every input it touches, for one round.

    A probe whose identity is not known is taken as its own instrument: nothing cancels by assumption.
    """
    known = {instrument.id: instrument for instrument in round_.instruments}
    pushes: Pushes = {source: {} for source in SOURCE_LABELS}
    dry = {place: round_.reading(place, "dry_bulb") for place in ("return_unit", "supply_plenum", "outdoor")}
    humid = {place: round_.reading(place, *HUMIDITY_QUANTITIES) for place in ("return_unit", "supply_plenum")}

    for place, name in (("return_unit", "return"), ("supply_plenum", "supply"), ("outdoor", "outdoor")):
        reading = dry[place]
        instrument = known.get(reading.instrument or "") if reading else None
        accuracy = (instrument and instrument.dry_bulb_accuracy_f) or DRY_BULB_ACCURACY.value
        if reading and reading.source == WEATHER_SERVICE:
            accuracy = WEATHER_SERVICE_ACCURACY.value
        instead = reading.u95 or 0.0 if reading and reading.is_taken else 0.0
        repeat = hypot(min(DRY_BULB_REPEATABILITY.value, accuracy), swing_u95(reading), instead)
        numeric = "outdoor" if place == "outdoor" else f"{name}_dry_bulb"
        pushes[f"{numeric}_repeat"][numeric] = repeat
        shared = _same_probe(reading, dry["return_unit"], dry["supply_plenum"])
        offset = "shared_dry_bulb_offset" if shared else f"{numeric}_offset"
        pushes[offset][numeric] = split_offset(accuracy, min(DRY_BULB_REPEATABILITY.value, accuracy))

    for place, name in (("return_unit", "return"), ("supply_plenum", "supply")):
        reading = humid[place]
        instrument = known.get(reading.instrument or "") if reading else None
        quantity = reading.quantity if reading else "rh"
        accuracy = HUMIDITY_ACCURACY[quantity].value
        if quantity == "rh" and instrument and instrument.rh_accuracy_pct:
            accuracy = instrument.rh_accuracy_pct
        repeat = accuracy * HUMIDITY_REPEATABILITY_SHARE.value
        shared = _same_probe(reading, humid["return_unit"], humid["supply_plenum"])
        offset = "shared_humidity_offset" if shared else f"{name}_humidity_offset"
        pushes[offset][f"{name}_humidity"] = split_offset(accuracy, repeat)
        pushes[f"{name}_humidity_repeat"][f"{name}_humidity"] = repeat

    airflow = round_.reading("blower", "airflow")
    method = METHODS[airflow.method] if airflow and airflow.method else METHODS["nominal_guess"]
    own = airflow.u95 if airflow else None
    pushes["airflow_method"]["airflow_cfm"] = method.accuracy * numbers["airflow_cfm"] if own is None else own
    pushes["fan_power"]["fan_w_per_cfm"] = FAN_POWER_SPREAD.value * numbers["fan_w_per_cfm"]
    if setup.fan_measured:
        watts = round_.reading("blower", "power")
        own = watts.u95 if watts else None
        pushes["fan_power"] = {"fan_w": own or MEASURED_FAN_POWER_ACCURACY.value * numbers["fan_w"]}
    by_service = round_.reading("outdoor", "sea_level_pressure") is not None
    pushes["station_pressure"]["pressure"] = (
        WEATHER_PRESSURE_ACCURACY if by_service else STATION_PRESSURE_SPREAD
    ).value
    pushes["capacity_model"]["capacity_factor"] = CAPACITY_MODEL_SPREAD.value
    pushes["sensible_share"]["sensible_share"] = SENSIBLE_SHARE_SPREAD.value
    return pushes


def swing_u95(reading: Reading | None) -> float:
    """95 % that the swing of a reading adds to its mean, in the reading's unit."""
    return SWING_MEAN_SHARE.value * reading.swing if reading else 0.0


def as_sources(pushes: list[Pushes]) -> list[Source]:
    """The sources of a batch: one per id that pushes anything, each push an array over the rounds."""
    sources = []
    for source, label in SOURCE_LABELS.items():
        names = sorted({name for row in pushes for name in row[source]})
        columns = tuple((name, np.array([row[source].get(name, 0.0) for row in pushes])) for name in names)
        if columns:
            sources.append(Source(source, label, columns))
    return sources


def _plane(airflow: Reading | None) -> str:
    if airflow is None:
        return "return"
    return airflow.plane or METHODS[airflow.method or "nominal_guess"].plane


def _same_probe(reading: Reading | None, first: Reading | None, second: Reading | None) -> bool:
    """Whether this reading is of a probe that read both ends of the pair."""
    if not (reading and first and second and reading.instrument):
        return False
    same = first.instrument == second.instrument == reading.instrument
    return same and first.quantity == second.quantity == reading.quantity
