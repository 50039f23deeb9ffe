"""A nameplate in words: what does not fit together on it, and what is taken where it is silent."""

from engine.constants import DEFAULT_TARGET_SUBCOOLING, HEATING_RATED_SPREAD, NOMINAL_CFM_PER_TON, STATIC_RATING_LIMIT
from engine.expected.lines import class_of
from engine.readings.nameplate import PlateFinding, silent_on
from engine.readings.round import Equipment
from engine.readings.vocabulary import GROUND_SOURCE
from engine.report.words import Words

FINDINGS = {
    "refrigerant_and_age": "{refrigerant} in a machine made in {year:.0f}: it was charged new from {first:.0f} to {last:.0f}. Read both plates again.",
    "tons_and_blower": "{tons:g} tons want about {wanted_cfm:.0f} CFM; the blower table runs from {least_cfm:.0f} to {most_cfm:.0f}. One of them is of another unit.",
    "tap_not_in_table": "Tap '{tap}' is not in the blower table ({taps}).",
    "amps_and_tons": "{amps:g} A rated load for {tons:g} tons; {least_amps:.0f} to {most_amps:.0f} would be usual. Read both plates again.",
    "heating_and_tons": "{rated:,.0f} BTU/h of heating on {tons:g} tons; nominal tons, more or less, would be usual. Read the plate again.",
    "heating_17_and_47": "{low:,.0f} BTU/h at 17 °F against {rated:,.0f} at 47 °F; a half to nine tenths would be usual. Are the two changed over?",
    "heating_17_alone": "Heating at 17 °F is used together with that at 47 °F: enter both.",
    "stages_unknown": "At SEER {seer:g} most machines have two stages or a variable speed. Enter which: at part capacity nothing can be judged.",
    "metering_unknown": "Metering device unknown: superheat has no target until somebody looks.",
}  # fmt: skip


def plate_finding_said(finding: PlateFinding) -> str:
    """A contradiction of the plate in words."""
    return FINDINGS[finding.id].format(**finding.numbers, **finding.names)


def defaults_said(plate: Equipment, words: Words) -> tuple[str, ...]:
    """What is taken where the plate is silent, and the class it makes of its rating, in sentences."""
    silent = {
        "target_subcooling": f"Target subcooling: {words.difference(DEFAULT_TARGET_SUBCOOLING.value, 0)}, the usual stand-in. Ask the maker.",
        "rating_static": f"Maximum external static: {words.value(STATIC_RATING_LIMIT.value, 'in. w.c.')}, the usual rating limit.",
        "seer": "Efficiency unknown: the approach is held to the bare limit for modern equipment, and coil and condenser to wide usual values.",
        "rated_amps": "No rated-load amps: the compressor's draw is held to its efficiency rating alone, which is coarse.",
        "blower_table": f"No blower table: airflow must be measured, or guessed at {NOMINAL_CFM_PER_TON.value:.0f} CFM a ton.",
        "performance_table": "No performance table: expected capacity comes from the published curves for such units.",
        "rated_heating": f"No rated heating at 47 °F: the nominal tons stand for it, good to {100 * HEATING_RATED_SPREAD.value:.0f} %. The maker's sheet has it.",
    }
    rated = plate.seer is not None and plate.kind != GROUND_SOURCE
    of_class = (f"Efficiency {plate.seer:g}: class {class_of(plate.seer)}.",) if rated else ()
    return (*of_class, *(silent[id_] for id_ in silent_on(plate)))
