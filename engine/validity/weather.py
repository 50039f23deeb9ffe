"""Whether the weather lets a circuit be judged: asked of a round that was read, and of a day that is forecast."""

from engine.houserules.rules import HouseRules
from engine.readings.vocabulary import GROUND_SOURCE
from engine.validity.finding import CIRCUIT, CONDITION, NEVER_TODAY, Finding

OUTDOOR = (("outdoor", "dry_bulb"),)
COOLING, HEATING = "cooling", "heating"


def too_cold_out(outdoor_f: float, rules: HouseRules) -> Finding | None:
    """Cooling is judged from the shop's least outdoor temperature up: below it the circuit cannot be, the air and the
    statics can. outdoor_f [°F].
    """
    least = rules.least_outdoor_f
    if outdoor_f >= least:
        return None
    numbers = {"outdoor_f": outdoor_f, "least_f": least}
    return Finding("too_cold_out", CONDITION, CIRCUIT, OUTDOOR, minutes=NEVER_TODAY, numbers=numbers)


def too_warm_out(outdoor_f: float, rules: HouseRules) -> Finding | None:
    """Heating is judged below the shop's most outdoor temperature. outdoor_f [°F]."""
    most = rules.most_outdoor_heating_f
    if outdoor_f < most:
        return None
    numbers = {"outdoor_f": outdoor_f, "most_f": most}
    return Finding("too_warm_out", CONDITION, CIRCUIT, OUTDOOR, minutes=NEVER_TODAY, numbers=numbers)


def withheld_ahead(kind: str, mode: str, outdoor_f: float, is_wet: bool, rules: HouseRules) -> tuple[str, ...]:
    """What of a test in a mode the weather to come would withhold, by id: 'too_cold_out', 'too_warm_out', 'rain'.

    kind: of the machine; mode: '' where nobody said, then only what hinders both modes; outdoor_f: as forecast [°F];
    is_wet: rain or snow is forecast, which wets the outdoor coil in either mode. A ground-source unit has no outdoor
    coil: no weather hinders it. Common practice, no single source.
    """
    if kind == GROUND_SOURCE:
        return ()
    hinders = {COOLING: too_cold_out(outdoor_f, rules), HEATING: too_warm_out(outdoor_f, rules)}
    asked = [hinders[mode]] if mode else list(hinders.values())
    found = [finding.id for finding in asked if finding] if all(asked) else []
    return (*found, *(["rain"] if is_wet else []))
