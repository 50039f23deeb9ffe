"""What a cause is: what it does to each indicator by level of severity, how common it is, what cannot be told from
what.

A cause's signs are shifts of the indicators (engine.quantities.residual names them with their units) against what is
expected for this system today, one number per level, slight to severe. Each set of causes is data of its own:
engine.diagnosis.cooling_causes, heating_causes, water_causes.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from math import hypot

from engine.physics.refrigerant.compression import PER_CONDENSING_F, PER_EVAPORATING_F, PER_SUCTION_F

HEALTHY, PLATE, PROBE, SUCTION_LINE = "healthy", "plate", "probe", "suction_line"
Levels = tuple[float, ...]


HOT_GAS = "hot_gas"
# What gauges and lines make together, from the signs of each: quantity -> the others, with their sign. The discharge
# follows from what the compressor draws in and works between; HOT_GAS [°F] is what a cause adds to that itself:
# a compressor that has worn works its vapor over and over; liquid that comes back with it boils in it, and each percent
# of it takes some 2.5 °F (its latent heat over the vapor's specific heat).
_DRAWN = {
    **dict.fromkeys(("suction", "suction_rise", "true_suction"), PER_SUCTION_F), "evaporating": PER_EVAPORATING_F,
}  # fmt: skip
_HEAD = dict.fromkeys(("approach", "heat_approach", "subcooling"), PER_CONDENSING_F)
_HOT_GAS = {HOT_GAS: 1.0}
FOLLOWS_FROM = {
    "discharge": _DRAWN | _HEAD | _HOT_GAS,
    "superheat": {"suction": 1.0, "suction_rise": 1.0, "true_suction": 1.0, "evaporating": -1.0},
    "condensing": {"approach": 1.0, "subcooling": 1.0},
    "heat_condensing": {"heat_approach": 1.0, "subcooling": 1.0},
}  # fmt: skip


# Parts that have nothing to do with each other are each as doubtful as they are large, also where they cancel: a high
# head makes hot gas of which returning liquid takes more away again.
DOUBTED_APART: Mapping[str, tuple[Mapping[str, float], ...]] = {"discharge": (_DRAWN, _HEAD, _HOT_GAS)}


def _sum(signs: Mapping[str, Levels], parts: Mapping[str, float]) -> Levels:
    read = [tuple(sign * x for x in signs[kind]) for kind, sign in parts.items() if kind in signs]
    return tuple(map(sum, zip(*read, strict=True)))


@dataclass(frozen=True)
class Cause:
    """One cause. group: what a set of readings may not tell it from. prior: how common, in relative terms (dirt and
    airflow first).

    signs: indicator -> shifts by level; by: metering device, blower motor or how the water flow is known -> signs that
    replace them there. probe:
    the reading that would be wrong, with its errors by level [°F], for a bad probe: its signs follow from what is
    worked out from that reading. why: how it comes about; why_by: the same on a machine of which a fact is known.
    passes: indicators that it can bring past a bound that holds for all others.
    """

    id: str
    label: str
    group: str
    prior: float
    signs: Mapping[str, Levels] = field(default_factory=dict)
    by: Mapping[str, Mapping[str, Levels]] = field(default_factory=dict)
    probe: tuple[str, Levels] | None = None
    why: str = ""
    why_by: Mapping[str, str] = field(default_factory=dict)
    passes: tuple[str, ...] = ()

    def why_on(self, *facts: str) -> str:
        """How it comes about on a machine of which this is known."""
        return next((self.why_by[fact] for fact in facts if fact in self.why_by), self.why)

    def signs_on(self, *facts: str) -> dict[str, Levels]:
        """The signs on a machine of which this is known (metering device, blower motor, BY_DROP); by gauge as by the
        lines.
        """
        found = dict(self.signs)
        for fact in facts:
            found |= self.by.get(fact, {})
        return found | {kind: _sum(found, parts) for kind, parts in FOLLOWS_FROM.items() if found.keys() & parts.keys()}

    def sizes_on(self, *facts: str) -> dict[str, Levels]:
        """What the doubt of each sign is a share of: the sign, or what its parts come to where they do not cancel."""
        signs = self.signs_on(*facts)
        apart = {
            kind: tuple(
                hypot(*parts) for parts in zip(*(_sum(signs, p) for p in of if signs.keys() & p.keys()), strict=True)
            )
            for kind, of in DOUBTED_APART.items()
            if kind in signs
        }
        return signs | apart

    @property
    def levels(self) -> int:
        """How many levels of severity it has."""
        return len(self.probe[1]) if self.probe else len(next(iter(self.signs.values()), (0.0,)))


GROUPS = {
    HEALTHY: "Nothing wrong that shows",
    "low_airflow": "Low airflow",
    "high_airflow": "High airflow",
    "charge_low": "Low on charge",
    "charge_high": "Overcharged",
    "starved": "The evaporator is starved",
    "overfed": "The evaporator is overfed",
    "condenser": "The condenser cannot give its heat off",
    "outdoor_coil": "The outdoor coil takes in too little heat",
    "water_flow": "The water flow is not what it should be",
    "exchanger": "The water coil passes too little heat",
    "circuit": "The refrigerant circuit is weak",
    "high_side": "The high side is too high",
    "short": "Capacity is low: condenser or circuit",
    "compressor": "The compressor is weak",
    "return_duct": "The return air warms on its way to the unit",
    "supply_duct": "The supply air warms on its way to the rooms",
    SUCTION_LINE: "The suction line takes up heat on its way",
    "heat_on": "Heat is on inside the unit",
    PLATE: "The machine is not the plate's",
    PROBE: "A probe is wrong",
}
# in heating the coils have changed places
GROUPS_IN_HEATING = {
    "starved": "The outdoor coil is starved",
    "overfed": "The outdoor coil is overfed",
    "condenser": "The indoor coil cannot give its heat off",
    "short": "Heating is low: outdoor coil or circuit",
    "return_duct": "The return air cools on its way to the unit",
    "supply_duct": "The supply air cools on its way to the rooms",
    "not_fed": "The outdoor coil is not fed enough",
    "warm_liquid": "The liquid line is warm: low on charge, or gas that does not condense",
    "cold_liquid": "The liquid line reads cold: its clamp is loose, or liquid backs up in the indoor coil",
}
# What has a colon of its own, within a sentence.
WITHIN_A_SENTENCE = {
    "Capacity is low: condenser or circuit": "the condenser or the circuit",
    "Heating is low: outdoor coil or circuit": "the outdoor coil or the circuit",
}
# of a ground-source unit whose airflow is not read
GROUPS_BY_WATER = {"short": "Airflow, water coil or refrigerant circuit"}
# Groups that readings may not tell from each other though they tell them from everything else: what both ask for can be
# decided all the same.
NOT_FED, WARM_LIQUID, WARM_SUCTION = "not_fed", "warm_liquid", "warm_suction"
HEAT_SHORT, HEAD_HIGH = "heat_short", "head_high"
COLD_OUTDOORS, COLD_LIQUID = "cold_outdoors", "cold_liquid"
PUMPS_LITTLE, STARVED_OR_WEAK = "pumps_little", "starved_or_weak"
HEAT_OR_PROBE = "heat_or_probe"
JOINT = {
    NOT_FED: ("charge_low", "starved"), WARM_LIQUID: ("charge_low", "condenser"), WARM_SUCTION: (PROBE, SUCTION_LINE),
    HEAT_SHORT: ("circuit", "exchanger"), HEAD_HIGH: ("exchanger", "high_side"),
    COLD_OUTDOORS: (PROBE, "outdoor_coil"), COLD_LIQUID: (PROBE, "starved", "charge_high"),
    PUMPS_LITTLE: ("charge_low", "compressor"), STARVED_OR_WEAK: ("starved", "compressor"),
    HEAT_OR_PROBE: ("heat_on", PROBE),
}  # fmt: skip
# What is seen in a reading is told so only where one of these was read.
SEEN_IN = {
    WARM_LIQUID: ("approach", "heat_approach"), COLD_LIQUID: ("approach", "heat_approach"),
    WARM_SUCTION: ("suction_rise",), COLD_OUTDOORS: ("true_suction", "evaporating"),
    HEAT_OR_PROBE: ("closure",),
}  # fmt: skip
# Which probe it is where a fault and a wrong probe read alike.
PROBE_OF = {
    WARM_SUCTION: ("suction_clamp",), COLD_OUTDOORS: ("outdoor_probe",), COLD_LIQUID: ("liquid_clamp",),
    HEAT_OR_PROBE: ("supply_probe", "return_probe"),
}  # fmt: skip
# What stays beside a probe that is told: probes that are held together do not show it, and that the strips are off is
# often no more than the thermostat's word.
BESIDE_A_PROBE = "heat_on"
JOINT_LABELS = {
    NOT_FED: "The evaporator is not fed enough",
    WARM_LIQUID: "The liquid line is warm: low on charge, or the condenser cannot give its heat off",
    WARM_SUCTION: "The suction line reads warm outdoors: the line is bare, or its clamp is loose",
    HEAT_SHORT: "The water moves too little heat: its coil or the refrigerant circuit",
    HEAD_HIGH: "The heat hardly gets into the water: its coil, or the refrigerant's high side",
    COLD_OUTDOORS: "Cold suction for this air: the outdoor coil is iced or dirty, or the outdoor probe reads warm",
    COLD_LIQUID: "The liquid line reads cold: its clamp is loose, or liquid backs up in the condenser",
    PUMPS_LITTLE: "Too little refrigerant moves: low on charge, or the compressor is weak",
    HEAT_OR_PROBE: "Air and water do not agree: heat is on inside the unit, or a probe is wrong",
    STARVED_OR_WEAK: "Too little refrigerant moves: a valve or a line holds it up, or the compressor is weak",
}
BY_DROP = "by_drop"  # the water flow is an inference from the water coil's drop
AIR_GROUPS, CHARGE_GROUPS = ("low_airflow", "high_airflow"), ("charge_low", "charge_high")
IN_THE_CIRCUIT = (
    "charge_low", "charge_high", "starved", "overfed", "compressor", "circuit", "high_side", NOT_FED, HEAT_SHORT,
    HEAD_HIGH, PUMPS_LITTLE, STARVED_OR_WEAK,
)  # fmt: skip
CIRCUIT_OR_OUTDOORS = (
    "short"  # the groups of the circuit and the outdoor side, where these readings cannot tell them apart
)
FLOW_GROUPS = (*AIR_GROUPS, "water_flow")
DUCT_GROUPS = ("return_duct", "supply_duct")
FLOW = (-0.15, -0.3, -0.55, -0.9)  # ln of airflow, by level of what hinders it
HELD = (0.0, -0.05, -0.2, -0.45)  # the same hindrance before a motor that holds its airflow
# ln of a part's drop at the same airflow, by the same levels. A blower has some 0.64 in. w.c. for all its parts: what
# the others leave it at the lower flow is taken by the part that hinders, a third of them (coil, supply) or a tenth of
# them (filter) when it was sound.
HINDERED, HINDERED_FILTER = (0.85, 1.3, 2.0, 2.85), (1.6, 2.4, 3.2, 4.2)
HINDERED_RETURN = (0.3, 0.6, 1.2, 1.9)  # beside the supply, where ducts are tight
SIZES = (-0.3, -0.16, 0.16, 0.3)  # ln of how much larger a machine is than its plate says


def is_in(group: str, told: str) -> bool:
    """Whether a group is the one told, or one of those told together."""
    return group in JOINT.get(told, (told,))


def of_another_size(**shares: float) -> dict[str, Levels]:
    """Signs of a machine that is larger than its plate by x (ln): each indicator by its share of x."""
    return {kind: tuple(share * x for x in SIZES) for kind, share in shares.items()}
