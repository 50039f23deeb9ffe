"""A backup: one file with the database, the photos, the configuration without secrets, and a list of it all with
checksums. Made while people work.
"""

import contextlib
import hashlib
import json
import os
import re
import subprocess
import tarfile
import time
from collections.abc import Iterator, Sequence
from datetime import UTC, datetime
from pathlib import Path
from typing import IO

from launch import dump
from launch.config import Config
from launch.fault import LaunchFault
from launch.instance import PROJECT, Instance
from launch.supervisor import manage

FORMAT, SQL, MEDIA, MANIFEST, CONFIG = "ruddy-draft backup 1", "database.sql.gz", "media", "manifest.json", "ruddy.toml"
NAME = re.compile(r"ruddy-(\d{8}T\d{6})Z\.tar(\.gpg)?")
MIRROR = "media-of-the-bucket"  # kept between backups
LOOKS_EVERY_S, AGAIN_AFTER_S = 60, 3600
LEFT_OUT = ("exports",)  # archives that wait to be fetched: made again


def make(instance: Instance, folder: Path, passphrase: Path | None = None, now: datetime | None = None) -> Path:
    """Make a backup of a running instance in a folder; its path. passphrase: a file with what it is encrypted with."""
    folder.mkdir(parents=True, exist_ok=True)
    now = now or datetime.now(UTC)
    path = folder / f"ruddy-{now:%Y%m%dT%H%M%S}Z.tar{'.gpg' if passphrase else ''}"
    part, sql = path.with_name(f".{path.name}.part"), instance.home / f".{path.name}.sql.gz"
    try:
        tables = dump.dump(instance, sql)
        with _written(part, passphrase) as file, tarfile.open(fileobj=file, mode="w|") as tar:
            files = {SQL: _add(tar, sql, SQL)}
            media = _media(instance)  # after the rows: a photo of a row is never missing
            for photo in _photos(media):
                with contextlib.suppress(FileNotFoundError):  # its customer was erased meanwhile
                    name = f"{MEDIA}/{photo.relative_to(media)}"
                    files[name] = _add(tar, photo, name)
            if instance.config:
                files[CONFIG] = _add(tar, instance.config.path, CONFIG)
            told = {
                "format": FORMAT,
                "made_at": now.isoformat(),
                "version": version(),
                "tables": tables,
                "files": files,
            }
            sheet = instance.home / f".{path.name}.json"
            sheet.write_text(json.dumps(told, indent=1))
            _add(tar, sheet, MANIFEST)
            sheet.unlink()
        _onto_the_disk(part)
        part.rename(path)
    except OSError as error:
        raise LaunchFault(f"The backup could not be written to {folder}: {error.strerror or error}.") from error
    finally:
        part.unlink(missing_ok=True)
        sql.unlink(missing_ok=True)
    return path


def version() -> str:
    """Which code this is: the commit where there is one."""
    told = subprocess.run(["git", "describe", "--always"], cwd=PROJECT, capture_output=True, text=True)
    return told.stdout.strip() or "unknown"


def keep(config: Config, instance: Instance) -> None:
    """Make backups when they are due, and thin them, until stopped. A fault is said, and tried again in an hour."""
    folder = Path(config.of("backup", "folder"))
    while True:
        try:
            keep_once(config, instance, folder, datetime.now(UTC))
        except LaunchFault as fault:
            print(f"ruddy: no backup was made: {fault}", flush=True)
            time.sleep(AGAIN_AFTER_S)
        time.sleep(LOOKS_EVERY_S)


def keep_once(config: Config, instance: Instance, folder: Path, now: datetime) -> None:
    """Make a backup where one is due, and take away what is kept no longer."""
    made = made_in(folder)
    due = not made or (now - max(made)).total_seconds() >= config.of("backup", "every_hours") * 3600
    if due:
        word = config.of("backup", "passphrase_file")
        print(f"Backup made: {make(instance, folder, Path(word) if word else None, now)}", flush=True)
        made = made_in(folder)
        kept = to_keep(list(made), *(config.of("backup", f"keep_{of}") for of in ("days", "weeks", "months")))
        for at in made.keys() - kept:
            made[at].unlink()


def made_in(folder: Path) -> dict[datetime, Path]:
    """The backups in a folder, by when they were made."""
    found = {}
    for path in folder.glob("ruddy-*"):
        if told := NAME.fullmatch(path.name):
            found[datetime.strptime(told[1], "%Y%m%dT%H%M%S").replace(tzinfo=UTC)] = path
    return found


def to_keep(made: Sequence[datetime], days: int, weeks: int, months: int) -> set[datetime]:
    """Which backups are kept: the newest, and the last one of each of so many days, weeks and months that have any."""
    kept = set(sorted(made)[-1:])
    for many, stretch in ((days, "%Y-%m-%d"), (weeks, "%G-%V"), (months, "%Y-%m")):
        last = {at.strftime(stretch): at for at in sorted(made)}
        kept |= {last[name] for name in sorted(last, reverse=True)[:many]}
    return kept


@contextlib.contextmanager
def _written(path: Path, passphrase: Path | None) -> Iterator[IO[bytes]]:
    """A file that is written, encrypted where there is a passphrase; readable by this user alone."""
    with open(os.open(path, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb") as file:
        if passphrase is None:
            yield file
            return
        command = ["gpg", "--batch", "--yes", "--symmetric", "--cipher-algo", "AES256", "--pinentry-mode", "loopback"]
        with subprocess.Popen(
            [*command, f"--passphrase-file={passphrase}", "--output=-"], stdin=subprocess.PIPE, stdout=file
        ) as gpg:
            assert gpg.stdin
            yield gpg.stdin
            gpg.stdin.close()
        if gpg.returncode:
            raise LaunchFault(f"gpg could not encrypt the backup: is {passphrase} readable?")


def _add(tar: tarfile.TarFile, path: Path, name: str) -> str:
    """Put a file into the archive; its checksum."""
    total = hashlib.sha256()
    with path.open("rb") as file:
        info = tarfile.TarInfo(name)
        info.size, info.mtime = os.fstat(file.fileno()).st_size, int(os.fstat(file.fileno()).st_mtime)
        tar.addfile(info, _Summed(file, total))
    return total.hexdigest()


class _Summed:
    """A file whose bytes are summed up as they are read."""

    def __init__(self, file: IO[bytes], total: "hashlib._Hash"):
        self.file, self.total = file, total

    def read(self, size: int = -1) -> bytes:
        found = self.file.read(size)
        self.total.update(found)
        return found


def _media(instance: Instance) -> Path:
    """The folder of the photos; of those in a bucket, one that is brought up to it: photos never change."""
    if not instance.has_bucket:
        return instance.home / MEDIA
    manage(instance, "mirror_photos", str(instance.home / MIRROR))
    return instance.home / MIRROR


def _photos(media: Path) -> Iterator[Path]:
    for path in sorted(media.rglob("*")) if media.exists() else ():
        if path.is_file() and path.relative_to(media).parts[0] not in LEFT_OUT:
            yield path


def _onto_the_disk(path: Path) -> None:
    with path.open("rb") as file:
        os.fsync(file.fileno())
