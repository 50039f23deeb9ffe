"""A full assessment (with uncertainty) against the bare PsychroLib calls it needs; one run, ratios printed.

Run: .venv/bin/python -m benchmarks.assessment [rows]
"""

import sys
import time

import numpy as np
import psychrolib

from engine.assessment import assess, assess_many
from engine.expected.today import expected_side
from engine.physics.air.state import states
from engine.readings.air_side import air_side
from engine.readings.inputs import as_sources, numbers_of, pushes_of, setup_of
from engine.readings.round import Equipment, Instrument, Reading, Round
from engine.uncertainty.propagation import carry_on, propagate

psychrolib.SetUnitSystem(psychrolib.IP)


def rounds(count: int) -> list[Round]:
    """Plausible rounds, seeded."""
    random = np.random.default_rng(1)
    made = []
    for _ in range(count):
        values = (
            ("return_unit", "dry_bulb", random.uniform(72, 80)),
            ("return_unit", "rh", random.uniform(40, 60)),
            ("supply_plenum", "dry_bulb", random.uniform(52, 58)),
            ("supply_plenum", "rh", random.uniform(80, 92)),
            ("outdoor", "dry_bulb", random.uniform(80, 100)),
            ("system", "running_time", 20.0),
        )
        readings = [Reading(place, quantity, value, "p") for place, quantity, value in values]
        readings.append(Reading("blower", "airflow", random.uniform(1000, 1250), None, "blower_table"))
        made.append(
            Round(
                Equipment(3.0, metering_device="txv"),
                1150.0,
                tuple(readings),
                {"strip_heat": "off"},
                (Instrument("p"),),
            )
        )
    return made


def bare(round_: Round) -> None:
    """The PsychroLib calls a single assessment cannot do without: two states and the wet bulb of the return."""
    p = psychrolib.GetStandardAtmPressure(round_.altitude_ft)
    value = {(r.place, r.quantity): r.value for r in round_.readings}
    for place in ("return_unit", "supply_plenum"):
        psychrolib.CalcPsychrometricsFromRelHum(value[place, "dry_bulb"], value[place, "rh"] / 100, p)


def all_bare(many: list[Round]) -> None:
    """The same of many."""
    for round_ in many:
        bare(round_)


def numbers_only(round_: Round) -> None:
    """The numeric part of an assessment: every quantity with its uncertainty and covariance, no words."""
    setup, numbers = setup_of(round_), numbers_of(round_)
    sources = as_sources([pushes_of(round_, setup, numbers)])
    carried = propagate(air_side(setup), {name: np.array([value], float) for name, value in numbers.items()}, sources)
    carry_on(carried, expected_side(setup))


def seconds(work, least: float = 1.0) -> float:
    """The best of repeated runs, for at least `least` seconds."""
    best, spent = float("inf"), 0.0
    while spent < least:
        began = time.perf_counter()
        work()
        taken = time.perf_counter() - began
        best, spent = min(best, taken), spent + taken
    return best


def main() -> None:
    """Print the table."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 2000
    many = rounds(count)
    one = many[0]
    points = 1 + 2 * len(assess(one).measured.carried.sources)
    bare_one = seconds(lambda: bare(one))
    bare_many = seconds(lambda: all_bare(many))
    full_one = seconds(lambda: assess(one))
    numeric = seconds(lambda: numbers_only(one))
    full_many = seconds(lambda: assess_many(many), 3.0)
    dry_bulb = np.array([r.readings[0].value for r in many])
    rh = np.array([r.readings[1].value for r in many])
    ours_states = seconds(lambda: states(dry_bulb, "rh", rh, 1150.0))

    def theirs():
        for t, x in zip(dry_bulb, rh, strict=True):
            psychrolib.CalcPsychrometricsFromRelHum(t, x / 100, 14.1)

    their_states = seconds(theirs)
    print(f"bare PsychroLib calls, one visit              {1e3 * bare_one:8.3f} ms")
    print(
        f"full assessment, one visit, {points} points      {1e3 * full_one:8.3f} ms   {full_one / bare_one:6.1f} x bare"
    )
    print(f"  of it the numbers, with covariance          {1e3 * numeric:8.3f} ms   {numeric / bare_one:6.1f} x bare")
    print(f"  the same against {points} x bare, for its uncertainty       {full_one / (points * bare_one):6.2f} x")
    per_visit = 1e3 * full_many / count
    print(f"full assessment, batch of {count}, a visit       {per_visit:8.3f} ms   {full_many / bare_many:6.1f} x bare")
    print(f"  the same against {points} x bare                               {full_many / (points * bare_many):6.2f} x")
    print(
        f"  of these took the sample                    {sum(bool(found.measured.carried.sampled[found.measured.row]) for found in assess_many(many)):8d}"
    )
    print(
        f"air states alone, batch of {count}: {their_states / ours_states:6.1f} times as fast as PsychroLib one by one"
    )


if __name__ == "__main__":
    main()
