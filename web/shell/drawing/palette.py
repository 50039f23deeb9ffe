"""Colours by role. The screen's palette names the style sheet's tokens; print will bring literals."""

SCREEN = {
    "ink": "var(--ink)",
    "soft": "var(--soft)",
    "hair": "var(--hair)",
    "band": "var(--band)",
    "ruddy": "var(--ruddy)",
    "sheet": "var(--sheet)",
}
