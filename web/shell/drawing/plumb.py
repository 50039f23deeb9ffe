"""Plumb marks hanging from one beam.

A string hangs from the beam; the band on the floor line is expected +- tolerance with the expected value at its tick;
the bob hangs where the reading is, its bar is the reading's own uncertainty. Round: in range; half: borderline;
triangle
pointing away from the band: out of range, ruddy; hollow: can't tell yet. Presentation attributes only (no inline
style).
"""

from dataclasses import dataclass

from django.utils.safestring import SafeString, mark_safe

COLUMN = 136.0  # width of one mark
REACH = 3.0  # tolerances from the middle to the edge, where the lean is capped
HALF = 54.0
BEAM_Y, FLOOR_Y, HEIGHT = 4.0, 96.0, 108.0
BOB = 6.0


@dataclass(frozen=True)
class PlumbMark:
    """One mark: lean and reading uncertainty in units of tolerance (None: nothing to hang), and the state's shape."""

    lean: float | None
    own_u95: float | None
    shape: str  # round, half, triangle, hollow


def beam(marks: list[PlumbMark], palette: dict[str, str], column: float = COLUMN) -> SafeString:
    """The beam with its marks, a column each; the words are beside it in the page. column: how wide one is, 60 to
    360.
    """
    width = column * len(marks)
    parts = [f'<line x1="0" y1="{BEAM_Y}" x2="{width:g}" y2="{BEAM_Y}" stroke="{palette["ink"]}" stroke-width="3"/>']
    for index, mark in enumerate(marks):
        parts.append(_mark(mark, column * (index + 0.5), column, palette))
    svg = f'<svg viewBox="0 0 {width:g} {HEIGHT:g}" class="beam" aria-hidden="true" focusable="false">{"".join(parts)}</svg>'
    return mark_safe(svg)


def _mark(mark: PlumbMark, middle: float, column: float, palette: dict[str, str]) -> str:
    unit = HALF / REACH * column / COLUMN
    edge = column / 2 - 8
    floor = (
        f'<line x1="{middle - edge:g}" y1="{FLOOR_Y}" x2="{middle + edge:g}" y2="{FLOOR_Y}" stroke="{palette["hair"]}"/>'
        f'<rect x="{middle - unit:g}" y="{FLOOR_Y - 5}" width="{2 * unit:g}" height="10" fill="{palette["band"]}"/>'
        f'<line x1="{middle:g}" y1="{FLOOR_Y - 7}" x2="{middle:g}" y2="{FLOOR_Y + 7}" stroke="{palette["soft"]}"/>'
        f'<circle cx="{middle:g}" cy="{BEAM_Y}" r="2.5" fill="{palette["ink"]}"/>'
    )
    if mark.lean is None:
        return floor
    x = middle + unit * max(-REACH, min(REACH, mark.lean))
    colour = palette["ruddy"] if mark.shape == "triangle" else palette["ink"]
    weight = "1.6" if mark.shape == "triangle" else "1.1"
    string = (
        f'<line x1="{middle:g}" y1="{BEAM_Y}" x2="{x:.1f}" y2="{FLOOR_Y}" stroke="{colour}" stroke-width="{weight}"/>'
    )
    bar = _bar(mark, x, (middle - edge, middle + edge), unit, colour)
    return floor + string + bar + bob(mark.shape, mark.lean, x, FLOOR_Y, colour, palette)


def _bar(mark: PlumbMark, x: float, edges: tuple[float, float], unit: float, colour: str) -> str:
    if not mark.own_u95:
        return ""
    low, high = max(edges[0], x - unit * mark.own_u95), min(edges[1], x + unit * mark.own_u95)
    caps = "".join(
        f'<line x1="{end:.1f}" y1="{FLOOR_Y - 4}" x2="{end:.1f}" y2="{FLOOR_Y + 4}" stroke="{colour}" stroke-width="1.6"/>'
        for end in (low, high)
    )
    return f'<line x1="{low:.1f}" y1="{FLOOR_Y}" x2="{high:.1f}" y2="{FLOOR_Y}" stroke="{colour}" stroke-width="1.6"/>{caps}'


def bob(shape: str, lean: float, x: float, y: float, colour: str, palette: dict[str, str]) -> str:
    """A bob at a place: round, half (filled on the side it leans to), triangle (pointing away from the band), hollow."""
    if shape == "triangle":
        way = 1 if lean > 0 else -1
        tip, back = x + way * BOB * 1.2, x - way * BOB * 0.9
        return f'<path d="M{tip:.1f} {y} L{back:.1f} {y - 7} L{back:.1f} {y + 7} Z" fill="{colour}"/>'
    fill = colour if shape == "round" else palette["sheet"]
    circle = f'<circle cx="{x:.1f}" cy="{y}" r="{BOB}" fill="{fill}" stroke="{colour}" stroke-width="1.6"/>'
    if shape == "half":
        sweep = 1 if lean > 0 else 0
        top, bottom = y - BOB, y + BOB
        circle += f'<path d="M{x:.1f} {top} A{BOB} {BOB} 0 0 {sweep} {x:.1f} {bottom} Z" fill="{colour}"/>'
    return circle
