"""A backup brought back into an empty place, proved line by line; and the drill that does it beside the running one."""

import contextlib
import hashlib
import json
import shutil
import subprocess
import tarfile
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import IO, Any

from launch import backup, dump
from launch.backup import FORMAT, MANIFEST, MEDIA, SQL
from launch.config import Config
from launch.database import Database
from launch.fault import LaunchFault
from launch.instance import Instance, free_port
from launch.statics import gather
from launch.supervisor import Stored, holder, manage, only_one, say

HALF = "restoring"  # is in the folder while a restore goes on: what is there is not whole


def restore(instance: Instance, database: Stored, file: Path, passphrase: Path | None, again: bool) -> None:
    """Bring a backup back. Refused where there is data; again: what a restore that was broken off left goes first."""
    instance.prepare()
    half = instance.home / HALF
    if holder(instance):
        raise LaunchFault(f"It runs from {instance.home} (process {holder(instance)}): stop it first.")
    lock = only_one(instance)
    try:
        if half.exists() and not again:
            raise LaunchFault(f"A restore into {instance.home} was broken off: repeat it with --again.")
        if half.exists():
            _clear(instance, database)
        for note in database.start():
            say(note)
        if not dump.is_empty(instance) or any((instance.home / MEDIA).rglob("*.jpg")):
            raise LaunchFault(f"There is data in {instance.home}: a backup is restored into an empty place only.")
        half.write_text(str(file))
        told = _bring_back(instance, file, passphrase)
        half.unlink()
        say(f"Restored: {told}. The start brings the tables up to this code; people sign in anew.")
    finally:
        database.stop()
        lock.close()


def drill(instance: Instance) -> None:
    """Prove that backups can be restored: make one of the running instance, restore it beside it, compare every table
    and photo, and open sheets there.
    """
    with tempfile.TemporaryDirectory(prefix="ruddy-drill-") as folder:
        made = backup.make(instance, Path(folder) / "backup")
        say(f"Backup made: {made.stat().st_size / 2**20:.1f} MB.")
        beside = _beside(instance, Path(folder) / "beside")
        database = Database(beside)
        try:
            database.start()
            say(f"Restored and compared: {_bring_back(beside, made, None)}.")
            manage(beside, "migrate_once")
            gather(beside)
            manage(beside, "open_sheets")
        finally:
            database.stop()


def need_whole(instance: Instance) -> None:
    """Raise LaunchFault where a restore was broken off."""
    half = instance.home / HALF
    if half.exists():
        raise LaunchFault(
            f"A restore was broken off here, so that the data is not whole: ./ruddy restore --again {half.read_text()}"
        )


def _beside(instance: Instance, home: Path) -> Instance:
    """An instance for the drill alone: with the code and settings of the other, its own database and ports."""
    config = None
    if instance.config:
        said = {section: dict(lines) for section, lines in instance.config.said.items()}
        said["database"] = said["photos"] = {}
        config = Config(instance.config.path, said)
    found = Instance("drill", home, free_port(), free_port(), instance.settings, config)
    found.prepare()
    return found


def _bring_back(instance: Instance, file: Path, passphrase: Path | None) -> str:
    """Load a backup into the running, empty database and the folder; what came back, in words. Everything is checked:
    each file against the list, each table against the lines it was made from.
    """
    with tempfile.TemporaryDirectory(prefix="restore-", dir=instance.home) as fresh:
        sums = _unpack(file, Path(fresh), passphrase)
        told = _manifest(file, Path(fresh))
        if wrong := [name for name, total in told["files"].items() if sums.get(name) != total]:
            raise LaunchFault(f"{file} is damaged: {wrong[0]} is not what was written. Take another backup.")
        dump.load(instance, dump.lines_of(Path(fresh) / SQL))
        now = dump.tables_of(instance)
        if differ := sorted(
            name for name in told["tables"].keys() | now.keys() if told["tables"].get(name) != now.get(name)
        ):
            raise LaunchFault(f"The tables {', '.join(differ[:3])} are not what the backup says. Take another backup.")
        if (Path(fresh) / MEDIA).exists():
            if instance.has_bucket:
                manage(instance, "give_photos", str(Path(fresh) / MEDIA))
            else:
                shutil.copytree(Path(fresh) / MEDIA, instance.home / MEDIA, dirs_exist_ok=True)
    rows, photos = sum(table["rows"] for table in now.values()), sum(name.startswith(MEDIA) for name in sums)
    return f"{len(now)} tables with {rows:,} rows and {photos:,} photo files, of {told['made_at'][:16]}"


def _unpack(file: Path, to: Path, passphrase: Path | None) -> dict[str, str]:
    """Unpack a backup into a folder; the checksum of each of its files."""
    sums = {}
    try:
        with _read(file, passphrase) as stream, tarfile.open(fileobj=stream, mode="r|") as tar:
            for member in tar:
                path = (to / member.name).resolve()
                if not member.isreg() or not path.is_relative_to(to.resolve()):
                    raise LaunchFault(f"{file} holds {member.name}, which no backup of ours does.")
                path.parent.mkdir(parents=True, exist_ok=True)
                packed = tar.extractfile(member)
                assert packed is not None, "of a regular file"
                with packed, path.open("wb") as unpacked:
                    shutil.copyfileobj(packed, unpacked)
                with path.open("rb") as unpacked:
                    sums[member.name] = hashlib.file_digest(unpacked, "sha256").hexdigest()
    except (tarfile.TarError, EOFError, OSError) as error:
        raise LaunchFault(f"{file} is no whole backup: {error}. Take another one.") from error
    return sums


def _manifest(file: Path, folder: Path) -> dict[str, Any]:
    try:
        told: dict[str, Any] = json.loads((folder / MANIFEST).read_text())
    except (OSError, ValueError) as error:
        raise LaunchFault(f"{file} is no whole backup: its list is missing. Take another one.") from error
    if told.get("format") != FORMAT:
        raise LaunchFault(f"{file} is of the kind '{told.get('format')}'; this version reads '{FORMAT}'.")
    return told


@contextlib.contextmanager
def _read(file: Path, passphrase: Path | None) -> Iterator[IO[bytes]]:
    if file.suffix != ".gpg":
        with file.open("rb") as plain:
            yield plain
        return
    if passphrase is None:
        raise LaunchFault(f"{file} is encrypted: set backup.passphrase_file, or --passphrase-file.")
    command = ["gpg", "--batch", "--quiet", "--decrypt", "--pinentry-mode", "loopback"]
    command += [f"--passphrase-file={passphrase}", str(file)]
    with subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL) as gpg:
        assert gpg.stdout
        try:
            yield gpg.stdout
        finally:  # what it says counts more than what became of half its words
            gpg.stdout.read()
            if gpg.wait():
                raise LaunchFault(f"{file} cannot be decrypted: is it whole, and the passphrase it was made with?")


def _clear(instance: Instance, database: Stored) -> None:
    """Take away what a broken restore left: only ever under its mark."""
    if isinstance(database, Database):
        database.stop()
        shutil.rmtree(database.data, ignore_errors=True)
    else:
        database.start()
        dump.drop_all(instance)
    shutil.rmtree(instance.home / MEDIA, ignore_errors=True)
