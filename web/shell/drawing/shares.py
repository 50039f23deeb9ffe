"""Two shares of a whole, one above the other: before and after, for who reads no charts."""

from django.utils.safestring import SafeString, mark_safe

WIDTH, BAR, LEFT = 320.0, 26.0, 70.0


def before_and_after(before: int, after: int, palette: dict[str, str]) -> SafeString:
    """Both shares [%, 0 to 100] as bars of one length that is the whole."""
    rows = "".join(_bar(n, *of, palette) for n, of in enumerate((("Before", before), ("Now", after))))
    label = f"Before {before} percent, now {after} percent"
    return mark_safe(f'<svg viewBox="0 0 {WIDTH:g} 84" class="shares" role="img" aria-label="{label}">{rows}</svg>')


def _bar(n: int, name: str, share: int, p: dict[str, str]) -> str:
    y, whole = 8 + n * 38, WIDTH - LEFT - 62
    return (
        f'<text x="{LEFT - 8:g}" y="{y + 18}" fill="{p["ink"]}" font-size="15" text-anchor="end">{name}</text>'
        f'<rect x="{LEFT:g}" y="{y}" width="{whole:g}" height="{BAR:g}" fill="none" stroke="{p["ink"]}"/>'
        f'<rect x="{LEFT:g}" y="{y}" width="{whole * share / 100:.1f}" height="{BAR:g}" fill="{p["ink"] if n else p["hair"]}"/>'
        f'<text x="{WIDTH - 6:g}" y="{y + 18}" fill="{p["ink"]}" font-size="15" font-weight="700" text-anchor="end">{share} %</text>'
    )
