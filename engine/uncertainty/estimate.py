"""A number with its 95 % uncertainty, or the reason there is none."""

from dataclasses import dataclass

from engine.wording import difference, temperature


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


@dataclass(frozen=True)
class Predicted:
    """A value worked out from temperatures alone where only gauges could measure: never to be taken for a measured one.

    A type of its own, so that no function for measured values takes it by mistake. Written with a leading '≈'.
    """

    value: float
    u95: float
    unit: str
    basis: str
    is_difference: bool = False  # of °F: a superheat, not a temperature

    def __str__(self) -> str:
        if self.unit != "°F":
            return f"≈ {self.value:.0f} ± {self.u95:.0f} {self.unit} predicted"
        value = difference(self.value, 0) if self.is_difference else temperature(self.value, 0)
        return f"≈ {value} ± {difference(self.u95, 0)} predicted"
