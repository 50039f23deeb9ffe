"""Where the next step leads: simulated visits read as the page says, from nothing on, until it asks for no more.

    .venv/bin/python -m benchmarks.steps [--count 400] [--seed 9051] [--write]

A reading is what the simulated visit has of the place; what it has nothing of is not possible. A look shows what the
true fault shows most, else what a sound machine does. It ends where the page says what to mend, connects gauges for what
it tells, or has nothing more to read. --write puts the table in docs/next-step.md. Tuning was done on seeds under 9000.
"""

import argparse
from collections.abc import Iterator
from dataclasses import dataclass, replace
from multiprocessing import Pool
from pathlib import Path

from benchmarks.judgement import (
    ALARM,
    GROUP,
    MISSED,
    OPEN,
    RIGHT,
    SEVERITIES,
    WRONG,
    Score,
    interval,
    score,
    true_causes,
)
from engine.assessment import Assessment, assess
from engine.diagnosis.next_steps import Advice
from engine.diagnosis.observation_likelihoods import RATIOS, degrees_of
from engine.diagnosis.verdict import CANNOT_TELL
from engine.errors import EngineError
from engine.readings.round import NotPossible, Round
from engine.report.bundle.reading import visit_of
from engine.report.verdict_words import verdict_said
from engine.report.words import FAHRENHEIT
from plant.simulate import bundle

PAGE = Path(__file__).parent.parent / "docs" / "next-step.md"
MOST_STEPS = 40
SHOWS = 2.5  # how much likelier a degree has to be with a fault for a look to show it (working figure)
# title, kind, in heating
RUNS = (
    ("Cooling", "air_conditioner", False), ("Heating", "heat_pump", True),
    ("Ground source, cooling", "ground_source", False), ("Ground source, heating", "ground_source", True),
)  # fmt: skip


@dataclass(frozen=True)
class Followed:
    """One visit read step by step: how it was judged at last, after which steps, in how many minutes."""

    found: Assessment
    steps: tuple[str, ...]
    minutes: float


@dataclass(frozen=True)
class Scored:
    """The same, held against the truth."""

    score: Score
    steps: int
    minutes: float


def visit(seed: int, row: int, kind: str, heating: bool) -> tuple[str, Round]:
    """A simulated visit: its label, and all that there is to read."""
    found = visit_of(bundle(seed, row, kind, heating=heating, gauges=True, discharge=kind != "ground_source"))
    return found.name, found.rounds[0][1]


def scored(arguments: tuple[int, int, str, bool]) -> Scored | None:
    """One simulated visit. arguments: seed, row, kind, in heating. None where its readings are out of every range."""
    seed, row, kind, heating = arguments
    try:
        name, whole = visit(seed, row, kind, heating)
        causes, severity = true_causes(name, kind, heating)
        done = followed(whole, causes)
        return Scored(score("followed", done.found, causes, severity), len(done.steps), done.minutes)
    except EngineError:
        return None


def followed(whole: Round, causes: tuple[str, ...]) -> Followed:
    """A visit step by step. whole: all that there is to read; causes: what is wrong, as looks show it."""
    round_ = replace(whole, readings=tuple(r for r in whole.readings if r.place == "system"))
    steps, minutes = [], 0.0
    for _ in range(MOST_STEPS):
        found = assess(round_)
        advice = _next(found)
        if advice is None or advice.step.id in steps:
            break
        steps.append(advice.step.id)
        minutes += advice.minutes
        round_ = _taken(advice, round_, whole, causes)
    return Followed(found, tuple(steps), minutes)


def _next(found: Assessment) -> Advice | None:
    """The step that the page says comes next; where nothing is told, its first step whatever it says besides."""
    leads = verdict_said(found, FAHRENHEIT).leads
    if leads is None and found.verdict.state == CANNOT_TELL:
        return next(iter(found.diagnosis.steps), None)
    return leads


def _taken(advice: Advice, round_: Round, whole: Round, causes: tuple[str, ...]) -> Round:
    """The round with a step taken."""
    if look := advice.step.look:
        return replace(round_, observations={**round_.observations, look: _seen(look, causes)})
    readings, cannot = list(round_.readings), list(round_.not_possible)
    for place, ways in advice.left:
        there = [r for r in whole.readings if r.place == place and r.quantity in ways]
        readings += there
        cannot += [] if there else [NotPossible(place, "no_port", ways[0])]
    return replace(round_, readings=tuple(readings), not_possible=tuple(cannot))


def _seen(look: str, causes: tuple[str, ...]) -> str:
    """The degree of a look that a fault shows most; where none does, the first that shows nothing."""
    degrees = degrees_of(look)
    ratios = {degree: max(RATIOS.get((look, degree), {}).get(cause, 1.0) for cause in causes) for degree in degrees}
    shown = max(degrees, key=lambda degree: ratios[degree])
    if ratios[shown] >= SHOWS:
        return shown
    plain = [degree for degree in degrees if max(RATIOS.get((look, degree), {"": 1.0}).values()) <= 1.0]
    return plain[0] if plain else degrees[0]


def table(rows: list[Scored]) -> Iterator[str]:
    """A line a severity."""
    for severity in SEVERITIES:
        here = [row for row in rows if row.score.severity == severity]
        if not here:
            continue
        outcomes, n = [row.score.outcome for row in here], len(here)
        shares = [f"{100 * outcomes.count(o) / n:.1f}" for o in (RIGHT, GROUP, WRONG, ALARM, MISSED, OPEN)]
        shares.append(f"{100 * sum(row.score.harmful for row in here) / n:.1f}")
        low, high = (abs(round(100 * limit)) for limit in interval(outcomes.count(RIGHT) + outcomes.count(GROUP), n))
        took = f"{sum(row.steps for row in here) / n:.1f} | {sum(row.minutes for row in here) / n:.0f}"
        yield f"| {severity} | {n} | {' | '.join(shares)} | {low} to {high} | {took} |"


def report(runs: dict[str, list[Scored]], count: int, seed: int) -> str:
    """The page."""
    head = "| severity | visits | right | right group | wrong | false alarm | missed | withheld | harmful | said right, 95 % | steps | minutes |"
    lines = [
        "# Where the next step leads",
        "",
        f"{count} simulated visits of each kind (seeds from {seed} on) read as the page says, from nothing on, until it asks for no more: percent of a line, as in "
        "[judgement.md](judgement.md), and how many steps and minutes it took, walking and settling left out. A look shows what the true fault shows most. Made by "
        "`python -m benchmarks.steps --write`.",
        "",
    ]
    for title, rows in runs.items():
        lines += [f"## {title}", "", head, "|" + "---|" * 12, *table(rows), ""]
    return "\n".join(lines)


def main() -> None:
    """The command line."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=400)
    parser.add_argument("--seed", type=int, default=9051)
    parser.add_argument("--write", action="store_true")
    chosen = parser.parse_args()
    with Pool() as pool:
        runs = {
            title: [
                row
                for row in pool.imap(
                    scored, [(chosen.seed + n, row, kind, heating) for row in range(chosen.count)], chunksize=8
                )
                if row
            ]
            for n, (title, kind, heating) in enumerate(RUNS)
        }
    page = report(runs, chosen.count, chosen.seed)
    print(page)
    if chosen.write:
        PAGE.write_text(page)


if __name__ == "__main__":
    main()
