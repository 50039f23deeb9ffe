"""What the lines should show: condensing over ambient by efficiency class and load, the target subcooling, an orifice's
target superheat.

Approach = liquid line - outdoor = condensing over ambient - subcooling. Condensing over ambient belongs to the
efficiency class and grows with the heat to be given off. Classes and tolerances: common practice, no single source.
"""

from dataclasses import dataclass
from math import hypot, sqrt

from engine.constants import (
    BULB_BEFORE_REVERSING_VALVE,
    DEFAULT_TARGET_SUBCOOLING,
    EVAPORATING_SPREAD,
    EVAPORATING_SPREAD_OF_ANY,
    HEATING_RATING_OUTDOOR,
    HEATING_SUBCOOLING_SPREAD,
    MOST_SUPERHEAT_IN_HEATING,
    ORIFICE_APPROACH_PER_F,
    PISTON_RIGHT_AT_SPREAD,
    PISTON_SUBCOOLING_PER_F,
    PISTON_SUPERHEAT,
    PISTON_SUPERHEAT_PER_F,
    RATING_OUTDOOR,
    REVERSING_VALVE_DROP,
    STAND_IN_SUBCOOLING_SPREAD,
    SUBCOOLING_SPREAD,
    SUPERHEAT_IN_HEATING_SPREAD,
    TXV_SUPERHEAT_AT_COIL,
    TXV_SUPERHEAT_PER_F,
    USUAL_SEER,
)
from engine.errors import EngineError, OutOfRange
from engine.houserules.rules import DEFAULT, HouseRules
from engine.physics.water.exchanger import Grid
from engine.readings.round import ORIFICE, TXV

# class -> the house rule with its condensing over ambient
OVER_AMBIENT_RULES = {
    "old": "over_ambient_old_f",
    "low": "over_ambient_low_f",
    "mid": "over_ambient_mid_f",
    "high": "over_ambient_high_f",
}
# least seasonal efficiency rating of each class (MEM): which class a plate belongs to
CLASS_FROM_SEER = ((16.0, "high"), (13.0, "mid"), (10.0, "low"), (0.0, "old"))
# How much warmer or colder a class evaporates than the usual: larger coils evaporate warmer [°F]. Old equipment
# evaporates near 40 °F, new in the upper forties (common practice, no single source; memory). The simulated plant has
# the same steps, so that the benchmark says nothing about them.
EVAPORATING_BY_CLASS = {"old": -3.0, "low": -1.0, "mid": 1.0, "high": 3.0}
# How far under the outdoor air a class evaporates in heating at its rating [°F] (working figure: coils of 12 to 20 °F).
HEATING_EVAPORATING_UNDER_F = {"old": 19.0, "low": 17.0, "mid": 15.5, "high": 14.0}
LOAD_RANGE = (0.4, 1.5)
LEAST_ORIFICE_TARGET_F = 5.0  # below it there is no target: common practice, no single source
ORIFICE_WET_BULB_F, ORIFICE_OUTDOOR_F = (50.0, 76.0), (55.0, 115.0)  # what the charging formula is stated for


def class_of(seer: float | None) -> str:
    """The efficiency class of a seasonal rating (5 to 30), as used for condensing over ambient; the usual one where the
    plate is silent.
    """
    seer = USUAL_SEER.value if seer is None else seer
    if not 5.0 <= seer <= 30.0:
        raise EngineError(f"a seasonal rating of {seer:g} is outside 5 to 30")
    return next(name for least, name in CLASS_FROM_SEER if seer >= least)


def evaporating_over_usual_f(seer: float | None) -> tuple[float, float]:
    """(how much warmer a machine of this seasonal rating evaporates than the usual, how sound ones scatter about that)
    [°F, 95 %]; None: the plate names no rating.
    """
    if seer is None:
        return 0.0, EVAPORATING_SPREAD_OF_ANY.value
    return EVAPORATING_BY_CLASS[class_of(seer)], EVAPORATING_SPREAD.value


def condensing_over_ambient_f(efficiency_class: str, load: float = 1.0, rules: HouseRules = DEFAULT) -> float:
    """Condensing over ambient [°F] of a class ('old', 'low', 'mid', 'high') at a load.

    load: heat rejected over heat rejected at rating, 0.4 to 1.5. The coil's temperature difference goes with the heat
    it gives off at a steady airflow (energy balance with a constant UA).
    """
    if efficiency_class not in OVER_AMBIENT_RULES:
        raise EngineError(f"class '{efficiency_class}' is unknown; known are {', '.join(OVER_AMBIENT_RULES)}")
    if not LOAD_RANGE[0] <= load <= LOAD_RANGE[1]:
        raise EngineError(f"a load of {load:g} is outside {LOAD_RANGE[0]} to {LOAD_RANGE[1]} of rating")
    return getattr(rules, OVER_AMBIENT_RULES[efficiency_class]) * load


@dataclass(frozen=True)
class TargetSubcooling:
    """The target [°F], whether the plate names it and the metering device holds it, and how sound machines scatter
    about it [°F, 95 %].
    """

    value_f: float
    of_plate: bool
    held: bool
    spread_f: float

    @property
    def is_exact(self) -> bool:
        """Whether the plate names it and the metering device holds it."""
        return self.of_plate and self.held

    def tolerance_f(self, exact_f: float) -> float:
        """A tolerance [°F] that is meant for an exact target, widened by how much further this one scatters."""
        return exact_f if self.is_exact else hypot(exact_f, sqrt(self.spread_f**2 - SUBCOOLING_SPREAD.value**2))


def target_subcooling(plate_f: float | None, held: bool = True, outdoor_f: float | None = None) -> TargetSubcooling:
    """The plate's target subcooling [°F], else the usual stand-in of 10 °F, which is trusted as one.

    held: a TXV charged to its target holds it. Behind a fixed orifice it is what the weather makes of the charge: it
    scatters as about a stand-in, and more with each degree between the outdoor air [°F] and the rating's 95 °F.
    """
    value = DEFAULT_TARGET_SUBCOOLING.value if plate_f is None else plate_f
    spread = STAND_IN_SUBCOOLING_SPREAD.value if plate_f is None or not held else SUBCOOLING_SPREAD.value
    if not held and outdoor_f is not None:
        spread = hypot(spread, ORIFICE_APPROACH_PER_F.value * (outdoor_f - RATING_OUTDOOR.value))
    return TargetSubcooling(value, plate_f is not None, held, spread)


def superheat_in_heating(device: str, outdoor_f: float) -> tuple[float, float]:
    """(superheat at the compressor of a sound heat pump in heating, how sound ones scatter about it) [°F, 95 %].

    A TXV holds at the rating what it holds in cooling; it opens with it, and so holds a little less the less it has to
    feed. Where its bulb sits before the reversing valve, what this takes off the dew point comes on top. A fixed piston
    is right at one outdoor temperature: under it the compressor draws thinner vapor, the piston feeds on, and superheat
    is soon gone. Where nobody knows which it is, in the middle of both.
    """
    spread, right = SUPERHEAT_IN_HEATING_SPREAD.value, HEATING_RATING_OUTDOOR.value
    held = TXV_SUPERHEAT_AT_COIL.value + BULB_BEFORE_REVERSING_VALVE.value * REVERSING_VALVE_DROP.value
    by_valve = max(held + TXV_SUPERHEAT_PER_F.value * (outdoor_f - right), 0.0)
    if device == TXV:
        return by_valve, spread

    def behind_piston(right_at_f: float) -> float:
        fed = PISTON_SUPERHEAT.value + PISTON_SUPERHEAT_PER_F.value * (outdoor_f - right_at_f)
        return min(max(fed, 0.0), MOST_SUPERHEAT_IN_HEATING.value)

    off = PISTON_RIGHT_AT_SPREAD.value
    level, by_piston = behind_piston(right), (behind_piston(right - off) - behind_piston(right + off)) / 2
    if device == ORIFICE:
        return level, hypot(spread, by_piston)
    return (by_valve + level) / 2, hypot(spread, by_piston, (by_valve - level) / 2)


def subcooling_in_heating(device: str, outdoor_f: float, held_f: float) -> tuple[float, float]:
    """(subcooling of a sound heat pump in heating, how sound ones scatter about it) [°F, 95 %]. held_f: where a TXV
    feeds the outdoor coil, and so what the charge makes of it.

    A fixed piston passes what the compressor pumps: as the suction thins under the air it is right at, it does so with
    less and less subcooling before it, and what the indoor coil no longer holds waits in the accumulator. There the
    charge no longer shows, only the piston. Where nobody knows which it is, in the middle of both.
    """
    spread = HEATING_SUBCOOLING_SPREAD.value
    if device == TXV:
        return held_f, spread

    def before_piston(right_at_f: float) -> float:
        return min(max(held_f + PISTON_SUBCOOLING_PER_F.value * (outdoor_f - right_at_f), 0.0), held_f)

    right, off = HEATING_RATING_OUTDOOR.value, PISTON_RIGHT_AT_SPREAD.value
    level, by_piston = before_piston(right), (before_piston(right - off) - before_piston(right + off)) / 2
    by_charge = spread * level / held_f if held_f else 0.0
    of_pistons = hypot(by_charge, by_piston, SUBCOOLING_SPREAD.value)
    if device == ORIFICE:
        return level, of_pistons
    return (held_f + level) / 2, hypot(max(spread, of_pistons), (held_f - level) / 2)


def orifice_target_superheat_f(return_wet_bulb_f: float, outdoor_f: float) -> float | None:
    """Target superheat [°F] of a fixed orifice: (3 x return wet bulb - 80 - outdoor) / 2. Common practice; the plate's
    chart wins.

    None below 5 °F: there is no target then. Wet bulb 50 to 76 °F and outdoors 55 to 115 °F, else OutOfRange.
    """
    for name, value, limits in (
        ("return wet bulb", return_wet_bulb_f, ORIFICE_WET_BULB_F),
        ("outdoor air", outdoor_f, ORIFICE_OUTDOOR_F),
    ):
        if not limits[0] <= value <= limits[1]:
            raise OutOfRange(name, value, "°F", *limits)
    return _stated((3.0 * return_wet_bulb_f - 80.0 - outdoor_f) / 2.0)


def charted_superheat_f(chart: Grid, return_wet_bulb_f: float, outdoor_f: float) -> float | None:
    """Target superheat [°F] by the maker's own chart: rows outdoor air [°F], columns return wet bulb [°F]. None where
    the chart gives none, or below 5 °F. OutOfRange outside it: a chart is not extended.
    """
    return _stated(chart.at(outdoor_f, return_wet_bulb_f))


def _stated(target_f: float) -> float | None:
    return target_f if target_f >= LEAST_ORIFICE_TARGET_F else None
