"""Whether a test counts, in cooling or heating. Each condition is a small function: a finding where it fails, nothing
where it holds.

A failed condition withholds a verdict, never the readings.
"""

from collections.abc import Callable
from dataclasses import replace

from engine.constants import (
    DEFROST_MINUTES,
    DRY_COIL_MINUTES,
    SHADE_MINUTES,
    SUCTION_UNDER_AIR,
    THAW_LINE_MINUTES,
    THAW_MINUTES,
)
from engine.readings.observations import STAGED
from engine.readings.round import Round
from engine.readings.steadiness import NOT_YET, SETTLED, SWINGING
from engine.readings.vocabulary import GROUND_SOURCE
from engine.readings.walk import is_read_in
from engine.validity.finding import CIRCUIT, CONDITION, EVERYTHING, NOTE, Finding
from engine.validity.weather import too_cold_out, too_warm_out

# What has to be steady before a round counts: the air pair and the lines.
PAIR = (("return_unit", "dry_bulb"), ("supply_plenum", "dry_bulb"))
ICED = ("coil", "suction_line", "after_spot")  # the degrees of `ice` that are ice


def watched_steady(round_: Round) -> bool:
    """Whether the air pair and every line read were held from probes that were steady, or swing for good: that beats a
    clock.
    """
    looked_at = [round_.reading(*where) for where in PAIR] + [
        r for r in round_.readings if r.quantity == "temperature" and is_read_in(r.place, round_.mode)
    ]
    return all(r is not None and r.steady in (SETTLED, SWINGING) for r in looked_at)


def is_restart(round_: Round) -> bool:
    """Whether it was read in the first minutes after a thaw, on purpose: it tells airflow from a coil that is not fed,
    and nothing more.
    """
    running = round_.value("system", "running_time")
    return round_.observations.get("restart") == "reading" and (running or 0.0) < round_.rules.settle_minutes


def thaw_minutes(round_: Round) -> float:
    """About how long a thaw takes [min]; 0 where no ice was seen."""
    where = round_.observations.get("ice", "")
    return 0.0 if where not in ICED else (THAW_MINUTES if where == "coil" else THAW_LINE_MINUTES).value


def settled(round_: Round) -> Finding | None:
    """It ran long enough, or its readings were watched and steady."""
    read = [
        r for r in round_.readings if r.quantity in ("dry_bulb", "temperature") and is_read_in(r.place, round_.mode)
    ]
    moving = tuple((r.place, r.quantity) for r in read if r.steady == NOT_YET)
    if moving:
        return Finding("still_moving", CONDITION, EVERYTHING, moving, minutes=3.0)
    if watched_steady(round_):
        return None
    running, least = round_.value("system", "running_time"), round_.rules.settle_minutes
    at = (("system", "running_time"),)
    if is_restart(round_):
        return Finding("restart_reading", NOTE, "", at, numbers={"minutes": running or 0.0})
    if running is None:
        return Finding("running_not_entered", CONDITION, EVERYTHING, at, minutes=0.5)
    if running < least:
        return Finding(
            "not_settled",
            CONDITION,
            EVERYTHING,
            at,
            minutes=least - running,
            numbers={"minutes": running, "least_minutes": least},
        )
    return None


def warm_enough(round_: Round) -> Finding | None:
    """It is warm enough out to judge the circuit in cooling."""
    outdoor = _outdoor_f(round_)
    return None if outdoor is None else too_cold_out(outdoor, round_.rules)


def cold_enough(round_: Round) -> Finding | None:
    """It is cold enough out to judge the circuit in heating. A suction far under air that warm says that the probe
    reads warm, or that hardly any of that air goes through the coil: then nothing is withheld, and the diagnosis says
    so.
    """
    outdoor, suction = _outdoor_f(round_), round_.value("true_suction", "temperature")
    if outdoor is None:
        return None
    found = too_warm_out(outdoor, round_.rules)
    if found is None or suction is None or outdoor - suction < SUCTION_UNDER_AIR.value:
        return found
    numbers = found.numbers | {"suction_under_f": outdoor - suction}
    return replace(found, level=NOTE, withholds="", minutes=SHADE_MINUTES.value, numbers=numbers)


def _outdoor_f(round_: Round) -> float | None:
    """The outdoor air of a machine that works against it, where it was read [°F]."""
    return None if round_.equipment.kind == GROUND_SOURCE else round_.value("outdoor", "dry_bulb")


SUPPLY_AIR = ("supply_plenum", "supply_register")


def strips_off(round_: Round) -> Finding | None:
    """Strip heat would warm the air past the coil. Where no supply air was read, nobody need look.

    In heating strips run beside the heat pump whenever the thermostat calls them: unseen, the rise tells nothing. In
    cooling only a fault has them on, which is one of the causes.
    """
    seen = round_.seen.get("strip_heat")
    if seen is None:
        read = any(round_.value(place, "dry_bulb") is not None for place in SUPPLY_AIR)
        voids = read and round_.mode == "heating"
        return Finding("strips_not_seen", CONDITION, EVERYTHING, minutes=1.0) if voids else None
    return (
        Finding("strips_on", CONDITION, EVERYTHING, minutes=2.0 + round_.rules.settle_minutes) if seen == "on" else None
    )


def at_full_capacity(round_: Round) -> Finding | None:
    """What is expected is expected at full capacity: of a machine with stages somebody says that it runs so."""
    if round_.equipment.stages not in STAGED:
        return None
    at = round_.observations.get("runs_at")
    if at is None:
        return Finding("capacity_not_seen", CONDITION, EVERYTHING, minutes=1.0)
    minutes = 1.0 + round_.rules.settle_minutes
    return Finding("part_capacity", CONDITION, EVERYTHING, minutes=minutes) if at == "part" else None


def no_ice(round_: Round) -> Finding | None:
    """Nothing but a low subcooling can be told through ice."""
    where = round_.observations.get("ice", "")
    if where not in ICED:
        return None
    return Finding("iced", CONDITION, EVERYTHING, minutes=thaw_minutes(round_), names={"where": where})


def condenser_dry(round_: Round) -> Finding | None:
    """A wet condenser condenses too cold: no test in rain or just after washing."""
    wet = round_.observations.get("condenser_coil") == "wet"
    return (
        Finding("condenser_wet", CONDITION, CIRCUIT, minutes=DRY_COIL_MINUTES.value + round_.rules.settle_minutes)
        if wet
        else None
    )


def panels_on(round_: Round) -> Finding | None:
    """With a panel off the blower moves more air and draws more amps."""
    off = round_.observations.get("panels") == "off"
    return Finding("panel_off", CONDITION, EVERYTHING, minutes=1.0 + round_.rules.settle_minutes) if off else None


def outdoor_coil_clear(round_: Round) -> Finding | None:
    """Frost and defrost void a heating test."""
    seen = round_.observations.get("outdoor_coil")
    if seen not in ("iced", "defrosting"):
        return None
    return Finding(f"outdoor_coil_{seen}", CONDITION, EVERYTHING, minutes=DEFROST_MINUTES.value)


_Condition = Callable[[Round], Finding | None]
CONDITIONS: tuple[_Condition, ...] = (
    settled,
    warm_enough,
    at_full_capacity,
    strips_off,
    no_ice,
    condenser_dry,
    panels_on,
)
HEATING_CONDITIONS: tuple[_Condition, ...] = (
    settled,
    cold_enough,
    at_full_capacity,
    strips_off,
    outdoor_coil_clear,
    panels_on,
)


def failed_conditions(round_: Round) -> tuple[Finding, ...]:
    """Every condition that fails, in order."""
    conditions = HEATING_CONDITIONS if round_.mode == "heating" else CONDITIONS
    return tuple(found for condition in conditions if (found := condition(round_)))
