"""Whether a round may become the baseline: the reasons against it, as ids."""

from collections.abc import Callable

from engine.readings.measured import Measured
from engine.validity.finding import CONTRADICTION, EVERYTHING, Finding

_Case = tuple[Measured, tuple[Finding, ...]]


def _wet(case: _Case) -> bool:
    return case[0].round.observations.get("condenser_coil") == "wet"


def _coil_not_seen(case: _Case) -> bool:
    round_ = case[0].round
    return (
        round_.mode == "cooling"
        and round_.equipment.kind != "ground_source"
        and "condenser_coil" not in round_.observations
    )


def _panel_off(case: _Case) -> bool:
    return case[0].round.observations.get("panels") == "off"


def _panels_not_seen(case: _Case) -> bool:
    return "panels" not in case[0].round.observations


def _unsettled(case: _Case) -> bool:
    return any(f.id in ("not_settled", "running_not_entered", "still_moving", "restart_reading") for f in case[1])


def _liquid_at_outdoor(case: _Case) -> bool:
    round_ = case[0].round
    liquid, outdoor = round_.value("liquid_line_outdoor", "temperature"), round_.value("outdoor", "dry_bulb")
    return round_.mode == "cooling" and liquid is not None and outdoor is not None and liquid <= outdoor


def _contradicted(case: _Case) -> bool:
    return any(f.level == CONTRADICTION for f in case[1])


def _void(case: _Case) -> bool:
    return any(
        f.withholds == EVERYTHING and f.id in ("iced", "strips_on", "outdoor_coil_iced", "outdoor_coil_defrosting")
        for f in case[1]
    )


def _no_statics(case: _Case) -> bool:
    return case[0].statics is None


OBSTACLES: dict[str, Callable[[_Case], bool]] = {
    "condenser_wet": _wet, "condenser_not_seen": _coil_not_seen, "panel_off": _panel_off,
    "panel_not_seen": _panels_not_seen,
    "unsettled": _unsettled, "liquid_at_outdoor": _liquid_at_outdoor, "contradictions": _contradicted,
    "test_void": _void, "no_statics": _no_statics,
}  # fmt: skip


def obstacles(measured: Measured, findings: tuple[Finding, ...]) -> tuple[str, ...]:
    """Why this round may not become the baseline, by id; empty when it may. Common practice, no single source."""
    return tuple(id_ for id_, holds in OBSTACLES.items() if holds((measured, findings)))
