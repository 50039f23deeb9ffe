"""Backups: whole, of one moment, restored into an empty place and proved; what is damaged or half is refused."""

import io
import tarfile
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from pathlib import Path

import boto3
import pytest
from hypothesis import given
from hypothesis import strategies as st

from launch import backup, dump, restore
from launch.config import Config
from launch.database import TEST_OPTIONS, Database
from launch.fault import LaunchFault
from launch.instance import Instance, free_port
from tests.launch.test_launch import ask, instance_in

pytestmark = [pytest.mark.xdist_group("launch"), pytest.mark.usefixtures("copied")]
ODD = r"""'a\nVALUES (1),(2)', '(', '),\n(', 'INSERT INTO `x` VALUES (', '🧊 ü', '\\', '"', 'CREATE TABLE `y` (', ''"""


@pytest.fixture(scope="module")
def running(tmp_path_factory, copied):
    """A running instance with awkward rows, a table without any, and a photo; of it a plain and an encrypted backup."""
    instance = instance_in(tmp_path_factory.mktemp("running"))
    database = Database(instance, TEST_OPTIONS)
    database.start()
    ask(
        instance,
        "CREATE TABLE odd (id INT AUTO_INCREMENT PRIMARY KEY, words TEXT, raw BLOB); CREATE TABLE none (n INT)",
    )
    values = ", ".join(f"({word.strip()}, UNHEX('0A2800FF'))" for word in ODD.split(", "))
    ask(instance, f"INSERT INTO odd (words, raw) VALUES {values}")
    ask(instance, "INSERT INTO odd (words) SELECT REPEAT('long ', 2000) FROM seq_1_to_300")
    photo = instance.home / "media" / "photos" / "1" / "a-full.jpg"
    photo.parent.mkdir(parents=True)
    photo.write_bytes(b"\xff\xd8 of a coil")
    (instance.home / "media" / "exports").mkdir()
    (instance.home / "media" / "exports" / "waits.zip").write_bytes(b"made again")
    yield instance
    database.stop()


@pytest.fixture
def word(tmp_path):
    path = tmp_path / "word"
    path.write_text("plum bob and string")
    return path


@pytest.fixture
def empty(tmp_path):
    """Another place, and its database, which no restore leaves running."""
    instance = Instance("test", tmp_path / "empty", free_port(), free_port())
    return instance, Database(instance, TEST_OPTIONS)


def brought(empty, file, word=None, again=False):
    restore.restore(*empty, file, word, again)


@pytest.mark.parametrize("encrypted", [False, True])
def test_what_is_backed_up_comes_back_row_for_row(running, empty, word, tmp_path, encrypted):
    file = backup.make(running, tmp_path / "kept", word if encrypted else None)
    assert file.stat().st_mode & 0o777 == 0o600 and tarfile.is_tarfile(file) != encrypted
    assert list(file.parent.iterdir()) == [file] and not list(running.home.glob(".ruddy*"))
    brought(empty, file, word if encrypted else None)
    instance, database = empty
    database.start()
    try:
        told = dump.tables_of(instance)
        assert told == dump.tables_of(running)
        for name in ("odd", "none"):
            assert str(told[name]["rows"]) == ask(instance, f"SELECT COUNT(*) FROM {name}")
        assert ask(instance, "SELECT COUNT(*), SUM(CRC32(words)), HEX(MAX(raw)) FROM odd") == ask(
            running, "SELECT COUNT(*), SUM(CRC32(words)), HEX(MAX(raw)) FROM odd"
        )
    finally:
        database.stop()
    assert (instance.home / "media" / "photos" / "1" / "a-full.jpg").read_bytes() == b"\xff\xd8 of a coil"
    assert not (instance.home / "media" / "exports").exists() and not (instance.home / restore.HALF).exists()
    with pytest.raises(LaunchFault, match="There is data in"):
        brought(empty, file, word if encrypted else None)


def with_bucket(instance: Instance, store: str, bucket: str) -> Instance:
    """The same instance, its photos in a bucket of a store."""
    secret = instance.home / "secret"
    secret.write_text("bob")
    secret.chmod(0o600)
    said = {"bucket": bucket, "endpoint": store, "region": "us-east-1", "key_id": "plumb", "secret_file": str(secret)}
    found = Config(instance.home / "ruddy.toml", {"": {"hosts": ["draft.example"]}, "photos": said})
    found.path.touch()
    return replace(instance, config=found, settings="web.settings.production")


def test_photos_in_a_bucket_are_in_a_backup_and_come_back_into_another(running, empty, tmp_path, store_of_others):
    """Fetched once for all backups; a restore puts them where the configuration says."""
    buckets = boto3.resource(
        "s3", endpoint_url=store_of_others, region_name="us-east-1", aws_access_key_id="x", aws_secret_access_key="x"
    )
    before, after = (buckets.create_bucket(Bucket=name) for name in ("before", "after"))
    photo = before.put_object(Key="photos/1/a-full.jpg", Body=b"\xff\xd8 of a fan")
    before.put_object(Key="exports/waits.zip", Body=b"made again")
    with_before = with_bucket(running, store_of_others, "before")
    file = backup.make(with_before, tmp_path / "kept")
    empty[0].prepare()
    brought((with_bucket(empty[0], store_of_others, "after"), empty[1]), file)
    assert [(one.key, one.get()["Body"].read()) for one in after.objects.all()] == [
        ("photos/1/a-full.jpg", b"\xff\xd8 of a fan")
    ]
    assert not (empty[0].home / "media").exists()
    photo.delete()
    with tarfile.open(backup.make(with_before, tmp_path / "kept", now=datetime(2030, 1, 1, tzinfo=UTC))) as tar:
        assert not [name for name in tar.getnames() if name.startswith("media")], "a customer was erased meanwhile"


def damaged(file: Path, how: str) -> Path:
    found = bytearray(file.read_bytes())
    if how == "a bit":
        at = found.index(b"of a coil")
        found[at] ^= 1
    elif how == "cut":
        found = found[: len(found) // 3]
    elif how == "list":
        found = found.replace(b"manifest.json", b"manifest.jsox")
    else:
        found = bytearray(b"no archive at all")
    path = file.with_name(f"damaged {how}.tar")
    path.write_bytes(found)
    return path


def test_a_file_that_would_be_unpacked_elsewhere_is_refused(empty, tmp_path):
    for name, kind in (("../out", tarfile.REGTYPE), ("media/link", tarfile.SYMTYPE)):
        file = tmp_path / "odd.tar"
        with tarfile.open(file, "w") as tar:
            info = tarfile.TarInfo(name)
            info.type, info.linkname = kind, "/etc/passwd"
            tar.addfile(info, io.BytesIO())
        with pytest.raises(LaunchFault, match="which no backup of ours does"):
            restore._unpack(file, tmp_path, None)
        assert not (tmp_path.parent / "out").exists()


@pytest.mark.parametrize(("how", "said"), [
    ("a bit", "is damaged: media/photos/1/a-full.jpg"), ("cut", "no whole backup"), ("list", "its list is missing"),
    ("nothing", "no whole backup"),
])  # fmt: skip
def test_what_is_damaged_is_refused_in_one_line_and_said_until_it_is_repeated(running, empty, tmp_path, how, said):
    file = backup.make(running, tmp_path / "kept")
    with pytest.raises(LaunchFault, match=said) as fault:
        brought(empty, damaged(file, how))
    assert "\n" not in str(fault.value)
    with pytest.raises(LaunchFault, match="restore --again"):
        restore.need_whole(empty[0])
    with pytest.raises(LaunchFault, match="repeat it with --again"):
        brought(empty, file)
    brought(empty, file, again=True)
    restore.need_whole(empty[0])


def test_an_encrypted_one_wants_its_passphrase(running, empty, word, tmp_path):
    file, other = backup.make(running, tmp_path / "kept", word), tmp_path / "other"
    other.write_text("something else")
    with pytest.raises(LaunchFault, match="the passphrase it was made with"):
        brought(empty, file, other)
    with pytest.raises(LaunchFault, match="is encrypted"):
        brought(empty, file, None, again=True)


def test_a_folder_that_cannot_be_written_is_one_line(running, tmp_path):
    (tmp_path / "file").write_text("")
    with pytest.raises((LaunchFault, OSError), match=r"File exists|Not a directory"):
        backup.make(running, tmp_path / "file" / "in")


def test_backups_are_made_when_due_and_thinned(running, tmp_path):
    config = Config(tmp_path, {"backup": {"folder": str(tmp_path), "keep_days": 2, "keep_weeks": 0, "keep_months": 0}})
    start = datetime(2026, 3, 1, 2, tzinfo=UTC)
    for hours in (0, 1, 24, 48, 72):
        backup.keep_once(config, running, tmp_path, start + timedelta(hours=hours))
    assert sorted(backup.made_in(tmp_path)) == [start + timedelta(hours=48), start + timedelta(hours=72)]


@given(st.sets(st.integers(0, 20_000), max_size=60), st.integers(0, 9), st.integers(0, 9), st.integers(0, 15))
def test_thinning_keeps_the_newest_and_at_most_one_of_each_stretch(hours, days, weeks, months):
    made = [datetime(2024, 1, 1, tzinfo=UTC) + timedelta(hours=h) for h in hours]
    kept = backup.to_keep(made, days, weeks, months)
    assert kept <= set(made) and len(kept) <= 1 + days + weeks + months
    assert not made or max(made) in kept
    assert backup.to_keep(sorted(kept), days, weeks, months) == kept, "thinning again takes nothing"
