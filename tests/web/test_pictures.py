"""Pictures: kept once, small, without their place; what is none, too large or takes much memory is refused."""

import io
import multiprocessing
import uuid
from resource import RUSAGE_SELF, getrusage

import pytest
from django.core.files.base import ContentFile
from django.test import Client
from django.urls import reverse
from PIL import Image

from tests.web.conftest import a_picture
from web.visits import changes
from web.visits.changes.photos import SIDES, PhotoRefused, file_of, read_picture
from web.visits.models import Photo


@pytest.fixture(autouse=True)
def pictures_of_their_own(settings, tmp_path):
    settings.MEDIA_ROOT = tmp_path


def test_a_picture_is_kept_once_upright_small_and_without_its_place(signed_in, ours):
    exif = Image.Exif()
    exif[0x0112] = 6  # turned by 90 degrees
    exif.get_ifd(0x8825)[1] = "N"
    exif[0x010F] = "some camera"
    address, number = reverse("visits:add_photo", args=[ours.visit.public_id, 1]), str(uuid.uuid4())
    for _ in range(2):
        answer = signed_in.post(
            address, {"id": number, "subject": "coil", "file": a_picture(size=(3000, 2000), exif=exif)}
        )
        assert answer.status_code == 200 and answer.json()["subject"] == "Coil"
    kept = Photo.objects.get()
    assert (kept.width, kept.height) == (1067, 1600) and kept.round == ours.round
    for size, side in SIDES.items():
        with Image.open(file_of(kept, size)) as picture:
            assert max(picture.size) == side and not picture.getexif()
    shown = signed_in.get(reverse("visits:photo", args=[kept.public_id, "small"]))
    assert shown.headers["Content-Type"] == "image/jpeg" and "private" in shown.headers["Cache-Control"]
    assert signed_in.get(reverse("visits:photo", args=[kept.public_id, "huge"])).status_code == 404
    assert str(kept.public_id) in signed_in.get(ours.visit.get_absolute_url()).content.decode()


def test_what_is_no_picture_is_refused_in_plain_words(signed_in, ours, settings):
    address = reverse("visits:add_photo", args=[ours.visit.public_id, 1])
    good = {"id": str(uuid.uuid4()), "subject": "coil"}
    script = a_picture()
    script.file.seek(0)
    script.file.write(b"<svg onload=alert(1)>")
    for bad in (
        {**good, "file": script},
        {**good, "subject": "cat", "file": a_picture()},
        {**good},
        {"id": "x", "subject": "coil", "file": a_picture()},
    ):
        answer = signed_in.post(address, bad)
        assert answer.status_code == 400 and answer.json()["error"]
    settings.LARGEST_PHOTO_BYTES = 100
    with pytest.raises(PhotoRefused, match="larger"):
        changes.add_photo(ours.person, uuid.uuid4(), ours.system, None, "coil", a_picture())
    assert Photo.objects.count() == 0


def test_a_heic_picture_and_one_of_too_many_pixels_are_told_apart(ours):
    for file, says in (
        (ContentFile(b"\x00\x00\x00\x18ftypheic" + bytes(300)), "HEIC picture.*JPEG"),
        (a_picture("WEBP", (5000, 4000)), "too many pixels"),
    ):
        with pytest.raises(PhotoRefused, match=says):
            changes.add_photo(ours.person, uuid.uuid4(), ours.system, None, "coil", file)


def memory_to_read(file: bytes, told) -> None:
    before = getrusage(RUSAGE_SELF).ru_maxrss
    read_picture(ContentFile(file))
    told.send((getrusage(RUSAGE_SELF).ru_maxrss - before) // 2**10)


@pytest.mark.parametrize(
    ("kind", "mode", "side", "how"),
    [
        ("JPEG", "RGB", 9200, {}),
        ("JPEG", "CMYK", 5000, {"progressive": True, "subsampling": 0}),
        ("PNG", "RGBA", 5000, {}),
        ("PNG", "P", 5000, {}),
        ("WEBP", "RGBA", 4000, {}),
    ],
)
def test_the_largest_picture_of_each_format_takes_little_memory(kind, mode, side, how):
    """In a process of its own, whose peak is its own. A small file can be many pixels."""
    file = io.BytesIO()
    Image.new(mode, (side, side)).save(file, kind, **how)
    ours, childs = multiprocessing.Pipe(duplex=False)
    child = multiprocessing.get_context("fork").Process(target=memory_to_read, args=(file.getvalue(), childs))
    child.start()
    assert ours.poll(60) and ours.recv() < 300, "MB"
    child.join()


def test_an_upload_that_is_too_large_is_refused_before_it_is_read(signed_in, ours):
    """The first line says its size; a stranger may send a form, no file."""

    class Unread(io.BytesIO):
        def read(self, *_):
            raise AssertionError("it was read")

    def sent(by, address, size):
        environ = {"wsgi.input": Unread(), "CONTENT_LENGTH": str(size)}
        return by.generic("POST", address, HTTP_ACCEPT="application/json", **environ)

    address = reverse("visits:add_photo", args=[ours.visit.public_id, 1])
    answer = sent(signed_in, address, 10**12)
    assert answer.status_code == 413 and "at most 15 MB" in answer.json()["hint"]
    assert sent(signed_in, reverse("exchange:archives"), 101 * 2**20).status_code == 413
    assert sent(Client(), address, 2 * 2**20).status_code == 413
