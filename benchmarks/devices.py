"""Devices, a gateway and people who write to a served shop and read from it while something breaks, and the invented
shop that they write to. The devices do what the page's outbox does: they send a batch again until each of its entries
is answered.
"""

import http.client
import json
import re
import subprocess
import sys
import threading
import time
import uuid
from datetime import UTC, datetime
from http.cookies import SimpleCookie
from multiprocessing import get_context

from launch.instance import HOST, PROJECT, Instance
from plant.gateway import Radio
from plant.live import Live
from plant.machine import Spec
from plant.places import Weather

NAME, PASSWORD, TOKEN = "draft.example", "plum-bob-and-string", "of-a-gateway-on-trial"
DEVICES, EACH, BATCH = 5, 200, 5
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
