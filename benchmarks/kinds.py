"""How much it helps to know the kind: visits judged with what 0 to 300 sound visits of the same shop have taught.

    .venv/bin/python -m benchmarks.kinds [--count 240] [--seed 3001] [--write]

Populations (plant.population) that are tighter, as they are, and looser than the engine allows; one whose sound machines
have half of them lost a little charge; one whose outdoor probe reads 2 °F high; lines that were never met; heat pumps in
heating; ground source in both modes. Scores as in benchmarks.judgement. Half of the sound visits are confirmed, but for the two that mislead: none. --write puts the table
in docs/kinds.md between its marks.
"""

import argparse
import time
from collections import Counter
from dataclasses import replace
from multiprocessing import Pool
from pathlib import Path

from benchmarks.judgement import (
    ALARM,
    BARE,
    GROUP,
    HEATING_TRUTH,
    MISSED,
    PLATE,
    RIGHT,
    TWO,
    WATER_TRUTH,
    Score,
    calibration,
    score,
    truth_of,
)
from engine.assessment import assess, tables_of
from engine.diagnosis.cause import HEALTHY
from engine.errors import EngineError
from engine.kinds.kind import Kind
from engine.kinds.learning import Lesson, learn, lesson_of
from engine.readings.round import Round
from engine.report.bundle.reading import visit_of
from plant.population import Population
from plant.simulate import bundle

PAGE = Path(__file__).parent.parent / "docs" / "kinds.md"
FROM, TO = "<!-- measured -->\n", "<!-- /measured -->\n"
AFTER = (0, 3, 10, 30, 100, 300)
# Whose visits teach, and whose are judged where those are others; in heating where the name ends so.
POPULATIONS = {
    "tighter": (Population("Tight", within=0.4), None),
    "as it is": (Population("Shop"), None),
    "looser": (Population("Loose", between=1.5, within=2.5), None),
    "never met": (Population("Shop"), Population("Shop", first=100)),
    "half low on charge": (Population("Low", low_on_charge=0.5), Population("Low")),
    "probe 2 °F high": (Population("Probe", probe_off_f=2.0), Population("Probe")),
    "heat pumps, heating": (Population("Heat", kind="heat_pump"), None),
    "ground source": (Population("Loop", kind="ground_source"), None),
    "ground source, heating": (Population("Loop", kind="ground_source"), None),
}
MISLEADING = ("half low on charge", "probe 2 °F high")


def sound_visit(arguments: tuple[Population, bool, int, int]) -> Round | None:
    """One visit to teach by: a machine of the population without a fault."""
    population, heating, seed, row = arguments
    try:
        found = bundle(seed, row, population.kind, faults=[], heating=heating, population=population)
        return visit_of(found).rounds[0][1]
    except EngineError:
        return None


def taught_by(rounds: list[Round | None], confirmed: bool) -> list[Lesson]:
    """The visits to learn from; every second one confirmed, or none."""
    tables = tables_of([round_ for round_ in rounds if round_])
    return [
        lesson_of(table, str(n), confirmed and n % 2 == 0)
        for n, table in enumerate(tables)
        if not isinstance(table, EngineError)
    ]


def judged(arguments: tuple[Population, bool, int, int, dict[int, Kind]]) -> dict[int, Score]:
    """One visit judged after each number of sound ones."""
    population, heating, seed, row, kinds = arguments
    try:
        visit = visit_of(bundle(seed, row, population.kind, heating=heating, population=population))
    except EngineError:
        return {}
    names = WATER_TRUTH if population.kind == "ground_source" else HEATING_TRUTH if heating else {}
    truth = [(names.get(cause, cause), severity) for cause, severity in truth_of(visit.name)]
    causes = tuple(cause for cause, _ in truth) or (HEALTHY,)
    severity = TWO if len(truth) > 1 else truth[0][1] if truth else "sound"
    return {n: score(str(n), assess(visit.rounds[0][1], kind=kind), causes, severity) for n, kind in kinds.items()}


def row_of(scores: list[Score]) -> str:
    """One line of the table."""
    single = [s for s in scores if s.severity not in ("sound", TWO, PLATE, BARE)]
    sound, severe = [s for s in scores if s.severity == "sound"], [s for s in single if s.severity == "severe"]
    count = Counter(s.outcome for s in single)
    shares = [
        100 * (count[RIGHT] + count[GROUP]) / len(single),
        100 * sum(s.outcome == RIGHT for s in sound) / len(sound),
        100 * sum(s.outcome == ALARM for s in sound) / len(sound),
        100 * sum(s.harmful for s in scores) / len(scores),
        100 * sum(s.outcome == MISSED for s in severe) / max(len(severe), 1),
        calibration([replace(s, how="all") for s in scores], "all")[0],
    ]
    return " | ".join(f"{share:.1f}" for share in shares)


def main() -> None:
    """The command line."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=240)
    parser.add_argument("--seed", type=int, default=3001)
    parser.add_argument("--only", choices=POPULATIONS)
    parser.add_argument("--write", action="store_true")
    chosen = parser.parse_args()
    lines = [
        "| machines | sound visits | said right | called sound | false alarm | harmful | severe missed | calibration |",
        "|---|---|---|---|---|---|---|---|",
    ]
    learning = []
    with Pool() as pool:
        for name, (taught, met) in POPULATIONS.items():
            if chosen.only not in (None, name):
                continue
            heating = name.endswith("heating")
            rows = [(taught, heating, chosen.seed, row) for row in range(max(AFTER))]
            sound = taught_by(pool.map(sound_visit, rows, chunksize=10), name not in MISLEADING)
            kinds = {0: Kind({})}
            for n in AFTER[1:]:
                began = time.perf_counter()
                kinds[n] = learn(sound[:n])
                learning.append((n, time.perf_counter() - began))
            asked = [(met or taught, heating, chosen.seed + 1, row, kinds) for row in range(chosen.count)]
            scores = [found for found in pool.map(judged, asked, chunksize=10) if found]
            for n in AFTER:
                lines.append(f"| {name} | {n} | {row_of([found[n] for found in scores])} |")
                print(lines[-1], flush=True)
            for of in kinds[max(AFTER)].settings.values():
                for suspicion in of.suspicions:
                    print("  suspicion:", suspicion)
    print(f"learning from {learning[-1][0]} visits: {1000 * learning[-1][1]:.0f} ms")
    if chosen.write:
        before, _, rest = PAGE.read_text().partition(FROM)
        PAGE.write_text(before + FROM + "\n".join(lines) + "\n" + TO + rest.partition(TO)[2])


if __name__ == "__main__":
    main()
