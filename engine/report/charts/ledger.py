"""The heat ledger as two beams of one scale: heat taken in (sensible, latent, electrical) and heat given out. Numbers
with a role; no SVG.
"""

from dataclasses import dataclass

from engine.assessment import Assessment
from engine.physics.capacity.ledger import Ledger
from engine.quantities.heat_ledger import HeatLedger
from engine.report.load_words import ENTRIES
from engine.report.words import Words, capital
from engine.uncertainty.estimate import Estimate
from engine.uncertainty.margin import IN_RANGE


@dataclass(frozen=True)
class LedgerBeam:
    """One beam: its parts ((role, BTU/h), ...) and the 95 % of its end. least, most [BTU/h]: where only a band can be
    given.
    """

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


def ledger_chart(found: Assessment, words: Words) -> LedgerChart | None:
    """The ledger of an assessed round in cooling, or None until the air side and the electrical heat are known."""
    ledger = found.table.ledger
    if ledger is None:
        return None
    parts = (
        ("sensible", ledger.sensible_btuh),
        ("latent", max(ledger.latent_btuh, 0.0)),
        ("electrical", ledger.electrical_btuh),
    )
    taken, given, closes = LedgerBeam(parts, ledger.taken.u95), None, None
    if ledger.closed is not None and ledger.given is not None:
        given, closes = LedgerBeam((("given", ledger.given.value),), ledger.given.u95), not ledger.open
    elif ledger.given_band_btuh is not None:
        given, closes = LedgerBeam((), 0.0, *ledger.given_band_btuh), not ledger.open
    return LedgerChart(taken, given, closes, ledger_says(ledger, words))


def ledger_says(ledger: HeatLedger, words: Words) -> tuple[str, ...]:
    """What the ledger says."""
    if ledger.closed is not None:
        return (_balance(ledger.closed, ledger.open, words),)
    if ledger.implied_cfm is None or ledger.band_cfm is None:
        return ()
    return (_implied(ledger.implied_cfm, ledger.band_cfm, ledger, words),)


def _balance(closed: Ledger, open_: bool, words: Words) -> str:
    gap, margin = words.size(closed.gap_btuh, "BTU/h"), words.value(closed.u95_btuh, "BTU/h")
    if closed.closes:
        return f"The ledger closes: {gap} apart, known within {margin}."
    side = "more is given out than goes in" if closed.gap_btuh < 0 else "more goes in than is given out"
    if not open_:
        return f"The ledger is near the edge of what can be: {side}, by {gap}, where {margin} is usual."
    text = f"The ledger does not close: {side}, by {gap}, where {margin} could be."
    if closed.suspects:
        first = closed.suspects[0]
        text += f" {capital(ENTRIES[first.name])} would close it at {words.value(first.closes_at, first.unit, True)}: read it again."
    return text


def _implied(cfm: Estimate, band_cfm: tuple[float, float], ledger: HeatLedger, words: Words) -> str:
    implied, (least, most) = words.within(cfm), (words.plain(limit, "CFM") for limit in band_cfm)
    band = f"a condenser of this size moves {least} to {most} CFM"
    if ledger.state == IN_RANGE:
        return f"The readings imply {implied} through the condenser; {band}."
    if not ledger.open:
        return f"The readings imply {implied} through the condenser, near the edge of what can be: {band}."
    if cfm.value < band_cfm[0]:
        return f"The readings imply {implied} through the condenser, which is too little: {band}. Air is blocked there, or a reading is wrong."
    return f"The readings imply {implied} through the condenser, which cannot be: {band}. A reading is wrong."
