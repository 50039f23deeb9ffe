"""What a round is judged by beside its own readings: its machine's baseline with what sound visits since have taught,
and how the machine drifts.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from engine.assessment import tables_of
from engine.diagnosis.verdict import CANNOT_TELL, CAUSE, GROUP, SOUND
from engine.errors import EngineError
from engine.kinds.machine import Earlier, known
from engine.quantities.table import Table
from engine.readings.round import Round
from engine.uncertainty.trend import Trend

COUNT = (CAUSE, GROUP, SOUND, CANNOT_TELL)  # states of a verdict on readings that count


@dataclass(frozen=True)
class Held:
    """What a round is held to: the worked table of its baseline, None for none; how its quantities drift, by id."""

    baseline: Table | None = None
    trends: Mapping[str, Trend] = field(default_factory=dict)


NOTHING = Held()


def worked(rounds: Sequence[Round]) -> list[Table | None]:
    """Rounds worked out together; None for one that cannot be."""
    return [None if isinstance(found, EngineError) else found for found in tables_of(rounds)]


def held_to(baseline: Table, came: Sequence[tuple[float, Table, bool, bool]]) -> Held:
    """A baseline with the visits that came after it, the oldest first: years since, table, whether it was sound, and
    whether something happened before it.
    """
    return Held(*known(baseline, [Earlier(*one) for one in came]))
