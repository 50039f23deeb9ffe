"""A machine over the years: plumb traces side by side under one beam, time running down.

Each row is one round, a hairline across all strings, its date and what happened before it at the left end; rows stand
apart by time, within limits. A point lies off its string by what was read less what the anchor expects, in tolerances.
Presentation attributes only (no inline style).
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

from web.shell.drawing.plumb import bob

COLUMN, HALF, REACH = 146.0, 32.0, 2.0  # a string's width, half its band, and tolerances to where a point is held
HEAD, FIRST, FOOT = 74.0, 18.0, 46.0
NEAR, FAR, A_YEAR = 30.0, 110.0, 120.0  # rows stand so far apart at least and at most; what a year is in between
ABREAST = 6  # strings under one beam; fewer are drawn as large
DATES, NARROW_DATES = 256.0, 150.0
DAYS_A_YEAR = 365.25
LETTER = 6.3  # about how wide one is at the size of an event


@dataclass(frozen=True)
class Row:
    """One round: its date, what happened before it ('' for nothing), where it leads, and when [d]."""

    date: str
    happened: str
    href: str
    days: float


@dataclass(frozen=True)
class Hanging:
    """One string. now: its last value, and whether that is of the last round. points: by row, lean and own 95 % in tolerances, the bob's shape, its value; drift: (row, lean) at
    both ends of the trend; attention: whether its word is in the one red.
    """

    label: str
    now: str
    anchor: str
    word: str
    attention: bool
    points: dict[int, tuple[float, float, str, str]]
    drift: tuple[tuple[int, float], tuple[int, float]] | None


def strings(
    rows: Sequence[Row], hanging: Sequence[Hanging], palette: dict[str, str], label: str, narrow: bool = False
) -> SafeString:
    """The beam with its strings, at most ABREAST. narrow: for a phone, one string with its values beside it."""
    left = NARROW_DATES if narrow else DATES
    width = left + COLUMN + 54.0 if narrow else left + COLUMN * ABREAST
    at = _down(rows)
    floor = at[-1] + FIRST
    parts = [_column(one, left + COLUMN * (n + 0.5), floor, palette) for n, one in enumerate(hanging)]
    parts += [_row(row, y, width, left, palette, narrow) for row, y in zip(rows, at, strict=True)]
    parts.append(
        f'<line x1="{left:g}" y1="{HEAD:g}" x2="{left + COLUMN * len(hanging):g}" y2="{HEAD:g}" stroke="{palette["ink"]}" stroke-width="3"/>'
    )
    parts += [_string(one, left + COLUMN * (n + 0.5), at, palette, narrow) for n, one in enumerate(hanging)]
    return mark_safe(
        f'<svg viewBox="0 0 {width:g} {floor + FOOT:g}" class="strings" role="group" aria-label="{escape(label)}">{"".join(parts)}</svg>'
    )


def _down(rows: Sequence[Row]) -> list[float]:
    """How far down each row is: by time, but never too near and never too far."""
    found = [HEAD + FIRST]
    for before, row in pairwise(rows):
        found.append(found[-1] + min(max((row.days - before.days) / DAYS_A_YEAR * A_YEAR, NEAR), FAR))
    return found


def _column(one: Hanging, middle: float, floor: float, p: dict[str, str]) -> str:
    said = p["ruddy"] if one.attention else p["ink"]
    return (
        _words(middle, 20, one.label, p["ink"], 14, weight=700)
        + _words(middle, 40, one.now, p["ink"], 13.5)
        + _words(middle, 58, f"expect {one.anchor}" if one.anchor else "", p["soft"], 12)
        + f'<rect x="{middle - HALF:g}" y="{HEAD:g}" width="{2 * HALF:g}" height="{floor - HEAD:g}" fill="{p["band"]}"/>'
        + f'<line x1="{middle:g}" y1="{HEAD:g}" x2="{middle:g}" y2="{floor:g}" stroke="{p["hair"]}"/>'
        + _words(middle, floor + 26, one.word, said, 14, weight=700)
    )


def _row(row: Row, y: float, width: float, left: float, p: dict[str, str], narrow: bool) -> str:
    """A hairline with its date and what happened, all of it a way to the round."""
    dots = "" if row.happened else ' stroke-dasharray="1 5"'
    at = (0.0, y + 17) if narrow else (96.0, y + 4)  # under the date, or beside it
    room = int((left - at[0] - 10.0) / LETTER)
    happened = row.happened if len(row.happened) <= room else f"{row.happened[: room - 1].rstrip()}…"
    words = _words(0, y + 4, row.date, p["ink"], 13, "start", 700) + _words(*at, happened, p["soft"], 12, "start")
    return (
        f'<a href="{escape(row.href)}"><title>{escape(": ".join(filter(None, (row.date, row.happened))))}</title>'
        f'<rect x="0" y="{y - 14:.1f}" width="{width:g}" height="28" fill="transparent"/>'
        f'<line x1="{left - 14:g}" y1="{y:.1f}" x2="{width:g}" y2="{y:.1f}" stroke="{p["hair"]}"{dots}/>{words}</a>'
    )


def _string(one: Hanging, middle: float, at: list[float], p: dict[str, str], narrow: bool) -> str:
    def x(lean: float) -> float:
        return middle + HALF * min(max(lean, -REACH), REACH)

    lines: list[str] = []
    points: list[str] = []
    from_x, from_y = middle, HEAD
    lines.append(f'<circle cx="{middle:g}" cy="{HEAD:g}" r="3.5" fill="{p["ink"]}"/>')
    for row, (lean, own, shape, value) in one.points.items():
        colour = p["ruddy"] if shape == "triangle" else p["ink"]
        to_x, to_y = x(lean), at[row]
        if points or row == 0:  # what was not read at first does not hang from the beam
            lines.append(
                f'<line x1="{from_x:.1f}" y1="{from_y:.1f}" x2="{to_x:.1f}" y2="{to_y:.1f}" stroke="{colour}" stroke-width="1.4"/>'
            )
        points.append(_bar(to_x, to_y, HALF * own, middle, colour) + bob(shape, lean, to_x, to_y, colour, p))
        if narrow:
            points.append(_words(middle + COLUMN / 2 + 50, to_y + 5, value, colour, 14, "end", 700))
        from_x, from_y = to_x, to_y
    if one.drift:
        (first, lean), (last, to_lean) = one.drift
        lines.append(
            f'<line x1="{x(lean):.1f}" y1="{at[first]:.1f}" x2="{x(to_lean):.1f}" y2="{at[last]:.1f}" stroke="{p["ruddy"]}" stroke-dasharray="4 4"/>'
        )
    return f'<g pointer-events="none">{"".join(lines)}{"".join(points)}</g>'


def _bar(x: float, y: float, reach: float, middle: float, colour: str) -> str:
    edge = COLUMN / 2 - 4
    low, high = max(x - reach, middle - edge), min(x + reach, middle + edge)
    return f'<path d="M{low:.1f} {y:.1f} H{high:.1f} M{low:.1f} {y - 4:.1f} v8 M{high:.1f} {y - 4:.1f} v8" stroke="{colour}" stroke-width="1.4" fill="none"/>'


def _words(x: float, y: float, text: str, colour: str, size: float, anchor: str = "middle", weight: int = 400) -> str:
    return f'<text x="{x:g}" y="{y:.1f}" fill="{colour}" font-size="{size:g}" text-anchor="{anchor}" font-weight="{weight}">{escape(text)}</text>'
