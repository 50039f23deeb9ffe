"""An archive taken in, with the numbers its records have: what is here already stays as it is, what contradicts it or
cannot be read refuses the whole.
"""

import json
import math
import re
import uuid
import zipfile
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import timedelta
from typing import IO, Any

from django.core.exceptions import ValidationError
from django.db import IntegrityError, models, transaction
from django.utils import timezone

from web.accounts.access import need
from web.accounts.deeds import note
from web.accounts.rights import SHOP
from web.exchange.archive import FORMAT, MANIFEST, PHOTOS, RECORDS, VERSION
from web.exchange.records import BY_KIND, HOUSE, INSTRUMENT, PERSON, SYSTEM, TYPE, Record
from web.exchange.records import RECORDS as KINDS
from web.houses.models import House
from web.houses.querysets import initials_of
from web.houses.search import note_words
from web.visits.changes.photos import PhotoRefused, keep_file
from web.visits.models import Photo

MOST_BYTES, MOST_RECORDS, MOST_FILES, LONGEST_LINE = 400 * 2**20, 200_000, 20_000, 2**20
PHOTO = re.compile(re.escape(PHOTOS) + r"([0-9a-f-]{36})\.jpg")
AHEAD = timedelta(days=1)


class IntakeRefused(ValueError):
    """Why nothing of an archive is taken in, in words, with the line where it is one's."""


@dataclass
class Taken:
    """What came of an archive: how many records of each kind are new, and how many were here already."""

    new: Counter = field(default_factory=Counter)
    known: Counter = field(default_factory=Counter)


@transaction.atomic
def take_in(actor, file: IO[bytes]) -> Taken:
    """Take an archive into the actor's shop, all of it or nothing. Leads only. Raises IntakeRefused."""
    need(actor, SHOP, actor.shop_id)
    try:
        with zipfile.ZipFile(file) as packed:
            _need_ours(packed)
            intake = _Intake(actor)
            by_kind: dict[str, list[tuple[int, dict]]] = {}
            for number, record in _lines(packed):
                by_kind.setdefault(record[TYPE], []).append((number, record))
            for kind in KINDS:
                for number, record in by_kind.get(kind.kind, []):
                    intake.take(kind, number, record)
            intake.finish(packed)
            note(actor, "taken_in", detail=f"{sum(intake.taken.new.values())} new records")
    except zipfile.BadZipFile as error:
        raise IntakeRefused("This file is no archive, or it was cut off. Export it again.") from error
    return intake.taken


def records_in(file: IO[bytes]) -> int:
    """How many records an archive says it holds; raises IntakeRefused for what is none of ours."""
    try:
        with zipfile.ZipFile(file) as packed:
            told = _need_ours(packed).get("records", {})
    except zipfile.BadZipFile as error:
        raise IntakeRefused("This file is no archive, or it was cut off. Export it again.") from error
    file.seek(0)
    return sum(count for count in told.values() if isinstance(count, int))


def _need_ours(packed: zipfile.ZipFile) -> dict[str, Any]:
    """The list of the archive's files; refuses what is not of ours, or would unpack to more than anybody's archive."""
    members = {info.filename: info for info in packed.infolist()}
    if MANIFEST not in members or RECORDS not in members:
        raise IntakeRefused("This archive has no list of its files: it is not of Ruddy Draft.")
    if len(members) > MOST_FILES or sum(info.file_size for info in members.values()) > MOST_BYTES:
        raise IntakeRefused("This archive is larger than is taken in at once: export fewer systems.")
    try:
        manifest = json.loads(_read(packed, members[MANIFEST], 2**20))
        form, version = manifest["format"], manifest["version"]
    except (ValueError, KeyError, TypeError) as error:
        raise IntakeRefused("The list of the archive's files cannot be read.") from error
    if form != FORMAT or version != VERSION:
        raise IntakeRefused(f"This archive is of version {version}; this Ruddy Draft reads version {VERSION}.")
    return manifest


def _read(packed: zipfile.ZipFile, info: zipfile.ZipInfo, most: int) -> bytes:
    """A member, at most so large: what it says of its size is not believed."""
    with packed.open(info) as part:
        content = part.read(most + 1)
    if len(content) > most:
        raise IntakeRefused(f"{info.filename} is larger than it says.")
    return content


def _lines(packed: zipfile.ZipFile) -> Iterator[tuple[int, dict[str, Any]]]:
    """The records with the numbers of their lines."""
    size = 0
    with packed.open(RECORDS) as lines:
        for number, line in enumerate(iter(lambda: lines.readline(LONGEST_LINE + 1), b""), 1):
            size += len(line)
            if len(line) > LONGEST_LINE or size > MOST_BYTES or number > MOST_RECORDS:
                raise IntakeRefused(f"Line {number}: more than is taken in at once. Export fewer systems.")
            try:
                record = json.loads(line, parse_constant=_no_number)
                known = record[TYPE] in BY_KIND
            except (ValueError, KeyError, TypeError) as error:
                raise IntakeRefused(f"Line {number} is no record.") from error
            if not known:
                raise IntakeRefused(f"Line {number}: there is no record '{record[TYPE]}' here.")
            yield number, record


def _no_number(text: str):
    raise ValueError(f"{text} is no number")


class _Intake:
    """Rows made of records, each kind after those it points at."""

    def __init__(self, actor):
        self.actor, self.taken = actor, Taken()
        self.keys: dict[str, dict[str, int]] = {}
        self.houses: set[int] = set()
        self.photos: list[Photo] = []

    def take(self, kind: Record, number: int, record: dict) -> None:
        """Keep a record as a row, or see that it is here already."""
        values = self._values(kind, number, record)
        row = self._found(kind, values)
        if row is None:
            row = self._made(kind, values, number)
            self.taken.new[kind.kind] += 1
        else:
            if kind.kind == HOUSE and row.erased_at and not values["erased_at"]:
                raise IntakeRefused(f"Line {number}: the customer of this house was erased here since.")
            if kind.kept and kind.written(row) != _told(kind, record):
                raise IntakeRefused(f"Line {number}: this {kind.kind} is here already and says something else.")
            self.taken.known[kind.kind] += 1
        self.keys.setdefault(kind.kind, {})[str(values.get(kind.key[0]))] = row.pk
        if kind.kind in (HOUSE, SYSTEM):
            self.houses.add(row.pk if kind.kind == HOUSE else row.house_id)

    def _found(self, kind: Record, values: dict) -> Any:
        """The row of the actor's shop that a record is of."""
        names = {name: values[f"{name}_id" if name in kind.of else name] for name in kind.key}
        return kind.model._default_manager.filter(**names, **{kind.to_shop: self.actor.shop}).first()

    def _made(self, kind: Record, values: dict, number: int) -> Any:
        more = {"shop": self.actor.shop} if kind.has_shop else {}
        if kind.kind == PERSON:  # named, and not at work here
            more |= {"username": f"of-another-shop-{uuid.uuid4().hex}", "is_active": False, "password": "!"}
        if kind.kind == INSTRUMENT:
            more |= {"retired": True}
        row = kind.model(**values, **more)
        try:
            with transaction.atomic():
                row.save(force_insert=True)
        except IntegrityError as error:
            said = f"this {kind.kind.replace('_', ' ')} is another shop's here, or contradicts what is"
            raise IntakeRefused(f"Line {number}: {said}.") from error
        if isinstance(row, Photo):
            self.photos.append(row)
        return row

    def finish(self, packed: zipfile.ZipFile) -> None:
        """Unpack the pictures of new rows, and let new houses be found."""
        files = {m[1]: info for info in packed.infolist() if (m := PHOTO.fullmatch(info.filename))}
        for photo in self.photos:
            if (info := files.get(str(photo.public_id))) is not None:
                try:
                    keep_file(photo, _read(packed, info, 20 * 2**20))
                except PhotoRefused as error:
                    raise IntakeRefused(f"{info.filename}: {error}") from error
        for house in House.objects.filter(pk__in=self.houses):
            house.initials = initials_of(house.name)
            house.save(update_fields=["initials"])
            note_words(house)

    def _values(self, kind: Record, number: int, record: dict) -> dict[str, Any]:
        """The columns of a record as the model takes them; raises IntakeRefused for what it cannot take."""
        found: dict[str, Any] = {}
        for name, column in kind.columns.items():
            found[name] = _value(column, record.get(name), f"Line {number}: {name}")
        for name, other in kind.of.items():
            found[f"{name}_id"] = self._key(BY_KIND[other], kind, name, record.get(name), number)
        return found

    def _key(self, other: Record, kind: Record, name: str, named: Any, number: int) -> int | None:
        """The key of what a record points at, among what came in or is here."""
        if named is None:
            if kind.model._meta.get_field(name).null:
                return None
            raise IntakeRefused(f"Line {number}: {name} is missing.")
        keys = self.keys.setdefault(other.kind, {})
        if str(named) not in keys:
            try:
                own = {other.to_shop: self.actor.shop}
                found = other.model._default_manager.filter(**{other.key[0]: named}, **own).first()
            except (ValidationError, ValueError):
                found = None
            if found is None:
                raise IntakeRefused(f"Line {number}: its {name} is neither in the archive nor here.")
            keys[str(named)] = found.pk
        return keys[str(named)]


def _told(kind: Record, record: dict) -> dict:
    """A record as a row of it would be written."""
    return {TYPE: kind.kind} | {name: record.get(name) for name in (*kind.of, *kind.columns)}


def _value(column: models.Field, given: Any, where: str) -> Any:
    """A value as its column takes it; raises IntakeRefused."""
    if given is None:
        if column.null:
            return None
        raise IntakeRefused(f"{where} is missing.")
    if isinstance(column, models.JSONField):
        return given
    if isinstance(given, list | dict) or isinstance(given, bool) != isinstance(column, models.BooleanField):
        raise IntakeRefused(f"{where} is not what it should be.")
    try:
        value = column.to_python(given)
    except ValidationError as error:
        raise IntakeRefused(f"{where}: {' '.join(error.messages)}") from error
    if isinstance(value, float) and not math.isfinite(value):
        raise IntakeRefused(f"{where} is no number.")
    if isinstance(value, str) and column.max_length and len(value) > column.max_length:
        raise IntakeRefused(f"{where} has more than {column.max_length} letters.")
    if isinstance(column, models.DateTimeField) and value > timezone.now() + AHEAD:
        raise IntakeRefused(f"{where} is still to come.")
    return value
