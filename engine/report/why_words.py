"""Why a value is not there, in words."""

from engine.readings.vocabulary import ROOM
from engine.report.words import Words, listed, rounded
from engine.uncertainty.estimate import Outside, Why

BY_ID = {
    "no_curves": "there are no published curves for a ground-source unit: compare with its own table",
    "other_mode": "it is an expectation for cooling",
    "no_climate": "the house's climate is not entered",
    "no_target_today": "there is no target below about {five} in this weather",
    "no_target_by_water": "a fixed orifice's target goes by outdoor air, and this unit gives its heat to water",
    "not_in_the_stream": "the air leaving the condenser was not read in the stream",
    "cannot_be_computed": "it cannot be computed from these readings",
    "contradicted": "readings contradict each other",
    "limit": "a limit, not a target",
    "would_freeze": "with this air and airflow a sound coil would freeze",
}
NAMES = {
    "filter_drop": "the filter drop", "coil_drop": "the coil drop", "grille_to_unit": "the return at the unit", "unit_to_register": "a supply register",
    "compressor amps": "the compressor's amps", "outdoor_fan amps": "the outdoor fan's amps",
}  # fmt: skip


def why(reason: Why, words: Words) -> str:
    """The reason, without a capital or a full stop."""
    if reason.id == "needs":
        return f"needs {listed([_name(name) for name in reason.names])}"
    if reason.id == "outside":
        return "; ".join(outside(each, words) for each in reason.ranges)
    if reason.id == "error":
        return reason.names[0]
    return BY_ID[reason.id].format(five=words.difference(5.0, 0))


def outside(found: Outside, words: Words) -> str:
    """A value outside what a rule or the curves are stated for: 'outdoor temperature 62 °F is outside 70 to 115 °F'."""
    name, value, unit, low, high = found
    sign = words.sign(unit)
    if unit == "°F":
        value, low, high = (words.in_scale(number) for number in (value, low, high))
    limits = f"{rounded(low, 0)} to {rounded(high, 0)}"
    return f"{name} {_clear(value, low, high)} {sign} is outside {limits} {sign}"


def _clear(value: float, low: float, high: float) -> str:
    """A value beside its limits, with as many decimals as it takes to see that it is outside them."""
    decimals = next((d for d in (0, 1, 2) if round(value, d) < round(low, d) or round(value, d) > round(high, d)), 3)
    return rounded(value, decimals)


def _name(name: str) -> str:
    return f"the register in {name.removeprefix(ROOM)}" if name.startswith(ROOM) else NAMES.get(name, name)
