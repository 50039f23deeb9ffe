"""What becomes of 1,000 writes of several devices while something breaks: acknowledged and lost, doubled, how soon it is
back, and what a page says meanwhile. Against `./ruddy serve`, in a folder of its own.

Run (as root, for the small disk; with Debian's faketime, for the clock): .venv/bin/python -m benchmarks.faults [name of a fault ...]

The devices do what the page's outbox does: they send a batch again until each of its entries is answered.
"""

import contextlib
import http.client
import json
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
from datetime import UTC, datetime
from http.cookies import SimpleCookie
from multiprocessing import get_context
from pathlib import Path

from launch.config import read
from launch.elsewhere import client
from launch.instance import HOST, PROJECT, Instance, free_port
from plant.gateway import Radio
from plant.live import Live
from plant.machine import Spec
from plant.places import Weather

NAME, PASSWORD, TOKEN = "draft.example", "plum-bob-and-string", "of-a-gateway-on-trial"
DEVICES, EACH, BATCH = 5, 200, 5
LOOKED_AT_S = 6.0
FAKE_CLOCK = "/usr/lib/x86_64-linux-gnu/faketime/libfaketimeMT.so.1"
MAKE = f"""
from web.accounts.models import Shop, User
from web.houses.models import House, System
from web.probes.services import add_gateway
from web.visits import changes
shop = Shop.objects.create(name="Trial", time_zone="UTC")
person = User.objects.create_user("ana", password="{PASSWORD}", first_name="Ana", shop=shop)
house = House.objects.create(shop=shop, name="Trial house", altitude_ft=1150)
for n in range({DEVICES}):
    system = System.objects.create(house=house, name=f"s{{n}}", nominal_tons=3.0)
    visit = changes.start_visit(person, system)
    print("ROUND", visit.rounds.get().public_id, visit.public_id)
add_gateway(person, "Van", token="{TOKEN}")
"""


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


class Gateway(threading.Thread):
    """The simulated gateway as whoever runs it does: started again whenever it ends."""

    def __init__(self, port: int):
        super().__init__(daemon=True)
        self.port, self.over = port, False

    def run(self) -> None:
        while not self.over:
            self.process = get_context("spawn").Process(target=send_samples, args=(self.port,), daemon=True)
            self.process.start()
            self.process.join()
            time.sleep(0.5)

    def stop(self) -> None:
        self.over = True
        self.process.kill()


def send_samples(port: int) -> None:
    """What the simulated gateway hears, sent four times a second, some late and some twice; until it is killed."""
    live = Live(Spec(), Weather(78.0, 56.0, 91.0, 45.0), {})
    live.start()
    radio = Radio(live, sequence=int(time.time() * 4))  # goes on counting up after it was killed
    while True:
        live.advance(0.25)
        for batch in radio.on_its_way(radio.second(datetime.now(UTC))):
            send_batch(port, batch)
        time.sleep(0.25)


def send_batch(port: int, samples: list[dict]) -> list[dict]:
    """Send a batch of samples through the proxy's door; the answers, none where nobody answers."""
    body = json.dumps({"clock": datetime.now(UTC).isoformat(), "samples": samples})
    headers = {"Host": NAME, "X-Forwarded-Proto": "https", "Authorization": f"Bearer {TOKEN}"}
    line = http.client.HTTPConnection(HOST, port, timeout=30)
    try:
        line.request("POST", "/probes/samples/", body, headers | {"Content-Type": "application/json"})
        answer = line.getresponse()
        return json.loads(answer.read())["results"] if answer.status == 200 else []
    except (OSError, http.client.HTTPException):
        return []
    finally:
        line.close()


def make_trial(instance: Instance) -> list[tuple[str, str]]:
    """An invented shop in a running instance; the rounds that the devices write to, each with its visit."""
    command = [sys.executable, "manage.py", "shell", "-v0", "-c", MAKE]
    made = subprocess.run(command, cwd=PROJECT, env=instance.environment(), capture_output=True, text=True, check=True)
    return re.findall(r"ROUND (\S+) (\S+)", made.stdout)


def page(port: int, of: "Device | None" = None) -> tuple[int, str]:
    """What somebody who is signed in sees of the houses now; of nobody, the door. 0 for no answer."""
    cookies = {"Cookie": of.cookies} if of else {}
    try:
        line = http.client.HTTPConnection(HOST, port, timeout=25)
        path = "/houses/" if of else "/sign-in/"
        line.request("GET", path, headers={"Host": NAME, "X-Forwarded-Proto": "https"} | cookies)
        answer = line.getresponse()
        return answer.status, answer.read().decode()
    except OSError:
        return 0, ""


class Device(threading.Thread):
    """A device with its outbox: what is not answered is sent again."""

    def __init__(self, round_: str, port: int):
        super().__init__(daemon=True)
        self.round, self.port = round_, port
        self.id, self.jar, self.acknowledged = str(uuid.uuid4()), SimpleCookie(), set[str]()
        self.tries = self.failed = 0
        self.refused = set[str]()
        self.last = time.monotonic()

    def run(self) -> None:
        waiting = [self._entry(n) for n in range(EACH)]
        while waiting:
            batch = waiting[:BATCH]
            try:
                answered = self._send(batch)
            except (OSError, http.client.HTTPException, ValueError):
                self.failed += 1
                time.sleep(0.3)
                continue
            told = {entry["id"]: one for entry, one in zip(batch, answered, strict=True)}
            done = {id_ for id_, one in told.items() if one["status"] != "later"}
            self.acknowledged |= {id_ for id_ in done if told[id_]["status"] in ("stored", "duplicate")}
            self.refused |= {one["message"] for one in told.values() if one["status"] == "refused"}
            self.last = time.monotonic()
            waiting = [entry for entry in waiting if entry["id"] not in done]
            time.sleep(0.02)

    @property
    def cookies(self) -> str:
        return "; ".join(f"{name}={one.value}" for name, one in list(self.jar.items()))

    def _entry(self, n: int) -> dict:
        return {
            "id": str(uuid.uuid4()), "kind": "reading", "round": self.round, "place": "outdoor",
            "quantity": "dry_bulb", "variant": "", "value": f"{80 + n % 20}.{n % 10}", "unit": "degF", "sequence": n + 1,
            "taken_at": datetime.now(UTC).isoformat(), "supersedes": "", "instrument": "",
        }  # fmt: skip

    def _send(self, batch: list[dict]) -> list[dict]:
        self.tries += 1
        body = json.dumps({"device": self.id, "clock": datetime.now(UTC).isoformat(), "items": batch})
        status, text = self._ask("POST", "/visits/entries/", body, "application/json")
        if status in (302, 401, 403):
            self._sign_in()
            raise ValueError("signed out")
        if status != 200:
            raise ValueError(status)
        return json.loads(text)["results"]

    def _sign_in(self) -> None:
        self._ask("GET", "/sign-in/")
        form = f"username=ana&password={PASSWORD}&csrfmiddlewaretoken={self.jar['csrftoken'].value}"
        self._ask("POST", "/sign-in/", form, "application/x-www-form-urlencoded")

    def _ask(self, method: str, path: str, body: str | bytes | None = None, kind: str = "text/html") -> tuple[int, str]:
        line = http.client.HTTPConnection(HOST, self.port, timeout=30)
        headers = {
            "Host": NAME, "X-Forwarded-Proto": "https", "Referer": f"https://{NAME}/", "Content-Type": kind,
            "Cookie": self.cookies,
            "X-CSRFToken": self.jar["csrftoken"].value if "csrftoken" in self.jar else "",
        }  # fmt: skip
        try:
            line.request(method, path, body, headers)
            answer = line.getresponse()
            for cookie in answer.headers.get_all("Set-Cookie") or ():
                self.jar.load(cookie)
            return answer.status, answer.read().decode()
        finally:
            line.close()


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
