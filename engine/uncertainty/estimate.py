"""A number with its 95 % uncertainty, or the reason there is none."""

from dataclasses import dataclass

Outside = tuple[str, float, str, float, float]  # what, its value, unit, least and most that the formula is stated for


@dataclass(frozen=True)
class Why:
    """Why there is no value, as data: an id, what it names, and values outside their range. The words are in
    engine.report.words.

    ids: 'needs' (names: what was not read), 'outside' (ranges), 'contradicted' (names: the finding), or an id that says
    it all.
    """

    id: str
    names: tuple[str, ...] = ()
    ranges: tuple[Outside, ...] = ()


@dataclass(frozen=True)
class Estimate:
    """A value and its 95 % in `unit`; or neither, when withheld or not yet possible, and `missing` says why.

    Only a known one has a value: to ask another for it is a fault of the program, and raises LookupError.
    """

    _value: float | None
    _u95: float | None
    unit: str
    missing: Why | None = None

    @property
    def known(self) -> bool:
        """Whether there is a value."""
        return self._value is not None

    @property
    def value(self) -> float:
        """The value [unit]."""
        if self._value is None:
            raise LookupError(f"no value: {self.missing}")
        return self._value

    @property
    def u95(self) -> float:
        """Its uncertainty at 95 % [unit]."""
        if self._u95 is None:
            raise LookupError(f"no value: {self.missing}")
        return self._u95


def withheld(unit: str, why: Why) -> Estimate:
    """No value, and why."""
    return Estimate(None, None, unit, why)


def missing(unit: str, id_: str, *names: str) -> Estimate:
    """No value, because of what an id and names say."""
    return withheld(unit, Why(id_, names))


@dataclass(frozen=True)
class Predicted:
    """A value worked out from temperatures alone where only gauges could measure: never to be taken for a measured one.

    A type of its own, so that no function for measured values takes it by mistake. Written with a leading '≈'.
    """

    value: float
    u95: float
    unit: str
    basis: str
