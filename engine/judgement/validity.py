"""Whether a test counts, in cooling or heating. Each condition: a permanent id, what is asked, when it fails, what to do.

A failed condition withholds the verdict, never the readings.
"""

from collections.abc import Callable
from dataclasses import dataclass

from engine.judgement.steadiness import NOT_YET, SETTLED, SWINGING
from engine.readings.round import Round
from engine.readings.vocabulary import GROUND_SOURCE, place_name
from engine.readings.walk import is_read_in
from engine.wording import listed, temperature


@dataclass(frozen=True)
class Condition:
    """One condition of a valid test. `fails` returns the reason in a sentence, or '' when the condition holds."""

    id: str
    fails: Callable[[Round], str]
    hint: str


# What has to stand still before a round counts: the air pair and the lines.
PAIR = (("return_unit", "dry_bulb"), ("supply_plenum", "dry_bulb"))

# ice seen -> where, in words
ICED = {"coil": "on the coil", "suction_line": "on the suction line", "after_spot": "after a spot"}


def watched_steady(round_: Round) -> bool:
    """Whether the air pair and every line read were held from probes that stood still, or swing for good: that beats a clock."""
    looked_at = [round_.reading(*where) for where in PAIR] + [
        r for r in round_.readings if r.quantity == "temperature" and is_read_in(r.place, round_.mode)
    ]
    return all(r is not None and r.steady in (SETTLED, SWINGING) for r in looked_at)


def _settled(round_: Round) -> str:
    read = [r for r in round_.readings if r.quantity in ("dry_bulb", "temperature") and is_read_in(r.place, round_.mode)]
    moving = [place_name(r.place) for r in read if r.steady == NOT_YET]
    if moving:
        return f"Still moving when held: {listed(moving)}."
    if watched_steady(round_):
        return ""
    reading = round_.reading("system", "running_time")
    least = round_.rules.settle_minutes
    if reading is None:
        return "How long the system has been running is not entered."
    if reading.value < least:
        return f"Not settled: {reading.value:.0f} of {least:.0f} minutes running."
    return ""


def _warm_enough(round_: Round) -> str:
    reading = round_.reading("outdoor", "dry_bulb")
    least = round_.rules.least_outdoor_f
    if reading and reading.value < least and round_.equipment.kind != GROUND_SOURCE:
        return (
            f"Too cold out to judge cooling: {temperature(reading.value)}, and the shop's rule is {temperature(least, 0)} and up."
        )
    return ""


def _strips_off(round_: Round) -> str:
    seen = round_.observations.get("strip_heat")
    if seen is None:
        return "Whether the strips are off is not entered."
    if seen == "on":
        return "The strips are on: they warm the air past the coil."
    return ""


def _no_ice(round_: Round) -> str:
    where = ICED.get(round_.observations.get("ice", ""))
    return f"There is ice {where}: but for a low subcooling nothing can be told through it." if where else ""


def _condenser_dry(round_: Round) -> str:
    if round_.observations.get("condenser_coil") == "wet":
        return "The condenser coil is wet: no test in rain or just after washing."
    return ""


def _panels_on(round_: Round) -> str:
    if round_.observations.get("panels") == "off":
        return "A panel is off: the blower moves more air and draws more amps."
    return ""


def _cold_enough(round_: Round) -> str:
    reading = round_.reading("outdoor", "dry_bulb")
    most = round_.rules.most_outdoor_heating_f
    if reading and reading.value >= most and round_.equipment.kind != GROUND_SOURCE:
        return (
            f"Too warm out to judge heating: {temperature(reading.value)}, and the shop's rule is below {temperature(most, 0)}."
        )
    return ""


def _outdoor_coil_clear(round_: Round) -> str:
    seen = round_.observations.get("outdoor_coil")
    if seen in ("iced", "defrosting"):
        return f"The outdoor coil is {seen}: that voids a heating test."
    return ""


CONDITIONS = (
    Condition("settled", _settled, "Let it run, then read return and supply together again."),
    Condition("warm_enough", _warm_enough, "Keep the air-side record; come back in warmer weather."),
    Condition("strips_off", _strips_off, "Look at the strips; if they are on, switch them off, let it settle, read again."),
    Condition(
        "no_ice", _no_ice, "Compressor off, thaw fully, prove the airflow; then read superheat and split in the first minutes."
    ),
    Condition("condenser_dry", _condenser_dry, "Wait until the coil is dry and it has settled again."),
    Condition("panels_on", _panels_on, "Put the panel on, let it settle, read again."),
)
HEATING_CONDITIONS = (
    Condition("settled", _settled, "Let it run, then read return and supply together again."),
    Condition("cold_enough", _cold_enough, "Keep the air-side record; come back in colder weather."),
    Condition("strips_off", _strips_off, "Look at the strips; if they are on, switch them off, let it settle, read again."),
    Condition("outdoor_coil_clear", _outdoor_coil_clear, "Let it defrost and run 10 minutes more."),
    Condition("panels_on", _panels_on, "Put the panel on, let it settle, read again."),
)


@dataclass(frozen=True)
class Withheld:
    """Why there is no verdict yet, and what to do about it."""

    condition: str
    reason: str
    hint: str


def withheld_because(round_: Round) -> list[Withheld]:
    """Every condition that fails, in order."""
    conditions = HEATING_CONDITIONS if round_.mode == "heating" else CONDITIONS
    checked = ((condition, condition.fails(round_)) for condition in conditions)
    return [Withheld(condition.id, reason, condition.hint) for condition, reason in checked if reason]
