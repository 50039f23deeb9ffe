"""One airflow found one way, with the density it is stated at, its uncertainty and its caveats."""

from dataclasses import dataclass

from engine.airflow.methods import METHODS


@dataclass(frozen=True)
class AirflowEstimate:
    """cfm at the density of `plane` ('return', 'supply', 'standard'); u95 in CFM; caveats to be read with it."""

    method: str
    cfm: float
    u95_cfm: float
    plane: str
    caveats: tuple[str, ...] = ()

    @property
    def measured(self) -> bool:
        """Whether it was measured rather than guessed."""
        return METHODS[self.method].measured
