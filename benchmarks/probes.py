"""Fifty sheets live at once: gateways post a batch a second, sheets ask a second; how old is the newest sample that is
shown, in one run.

Run: .venv/bin/python -m launch with-test-database -- .venv/bin/python -m benchmarks.probes [seconds] [sheets]

The houses run here, not in the server; one house's minutes, from the plant, serve all gateways, each with its own
noise. The sign-in page, which touches nothing of the job, is the reference of the same run.
"""

import json
import sys
import tempfile
import threading
import time
from datetime import UTC, datetime
from pathlib import Path
from statistics import median, quantiles

from benchmarks.visits import ask, serve_demo, session_of, wait_for
from plant.gateway import Radio
from plant.live import Live
from plant.machine import Spec
from plant.places import Weather
from web.accounts.models import User
from web.houses.models import System
from web.probes.models import Probe
from web.probes.services import add_gateway
from web.visits import changes

SHEETS, PLACES = (
    50,
    {
        "air-return": "return_unit",
        "air-supply": "supply_plenum",
        "air-outdoor": "outdoor",
        "clamp-liquid": "liquid_line_outdoor",
    },
)


def main(seconds: float, sheets: int) -> None:
    """Serve, post, ask, print."""
    with serve_demo(Path(tempfile.mkdtemp()) / "access.log") as port:
        wait_for(port)
        person = User.objects.get(username="ines")
        gateways = [add_gateway(person, f"Van {n}")[1] for n in range(sheets)]
        house = recorded(seconds)
        for n, token in enumerate(gateways):
            post(port, token, house[0], 0, n)
        visits = [_held(person, n) for n in range(sheets)]
        ages, troubles, references = run(port, gateways, visits, session_of(person), house, seconds)
    print(
        f"{sheets} sheets for {seconds:.0f} s: {len(ages)} looks, {len(troubles)} errors{': ' + troubles[0] if troubles else ''}"
    )
    print(f"age of the newest sample shown: median {median(ages):.2f} s, p95 {quantiles(ages, n=20)[-1]:.2f} s")
    reference, look, batch = (median(references[kind]) for kind in ("reference", "look", "batch"))
    print(
        f"a look {1000 * look:.0f} ms, {look / reference:.1f} x the reference; a batch {1000 * batch:.0f} ms, {batch / reference:.1f} x"
    )


def recorded(seconds: float) -> list[list[dict]]:
    """Every second's samples of one house. A probe that drops out is filled in: its silence is not the server's."""
    live = Live(Spec(), Weather(), {})
    live.start()
    radio, found = Radio(live), []
    last: dict = {}
    for _ in range(int(seconds) + 5):
        live.advance(1.0)
        last |= {(sample["probe"], sample["channel"]): sample for sample in radio.second(datetime.now(UTC))}
        found.append(list(last.values()))
    return found


def post(port: int, token: str, samples: list[dict], second: int, n: int) -> None:
    """One batch of one gateway, with this moment's times and numbers of its own."""
    now = datetime.now(UTC).isoformat()
    batch = [
        {**sample, "taken_at": now, "sequence": second + 1, "value": sample["value"] + 0.01 * (n % 7)}
        for sample in samples
    ]
    headers = {"Authorization": f"Bearer {token}", "Content-Type": "application/json"}
    ask(port, "POST", "/probes/samples/", headers, json.dumps({"clock": now, "samples": batch}))


def _held(person: User, n: int):
    """A visit of its own with its gateway's probes held to their places."""
    visit = changes.start_visit(person, System.objects.filter(house__shop=person.shop)[n % 20])
    for probe in Probe.objects.filter(gateway__name=f"Van {n}", name__in=PLACES):
        changes.pair(person, visit, PLACES[probe.name], PLACES[probe.name], probe)
    return visit


def run(
    port: int, tokens: list[str], visits: list, cookie: str, house: list, seconds: float
) -> tuple[list[float], list[str], dict]:
    """A thread a gateway and a thread a sheet, for so many seconds: ages shown, errors, and what each kind of request
    took.
    """
    ages: list[float] = []
    troubles: list[str] = []
    took: dict[str, list[float]] = {"look": [], "batch": [], "reference": []}
    began = time.monotonic()

    def every_second(n: int, work) -> None:
        time.sleep(n / len(tokens))
        for second in range(1, int(seconds)):
            try:
                work(n, second)
            except (SystemExit, OSError) as error:
                troubles.append(str(error))
            time.sleep(max(0.0, began + n / len(tokens) + second - time.monotonic()))

    def timed(kind: str, call) -> tuple:
        start = time.perf_counter()
        answer = call()
        took[kind].append(time.perf_counter() - start)
        return answer

    def gateway(n: int, second: int) -> None:
        timed("batch", lambda: post(port, tokens[n], house[second], second, n))

    def sheet(n: int, second: int) -> None:
        _, content = timed("look", lambda: ask(port, "GET", f"{visits[n].get_absolute_url()}live/", {"Cookie": cookie}))
        ages.extend(min(c["age"] for c in p["channels"]) for p in json.loads(content)["pairings"] if p["channels"])
        if n == 0:
            timed("reference", lambda: ask(port, "GET", "/sign-in/", {}))

    threads = [
        threading.Thread(target=every_second, args=(n, work)) for work in (gateway, sheet) for n in range(len(tokens))
    ]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return ages, troubles, took


if __name__ == "__main__":
    main(float(sys.argv[1]) if len(sys.argv) > 1 else 300.0, int(sys.argv[2]) if len(sys.argv) > 2 else SHEETS)
