"""A round of readings as the engine takes it: values in the engine's units, whoever they came from."""

from collections.abc import Collection
from dataclasses import dataclass, field, replace
from functools import cached_property

from engine.constants import EXTRACTION_RISES_BY, LINE_CLAMP_ACCURACY, STANDARD_SEA_LEVEL
from engine.errors import EngineError, OutOfRange
from engine.houserules.rules import HouseRules
from engine.physics.air.moist import pressure_psia as standard_pressure_psia
from engine.physics.air.state import ALTITUDE_RANGE_FT
from engine.physics.airflow.blower_table import BlowerTable
from engine.physics.airflow.methods import GUESS, METHODS, PLANES
from engine.physics.water.exchanger import Grid
from engine.readings.vocabulary import AIR_HANDLER, FURNACE, KINDS, QUANTITIES, limits_at, quantities_at


@dataclass(frozen=True)
class Instrument:
    """An instrument: what it is called and its 95 % accuracy, None for the usual figures.

    dry_bulb_accuracy_f [°F] and rh_accuracy_pct [%RH]: of an air probe. line_accuracy_f [°F]: of a pipe clamp.
    """

    id: str
    label: str = ""
    dry_bulb_accuracy_f: float | None = None
    rh_accuracy_pct: float | None = None
    line_accuracy_f: float | None = None


WEATHER_SERVICE, SUBSTITUTE, STAND_IN = "weather_service", "substitute", "stand_in"
TXV, ORIFICE = "txv", "fixed_orifice"
PSC, CONSTANT_TORQUE, CONSTANT_AIRFLOW = "psc", "constant_torque", "constant_airflow"


@dataclass(frozen=True)
class Reading:
    """One reading in the engine's unit. instrument: an id, None when unknown. method and plane: of an airflow.

    leg: of an electrical reading. spot: where exactly. u95: of an airflow weighed from several, in CFM; else the
    method's own; of watts worked out from volts and amps, in W; of a substitute, what it adds to the instrument's.
    source: WEATHER_SERVICE; SUBSTITUTE for what is taken for a place that cannot be read, STAND_IN for one that is not
    read yet; else '' for read here.
    steady: how steady a probe's series was when it was held (engine.readings.steadiness), '' where nobody watched;
    swing: how far it then went to and fro, in the reading's unit.
    """

    place: str
    quantity: str
    value: float
    instrument: str | None = None
    method: str | None = None
    plane: str | None = None
    leg: str | None = None
    spot: str = ""
    u95: float | None = None
    source: str = ""
    steady: str = ""
    swing: float = 0.0

    @property
    def is_taken(self) -> bool:
        """Whether it was not read there, but taken from the nearest place."""
        return self.source in (SUBSTITUTE, STAND_IN)


@dataclass(frozen=True)
class NotPossible:
    """A place that cannot be read, or one quantity there, and why (engine.readings.walk.NOT_POSSIBLE)."""

    place: str
    because: str
    quantity: str = ""


@dataclass(frozen=True)
class RoomDuct:
    """A room's supply duct: its name, round duct diameter [in.], 'metal' or 'flex', and the airflow it wants [CFM],
    None when not known.
    """

    name: str
    diameter_in: float
    duct: str = "flex"
    wants_cfm: float | None = None


@dataclass(frozen=True)
class Equipment:
    """What the nameplate says that this work needs. Tables are the maker's own.

    performance_table: rows return wet bulb [°F], columns outdoor air [°F], values [BTU/h]. drop_table: rows flow [GPM],
    columns entering water [°F], values [psi]. heat_table, extraction_table: rows entering water [°F], columns flow
    [GPM], values [BTU/h]. superheat_table: rows outdoor air [°F], columns return wet bulb [°F], values [°F], 0 where
    the chart gives none. seer: of a ground-source unit its EER. line: what the shop calls the maker's line.
    heating_btuh_47, _17: rated heating at 47 and 17 °F outdoors [BTU/h]. stages: the compressor's, 'single', 'two',
    'variable' or ''. loop: 'closed', 'open_well' or ''.
    """

    nominal_tons: float
    kind: str = "air_conditioner"
    metering_device: str = "unknown"
    blower_motor: str = "unknown"
    model: str = ""
    line: str = ""
    refrigerant: str = ""
    seer: float | None = None
    target_subcooling_f: float | None = None
    compressor_rla: float | None = None
    outdoor_fan_fla: float | None = None
    unit: str = AIR_HANDLER
    stages: str = ""
    rating_static_inwc: float | None = None
    tap: str | None = None
    blower_table: BlowerTable | None = None
    performance_table: Grid | None = None
    drop_table: Grid | None = None
    heat_table: Grid | None = None
    extraction_table: Grid | None = None
    superheat_table: Grid | None = None
    heating_btuh_47: float | None = None
    heating_btuh_17: float | None = None
    loop: str = ""
    design_gpm: float | None = None
    loop_fluid: str = "water"
    loop_share: float = 0.0
    rooms: tuple[RoomDuct, ...] = ()

    def heat_moved_table(self, mode: str) -> Grid | None:
        """The unit's own table of the heat its water moves in this mode. Extraction rises with entering water,
        rejection hardly changes: a table that goes the other way is the other mode's, whichever field it is in.
        """
        tables = (table for table in (self.extraction_table, self.heat_table) if table is not None)
        wanted = (t for t in tables if t.rises_by(EXTRACTION_RISES_BY.value) == (mode == "heating"))
        return next(wanted, None)


@dataclass(frozen=True)
class Round:
    """A round of readings with all that is needed to judge it. climate: 'dry', 'humid' or None.

    standing: 'inside' or 'outside', where the technician is now; '' where nobody says. not_possible: what cannot be
    read, and why. done: ids of what was done at this visit before it was read (engine.diagnosis.actions).

    altitude_ft: the house's, -300 to 12,000.
    """

    equipment: Equipment
    altitude_ft: float
    readings: tuple[Reading, ...]
    observations: dict[str, str] = field(default_factory=dict)
    instruments: tuple[Instrument, ...] = ()
    climate: str | None = None
    rules: HouseRules = field(default_factory=HouseRules)
    mode: str = "cooling"
    standing: str = ""
    not_possible: tuple[NotPossible, ...] = ()
    done: tuple[str, ...] = ()

    @property
    def seen(self) -> dict[str, str]:
        """What was seen, and what the plate says unseen: a furnace has no strips."""
        return ({"strip_heat": "none"} if self.equipment.unit == FURNACE else {}) | self.observations

    @cached_property
    def pressure_psia(self) -> float:
        """Air pressure at the house [psia]: by the barometer where one was read [in. Hg at sea level], else the
        standard one of its altitude.

        A sea-level pressure is the station's carried down the standard atmosphere: what it is over or under standard is
        taken as the same share up here (within 0.1 % to 6,000 ft).
        """
        at_sea_level = self.value("outdoor", "sea_level_pressure")
        share = 1.0 if at_sea_level is None else at_sea_level / STANDARD_SEA_LEVEL.value
        return share * float(standard_pressure_psia(self.altitude_ft))

    def can_be_read(self, place: str, quantity: str) -> bool:
        """Whether nobody said that this cannot be read here. One way to read a humidity that is not possible rules out
        the others too.
        """
        slot = QUANTITIES[quantity].slot
        return not any(
            n.place == place and (not n.quantity or QUANTITIES[n.quantity].slot == slot) for n in self.not_possible
        )

    def reading(self, place: str, *quantities: str) -> Reading | None:
        """The last reading at a place of any of these quantities, or None."""
        if len(quantities) == 1:
            at = self._last.get((place, quantities[0]))
            return None if at is None else self.readings[at]
        last = -1
        for quantity in quantities:
            last = max(last, self._last.get((place, quantity), -1))
        return self.readings[last] if last >= 0 else None

    @cached_property
    def _last(self) -> dict[tuple[str, str], int]:
        """Where among the readings the last of a quantity at a place is."""
        return {(r.place, r.quantity): i for i, r in enumerate(self.readings)}

    def line_u95_f(self, place: str) -> float:
        """95 % of a line temperature there [°F]: the clamp's own accuracy, else the usual."""
        found = self.reading(place, "temperature")
        own = next((i.line_accuracy_f for i in self.instruments if found and i.id == found.instrument), None)
        return own or LINE_CLAMP_ACCURACY.value

    def value(self, place: str, *quantities: str) -> float | None:
        """The value of that reading, or None."""
        found = self.reading(place, *quantities)
        return found.value if found else None

    def read(self, place: str, *quantities: str) -> float:
        """The value of a reading that is known to be there; LookupError where it is not."""
        found = self.value(place, *quantities)
        if found is None:
            raise LookupError(f"no {' or '.join(quantities)} was read at {place}")
        return found

    @property
    def by_gauge(self) -> bool:
        """Whether a pressure of the refrigerant was read."""
        return any(r.place in GAUGES for r in self.readings)

    def by_leg(self, place: str, quantity: str) -> dict[str, float]:
        """The values of an electrical quantity by leg; one leg where none is named."""
        return {r.leg or "1": r.value for r in self.readings if r.place == place and r.quantity == quantity}


GAUGES = ("gauge_suction", "gauge_liquid")


def without_gauges(round_: Round) -> Round:
    """The round as it is before any hose is on."""
    return replace(round_, readings=tuple(r for r in round_.readings if r.place not in GAUGES))


TONS_RANGE = (0.75, 10.0)
MODES = ("cooling", "heating")


def check_setting(round_: Round) -> None:
    """Refuse a plate or a place no computation should see: altitude, tons, kind, mode.
    Raises an EngineError naming it.
    """
    plate = round_.equipment
    if not ALTITUDE_RANGE_FT[0] <= round_.altitude_ft <= ALTITUDE_RANGE_FT[1]:
        raise OutOfRange("altitude", round_.altitude_ft, "ft", *ALTITUDE_RANGE_FT)
    if not TONS_RANGE[0] <= plate.nominal_tons <= TONS_RANGE[1]:
        raise OutOfRange("nominal tons", plate.nominal_tons, "tons", *TONS_RANGE)
    _among("equipment kind", plate.kind, KINDS)
    _among("mode", round_.mode, MODES)


def possible(round_: Round) -> tuple[Round, tuple[Reading, ...]]:
    """The round without the readings that no computation should see, and those: outside the vocabulary, or outside what
    can be read.
    """
    left_out = tuple(reading for reading in round_.readings if not _is_possible(reading))
    if not left_out:
        return round_, ()
    return replace(round_, readings=tuple(r for r in round_.readings if r not in left_out)), left_out


def _is_possible(reading: Reading) -> bool:
    if reading.quantity not in quantities_at(reading.place):
        return False
    low, high = limits_at(reading.place, reading.quantity)
    return (
        low <= reading.value <= high and (reading.method or GUESS) in METHODS and (reading.plane or "return") in PLANES
    )


def _among(what: str, given: str, known: Collection[str]) -> None:
    if given not in known:
        raise EngineError(f"{what} '{given}' is unknown; known are {', '.join(known)}")
