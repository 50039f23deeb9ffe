"""Folders of Django's default storage, which is a folder of this machine or a bucket that speaks S3 (see the settings).
Names are paths from its root.
"""

from collections.abc import Iterator
from contextlib import suppress

from django.core.files.storage import default_storage


def every(folder: str) -> Iterator[str]:
    """The files of a folder and of those in it, in order; none where there is no such folder."""
    folders, files = _in(folder)
    yield from (f"{folder}/{file}" for file in sorted(files))
    for inner in sorted(folders):
        yield from every(f"{folder}/{inner}")


def forget_folder(folder: str) -> None:
    """Take a folder away, with all that is in it."""
    folders, files = _in(folder)
    for file in files:
        default_storage.delete(f"{folder}/{file}")
    for inner in folders:
        forget_folder(f"{folder}/{inner}")
    default_storage.delete(folder)  # a disk keeps it when it is empty


def _in(folder: str) -> tuple[list[str], list[str]]:
    """The folders and files in a folder."""
    with suppress(FileNotFoundError):  # so a disk says it; a bucket has no folders, and finds nothing
        return default_storage.listdir(folder)
    return [], []
