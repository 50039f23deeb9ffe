"""Recording checks against the outside: what was compared with what, and the agreement reached. docs/checks.md is made
from them.
"""

import json
import os
from pathlib import Path

FOLDER = os.environ.get("RUDDY_CHECKS", "")


def record(quantity: str, reference: str, agreement: float, asked: float, unit: str) -> None:
    """Note a check and insist on it: `agreement` is the largest difference found, `asked` what is allowed."""
    if FOLDER:
        path = Path(FOLDER) / f"{os.environ.get('PYTEST_XDIST_WORKER', 'main')}.jsonl"
        with path.open("a") as file:
            file.write(json.dumps([quantity, reference, f"{agreement:.1g}", f"{asked:g}", unit]) + "\n")
    assert agreement <= asked, f"{quantity} against {reference}: {agreement:g} {unit}, {asked:g} allowed"


def merge(records) -> list[list[str]]:
    """One row per quantity and reference, the worst agreement of those recorded."""
    worst: dict[tuple, list[str]] = {}
    for row in records:
        key = tuple(row[:2])
        if key not in worst or float(row[2]) > float(worst[key][2]):
            worst[key] = row
    return [worst[key] for key in sorted(worst)]


def page(rows: list[list[str]]) -> str:
    """docs/checks.md."""
    head = (
        "# Checks against the outside\n\nWritten by `./ruddy test`. Agreement is the largest difference found.\n\n"
        "| quantity | reference | asked | unit | agreement reached |\n|---|---|---|---|---|\n"
    )
    return head + "".join(f"| {q} | {r} | {asked} | {unit} | {reached} |\n" for q, r, reached, asked, unit in rows)


def what_is_checked(text: str) -> list[str]:
    """The rows of a page without the agreement reached, which differs a little from machine to machine."""
    return [line.rsplit("|", 2)[0] for line in text.splitlines() if line.startswith("| ")]
