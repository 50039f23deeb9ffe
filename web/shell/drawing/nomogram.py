"""What is read by hand from paper: curves of one quantity over another with a worked line, and a scale with numbers on
both sides. Takes numbers and words; knows nothing of the job.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import ceil, floor

from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

WIDTH, HEIGHT = 430.0, 290.0
LEFT, RIGHT, TOP, BOTTOM = 34.0, 40.0, 18.0, 34.0
TEXT = 11.0
SCALE_HEIGHT, ROW = 290.0, 24.0


@dataclass(frozen=True)
class Worked:
    """One reading worked as an example: from x up to y, and its words."""

    x: float
    y: float
    words: str


class _Plot:
    """From values to the drawing's coordinates: whole steps at both ends of both axes."""

    def __init__(self, curves: Mapping[str, Sequence[tuple[float, float]]]):
        xs, ys = zip(*(point for points in curves.values() for point in points), strict=True)
        self.x0, self.x1 = floor(min(xs)), ceil(max(xs))
        self.y0, self.y1 = 2 * floor(min(ys) / 2), 2 * ceil(max(ys) / 2)

    def x(self, value: float) -> float:
        return LEFT + (value - self.x0) / (self.x1 - self.x0) * (WIDTH - LEFT - RIGHT)

    def y(self, value: float) -> float:
        return HEIGHT - BOTTOM - (value - self.y0) / (self.y1 - self.y0) * (HEIGHT - TOP - BOTTOM)


def nomogram(
    curves: Mapping[str, Sequence[tuple[float, float]]],
    names: tuple[str, str, str],
    worked: Worked | None,
    palette: dict[str, str],
    label: str,
) -> SafeString:
    """Curves with their label at the right end. names: of the horizontal axis, the vertical one, and of the labels."""
    plot = _Plot(curves)
    parts = [_grid(plot, palette), _names(plot, names, palette)]
    for name, points in curves.items():
        path = " ".join(f"{'L' if n else 'M'}{plot.x(x):.2f} {plot.y(y):.2f}" for n, (x, y) in enumerate(points))
        parts.append(f'<path d="{path}" fill="none" stroke="{palette["ink"]}" stroke-width="1.3"/>')
        x, y = points[-1]
        parts.append(_text(plot.x(x) + 5, plot.y(y) + 4, name, palette["ink"], "start"))
    if worked:
        x, y = plot.x(worked.x), plot.y(worked.y)
        dashed = f'fill="none" stroke="{palette["ruddy"]}" stroke-width="1.2" stroke-dasharray="5 3"'
        parts.append(f'<path d="M{x:.2f} {HEIGHT - BOTTOM:g} L{x:.2f} {y:.2f} L{LEFT:g} {y:.2f}" {dashed}/>')
        parts.append(_text(LEFT + 4, y + 11, worked.words, palette["ruddy"], "start", 9.5, 700))
    return _svg(WIDTH, HEIGHT, parts, label)


def scale(
    rows: Sequence[tuple[str, Sequence[str]]], heads: Sequence[str], names: tuple[str, str], palette: dict[str, str],
    label: str,
) -> SafeString:  # fmt: skip
    """An upright line with a number at its left for each row, and one under each head at its right. names: what stands
    at the left, and at the right.
    """
    step, width = (SCALE_HEIGHT - 52) / max(len(rows) - 1, 1), 84.0 + 42.0 * len(heads)
    line = f'<path d="M60 40 V{SCALE_HEIGHT - 12:g}" stroke="{palette["ink"]}" stroke-width="1.3"/>'
    parts = [
        line,
        _text(54, 12, names[0], palette["soft"], "end", 10),
        _text(68, 12, names[1], palette["soft"], "start", 10),
    ]
    parts += [_text(96 + 42 * n, 26, head, palette["ink"], "middle", 10, 700) for n, head in enumerate(heads)]
    for n, (left, right) in enumerate(reversed(rows)):
        y = 40 + n * step
        parts.append(f'<path d="M55 {y:.1f} H65" stroke="{palette["ink"]}"/>')
        parts.append(_text(50, y + 4, left, palette["ink"], "end"))
        parts += [_text(96 + 42 * m, y + 4, of, palette["ink"], "middle") for m, of in enumerate(right)]
    return _svg(width, SCALE_HEIGHT, parts, label)


def _grid(plot: _Plot, palette: dict[str, str]) -> str:
    parts = []
    for x in range(plot.x0, plot.x1 + 1):
        at = plot.x(x)
        parts.append(
            _rule(at, TOP, at, HEIGHT - BOTTOM, palette["hair"] if (x - plot.x0) % 2 == 0 else palette["band"])
        )
        if (x - plot.x0) % 2 == 0:
            parts.append(_text(at, HEIGHT - BOTTOM + 13, f"{x}", palette["ink"]))
    for y in range(plot.y0, plot.y1 + 1):
        at = plot.y(y)
        parts.append(_rule(LEFT, at, WIDTH - RIGHT, at, palette["hair"] if (y - plot.y0) % 2 == 0 else palette["band"]))
        if (y - plot.y0) % 2 == 0:
            parts.append(_text(LEFT - 5, at + 4, f"{y}", palette["ink"], "end"))
    return "".join(parts)


def _names(plot: _Plot, names: tuple[str, str, str], palette: dict[str, str]) -> str:
    middle = (LEFT + WIDTH - RIGHT) / 2
    return (
        _text(middle, HEIGHT - 6, names[0], palette["ink"])
        + f'<text x="10" y="{HEIGHT / 2:g}" transform="rotate(-90 10 {HEIGHT / 2:g})" fill="{palette["ink"]}" font-size="{TEXT:g}" text-anchor="middle">{escape(names[1])}</text>'
        + _text(WIDTH, TOP - 6, names[2], palette["soft"], "end", 10)
    )


def _rule(x1: float, y1: float, x2: float, y2: float, colour: str) -> str:
    return f'<path d="M{x1:.2f} {y1:.2f} L{x2:.2f} {y2:.2f}" stroke="{colour}" stroke-width="0.5"/>'


def _text(
    x: float, y: float, words: str, colour: str, anchor: str = "middle", size: float = TEXT, weight: int = 400
) -> str:
    return f'<text x="{x:.1f}" y="{y:.1f}" fill="{colour}" font-size="{size:g}" text-anchor="{anchor}" font-weight="{weight}">{escape(words)}</text>'


def _svg(width: float, height: float, parts: list[str], label: str) -> SafeString:
    return mark_safe(
        f'<svg viewBox="0 0 {width:g} {height:g}" role="img" aria-label="{escape(label)}">{"".join(parts)}</svg>'
    )
