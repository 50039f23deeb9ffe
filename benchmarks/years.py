"""What it is worth to know the machine: simulated years, judged by the baseline alone, and by what the sound visits since
have taught and how the machine drifted.

    .venv/bin/python -m benchmarks.years [--machines 60] [--visits 12] [--seed 4001] [--write]

Each machine is sealed when it is sound and then visited each half year (plant.years). What a visit is told decides
whether the next ones learn from it, as in the shop. Each cell is by the baseline alone -> with the visits since. How
much narrower: what a sound machine may do today, mean of all quantities at the last visit. A fault that was never told
counts as told one visit after the last. --write puts the table in docs/kinds.md between its marks.
"""

import argparse
from collections.abc import Iterable
from dataclasses import dataclass
from math import exp, hypot, isnan, log, nan
from multiprocessing import Pool
from pathlib import Path
from statistics import mean

from engine.assessment import Assessment, assess, table_of
from engine.diagnosis.cause import HEALTHY
from engine.diagnosis.verdict import CAUSE, GROUP, SOUND
from engine.errors import EngineError
from engine.kinds.machine import Earlier, drifting, learnt
from engine.quantities.table import Table
from engine.report.bundle.reading import visit_of
from plant.population import Population
from plant.years import YEARS_BETWEEN, Course, visits_of

PAGE = Path(__file__).parent.parent / "docs" / "kinds.md"
FROM, TO = "<!-- years -->\n", "<!-- /years -->\n"
BAD_PROBE = {("liquid_line_outdoor", "temperature"): 4.0}
COURSES = (
    Course("sound"),
    Course("sound, two people by turns", people=2),
    Course("3 % of its charge lost a season", {"undercharge": 0.015 / 0.55}),
    Course("filter loads, changed each second year", {"blocked_filter": 0.002}, back_after=4),
    Course("filter loads and is never changed", {"blocked_filter": 0.002}),
    Course("coil fouls", {"dirty_evaporator": 0.004}),
    Course("condenser fouls", {"dirty_condenser": 0.04}),
    Course("one liquid line read 4 °F high", wrong={6: BAD_PROBE}),
)
BASELINE, KNOWN = "by the baseline", "with the visits since"
HEAD = """| course | machines | known narrower by, % | sound machine told a fault, % | called sound, % | fault first told at visit | one bad reading moves what is expected by |
|---|---|---|---|---|---|---|"""


@dataclass(frozen=True)
class Year:
    """One visit, judged one way: whether a fault was told, and each quantity's 95 % and expected value in tolerances."""

    told: bool
    sound: bool
    widths: dict[str, float]
    expected: dict[str, float]


def years_of(arguments: tuple[int, int, Course, int]) -> dict[str, list[Year]]:
    """One machine's visits, judged both ways."""
    seed, row, course, visits = arguments
    try:
        bundles = visits_of(seed, row, course, visits, Population("Shop"))
        rounds = [visit_of(bundle) for bundle in bundles]
    except EngineError:
        return {}
    baseline = table_of(rounds[0].baseline) if rounds[0].baseline else None
    if baseline is None:
        return {}
    found: dict[str, list[Year]] = {BASELINE: [], KNOWN: []}
    earlier: list[Earlier] = []
    for n, visit in enumerate(rounds, start=1):
        read = visit.rounds[0][1]
        known, trends = learnt(baseline, earlier), drifting(baseline, earlier)
        judged = {BASELINE: assess(read, baseline), KNOWN: assess(read, known, trends=trends)}
        for how, one in judged.items():
            found[how].append(_year(one))
        earlier.append(
            Earlier(n * YEARS_BETWEEN, table_of(read), judged[KNOWN].verdict.state == SOUND, course.people > 1)
        )
    return found


def _year(one: Assessment) -> Year:
    told = one.verdict.state in (CAUSE, GROUP) and one.verdict.group != HEALTHY
    return Year(told, one.verdict.state == SOUND, _widths(one.table), _expected(one.table))


def _widths(table: Table) -> dict[str, float]:
    return {id_: hypot(r.sound_u95, *r.pushes.values()) for id_, q in table.quantities.items() if (r := q.residual)}


def _expected(table: Table) -> dict[str, float]:
    return {id_: q.expected.value / q.high for id_, q in table.quantities.items() if q.high and q.expected.known}


def row_of(course: Course, machines: list[dict[str, list[Year]]], visits: int) -> str:
    """One line of the table."""
    narrower = [
        log(m[KNOWN][-1].widths[id_] / width)
        for m in machines
        for id_, width in m[BASELINE][-1].widths.items()
        if id_ in m[KNOWN][-1].widths
    ]
    cells = [f"{100 * (1 - exp(mean(narrower))):.0f}"]
    every = [[year for m in machines for year in m[how]] for how in (BASELINE, KNOWN)]
    first = [[_first_told(m[how], visits) for m in machines] for how in (BASELINE, KNOWN)]
    cells.append("" if course.grows else _two(f"{100 * mean(year.told for year in years):.1f}" for years in every))
    cells.append("" if course.grows else _two(f"{100 * mean(year.sound for year in years):.0f}" for years in every))
    cells.append(_two(f"{mean(times):.1f}" for times in first) if course.grows else "")
    moved = [by for bad in course.wrong for m in machines if (by := _moved(m, bad)) is not None]
    cells.append(f"{mean(moved):.2f} tolerances" if moved else "")
    return " | ".join(cells)


def _two(ways: Iterable[str]) -> str:
    return " -> ".join(ways)


def _first_told(years: list[Year], visits: int) -> int:
    return next((n for n, year in enumerate(years, start=1) if year.told), visits + 1)


def _moved(machine: dict[str, list[Year]], bad: int) -> float | None:
    """What the visit after a bad one expects of the approach otherwise than the bad one did, beside the baseline's."""
    by = [
        machine[KNOWN][n].expected.get("approach", nan) - machine[BASELINE][n].expected.get("approach", nan)
        for n in (bad - 1, bad)
    ]
    return None if isnan(sum(by)) else abs(by[1] - by[0])


def main() -> None:
    """The command line."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--machines", type=int, default=60)
    parser.add_argument("--visits", type=int, default=12)
    parser.add_argument("--seed", type=int, default=4001)
    parser.add_argument("--only", default="")
    parser.add_argument("--write", action="store_true")
    chosen = parser.parse_args()
    lines = [HEAD]
    print(HEAD)
    with Pool() as pool:
        for course in COURSES:
            if chosen.only not in course.name:
                continue
            asked = [(chosen.seed, row, course, chosen.visits) for row in range(chosen.machines)]
            machines = [found for found in pool.map(years_of, asked) if found]
            lines.append(f"| {course.name} | {len(machines)} | {row_of(course, machines, chosen.visits)} |")
            print(lines[-1], flush=True)
    if chosen.write:
        before, _, rest = PAGE.read_text().partition(FROM)
        PAGE.write_text(f"{before}{FROM}{chr(10).join(lines)}\n{TO}{rest.partition(TO)[2]}")


if __name__ == "__main__":
    main()
