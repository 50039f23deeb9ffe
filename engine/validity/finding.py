"""A finding: what is wrong with a round or a part of it, as an id with its numbers. The words are in
engine.report.finding_words.
"""

from dataclasses import dataclass, field

CONTRADICTION, CONDITION, NOTE = "contradiction", "condition", "note"
EVERYTHING, CIRCUIT, SPLIT = "everything", "circuit", "split"
NEVER_TODAY = 1e6  # minutes: it takes other weather


@dataclass(frozen=True)
class Finding:
    """A permanent id, its level, what it withholds ('' for nothing), the fields it is shown at, and its numbers.

    inputs: the inputs of the Measured table that it takes out. minutes: until the round would count, were it done now:
    shortest first.
    numbers: by name, with the unit in the name; names: places and quantities it is about.
    """

    id: str
    level: str
    withholds: str = ""
    fields: tuple[tuple[str, str], ...] = ()
    inputs: tuple[str, ...] = ()
    minutes: float = 0.0
    numbers: dict[str, float] = field(default_factory=dict)
    names: dict[str, str] = field(default_factory=dict)
