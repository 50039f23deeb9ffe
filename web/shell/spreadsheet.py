"""What goes into a spreadsheet."""

import re

_NUMBER = re.compile(r"[-+]?[0-9]+([.,][0-9]+)?")


def harmless(cell: str) -> str:
    """A cell that a spreadsheet would take for a formula, as text; a plain number below zero is none."""
    if _NUMBER.fullmatch(cell):
        return cell
    return f"'{cell}" if cell[:1] in ("=", "+", "-", "@", "\t", "\r") else cell
