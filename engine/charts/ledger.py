"""The heat ledger as two beams of one scale: heat taken in (sensible, latent, electrical) and heat given out. Numbers with a role; no SVG."""

from dataclasses import dataclass

from engine.assessment.whole import Whole


@dataclass(frozen=True)
class LedgerBeam:
    """One beam: its parts ((role, BTU/h), ...) and the 95 % of its end. least, most [BTU/h]: where only a band can be given."""

    parts: tuple[tuple[str, float], ...]
    u95: float
    least: float | None = None
    most: float | None = None

    @property
    def total(self) -> float:
        """The beam's end [BTU/h]."""
        return sum(size for _, size in self.parts)


@dataclass(frozen=True)
class LedgerChart:
    """Taken in and given out [BTU/h]; given is None when nothing is known of it. says: what the ledger says."""

    taken: LedgerBeam
    given: LedgerBeam | None
    closes: bool | None
    says: tuple[str, ...]


def ledger_chart(whole: Whole) -> LedgerChart | None:
    """The ledger of an assessed round in cooling, or None until the air side and the electrical heat are known."""
    section = next((s for s in whole.sections if s.id == "ledger"), None)
    if section is None or "taken_btuh" not in section.values:
        return None
    v, air = section.values, whole.air
    sensible, electrical = air["sensible_btuh"], v["electrical_btuh"]
    latent = v["taken_btuh"].value - electrical.value - sensible.value
    taken = LedgerBeam(
        (("sensible", sensible.value), ("latent", max(latent, 0.0)), ("electrical", electrical.value)), v["taken_btuh"].u95
    )
    given, closes = None, None
    if "given_btuh" in v:
        given = LedgerBeam((("given", v["given_btuh"].value),), v["given_btuh"].u95)
        closes = abs(v["gap_btuh"].value) <= v["gap_btuh"].u95
    elif "given_least_btuh" in v:
        least, most = v["given_least_btuh"].value, v["given_most_btuh"].value
        given = LedgerBeam((), 0.0, least, most)
        closes = least - taken.u95 <= taken.total <= most + taken.u95
    return LedgerChart(taken, given, closes, tuple(section.says))
