"""Keeping a picture: checked, turned upright, resized, and without the place and the camera in it."""

import io
import threading
import uuid
from collections.abc import Mapping
from types import MappingProxyType

from django.conf import settings
from django.core.files.base import ContentFile
from django.db import IntegrityError, transaction
from PIL import Image, ImageOps
from PIL.ImageFile import ImageFile

from web.accounts.access import need
from web.accounts.rights import RECORD
from web.houses.access import need_not_erased
from web.visits.changes import picture_files
from web.visits.changes.picture_files import SIDES
from web.visits.models import SUBJECTS, Photo, Round

# The most pixels of a format, so that none takes more than 250 MB to read. Measured with Pillow: a JPEG is read at a
# half, a quarter or an eighth of its size; a progressive one takes up to 10 bytes a pixel, PNG 9, WebP 15.
MOST_PIXELS = {"JPEG": 85_000_000, "PNG": 25_000_000, "WEBP": 16_000_000}
MOST_PIXELS_PROGRESSIVE = 25_000_000
AS_THEY_ARE = ("RGB", "RGBA", "L", "CMYK")  # can be made smaller before anything else is done to them
HEIC = (b"heic", b"heix", b"hevc", b"heim", b"heis", b"mif1", b"msf1", b"avif")  # major brands, ISO/IEC 23008-12
_one_at_a_time = threading.Lock()  # of a process, whatever is sent at once


class PhotoRefused(ValueError):
    """A file that cannot be kept: what is wrong and what to do."""


def add_photo(actor, public_id: uuid.UUID, system, round_: Round | None, subject: str, file) -> Photo:
    """Keep a picture of a system, at a round or for its nameplate. The same public_id again answers the picture that is
    there.
    """
    need(actor, RECORD, system.house.shop_id)
    need_not_erased(system.house)
    is_this = Photo.objects.filter(shop=system.house.shop_id, public_id=public_id, system=system)
    if found := is_this.first():
        return found
    if subject not in SUBJECTS:
        raise PhotoRefused("Say what the picture shows.")
    upright = read_picture(file)
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
        if found := is_this.first():  # sent twice at once
            return found
        raise PhotoRefused("This picture's number is taken. Take it again.") from error
    return photo


def keep_file(photo: Photo, content: bytes) -> None:
    """Keep the file of a picture that comes from another record: what is in our stored form already, byte for byte.
    Raises PhotoRefused.
    """
    upright = read_picture(ContentFile(content))
    is_ours = (upright.width, upright.height) == (photo.width, photo.height) and _is_stored_form(content)
    _write(upright, photo, {"full": content} if is_ours else {})


def _is_stored_form(content: bytes) -> bool:
    """Whether a file is as we write them: JPEG, no larger than the full size, nothing in it but pixels."""
    with Image.open(io.BytesIO(content)) as opened:
        return opened.format == "JPEG" and max(opened.size) <= SIDES["full"] and not opened.getexif()


def read_picture(file) -> Image.Image:
    """The picture, upright, in plain colours, at most the full size. Only pixels survive: no location, no camera, no
    thumbnail.
    """
    if file.size > settings.LARGEST_PHOTO_BYTES:
        raise PhotoRefused(
            f"The file is larger than {settings.LARGEST_PHOTO_BYTES // 2**20} MB. Take a smaller picture."
        )
    beginning = file.read(12)
    file.seek(0)
    if beginning[4:8] == b"ftyp" and beginning[8:] in HEIC:
        raise PhotoRefused(
            "This is a HEIC picture, which cannot be read here. Set the phone's camera to JPEG (many call it 'most"
            " compatible'), or share the picture as JPEG."
        )
    try:
        with _one_at_a_time, Image.open(file, formats=tuple(MOST_PIXELS)) as opened:
            return _upright(opened)
    except PhotoRefused:
        raise
    except Exception as error:  # Pillow raises many kinds for a broken file; all mean the same here
        raise PhotoRefused("This file is no picture that can be read. JPEG, PNG or WebP, please.") from error


def _upright(opened: ImageFile) -> Image.Image:
    assert opened.format
    most = MOST_PIXELS_PROGRESSIVE if "progressive" in opened.info else MOST_PIXELS[opened.format]
    if opened.width * opened.height > most:
        raise PhotoRefused("The picture has too many pixels. Take a smaller one.")
    side = SIDES["full"]
    plain = opened if opened.mode in AS_THEY_ARE else opened.convert("RGB")
    plain.thumbnail((side, side), reducing_gap=1.5)
    turned = ImageOps.exif_transpose(plain).convert("RGB")
    clean = Image.new("RGB", turned.size)
    clean.paste(turned)
    return clean


def _write(upright: Image.Image, photo: Photo, as_they_are: Mapping[str, bytes] = MappingProxyType({})) -> None:
    """Keep a picture in each size; as_they_are: those that are in our form already."""
    for size, side in SIDES.items():
        smaller, written = upright.copy(), io.BytesIO()
        smaller.thumbnail((side, side))
        smaller.save(written, "JPEG", quality=82)
        picture_files.keep(photo, size, as_they_are.get(size) or written.getvalue())
