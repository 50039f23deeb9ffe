"""A simulated gateway: a house from the plant, read by noisy wireless probes, sent about once a second through the same
interface as any other.

Run by `./ruddy demo`, or: RUDDY_GATEWAY_TOKEN=... python -m plant.gateway --url http://127.0.0.1:8780/probes/samples/
[--speed 1]

It has what real ones have: noise, drop-outs, batches that come late or twice, a clock that is off, a battery that runs
flat.
"""

import argparse
import json
import os
import sys
import time
import urllib.error
import urllib.request
from collections import deque
from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from random import Random
from typing import Any

from plant.live import Live
from plant.machine import Spec
from plant.places import Weather

# probe -> what it is held to: (channel, place, quantity), its noise (standard deviation) and its lasting offset
PROBES = {
    "air-return": (("dry_bulb", "return_unit", "dry_bulb"), ("rh", "return_unit", "rh")),
    "air-supply": (("dry_bulb", "supply_plenum", "dry_bulb"), ("rh", "supply_plenum", "rh")),
    "air-outdoor": (("dry_bulb", "outdoor", "dry_bulb"),),
    "clamp-liquid": (("temperature", "liquid_line_outdoor", "temperature"),),
    "clamp-suction": (("temperature", "suction_line_outdoor", "temperature"),),
    "manometer-return": (("static_pressure", "return_plenum", "static_pressure"),),
    "manometer-supply": (("static_pressure", "supply_plenum", "static_pressure"),),
    "amp-clamp": (("current", "compressor", "current"),),
}
NOISE = {"dry_bulb": 0.06, "rh": 0.4, "temperature": 0.08, "static_pressure": 0.004, "current": 0.04, "pressure": 0.3}
OFFSET = {"dry_bulb": 0.3, "rh": 1.2, "temperature": 0.35, "static_pressure": 0.002, "current": 0.05, "pressure": 0.6}
UNITS = {
    "dry_bulb": "degF",
    "rh": "pct",
    "temperature": "degF",
    "static_pressure": "inwc",
    "current": "A",
    "pressure": "psi",
}
DECIMALS = {"static_pressure": 3}
# Of a second's batches: the radio loses some for a while, holds one back, sends one again.
DROP_OUT, LATE, TWICE = 0.01, 0.02, 0.02
DROP_OUT_S, CLOCK_OFF_S = (4.0, 15.0), 3.0
FLAT_PROBE, FLAT_FROM_PCT, FLAT_PCT_PER_H = "clamp-suction", 16.0, 4.0
MOST_WAITING = 120  # batches kept while nobody answers
LOWEST_RH, HIGHEST_RH = 0.0, 100.0


@dataclass
class Radio:
    """Turns what is at the places into batches, with all that goes wrong on the way. Everything follows from the
    seed.
    """

    live: Live
    seed: int = 1
    sequence: int = 0
    waiting: deque[list[dict[str, Any]]] = field(default_factory=lambda: deque(maxlen=MOST_WAITING))

    def __post_init__(self) -> None:
        self._random = Random(self.seed)
        self._offsets = {
            (p, channel): self._random.gauss(0, OFFSET[channel]) for p, held in PROBES.items() for channel, _, _ in held
        }
        self._silent_until: dict[str, float] = {}

    def second(self, now: datetime) -> list[dict[str, Any]]:
        """The samples of this second, by the gateway's own clock."""
        self.sequence += 1
        values, samples = self.live.values(), []
        for probe, held in PROBES.items():
            if self._is_silent(probe):
                continue
            for channel, place, quantity in held:
                if (place, quantity) in values:
                    samples.append(self._sample(probe, channel, values[place, quantity], now))
        return samples

    def _is_silent(self, probe: str) -> bool:
        if self._random.random() < DROP_OUT:
            self._silent_until[probe] = self.live.seconds + self._random.uniform(*DROP_OUT_S)
        return self.live.seconds < self._silent_until.get(probe, -1.0) or self.battery_pct(probe) <= 0

    def battery_pct(self, probe: str) -> float:
        """How full a probe's battery is; one of them runs flat."""
        hours = self.live.seconds / 3600.0
        return max(0.0, FLAT_FROM_PCT - FLAT_PCT_PER_H * hours) if probe == FLAT_PROBE else 90.0 - 0.5 * hours

    def _sample(self, probe: str, channel: str, true: float, now: datetime) -> dict[str, Any]:
        read = true + self._offsets[probe, channel] + self._random.gauss(0, NOISE[channel])
        if channel == "rh":
            read = min(max(read, LOWEST_RH), HIGHEST_RH)
        return {
            "probe": probe,
            "channel": channel,
            "value": round(max(read, 0.0) if channel == "current" else read, DECIMALS.get(channel, 2)),
            "unit": UNITS[channel],
            "taken_at": now.isoformat(),
            "sequence": self.sequence,
            "battery": round(self.battery_pct(probe), 1),
            "signal": -60.0,
        }

    def on_its_way(self, samples: list[dict[str, Any]]) -> Iterator[list[dict[str, Any]]]:
        """What the radio lets through now: held-back batches first, some twice."""
        if self._random.random() < LATE:
            self.waiting.append(samples)
            return
        while self.waiting:
            yield self.waiting.popleft()
        yield samples
        if self._random.random() < TWICE:
            yield samples


def post(url: str, token: str, samples: list[dict[str, Any]], clock: datetime) -> int:
    """Send a batch; the answer's status, or 0 when nobody answers."""
    body = json.dumps({"clock": clock.isoformat(), "samples": samples}).encode()
    headers = {"Content-Type": "application/json", "Authorization": f"Bearer {token}"}
    try:
        with urllib.request.urlopen(urllib.request.Request(url, body, headers), timeout=5) as answer:
            return int(answer.status)
    except urllib.error.HTTPError as error:
        return error.code
    except OSError:
        return 0


def main(arguments: list[str] | None = None) -> int:
    """Post until stopped; 2 when there is no token, 1 when it is refused."""
    parser = argparse.ArgumentParser(prog="plant.gateway", description="A simulated probe gateway.")
    parser.add_argument("--url", required=True)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--seconds", type=float, default=float("inf"), help="stop after so long")
    chosen = parser.parse_args(arguments)
    token = os.environ.get("RUDDY_GATEWAY_TOKEN", "")
    if not token:
        print("RUDDY_GATEWAY_TOKEN is not set", file=sys.stderr)
        return 2
    live = Live(Spec(), Weather(78.0, 56.0, 91.0, 45.0, altitude_ft=1150.0), {"blocked_filter": 0.15})
    live.start()
    # numbers go on counting up over a restart, as the interface asks
    radio, began = Radio(live, chosen.seed, sequence=int(time.time())), time.monotonic()
    while time.monotonic() - began < chosen.seconds:
        live.advance(max(time.monotonic() - began - live.seconds, 0.0))
        clock = datetime.now(UTC) - timedelta(seconds=CLOCK_OFF_S)
        for batch in radio.on_its_way(radio.second(clock)):
            status = post(chosen.url, token, batch, clock) if batch else 200
            if status in (401, 403):
                print(f"the gateway's token is refused ({status})", file=sys.stderr)
                return 1
            if status in (0, 429, 500, 502, 503):
                radio.waiting.append(batch)
                break
        time.sleep(max(0.0, 1.0 - (time.monotonic() - began) % 1.0))
    return 0


if __name__ == "__main__":
    try:
        sys.exit(main())
    except KeyboardInterrupt:
        sys.exit(0)
