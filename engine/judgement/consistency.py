"""Whether two rounds of one visit agree: airflow against static, and whether a pair was read in the same way."""

from dataclasses import dataclass
from math import hypot


@dataclass(frozen=True)
class Disagreement:
    """Something between two rounds that cannot be, or cannot be compared: id, sentence, what to do."""

    id: str
    message: str
    hint: str


def airflow_against_static(
    cfm: tuple[float, float], cfm_u95: tuple[float, float], static_inwc: tuple[float, float], static_u95: tuple[float, float]
) -> list[Disagreement]:
    """More airflow through the same ducts raises their static with about its square (turbulent flow).

    First and second round: airflow [CFM] and the static of a stretch that was not touched between them, such as the supply side [in. w.c.].
    """
    flow, static = cfm[1] / cfm[0], static_inwc[1] / static_inwc[0]
    u_flow = 2 * flow**2 * hypot(cfm_u95[0] / cfm[0], cfm_u95[1] / cfm[1])
    u_static = static * hypot(static_u95[0] / static_inwc[0], static_u95[1] / static_inwc[1])
    if abs(static - flow**2) <= hypot(u_flow, u_static):
        return []
    text = f"Airflow went to {100 * flow:.0f} % and should have taken the static to {100 * flow**2:.0f} %; it reads {100 * static:.0f} %."
    return [Disagreement("airflow_against_static", text, "One of them is wrong, or the ducts were changed: read both again.")]


def same_way(
    place: str, probes: tuple[str | None, str | None], spots: tuple[str, str], change: float, accuracy: float
) -> list[Disagreement]:
    """Whether a place was read with the same probe at the same spot in both rounds; change and accuracy in the reading's unit.

    A moved probe breaks the comparison; another probe only widens it by both their accuracies.
    """
    found = []
    if spots[0] != spots[1]:
        text = f"At {place} the probe was moved between the rounds ({spots[0]}, then {spots[1]}): the two cannot be compared."
        found.append(Disagreement("probe_moved", text, "Read again at the first spot."))
    elif probes[0] != probes[1] and abs(change) <= hypot(accuracy, accuracy):
        text = f"At {place} another probe was used: a change of {abs(change):.1f} is within the two probes' difference."
        found.append(Disagreement("probe_changed", text, "Read again with the first probe."))
    return found
