"""What a sheet holds."""

import re
from dataclasses import dataclass, field
from functools import cached_property

from web.visits.bridge.results import Assessed
from web.visits.bridge.vocabulary import ASKS_THE_PLANE, Sight, Slot, Stop, sights, sign_of, slot_of
from web.visits.load.material import Material
from web.visits.models import Reading

HUMIDITY_KINDS = {"rh": "Relative humidity", "wet_bulb": "Wet bulb", "dew_point": "Dew point"}


def dom_id(name: str) -> str:
    """A field's name as part of an id: a room's name may hold spaces, an id may not."""
    return re.sub(r"[^A-Za-z0-9_.:@-]", lambda found: f"_{ord(found[0]):x}_", name)


@dataclass
class Note:
    """What is shown at a field: message and hint or question, findings, what two devices say, older values, derived
    values, what to expect.
    """

    name: str
    message: str = ""
    hint: str = ""
    units: list[tuple[str, str]] = field(default_factory=list)
    findings: list = field(default_factory=list)
    rivals: list[str] = field(default_factory=list)
    earlier: list[str] = field(default_factory=list)
    beside: str = ""
    source: str = ""  # how it came here, where it was not typed
    expect: str = ""
    impossible: str = ""

    @property
    def dom_id(self) -> str:
        return dom_id(self.name)

    @property
    def is_empty(self) -> bool:
        """Whether nothing is shown at the field."""
        said = (self.message, self.units, self.findings, self.rivals, self.earlier, self.beside, self.source)
        return not any((*said, self.expect, self.impossible))

    @property
    def is_trouble(self) -> bool:
        """Whether somebody has to look at it: refused, asked, or contradicting another reading."""
        return bool(self.message or self.rivals or any(finding.level == "contradiction" for finding in self.findings))


@dataclass
class FieldState:
    """One field: what is typed in it and what of it is stored.
    own_unit: what this person types unless said otherwise.
    """

    slot: Slot
    stop: str
    own_unit: str
    unit: str
    note: Note
    typed: str = ""
    stored: str = ""
    row: Reading | None = None  # the stored reading that counts
    reading: str = ""  # the id of the entry that counts, valueless ones too
    reason: str = ""
    before: str = ""  # what it was in the round before, and in which unit
    before_unit: str = ""
    plane: str = ""  # at which an airflow was taken, where the person says

    @property
    def name(self) -> str:
        return self.slot.name

    @property
    def dom_id(self) -> str:
        return dom_id(self.name)

    @property
    def place(self) -> str:
        return self.slot.place

    @property
    def quantity(self) -> str:
        return self.slot.quantity

    @property
    def slot_id(self) -> str:
        """What its readings replace each other by, at their place."""
        return slot_of(self.slot.quantity, self.slot.variant)

    @property
    def label(self) -> str:
        return self.slot.words

    @property
    def sign(self) -> str:
        """The unit as printed."""
        return sign_of(self.unit)

    @property
    def before_sign(self) -> str:
        return sign_of(self.before_unit)

    @property
    def plane_choice(self) -> str:
        """The select that says at which plane this airflow was taken; '' for what has none."""
        if (self.place, self.quantity) == ("traverse", "gross_area"):
            return "traverse.plane"
        if (self.place, self.quantity) != ("blower", "airflow") or self.slot.variant not in ASKS_THE_PLANE:
            return ""
        return "blower.plane" if self.slot.variant == "flow_device" else f"blower_{self.slot.variant}.plane"

    @property
    def is_humidity(self) -> bool:
        return self.slot.quantity in HUMIDITY_KINDS


@dataclass
class Sheet:
    """The whole sheet as it is."""

    material: Material
    mode: str
    why_mode: str
    stops: tuple[Stop, ...]
    fields: dict[str, FieldState]
    choices: dict[str, str]
    seen: dict[str, str]
    seen_ids: dict[str, str]
    assessed: Assessed = None  # type: ignore[assignment]  # given by what fills the sheet, before anybody reads it
    after_steps: dict[str, list] = field(default_factory=dict)  # what was read after each step of charging
    broken: bool = False  # these readings could not be assessed: `assessed` is of none

    @property
    def visit(self):
        return self.material.visit

    @property
    def system(self):
        return self.material.system

    @property
    def held_to(self):
        """The sealed round that this one is judged against, or None."""
        sealed = self.material.held_to(self.mode)
        return sealed.round if sealed else None

    @property
    def round(self):
        return self.material.round

    @cached_property
    def _by_stop(self) -> dict[str, list[FieldState]]:
        found: dict[str, list[FieldState]] = {}
        for f in self.fields.values():
            found.setdefault(f.stop, []).append(f)
        return found

    def asked(self, group: str) -> tuple[Sight, ...]:
        """What is asked or looked at in a group, on this machine in this mode."""
        return sights(group, self.system, self.mode)

    def of_stop(self, stop_id: str) -> list[FieldState]:
        """The fields of a stop, in order."""
        return self._by_stop.get(stop_id, [])

    def counts(self, f: FieldState) -> bool:
        """Of the humidities at a place only the chosen one counts."""
        return not f.is_humidity or self.choices[f"{f.place}.humidity"] == f.quantity

    def troubles(self) -> list[FieldState]:
        """The fields somebody has to look at."""
        return [f for f in self.fields.values() if f.note.is_trouble and self.counts(f)]


def current_values(sheet: Sheet) -> dict:
    """The stored values by field, for a second tab that wants to catch up."""
    return {
        "fields": {
            f.name: {"value": f.stored, "unit": f.unit, "reading": f.reading}
            for f in sheet.fields.values()
            if f.reading
        },
        "choices": sheet.choices,
        "observations": {name: [degree, sheet.seen_ids.get(name, "")] for name, degree in sheet.seen.items()},
    }
