"""Curves of a maker's table: a blower's taps with the operating point, or any pasted table as it was understood."""

from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

WIDTH, HEIGHT = 420.0, 250.0
LEFT, RIGHT, TOP, BOTTOM = 46.0, 64.0, 14.0, 36.0


class _Plot:
    def __init__(self, xs: list[float], ys: list[float]):
        pad_x, pad_y = 0.06 * (max(xs) - min(xs) or 1.0), 0.10 * (max(ys) - min(ys) or 1.0)
        self.x0, self.x1 = min(xs) - pad_x, max(xs) + pad_x
        self.y0, self.y1 = max(0.0, min(ys) - pad_y) if min(ys) >= 0 else min(ys) - pad_y, max(ys) + pad_y

    def x(self, value: float) -> float:
        return LEFT + (value - self.x0) / (self.x1 - self.x0) * (WIDTH - LEFT - RIGHT)

    def y(self, value: float) -> float:
        return HEIGHT - BOTTOM - (value - self.y0) / (self.y1 - self.y0) * (HEIGHT - TOP - BOTTOM)


def blower_svg(chart, palette: dict[str, str]) -> SafeString:
    """A blower chart (engine.report.charts.blower.BlowerChart, by its attributes): curves by tap, the one in use heavy,
    the operating point with its bars.
    """
    points = [point for curve in chart.curves.values() for point in curve]
    xs, ys = [s for s, _ in points], [cfm for _, cfm in points] + [chart.wanted_cfm]
    if chart.point:
        xs, ys = [*xs, chart.point[0]], [*ys, chart.point[1]]
    plot = _Plot(xs, ys)
    wanted = plot.y(chart.wanted_cfm)
    parts = [
        _axes(plot, "total external static, in. w.c.", "CFM", palette),
        f'<path d="M{LEFT} {wanted:.1f} H{WIDTH - RIGHT}" stroke="{palette["band"]}" stroke-width="7"/>',
        _text(LEFT + 6, wanted + 16, f"400 per ton, {chart.wanted_cfm:,.0f}", palette["soft"], "start", 11),
        *(_curve(plot, name, curve, name == chart.tap, palette) for name, curve in chart.curves.items()),
    ]
    label = "Blower table as curves by tap."
    if chart.point:
        static, cfm, static_u95, cfm_u95 = chart.point
        x, y = plot.x(static), plot.y(cfm)
        across = f"M{plot.x(static - static_u95):.1f} {y:.1f} H{plot.x(static + static_u95):.1f}"
        bars = f"{across} M{x:.1f} {plot.y(cfm - cfm_u95):.1f} V{plot.y(cfm + cfm_u95):.1f}"
        drop = f"M{x:.1f} {y:.1f} V{HEIGHT - BOTTOM} M{x:.1f} {y:.1f} H{LEFT}"
        parts.append(
            f'<path d="{drop}" fill="none" stroke="{palette["soft"]}" stroke-width="1" stroke-dasharray="1.5 3.5"/>'
        )
        parts.append(f'<path d="{bars}" stroke="{palette["ink"]}" stroke-width="1.6"/>')
        parts.append(f'<circle cx="{x:.1f}" cy="{y:.1f}" r="5" fill="{palette["ink"]}"/>')
        label += f" Tap {chart.tap}: {cfm:.0f} CFM at {static:.2f} in. w.c."
    return _svg(parts, label)


def table_svg(understood, row_name: str, value_name: str, palette: dict[str, str]) -> SafeString:
    """A pasted table as understood: a curve a column over its rows."""
    points = [point for curve in understood.curves for point in curve]
    plot = _Plot([x for x, _ in points], [y for _, y in points])
    parts = [_axes(plot, row_name, value_name, palette)]
    parts += [
        _curve(plot, name, curve, False, palette, dots=True)
        for name, curve in zip(understood.columns, understood.curves, strict=True)
    ]
    return _svg(
        parts,
        f"The table as understood: {value_name} over {row_name}, a curve each for {', '.join(understood.columns)}.",
    )


def _svg(parts: list[str], label: str) -> SafeString:
    return mark_safe(
        f'<svg viewBox="0 0 {WIDTH:g} {HEIGHT:g}" class="curves" role="img" aria-label="{escape(label)}">{"".join(parts)}</svg>'
    )


def _text(x: float, y: float, words: str, colour: str, anchor: str = "middle", size: float = 12) -> str:
    return f'<text x="{x:.1f}" y="{y:.1f}" fill="{colour}" font-size="{size:g}" text-anchor="{anchor}">{escape(words)}</text>'


def _axes(plot: _Plot, x_name: str, y_name: str, palette: dict[str, str]) -> str:
    floor, right = HEIGHT - BOTTOM, WIDTH - RIGHT
    parts = [
        f'<path d="M{LEFT} {TOP} V{floor} H{right}" fill="none" stroke="{palette["ink"]}" stroke-width="1"/>',
        _text((LEFT + right) / 2, HEIGHT - 4, x_name, palette["soft"]),
        _text(4, TOP - 2, y_name, palette["soft"], "start", 11),
    ]
    for value in _ticks(plot.x0, plot.x1):
        parts.append(f'<path d="M{plot.x(value):.1f} {floor} v4" stroke="{palette["ink"]}"/>')
        parts.append(_text(plot.x(value), floor + 17, f"{value:g}", palette["soft"], size=11))
    for value in _ticks(plot.y0, plot.y1):
        parts.append(f'<path d="M{LEFT} {plot.y(value):.1f} h-4" stroke="{palette["ink"]}"/>')
        parts.append(_text(LEFT - 7, plot.y(value) + 4, f"{value:,g}", palette["soft"], "end", 11))
    return "".join(parts)


def _ticks(low: float, high: float) -> list[float]:
    """Four to seven round numbers between the ends."""
    span = high - low
    for step in (base * 10**power for power in range(-3, 7) for base in (1, 2, 5)):
        if span / step <= 6.5:
            first = -(-low // step)
            return [round(step * (first + i), 6) for i in range(8) if low <= step * (first + i) <= high]
    return []


def _curve(plot: _Plot, name: str, points, in_use: bool, palette: dict[str, str], dots: bool = False) -> str:
    d = " ".join(f"{'L' if i else 'M'}{plot.x(x):.1f} {plot.y(y):.1f}" for i, (x, y) in enumerate(points))
    colour, weight = (palette["ink"], 2.2) if in_use else (palette["soft"], 1.1)
    if dots:
        colour, weight = palette["ink"], 1.3
    marks = (
        "".join(f'<circle cx="{plot.x(x):.1f}" cy="{plot.y(y):.1f}" r="2" fill="{colour}"/>' for x, y in points)
        if dots
        else ""
    )
    x, y = points[-1]
    end = _text(plot.x(x) + 6, plot.y(y) + 4, name[:9], colour, "start", 11.5)
    return f'<path d="{d}" fill="none" stroke="{colour}" stroke-width="{weight}"/>{marks}{end}'
