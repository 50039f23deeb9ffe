"""What is known of sound machines of a kind, in words."""

from collections.abc import Iterator
from math import expm1

from engine.diagnosis.causes import EVERY_CAUSE
from engine.kinds.summary import KnownGroup, KnownQuantity
from engine.quantities.residual import DIFFERENCE, KINDS, LN
from engine.report.quantity_words import label
from engine.report.words import Words, lower_first

MODES = {"cooling": "Cooling", "heating": "Heating"}
SOURCES = {"air": "", "water": "ground source"}
DEVICES = {"txv": "TXV", "fixed_orifice": "orifice", "unknown": "metering not known"}


def setting_said(setting: str) -> str:
    """'Cooling, TXV' of 'cooling/air/txv'."""
    mode, source, device = setting.split("/")
    parts = (MODES[mode], SOURCES[source], DEVICES.get(device, device) if source == "air" else "")
    return ", ".join(part for part in parts if part)


def narrower_said(group: KnownGroup) -> str:
    """'31 % narrower', of what one may be off against what the engine lets any machine be off."""
    share = round(100 * group.narrower)
    if not share:
        return "as wide"
    return f"{abs(share)} % {'narrower' if share > 0 else 'wider'}"


def offsets_said(group: KnownGroup, words: Words) -> Iterator[str]:
    """'Approach 2.1 °F lower than expected, ± 1.9 °F', the surest difference first."""
    for q in sorted(group.quantities, key=lambda q: -abs(q.offset) / q.width):
        yield _offset_said(q, words)


def _offset_said(q: KnownQuantity, words: Words) -> str:
    if KINDS[q.id].form == DIFFERENCE:
        unit = "" if q.id == "closure" else "°F"
        by, width = words.plain(abs(q.offset), unit, difference=True), words.spread(q.width, unit)
        sign = f" {words.sign(unit)}".rstrip()
    else:
        share, most = (expm1(q.offset), expm1(q.width)) if KINDS[q.id].form == LN else (q.offset, q.width)
        by, width, sign = f"{100 * abs(share):.0f}", f"{100 * most:.0f}", " %"
    if not by.strip("0."):
        return f"{label(q.id)} as expected, ± {width}{sign}"
    return f"{label(q.id)} {by}{sign} {'higher' if q.offset > 0 else 'lower'} than expected, ± {width}{sign}"


def suspicion_in_short(group: KnownGroup) -> str:
    """What its machines read as if they had; '' for nothing."""
    if not group.suspected:
        return ""
    fault = lower_first(EVERY_CAUSE[group.suspected].label)
    return f"They read as if {fault}: not used until some are confirmed by gauges."
