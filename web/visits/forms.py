"""What comes in: entry batches (JSON) and the sheet as it stands while typing. Shape only; values are the engine's to judge."""

import json
import uuid
from dataclasses import dataclass
from datetime import UTC, datetime

from django.utils.dateparse import parse_datetime

MOST_ITEMS = 200
LONGEST_TEXT = 20
LARGEST_SEQUENCE = 2**53


class BatchError(ValueError):
    """A batch that cannot be read at all."""


@dataclass(frozen=True)
class EntryItem:
    """One item of a batch. problem: why it cannot be read, '' when it can."""

    id: str
    kind: str = ""
    round: str = ""
    device: uuid.UUID | None = None
    sequence: int = 0
    taken_at: datetime | None = None
    supersedes: uuid.UUID | None = None
    place: str = ""
    quantity: str = ""
    typed: str = ""
    unit: str = ""
    source: str = "typed"
    instrument: str = ""
    method: str = ""
    plane: str = ""
    confirmed: bool = False
    seen: str = ""
    degree: str = ""
    problem: str = ""

    @property
    def is_readable(self) -> bool:
        """Whether the item has the shape of an entry."""
        return not self.problem


def parse_batch(body: bytes) -> tuple[list[EntryItem], datetime]:
    """The items of a batch and the device's clock when it was sent; raises BatchError."""
    try:
        data = json.loads(body)
        clock = _moment(data["clock"])
        device = uuid.UUID(data["device"])
        items = data["items"]
    except (ValueError, KeyError, TypeError, AttributeError) as error:
        raise BatchError("A batch has a device, a clock and items.") from error
    if not isinstance(items, list) or len(items) > MOST_ITEMS:
        raise BatchError(f"A batch holds at most {MOST_ITEMS} items.")
    return [_item(raw, device) for raw in items], clock


def _item(raw: object, device: uuid.UUID) -> EntryItem:
    if not isinstance(raw, dict):
        return EntryItem(id="", problem="An item is an object.")
    named = str(raw.get("id", ""))[:36]
    try:
        sequence = int(raw["sequence"])
        if not 0 <= sequence <= LARGEST_SEQUENCE:
            raise ValueError("sequence")
        return EntryItem(
            id=str(uuid.UUID(named)),
            kind=_one_of(raw["kind"], ("reading", "observation")),
            round=str(uuid.UUID(raw["round"])),
            device=device,
            sequence=sequence,
            taken_at=_moment(raw["taken_at"]),
            supersedes=uuid.UUID(raw["supersedes"]) if raw.get("supersedes") else None,
            typed=_text(raw, "value"),
            confirmed=raw.get("confirmed") is True,
            **{key: _text(raw, key) for key in ("place", "quantity", "unit", "method", "plane", "seen", "degree")},
            source=_text(raw, "source") or "typed",
            instrument=_text(raw, "instrument", 36),
        )
    except (ValueError, KeyError, TypeError, AttributeError, OverflowError) as error:
        return EntryItem(id=named, problem=f"This entry cannot be read ({error}).")


def _text(raw: dict, key: str, longest: int = LONGEST_TEXT) -> str:
    value = raw.get(key, "")
    if not isinstance(value, str) or len(value) > longest or "\x00" in value:
        raise ValueError(f"{key} must be text of at most {longest} characters")
    return value


def _one_of(value: object, known: tuple[str, ...]) -> str:
    if value not in known:
        raise ValueError(f"kind must be one of {', '.join(known)}")
    return value


def _moment(text: str) -> datetime:
    moment = parse_datetime(text)
    if moment is None or not 2000 <= moment.year <= 2200:
        raise ValueError("a time must be ISO 8601")
    return moment if moment.tzinfo else moment.replace(tzinfo=UTC)


@dataclass(frozen=True)
class DraftField:
    """One field of the sheet as it stands: typed text, unit, whether the unit was confirmed."""

    typed: str = ""
    unit: str = ""
    confirmed: bool = False


class SheetDraft:
    """The sheet as it stands in the browser. Fields are named 'place.quantity'."""

    def __init__(self, data):
        self._data = data
        self.focused = data.get("focused", "")

    def field(self, place: str, quantity: str) -> DraftField:
        """A field's text, unit and confirmation."""
        name = f"{place}.{quantity}"
        return DraftField(
            typed=self._data.get(name, "").strip()[:LONGEST_TEXT],
            unit=self._data.get(f"{name}.unit", "")[:10],
            confirmed=self._data.get(f"{name}.confirmed", "") == "true",
        )

    def choice(self, name: str) -> str:
        """The value of a select or a group of choices."""
        return self._data.get(name, "")[:36]
