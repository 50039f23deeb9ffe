"""Whether a round may become the baseline, and how a later one stands against it. Reasons as data."""

from collections.abc import Callable
from dataclasses import dataclass

from engine.houserules.rules import DEFAULT, HouseRules


@dataclass(frozen=True)
class Fitness:
    """What is known of a round that would be a baseline. None: not looked at."""

    condenser_wet: bool | None
    panel_off: bool | None
    settled: bool
    liquid_line_f: float | None
    outdoor_f: float | None
    contradictions: int
    statics_taken: bool


@dataclass(frozen=True)
class Obstacle:
    """One reason against a baseline: a permanent id, when it holds, what it says."""

    id: str
    holds: Callable[[Fitness], bool]
    says: str


OBSTACLES = (
    Obstacle(
        "condenser_wet",
        lambda f: f.condenser_wet is True,
        "The condenser coil is wet: no baseline in rain or just after washing.",
    ),
    Obstacle("condenser_not_seen", lambda f: f.condenser_wet is None, "Whether the condenser coil is dry is not entered."),
    Obstacle(
        "panel_off", lambda f: f.panel_off is True, "A panel is off: the blower moves more air and draws more amps than it will."
    ),
    Obstacle("panel_not_seen", lambda f: f.panel_off is None, "Whether the panels are on is not entered."),
    Obstacle("unsettled", lambda f: not f.settled, "It has not settled."),
    Obstacle(
        "liquid_at_outdoor",
        lambda f: f.liquid_line_f is not None and f.outdoor_f is not None and f.liquid_line_f <= f.outdoor_f,
        "The liquid line is at or below outdoor air: doubt the probes, then look for a restriction.",
    ),
    Obstacle("contradictions", lambda f: f.contradictions > 0, "Readings contradict each other."),
    Obstacle("no_statics", lambda f: not f.statics_taken, "Never leave without static pressures."),
)


def obstacles(fitness: Fitness) -> list[str]:
    """Why this round may not become the baseline; empty when it may."""
    return [obstacle.says for obstacle in OBSTACLES if obstacle.holds(fitness)]


# quantity -> (house rule of its absolute tolerance, house rule of its share of baseline, which way dirt moves it: +1 up, -1 down, 0 either)
FOLLOW_UP = {
    "split_f": ("follow_up_split_f", None, 0),
    "liquid_line_f": ("follow_up_line_f", None, 0),
    "suction_line_f": ("follow_up_line_f", None, 0),
    "amps": (None, "amps_tolerance_share", 0),
    "static_inwc": ("follow_up_static_inwc", "follow_up_static_share", 0),
    "filter_drop_inwc": ("follow_up_static_inwc", "follow_up_static_share", +1),
    "capacity_btuh": (None, "follow_up_capacity_share", -1),
    "airflow_cfm": (None, "follow_up_capacity_share", -1),
}


@dataclass(frozen=True)
class FollowUp:
    """One quantity against its weather-corrected baseline: as it was, moved, better than possible, or can't tell."""

    quantity: str
    state: str
    sentence: str


def follow_up(
    quantity: str, value: float, u95: float, baseline: float, baseline_u95: float, rules: HouseRules = DEFAULT
) -> FollowUp:
    """Compare a quantity of FOLLOW_UP with its baseline corrected to today, both with their 95 %.

    Tolerances: the house rules named there. Better than baseline beyond tolerance and margin is suspect: dirt never improves a system.
    """
    absolute, share, dirt = FOLLOW_UP[quantity]
    floor = getattr(rules, absolute) if absolute else 0.0
    tolerance = max(floor, getattr(rules, share) * abs(baseline) if share else 0.0)
    off, u = value - baseline, (u95**2 + baseline_u95**2) ** 0.5
    name = quantity.rsplit("_", 1)[0].replace("_", " ").capitalize() if quantity != "amps" else "Amps"
    if abs(off) <= tolerance:
        return FollowUp(quantity, "as it was", f"{name} is as it was.")
    if abs(off) - u <= tolerance:
        return FollowUp(quantity, "can't tell yet", f"{name} moved by {off:+.3g}, within what the readings can show.")
    if dirt and off * dirt < 0:
        return FollowUp(
            quantity,
            "better than possible",
            f"{name} is better than at baseline by {abs(off):.3g}: dirt never improves a system. Read it again.",
        )
    return FollowUp(quantity, "moved", f"{name} moved by {off:+.3g} from its baseline of {baseline:.3g}.")
