"""An archive of machines: all that is on record of them, line by line, their pictures, the same as tables for a
spreadsheet with what each column means, and a list of the files with their checksums.
"""

import csv
import hashlib
import io
import json
import zipfile
from collections import Counter
from collections.abc import Iterable, Iterator, Sequence
from contextlib import suppress
from datetime import UTC
from itertools import chain
from typing import IO

from django.core.files.storage import default_storage
from django.utils import timezone

from web.exchange import tables
from web.exchange.bridge import ENGINE
from web.exchange.records import TYPE, written
from web.houses.models import System
from web.visits.changes.picture_files import name_of
from web.visits.models import Photo

FORMAT, VERSION = "ruddy-draft archive", 1
MANIFEST, RECORDS, PHOTOS = "manifest.json", "records.jsonl", "photos/"
BOM = b"\xef\xbb\xbf"  # by which spreadsheets know UTF-8
PACKED = zipfile.ZIP_DEFLATED
MADE_LONG_AGO = (1980, 1, 1, 0, 0, 0)  # of every member: the same content makes the same file


def line_of(record: dict) -> bytes:
    """A record as its line: the same record makes the same bytes."""
    return json.dumps(record, sort_keys=True, ensure_ascii=False, separators=(",", ":")).encode() + b"\n"


def members_of(shop, systems: Sequence[System]) -> Iterator[tuple[str, Iterable[bytes]]]:
    """What an archive holds of these machines, without pictures: the name of each member, and its lines."""
    yield RECORDS, (line_of(record) for record in written(systems))
    for name, rows in tables.of_systems(shop, systems):
        yield name, _csv(rows)


def write_archive(file: IO[bytes], shop, systems: Sequence[System]) -> None:
    """Write the archive of these machines of a shop."""
    pack(file, shop, members_of(shop, systems), [system.pk for system in systems])


def pack(file: IO[bytes], shop, members: Iterable[tuple[str, Iterable[bytes]]], systems) -> None:
    """Pack members and the pictures of systems (keys, or a query of them) into an archive, with what each column means
    and the list of the files.
    """
    counts: Counter[str] = Counter()
    sums: dict[str, str] = {}
    with zipfile.ZipFile(file, "w", PACKED) as packed:
        for name, lines in members:
            heads = _csv([tables.columns_of(name)]) if name != RECORDS else ()
            told = _counted(lines, counts) if name == RECORDS else lines
            _add(packed, sums, name, chain([BOM] if heads else (), heads, told))
        _add(packed, sums, "dictionary.csv", chain([BOM], _csv([tables.DICTIONARY_COLUMNS, *tables.DICTIONARY])))
        for photo in Photo.objects.filter(system__in=systems).order_by("pk").iterator():
            with suppress(FileNotFoundError), default_storage.open(name_of(photo, "full")) as file:
                _add(packed, sums, f"{PHOTOS}{photo.public_id}.jpg", file.chunks(), zipfile.ZIP_STORED)
        manifest = {
            "format": FORMAT,
            "version": VERSION,
            "engine": ENGINE,
            "shop": shop.name,
            "made_at": timezone.now().astimezone(UTC).isoformat(timespec="seconds"),
            "records": dict(sorted(counts.items())),
            "sha256": sums,
        }
        _add(packed, {}, MANIFEST, [json.dumps(manifest, indent=1, ensure_ascii=False).encode()])


def _counted(lines: Iterable[bytes], counts: Counter[str]) -> Iterator[bytes]:
    """The lines of records, each counted by its kind on its way."""
    for line in lines:
        counts[json.loads(line)[TYPE]] += 1
        yield line


def _add(
    packed: zipfile.ZipFile, sums: dict, name: str, parts: Iterable[bytes], how: int = zipfile.ZIP_DEFLATED
) -> None:
    info, digest = zipfile.ZipInfo(name, MADE_LONG_AGO), hashlib.sha256()
    info.compress_type = how
    with packed.open(info, "w") as out:
        for part in parts:
            digest.update(part)
            out.write(part)
    sums[name] = digest.hexdigest()


def _csv(rows: Iterable[Sequence]) -> Iterator[bytes]:
    """Rows as CSV in UTF-8; what would be a formula is text."""
    for row in rows:
        out = io.StringIO(newline="")
        csv.writer(out).writerow([tables.cell(value) for value in row])
        yield out.getvalue().encode()
