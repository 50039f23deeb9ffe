"""The plumb trace: what changes over steps hangs from one beam, time down the string.

Each point lies left or right of the string by what was read less what it should be, in tolerances; its bar is its own
uncertainty, the band the tolerance, the bobs those of the plumb marks. Words are at the right of each point.
Presentation attributes only (no inline style).
"""

from dataclasses import dataclass

from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

from web.shell.drawing.plumb import bob

WIDTH, MIDDLE, HALF, REACH = 360.0, 122.0, 34.0, 3.0
TOP, STEP, FOOT = 10.0, 52.0, 16.0


@dataclass(frozen=True)
class TracePoint:
    """One point: lean and own uncertainty in tolerances, the state's shape, its value and what happened before it."""

    lean: float
    own: float
    shape: str
    value: str
    label: str


def trace(points: list[TracePoint], palette: dict[str, str], label: str, waits: str = "") -> SafeString:
    """The trace, the oldest point under the beam. waits: what is written where the next point will be, '' for nothing."""
    rows = len(points) + bool(waits)
    floor = TOP + STEP * rows + FOOT
    p = palette
    parts = [
        f'<rect x="{MIDDLE - HALF:g}" y="{TOP:g}" width="{2 * HALF:g}" height="{floor - TOP:g}" fill="{p["band"]}"/>',
        f'<line x1="{MIDDLE:g}" y1="{TOP:g}" x2="{MIDDLE:g}" y2="{floor:g}" stroke="{p["hair"]}"/>',
        f'<line x1="4" y1="{TOP:g}" x2="{WIDTH - 4:g}" y2="{TOP:g}" stroke="{p["ink"]}" stroke-width="3"/>',
    ]
    at = [(MIDDLE + HALF * _capped(point.lean), TOP + STEP * (row + 0.75)) for row, point in enumerate(points)]
    x, y = MIDDLE, TOP
    for (to_x, to_y), point in zip(at, points, strict=True):
        colour = p["ruddy"] if point.shape == "triangle" else p["ink"]
        parts.append(
            f'<line x1="{x:.1f}" y1="{y:.1f}" x2="{to_x:.1f}" y2="{to_y:.1f}" stroke="{colour}" stroke-width="1.4"/>'
        )
        x, y = to_x, to_y
    for (x, y), point in zip(at, points, strict=True):
        parts.append(_point(point, x, y, p))
    if waits:
        y = TOP + STEP * (len(points) + 0.75)
        parts.append(
            f'<line x1="4" y1="{y:g}" x2="{WIDTH - 4:g}" y2="{y:g}" stroke="{p["soft"]}" stroke-dasharray="1 4"/>'
        )
        parts.append(_words(WIDTH - 4, y - 6, waits, p["soft"], 13, "end"))
    svg = f'<svg viewBox="0 0 {WIDTH:g} {floor:g}" class="trace" role="img" aria-label="{escape(label)}">{"".join(parts)}</svg>'
    return mark_safe(svg)


def _capped(lean: float) -> float:
    return min(max(lean, -REACH), REACH)


def _point(point: TracePoint, x: float, y: float, p: dict[str, str]) -> str:
    out = point.shape == "triangle"
    colour = p["ruddy"] if out else p["ink"]
    reach = HALF * min(point.own, REACH)
    bar = f'<path d="M{x - reach:.1f} {y:.1f} H{x + reach:.1f} M{x - reach:.1f} {y - 5:.1f} v10 M{x + reach:.1f} {y - 5:.1f} v10" stroke="{colour}" fill="none"/>'
    value = _words(MIDDLE + HALF * REACH + 44, y + 6, point.value, colour, 19, "end", 700)
    return (
        bar
        + bob(point.shape, point.lean, x, y, colour, p)
        + value
        + _words(MIDDLE + HALF * REACH + 54, y + 5, point.label, p["soft"], 14, "start")
    )


def _words(x: float, y: float, text: str, colour: str, size: float, anchor: str, weight: int = 400) -> str:
    return f'<text x="{x:g}" y="{y:.1f}" fill="{colour}" font-size="{size:g}" text-anchor="{anchor}" font-weight="{weight}">{escape(text)}</text>'
