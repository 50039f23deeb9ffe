"""How often the shop's verdicts were right, by what they said and by how sure they were."""

from collections.abc import Iterable
from dataclasses import dataclass

from web.history.bridge.strings import label_of_group, wilson
from web.visits.models import Outcome

MOST = 5_000  # the newest outcomes
BANDS = ((0.0, 0.65), (0.65, 0.8), (0.8, 0.95), (0.95, 1.01))


@dataclass(frozen=True)
class Rate:
    """Of some verdicts, how many were right. label: which; mean: how sure they were on average."""

    label: str
    count: int
    right: int
    mean: float

    @property
    def share(self) -> str:
        """'4 of 5, 38 to 96 %'"""
        low, high = wilson(self.right, self.count)
        return f"{self.right} of {self.count}, {100 * low:.0f} to {100 * high:.0f} %"

    @property
    def is_told_apart(self) -> bool:
        """Whether how sure they were lies outside what the count leaves open."""
        low, high = wilson(self.right, self.count)
        return not low <= self.mean <= high


def outcomes_of(user) -> list[Outcome]:
    """The outcomes of the shop that count, the newest first; practice is left out."""
    rows = Outcome.objects.visible_to(user).counting().filter(round__visit__is_practice=False)
    return list(rows.select_related("round__visit__system__house", "person").order_by("-id")[:MOST])


def by_group(rows: Iterable[Outcome]) -> list[Rate]:
    """By what was said, most often first."""
    found: dict[str, list[Outcome]] = {}
    for row in rows:
        found.setdefault(named(row, row.said_group), []).append(row)
    rates = [_rate(label, of) for label, of in found.items()]
    return sorted(rates, key=lambda rate: (-rate.count, rate.label))


def named(row: Outcome, group: str) -> str:
    """What a group is called on the machine and in the mode that an outcome is of; cooling where none was kept."""
    return label_of_group(group, row.said_mode or "", row.round.visit.system.kind)


def by_certainty(rows: Iterable[Outcome]) -> list[Rate]:
    """By how sure the verdicts were; bands without any are left out."""
    found = [(low, high, [row for row in rows if low <= row.said_probability < high]) for low, high in BANDS]
    return [_rate(f"{100 * low:.0f} to {min(100 * high, 100):.0f} %", of) for low, high, of in found if of]


def _rate(label: str, rows: list[Outcome]) -> Rate:
    mean = sum(row.said_probability for row in rows) / len(rows)
    return Rate(label, len(rows), sum(row.right for row in rows), mean)
