"""Recording checks against the outside: what was compared with what, and the agreement reached. docs/checks.md is made from them."""

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
