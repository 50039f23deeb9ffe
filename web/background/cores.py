"""Parts of a step on all cores. The worker that does the step waits for them: what they come to is kept by it, in its
transaction, so that a part that was done by nobody's worker is simply done again.
"""

import os
import threading
from collections.abc import Callable, Sequence
from concurrent.futures import ProcessPoolExecutor
from functools import cache
from itertools import pairwise
from multiprocessing import get_context, parent_process
from typing import TypeVar

import django
from django.conf import settings
from django.db import close_old_connections

Part = TypeVar("Part")
Done = TypeVar("Done")


def over_cores(do: Callable[[Part], Done], parts: Sequence[Part]) -> list[Done]:
    """What each part comes to, in order. do: a function of a module, which only reads the database."""
    processes = settings.BACKGROUND_PROCESSES
    if processes < 2 or len(parts) < 2:
        return [do(part) for part in parts]
    return list(_pool(processes).map(_On(do), parts))


def parted(rows: Sequence[Part]) -> list[Sequence[Part]]:
    """Rows in as many parts as there are cores, of about one size, in order."""
    count = max(1, min(settings.BACKGROUND_PROCESSES, len(rows)))
    edges = [len(rows) * n // count for n in range(count + 1)]
    return [rows[begin:end] for begin, end in pairwise(edges)]


def let_go() -> None:
    """End the processes, once a piece of work has ended: the next begins with new ones."""
    if _pool.cache_info().currsize:
        _pool(settings.BACKGROUND_PROCESSES).shutdown(wait=False)
        _pool.cache_clear()


@cache
def _pool(processes: int) -> ProcessPoolExecutor:
    # Started anew, not forked: a fork would share the worker's connection to the database.
    return ProcessPoolExecutor(processes, mp_context=get_context("spawn"), initializer=_begin)


def _begin() -> None:
    """In a new process: load the project, and end when the worker is killed."""
    django.setup()
    threading.Thread(target=_end_with_parent, daemon=True).start()


def _end_with_parent() -> None:
    parent = parent_process()
    if parent is not None:
        parent.join()
    os._exit(1)


class _On:
    """A function on a part in another process, with a connection to the database that still lives."""

    def __init__(self, do: Callable):
        self.do = do

    def __call__(self, part):
        close_old_connections()
        return self.do(part)
