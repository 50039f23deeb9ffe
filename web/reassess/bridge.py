"""Many rounds through the engine at once, and the narrow answer that a re-assessment keeps of each."""

import logging
from collections.abc import Sequence
from dataclasses import dataclass, field

from engine import VERSION
from engine.assessment import Assessment as Found
from engine.diagnosis.conclusion import Shown
from engine.diagnosis.verdict import DOES_NOT_COUNT, STOP_FIRST
from engine.errors import EngineError
from engine.readings.round import Round
from engine.report.verdict_words import verdict_said
from engine.report.words import FAHRENHEIT
from web.visits.bridge.held import Held, assessed

__all__ = ["VERSION"]
logger = logging.getLogger(__name__)


@dataclass(frozen=True)
class Judged:
    """What was decided of a round. groups: how likely each is; states: of its quantities, by id."""

    state: str
    reason: str
    group: str
    cause: str
    gauges: str
    says: str
    rules_version: str
    groups: dict[str, float] = field(default_factory=dict)
    states: dict[str, str] = field(default_factory=dict)

    @property
    def decides(self) -> tuple[str, ...]:
        """What it decides, without how likely and without numbers."""
        return self.state, self.reason, self.group, self.cause, self.gauges

    def moved_from(self, before: "Judged") -> list[str]:
        """The quantities whose state is another one, or that only one of the two has."""
        ids = self.states.keys() | before.states.keys()
        return sorted(id_ for id_ in ids if self.states.get(id_) != before.states.get(id_))


def judged_many(
    rounds: Sequence[Round], held: Sequence[Held], shown: Sequence[Shown] | None = None
) -> list[Judged | None]:
    """Rounds judged together, each by what it is held to; None for one that cannot be, which is logged. shown: what was
    said of each last. Words are in °F whoever reads: they are a record.
    """
    return [_judged(one) for one in assessed(rounds, held, shown)]


def _judged(found: Found | EngineError) -> Judged | None:
    if isinstance(found, EngineError):
        logger.warning("A round could not be judged again: %s", found)
        return None
    verdict, diagnosis = found.verdict, found.diagnosis
    told = verdict.state not in (STOP_FIRST, DOES_NOT_COUNT)
    return Judged(
        verdict.state,
        verdict.reason,
        verdict.group,
        verdict.cause,
        diagnosis.gauges.decides,
        verdict_said(found, FAHRENHEIT).headline,
        found.round.rules.version,
        dict(diagnosis.ranked.by_group) if told else {},
        {id_: q.state for id_, q in found.quantities.items()},
    )


def as_stored(result: dict) -> Judged | None:
    """What a stored result decided; None where the engine of that day answered in another form."""
    try:
        verdict = result["verdict"]
        return Judged(
            verdict["state"],
            verdict["reason"],
            verdict["group"],
            verdict["cause"],
            result["gauges"]["decides"],
            verdict["headline"],
            result["house_rules"],
            result["groups"],
            {id_: q["state"] for id_, q in result["quantities"].items()},
        )
    except (KeyError, TypeError):
        return None
