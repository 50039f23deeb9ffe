"""Pictures: kept once, small, without their place; what is none, too large or takes much memory is refused."""

import io
import multiprocessing
import uuid
from datetime import timedelta
from resource import RUSAGE_SELF, getrusage
from unittest.mock import patch

import pytest
from botocore.exceptions import EndpointConnectionError
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.core.management import CommandError, call_command
from django.test import Client
from django.urls import reverse
from PIL import Image

from tests.web.conftest import a_picture
from web.shell.store import every
from web.visits import changes
from web.visits.changes import picture_files
from web.visits.changes.photos import PhotoRefused, read_picture
from web.visits.changes.picture_files import SIDES, forget_strays, give, mirror, name_of
from web.visits.models import Photo


@pytest.fixture(autouse=True)
def pictures_of_their_own(settings, tmp_path):
    settings.MEDIA_ROOT = tmp_path


def test_a_picture_is_kept_once_upright_small_and_without_its_place(signed_in, ours, wherever):
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
        with Image.open(default_storage.open(name_of(kept, size))) as picture:
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


def test_pictures_in_a_bucket_move_into_a_folder_and_back_and_no_stray_stays(in_a_bucket, ours, tmp_path):
    """A backup mirrors them, fetching what is new alone; a restore gives those that are missing."""
    kept = changes.add_photo(ours.person, uuid.uuid4(), ours.system, ours.round, "coil", a_picture())
    names = {name_of(kept, size) for size in SIDES}
    assert mirror(tmp_path) == (2, 0, 0) and mirror(tmp_path) == (0, 0, 0)
    before = {name: (tmp_path / name).read_bytes() for name in names}
    picture_files.forget(kept)
    assert mirror(tmp_path) == (0, 0, 2), "the store has lost what is on record: a backup keeps it, and says so"
    assert give(tmp_path) == 2 and give(tmp_path) == 0
    assert {name: default_storage.open(name).read() for name in names} == before
    stray = f"photos/{ours.shop.pk}/{uuid.uuid4()}-full.jpg"
    default_storage.save(stray, ContentFile(b"of a change that was broken off"))
    assert mirror(tmp_path) == (1, 0, 0) and forget_strays(ours.shop) == 0, "it may be on its way into the record"
    with patch.object(picture_files, "ON_ITS_WAY", timedelta(0)):
        assert forget_strays(ours.shop) == 1
    assert mirror(tmp_path) == (0, 1, 0) and set(every("photos")) == names


def test_a_store_that_does_not_answer_keeps_nothing_and_says_so_honestly(in_a_bucket, signed_in, ours):
    """The device sends it again: a picture is on record with its files or not at all."""
    address, number = reverse("visits:add_photo", args=[ours.visit.public_id, 1]), str(uuid.uuid4())
    signed_in.raise_request_exception = False
    with patch("botocore.httpsession.URLLib3Session.send", side_effect=EndpointConnectionError(endpoint_url="x")):
        answer = signed_in.post(address, {"id": number, "subject": "coil", "file": a_picture()})
        assert answer.status_code == 503 and answer["Retry-After"] and not Photo.objects.exists()
        call_command("check_store", stderr=(said := io.StringIO()))
        assert "does not answer" in said.getvalue()
    answer = signed_in.post(address, {"id": number, "subject": "coil", "file": a_picture()})
    assert answer.status_code == 200 and Photo.objects.get().public_id == uuid.UUID(number)
    call_command("check_store")
    assert not list(every("check"))
    default_storage.bucket_name, default_storage._bucket = "another", None
    with pytest.raises(CommandError, match="NoSuchBucket: make it"):
        call_command("check_store")
