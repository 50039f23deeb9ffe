"""Several airflows of one system at one time: weighted by their uncertainty, and whether they agree."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot

from engine.errors import EngineError
from engine.physics.airflow.methods import AirflowEstimate


@dataclass(frozen=True)
class Weighted:
    """Dry-air mass flow [lb/h] with its 95 %, each method's weight, and the disagreements: two methods and how far
    apart they are [share].
    """

    mass_flow_lbh: float
    u95_lbh: float
    weights: dict[str, float]
    disagreements: tuple[tuple[str, str, float], ...]


def weigh(estimates: Sequence[AirflowEstimate], volume_ft3lb: dict[str, float]) -> Weighted:
    """Weigh airflows as dry-air mass flows, each at the density it is stated at.

    volume_ft3lb: specific volume [ft3/lb dry air] by plane. Inverse-variance weights (JCGM 100:2008, independent
    methods); a stated guess counts only when nothing was measured. Two that differ by more than their joint 95 % are
    named; the answer's uncertainty then covers the spread between them.
    """
    if not estimates:
        raise EngineError("there is no airflow to weigh")
    measured = [e for e in estimates if e.measured] or list(estimates)
    flows = [60.0 * e.cfm / volume_ft3lb[e.plane] for e in measured]
    spreads = [60.0 * e.u95_cfm / volume_ft3lb[e.plane] for e in measured]
    inverse = [1.0 / spread**2 for spread in spreads]
    flow = sum(w * f for w, f in zip(inverse, flows, strict=True)) / sum(inverse)
    u95 = sum(inverse) ** -0.5
    disagreements = []
    for i in range(len(measured)):
        for j in range(i + 1, len(measured)):
            apart = abs(flows[i] - flows[j])
            if apart > hypot(spreads[i], spreads[j]):
                u95 = max(u95, apart / 2)
                disagreements.append((measured[i].method, measured[j].method, apart / flow))
    weights = {e.method: w / sum(inverse) for e, w in zip(measured, inverse, strict=True)}
    return Weighted(flow, u95, weights, tuple(disagreements))
