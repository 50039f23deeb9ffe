"""`python -m engine.report.bundle [--kind KIND.json] FILE|-`: assess one bundle (JSON) or many (JSON Lines); answers as
JSON Lines.

Each answer carries its line. A line with an error is answered with the line, the field and the message, and the exit
code is 1; the other lines are answered all the same. Exit code 2: nothing could be read. How far it is goes to the
standard error. --kind: what is known of sound machines, as `./ruddy learn` writes it.
"""

import json
import sys
import time
from collections.abc import Iterator
from itertools import chain
from pathlib import Path
from typing import TextIO

from engine.errors import EngineError
from engine.kinds.kind import Kind
from engine.report.bundle.batch import Line, answered
from engine.report.bundle.kind_file import kind_of

TOLD_EVERY_S = 2.0


def bundles(source: TextIO) -> Iterator[Line]:
    """The bundles in a text with the line each starts on: a line each, read as they are needed, or the whole text when
    that is one bundle.
    """
    numbered = enumerate(source, start=1)
    first = next(((number, line) for number, line in numbered if line.strip()), None)
    if first is None:
        return
    lines = chain([first], numbered)
    if _is_object(first[1]):
        yield from ((number, line) for number, line in lines if line.strip())
    else:
        yield from _of_a_text([(number, line) for number, line in lines if line.strip()], first[0])


def _is_object(line: str) -> bool:
    return line.lstrip().startswith("{") and line.rstrip().endswith("}")


def _of_a_text(lines: list[Line], begins: int) -> list[Line]:
    """A text whose first line is no object: one bundle over many lines, or lines of which the first is broken."""
    text = "".join(line for _, line in lines)
    try:
        json.loads(text)
    except (json.JSONDecodeError, RecursionError):
        if sum(_is_object(line) for _, line in lines) >= max(len(lines) / 2, 1):
            return lines
    return [(begins, text)]


class Progress:
    """Says on the standard error how far it is, now and then: nothing for what is done at once."""

    def __init__(self) -> None:
        self.began = self.told = time.monotonic()
        self.done = 0

    def more(self, count: int) -> None:
        """So many lines more are answered."""
        self.done, now = self.done + count, time.monotonic()
        if now - self.told >= TOLD_EVERY_S:
            self.told = now
            print(
                f"ruddy: {self.done:,} lines, {self.done / (now - self.began):,.0f} a second",
                file=sys.stderr,
                flush=True,
            )


def main(arguments: list[str]) -> int:
    """Read, assess, print."""
    try:
        kind, arguments = _kind(arguments)
    except (OSError, UnicodeDecodeError, EngineError) as error:
        print(f"ruddy: cannot read {arguments[1]}: {getattr(error, 'strerror', None) or error}", file=sys.stderr)
        return 2
    if len(arguments) != 1 or arguments[0] in ("-h", "--help"):
        print("usage: ./ruddy assess [--kind KIND.json] FILE|-", file=sys.stderr)
        return 2
    try:
        if arguments[0] == "-":
            return _answer_all(sys.stdin, "-", kind)
        with Path(arguments[0]).open(encoding="utf-8") as source:
            return _answer_all(source, arguments[0], kind)
    except (OSError, UnicodeDecodeError) as error:
        print(f"ruddy: cannot read {arguments[0]}: {getattr(error, 'strerror', None) or error}", file=sys.stderr)
        return 2
    except KeyboardInterrupt:
        print("ruddy: stopped; the answers so far are above", file=sys.stderr)
        return 130


def _kind(arguments: list[str]) -> tuple[Kind | None, list[str]]:
    """The kind file that is named first, if one is, and the other arguments."""
    if len(arguments) < 2 or arguments[0] != "--kind":
        return None, arguments
    return kind_of(Path(arguments[1]).read_text(encoding="utf-8")), arguments[2:]


def _answer_all(source: TextIO, name: str, kind: Kind | None) -> int:
    progress, failed = Progress(), False
    for chunk in answered(bundles(source), kind=kind):
        try:
            for text, is_error in chunk:
                failed |= is_error
                print(text)
            sys.stdout.flush()
        except BrokenPipeError:  # the reader has seen enough, as `head` does
            sys.stderr.close()
            return 1
        progress.more(len(chunk))
    if not progress.done:
        print(f"ruddy: {name} is empty", file=sys.stderr)
        return 2
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
