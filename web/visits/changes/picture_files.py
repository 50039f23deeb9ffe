"""Where the files of pictures lie in the store: by shop and number. A file of a picture on record never changes."""

import os
import re
from datetime import timedelta
from pathlib import Path
from uuid import UUID

from django.core.files.base import ContentFile, File
from django.core.files.storage import default_storage
from django.utils import timezone

from web.accounts.models import Shop
from web.shell.store import every
from web.visits.models import Photo

PHOTOS = "photos"  # the store's folder of them
SIDES = {"full": 1600, "small": 320}  # of each size the longer side, in pixels
NAMED = re.compile(rf"{PHOTOS}/(\d+)/([0-9a-f-]{{36}})-\w+\.jpg")  # by the shop and the number: see name_of
ASKED_AT_ONCE, ON_ITS_WAY = 1_000, timedelta(days=1)


def name_of(photo: Photo, size: str) -> str:
    """What a picture is called in the store; size: one of SIDES."""
    return f"{PHOTOS}/{photo.shop_id}/{photo.public_id}-{size}.jpg"


def keep(photo: Photo, size: str, content: bytes) -> None:
    """Keep a picture in one size."""
    default_storage.save(name_of(photo, size), ContentFile(content))


def forget(photo: Photo) -> None:
    """Take the files of a picture away."""
    for size in SIDES:
        default_storage.delete(name_of(photo, size))


def forget_strays(shop: Shop) -> int:
    """Take away the files of a shop that no picture is on record of, because a change was broken off, or the store did
    not answer when a customer was erased; how many. What may be on its way into the record stays.
    """
    names, gone = list(every(f"{PHOTOS}/{shop.pk}")), 0
    for at in range(0, len(names), ASKED_AT_ONCE):
        for name in _of_no_record(names[at : at + ASKED_AT_ONCE]):
            if default_storage.get_modified_time(name) < timezone.now() - ON_ITS_WAY:
                default_storage.delete(name)
                gone += 1
    return gone


def _of_no_record(names: list[str]) -> list[str]:
    """Those files that no picture is on record of."""
    said = {name: (int(named[1]), UUID(named[2])) for name in names if (named := NAMED.fullmatch(name))}
    numbers = {number for _, number in said.values()}
    on_record = set(Photo.objects.filter(public_id__in=numbers).values_list("shop_id", "public_id"))
    return [name for name in names if said.get(name) not in on_record]


def mirror(folder: Path) -> tuple[int, int, int]:
    """Make a folder hold the files of all pictures, fetching those alone that it has not; how many were fetched, how
    many went here because their picture is on record no more, and how many stay though the store has lost them.
    """
    wanted = set(every(PHOTOS))
    have = {str(path.relative_to(folder)) for path in (folder / PHOTOS).rglob("*.jpg")}
    for name in sorted(wanted - have):
        path = folder / name
        path.parent.mkdir(parents=True, exist_ok=True)
        part = path.with_suffix(".part")
        with default_storage.open(name) as file, part.open("wb") as out:
            out.writelines(file.chunks())
        os.replace(part, path)
    lost = sorted(have - wanted)
    gone = [name for at in range(0, len(lost), ASKED_AT_ONCE) for name in _of_no_record(lost[at : at + ASKED_AT_ONCE])]
    for name in gone:
        (folder / name).unlink(missing_ok=True)
    return len(wanted - have), len(gone), len(lost) - len(gone)


def give(folder: Path) -> int:
    """Put the pictures of a folder into the store, those that it has not; how many."""
    have = set(every(PHOTOS))
    files = {str(path.relative_to(folder)): path for path in (folder / PHOTOS).rglob("*.jpg")}
    for name in sorted(files.keys() - have):
        with files[name].open("rb") as file:
            default_storage.save(name, File(file))
    return len(files.keys() - have)
