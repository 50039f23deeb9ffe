"""Which faults look alike in which readings: how far apart the likeliest of each lie, in standard deviations of sound
machines, instruments and what the signs may be off.

    .venv/bin/python -m benchmarks.apart [--write]

A moderate fault against each other one at the level that comes nearest to it. Under two standard deviations they are
taken for each other; no rule and no learning can tell them, only another reading. --write puts the table in
docs/apart.md.
"""

import argparse
from dataclasses import dataclass
from itertools import combinations
from pathlib import Path

import numpy as np

from benchmarks.judgement import AIR, HOT, LINES, cut, without
from engine.assessment import assess
from engine.diagnosis.cause import HEALTHY, PLATE
from engine.diagnosis.causes import Setting, causes_in, setting_of
from engine.diagnosis.likelihood import WIDENING, hypotheses_for, shifts_of
from engine.quantities.residual import stacked
from engine.readings.round import ORIFICE, TXV, Round, without_gauges
from engine.report.bundle.reading import visit_of
from plant.simulate import bundle

PAGE = Path(__file__).parent.parent / "docs" / "apart.md"
SEED = 8101
TOLD_APART = 2.0  # standard deviations: of two that are as likely before, one in six is taken for the other
LEFT_OUT = (HEALTHY, PLATE, "probe")
WAYS = ("air", "air and lines", "full walk", "full walk, discharge line", "full walk, gauges")


@dataclass(frozen=True)
class Way:
    """One way of reading a machine. causes: of each row, a level each. shifts, variances: of the quantities under it and
    of what its signs may be off, shapes (rows, quantities); covariance: of a sound machine's readings.
    """

    causes: tuple[str, ...]
    shifts: np.ndarray
    variances: np.ndarray
    covariance: np.ndarray

    def apart(self, one: str, other: str) -> float:
        """How far a moderate fault lies from the nearest level of another, in standard deviations."""
        rows = [i for i, cause in enumerate(self.causes) if cause == one]
        middle = rows[(len(rows) - 1) // 2]
        return min(self._distance(middle, i) for i, cause in enumerate(self.causes) if cause == other)

    def _distance(self, one: int, other: int) -> float:
        off = self.shifts[one] - self.shifts[other]
        wide = self.covariance + np.diag(self.variances[one] + self.variances[other])
        return float(np.sqrt(off @ np.linalg.solve(wide, off)))


def way_of(round_: Round) -> Way:
    """What these readings can tell, of a sound machine read so."""
    residuals = assess(round_).diagnosis.residuals
    of = hypotheses_for(tuple(r.kind.id for r in residuals), setting_of(round_))
    shifts, doubts = shifts_of(of, residuals)
    single = [i for i, causes in enumerate(of.causes) if len(causes) == 1]
    _, covariance = stacked(residuals)
    names = tuple(of.causes[i][0] for i in single)
    return Way(names, shifts[single], WIDENING**2 * doubts[single] ** 2, WIDENING**2 * covariance)


def ways_of(device: str) -> dict[str, Way]:
    """Every way of reading one sound air conditioner with this metering device."""
    rows = (visit_of(bundle(SEED, row, faults=[], gauges=True, discharge=True)) for row in range(40))
    read = next(v.rounds[0][1] for v in rows if v.rounds[0][1].equipment.metering_device == device)
    hot = without_gauges(read)
    walk = without(HOT, hot)
    rounds = (cut(walk, AIR), cut(walk, LINES), walk, hot, without(HOT, read))
    return {name: way_of(round_) for name, round_ in zip(WAYS, rounds, strict=True)}


Apart = tuple[tuple[str, ...], list[float]]


def rows_of(found: list[Apart], device: str) -> list[str]:
    """Lines of a table: what a full walk does not tell, nearest first."""
    known, at = causes_in(Setting(device)), WAYS.index("full walk")
    lines = []
    for names, distances in sorted((row for row in found if row[1][at] < TOLD_APART), key=lambda row: row[1][at]):
        told = " | ".join(f"**{d:.1f}**" if d >= TOLD_APART else f"{d:.1f}" for d in distances)
        lines.append(f"| {' | '.join(known[name].label for name in names)} | {told} |")
    return lines


def from_sound(ways: dict[str, Way], device: str) -> list[str]:
    """Moderate faults that a full walk does not tell from a sound machine."""
    causes = [c.id for c in causes_in(Setting(device)).values() if c.id != HEALTHY and not c.probe]
    found: list[Apart] = [((c,), [way.apart(c, HEALTHY) for way in ways.values()]) for c in causes]
    return [f"| a moderate one | {' | '.join(WAYS)} |", "|---|" + "---|" * len(WAYS), *rows_of(found, device)]


def from_each_other(ways: dict[str, Way], device: str) -> list[str]:
    """Pairs of faults that a full walk does not tell apart, of each pair of groups the two that are nearest."""
    known = causes_in(Setting(device))
    of_group: dict[str, list[str]] = {}
    for cause in known.values():
        if cause.group not in LEFT_OUT:
            of_group.setdefault(cause.group, []).append(cause.id)
    found: list[Apart] = []
    for one, other in combinations(of_group, 2):
        nearest = min(
            ((a, b) for a in of_group[one] for b in of_group[other]), key=lambda pair: ways["full walk"].apart(*pair)
        )
        found.append((nearest, [min(way.apart(*nearest), way.apart(*nearest[::-1])) for way in ways.values()]))
    head = [f"| one | the other | {' | '.join(WAYS)} |", "|---|---|" + "---|" * len(WAYS)]
    return head + rows_of(found, device)


def main() -> None:
    """The command line."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--write", action="store_true")
    chosen = parser.parse_args()
    lines = ["# Which faults look alike", ""]
    lines += ["How far apart a moderate fault and the nearest level of another lie, in standard deviations. Of each pair of groups the two causes that a full walk of a cooling machine "
              f"takes for each other most easily, where they are under {TOLD_APART:.0f} there; **bold** where a way of reading tells them. Made by `python -m benchmarks.apart --write`.", ""]  # fmt: skip
    for device, name in ((TXV, "TXV"), (ORIFICE, "Fixed orifice")):
        ways = ways_of(device)
        lines += [f"## {name}: taken for each other", "", *from_each_other(ways, device), ""]
        lines += [f"## {name}: taken for sound", "", *from_sound(ways, device), ""]
    page = "\n".join(lines)
    print(page)
    if chosen.write:
        PAGE.write_text(page)


if __name__ == "__main__":
    main()
