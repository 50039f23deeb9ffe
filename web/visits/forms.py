"""What comes in: entry batches (JSON), the sheet as it is while typing, and small forms. Shape only; values are the
engine's to judge.
"""

import json
import uuid
from collections.abc import Collection, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import cast

from django import forms

from web.accounts.models import User
from web.shell.forms import NEVER, read_moment, read_text
from web.shell.once import NumberedForm
from web.visits.models import BLOCKS

NOBODYS = uuid.UUID(int=0)  # the device of what could not be read
MOST_ITEMS = 200
LONGEST_TEXT = 20
LONGEST_PLACE = 60
LONGEST_WORDS = 600
MOST_SAID, LONGEST_SAID = 80, 1000
KINDS = (
    "reading",
    "observation",
    "remark",
    "action",
    "closing",
    "hook_up",
    "charge_step",
    "leak_search",
    "baseline",
    "outcome",
)
LARGEST_SEQUENCE = 2**53


class BatchError(ValueError):
    """A batch that cannot be read at all."""


@dataclass(frozen=True)
class EntryItem:
    """One item of a batch. problem: why it cannot be read, '' when it can."""

    id: str
    kind: str = ""
    round: str = ""
    device: uuid.UUID = NOBODYS
    sequence: int = 0
    taken_at: datetime = NEVER
    supersedes: uuid.UUID | None = None
    place: str = ""
    quantity: str = ""
    variant: str = ""
    typed: str = ""
    unit: str = ""
    source: str = "typed"
    instrument: str = ""
    plane: str = ""
    reason: str = ""
    probe: str = ""
    confirmed: bool = False
    seen: str = ""
    degree: str = ""
    about: str = ""
    done: str = ""
    text: str = ""
    says: dict[str, str] = field(default_factory=dict)  # the fields of a form that is sent as an entry
    problem: str = ""

    @property
    def is_readable(self) -> bool:
        """Whether the item has the shape of an entry."""
        return not self.problem


def parse_batch(body: bytes) -> tuple[list[EntryItem], datetime]:
    """The items of a batch and the device's clock when it was sent; raises BatchError."""
    try:
        data = json.loads(body)
        clock = read_moment(data["clock"])
        device = uuid.UUID(data["device"])
        items = data["items"]
    except (ValueError, KeyError, TypeError, AttributeError, RecursionError) as error:
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
            kind=_one_of(raw["kind"], KINDS),
            round=str(uuid.UUID(raw["round"])),
            device=device,
            sequence=sequence,
            taken_at=read_moment(raw["taken_at"]),
            supersedes=uuid.UUID(raw["supersedes"]) if raw.get("supersedes") else None,
            typed=read_text(raw, "value", LONGEST_TEXT),
            confirmed=raw.get("confirmed") is True,
            **{
                key: read_text(raw, key, LONGEST_TEXT)
                for key in ("quantity", "unit", "plane", "reason", "degree", "about")
            },
            **{key: read_text(raw, key, LONGEST_PLACE) for key in ("place", "variant", "seen", "done")},
            text=read_text(raw, "text", LONGEST_WORDS).strip(),
            says=_said(raw.get("says", {})),
            source=read_text(raw, "source", LONGEST_TEXT) or "typed",
            instrument=read_text(raw, "instrument", 36),
            probe=read_text(raw, "probe", 36),
        )
    except (ValueError, KeyError, TypeError, AttributeError, OverflowError) as error:
        return EntryItem(id=named, problem=f"This cannot be read: {error}.")


def _said(raw: object) -> dict[str, str]:
    if not isinstance(raw, dict) or len(raw) > MOST_SAID or any(len(name) > LONGEST_PLACE for name in raw):
        raise ValueError(f"says must be at most {MOST_SAID} named texts")
    return {name: read_text(raw, name, LONGEST_SAID) for name in raw}


def _one_of(value: object, known: tuple[str, ...]) -> str:
    if value not in known:
        raise ValueError(f"kind must be one of {', '.join(known)}")
    return value


@dataclass(frozen=True)
class DraftField:
    """One field of the sheet as it is: typed text, unit, whether the unit was confirmed."""

    typed: str = ""
    unit: str = ""
    confirmed: bool = False


class SheetDraft:
    """The sheet as it is in the browser. Fields are named 'place.quantity' or 'place.quantity@variant'."""

    def __init__(self, data):
        self._data = data
        self.focused = data.get("focused", "")
        self.station, self.stop = data.get("station", ""), data.get("stop", "")
        self.narrow = data.get("narrow", "") == "true"
        self.mode = data.get("mode", "")
        self.is_first = data.get("first", "") == "true"  # of its page, which came without what the assessment makes

    def field(self, name: str) -> DraftField:
        """A field's text, unit and confirmation."""
        return DraftField(
            typed=self._data.get(name, "").strip()[:LONGEST_TEXT],
            unit=self._data.get(f"{name}.unit", "")[:12],
            confirmed=self._data.get(f"{name}.confirmed", "") == "true",
        )

    def has(self, name: str) -> bool:
        """Whether the page that sent it has this field."""
        return name in self._data

    def choice(self, name: str) -> str:
        """The value of a select or a group of choices."""
        return self._data.get(name, "")[:36]

    def sights(self, known: Mapping[str, Collection[str]]) -> dict[str, str]:
        """What is chosen of the things to see, degrees of the vocabulary only."""
        return {name: degree for name, degrees in known.items() if (degree := self.choice(f"see.{name}")) in degrees}


class StartForm(forms.Form):
    """A visit's number, made by the page; none is fine. at: the station to begin at, where it is not the first."""

    visit = forms.UUIDField(required=False)
    at = forms.ChoiceField(choices=[("read", "read")], required=False)

    def public_id(self) -> uuid.UUID | None:
        """The number, or None."""
        return self.cleaned_data.get("visit") if self.is_valid() else None

    def anchor(self) -> str:
        """'#read', or nothing."""
        return f"#{self.cleaned_data['at']}" if self.is_valid() and self.cleaned_data["at"] else ""


class NextRoundForm(forms.Form):
    """The number of the round on the page."""

    seen = forms.IntegerField(min_value=1, max_value=1000)


class PairForm(forms.Form):
    """Which probe at which place; none lets go."""

    stop = forms.CharField(max_length=60)
    place = forms.CharField(max_length=60)
    probe = forms.UUIDField(required=False)


class HandOverForm(forms.Form):
    """To whom, and a word with it."""

    colleague = forms.ModelChoiceField(User.objects.none(), to_field_name="public_id")
    note = forms.CharField(max_length=300, required=False)

    def __init__(self, data, colleagues):
        super().__init__(data)
        cast(forms.ModelChoiceField, self.fields["colleague"]).queryset = colleagues


class FinishForm(forms.Form):
    """What is said at the end of a visit. Last looks are 'look.<id>', why one was left 'why.<id>', pictures for the
    report 'picture.<id>'.
    """

    for_customer = forms.CharField(max_length=1000, required=False)
    for_shop = forms.CharField(max_length=1000, required=False)
    no_recheck_why = forms.CharField(max_length=200, required=False)
    next_due = forms.DateField(
        required=False, error_messages={"invalid": "Next due is a day: like 2026-08-01, or leave it out."}
    )

    next_mode = forms.ChoiceField(
        choices=[("", "Not said"), ("cooling", "Cooling"), ("heating", "Heating")],
        required=False,
        error_messages={"invalid_choice": "It is tested in cooling or in heating."},
    )

    def said(self) -> dict:
        """For the change: the last looks by id, '' where done, else why not."""
        done = {name.removeprefix("look."): "" for name in self.data if name.startswith("look.")}
        left = {
            name.removeprefix("why."): value.strip()
            for name, value in self.data.items()
            if name.startswith("why.") and value.strip()
        }
        pictures = [name.removeprefix("picture.") for name in self.data if name.startswith("picture.")]
        return {**self.cleaned_data, "looks": left | done, "pictures": pictures}


class FollowUpForm(NumberedForm):
    """What is left to do, what it blocks, by when."""

    text = forms.CharField(max_length=300, error_messages={"required": "Say what is left to do."})
    blocks = forms.ChoiceField(
        choices=list(BLOCKS.items()), required=False, error_messages={"invalid_choice": "Choose what it blocks."}
    )
    due_on = forms.DateField(
        required=False, error_messages={"invalid": "The day by which: like 2026-08-01, or leave it out."}
    )
