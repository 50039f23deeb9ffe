"""The temperature scale of the person whose request is answered: how everything of it is printed.

The engine is told the scale with every sentence; here a request keeps it, so that no view has to hand it through.
"""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar

from engine.report.words import FAHRENHEIT, Words, words_in

_shown: ContextVar[Words] = ContextVar("shown", default=FAHRENHEIT)


def words() -> Words:
    """The words of the request that is answered; °F outside of one."""
    return _shown.get()


@contextmanager
def shown_in(scale: str) -> Iterator[None]:
    """Temperatures in °F or °C ('F', 'C') while this lasts; anything else is °F."""
    token = _shown.set(words_in(scale))
    try:
        yield
    finally:
        _shown.reset(token)
