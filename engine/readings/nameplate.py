"""What a nameplate contradicts in itself, and what is taken where it is silent. Ids and numbers: never filled in
quietly.
"""

import dataclasses
from collections.abc import Iterator

from engine.constants import BTUH_PER_TON, NOMINAL_CFM_PER_TON
from engine.readings.round import TXV, Equipment
from engine.readings.vocabulary import GROUND_SOURCE

# Years between which equipment with a refrigerant left the factory: first residential units, last charged in new ones
# (US practice, MEM).
REFRIGERANT_YEARS = {
    "R-22": (1950, 2010),
    "R-410A": (1996, 2025),
    "R-32": (2013, 2100),
    "R-454B": (2020, 2100),
    "R-407C": (1995, 2025),
}
RLA_PER_TON = (2.5, 9.0)  # rated-load amps at 230 V per ton: old single-speed at the top, inverter at the bottom (MEM)
TONS_STEP = 0.5
# How far what the tons want may lie outside the blower table (working figure)
LEAST_OF_TABLE, MOST_OF_TABLE = 0.8, 1.15


@dataclasses.dataclass(frozen=True)
class PlateFinding:
    """Something about the plate: permanent id, the field it is shown at, its numbers and names. Words:
    engine.report.plate_words.
    """

    id: str
    field: str
    numbers: dict[str, float] = dataclasses.field(default_factory=dict)
    names: dict[str, str] = dataclasses.field(default_factory=dict)


def tons_from_capacity(capacity_btuh: float) -> float:
    """Nominal tons of a rated capacity [BTU/h]: 12,000 each, to the half ton units are sold by."""
    return round(capacity_btuh / BTUH_PER_TON.value / TONS_STEP) * TONS_STEP


def plate_findings(plate: Equipment, year: int | None = None) -> tuple[PlateFinding, ...]:
    """What does not fit together on this plate. year: when it was made, None when not known."""
    return tuple(
        finding
        for rule in (_refrigerant, _tons_and_table, _tap, _amps, _heating, _metering, _stages)
        for finding in rule(plate, year)
    )


def silent_on(plate: Equipment) -> tuple[str, ...]:
    """What the plate is silent on, so that something usual is taken: ids."""
    air = plate.kind != GROUND_SOURCE
    silent = {
        "target_subcooling": plate.target_subcooling_f is None and plate.metering_device == TXV,
        "rating_static": plate.rating_static_inwc is None,
        "seer": plate.seer is None and air,
        "rated_amps": plate.compressor_rla is None and air,
        "blower_table": plate.blower_table is None,
        "performance_table": plate.performance_table is None and air,
        "rated_heating": plate.heating_btuh_47 is None and plate.kind == "heat_pump",
    }
    return tuple(id_ for id_, is_silent in silent.items() if is_silent)


def _refrigerant(plate: Equipment, year: int | None) -> Iterator[PlateFinding]:
    years = REFRIGERANT_YEARS.get(plate.refrigerant)
    if year is not None and years and not years[0] <= year <= years[1]:
        numbers = {"year": float(year), "first": float(years[0]), "last": float(years[1])}
        yield PlateFinding("refrigerant_and_age", "refrigerant", numbers, {"refrigerant": plate.refrigerant})


def _tons_and_table(plate: Equipment, year: int | None) -> Iterator[PlateFinding]:
    if plate.blower_table is None:
        return
    flows = [cfm for points in plate.blower_table.taps.values() for _, cfm in points]
    wanted = NOMINAL_CFM_PER_TON.value * plate.nominal_tons
    if not min(flows) * LEAST_OF_TABLE <= wanted <= max(flows) * MOST_OF_TABLE:
        numbers = {"tons": plate.nominal_tons, "wanted_cfm": wanted, "least_cfm": min(flows), "most_cfm": max(flows)}
        yield PlateFinding("tons_and_blower", "nominal_tons", numbers)


def _tap(plate: Equipment, year: int | None) -> Iterator[PlateFinding]:
    if plate.blower_table is not None and plate.tap and plate.tap not in plate.blower_table.taps:
        yield PlateFinding(
            "tap_not_in_table", "tap", names={"tap": plate.tap, "taps": ", ".join(plate.blower_table.taps)}
        )


def _amps(plate: Equipment, year: int | None) -> Iterator[PlateFinding]:
    if plate.compressor_rla and not RLA_PER_TON[0] <= plate.compressor_rla / plate.nominal_tons <= RLA_PER_TON[1]:
        low, high = (limit * plate.nominal_tons for limit in RLA_PER_TON)
        numbers = {"amps": plate.compressor_rla, "tons": plate.nominal_tons, "least_amps": low, "most_amps": high}
        yield PlateFinding("amps_and_tons", "compressor_rla", numbers)


# Rated heating over nominal tons, and what is left of it at 17 °F (makers' tables, MEM)
HEATING_OVER_TONS, LEFT_AT_17 = (0.7, 1.4), (0.4, 0.95)


def _heating(plate: Equipment, year: int | None) -> Iterator[PlateFinding]:
    rated, tons = plate.heating_btuh_47, BTUH_PER_TON.value * plate.nominal_tons
    if rated is None:
        if plate.heating_btuh_17 is not None:
            yield PlateFinding("heating_17_alone", "heating_btuh_17")
        return
    if not HEATING_OVER_TONS[0] <= rated / tons <= HEATING_OVER_TONS[1]:
        yield PlateFinding("heating_and_tons", "heating_btuh_47", {"rated": rated, "tons": plate.nominal_tons})
    if plate.heating_btuh_17 is not None and not LEFT_AT_17[0] <= plate.heating_btuh_17 / rated <= LEFT_AT_17[1]:
        yield PlateFinding("heating_17_and_47", "heating_btuh_17", {"low": plate.heating_btuh_17, "rated": rated})


def _metering(plate: Equipment, year: int | None) -> Iterator[PlateFinding]:
    if plate.metering_device == "unknown":
        yield PlateFinding("metering_unknown", "metering_device")


STAGED_FROM_SEER = 17.0  # where most machines have more than one stage (working figure)


def _stages(plate: Equipment, year: int | None) -> Iterator[PlateFinding]:
    if not plate.stages and plate.seer is not None and plate.seer >= STAGED_FROM_SEER and plate.kind != GROUND_SOURCE:
        yield PlateFinding("stages_unknown", "stages", {"seer": plate.seer})
