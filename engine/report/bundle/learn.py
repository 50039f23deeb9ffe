"""`python -m engine.report.bundle.learn FILE|-`: from bundles marked *sound* to a kind file, on the standard output.

The last round of each visit counts. Lines that are not marked sound, or cannot be read, are left out and counted on the
standard error, where it is also said if what was learnt looks like a fault.
"""

import json
import sys
from pathlib import Path

from engine.assessment import tables_of
from engine.diagnosis.causes import EVERY_CAUSE
from engine.errors import EngineError
from engine.kinds.features import ALL
from engine.kinds.kind import Kind, Suspicion
from engine.kinds.learning import Lesson, learn, lesson_of
from engine.report.bundle.__main__ import bundles
from engine.report.bundle.kind_file import kind_text
from engine.report.bundle.reading import BundleError, Visit, visit_of
from engine.report.quantity_words import LABELS
from engine.report.words import listed, lower_first


def main(arguments: list[str]) -> int:
    """Read, learn, print."""
    if len(arguments) != 1 or arguments[0] in ("-h", "--help"):
        print("usage: ./ruddy learn FILE|- > KIND.json", file=sys.stderr)
        return 2
    try:
        if arguments[0] == "-":
            visits, left_out = _sound(list(bundles(sys.stdin)))
        else:
            with Path(arguments[0]).open(encoding="utf-8") as source:
                visits, left_out = _sound(list(bundles(source)))
    except (OSError, UnicodeDecodeError) as error:
        print(f"ruddy: cannot read {arguments[0]}: {getattr(error, 'strerror', None) or error}", file=sys.stderr)
        return 2
    if not visits:
        print("ruddy: no visit here is marked sound", file=sys.stderr)
        return 1
    kind = learn(visits)
    print(f"ruddy: {_said(kind, left_out)}", file=sys.stderr)
    print(kind_text(kind), end="")
    return 0


def _sound(lines: list[tuple[int, str]]) -> tuple[list[Lesson], int]:
    read = [(line, visit) for line, text in lines if (visit := _visit(text)) is not None and visit.sound]
    tables = tables_of([visit.rounds[-1][1] for _, visit in read])
    found = [
        lesson_of(table, visit.system or f"line {line}", visit.confirmed)
        for (line, visit), table in zip(read, tables, strict=True)
        if not isinstance(table, EngineError)
    ]
    return found, len(lines) - len(found)


def _visit(text: str) -> Visit | None:
    try:
        return visit_of(json.loads(text))
    except (json.JSONDecodeError, RecursionError, BundleError):
        return None


def _said(kind: Kind, left_out: int) -> str:
    text = f"{kind.machines} sound machines, {kind.confirmed} of them confirmed; {left_out} lines left out"
    return "\n".join([text, *(suspicion_said(s) for of in kind.settings.values() for s in of.suspicions)])


def suspicion_said(s: Suspicion) -> str:
    """What looks like a fault instead of a kind, in a sentence."""
    group = "All machines" if s.level == ALL else f"Machines of {s.level} {s.group}"
    named = listed([lower_first(LABELS[id_]) for id_ in s.quantities])
    return (
        f"{group} read as if: {lower_first(EVERY_CAUSE[s.cause].label)} ({named}). Confirm some by gauges: until then "
        "the engine's own expectation is used there."
    )


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
