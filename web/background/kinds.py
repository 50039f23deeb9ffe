"""The kinds of background work there are. Each app names its own in `tasks.py`; the settings list them."""

from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import timedelta
from typing import TYPE_CHECKING

from django.conf import settings
from django.utils.module_loading import import_string

if TYPE_CHECKING:
    from web.background.models import Work


@dataclass(frozen=True)
class Step:
    """What one step came to. done: how much was done in it; cursor: where the next one begins; ended: nothing is left;
    total: how much there is in all, once it is known; says: what came of it, in words, at the end.
    """

    done: int
    cursor: dict = field(default_factory=dict)
    ended: bool = False
    total: int | None = None
    says: str = ""


@dataclass(frozen=True)
class Kind:
    """A kind of work. step: does a second's worth of it, inside the transaction that also records how far it is, so
    that nothing is done twice or left out, whenever the worker is killed. every: how often it is due by itself.
    """

    label: str
    step: Callable[["Work"], Step]
    every: timedelta | None = None


def kind_of(id_: str) -> Kind:
    """A kind by its id; raises LookupError for one that the settings do not list."""
    if id_ not in settings.BACKGROUND_KINDS:
        raise LookupError(f"there is no background work of kind '{id_}'")
    return import_string(settings.BACKGROUND_KINDS[id_])


def label_of(id_: str) -> str:
    """What a kind is called; the id of one that is done no more."""
    return kind_of(id_).label if id_ in settings.BACKGROUND_KINDS else id_


def scheduled() -> dict[str, Kind]:
    """The kinds that are due by themselves, by id."""
    kinds = {id_: kind_of(id_) for id_ in settings.BACKGROUND_KINDS}
    return {id_: kind for id_, kind in kinds.items() if kind.every}
