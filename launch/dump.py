"""The database as SQL, with what is in it: rows and a checksum of each table, read from the very lines that are kept,
so that both are of one moment.
"""

import gzip
import hashlib
import re
import subprocess
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import IO, Any

from launch.elsewhere import client
from launch.fault import LaunchFault
from launch.instance import Instance

# One transaction sees one moment; rows in the order of their keys, so that equal tables give equal lines.
OPTIONS = (
    "--single-transaction", "--quick", "--skip-lock-tables", "--no-tablespaces", "--hex-blob", "--order-by-primary",
    "--skip-comments", "--skip-dump-date", "--skip-add-locks", "--skip-tz-utc",
)  # fmt: skip
TABLE = re.compile(rb"^CREATE TABLE `(\w+)`")
INSERT = re.compile(rb"^INSERT INTO `(\w+)` VALUES")
NEXT_NUMBER = re.compile(rb" AUTO_INCREMENT=\d+")  # a table's next number is none of its rows


@dataclass
class Tables:
    """Rows and checksum of each table, as its lines go by."""

    rows: dict[str, int] = field(default_factory=dict)
    sums: dict[str, "hashlib._Hash"] = field(default_factory=dict)
    at: str = ""

    def read(self, line: bytes) -> None:
        """The next line of a dump."""
        if made := TABLE.match(line):
            self.at = made[1].decode()
            self.rows.setdefault(self.at, 0)
            self.sums.setdefault(self.at, hashlib.sha256())
        elif into := INSERT.match(line):
            self.at = into[1].decode()
            self.rows[self.at] += line.count(b"VALUES (")
        elif line.startswith(b"(") and self.at:
            self.rows[self.at] += 1
        if self.at:
            self.sums[self.at].update(NEXT_NUMBER.sub(b"", line))

    def told(self) -> dict[str, dict[str, Any]]:
        """By table: rows, and the checksum of its lines."""
        return {name: {"rows": self.rows[name], "sha256": self.sums[name].hexdigest()} for name in sorted(self.rows)}


def dump(instance: Instance, to: Path) -> dict[str, dict[str, Any]]:
    """Write the database of a running instance as packed SQL; what is in it, by table."""
    with gzip.open(to, "wb", compresslevel=6) as packed:
        return _pass(instance, packed)


def tables_of(instance: Instance) -> dict[str, dict[str, Any]]:
    """What is in the database of a running instance now, by table."""
    return _pass(instance, None)


def _pass(instance: Instance, to: IO[bytes] | gzip.GzipFile | None) -> dict[str, dict[str, Any]]:
    command, environment = client(instance, "mariadb-dump", *OPTIONS)
    found = Tables()
    with subprocess.Popen(command, env=environment, stdout=subprocess.PIPE, stderr=subprocess.PIPE) as process:
        assert process.stdout and process.stderr
        for line in process.stdout:
            found.read(line)
            if to:
                to.write(line)
        said = process.stderr.read().decode(errors="replace").strip()
    if process.returncode:
        raise LaunchFault(f"The database could not be copied: {said.splitlines()[-1] if said else 'no message'}")
    return found.told()


def load(instance: Instance, lines: Iterable[bytes]) -> None:
    """Load SQL into the empty database of a running instance."""
    command, environment = client(instance)
    with subprocess.Popen(command, env=environment, stdin=subprocess.PIPE, stderr=subprocess.PIPE) as process:
        assert process.stdin and process.stderr
        try:
            for line in lines:
                process.stdin.write(line)
            process.stdin.close()
        except BrokenPipeError:  # it says why
            pass
        said = process.stderr.read().decode(errors="replace").strip()
    if process.returncode:
        raise LaunchFault(f"The database could not be restored: {said.splitlines()[-1] if said else 'no message'}")


def is_empty(instance: Instance) -> bool:
    """Whether the database of a running instance holds no table."""
    return not _table_names(instance)


def lines_of(packed: Path) -> Iterator[bytes]:
    """The lines of packed SQL."""
    with gzip.open(packed, "rb") as file:
        yield from file


def drop_all(instance: Instance) -> None:
    """Take every table of the database of a running instance away."""
    drops = "".join(f"DROP TABLE `{name}`;" for name in _table_names(instance))
    load(instance, [f"SET FOREIGN_KEY_CHECKS=0;{drops}".encode()])


def _table_names(instance: Instance) -> list[str]:
    command, environment = client(instance)
    done = subprocess.run([*command, "-N", "-e", "SHOW TABLES"], env=environment, capture_output=True, text=True)
    if done.returncode:
        raise LaunchFault(f"The database cannot be asked: {done.stderr.strip()}")
    return done.stdout.split()
