"""`python -m engine.report.bundle FILE|-`: assess one bundle (JSON) or many (JSON Lines); answers as JSON Lines.

Each answer carries its line. A line with an error is answered with the line, the field and the message, and the exit
code is 1; the other lines are answered all the same. Exit code 2: nothing could be read.
"""

import json
import sys
from collections.abc import Iterator
from itertools import pairwise
from pathlib import Path

from engine.assessment import Assessment, assess, table_of
from engine.errors import EngineError
from engine.report.bundle.answer import answer_of
from engine.report.bundle.reading import BundleError, Visit, visit_of
from engine.report.finding_words import said
from engine.report.words import FAHRENHEIT


def answers(text: str) -> Iterator[dict]:
    """One answer per bundle, in order."""
    for line, source in _bundles(text):
        try:
            visit = visit_of(json.loads(source))
        except json.JSONDecodeError as error:
            at = line + error.lineno - 1
            yield {"line": at, "error": {"field": f"column {error.colno}", "message": f"not JSON: {error.msg}"}}
        except BundleError as error:
            yield {"line": line, "error": {"field": error.field, "message": str(error)}}
        else:
            yield _answer(line, visit)


def _answer(line: int, visit: Visit) -> dict:
    answer = {"line": line, "name": visit.name, "rounds": []}
    try:
        baseline = table_of(visit.baseline) if visit.baseline else None
    except EngineError as error:
        return {"line": line, "name": visit.name, "error": {"field": "baseline", "message": str(error)}}
    assessed: list[Assessment] = []
    for name, round_ in visit.rounds:
        try:
            found = assess(round_, baseline)
        except EngineError as error:
            answer.setdefault("error", {"field": name, "message": str(error)})
        else:
            assessed.append(found)
            answer["rounds"].append({"name": name, **answer_of(found)})
    for first, second in pairwise(assessed):
        answer.setdefault("rounds_disagree", []).extend(said(f, FAHRENHEIT).both for f in second.disagrees_with(first))
    return answer


def _bundles(text: str) -> Iterator[tuple[int, str]]:
    """The bundles in a text with the line each starts on: the whole text when it is one JSON value, else a line each."""
    try:
        json.loads(text)
    except json.JSONDecodeError:
        lines = [(number, line) for number, line in enumerate(text.splitlines(), start=1) if line.strip()]
        # A broken document over many lines is one bundle; JSON Lines start with an object on every line.
        if sum(line.lstrip().startswith("{") and line.rstrip().endswith("}") for _, line in lines) < max(len(lines) / 2, 1):
            yield 1, text
            return
        yield from lines
        return
    yield 1, text


def main(arguments: list[str]) -> int:
    """Read, assess, print."""
    if len(arguments) != 1 or arguments[0] in ("-h", "--help"):
        print("usage: ./ruddy assess FILE|-", file=sys.stderr)
        return 2
    try:
        text = sys.stdin.read() if arguments[0] == "-" else Path(arguments[0]).read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as error:
        print(f"ruddy: cannot read {arguments[0]}: {getattr(error, 'strerror', None) or error}", file=sys.stderr)
        return 2
    if not text.strip():
        print(f"ruddy: {arguments[0]} is empty", file=sys.stderr)
        return 2
    failed = False
    for answer in answers(text):
        failed |= "error" in answer
        try:
            print(json.dumps(answer, ensure_ascii=False), flush=True)
        except BrokenPipeError:  # the reader has seen enough, as `head` does
            sys.stderr.close()
            return 1
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
