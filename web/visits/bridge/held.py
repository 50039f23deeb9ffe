"""What a round is judged by beside its own readings: its machine's baseline with what sound visits since have taught,
how the machine drifts, and what is known of its kind.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

from engine.assessment import assess_many, tables_of
from engine.diagnosis.conclusion import Shown
from engine.diagnosis.verdict import CANNOT_TELL, CAUSE, GROUP, SOUND
from engine.errors import EngineError
from engine.kinds.kind import Kind
from engine.kinds.machine import Earlier, known
from engine.quantities.table import Table
from engine.readings.round import Round
from engine.report.bundle.kind_file import kind_of
from engine.uncertainty.trend import Trend

COUNT = (CAUSE, GROUP, SOUND, CANNOT_TELL)  # states of a verdict on readings that count


@dataclass(frozen=True)
class Held:
    """What a round is held to: the worked table of its baseline, None for none; how its quantities drift, by id; what
    is known of sound machines of its kind, and the version of that, None for none.
    """

    baseline: Table | None = None
    trends: Mapping[str, Trend] = field(default_factory=dict)
    kind: Kind | None = None
    kinds_version: int | None = None

    def by_kind(self, kind: Kind | None, version: int | None) -> "Held":
        """The same, with what is known of its kind."""
        return replace(self, kind=kind, kinds_version=version)


NOTHING = Held()


def kinds_in(document: str) -> Kind:
    """What a kind file says; raises EngineError for what is none."""
    return kind_of(document)


def assessed(rounds: Sequence[Round], held: Sequence[Held], shown: Sequence[Shown] | None = None):
    """Rounds of one shop assessed together, each by what it is held to; an EngineError in place of what cannot be."""
    kind = held[0].kind if held else None
    return assess_many(rounds, [h.baseline for h in held], shown, kind, [h.trends for h in held])


def worked(rounds: Sequence[Round]) -> list[Table | None]:
    """Rounds worked out together; None for one that cannot be."""
    return [None if isinstance(found, EngineError) else found for found in tables_of(rounds)]


def held_to(baseline: Table, came: Sequence[tuple[float, Table, bool, bool]]) -> Held:
    """A baseline with the visits that came after it, the oldest first: years since, table, whether it was sound, and
    whether something happened before it.
    """
    return Held(*known(baseline, [Earlier(*one) for one in came]))
