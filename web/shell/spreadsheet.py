"""What goes into a spreadsheet."""


def harmless(cell: str) -> str:
    """A cell that a spreadsheet would take for a formula, as text."""
    return f"'{cell}" if cell[:1] in ("=", "+", "-", "@", "\t", "\r") else cell
