"""Lines of bundles to lines of answers: a chunk is read, assessed together and answered; chunks go over all cores, and
answers keep the order.
"""

import gc
import json
import os
from collections import deque
from collections.abc import Iterable, Iterator
from concurrent.futures import Future, ProcessPoolExecutor
from functools import partial
from itertools import islice, pairwise

import orjson

from engine.assessment import Assessment, assess_many, tables_of
from engine.errors import EngineError
from engine.kinds.kind import Kind
from engine.quantities.table import Table
from engine.report.bundle.answer import Json, answer_of
from engine.report.bundle.reading import BundleError, Visit, visit_of
from engine.report.finding_words import said
from engine.report.words import FAHRENHEIT

CHUNK = 250  # lines read and assessed together: what is in memory is a few chunks, however many lines there are
AHEAD = 2  # chunks waiting for each core

Line = tuple[int, str]  # its number, and the bundle that starts there


def answers(lines: Iterable[Line], kind: Kind | None = None) -> list[Json]:
    """One answer per bundle, in order. A bundle that cannot be read is answered with the line, the field and the
    message. kind: what is known of sound machines.
    """
    read = [_read(line, text) for line, text in lines]
    visits = [visit for _, visit in read if isinstance(visit, Visit)]
    assessed = iter(_assessed(visits, kind))
    return [
        _answer(line, visit, next(assessed)) if isinstance(visit, Visit) else {"line": line, "error": visit}
        for line, visit in read
    ]


def answered(
    lines: Iterable[Line], cores: int | None = None, kind: Kind | None = None
) -> Iterator[list[tuple[str, bool]]]:
    """The answers to lines as JSON, a chunk at a time and in order, each with whether it holds an error. cores: all
    there are. kind: what is known of sound machines.
    """
    encoded = partial(_encoded, kind=kind)
    lines, cores = iter(lines), cores or len(os.sched_getaffinity(0))
    first = list(islice(lines, CHUNK))
    second = list(islice(lines, CHUNK))
    if not second or cores == 1:  # a handful of lines is answered sooner than other processes are up
        chunks = iter((first, second))
        yield from map(encoded, filter(None, chunks))
        yield from map(encoded, iter(lambda: list(islice(lines, CHUNK)), []))
        return
    with ProcessPoolExecutor(cores) as pool:
        waiting: deque[Future[list[tuple[str, bool]]]] = deque(pool.submit(encoded, chunk) for chunk in (first, second))
        while waiting:
            while len(waiting) < AHEAD * cores and (chunk := list(islice(lines, CHUNK))):
                waiting.append(pool.submit(encoded, chunk))
            yield waiting.popleft().result()


def _encoded(lines: list[Line], kind: Kind | None) -> list[tuple[str, bool]]:
    # What a chunk makes lives until it is answered: to look for garbage in between finds none and costs a tenth.
    gc.disable()
    try:
        return [(orjson.dumps(answer).decode(), "error" in answer) for answer in answers(lines, kind)]
    finally:
        gc.enable()


def _read(line: int, text: str) -> tuple[int, Visit | Json]:
    try:
        return line, visit_of(json.loads(text))
    except json.JSONDecodeError as error:
        return line + error.lineno - 1, {"field": f"column {error.colno}", "message": f"not JSON: {error.msg}"}
    except RecursionError:
        return line, {"field": "(top level)", "message": "nested without end"}
    except BundleError as error:
        return line, {"field": error.field, "message": str(error)}


def _assessed(
    visits: list[Visit], kind: Kind | None
) -> list[tuple[Table | EngineError | None, list[Assessment | EngineError]]]:
    """Each visit's baseline and its rounds, assessed: all baselines together, then all rounds."""
    sealed = iter(tables_of([visit.baseline for visit in visits if visit.baseline]))
    baselines = [next(sealed) if visit.baseline else None for visit in visits]
    rounds, held_against = [], []
    for visit, baseline in zip(visits, baselines, strict=True):
        rounds += [round_ for _, round_ in visit.rounds]
        held_against += [None if isinstance(baseline, EngineError) else baseline] * len(visit.rounds)
    found = iter(assess_many(rounds, held_against, kind=kind))
    return [(baseline, [next(found) for _ in visit.rounds]) for visit, baseline in zip(visits, baselines, strict=True)]


def _answer(
    line: int, visit: Visit, assessed: tuple[Table | EngineError | None, list[Assessment | EngineError]]
) -> Json:
    baseline, rounds = assessed
    if isinstance(baseline, EngineError):
        return {"line": line, "name": visit.name, "error": {"field": "baseline", "message": str(baseline)}}
    answer: Json = {"line": line, "name": visit.name, "rounds": []}
    for (name, _), found in zip(visit.rounds, rounds, strict=True):
        if isinstance(found, EngineError):
            answer.setdefault("error", {"field": name, "message": str(found)})
        else:
            answer["rounds"].append({"name": name, **answer_of(found)})
    for first, second in pairwise(found for found in rounds if isinstance(found, Assessment)):
        answer.setdefault("rounds_disagree", []).extend(said(f, FAHRENHEIT).both for f in second.disagrees_with(first))
    return answer
