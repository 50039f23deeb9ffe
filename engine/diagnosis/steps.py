"""The steps that a technician can take next, as data: a reading, a look, a test that settles a suspicion.

Minutes are working figures; gauges cost the hook-up, what it may lose and what it may let in.
"""

from dataclasses import KW_ONLY, dataclass

from engine.diagnosis.causes import AIR_SOURCE, COOLING_MODE, HEATING_MODE, WATER_SOURCE, Setting
from engine.readings.observations import BY_ID as SIGHTS
from engine.readings.round import TXV, Round
from engine.readings.vocabulary import GROUND_SOURCE, HUMIDITY_QUANTITIES
from engine.readings.walk import BY_ID as BY_STOP
from engine.readings.walk import INSIDE, OUTSIDE

Slots = tuple[tuple[str, tuple[str, ...]], ...]  # (place, any of these quantities)


@dataclass(frozen=True)
class Step:
    """A reading or a look. gives: the quantities it adds to the diagnosis; reads: what is read for it; look: or what is
    looked at.

    stop: where on the walk. mode, source, device: only then; '' for always. after: the place that is read first, as it
    tells nothing without.
    """

    id: str
    label: str
    minutes: float
    _: KW_ONLY
    gives: tuple[str, ...] = ()
    reads: Slots = ()
    look: str = ""
    stop: str = ""
    mode: str = ""
    source: str = ""
    device: str = ""
    after: str = ""

    @property
    def side(self) -> str:
        """Inside or outside; '' for what can be done anywhere."""
        if self.stop:
            return BY_STOP[self.stop].side
        group = SIGHTS[self.look].group if self.look else OUTSIDE  # gauges go on outdoors
        return group if group in (INSIDE, OUTSIDE) else ""

    def can_be(self, setting: Setting) -> bool:
        """Whether it can be taken in this setting."""
        if self.look and not _seen_there(self.look, setting):
            return False
        if self.device and setting.device not in (self.device, "unknown"):
            return False
        return self.mode in ("", setting.mode) and self.source in ("", setting.source)

    def waits(self, round_: Round) -> bool:
        """Whether the place it is held against is still to be read."""
        if not self.after:
            return False
        slot = (self.after, self.reads[0][1][0])
        return round_.value(*slot) is None and round_.can_be_read(*slot)

    def left(self, round_: Round) -> Slots:
        """What of it is not read yet and can be."""
        return tuple(
            (place, ways)
            for place, ways in self.reads
            if round_.reading(place, *ways) is None and round_.can_be_read(place, ways[0])
        )


def _seen_there(look: str, setting: Setting) -> bool:
    sight = SIGHTS[look]
    return setting.mode in sight.modes and not (
        setting.source == WATER_SOURCE and sight.kinds and GROUND_SOURCE not in sight.kinds
    )


def _one(place: str, *quantities: str) -> Slots:
    return ((place, quantities),)


RETURN_AIR = Step(
    "return_air",
    "Read the return air at the unit",
    3.0,
    reads=(("return_unit", ("dry_bulb",)), ("return_unit", HUMIDITY_QUANTITIES)),
    stop="return_unit",
    mode=COOLING_MODE,
)
RETURN_DRY = Step(
    "return_air",
    "Read the return air at the unit",
    3.0,
    reads=_one("return_unit", "dry_bulb"),
    stop="return_unit",
    mode=HEATING_MODE,
)
SUPPLY_AIR = Step(
    "supply_air",
    "Read the supply plenum",
    3.0,
    reads=(("supply_plenum", ("dry_bulb",)), ("supply_plenum", HUMIDITY_QUANTITIES)),
    stop="supply_plenum",
    mode=COOLING_MODE,
)
SUPPLY_DRY = Step(
    "supply_air",
    "Read the supply plenum",
    3.0,
    reads=_one("supply_plenum", "dry_bulb"),
    stop="supply_plenum",
    mode=HEATING_MODE,
)
OUTDOOR = Step(
    "outdoor",
    "Read the outdoor air in the shade",
    2.0,
    reads=_one("outdoor", "dry_bulb"),
    stop="outdoor",
    source=AIR_SOURCE,
)
AIRFLOW = Step(
    "airflow", "Measure the airflow", 6.0, gives=("airflow",), reads=_one("blower", "airflow"), stop="blower"
)
LOOP = Step(
    "loop",
    "Read the loop water, both ends and the flow",
    8.0,
    gives=("heat_moved", "water_flow"),
    reads=(("water_in", ("temperature",)), ("water_out", ("temperature",)), ("water_loop", ("flow", "water_drop"))),
    stop="loop",
    source=WATER_SOURCE,
)
# What every judgement needs before anything else, in walking order. A ground-source unit is answered by its water: no
# air is asked for first.
BASICS = {AIR_SOURCE: (RETURN_AIR, RETURN_DRY, SUPPLY_AIR, SUPPLY_DRY, OUTDOOR, AIRFLOW), WATER_SOURCE: (LOOP,)}
STATICS = Step(
    "statics",
    "Read both statics",
    4.0,
    gives=("supply_drop",),
    reads=(*_one("return_plenum", "static_pressure"), *_one("supply_plenum", "static_pressure")),
    stop="statics",
)
AMPS = Step(
    "amps",
    "Read the compressor's amps and volts",
    3.0,
    gives=("amps",),
    reads=(*_one("compressor", "current"), *_one("compressor", "voltage")),
    stop="compressor",
)


def _at_a_place(
    id_: str,
    label: str,
    minutes: float,
    gives: str,
    place: str,
    mode: str,
    quantity: str = "temperature",
    after: str = "",
) -> Step:
    """One reading of an air-source machine at one place."""
    reads = _one(place, quantity)
    return Step(id_, label, minutes, gives=(gives,), reads=reads, stop=place, mode=mode, source=AIR_SOURCE, after=after)


def _air_beside_water(mode: str, reads: Slots) -> Step:
    label = "Read the air at the unit, return and supply"
    return Step("air", label, 5.0, gives=("closure",), reads=reads, stop="return_unit", mode=mode, source=WATER_SOURCE)


DISCHARGE = _at_a_place(
    "discharge", "Read the discharge line near the compressor", 3.0, "discharge", "discharge_line", mode=""
)
SUCTION_LINES = (
    _at_a_place("suction_at_coil", "Read the suction line at the coil", 2.0, "suction", "suction_line_indoor", COOLING_MODE),
    _at_a_place("suction_outdoor", "Read the suction line outdoors", 2.0, "suction_rise", "suction_line_outdoor", COOLING_MODE, after="suction_line_indoor"),
    _at_a_place("true_suction", "Read the suction at the compressor", 4.0, "true_suction", "true_suction", HEATING_MODE),
)  # fmt: skip
READINGS = (
    AIRFLOW, LOOP,
    # Of a ground-source unit the air is no basic: with it air and water check each other, and the ducts are told.
    _air_beside_water(COOLING_MODE, (*RETURN_AIR.reads, *SUPPLY_AIR.reads)),
    _air_beside_water(HEATING_MODE, (*RETURN_DRY.reads, *SUPPLY_DRY.reads)),
    STATICS,
    Step("filter_drop", "Read the filter drop", 2.0, gives=("filter_drop",), reads=_one("filter", "pressure_drop"), stop="filter"),
    Step("coil_drop", "Read the coil drop", 3.0, gives=("coil_drop",), reads=_one("coil", "pressure_drop"), stop="coil"),
    _at_a_place("liquid_line", "Read the liquid line outdoors", 2.0, "approach", "liquid_line_outdoor", COOLING_MODE),
    _at_a_place("liquid_line_indoor", "Read the liquid line at the metering device", 2.0, "liquid_drop", "liquid_line_indoor", COOLING_MODE, after="liquid_line_outdoor"),
    *SUCTION_LINES,
    _at_a_place("condenser_air", "Read the air leaving the condenser", 1.5, "condenser_rise", "condenser_air_out", COOLING_MODE, "dry_bulb"),
    _at_a_place("liquid_heating", "Read the liquid line at the indoor coil", 2.0, "heat_approach", "liquid_line_indoor", HEATING_MODE),
    DISCHARGE, AMPS,
    Step("grille", "Read the return grille", 1.5, gives=("grille_to_unit",), reads=_one("return_grille", "dry_bulb"), stop="return_grille", after="return_unit"),
    Step("register", "Read a supply register", 2.0, gives=("unit_to_register",), reads=_one("supply_register", "dry_bulb"), stop="supply_register", after="supply_plenum"),
)  # fmt: skip
GAUGES = Step(
    "pressures",
    "Connect gauges",
    40.0,
    gives=("evaporating", "superheat", "subcooling"),
    reads=(*_one("gauge_suction", "pressure"), *_one("gauge_liquid", "pressure")),
    stop="gauges",
    mode=COOLING_MODE,
    source=AIR_SOURCE,
)
LOOKS = tuple(
    Step(what, SIGHTS[what].label, minutes, look=what)
    for what, minutes in (
        ("filter", 1.5), ("evaporator_face", 6.0), ("blower_wheel", 6.0), ("blower_speed", 4.0), ("registers", 3.0), ("ducts", 8.0), ("strip_heat", 1.0), ("condenser_coil", 1.5),
        ("strainer", 4.0), ("loop_pump", 2.0),
        ("outdoor_coil", 1.5), ("outdoor_coil_fed", 4.0), ("outdoor_fan_blade", 3.0), ("liquid_line_noise", 1.0), ("service_valves", 2.0), ("oil_stains", 3.0), ("suction_insulation", 3.0),
    )
)  # fmt: skip
# Tests that settle a suspicion, beside readings and looks.
TESTS = (
    Step(
        "valve_bulb",
        "Warm the TXV's bulb and watch the suction line",
        8.0,
        look="valve_bulb",
        device=TXV,
    ),
    Step("probes_together", "Hold probes and clamps side by side", 5.0, look="probes_together"),
    Step("outdoor_shaded", "Shade the outdoor probe and read again", 3.0, look="outdoor_shaded", stop="outdoor"),
    Step("house_loaded", "Load the house and read again", 25.0, look="house_loaded", stop="return_unit"),
)
BY_LOOK = {step.look: step for step in (*LOOKS, *TESTS)}
READ_LINE_AGAIN = Step("suction_again", "Read the suction line again, insulated", 4.0, stop="suction_line_outdoor")
