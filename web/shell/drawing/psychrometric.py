"""The psychrometric chart as SVG. Takes the engine's chart data by its attributes; knows nothing of air.

Every state can be focused and carries its readout as its label; the page's script shows it on hover, focus or tap.
"""

from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

WIDTH, HEIGHT = 460.0, 330.0
LEFT, RIGHT, TOP, BOTTOM = 14.0, 42.0, 22.0, 40.0
TEXT = 12.5
GRAINS_PER_LB = 7000.0
# on which side of its point a state's number is written: right and up, right and down, left and up
OFFSETS = {
    "state": ((22, -20), (24, 22), (-26, 16), (30, -2)),
    "coil": ((-24, 4),),
    "apparatus": ((-20, -18),),
    "expected": ((0, 0),),
}


class _Plot:
    """From chart coordinates to the drawing's."""

    def __init__(self, chart):
        self.chart = chart
        (self.t0, self.t1), (self.w0, self.w1) = chart.dry_bulb_span_f, chart.humidity_span

    def x(self, t: float) -> float:
        return LEFT + (t - self.t0) / (self.t1 - self.t0) * (WIDTH - LEFT - RIGHT)

    def y(self, w: float) -> float:
        return HEIGHT - BOTTOM - (w - self.w0) / (self.w1 - self.w0) * (HEIGHT - TOP - BOTTOM)

    def path(self, points) -> str:
        return " ".join(f"{'L' if i else 'M'}{self.x(t):.1f} {self.y(w):.1f}" for i, (t, w) in enumerate(points))


def chart_svg(chart, palette: dict[str, str], celsius: bool = False) -> SafeString:
    """The chart, with a title naming the altitude it holds for. celsius: the dry-bulb axis is written in °C."""
    plot = _Plot(chart)
    title = f"Psychrometric chart at {chart.altitude_ft:,.0f} ft"
    body = "".join(
        (_axes(plot, palette, celsius), _region(plot, palette), _curves(plot, palette), _marks(plot, palette))
    )
    return mark_safe(
        f'<svg viewBox="0 0 {WIDTH:g} {HEIGHT:g}" class="psychrometric" role="group" aria-label="{escape(title)}">{body}</svg>'
    )


def _text(x: float, y: float, words: str, colour: str, anchor: str = "middle", size: float = TEXT) -> str:
    return f'<text x="{x:.1f}" y="{y:.1f}" fill="{colour}" font-size="{size:g}" text-anchor="{anchor}">{escape(words)}</text>'


def _axes(plot: _Plot, palette: dict[str, str], celsius: bool) -> str:
    floor, right = HEIGHT - BOTTOM, WIDTH - RIGHT
    parts = [
        f'<path d="M{LEFT} {floor} H{right} V{TOP}" fill="none" stroke="{palette["ink"]}" stroke-width="1"/>',
        _text((LEFT + right) / 2, HEIGHT - 6, f"dry bulb, °{'C' if celsius else 'F'}", palette["soft"]),
        _text(WIDTH - 2, TOP - 10, "grains/lb", palette["soft"], "end", 11.5),
    ]
    for t in plot.chart.dry_bulb_ticks_f:
        x = plot.x(t)
        parts.append(f'<line x1="{x:.1f}" y1="{floor}" x2="{x:.1f}" y2="{floor + 4}" stroke="{palette["ink"]}"/>')
        parts.append(_text(x, floor + 17, f"{(t - 32) / 1.8:.0f}" if celsius else f"{t:.0f}", palette["soft"]))
    for grains in plot.chart.grain_ticks:
        y = plot.y(grains / GRAINS_PER_LB)
        parts.append(f'<line x1="{right}" y1="{y:.1f}" x2="{right + 4}" y2="{y:.1f}" stroke="{palette["ink"]}"/>')
        parts.append(_text(right + 8, y + 4, f"{grains:.0f}", palette["soft"], "start"))
    return "".join(parts)


def _region(plot: _Plot, palette: dict[str, str]) -> str:
    if not plot.chart.region:
        return ""
    outline = plot.path(plot.chart.region)
    return f'<path d="{outline} Z" fill="{palette["band"]}" stroke="{palette["soft"]}" stroke-width="0.7" data-role="region"/>'


def _curves(plot: _Plot, palette: dict[str, str]) -> str:
    looks = {
        "saturation": f'stroke="{palette["ink"]}" stroke-width="2"',
        "rh": f'stroke="{palette["hair"]}" stroke-width="1"',
        "process": f'stroke="{palette["ink"]}" stroke-width="1.6"',
        "coil": f'stroke="{palette["ink"]}" stroke-width="1.2" stroke-dasharray="3 4"',
        "fan": f'stroke="{palette["ink"]}" stroke-width="1"',
        "duct": f'stroke="{palette["soft"]}" stroke-width="1.4"',
    }
    parts = []
    for curve in plot.chart.curves:
        parts.append(f'<path d="{plot.path(curve.points)}" fill="none" {looks[curve.role]} data-role="{curve.role}"/>')
        if curve.role == "rh":
            t, w = curve.points[-1]
            at_edge = w < plot.w1 * 0.999
            x, y = (plot.x(t) - 4, plot.y(w) - 4) if at_edge else (plot.x(t) - 6, plot.y(w) + 13)
            parts.append(_text(x, y, curve.label, palette["soft"], "end", 11.5))
    return "".join(parts)


def _marks(plot: _Plot, palette: dict[str, str]) -> str:
    seen = dict.fromkeys(OFFSETS, 0)
    parts = []
    for mark in sorted(plot.chart.marks, key=lambda mark: mark.role != "expected"):  # what was read lies on top
        dx, dy = OFFSETS[mark.role][min(seen[mark.role], len(OFFSETS[mark.role]) - 1)]
        seen[mark.role] += 1
        parts.append(_mark(mark, plot.x(mark.dry_bulb_f), plot.y(mark.humidity_ratio), dx, dy, palette))
    return "".join(parts)


def _mark(mark, x: float, y: float, dx: float, dy: float, palette: dict[str, str]) -> str:
    opening = f'<g class="mark" tabindex="0" role="img" aria-label="{escape(mark.readout)}" data-readout="{escape(mark.readout)}">'
    if mark.role == "expected":
        cross = f"M{x - 5:.1f} {y:.1f} H{x + 5:.1f} M{x:.1f} {y - 5:.1f} V{y + 5:.1f}"
        spot = f'<circle cx="{x:.1f}" cy="{y:.1f}" r="11" fill="transparent"/>'
        return f'{opening}{spot}<path d="{cross}" stroke="{palette["soft"]}" stroke-width="1.4"/></g>'
    nx, ny = x + dx, y + dy
    return (
        f"{opening}"
        f'<line x1="{x:.1f}" y1="{y:.1f}" x2="{nx:.1f}" y2="{ny:.1f}" stroke="{palette["ink"]}" stroke-width="0.8"/>'
        f'<circle cx="{x:.1f}" cy="{y:.1f}" r="3.5" fill="{palette["ink"]}"/>'
        f'<circle cx="{nx:.1f}" cy="{ny:.1f}" r="10" fill="{palette["sheet"]}" stroke="{palette["ink"]}" stroke-width="1.3"/>'
        f"{_text(nx, ny + 4.4, mark.number, palette['ink'])}</g>"
    )
