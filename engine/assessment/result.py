"""What an assessment answers."""

from dataclasses import dataclass

from engine.expected.schools import SplitTarget
from engine.judgement.findings import Finding
from engine.judgement.indicators import Indicator
from engine.judgement.validity import Withheld
from engine.judgement.verdict import Verdict
from engine.uncertainty.estimate import Estimate
from engine.uncertainty.propagation import Propagated


@dataclass(frozen=True)
class PocketRow:
    """A pocket formula beside the exact result [BTU/h], and how far off it is here [share]."""

    formula: str
    pocket_btuh: float
    exact_btuh: float

    @property
    def error_share(self) -> float:
        """(pocket - exact) / exact."""
        return self.pocket_btuh / self.exact_btuh - 1.0


@dataclass(frozen=True)
class RoundResult:
    """Everything that follows from one round. quantities: by the names in engine.assessment.air_side.RESULTS.

    sampled: the uncertainty came from the seeded sample, because a result bends within the readings' uncertainty.
    carried, row: where the shares come from.
    supply_region: (mean dry bulb, mean humidity ratio, 2x2 covariance, 95 % scale) of the expected supply, or None.
    """

    engine_version: str
    rules_version: str
    quantities: dict[str, Estimate]
    indicators: tuple[Indicator, ...]
    schools: tuple[SplitTarget, ...]
    pocket: tuple[PocketRow, ...]
    findings: tuple[Finding, ...]
    withheld: tuple[Withheld, ...]
    verdict: Verdict
    apparatus_reason: str
    expected_reason: str
    coil_expected_dry: bool
    sampled: bool
    pressure_psia: float
    supply_region: tuple[float, float, tuple[tuple[float, float], tuple[float, float]]] | None
    carried: Propagated
    row: int

    def shares(self, name: str) -> dict[str, float]:
        """Which error source makes up how much of a quantity's variance, largest first."""
        return self.carried.shares(name, self.row)

    def __getitem__(self, name: str) -> Estimate:
        return self.quantities[name]

    def indicator(self, id_: str) -> Indicator:
        """The indicator with this id; KeyError when there is none."""
        return {indicator.id: indicator for indicator in self.indicators}[id_]
