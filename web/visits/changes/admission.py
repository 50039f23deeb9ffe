"""What is let in at the door: every name against the lists that engine and tables use, every time against the visit it
belongs to.
"""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta

from web.houses.bridge import TABLE_OF_TAPS, taps_of
from web.visits.bridge import vocabulary
from web.visits.forms import EntryItem
from web.visits.models import NOT_POSSIBLE, SOURCES, VALUELESS, WITHDRAWN, Round

# Either side of the visit: a device may have been without a network, or its clock measured late.
GRACE = timedelta(days=1)
REMARKS = ("complaint", "fault_code", "remark")


@dataclass(frozen=True)
class Refusal:
    """Why an item is not let in, and what to do."""

    message: str
    hint: str = ""


def refusal(item: EntryItem, round_: Round, taken_at: datetime, now: datetime) -> Refusal | None:
    """Why an item is not let in; None where it is. taken_at: by the device's clock, corrected to ours; now: by ours."""
    if not round_.visit.started_at - GRACE <= taken_at <= now + GRACE:
        return Refusal("That time is not of this visit.", "Set the device's date and time, then enter it again.")
    if item.kind in ("closing", "baseline", "outcome"):
        return None  # who may, and whether it is open, is for the change itself
    if round_.visit.finished_on and taken_at > round_.visit.finished_on:
        return Refusal("This visit is finished.", "Open it again under Close, or start another.")
    if item.supersedes and str(item.supersedes) == item.id:
        return Refusal("An entry cannot replace itself.")
    return _OF_A_KIND[item.kind](item, round_)


def _reading(item: EntryItem, round_: Round) -> Refusal | None:
    if not vocabulary.is_place(item.place, item.quantity):
        return Refusal(f"There is no reading '{item.quantity}' at '{item.place}'.")
    if item.place.startswith(vocabulary.ROOM) and not _has_room(round_, item.place.removeprefix(vocabulary.ROOM)):
        return Refusal(
            f"This system has no room '{item.place.removeprefix(vocabulary.ROOM)}'.", "Add it under rooms and ducts."
        )
    if not vocabulary.is_variant(item.place, item.quantity, item.variant):
        if (item.place, item.quantity) == ("blower", "airflow"):
            return Refusal("Say how the airflow was found.", "Choose a method.")
        return Refusal(f"There is no '{item.variant}' of '{item.quantity}' at '{item.place}'.")
    if item.source not in SOURCES:
        return Refusal(f"'{item.source}' is no source of a reading.")
    if item.plane not in (("", *vocabulary.PLANES) if vocabulary.asks_the_plane(item.place, item.quantity) else ("",)):
        return Refusal(f"'{item.plane}' is no air that this can be taken in.", "Choose return, supply or standard air.")
    return _valueless(item) if item.source in VALUELESS else None


def _valueless(item: EntryItem) -> Refusal | None:
    """'Not possible, because' is a value too; 'withdrawn' is what undo leaves when there was nothing before."""
    if item.source == NOT_POSSIBLE and item.reason not in vocabulary.NOT_POSSIBLE:
        return Refusal("Say why it is not possible.", "Choose a reason.")
    if item.source == WITHDRAWN and not item.supersedes:
        return Refusal("It does not say which entry to undo.")
    return None if item.unit in ("", *vocabulary.UNITS) else Refusal(f"'{item.unit}' is no unit.")


def _has_room(round_: Round, name: str) -> bool:
    return any(room.name == name for room in round_.visit.system.rooms.all())


def _observation(item: EntryItem, round_: Round) -> Refusal | None:
    if item.seen == vocabulary.TAP:
        return None if item.degree == WITHDRAWN and item.supersedes else _tap(item.degree, round_)
    taken_back = item.degree == WITHDRAWN and item.supersedes and item.seen in vocabulary.OBSERVATIONS
    if taken_back or vocabulary.is_observation(item.seen, item.degree):
        return None
    return Refusal(f"'{item.seen}: {item.degree}' is not in the vocabulary.")


def _tap(tap: str, round_: Round) -> Refusal | None:
    table = round_.visit.system.tables.newest().get(TABLE_OF_TAPS)
    if tap in (taps_of(table.text) if table else ()):
        return None
    return Refusal(f"The blower table has no tap '{tap}'.", "Choose one of its taps, or enter the table.")


def _remark(item: EntryItem, round_: Round) -> Refusal | None:
    if item.about not in REMARKS:
        return Refusal(f"A remark is not about '{item.about}'.")
    return None if item.text else Refusal("A remark needs words.", "Write what you want to keep.")


def _action(item: EntryItem, round_: Round) -> Refusal | None:
    if item.done == WITHDRAWN:
        return None if item.supersedes else Refusal("It does not say which entry to undo.")
    if item.done != "other" and item.done not in vocabulary.ACTIONS:
        return Refusal(f"'{item.done}' is no action of the list.")
    if item.done == vocabulary.SPEED_SET and item.text:
        return _tap(item.text, round_)
    return Refusal("Say what was done.", "Write it in a few words.") if item.done == "other" and not item.text else None


_OF_A_KIND: dict[str, Callable[[EntryItem, Round], Refusal | None]] = {
    "reading": _reading, "observation": _observation, "remark": _remark, "action": _action,
    # Their own change knows what cannot be.
    **dict.fromkeys(("hook_up", "charge_step", "leak_search"), lambda item, round_: None),
}  # fmt: skip
