"""Lines of bundles to lines of answers: a chunk is read, assessed together and answered; chunks go over all cores, and
answers keep the order.
"""

import gc
import json
import os
from collections import deque
from collections.abc import Iterable, Iterator, Mapping
from concurrent.futures import Future, ProcessPoolExecutor
from dataclasses import dataclass
from functools import partial
from itertools import islice, pairwise

import orjson

from engine.assessment import Assessment, assess_many, tables_of
from engine.errors import EngineError
from engine.kinds.kind import Kind
from engine.kinds.machine import Earlier, known
from engine.quantities.table import Table
from engine.report.bundle.answer import Json, answer_of
from engine.report.bundle.reading import BundleError, Visit, visit_of
from engine.report.finding_words import said
from engine.report.words import FAHRENHEIT
from engine.uncertainty.trend import Trend

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


@dataclass(frozen=True)
class _Known:
    """What a visit's rounds are judged by: its baseline with what came after it, and the drifts; fault: what is wrong
    with the baseline.
    """

    table: Table | None
    trends: Mapping[str, Trend]
    fault: EngineError | None


def _known(visits: list[Visit]) -> list[_Known]:
    """Of each visit; all that came before worked out together. An earlier visit that cannot be is left out."""
    before = [[*([v.baseline] if v.baseline else []), *(each.round for each in v.earlier)] for v in visits]
    tables = iter(tables_of([round_ for rounds in before for round_ in rounds]))
    found = []
    for visit in visits:
        sealed = next(tables) if visit.baseline else None
        came = [(each, next(tables)) for each in visit.earlier]
        earlier = [
            Earlier(each.years, table, each.sound, each.changed)
            for each, table in came
            if not isinstance(table, EngineError)
        ]
        fault = sealed if isinstance(sealed, EngineError) else None
        baseline = None if isinstance(sealed, EngineError) else sealed
        found.append(_Known(*known(baseline, earlier), fault))
    return found


def _assessed(visits: list[Visit], kind: Kind | None) -> list[tuple[_Known, list[Assessment | EngineError]]]:
    """What each visit's rounds are judged by, and the rounds assessed: all together."""
    each = _known(visits)
    by = [one for visit, one in zip(visits, each, strict=True) for _ in visit.rounds]
    rounds = [round_ for visit in visits for _, round_ in visit.rounds]
    found = iter(assess_many(rounds, [k.table for k in by], kind=kind, trends=[k.trends for k in by]))
    return [(one, [next(found) for _ in visit.rounds]) for visit, one in zip(visits, each, strict=True)]


def _answer(line: int, visit: Visit, assessed: tuple[_Known, list[Assessment | EngineError]]) -> Json:
    by, rounds = assessed
    if by.fault is not None:
        return {"line": line, "name": visit.name, "error": {"field": "baseline", "message": str(by.fault)}}
    answer: Json = {"line": line, "name": visit.name, "rounds": []}
    for (name, _), found in zip(visit.rounds, rounds, strict=True):
        if isinstance(found, EngineError):
            answer.setdefault("error", {"field": name, "message": str(found)})
        else:
            answer["rounds"].append({"name": name, **answer_of(found)})
    for first, second in pairwise(found for found in rounds if isinstance(found, Assessment)):
        answer.setdefault("rounds_disagree", []).extend(said(f, FAHRENHEIT).both for f in second.disagrees_with(first))
    return answer
