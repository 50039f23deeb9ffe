"""The heat ledger drawn to scale: two beams one above the other, heat taken in and heat given out, each end's
uncertainty a hatched tail.
"""

from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

WIDTH, HEIGHT = 460.0, 150.0
LEFT, RIGHT = 10.0, 16.0
TAKEN_Y, GIVEN_Y, DEPTH = 34.0, 96.0, 20.0
NAMES = {"sensible": "sensible", "latent": "latent", "electrical": "electrical", "given": "given out"}


def ledger_svg(chart, palette: dict[str, str]) -> SafeString:
    """The ledger as SVG. chart: engine.report.charts.ledger.LedgerChart, by its attributes."""
    ends = [chart.taken.total + chart.taken.u95]
    if chart.given:
        ends += [chart.given.total + chart.given.u95, min(chart.given.most or 0.0, 1.5 * ends[0])]
    scale = (WIDTH - LEFT - RIGHT) / (1.02 * max(ends))
    parts = [_text(LEFT, TAKEN_Y - 8, "taken in, and electrical", palette["soft"], "start")]
    parts.append(_beam(chart.taken, TAKEN_Y, scale, palette))
    if chart.given:
        known = bool(chart.given.parts)
        parts.append(
            _text(
                LEFT,
                GIVEN_Y - 8,
                "given out" if known else "given out, between the airflows a condenser can have",
                palette["soft"],
                "start",
            )
        )
        parts.append(_beam(chart.given, GIVEN_Y, scale, palette) if known else _band(chart.given, scale, palette))
    end = LEFT + chart.taken.total * scale
    colour = palette["ink"] if chart.closes is not False else palette["ruddy"]
    parts.append(
        f'<path d="M{end:.1f} {TAKEN_Y - 4} V{GIVEN_Y + DEPTH + 6}" stroke="{colour}" stroke-width="1" stroke-dasharray="3 3"/>'
    )
    if chart.closes is False and chart.given and chart.given.parts:
        given = LEFT + chart.given.total * scale
        y = GIVEN_Y + DEPTH + 12
        parts.append(
            f'<path d="M{end:.1f} {y} H{given:.1f} M{end:.1f} {y - 4} v8 M{given:.1f} {y - 4} v8" fill="none" stroke="{colour}" stroke-width="2"/>'
        )
    label = "Heat ledger: " + " ".join(chart.says)
    return mark_safe(
        f'<svg viewBox="0 0 {WIDTH:g} {HEIGHT:g}" class="ledger" role="img" aria-label="{escape(label)}">{"".join(parts)}</svg>'
    )


def _text(x: float, y: float, words: str, colour: str, anchor: str = "middle", size: float = 12.5) -> str:
    return f'<text x="{x:.1f}" y="{y:.1f}" fill="{colour}" font-size="{size:g}" text-anchor="{anchor}">{escape(words)}</text>'


def _beam(beam, y: float, scale: float, palette: dict[str, str]) -> str:
    x, parts = LEFT, []
    for role, size in beam.parts:
        width = size * scale
        fill = palette["band"] if role in ("sensible", "given") else palette["sheet"]
        parts.append(
            f'<rect x="{x:.1f}" y="{y}" width="{width:.1f}" height="{DEPTH}" fill="{fill}" stroke="{palette["ink"]}" stroke-width="1.4"/>'
        )
        if width > 64:
            parts.append(
                _text(x + width / 2, y + 14.5, f"{NAMES[role]} {round(size, -2):,.0f}", palette["ink"], size=11.5)
            )
        x += width
    low, high = x - beam.u95 * scale, x + beam.u95 * scale
    hatch = "".join(f"M{at:.1f} {y + DEPTH} l7 -{DEPTH:g} " for at in _steps(low, high - 7, 6.0))
    return (
        "".join(parts)
        + f'<path d="{hatch}M{high:.1f} {y} v{DEPTH}" fill="none" stroke="{palette["soft"]}" stroke-width="1"/>'
    )


def _band(beam, scale: float, palette: dict[str, str]) -> str:
    low, high = LEFT + beam.least * scale, min(LEFT + beam.most * scale, WIDTH - 4)
    hatch = "".join(f"M{at:.1f} {GIVEN_Y + DEPTH} l7 -{DEPTH:g} " for at in _steps(low, high - 7, 9.0))
    edge = f"M{low:.1f} {GIVEN_Y} v{DEPTH} M{high:.1f} {GIVEN_Y} v{DEPTH}"
    return (
        f'<path d="M{LEFT} {GIVEN_Y + DEPTH / 2} H{low:.1f}" stroke="{palette["ink"]}" stroke-width="1.4"/>'
        f'<path d="{hatch}" fill="none" stroke="{palette["soft"]}" stroke-width="1"/><path d="{edge}" stroke="{palette["ink"]}" stroke-width="1.4"/>'
    )


def _steps(low: float, high: float, step: float):
    at = low
    while at < high:
        yield at
        at += step
