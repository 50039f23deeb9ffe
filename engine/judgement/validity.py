"""Whether a cooling test counts. Each condition: a permanent id, what is asked, when it fails, what to do.

A failed condition withholds the verdict, never the readings.
"""

from collections.abc import Callable
from dataclasses import dataclass

from engine.readings.round import Round
from engine.readings.vocabulary import GROUND_SOURCE


@dataclass(frozen=True)
class Condition:
    """One condition of a valid test. `fails` returns the reason in a sentence, or '' when the condition holds."""

    id: str
    fails: Callable[[Round], str]
    hint: str


def _settled(round_: Round) -> str:
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
        return f"Too cold out to judge cooling: {reading.value:.1f} °F, and the shop's rule is {least:.0f} °F and up."
    return ""


def _strips_off(round_: Round) -> str:
    seen = round_.observations.get("strip_heat")
    if seen is None:
        return "Whether the strips are off is not entered."
    if seen == "on":
        return "The strips are on: they warm the air past the coil."
    return ""


CONDITIONS = (
    Condition("settled", _settled, "Let it run, then read return and supply together again."),
    Condition("warm_enough", _warm_enough, "Keep the air-side record; come back in warmer weather."),
    Condition("strips_off", _strips_off, "Switch the strips off, let it settle, read again."),
)


@dataclass(frozen=True)
class Withheld:
    """Why there is no verdict yet, and what to do about it."""

    condition: str
    reason: str
    hint: str


def withheld_because(round_: Round) -> list[Withheld]:
    """Every condition that fails, in order."""
    checked = ((condition, condition.fails(round_)) for condition in CONDITIONS)
    return [Withheld(condition.id, reason, condition.hint) for condition, reason in checked if reason]
