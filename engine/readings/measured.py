"""The Measured table: what physics makes of one round - air states, flows, capacity, lines, loads, water - worked out
once, read by everything after it.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import cached_property
from math import hypot, isfinite

import numpy as np

from engine.constants import (
    CLAMP_AMPS_ACCURACY,
    ELECTRICAL_ACCURACY,
    LEG_VOLTS,
    LINE_CLAMP_REPEATABILITY_SHARE,
    MEASURED_FAN_POWER_ACCURACY,
    NO_VOLTS_SPREAD,
    POWER_FACTOR_ACCURACY,
    WATER_FLOW_ACCURACY,
    WATER_PROBE_PAIR_ACCURACY,
)
from engine.errors import EngineError
from engine.physics.air.state import AirState, state_at
from engine.physics.airflow.statics import Statics
from engine.physics.capacity.electrical import BLOWER, COMPRESSOR, power_w
from engine.physics.water.exchanger import flow_from_drop
from engine.physics.water.rejection import WaterHeat, loop_heat
from engine.readings.air_side import RESULTS, air_side
from engine.readings.airflows import Airflows, statics_of, volumes
from engine.readings.inputs import Pushes, Setup, as_sources
from engine.readings.round import Round
from engine.readings.vocabulary import HUMIDITY_QUANTITIES
from engine.readings.walk import LEGS
from engine.uncertainty.estimate import Estimate, Why, withheld
from engine.uncertainty.propagation import Propagated, propagate
from engine.uncertainty.sources import split_offset

# input -> where it is read, and what it is called where it is missing
READ_AT = {
    "return dry bulb": ("return_unit", ("dry_bulb",)), "return humidity": ("return_unit", HUMIDITY_QUANTITIES),
    "supply dry bulb": ("supply_plenum", ("dry_bulb",)), "supply humidity": ("supply_plenum", HUMIDITY_QUANTITIES),
    "outdoor temperature": ("outdoor", ("dry_bulb",)),
}  # fmt: skip
WATER_WRONG_WAY = "water_wrong_way"  # colder where it takes heat, or warmer where it gives it
LEAST_AMPS = 0.05  # below it a clamp shows its own zero
# Loads on 240 V, single phase: what flows in one leg flows back in the other. From these volts on they are leg to leg.
ON_TWO_LEGS, LEG_TO_LEG_V = ("compressor", "outdoor_fan"), 180.0
# reading -> the sources that are an error in it
SOURCES_OF = {
    "return": ("return_dry_bulb_offset", "return_dry_bulb_repeat"),
    "supply": ("supply_dry_bulb_offset", "supply_dry_bulb_repeat"),
    "outdoor": ("outdoor_offset", "outdoor_repeat"),
}  # fmt: skip
_INPUTS = {"return": "return_dry_bulb", "supply": "supply_dry_bulb", "outdoor": "outdoor"}


@dataclass(frozen=True)
class Load:
    """An electrical load: power [W] with its 95 % share, how it was found; the power factor it rests on with its 95 %,
    None for a metered one.
    """

    watts: float
    share_u95: float
    way: str  # metered, legs, one_leg, amps_only
    power_factor: float | None = None
    factor_u95: float = 0.0


def _both_legs(amps: dict[str, float], volts: dict[str, float]) -> tuple[dict[str, float], dict[str, float]]:
    """Amps and volts to ground of both legs, where the amps of one were read: the same current, and about its volts
    where the other's were not read.
    """
    (current,), usual = amps.values(), max(volts.values())
    return dict.fromkeys(LEGS, current), {leg: volts.get(leg, usual) for leg in LEGS}


@dataclass(frozen=True)
class Water:
    """The loop: flow [GPM], heat moved [BTU/h], the difference of its ends [°F]. kind: rejection or extraction."""

    flow: Estimate
    heat: Estimate
    difference_f: float
    kind: str
    physics: WaterHeat


@dataclass(frozen=True)
class Measured:
    """One round, measured. carried, row: its place in a batch. pushes: error source -> input -> 95 %. contradicted:
    input -> the finding that withholds it.
    """

    round: Round
    airflows: Airflows
    carried: Propagated
    row: int
    pushes: Pushes
    contradicted: dict[str, str] = field(default_factory=dict)
    _results: dict[str, Estimate] = field(default_factory=dict, init=False, repr=False, compare=False)

    # -- the air -------------------------------------------------------------------------------------------------------

    def __getitem__(self, name: str) -> Estimate:
        """A result of the air side, by the names in engine.readings.air_side.RESULTS, or why there is none."""
        found = self._results.get(name)
        if found is None:
            found = self._results[name] = self._result(name)
        return found

    def _result(self, name: str) -> Estimate:
        unit, needs = RESULTS[name]
        value, u95 = float(self.carried.values[name][self.row]), float(self.carried.u95[name][self.row])
        why = self._why(needs) if not (isfinite(value) and isfinite(u95)) or self._is_contradicted(needs) else None
        return withheld(unit, why) if why else Estimate(value, u95, unit)

    def missing_because(self, needs: Sequence[str]) -> Why | None:
        """Why what needs these readings cannot be worked out; None when they are all there and uncontradicted."""
        absent = tuple(n for n in needs if n in self._absent)
        if absent:
            return Why("needs", absent)
        return Why("contradicted", (self._finding(needs),)) if self._is_contradicted(needs) else None

    @cached_property
    def _absent(self) -> frozenset[str]:
        """What of READ_AT was not read."""
        return frozenset(
            n for n, (place, quantities) in READ_AT.items() if self.round.reading(place, *quantities) is None
        )

    def _why(self, needs: Sequence[str]) -> Why:
        return self.missing_because(needs) or Why("cannot_be_computed")

    def _is_contradicted(self, needs: Sequence[str]) -> bool:
        return bool(self.contradicted) and any(need.replace(" ", "_") in self.contradicted for need in needs)

    def _finding(self, needs: Sequence[str]) -> str:
        return next(self.contradicted[n] for need in needs if (n := need.replace(" ", "_")) in self.contradicted)

    @cached_property
    def results(self) -> dict[str, Estimate]:
        """Every result of the air side."""
        return {name: self[name] for name in RESULTS}

    @cached_property
    def states(self) -> dict[str, AirState]:
        """The air at every place where it is known."""
        places = dict.fromkeys(r.place for r in self.round.readings if r.quantity == "dry_bulb")
        return {place: air for place in places if (air := self.air_at(place)) is not None}

    def air_at(self, place: str) -> AirState | None:
        """The air where a dry bulb and a humidity were read; None without, and for a pair that cannot be (that is a
        finding).
        """
        dry, humid = self.round.value(place, "dry_bulb"), self.round.reading(place, *HUMIDITY_QUANTITIES)
        if dry is None or humid is None:
            return None
        try:
            return state_at(dry, humid.quantity, humid.value, self.round.pressure_psia)
        except EngineError:
            return None

    @property
    def pressure_psia(self) -> float:
        """Air pressure at the house [psia]."""
        return float(self.carried.inputs["pressure"][self.row])

    @cached_property
    def statics(self) -> Statics | None:
        """The statics, or None when a side is not read or cannot be."""
        try:
            return statics_of(self.round)
        except EngineError:
            return None

    @cached_property
    def volumes(self) -> dict[str, float]:
        """Specific volume [ft3/lb] by plane."""
        return volumes(self.round)

    @property
    def cfm(self) -> float:
        """The round's airflow [CFM], measured, stated or assumed."""
        return self.round.read("blower", "airflow")

    @property
    def airflow_share_u95(self) -> float:
        """95 % of the airflow, as a share of it."""
        return self.pushes["airflow_method"]["airflow_cfm"] / self.cfm

    # -- error sources -------------------------------------------------------------------------------------------------

    def parts(self, name: str) -> dict[str, float]:
        """What each error source moves a result of the air side by, signed, 95 %."""
        return self.carried.pushes(name, self.row)

    def on(self, reading: str) -> dict[str, float]:
        """What each source pushes a dry bulb by [°F, 95 %]. reading: return, supply or outdoor."""
        return self._on[reading]

    @cached_property
    def _on(self) -> dict[str, dict[str, float]]:
        return {
            reading: {source: touched[name] for source, touched in self.pushes.items() if touched.get(name)}
            for reading, name in _INPUTS.items()
        }

    def slopes(self, pushes: dict[str, float]) -> dict[str, float]:
        """By reading (return, supply, outdoor), what one °F of error in it moves a result by. pushes: what each source
        moves that by.
        """
        found = {}
        for reading, sources in SOURCES_OF.items():
            off_by = sum(self.on(reading).get(s, 0.0) for s in sources)
            if off_by:
                found[reading] = sum(pushes.get(s, 0.0) for s in sources) / off_by
        return found

    def clamp(self, place: str) -> dict[str, float]:
        """A clamp's error sources [°F]: its offset, shared by every place read with the same one, and its repeatability
        there.
        """
        reading, accuracy = self.round.reading(place, "temperature"), self.round.line_u95_f(place)
        repeat = LINE_CLAMP_REPEATABILITY_SHARE.value * accuracy
        owner = reading.instrument if reading and reading.instrument else place
        return {f"clamp {owner}": split_offset(accuracy, repeat), f"repeat {place}": repeat}

    # -- electrical ----------------------------------------------------------------------------------------------------

    @cached_property
    def loads(self) -> dict[str, Load]:
        """Compressor, outdoor fan and blower, where they were read."""
        return {place: load for place in ("compressor", "outdoor_fan", "blower") if (load := self._load(place))}

    def _load(self, place: str) -> Load | None:
        amps, volts = self.round.by_leg(place, "current"), self.round.by_leg(place, "voltage")
        metered, factor = self.round.value(place, "power"), self.round.value(place, "power_factor")
        way = "legs"
        if place in ON_TWO_LEGS and len(amps) == 1 and len(volts) > 0 and max(volts.values()) < LEG_TO_LEG_V:
            amps, volts, way = *_both_legs(amps, volts), "one_leg"
        if amps and set(volts) == set(amps) and max(amps.values()) > LEAST_AMPS:
            stand_in = BLOWER if place == "blower" else COMPRESSOR
            found = power_w([volts[leg] for leg in amps], list(amps.values()), factor, stand_in)
            doubt = (POWER_FACTOR_ACCURACY if found.factor_measured else stand_in[1]).value
            return Load(found.watts, found.u95_w / found.watts, way, found.power_factor, doubt)
        if metered is not None:
            return Load(metered, MEASURED_FAN_POWER_ACCURACY.value, "metered")
        if place != "compressor" or not amps or max(amps.values()) <= LEAST_AMPS:
            return None
        legs = [volts.get(leg, LEG_VOLTS.value) for leg in amps] if len(amps) > 1 else [2 * LEG_VOLTS.value]
        found = power_w(legs, list(amps.values()), factor)
        doubt = NO_VOLTS_SPREAD.value
        return Load(found.watts, hypot(CLAMP_AMPS_ACCURACY.value, doubt), "amps_only", found.power_factor, doubt)

    def amps(self, place: str) -> float | None:
        """The highest leg's amps [A] of a load, or None."""
        return max(self.round.by_leg(place, "current").values(), default=None)

    @cached_property
    def electrical_w(self) -> float | None:
        """All electrical heat inside the ledger [W]: compressor and blower; None when the compressor's is not known."""
        compressor, blower = self.loads.get("compressor"), self.loads.get("blower")
        if compressor is None or compressor.way == "amps_only":
            return None
        return compressor.watts + (blower.watts if blower else 0.0)

    @property
    def electrical_u95_w(self) -> float:
        """95 % of that [W]; 0 where it is not known."""
        return ELECTRICAL_ACCURACY.value * (self.electrical_w or 0.0)

    # -- water ---------------------------------------------------------------------------------------------------------

    @cached_property
    def water(self) -> Water | Why | None:
        """The loop's flow and heat; why it cannot be worked out; or None when it was not read."""
        round_, plate = self.round, self.round.equipment
        entering, leaving = (round_.value(place, "temperature") for place in ("water_in", "water_out"))
        drop, flow = water_drop_psi(round_), round_.value("water_loop", "flow")
        if entering is None or leaving is None:
            return None
        warmed = (leaving - entering) * (1.0 if round_.mode == "cooling" else -1.0)
        if warmed < -WATER_PROBE_PAIR_ACCURACY.value:
            return Why("contradicted", (WATER_WRONG_WAY,))
        try:
            if flow is not None:
                gpm, u95 = flow, WATER_FLOW_ACCURACY.value * flow
            elif drop is None:
                return None
            elif plate.drop_table is None:
                return Why("needs", ("the unit's own exchanger table",))
            else:
                found = flow_from_drop(plate.drop_table, plate.model, drop, entering)
                gpm, u95 = found.gpm, found.u95_gpm
            heat = loop_heat(gpm, u95, entering, leaving, plate.loop_fluid, plate.loop_share)
        except EngineError as error:
            return Why("error", (str(error),))
        kind = "rejection" if round_.mode == "cooling" else "extraction"
        btuh = heat.pocket_btuh if round_.rules.water_factor == "pocket" else heat.btuh
        difference = abs(leaving - entering)
        return Water(Estimate(gpm, u95, "GPM"), Estimate(btuh, heat.u95_btuh, "BTU/h"), difference, kind, heat)


def water_drop_psi(round_: Round) -> float | None:
    """The water's drop [psi]: as a gauge shows it, else between the two ports; None where neither was read."""
    ports = [round_.value(place, "pressure") for place in ("water_in", "water_out")]
    drop = round_.value("water_loop", "water_drop")
    return ports[0] - ports[1] if drop is None and ports[0] is not None and ports[1] is not None else drop


def measure(
    setup: Setup, rows: Sequence[tuple[Round, Airflows, dict[str, float], Pushes, dict[str, str]]]
) -> list[Measured]:
    """Measure rounds of one setup together. Each: the round with one airflow, its airflows, numbers, pushes, and what
    is contradicted (NaN in its numbers).
    """
    inputs = {name: np.array([numbers[name] for _, _, numbers, _, _ in rows], float) for name in rows[0][2]}
    carried = propagate(air_side(setup), inputs, as_sources([pushes for *_, pushes, _ in rows]))
    return [
        Measured(round_, airflows, carried, row, pushes, contradicted)
        for row, (round_, airflows, _, pushes, contradicted) in enumerate(rows)
    ]
