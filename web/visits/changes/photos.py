"""Keeping a picture: checked, turned upright, resized, and without the place and the camera in it."""

import io
import uuid
import warnings
from pathlib import Path

from django.conf import settings
from django.core.files.base import ContentFile
from django.db import IntegrityError, transaction
from PIL import Image, ImageOps

from web.accounts.access import need_shop
from web.visits.models import SUBJECTS, Photo, Round

FORMATS = ("JPEG", "PNG", "WEBP")
MOST_PIXELS = 60_000_000
SIDES = {"full": 1600, "small": 320}  # the longer side, in pixels


class PhotoRefused(ValueError):
    """A file that cannot be kept: what is wrong and what to do."""


def add_photo(actor, public_id: uuid.UUID, system, round_: Round | None, subject: str, file) -> Photo:
    """Keep a picture of a system, at a round or for its nameplate. The same public_id again answers the picture that is
    there.
    """
    need_shop(actor, system.house.shop_id)
    if found := Photo.objects.filter(shop=system.house.shop_id, public_id=public_id, system=system).first():
        return found
    if subject not in SUBJECTS:
        raise PhotoRefused("Say what the picture shows.")
    upright = _read(file)
    try:
        with transaction.atomic():
            photo = Photo.objects.create(
                shop=system.house.shop,
                public_id=public_id,
                system=system,
                round=round_,
                subject=subject,
                taken_by=actor,
                width=upright.width,
                height=upright.height,
            )
            _write(upright, photo)
    except IntegrityError as error:
        raise PhotoRefused("This picture's number is taken. Take it again.") from error
    return photo


def keep_file(photo: Photo, content: bytes) -> None:
    """Keep the file of a picture that comes from another record: what is in our stored form already, byte for byte.
    Raises PhotoRefused.
    """
    upright = _read(ContentFile(content))
    is_ours = (upright.width, upright.height) == (photo.width, photo.height) and _is_stored_form(content)
    _write(upright, photo)
    if is_ours:
        file_of(photo, "full").write_bytes(content)


def _is_stored_form(content: bytes) -> bool:
    """Whether a file is as we write them: JPEG, no larger than the full size, nothing in it but pixels."""
    with Image.open(io.BytesIO(content)) as opened:
        return opened.format == "JPEG" and max(opened.size) <= SIDES["full"] and not opened.getexif()


def file_of(photo: Photo, size: str) -> Path:
    """Where a picture lies; size: 'full' or 'small'."""
    return settings.MEDIA_ROOT / "photos" / str(photo.shop_id) / f"{photo.public_id}-{size}.jpg"


def _read(file) -> Image.Image:
    """The picture, upright, in plain colours, at most the full size. Only pixels survive: no location, no camera, no
    thumbnail.
    """
    if file.size > settings.LARGEST_PHOTO_BYTES:
        raise PhotoRefused(
            f"The file is larger than {settings.LARGEST_PHOTO_BYTES // 2**20} MB. Take a smaller picture."
        )
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(file, formats=FORMATS) as opened:
                if opened.width * opened.height > MOST_PIXELS:
                    raise PhotoRefused("The picture has too many pixels. Take a smaller one.")
                opened.draft("RGB", (2 * SIDES["full"], 2 * SIDES["full"]))
                upright = ImageOps.exif_transpose(opened).convert("RGB")
    except PhotoRefused:
        raise
    except Exception as error:  # Pillow raises many kinds for a broken file; all mean the same here
        raise PhotoRefused("This file is no picture that can be read. JPEG, PNG or WebP, please.") from error
    upright.thumbnail((SIDES["full"], SIDES["full"]))
    clean = Image.new("RGB", upright.size)
    clean.paste(upright)
    return clean


def _write(upright: Image.Image, photo: Photo) -> None:
    file_of(photo, "full").parent.mkdir(parents=True, exist_ok=True)
    for size, side in SIDES.items():
        smaller = upright.copy()
        smaller.thumbnail((side, side))
        smaller.save(file_of(photo, size), "JPEG", quality=82)
