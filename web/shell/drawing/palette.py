"""Colours by role. The screen's palette names the style sheet's tokens; paper takes literals: what draws it resolves no
tokens.
"""

SCREEN = {
    "ink": "var(--ink)",
    "soft": "var(--soft)",
    "hair": "var(--hair)",
    "band": "var(--band)",
    "ruddy": "var(--ruddy)",
    "sheet": "var(--sheet)",
}
PRINT = {
    "ink": "#000000",
    "soft": "#444444",
    "hair": "#999999",
    "band": "#dddddd",
    "ruddy": "#a3301c",
    "sheet": "#ffffff",
}
