"""Which causes there are where: by mode and by what the machine takes its heat from or gives it to."""

from collections.abc import Collection
from dataclasses import dataclass
from functools import cache

from engine.diagnosis.cause import (
    BY_DROP,
    CIRCUIT_OR_OUTDOORS,
    GROUPS,
    GROUPS_BY_WATER,
    GROUPS_IN_HEATING,
    JOINT_LABELS,
    WITHIN_A_SENTENCE,
    Cause,
    is_in,
)
from engine.diagnosis.cooling_causes import COOLING, COOLING_TOGETHER
from engine.diagnosis.heating_causes import HEATING, HEATING_TOGETHER
from engine.diagnosis.water_causes import WATER_COOLING, WATER_HEATING, WATER_TOGETHER
from engine.readings.round import ORIFICE, TXV, Round
from engine.readings.vocabulary import GROUND_SOURCE

AIR_SOURCE, WATER_SOURCE = "air", "water"
COOLING_MODE, HEATING_MODE = "cooling", "heating"
TOGETHER_SHARE = 0.12  # of a pair's rarer cause, how often the other is there too (working figure)


@dataclass(frozen=True)
class Setting:
    """What decides which causes there are and which signs they have: mode, source, metering device ('unknown' too),
    blower motor, how the water flow is known (BY_DROP or '').
    """

    device: str = "unknown"
    motor: str = "psc"
    mode: str = COOLING_MODE
    source: str = AIR_SOURCE
    flow_by: str = ""

    @property
    def facts(self) -> tuple[str, str, str]:
        """What of it a cause's signs go by; a metering device that is not known as a TXV."""
        return self.device if self.device in (TXV, ORIFICE) else TXV, self.motor, self.flow_by


# (source, mode) -> causes, and the pairs of them that travel together
_DATA = {
    (AIR_SOURCE, COOLING_MODE): (COOLING, COOLING_TOGETHER), (AIR_SOURCE, HEATING_MODE): (HEATING, HEATING_TOGETHER),
    (WATER_SOURCE, COOLING_MODE): (WATER_COOLING, WATER_TOGETHER),
    (WATER_SOURCE, HEATING_MODE): (WATER_HEATING, WATER_TOGETHER),
}  # fmt: skip
# Any setting's: for what is the same in all of them.
EVERY_CAUSE = {cause.id: cause for causes, _ in reversed(_DATA.values()) for cause in causes}


# Groups that a set of readings cannot tell apart: without any of these indicators, these groups are one.
_NEEDS_ANY = (
    "approach",
    "heat_approach",
    "liquid_drop",
    "subcooling",
    "superheat",
    "evaporating",
    "condensing",
    "heat_condensing",
)
_MERGED = ("charge_low", "starved", "compressor", "condenser", "outdoor_coil")
# By the water alone: what takes heat or draw from a ground-source unit is one group until its airflow is read.
_MERGED_BY_WATER = ("low_airflow", "circuit", "exchanger", "high_side")


def group_of(cause: Cause, kinds: Collection[str]) -> str:
    """The group of a cause as far as these indicators can tell."""
    by_water = "heat_moved" in kinds and "airflow" not in kinds
    blind = cause.group in _MERGED and not any(kind in kinds for kind in _NEEDS_ANY)
    return CIRCUIT_OR_OUTDOORS if blind or (by_water and cause.group in _MERGED_BY_WATER) else cause.group


def is_told(cause: str, group: str, told: str, kinds: Collection[str]) -> bool:
    """Whether a cause, by id, is the one that is told ('' for none), or of the group that is, as far as these
    indicators can tell.
    """
    return cause == told if told else is_in(group_of(EVERY_CAUSE[cause], kinds), group)


@cache
def causes_in(setting: Setting) -> dict[str, Cause]:
    """The causes of a setting by id, in the order of the data."""
    return {cause.id: cause for cause in _DATA[setting.source, setting.mode][0]}


def together_in(setting: Setting) -> tuple[tuple[str, str], ...]:
    """The pairs of causes that travel together in a setting."""
    return _DATA[setting.source, setting.mode][1]


def group_label(group: str, setting: Setting) -> str:
    """What to call a group in this setting: in heating no group speaks of the condenser."""
    labels = JOINT_LABELS | GROUPS | (GROUPS_IN_HEATING if setting.mode == HEATING_MODE else {})
    labels = labels | (GROUPS_BY_WATER if setting.source == WATER_SOURCE else {})
    return labels[group]


def group_named(group: str, setting: Setting) -> str:
    """What to call a group within a sentence."""
    label = group_label(group, setting)
    return WITHIN_A_SENTENCE.get(label, label)


def label_of(group: str, cause: str, setting: Setting) -> str:
    """What to call what is told in this setting: the cause where there is one, else its group."""
    return causes_in(setting)[cause].label if cause else group_label(group, setting)


def setting_of(round_: Round) -> Setting:
    """What decides which causes there are for a round, and their signs."""
    plate = round_.equipment
    if plate.kind != GROUND_SOURCE:
        return Setting(plate.metering_device, plate.blower_motor, round_.mode)
    by = "" if round_.value("water_loop", "flow") is not None else BY_DROP
    return Setting(plate.metering_device, plate.blower_motor, round_.mode, WATER_SOURCE, by)
