"""The kinds of records that an archive holds: which columns, by what one is told apart, and what it belongs to. From
these lists both ways are made, out and in.
"""

import uuid
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime
from functools import cached_property
from typing import Any

from django.db.models import Model, QuerySet

from web.accounts.models import User
from web.houses.models import PLATE, House, Instrument, PlateVersion, Room, System, Table
from web.visits.models import (
    Action,
    Assessment,
    Baseline,
    ChargeStep,
    Closing,
    FollowUp,
    Handover,
    HookUp,
    LeakSearch,
    Observation,
    Outcome,
    Photo,
    Reading,
    Remark,
    Round,
    Visit,
)

ENTRY = ("uuid", "device", "sequence", "taken_at", "clock_offset_ms", "received_at", "supersedes")
OF_ENTRY = {"round": "round", "person": "person"}
TYPE = "record"  # under which a record says of which kind it is
PERSON, INSTRUMENT, HOUSE, SYSTEM = "person", "instrument", "house", "system"


@dataclass(frozen=True)
class Record:
    """A kind of record. fields: its columns; of: its columns that point at other records, by kind; key: the columns
    that tell it apart; path: from it to its system, '' for none; kept: it is never changed, so that the same key with
    another content is a contradiction.
    """

    kind: str
    model: type[Model]
    fields: tuple[str, ...]
    of: dict[str, str] = field(default_factory=dict)
    key: tuple[str, ...] = ("public_id",)
    path: str = ""
    kept: bool = False

    @cached_property
    def columns(self) -> dict[str, Any]:
        """Its columns by name, those that point at others left out."""
        return {name: self.model._meta.get_field(name) for name in (*self.key, *self.fields) if name not in self.of}

    @property
    def has_shop(self) -> bool:
        """Whether a row names its shop."""
        return any(column.name == "shop" for column in self.model._meta.fields)

    @property
    def to_shop(self) -> str:
        """From a row to its shop: over what it belongs to, where it does not name one."""
        if self.has_shop:
            return "shop"
        belongs_to = next(iter(self.of))
        return f"{belongs_to}__{BY_KIND[self.of[belongs_to]].to_shop}"

    def rows(self, systems: QuerySet | Sequence[int]) -> QuerySet:
        """The rows of these systems, in an order that does not change."""
        rows = self.model._default_manager.filter(**{f"{self.path}__in" if self.path else "pk__in": systems})
        return rows.select_related(*self.of).order_by("pk")

    def written(self, row: Model) -> dict[str, Any]:
        """A row as a record."""
        found: dict[str, Any] = {TYPE: self.kind}
        for name, kind in self.of.items():
            other = getattr(row, name)
            found[name] = None if other is None else id_of(BY_KIND[kind], other)
        return found | {name: _plain(getattr(row, name)) for name in self.columns}


def id_of(record: Record, row: Model) -> str:
    """By which a row is pointed at."""
    return str(getattr(row, record.key[0]))


def _plain(value: Any) -> Any:
    if isinstance(value, datetime):
        return value.isoformat()
    if isinstance(value, date | uuid.UUID):
        return str(value)
    return value


def _entry(kind: str, model: type[Model], *fields: str, **of: str) -> Record:
    path = "round__visit__system"
    return Record(kind, model, (*ENTRY[1:], *fields), OF_ENTRY | of, ("uuid",), path, kept=True)


# In the order in which they are read in: what one points at comes before it.
RECORDS = (
    Record(PERSON, User, ("first_name", "last_name", "certificate", "certificate_until")),
    Record(INSTRUMENT, Instrument, ("label", "kind", "dry_bulb_accuracy_f", "rh_accuracy_pct", "line_accuracy_f",
                                    "lowest_f", "highest_f", "calibrated_on", "calibration_months")),
    Record(HOUSE, House, ("name", "altitude_ft", "climate", "weather_place", "customer", "access_note", "erased_at"),
           path="systems"),
    Record(SYSTEM, System, ("name", *PLATE, "indoor_place", "machine"), {"house": HOUSE}),
    Record("plate_version", PlateVersion, ("plates", "why"), {"system": SYSTEM, "entered_by": PERSON},
           ("system", "machine", "entered_at"), "system", kept=True),
    Record("table", Table, ("text", "source"), {"system": SYSTEM, "entered_by": PERSON},
           ("system", "kind", "entered_at"), "system", kept=True),
    Record("room", Room, ("name", "diameter_in", "duct", "wants_cfm"), {"system": SYSTEM}, path="system"),
    Record("visit", Visit, ("started_at", "ended", "next_due", "next_mode", "left_unread"),
           {"system": SYSTEM, "started_by": PERSON, "with_person": PERSON}, path="system"),
    Record("round", Round, ("number", "started_at", "machine"), {"visit": "visit"}, path="visit__system"),
    _entry("reading", Reading, "place", "quantity", "variant", "slot", "typed", "unit", "value", "reason", "source",
           "method", "plane", "steady", "swing", instrument=INSTRUMENT),
    _entry("observation", Observation, "seen", "degree"),
    _entry("remark", Remark, "about", "text"),
    _entry("action", Action, "done", "text"),
    _entry("hook_up", HookUp, "did", "why", "certificate", "certificate_until", "ports", "checks", "hose_returned",
           "lost_oz", "caps_on"),
    _entry("charge_step", ChargeStep, "number", "way", "before_oz", "after_oz", "cylinder", "why", "refrigerant",
           "tare_oz", "capacity_oz"),
    _entry("leak_search", LeakSearch, "found", "where", "repaired", "tested"),
    Record("handover", Handover, ("note",), {"visit": "visit", "given_by": PERSON, "given_to": PERSON},
           ("visit", "given_at"), "visit__system", kept=True),
    Record("photo", Photo, ("subject", "received_at", "width", "height"),
           {"system": SYSTEM, "round": "round", "taken_by": PERSON}, path="system"),
    Record("assessment", Assessment, ("engine_version", "rules_version", "known_kinds", "state", "headline", "entries",
                                      "result"), {"round": "round"}, ("round", "created_at", "kind"),
           "round__visit__system", kept=True),
    Record("closing", Closing, ("did", "at", "for_customer", "for_shop", "looks", "no_recheck_why", "next_due",
                                "next_mode", "pictures"),
           {"visit": "visit", "round": "round", "person": PERSON}, path="visit__system", kept=True),
    Record("follow_up", FollowUp, ("text", "blocks", "due_on", "opened_at", "closed_at", "outcome"),
           {"system": SYSTEM, "opened_by": PERSON, "closed_by": PERSON}, path="system"),
    Record("baseline", Baseline, ("mode", "sealed_at", "why", "lacks", "live", "ended_at", "ended_why", "was_wrong"),
           {"system": SYSTEM, "round": "round", "sealed_by": PERSON, "ended_by": PERSON, "ended_by_action": "action"},
           path="system"),
    Record("outcome", Outcome, ("at", "right", "by", "was", "words", "engine_version", "said_state", "said_group",
                                "said_mode", "said_headline", "said_probability"), {"round": "round", "person": PERSON},
           path="round__visit__system", kept=True),
)  # fmt: skip
BY_KIND = {record.kind: record for record in RECORDS}
ALONE = (PERSON, INSTRUMENT)  # they are no system's: those that the others point at are written


def written(systems: Sequence[System]) -> Iterator[dict[str, Any]]:
    """All records of these systems, each kind in turn; after them those they point at that are no system's."""
    pointed: dict[str, dict[str, Model]] = {kind: {} for kind in ALONE}
    for record in RECORDS:
        if record.kind in ALONE:
            continue
        for row in record.rows([system.pk for system in systems]).distinct().iterator(chunk_size=500):
            for name, kind in record.of.items():
                if kind in ALONE and (other := getattr(row, name)) is not None:
                    pointed[kind][id_of(BY_KIND[kind], other)] = other
            yield record.written(row)
    for kind in ALONE:
        for _, row in sorted(pointed[kind].items()):
            yield BY_KIND[kind].written(row)
