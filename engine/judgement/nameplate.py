"""What a nameplate contradicts in itself, what is taken where it is silent, and what follows from it. Said aloud, never filled in quietly."""

from collections.abc import Iterator
from dataclasses import dataclass

from engine.constants import BTUH_PER_TON, DEFAULT_TARGET_SUBCOOLING, NOMINAL_CFM_PER_TON, STATIC_RATING_LIMIT
from engine.readings.round import Equipment
from engine.refrigerant.lines import class_of

# Years between which equipment with a refrigerant left the factory: first residential units, last charged in new ones (US practice, MEM).
REFRIGERANT_YEARS = {
    "R-22": (1950, 2010),
    "R-410A": (1996, 2025),
    "R-32": (2013, 2100),
    "R-454B": (2020, 2100),
    "R-407C": (1995, 2025),
}
RLA_PER_TON = (2.5, 9.0)  # rated-load amps at 230 V per ton: old single-speed at the top, inverter at the bottom (MEM)
TONS_STEP = 0.5


@dataclass(frozen=True)
class PlateFinding:
    """Something about the plate: permanent id, the field it stands at, what is odd and what to do."""

    id: str
    field: str
    message: str


def tons_from_capacity(capacity_btuh: float) -> float:
    """Nominal tons of a rated capacity [BTU/h]: 12,000 each, to the half ton units are sold by."""
    return round(capacity_btuh / BTUH_PER_TON.value / TONS_STEP) * TONS_STEP


def plate_findings(plate: Equipment, year: int | None = None) -> tuple[PlateFinding, ...]:
    """What does not fit together on this plate. year: when it was made, None when not known."""
    return tuple(finding for rule in (_refrigerant, _tons_and_table, _tap, _amps, _metering) for finding in rule(plate, year))


def defaults_taken(plate: Equipment) -> tuple[str, ...]:
    """What is taken where the plate is silent, in sentences."""
    found = []
    if plate.target_subcooling_f is None and plate.metering_device == "txv":
        found.append(f"Target subcooling: {DEFAULT_TARGET_SUBCOOLING.value:.0f} °F, the usual stand-in. Ask the maker.")
    if plate.rating_static_inwc is None:
        found.append(f"Maximum external static: {STATIC_RATING_LIMIT.value:.2f} in. w.c., the usual rating limit.")
    if plate.seer is None and plate.kind != "ground_source":
        found.append("Efficiency unknown: the approach can only be held to the bare limit for modern equipment.")
    elif plate.kind != "ground_source":
        found.append(f"Efficiency {plate.seer:g}: class {class_of(plate.seer)}.")
    if plate.blower_table is None:
        found.append("No blower table: airflow must be measured, or guessed at 400 CFM a ton.")
    if plate.performance_table is None and plate.kind != "ground_source":
        found.append("No performance table: expected capacity comes from the published curves for such units.")
    return tuple(found)


def _refrigerant(plate: Equipment, year: int | None) -> Iterator[PlateFinding]:
    years = REFRIGERANT_YEARS.get(plate.refrigerant)
    if year is not None and years and not years[0] <= year <= years[1]:
        text = f"{plate.refrigerant} in a machine made in {year}: it was charged new from {years[0]} to {years[1]}. Read both plates again."
        yield PlateFinding("refrigerant_and_age", "refrigerant", text)


def _tons_and_table(plate: Equipment, year: int | None) -> Iterator[PlateFinding]:
    if plate.blower_table is None:
        return
    flows = [cfm for points in plate.blower_table.taps.values() for _, cfm in points]
    wanted = NOMINAL_CFM_PER_TON.value * plate.nominal_tons
    if not min(flows) * 0.8 <= wanted <= max(flows) * 1.15:
        text = f"{plate.nominal_tons:g} tons want about {wanted:.0f} CFM; the blower table runs from {min(flows):.0f} to {max(flows):.0f}."
        yield PlateFinding("tons_and_blower", "nominal_tons", f"{text} One of them is of another unit.")


def _tap(plate: Equipment, year: int | None) -> Iterator[PlateFinding]:
    if plate.blower_table is not None and plate.tap and plate.tap not in plate.blower_table.taps:
        yield PlateFinding(
            "tap_not_in_table", "tap", f"Tap '{plate.tap}' is not in the blower table ({', '.join(plate.blower_table.taps)})."
        )


def _amps(plate: Equipment, year: int | None) -> Iterator[PlateFinding]:
    if plate.compressor_rla and not RLA_PER_TON[0] <= plate.compressor_rla / plate.nominal_tons <= RLA_PER_TON[1]:
        low, high = (limit * plate.nominal_tons for limit in RLA_PER_TON)
        yield PlateFinding(
            "amps_and_tons", "compressor_rla",
            f"{plate.compressor_rla:g} A rated load for {plate.nominal_tons:g} tons; {low:.0f} to {high:.0f} would be usual. Read both plates again.",
        )  # fmt: skip


def _metering(plate: Equipment, year: int | None) -> Iterator[PlateFinding]:
    if plate.metering_device == "unknown":
        yield PlateFinding(
            "metering_unknown", "metering_device", "Metering device unknown: superheat has no target until somebody looks."
        )
