"""The electrical loads and the loop's own figures in words."""

from engine.readings.measured import Measured, Water
from engine.readings.vocabulary import place_name
from engine.report.why_words import why
from engine.report.words import Words, capital, share
from engine.uncertainty.estimate import Estimate, Why

WAYS = {
    "metered": "metered", "legs": "volts x amps of each leg, power factor {factor:.2f} {how}", "one_leg": "one leg's amps taken for both, power factor {factor:.2f} {how}", "amps_only": "amps alone, at the usual volts and a power factor of {factor:.2f}",
}  # fmt: skip

# The entries of the heat ledger.
ENTRIES = {
    "air_side_capacity": "air-side capacity", "electrical_power": "electrical power", "water_flow": "water flow", "water_difference": "the water's difference",
    "condenser_airflow": "condenser airflow", "condenser_rise": "condenser air rise",
}  # fmt: skip


def loads_said(m: Measured, efficiency: tuple[Estimate, Estimate] | None, words: Words) -> list[str]:
    """Each load's power and how it was found; all together and the energy efficiency ratio, where every load and the
    capacity are known.
    """
    found = []
    for place, load in m.loads.items():
        read = m.round.value(place, "power_factor") is not None
        way = WAYS[load.way].format(factor=load.power_factor or 0.0, how="measured" if read else "assumed")
        found.append(
            f"{place_name(place)}: {words.within(Estimate(load.watts, load.share_u95 * load.watts, 'W'))}, {way}."
        )
    if efficiency:
        power, ratio = efficiency
        found.append(f"All together {words.within(power)}: {words.within(ratio)}.")
    return found


def water_said(m: Measured, words: Words) -> list[str]:
    """The heat that each GPM and degree of this fluid carries, beside the pocket factor; or why the water cannot be
    worked out.
    """
    if isinstance(m.water, Why):
        return [f"{capital(why(m.water, words))}."]
    if not isinstance(m.water, Water):
        return []
    heat, off = m.water.physics, share(abs(m.water.physics.pocket_error_share))
    pocket = "as the pocket factor has it" if off == share(0.0) else f"the pocket factor is {off} off here"
    return [f"{heat.factor:.0f} BTU/h per GPM and °F for this fluid; {pocket}."]
