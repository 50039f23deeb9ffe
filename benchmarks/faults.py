"""What becomes of 1,000 writes of several devices while something breaks: acknowledged and lost, doubled, how soon it is
back, and what a page says meanwhile. Against `./ruddy serve`, in a folder of its own.

Run (as root, for the small disk; with Debian's faketime, for the clock): .venv/bin/python -m benchmarks.faults [name of a fault ...]
"""

import contextlib
import os
import random
import re
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import threading
import time
import uuid
from collections.abc import Callable, Iterator
from pathlib import Path

from benchmarks.devices import DEVICES, EACH, NAME, Device, Gateway, make_trial, page
from launch.config import read
from launch.elsewhere import client
from launch.instance import HOST, PROJECT, Instance, free_port

LOOKED_AT_S = 6.0
FAKE_CLOCK = "/usr/lib/x86_64-linux-gnu/faketime/libfaketimeMT.so.1"


class Served:
    """`./ruddy serve` of our own, on a disk and with a clock that can be spoilt."""

    def __init__(self, disk: Path):
        self.disk, self.port = disk, free_port()
        self.clock = disk.parent / "clock"
        self.clock.write_text("+0")
        path = disk.parent / "ruddy.toml"
        path.write_text(
            f'hosts = ["{NAME}"]\nfolder = "{disk / "data"}"\n[web]\nport = {self.port}\nworkers = 2\n'
            f"[database]\nport = {free_port()}\nmemory_percent = 1\n"
        )
        self.config, self.instance = path, Instance.served(read(path))
        clock = {"LD_PRELOAD": FAKE_CLOCK, "FAKETIME_TIMESTAMP_FILE": str(self.clock), "FAKETIME_CACHE_DURATION": "1"}
        self.environment = {**os.environ, **clock}
        self.said = (disk.parent / "said").open("w")
        self.process = subprocess.Popen(
            [sys.executable, "-u", "-m", "launch", "serve", "--config", str(path)],
            cwd=PROJECT, env=self.environment, stdout=self.said, stderr=self.said, start_new_session=True,
        )  # fmt: skip
        while page(self.port)[0] != 200:
            assert self.process.poll() is None, (disk.parent / "said").read_text()
            time.sleep(0.2)
        self.rounds = [round_ for round_, _ in make_trial(self.instance)]
        self.gateway = Gateway(self.port)
        self.gateway.start()

    def samples(self) -> tuple[int, int]:
        """How many samples of the gateway are stored, and how many of them twice."""
        told = asked(self.instance, "SELECT COUNT(*), COUNT(DISTINCT probe_id, channel, sequence) FROM probes_sample")
        rows, distinct = map(int, told.split())
        return rows, rows - distinct

    def kept(self) -> tuple[set[str], int]:
        """The numbers of the entries that are stored, and how many rows there are."""
        rows = [str(uuid.UUID(row)) for row in asked(self.instance, "SELECT uuid FROM visits_reading").split()]
        return set(rows), len(rows)

    def pid(self, word: str) -> int:
        """The process of ours that was started with a word."""
        while True:
            for folder in Path("/proc").glob("[0-9]*"):
                with contextlib.suppress(OSError):
                    parent = int((folder / "stat").read_text().rsplit(")", 1)[1].split()[1])
                    if parent == self.process.pid and word in (folder / "cmdline").read_text():
                        return int(folder.name)
            time.sleep(0.05)

    def worker(self) -> int:
        """One of the web server's workers."""
        return int(subprocess.check_output(["pgrep", "-P", str(self.pid("gunicorn"))], text=True).split()[0])

    def stop(self) -> None:
        self.gateway.stop()
        self.process.terminate()
        self.process.wait(90)


def asked(instance: Instance, sql: str) -> str:
    """What the instance's database says."""
    ask, environment = client(instance)
    command = [*ask, "-N", "-e", sql]
    return subprocess.run(command, env=environment, capture_output=True, text=True, check=True).stdout


def _killed(word: str) -> Callable[[Served], None]:
    return lambda served: os.kill(served.worker() if word == "worker" else served.pid(word), signal.SIGKILL)


@contextlib.contextmanager
def _database_hangs(served: Served) -> Iterator[None]:
    pid = served.pid("mariadbd")
    os.kill(pid, signal.SIGSTOP)
    yield
    os.kill(pid, signal.SIGCONT)


@contextlib.contextmanager
def _disk_full(served: Served) -> Iterator[None]:
    filler = served.disk / "filler"
    with contextlib.suppress(OSError), filler.open("wb", buffering=0) as file:
        while True:
            file.write(b"\0" * 2**16)
    yield
    filler.unlink()


def _clock(offset: str):
    @contextlib.contextmanager
    def off(served: Served) -> Iterator[None]:
        served.clock.write_text(offset)
        yield
        served.clock.write_text("+0")

    return off


class SlowNetwork(threading.Thread):
    """A relay that passes 30 KB a second, late, and cuts one connection in ten."""

    def __init__(self, to: int):
        super().__init__(daemon=True)
        self.to, self.slow, self.chance = to, False, random.Random(7)
        self.server = socket.create_server((HOST, 0))
        self.port = self.server.getsockname()[1]

    def run(self) -> None:
        while True:
            near, _ = self.server.accept()
            try:
                far = socket.create_connection((HOST, self.to))
            except OSError:  # nobody is there: the device sees it too
                near.close()
                continue
            for a, b in ((near, far), (far, near)):
                threading.Thread(target=self._pass, args=(a, b), daemon=True).start()

    def _pass(self, a: socket.socket, b: socket.socket) -> None:
        with contextlib.suppress(OSError):
            while data := a.recv(4096):
                if self.slow:
                    time.sleep(0.3 + len(data) / 30_000)
                    if self.chance.random() < 0.1:
                        break
                b.sendall(data)
        for end in (a, b):
            with contextlib.suppress(OSError):
                end.shutdown(socket.SHUT_RDWR)


# name -> what happens at once, or for so many seconds
AT_ONCE = {
    "web worker killed": _killed("worker"),
    "web master killed": _killed("gunicorn"),
    "database killed": _killed("mariadbd"),
    "queue worker killed": _killed("db_worker"),
    "scheduler killed": _killed("keep_time"),
    "gateway killed": lambda served: served.gateway.process.kill(),
}
FOR_A_WHILE = {
    "database hangs for a minute": (_database_hangs, 60),
    "disk full for 20 s": (_disk_full, 20),
    "clock an hour ahead": (_clock("+1h"), 10),
    "clock a year back": (_clock("-1y"), 10),
    "clock a year ahead": (_clock("+1y"), 10),
    "slow network that breaks off": (None, 30),
}


def trial(served: Served, name: str) -> str:
    """One fault during 1,000 writes; its line of the table."""
    network = SlowNetwork(served.port)
    network.start()
    devices = [Device(served.rounds[n], network.port) for n in range(DEVICES)]
    before, _ = served.kept()
    samples, _ = served.samples()
    for device in devices:
        device.start()
    while sum(len(device.acknowledged) for device in devices) < DEVICES * EACH // 5:
        time.sleep(0.02)
    seen = set[str]()
    if name in AT_ONCE:
        AT_ONCE[name](served)
    else:
        fault, seconds = FOR_A_WHILE[name]
        with fault(served) if fault else contextlib.nullcontext():
            network.slow = fault is None
            until = time.monotonic() + seconds
            while time.monotonic() < until:
                seen.add(_seen(*page(served.port, devices[0])))
                time.sleep(0.5)
        network.slow = False
    back, meanwhile = _back(served, devices[0])
    seen |= meanwhile
    for device in devices:
        device.join(180)
    stored, rows = served.kept()
    acknowledged = set().union(*(device.acknowledged for device in devices))
    sampled, sampled_twice = served.samples()
    lost, doubled = len(acknowledged - stored), rows - len(stored) + sampled_twice
    tries, failed = (sum(getattr(device, of) for device in devices) for of in ("tries", "failed"))
    whole = len(acknowledged) == DEVICES * EACH and len(stored) == len(before) + DEVICES * EACH
    refused = set().union(*(device.refused for device in devices))
    said = "; ".join(sorted(seen | refused))
    return f"| {name} | {len(acknowledged)} | {lost} | {doubled} | {back:.1f} s | {failed} of {tries} | {sampled - samples} | {said} |{'' if whole else ' NOT ALL CAME'}"


def _back(served: Served, of: Device) -> tuple[float, set[str]]:
    """How long after a cause ended a page last failed, looked at until none has for a while; and what was seen."""
    ended, failed, seen = time.monotonic(), 0.0, set[str]()
    while (now := time.monotonic() - ended) < max(LOOKED_AT_S, failed + LOOKED_AT_S):
        status, text = page(served.port, of)
        if status not in (200, 302):
            failed = now
        seen.add(_seen(status, text))
        time.sleep(0.05)
    return failed, seen


def _seen(status: int, text: str) -> str:
    usual = {0: "no answer (the proxy's own page)", 200: "as usual", 302: "signed out: asks to sign in"}
    if status in usual:
        return usual[status]
    return f"{status} {_heading(text)}"


def _heading(text: str) -> str:
    found = re.search(r"<h1>(.*?)</h1>", text, re.S)
    return found[1].strip() if found else "without words"


def main(names: list[str]) -> None:
    root = Path(tempfile.mkdtemp(prefix="ruddy-faults-"))
    disk = root / "disk"
    disk.mkdir()
    subprocess.run(["mount", "-t", "tmpfs", "-o", "size=600m", "tmpfs", str(disk)], check=True)
    served = None
    try:
        served = Served(disk)
        print(
            "| fault | acknowledged | lost | doubled | a page after | sends that failed | samples | pages meanwhile |"
        )
        print("|---|---|---|---|---|---|---|---|", flush=True)
        for name in names or [*AT_ONCE, *FOR_A_WHILE]:
            print(trial(served, name), flush=True)
    finally:
        if served:
            served.stop()
        subprocess.run(["umount", "-l", str(disk)], check=False)
        shutil.rmtree(root, ignore_errors=True)


if __name__ == "__main__":
    main(sys.argv[1:])
