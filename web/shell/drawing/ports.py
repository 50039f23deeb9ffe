"""The ports of a unit, for this mode: where each hose goes, and where none may go.

The unit with its compressor at the right, the two lines coming in from the left; suction a double line, liquid a single
one. A unit whose circuit is all in one cabinet has its compressor between the two lines. A port to use is a filled ring
with its side's name; a port that is wrong in this mode is crossed, in red.
"""

from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

WIDTH, HEIGHT = 420, 196
LARGE_Y, SMALL_Y, TRUE = 78, 142, (322, 46)
LARGE_AT, SMALL_AT = (178, LARGE_Y), (178, SMALL_Y)
CABINET_COMPRESSOR = (258, 100)


def ports_drawing(heating: bool, palette: dict[str, str]) -> SafeString:
    """The drawing. heating: the low-side hose goes on the third port, and never on the large line."""
    p = palette
    parts = [
        f'<rect x="226" y="18" width="182" height="160" fill="none" stroke="{p["ink"]}" stroke-width="2"/>',
        f'<path d="M12 {LARGE_Y - 4} H262 M12 {LARGE_Y + 4} H262" stroke="{p["ink"]}" stroke-width="1.4" fill="none"/>',
        f'<path d="M12 {SMALL_Y} H262" stroke="{p["ink"]}" stroke-width="1.4" fill="none"/>',
        f'<circle cx="360" cy="112" r="34" fill="none" stroke="{p["ink"]}" stroke-width="2"/>',
        _text(360, 116, "compressor", p["soft"], 11, "middle"),
        _text(
            12, LARGE_Y - 12, "large line" + (": hot gas" if heating else ""), p["ruddy"] if heating else p["soft"], 13
        ),
        _text(12, SMALL_Y - 10, "small line", p["soft"], 13),
    ]
    if heating:
        parts.append(
            f'<path d="M262 {LARGE_Y} H290 V{TRUE[1]} H352 V78" stroke="{p["ink"]}" stroke-width="1.4" fill="none"/>'
        )
        parts.append(_text(238, 34, "reversing valve", p["soft"], 11))
        parts += [_wrong(LARGE_AT, p), _port(TRUE, "low: true suction", p, (352, 36, "middle"))]
    else:
        parts.append(f'<path d="M262 {LARGE_Y} H352 V78" stroke="{p["ink"]}" stroke-width="1.4" fill="none"/>')
        parts.append(_port(LARGE_AT, "low side", p, (LARGE_AT[0], LARGE_Y - 20, "middle")))
    parts.append(_port(SMALL_AT, "high side", p, (SMALL_AT[0], SMALL_Y + 28, "middle")))
    label = (
        "Low side on the true-suction port, never on the large line; high side on the small line"
        if heating
        else ("Low side on the large line's port, high side on the small line's")
    )
    return _drawn(parts, label)


def cabinet_drawing(palette: dict[str, str]) -> SafeString:
    """The drawing of a unit with its whole circuit in one cabinet: both ports at the compressor, the same in each mode,
    and none at the water's connections.
    """
    p, (x, y) = palette, CABINET_COMPRESSOR
    parts = [
        f'<rect x="104" y="18" width="304" height="160" fill="none" stroke="{p["ink"]}" stroke-width="2"/>',
        f'<circle cx="{x}" cy="{y}" r="34" fill="none" stroke="{p["ink"]}" stroke-width="2"/>',
        _text(x, y + 4, "compressor", p["soft"], 11, "middle"),
        f'<path d="M124 {y - 4} H{x - 34} M124 {y + 4} H{x - 34}" stroke="{p["ink"]}" stroke-width="1.4" fill="none"/>',
        f'<path d="M{x + 34} {y} H390" stroke="{p["ink"]}" stroke-width="1.4" fill="none"/>',
        _text(124, y - 16, "cold", p["soft"], 13),
        _text(390, y - 12, "hot", p["soft"], 13, "end"),
        _port((184, y), "low side", p, (184, y + 28, "middle")),
        _port((338, y), "high side", p, (338, y + 28, "middle")),
    ]
    for water_y in (54, 142):
        parts.append(f'<path d="M12 {water_y} H104" stroke="{p["ink"]}" stroke-width="1.4" fill="none"/>')
    parts += [_text(12, 42, "water", p["soft"], 13), _wrong((54, 54), p)]
    return _drawn(
        parts,
        "Both ports in the cabinet, at the compressor: low side on its cold line, high side on its hot one; none at the water",
    )


def _drawn(parts: list[str], label: str) -> SafeString:
    return mark_safe(
        f'<svg viewBox="0 0 {WIDTH} {HEIGHT}" class="ports" role="img" aria-label="{label}">{"".join(parts)}</svg>'
    )


def _port(at: tuple[int, int], name: str, p: dict[str, str], words: tuple[int, int, str]) -> str:
    x, y = at
    ring = f'<circle cx="{x}" cy="{y}" r="8" fill="{p["ink"]}" stroke="{p["ink"]}" stroke-width="2"/>'
    return (
        ring
        + f'<circle cx="{x}" cy="{y}" r="3" fill="{p["sheet"]}"/>'
        + _text(*words[:2], name, p["ink"], 13, words[2], 700)
    )


def _wrong(at: tuple[int, int], p: dict[str, str]) -> str:
    x, y = at
    cross = f'<path d="M{x - 9} {y - 9} L{x + 9} {y + 9} M{x - 9} {y + 9} L{x + 9} {y - 9}" stroke="{p["ruddy"]}" stroke-width="2.4"/>'
    return cross + _text(x, y + 28, "no hose here", p["ruddy"], 13, "middle", 700)


def _text(x: float, y: float, words: str, colour: str, size: float, anchor: str = "start", weight: int = 400) -> str:
    return f'<text x="{x:g}" y="{y:g}" fill="{colour}" font-size="{size:g}" text-anchor="{anchor}" font-weight="{weight}">{escape(words)}</text>'
