"""Felt speed: from a stored reading to refreshed results while many technicians work; one run, ratios printed.

Run: .venv/bin/python -m launch with-test-database -- .venv/bin/python -m benchmarks.visits [seconds] [technicians]

Each technician stores a reading every few seconds (nobody reads quicker) on a machine of their own, like the demo's of
the fullest visit, and asks for the preview that follows, over HTTP, against the server as the demo runs it (2 workers
of 4 threads). Server time is what the server's own log says of each request. The sign-in page, which touches nothing of
the job, is the reference of the same run.
"""

import gzip
import http.client
import json
import os
import random
import re
import subprocess
import sys
import tempfile
import threading
import time
import urllib.parse
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from copy import copy
from datetime import UTC, datetime
from pathlib import Path
from statistics import median, quantiles
from typing import TypeVar

import django

os.environ["DJANGO_SETTINGS_MODULE"] = "web.settings.demo"
os.environ["RUDDY_STATE"] = tempfile.mkdtemp()
os.environ["RUDDY_DEMO_PASSWORD"] = os.environ["RUDDY_GATEWAY_TOKEN"] = "for-this-run-only"
django.setup()

from django.conf import settings  # noqa: E402
from django.core.management import call_command  # noqa: E402
from django.db import connection  # noqa: E402
from django.db.models import Model  # noqa: E402
from django.test import Client  # noqa: E402
from django.test.runner import DiscoverRunner  # noqa: E402

from launch.instance import HOST, free_port  # noqa: E402
from web.accounts.models import User  # noqa: E402
from web.houses.models import System  # noqa: E402
from web.visits import changes  # noqa: E402
from web.visits.models import Baseline, Round, Visit  # noqa: E402

Row = TypeVar("Row", bound=Model)

PAUSE_S = (3.0, 9.0)
PARTS = {"reference": "/sign-in/", "store": "/visits/entries/", "preview": "/preview/"}


def main(seconds: float, technicians: int) -> None:
    """Serve, load, measure, print."""
    log = Path(os.environ["RUDDY_STATE"]) / "access.log"
    with serve_demo(log) as port:
        wait_for(port)
        visits, cookie = (
            [_visit_like_todays() for _ in range(technicians)],
            session_of(User.objects.get(username="ines")),
        )
        print_cold(port, cookie, visits[0], log)
        print_first_load(port, cookie, visits[0])
        worker = Technician(port, cookie, visits[0])
        for _ in range(20):
            worker.work()
        print_times("one technician, nobody else", server_times(log, skip=0))
        # Everybody has the sheet open before the clock starts.
        workers = [Technician(port, cookie, visit) for visit in visits]
        skip = len(log.read_text().splitlines())
        before = _processor()
        run(workers, seconds)
        print(_busy(before, _processor()))
        rate = f"{technicians} technicians for {seconds:.0f} s, a reading every {PAUSE_S[0]:.0f} to {PAUSE_S[1]:.0f} s each"
        print_times(f"{rate}; {os.cpu_count()} cores, clients on them too", server_times(log, skip))


@contextmanager
def serve_demo(log: Path) -> Iterator[int]:
    """A fresh database with the demo's data, and the server on it; the port. Requests are logged with the microseconds
    they took.
    """
    runner = DiscoverRunner(verbosity=0, interactive=False)
    databases = runner.setup_databases()
    call_command("load_demo", verbosity=0)
    call_command("collectstatic", interactive=False, verbosity=0)
    port = free_port()
    server = _serve(port, log)
    try:
        yield port
    finally:
        server.terminate()
        server.wait()
        runner.teardown_databases(databases)


def _visit_like_todays() -> Visit:
    """A visit like the demo's fullest, on a machine of its own, with the baseline that its rounds are held to."""
    like = Visit.objects.filter(system__house__name="Hollow Lane 14", system__name="upstairs").latest("started_at")
    sealed = like.system.baselines.get(live=True)
    name = f"machine {System.objects.count()}"
    machine = _copy(like.system, name=name, serial="", indoor_serial="")
    for row in (*like.system.tables.all(), *like.system.rooms.all()):
        _copy(row, system=machine)
    first = _copied_round(sealed.round, machine)
    Baseline.objects.create(
        shop=sealed.shop, system=machine, mode=sealed.mode, round=first, sealed_by=sealed.sealed_by, why=sealed.why
    )
    return _copied_round(like.rounds.get(number=1), machine).visit


def _copied_round(like: Round, machine: System) -> Round:
    """The only round of a new visit of a machine, with what was read and seen in another."""
    round_ = changes.start_visit(like.visit.started_by, machine).rounds.get()
    for row in (*like.readings.all(), *like.observations.all()):
        _copy(row, round=round_)
    return round_


def _copy(row: Row, **other: object) -> Row:
    """A new row like another, under a number of its own."""
    row = copy(row)
    row.pk, row._state.adding = None, True
    numbers = {name: uuid.uuid4() for name in ("uuid", "public_id") if hasattr(row, name)}
    for name, value in (numbers | other).items():
        setattr(row, name, value)
    row.save(force_insert=True)
    return row


def session_of(person: User) -> str:
    """The cookie of a session of theirs."""
    client = Client()
    client.force_login(person)
    return f"{settings.SESSION_COOKIE_NAME}={client.cookies[settings.SESSION_COOKIE_NAME].value}"


def _serve(port: int, log: Path) -> subprocess.Popen:
    command = [
        str(Path(sys.executable).with_name("gunicorn")),
        "web.wsgi:application",
        f"--bind={HOST}:{port}",
        "--workers=2",
        "--threads=4",
    ]
    environment = {**os.environ, "RUDDY_DB_NAME": connection.settings_dict["NAME"]}
    return subprocess.Popen(
        [*command, "--log-level=warning", f"--access-logfile={log}", "--access-logformat=%(D)s %(U)s"], env=environment
    )


def wait_for(port: int) -> None:
    """Until it answers."""
    for _ in range(100):
        try:
            ask(port, "GET", "/sign-in/", {})
            return
        except OSError:
            time.sleep(0.1)
    raise SystemExit("the server did not start")


def ask(
    port: int, method: str, path: str, headers: dict, body: str | None = None
) -> tuple[http.client.HTTPResponse, bytes]:
    """One request: the answer and its whole body."""
    connection_ = http.client.HTTPConnection(HOST, port, timeout=30)
    connection_.request(method, path, body, headers)
    response = connection_.getresponse()
    content = response.read()
    connection_.close()
    if response.status >= 400:
        raise SystemExit(f"{path} answered {response.status}: {content[:200]!r}")
    return response, content


def _found(pattern: str, html: str) -> str:
    match = re.search(pattern, html)
    assert match is not None, pattern
    return match[1]


class Technician:
    """One technician on one visit."""

    def __init__(self, port: int, cookie: str, visit: Visit):
        self.port, self.visit, self.sequence, self.device = port, visit, 0, str(uuid.uuid4())
        self.round = str(visit.rounds.get().public_id)
        response, content = ask(port, "GET", visit.get_absolute_url(), {"Cookie": cookie})
        html = content.decode()
        token = _found(r'data-csrf="([^"]+)"', html)
        csrf = response.getheader("Set-Cookie", "").split(";")[0]
        self.headers = {"Cookie": f"{cookie}; {csrf}", "X-CSRFToken": token, "Referer": f"http://{HOST}:{port}/"}
        inputs = re.findall(r'<input[^>]*?name="([^"]+)"[^>]*?value="([^"]*)"( disabled)?', html.replace("\n", " "))
        self.fields = {name: value for name, value, disabled in inputs if not disabled}
        self.fields |= {"station": "read", "stop": "outdoor", "narrow": "true", "first": "false"}

    def work(self) -> None:
        """Store a reading, then ask for what it changes."""
        self.sequence += 1
        value, now = f"{random.uniform(88, 93):.1f}", datetime.now(UTC).isoformat()
        item = {
            "id": str(uuid.uuid4()),
            "kind": "reading",
            "round": self.round,
            "place": "outdoor",
            "quantity": "dry_bulb",
            "value": value,
            "unit": "degF",
            "sequence": self.sequence,
            "taken_at": now,
        }
        body = json.dumps({"device": self.device, "clock": now, "items": [item]})
        content = ask(
            self.port, "POST", "/visits/entries/", {**self.headers, "Content-Type": "application/json"}, body
        )[1]
        assert json.loads(content)["results"][0]["status"] == "stored", content
        form = urllib.parse.urlencode({**self.fields, "outdoor.dry_bulb": value})
        kind = {"Content-Type": "application/x-www-form-urlencoded", "Accept-Encoding": "gzip"}
        ask(self.port, "POST", f"{self.visit.get_absolute_url()}1/preview/", {**self.headers, **kind}, form)
        ask(self.port, "GET", "/sign-in/", {})


def run(workers: list[Technician], seconds: float) -> None:
    """All technicians at once for so many seconds."""
    until = time.perf_counter() + seconds

    def technician(worker: Technician) -> None:
        time.sleep(random.uniform(0, PAUSE_S[1]))
        while time.perf_counter() < until:
            worker.work()
            time.sleep(random.uniform(*PAUSE_S))

    threads = [threading.Thread(target=technician, args=(worker,)) for worker in workers]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()


def _processor() -> list[int]:
    """What the processors did so far, in ticks: user, nice, system, idle, waiting, interrupts (two), stolen."""
    return [int(ticks) for ticks in Path("/proc/stat").read_text().split("\n")[0].split()[1:9]]


def _busy(before: list[int], after: list[int]) -> str:
    """How busy the machine was between two readings, and how much of it its host kept for others."""
    spent = [b - a for a, b in zip(before, after, strict=True)]
    idle, stolen, whole = spent[3] + spent[4], spent[7], sum(spent)
    return f"the machine: {100 * (whole - idle - stolen) / whole:.0f} % busy, {100 * stolen / whole:.0f} % stolen by its host"


def server_times(log: Path, skip: int) -> dict[str, list[float]]:
    """Milliseconds the server took for each part, by its own log; skip: lines before that."""
    lines = [line.split() for line in log.read_text().splitlines()[skip:]]
    return {name: [int(micros) / 1000 for micros, path in lines if path.endswith(end)] for name, end in PARTS.items()}


def print_times(title: str, times: dict[str, list[float]]) -> None:
    """Median and 95th percentile of each part, their ratio to the reference, and store and preview together."""
    print(f"{title}; {len(times['store'])} readings. Server time:")
    reference = median(times["reference"])
    for name, taken in times.items():
        print(
            f"  {name:9}  median {median(taken):6.1f} ms   p95 {quantiles(taken, n=20)[-1]:6.1f} ms"
            f"   p99 {quantiles(taken, n=100)[-1]:6.1f} ms   {median(taken) / reference:5.1f} x reference"
        )
    together = median(times["store"]) + median(times["preview"])
    print(f"  stored reading to refreshed results: {together:.0f} ms, {together / reference:.1f} x reference")


def print_cold(port: int, cookie: str, visit: Visit, log: Path) -> None:
    """The first sheet that the server is asked for after it started, beside those that follow."""
    for _ in range(12):
        ask(port, "GET", visit.get_absolute_url(), {"Cookie": cookie})
    lines = [line.split() for line in log.read_text().splitlines()]
    sheets = [int(micros) / 1000 for micros, path in lines if path == visit.get_absolute_url()]
    print(f"a cold worker's first sheet: {sheets[0]:.0f} ms; of twelve the median {median(sheets):.0f} ms")


def print_first_load(port: int, cookie: str, visit: Visit) -> None:
    """Everything the sheet loads the first time, as it comes over the wire."""
    headers = {"Cookie": cookie, "Accept-Encoding": "gzip"}
    _, page = ask(port, "GET", visit.get_absolute_url(), headers)
    html = gzip.decompress(page).decode()
    sizes = {"page": len(page)}
    css = _found(r'<link rel="stylesheet" href="([^"]+)"', html)
    linked = [css, _found(r'<script src="([^"]+)"', html)]
    _, style = ask(port, "GET", css, headers)
    linked += [
        urllib.parse.urljoin(css, name)
        for name in re.findall(r'url\("?(fonts/[^")]+)', gzip.decompress(style).decode())
    ]
    for address in linked:
        sizes[address.rsplit("/", 1)[1]] = len(ask(port, "GET", address, headers)[1])
    print(
        "first load: "
        + ", ".join(f"{name} {size / 1024:.1f} KB" for name, size in sizes.items())
        + f"; together {sum(sizes.values()) / 1024:.0f} KB"
    )


if __name__ == "__main__":
    main(float(sys.argv[1]) if len(sys.argv) > 1 else 60.0, int(sys.argv[2]) if len(sys.argv) > 2 else 20)
