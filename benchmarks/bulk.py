"""Lines of full walks through the command line's own path, on one core and on all, against the bare PsychroLib calls
for the same visits.

Run: .venv/bin/python -m benchmarks.bulk [lines]
"""

import json
import os
import sys
import time

import psychrolib

from engine.assessment import assess, assess_many
from engine.report.bundle.answer import answer_of
from engine.report.bundle.batch import CHUNK, answered
from engine.report.bundle.reading import visit_of
from plant.simulate import bundle

psychrolib.SetUnitSystem(psychrolib.IP)
SEED, DISTINCT = 9101, 500


def bare(visit: dict) -> None:
    """The PsychroLib calls that a visit cannot do without: the air pressure and the state of the air wherever it was
    read.
    """
    pressure = psychrolib.GetStandardAtmPressure(visit["site"]["altitude"]["value"])
    read = {(r["place"], r["quantity"]): r["value"] for r in visit["rounds"][0]["readings"]}
    for (place, quantity), value in read.items():
        if quantity == "rh" and (place, "dry_bulb") in read:
            psychrolib.CalcPsychrometricsFromRelHum(read[place, "dry_bulb"], value / 100, pressure)


def all_bare(visits: list[dict]) -> None:
    """The same of many."""
    for visit in visits:
        bare(visit)


def timed(work) -> float:
    """Seconds that some work takes."""
    began = time.perf_counter()
    work()
    return time.perf_counter() - began


def main() -> None:
    """Print the table."""
    count, cores = int(sys.argv[1]) if len(sys.argv) > 1 else 4000, len(os.sched_getaffinity(0))
    visits = [bundle(SEED, row) for row in range(min(count, DISTINCT))]
    texts = [json.dumps(visit) for visit in visits]
    lines = [(number, texts[number % len(texts)]) for number in range(count)]
    rounds = [visit_of(visit).rounds[0][1] for visit in visits]
    for _ in range(3):
        assess(rounds[0])
    bare_one = timed(lambda: all_bare(visits)) / len(visits)
    one = timed(lambda: [answer_of(assess(round_)) for round_ in rounds]) / len(rounds)
    judged = timed(lambda: assess_many(rounds)) / len(rounds)
    alone = timed(lambda: list(answered(lines[: max(count // 4, CHUNK)], cores=1))) / max(count // 4, CHUNK)
    both = timed(lambda: list(answered(lines))) / count
    print(f"bare PsychroLib calls                             {1e3 * bare_one:8.3f} ms a visit")
    print(
        f"assessed with its answer, one by one              {1e3 * one:8.3f} ms a visit  {one / bare_one:7.1f} x bare"
    )
    print(
        f"assessed together, without words                  {1e3 * judged:8.3f} ms a visit  {judged / bare_one:7.1f} x bare"
    )
    print(
        f"a line, read, assessed and answered, one core     {1e3 * alone:8.3f} ms a visit  {alone / bare_one:7.1f} x bare"
    )
    print(
        f"a line, over {cores} cores                             {1e3 * both:8.3f} ms a visit  {both / bare_one:7.1f} x bare"
    )
    print(f"100,000 lines over {cores} cores: {both * 100_000 / 60:.1f} min")


if __name__ == "__main__":
    main()
