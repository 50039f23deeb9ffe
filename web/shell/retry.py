"""Doing a change again that the database broke off, because another one held what it needed."""

import random
import time
from collections.abc import Callable
from typing import TypeVar

from django.db import OperationalError, connection

DEADLOCK, WAITED_TOO_LONG = 1213, 1205  # MariaDB's numbers; a cluster's certification conflict is told as the first
TRIES = 4
PAUSE_S = 0.02  # twice as long each time, and never as long as the other's: two who collided would collide again
Came = TypeVar("Came")


def retried(change: Callable[[], Came]) -> Came:
    """What a change in a transaction of its own comes to, tried again where the database broke it off whole. Inside
    another transaction it is that one that has to be tried again.
    """
    for tried in range(TRIES - 1):
        try:
            return change()
        except OperationalError as error:
            if connection.in_atomic_block or error.args[:1] not in ((DEADLOCK,), (WAITED_TOO_LONG,)):
                raise
        time.sleep(PAUSE_S * 2**tried * random.uniform(0.5, 1.5))
    return change()
