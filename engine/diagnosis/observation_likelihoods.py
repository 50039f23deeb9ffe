"""What a look says for and against a cause: how many times likelier it is to be seen with the cause than without it.

Working figures, common practice, no single source: a clear sight is worth about ten, a doubtful one two or three. A
sound machine's ratio is that of
every cause that is not listed: with another cause a blocked filter is as rare as without any. What is not listed at all
says nothing.
"""

from collections.abc import Mapping, Sequence

import numpy as np

from engine.diagnosis.cause import HEALTHY, Cause
from engine.quantities.residual import KINDS
from engine.uncertainty.trend import Trend

# fmt: off
# (what, degree) -> cause -> ratio
RATIOS: dict[tuple[str, str], dict[str, float]] = {
    ("filter", "loaded"): {"blocked_filter": 4.0}, ("filter", "blocked"): {"blocked_filter": 20.0, HEALTHY: 0.1},
    ("filter", "restrictive"): {"blocked_filter": 5.0}, ("filter", "clean"): {"blocked_filter": 0.1},
    ("evaporator_face", "dirty"): {"dirty_evaporator": 10.0, HEALTHY: 0.4}, ("evaporator_face", "covered"): {"dirty_evaporator": 30.0, HEALTHY: 0.1},
    ("evaporator_face", "clean"): {"dirty_evaporator": 0.1},
    ("blower_wheel", "dirty"): {"low_blower": 8.0, HEALTHY: 0.5}, ("blower_wheel", "clean"): {"low_blower": 0.6},
    ("blower_speed", "changed"): {"low_blower": 3.0, "high_airflow": 3.0}, ("blower_speed", "drive_added"): {"low_blower": 3.0, "high_airflow": 2.0},
    ("blower_speed", "as_listed"): {"low_blower": 0.6, "high_airflow": 0.5},
    ("registers", "closed"): {"tight_ducts": 5.0}, ("registers", "open"): {"tight_ducts": 0.7},
    ("ducts", "kinked"): {"tight_ducts": 8.0, HEALTHY: 0.4}, ("ducts", "collapsed"): {"tight_ducts": 20.0, HEALTHY: 0.1},
    ("ducts", "open"): {"return_leak": 8.0, HEALTHY: 0.3}, ("ducts", "sound"): {"tight_ducts": 0.6, "return_leak": 0.5},
    ("condenser_coil", "matted"): {"dirty_condenser": 15.0, "outdoor_coil": 10.0, HEALTHY: 0.2}, ("condenser_coil", "dry"): {"dirty_condenser": 0.3, "outdoor_coil": 0.6},
    ("outdoor_coil", "iced"): {"outdoor_coil": 20.0, HEALTHY: 0.1}, ("outdoor_coil", "clear"): {"outdoor_coil": 0.5},
    ("strainer", "plugged"): {"low_water_flow": 15.0, HEALTHY: 0.2}, ("strainer", "clean"): {"low_water_flow": 0.5},
    ("loop_pump", "noisy"): {"low_water_flow": 8.0, HEALTHY: 0.3}, ("loop_pump", "stopped"): {"low_water_flow": 20.0, HEALTHY: 0.1}, ("loop_pump", "quiet"): {"low_water_flow": 0.5},
    ("outdoor_coil_fed", "part"): {"undercharge": 6.0, "restriction": 5.0, "starving_valve": 5.0, HEALTHY: 0.15},
    ("outdoor_coil_fed", "even"): {"undercharge": 0.4, "restriction": 0.4, "starving_valve": 0.4},
    ("outdoor_fan_blade", "wrong"): {"weak_condenser_fan": 15.0, "outdoor_coil": 8.0, HEALTHY: 0.4}, ("outdoor_fan_blade", "slow"): {"weak_condenser_fan": 15.0, "outdoor_coil": 8.0, HEALTHY: 0.2},
    ("outdoor_fan_blade", "stopped"): {"weak_condenser_fan": 30.0, "outdoor_coil": 10.0, HEALTHY: 0.05},
    ("outdoor_fan_blade", "right"): {"weak_condenser_fan": 0.2, "outdoor_coil": 0.7},
    ("liquid_line_noise", "flash"): {"undercharge": 6.0, "restriction": 4.0, "restriction_outdoors": 6.0, HEALTHY: 0.2}, ("liquid_line_noise", "quiet"): {"undercharge": 0.6, "restriction": 0.7, "restriction_outdoors": 0.5},
    ("sight_glass", "bubbles"): {"undercharge": 4.0, "restriction": 3.0, "restriction_outdoors": 4.0, HEALTHY: 0.3}, ("sight_glass", "clear"): {"undercharge": 0.5},
    ("oil_stains", "seen"): {"undercharge": 4.0}, ("oil_stains", "none"): {"undercharge": 0.8},
    ("caps", "missing"): {"undercharge": 1.6}, ("caps", "loose"): {"undercharge": 1.4},
    ("recent_work", "charge_added"): {"overcharge": 4.0, "undercharge": 2.0, "dirty_evaporator": 1.5}, ("recent_work", "part_changed"): {"non_condensables": 3.0},
    ("service_valves", "not_open"): {"restriction": 10.0, "restriction_outdoors": 15.0, HEALTHY: 0.3}, ("service_valves", "open"): {"restriction_outdoors": 0.5},
    ("drier", "hidden"): {"restriction_outdoors": 2.0}, ("drier", "seen"): {"restriction_outdoors": 0.6}, ("drier", "none"): {"restriction_outdoors": 0.4},
    ("ice", "after_spot"): {"restriction": 8.0, "restriction_outdoors": 8.0, "starving_valve": 8.0, HEALTHY: 0.05},
    ("ice", "coil"): {"blocked_filter": 3.0, "dirty_evaporator": 3.0, "tight_ducts": 2.0, "low_blower": 2.0, "undercharge": 3.0, "restriction": 3.0, "restriction_outdoors": 3.0, "starving_valve": 3.0, HEALTHY: 0.03},
    ("ice", "suction_line"): {"undercharge": 3.0, "blocked_filter": 2.0, "dirty_evaporator": 2.0, HEALTHY: 0.05},
    ("valve_bulb", "no_answer"): {"starving_valve": 8.0, "restriction": 2.0, "restriction_outdoors": 2.0, HEALTHY: 0.7}, ("valve_bulb", "answers"): {"starving_valve": 0.2},
    ("probes_together", "differ"): {"supply_probe": 10.0, "return_probe": 10.0, "liquid_clamp": 10.0, "suction_clamp": 10.0, "discharge_clamp": 10.0, "water_probe": 10.0, HEALTHY: 0.4},
    ("probes_together", "agree"): {"supply_probe": 0.15, "return_probe": 0.15, "liquid_clamp": 0.2, "suction_clamp": 0.2, "discharge_clamp": 0.2, "water_probe": 0.15},
    ("outdoor_shaded", "fell"): {"outdoor_probe": 20.0, HEALTHY: 0.3}, ("outdoor_shaded", "stayed"): {"outdoor_probe": 0.1},
    ("suction_insulation", "bare"): {"bare_suction_line": 3.0}, ("suction_insulation", "whole"): {"bare_suction_line": 0.15},
    ("house_loaded", "came_right"): {"undercharge": 0.4, "restriction": 0.4, "restriction_outdoors": 0.4, "starving_valve": 0.4, "weak_compressor": 0.4, "dirty_condenser": 0.5},
    ("house_loaded", "stayed"): {"undercharge": 1.5, "restriction": 1.5, "restriction_outdoors": 1.5, "starving_valve": 1.5, "weak_compressor": 1.5, "dirty_condenser": 1.3},
    ("strip_heat", "on"): {"heat_on": 50.0}, ("strip_heat", "off"): {"heat_on": 0.5}, ("strip_heat", "none"): {"heat_on": 0.1},
}
# fmt: on
RATIOS["suction_swings", "yes"] = {"overfeeding": 3.0, "starving_valve": 1.5}  # what a held probe saw


def ratio_of(what: str, degree: str, cause: str) -> float:
    """How many times likelier this is to be seen with the cause than without it; a cause that has no part in it is as a
    sound machine.
    """
    known = RATIOS.get((what, degree), {})
    return known.get(cause, known.get(HEALTHY, 1.0))


SAYS_SOMETHING = (
    2.0  # times as often, or as rarely, seen with a cause as without: from there a look tells (working figure)
)


def speak_of(seen: Mapping[str, str], cause: str) -> bool:
    """Whether any look that was taken says something of a cause, for it or against it."""
    ratios = [RATIOS.get(look, {}).get(cause, 1.0) for look in seen.items()]
    return any(ratio >= SAYS_SOMETHING or ratio <= 1 / SAYS_SOMETHING for ratio in ratios)


def log_ratios(seen: dict[str, str], causes: tuple[str, ...], members: np.ndarray) -> np.ndarray:
    """ln of the ratio of everything seen under each hypothesis, shape (h,). members (h, causes): 1 where a cause is in
    it.

    One cause that explains a sight is enough: what else is in the hypothesis then has no part in it.
    """
    total = np.zeros(len(members))
    for what, degree in seen.items():
        known = RATIOS.get((what, degree))
        if known:
            logs = np.array([np.log(known[c]) if c in known and c != HEALTHY else 0.0 for c in causes])
            explains = members @ np.array([float(c in known and c != HEALTHY) for c in causes]) > 0
            total += np.where(explains, members @ logs, np.log(known.get(HEALTHY, 1.0)))
    return total


# A drift over earlier visits that is more than its doubt by this much (some 99 %: a dozen quantities are looked at) is
# worth a clear sight, for what creeps and moves these quantities that way (working figures).
TOLD_BY_DRIFT, DRIFT_RATIO = 1.3, 8.0
CREEPING = ("undercharge", "blocked_filter", "dirty_evaporator", "low_blower", "dirty_condenser", "outdoor_coil",
            "weak_compressor", "non_condensables", "low_water_flow", "fouled_exchanger")  # fmt: skip


def is_told(trend: Trend) -> bool:
    """Whether a drift is more than its doubt by enough to be evidence."""
    return abs(trend.slope) > TOLD_BY_DRIFT * trend.u95


def ways_of(drifts: Mapping[str, Trend]) -> dict[str, int]:
    """-1 or +1 for each drift, by quantity."""
    return {id_: 1 if trend.slope > 0 else -1 for id_, trend in drifts.items()}


def drifts_explained(cause: Cause, facts: Sequence[str], drifts: Mapping[str, int]) -> tuple[str, ...]:
    """The drifts (quantity -> -1 or +1) that a cause explains: one that creeps, by the way it first moves each. facts:
    of the machine, as for its signs.
    """
    if cause.id not in CREEPING:
        return ()
    signs = cause.signs_on(*facts)
    return tuple(id_ for id_, way in drifts.items() if _first_moves(id_, signs.get(id_, ())) == way)


def _first_moves(kind: str, shifts: Sequence[float]) -> int:
    """The way a quantity first goes by more than the sign's own doubt, by level; 0 where it hardly moves."""
    return next((1 if shift > 0 else -1 for shift in shifts if abs(shift) >= KINDS[kind].floor), 0)


def degrees_of(what: str) -> list[str]:
    """The degrees of a look that say something."""
    return [degree for name, degree in RATIOS if name == what]
