"""A number with its 95 % uncertainty, or the reason there is none."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Estimate:
    """value and u95 in `unit`; both None when withheld or not yet possible, and `missing` says why."""

    value: float | None
    u95: float | None
    unit: str
    missing: str = ""

    @property
    def known(self) -> bool:
        """Whether there is a value."""
        return self.value is not None
