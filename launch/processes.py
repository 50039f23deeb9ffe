"""Processes of the product's own: they end with whoever started them, and are started again when they end by
themselves.
"""

import contextlib
import ctypes
import os
import signal
import subprocess
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

AGAIN_AFTER_S = 2.0  # after a start, so that what cannot live is not started over and over at once
LONGEST_LOG_BYTES = 5 * 2**20
STOPS_WITHIN_S = 30.0
PR_SET_PDEATHSIG = 1  # prctl(2): which signal a process gets when its parent dies, by whatever signal
STOPS = (signal.SIGTERM, signal.SIGINT, signal.SIGHUP)
_libc = ctypes.CDLL(None)


def ends_with(parent: int) -> Callable[[], None]:
    """What a new process does first, so that it ends when its parent does: nothing is left running by a closed terminal
    or a killed launcher.
    """

    def first() -> None:
        signal.pthread_sigmask(signal.SIG_UNBLOCK, STOPS)
        _libc.prctl(PR_SET_PDEATHSIG, signal.SIGTERM)
        if os.getppid() != parent:  # it died meanwhile
            os._exit(1)

    return first


@contextlib.contextmanager
def undisturbed() -> Iterator[None]:
    """Signals that stop us wait meanwhile: a process that was started is known before it is to be ended."""
    signal.pthread_sigmask(signal.SIG_BLOCK, STOPS)
    try:
        yield
    finally:
        signal.pthread_sigmask(signal.SIG_UNBLOCK, STOPS)


def started(command: list[str], **how: Any) -> subprocess.Popen[bytes]:
    """A process in a session of its own, so that Ctrl-C reaches its launcher alone, which stops all in order."""
    return subprocess.Popen(command, start_new_session=True, preexec_fn=ends_with(os.getpid()), **how)


class Process:
    """One process, its log (None: where its launcher writes, which a service manager keeps), and the words for it."""

    def __init__(self, name: str, command: list[str], folder: Path, environment: dict[str, str], log: Path | None):
        self.name, self.command, self.folder, self.environment, self.log = name, command, folder, environment, log
        self.process: subprocess.Popen[bytes] | None = None
        self.since = 0.0

    def start(self) -> None:
        """Start it; its log goes on, a long one in a new file."""
        if self.log and self.log.exists() and self.log.stat().st_size > LONGEST_LOG_BYTES:
            self.log.replace(self.log.with_suffix(".before.log"))
        with undisturbed(), open(self.log, "a") if self.log else contextlib.nullcontext() as log:
            self.process = started(self.command, cwd=self.folder, env=self.environment, stdout=log, stderr=log)
        self.since = time.monotonic()

    def is_running(self) -> bool:
        """Whether it lives."""
        return self.process is not None and self.process.poll() is None

    def look_after(self) -> str:
        """Start it again where it ended by itself; what is to be said of that, or ''."""
        if self.is_running() or time.monotonic() - self.since < AGAIN_AFTER_S:
            return ""
        self.start()
        return f"The {self.name} ended; starting it again.{self.where}"

    @property
    def where(self) -> str:
        """Where its log is, as a sentence."""
        return f" Its log: {self.log}" if self.log else ""

    def tell(self, number: int) -> None:
        """Send it a signal, where it lives."""
        if self.process is not None and self.is_running():
            self.process.send_signal(number)

    def stop(self) -> None:
        """Ask it to end; one that does not is killed."""
        if self.process is None:
            return
        self.process.terminate()
        try:
            self.process.wait(STOPS_WITHIN_S)
        except subprocess.TimeoutExpired:
            self.process.kill()
            self.process.wait()


def who_listens(port: int) -> int | None:
    """The process that listens on a port of this machine; None for none, or one that this user may not look into."""
    sockets = set()
    for table in ("/proc/net/tcp", "/proc/net/tcp6"):
        with contextlib.suppress(OSError):
            for line in Path(table).read_text().splitlines()[1:]:
                cells = line.split()
                if cells[3] == "0A" and int(cells[1].rpartition(":")[2], 16) == port:  # 0A: listens
                    sockets.add(f"socket:[{cells[9]}]")
    for folder in Path("/proc").glob("[0-9]*"):
        with contextlib.suppress(OSError):
            if any(os.readlink(link) in sockets for link in (folder / "fd").iterdir()):
                return int(folder.name)
    return None


def taken_by(port: int) -> str:
    """Who listens on a port, for a sentence: 'nginx (process 12)'."""
    pid = who_listens(port)
    try:
        name = Path(f"/proc/{pid}/comm").read_text().strip()
    except OSError:
        return "another program"
    return f"{name} (process {pid})"


def is_ours(pid: int, folder: Path, word: str) -> bool:
    """Whether a process works in our folder and was started with this word: an earlier run's."""
    try:
        words = Path(f"/proc/{pid}/cmdline").read_bytes().split(b"\0")
        return Path(os.readlink(f"/proc/{pid}/cwd")) == folder and word.encode() in words
    except OSError:  # it has ended, or is somebody else's
        return False
