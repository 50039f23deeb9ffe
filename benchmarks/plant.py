"""A point of the plant, cold and from its neighbour, and a cooling season hour by hour, against CoolProp calls of the
same run; ratios printed.

Run: .venv/bin/python -m benchmarks.plant [hours]
"""

import sys
import time
from math import cos, pi
from random import Random
from statistics import median

from CoolProp.CoolProp import PropsSI

from plant.machine import METERING_DEVICES, Spec
from plant.places import Weather, run
from plant.sizing import machine
from plant.steady import NotConverged

YEAR_HOURS, SEASON_HOURS = 8760, 3650


def season(hours: int) -> list[Weather]:
    """Made-up hours of a warm season: day and night, warm and cool weeks."""
    random, made = Random(3), []
    for hour in range(hours):
        daily, weekly = -9.0 * cos(2 * pi * (hour % 24 - 3) / 24), 6.0 * cos(2 * pi * hour / 300)
        made.append(Weather(74 + random.uniform(-1, 1), 50 + random.uniform(-5, 5), 84 + daily + weekly, 50.0))
    return made


def coolprop_call() -> float:
    """Seconds of one saturation call."""
    began = time.perf_counter()
    for step in range(200):
        PropsSI("H", "T", 280.0 + 0.1 * step, "Q", 1, "R410A")
    return (time.perf_counter() - began) / 200


def main(hours: int) -> None:
    """Measure and print."""
    call = coolprop_call()
    for device in METERING_DEVICES:
        m, weathers = machine(Spec(metering_device=device)), season(hours)
        cold = []
        for weather in weathers[:40]:
            began = time.perf_counter()
            run(m, weather)
            cold.append(time.perf_counter() - began)
        failed, start, began = 0, None, time.perf_counter()
        for weather in weathers:
            try:
                start = run(m, weather, start=start).state.unknowns
            except NotConverged:
                failed += 1
        warm = (time.perf_counter() - began) / hours
        alone, worst = 1000 * median(cold), 1000 * max(cold)
        print(
            f"{device}: a point by itself, median {alone:.1f} ms, worst {worst:.1f} ms, {median(cold) / call:.0f} x one CoolProp call"
        )
        print(f"  {hours} hours in a row: {1000 * warm:.1f} ms each, {warm / call:.0f} x; without an answer: {failed}")
        print(f"  a year of hours {warm * YEAR_HOURS:.0f} s, a season of five months {warm * SEASON_HOURS:.0f} s")


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 1000)
