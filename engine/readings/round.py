"""A round of readings as the engine takes it: values in the engine's units, whoever they came from."""

from dataclasses import dataclass, field

from engine.houserules.rules import HouseRules


@dataclass(frozen=True)
class Instrument:
    """An air probe: what it is called and its 95 % accuracy (°F; %RH, or None for the usual figures)."""

    id: str
    label: str = ""
    dry_bulb_accuracy_f: float | None = None
    rh_accuracy_pct: float | None = None


@dataclass(frozen=True)
class Reading:
    """One reading in the engine's unit. instrument: an id, None when unknown. method and plane: of an airflow."""

    place: str
    quantity: str
    value: float
    instrument: str | None = None
    method: str | None = None
    plane: str | None = None


@dataclass(frozen=True)
class Equipment:
    """What the nameplate says that this work needs."""

    nominal_tons: float
    kind: str = "air_conditioner"
    metering_device: str = "unknown"
    blower_motor: str = "unknown"


@dataclass(frozen=True)
class Round:
    """A round of readings with all that is needed to judge it. altitude_ft: 0 to 12,000. climate: 'dry', 'humid' or None."""

    equipment: Equipment
    altitude_ft: float
    readings: tuple[Reading, ...]
    observations: dict[str, str] = field(default_factory=dict)
    instruments: tuple[Instrument, ...] = ()
    climate: str | None = None
    rules: HouseRules = field(default_factory=HouseRules)

    def reading(self, place: str, *quantities: str) -> Reading | None:
        """The last reading at a place of any of these quantities, or None."""
        found = [r for r in self.readings if r.place == place and r.quantity in quantities]
        return found[-1] if found else None
