"""How often the judgement is right: thousands of simulated, noisy visits, beside a plain rule of thumb on the same
ones.

    .venv/bin/python -m benchmarks.judgement [--count 2000] [--seed 9001] [--write]

Every fault of the plant is mapped to a cause and its group (TRUTH). A visit is scored right, right group, wrong, false
alarm, missed (called sound) or withheld. --write puts the tables in docs/judgement.md. Tuning was done on seeds under
9000; the seeds here were not looked at before.
"""

import argparse
import time
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, replace
from multiprocessing import Pool
from pathlib import Path

from engine.assessment import Assessment, assess, table_of
from engine.diagnosis.cause import HEALTHY, is_in
from engine.diagnosis.causes import EVERY_CAUSE, Setting, causes_in, group_of
from engine.diagnosis.verdict import CAUSE, SOUND, STOP_FIRST
from engine.diagnosis.verdict import GROUP as GROUP_TOLD
from engine.errors import EngineError
from engine.readings.round import Round, without_gauges
from engine.report.bundle.reading import visit_of
from plant.faults import FAULTS
from plant.simulate import bundle

PAGE = Path(__file__).parent.parent / "docs" / "judgement.md"
# fault of the plant -> cause of the judgement, where the names differ
TRUTH = {
    "low_tap": "low_blower", "dirty_wheel": "low_blower", "strips_on": "heat_on",
    "sun_on_outdoor_probe": "outdoor_probe",
    "loose_liquid_clamp": "liquid_clamp", "loose_suction_clamp": "suction_clamp",
}  # fmt: skip
HEATING_TRUTH = {"dirty_condenser": "outdoor_coil", "weak_condenser_fan": "outdoor_coil"}
HOT = "discharge_line"
AIR = ("outdoor", "return_unit", "supply_plenum", "system")
LINES = (*AIR, "liquid_line_outdoor", "liquid_line_indoor", "suction_line_outdoor", "suction_line_indoor")
WITH_GAUGES, WITH_DISCHARGE = "full walk, gauges", "full walk, discharge line"
SETS = {"full walk": None, "air and lines": LINES, "air only": AIR}
IN_HEATING = {"full walk": None, "air only": AIR}
WATER = ("water_in", "water_out", "water_loop", "system")
BY_WATER = {"full walk": None, "water and draw": (*WATER, "compressor"), "water only": WATER}
# The circuit of a ground-source unit is not read: of what is in it the water side says that it is short, or its head high
WATER_TRUTH = {
    **dict.fromkeys(("undercharge", "restriction", "starving_valve", "weak_compressor"), "circuit_short"),
    **dict.fromkeys(("overcharge", "non_condensables"), "high_side"),
}  # fmt: skip
# title, kind, shifted, in heating
RUNS = (
    ("Cooling, the plant as it is", "air_conditioner", False, False),
    (
        "Cooling, the shifted plant: other coils, valves and fans, instruments off, plates that mislead",
        "air_conditioner", True, False,
    ),
    ("Heating, the plant as it is", "heat_pump", False, True), ("Heating, the shifted plant", "heat_pump", True, True),
    ("Ground source, cooling", "ground_source", False, False), ("Ground source, heating", "ground_source", False, True),
    ("Ground source, cooling, the shifted plant", "ground_source", True, False),
    ("Ground source, heating, the shifted plant", "ground_source", True, True),
)  # fmt: skip
PLATE, BARE, TWO = "wrong plate", "bare line", "two at once"
SEVERITIES = ("sound", "slight", "moderate", "severe", TWO, PLATE, BARE)
# Of a machine beside its faults, as its label begins.
BESIDE_FAULTS = {"plate": ("other_size", PLATE), "bare": ("bare_suction_line", BARE)}
RIGHT, GROUP, WRONG, ALARM, MISSED, OPEN = "right", "right group", "wrong", "false alarm", "missed", "withheld"
CHARGE = {"charge_low": "undercharge", "charge_high": "overcharge"}


@dataclass(frozen=True)
class Score:
    """One visit judged one way."""

    how: str
    severity: str
    outcome: str
    first_right: bool  # the likeliest cause or group is the true one
    harmful: bool
    said: float  # probability of the likeliest group
    true: bool


def truth_of(name: str) -> list[tuple[str, str]]:
    """(cause, severity) of a bundle by its label, a plate of another size and a bare suction line among them; [] for a
    sound one.
    """
    label, *more = name.split(": ", 1)[1].split(" (")
    pairs = [] if label == "sound" else [part.rsplit(" ", 1) for part in label.split(", ")]
    beside = [told for part in more for begins, told in BESIDE_FAULTS.items() if part.startswith(begins)]
    return [(TRUTH.get(fault, fault), severity) for fault, severity in pairs] + beside


def true_causes(name: str, kind: str, heating: bool) -> tuple[tuple[str, ...], str]:
    """What is wrong by a bundle's label, as causes of this kind of machine and mode, and how severe; HEALTHY where
    nothing is.
    """
    names = WATER_TRUTH if kind == "ground_source" else HEATING_TRUTH if heating else {}
    truth = truth_of(name)
    severity = TWO if len(truth) > 1 else truth[0][1] if truth else "sound"
    return tuple(names.get(cause, cause) for cause, _ in truth) or (HEALTHY,), severity


def cut(round_: Round, places: tuple[str, ...] | None) -> Round:
    """Only the readings of these places, statics left out; all of them for None."""
    if places is None:
        return round_
    return replace(
        round_, readings=tuple(r for r in round_.readings if r.place in places and r.quantity != "static_pressure")
    )


def without(place: str, round_: Round) -> Round:
    """A round in which a place was not read."""
    return replace(round_, readings=tuple(r for r in round_.readings if r.place != place))


def scores(arguments: tuple[int, int, str, bool, bool]) -> list[Score]:
    """One simulated visit, judged every way. arguments: seed, row, kind, shifted, in heating."""
    seed, row, kind, shifted, heating = arguments
    by_water = kind == "ground_source"
    simulated = bundle(
        seed, row, kind, shifted=shifted, heating=heating, baseline=True, gauges=True, discharge=not by_water
    )
    visit = visit_of(simulated)
    assert visit.baseline is not None
    hot = without_gauges(visit.rounds[0][1])
    by_gauge, first = without(HOT, visit.rounds[0][1]), without(HOT, hot)
    causes, severity = true_causes(visit.name, kind, heating)
    # A baseline takes the plate's error with it, and the line's gain.
    lasting = [cause for cause, _ in BESIDE_FAULTS.values()]
    since = tuple(cause for cause in causes if cause not in lasting) or (HEALTHY,)
    found = []
    for how, places in (BY_WATER if by_water else IN_HEATING if heating else SETS).items():
        round_ = cut(first, places)
        found.append(score(how, assess(round_), causes, severity))
        found.append(score(f"{how}, baseline", assess(round_, table_of(cut(visit.baseline, places))), since, severity))
    if by_water:
        return found
    found.append(score(WITH_DISCHARGE, assess(hot), causes, severity))
    found.append(score(WITH_GAUGES, assess(by_gauge), causes, severity))
    return found if heating else [*found, _thumb(first, causes, severity)]


def score(how: str, found: Assessment, causes: tuple[str, ...], severity: str) -> Score:
    """What was concluded, held against the true causes; HEALTHY alone for none."""
    ranked, verdict = found.diagnosis.ranked, found.verdict
    groups = {group_of(EVERY_CAUSE[cause], ranked.kinds) for cause in causes}
    likeliest, probability = next(iter(ranked.by_group.items()))
    told = verdict.behind if verdict.state == STOP_FIRST else verdict  # what the machine is stopped for is explained
    state = GROUP_TOLD if told is verdict.behind and told.group else verdict.state
    outcome = outcome_of(state, told.group, told.cause, causes, groups)
    said = told.group if state in (CAUSE, GROUP_TOLD) else ""
    return Score(
        how,
        severity,
        outcome,
        likeliest in groups,
        said in CHARGE and said not in groups,
        probability,
        likeliest in groups,
    )


def outcome_of(state: str, group: str, said: str, causes: tuple[str, ...], groups: set[str]) -> str:
    """How what was concluded compares with the truth. groups: of the causes, as far as the readings can tell."""
    if state == SOUND:
        return RIGHT if causes == (HEALTHY,) else MISSED
    if state not in (CAUSE, GROUP_TOLD):
        return OPEN
    if causes == (HEALTHY,):
        return ALARM
    return RIGHT if said in causes else GROUP if any(is_in(true, group) for true in groups) else WRONG


def _thumb(round_: Round, causes: tuple[str, ...], severity: str) -> Score:
    """The plain rule of thumb: split over 22 is airflow, under 16 is charge; approach over 15 is the condenser; else
    healthy.
    """
    split = round_.read("return_unit", "dry_bulb") - round_.read("supply_plenum", "dry_bulb")
    approach = round_.read("liquid_line_outdoor", "temperature") - round_.read("outdoor", "dry_bulb")
    group = "low_airflow" if split > 22 else "charge_low" if split < 16 else "condenser" if approach > 15 else HEALTHY
    true = group in {EVERY_CAUSE[cause].group for cause in causes}
    outcome = (
        (RIGHT if true else MISSED) if group == HEALTHY else GROUP if true else ALARM if causes == (HEALTHY,) else WRONG
    )
    return Score("rule of thumb", severity, outcome, true, group in CHARGE and not true, 1.0, true)


def errors(rows: list[Score], how: str) -> float:
    """Percent of the visits with one fault or none that were answered wrongly: wrong, a false alarm, or missed where it
    was moderate or severe.
    """
    here = [s for s in rows if s.how == how and s.severity not in (TWO, PLATE, BARE)]
    bad = [s for s in here if s.outcome in (WRONG, ALARM) or (s.outcome == MISSED and s.severity != "slight")]
    return 100 * len(bad) / len(here)


def faults_table() -> list[str]:
    """Every fault of the plant, its cause, and its group: with the lines read, and by the air alone."""
    lines = ["| fault of the plant | in | cause | group | group by the air alone |", "|---|---|---|---|---|"]
    for where, mode, source, names in (
        ("cooling", "cooling", "air", TRUTH), ("heating", "heating", "air", TRUTH | HEATING_TRUTH),
        ("ground source", "cooling", "water", TRUTH | WATER_TRUTH),
    ):  # fmt: skip
        known = causes_in(Setting(mode=mode, source=source))
        for fault in FAULTS:
            if names.get(fault, fault) in known:
                cause = known[names.get(fault, fault)]
                lines.append(f"| {fault} | {where} | {cause.id} | {cause.group} | {group_of(cause, ())} |")
    return lines


def table(rows: list[Score], how: str) -> Iterator[str]:
    """One way of judging, a line a severity."""
    for severity in SEVERITIES:
        here = [s for s in rows if s.how == how and s.severity == severity]
        if not here:
            continue
        count, n = Counter(s.outcome for s in here), len(here)
        shares = [f"{100 * count[o] / n:.1f}" for o in (RIGHT, GROUP, WRONG, ALARM, MISSED, OPEN)]
        shares += [f"{100 * sum(getattr(s, name) for s in here) / n:.1f}" for name in ("first_right", "harmful")]
        low, high = (abs(round(100 * limit)) for limit in interval(count[RIGHT] + count[GROUP], n))
        yield f"| {how} | {severity} | {n} | {' | '.join(shares)} | {low} to {high} |"


def interval(hits: int, n: int) -> tuple[float, float]:
    """Wilson's 95 % interval of a share (E. B. Wilson, J. Am. Stat. Assoc. 22, 1927)."""
    z, p = 1.96, hits / n
    middle, half = p + z * z / (2 * n), z * (p * (1 - p) / n + z * z / (4 * n * n)) ** 0.5
    return (middle - half) / (1 + z * z / n), (middle + half) / (1 + z * z / n)


def calibration(rows: list[Score], how: str) -> tuple[float, list[str]]:
    """(mean distance between said and true, weighted by visits, in points; a line a bin)."""
    here, lines, off = [s for s in rows if s.how == how], [], 0.0
    for low in range(0, 100, 10):
        binned = [s for s in here if low <= 100 * s.said < low + 10 + (low == 90)]
        if binned:
            said, true = sum(s.said for s in binned) / len(binned), sum(s.true for s in binned) / len(binned)
            off += len(binned) * abs(said - true)
            lines.append(f"| {low} to {low + 10} | {len(binned)} | {100 * said:.0f} | {100 * true:.0f} |")
    return 100 * off / len(here), lines


def report(runs: dict[str, list[Score]], count: int, seed: int) -> str:
    """The page."""
    head = "| judged by | severity | visits | right | right group | wrong | false alarm | missed | withheld | right first | harmful | said right, 95 % |"
    sets = dict.fromkeys((*SETS, *BY_WATER))
    ways = [how + more for how in sets for more in ("", ", baseline")] + [WITH_DISCHARGE, WITH_GAUGES, "rule of thumb"]
    lines = [
        "# How often the judgement is right",
        "",
        f"{count} simulated visits of each kind (seeds from {seed} on), six in ten with a fault and one in ten with two, a plate of another "
        "size among them (of two, either is right). Percent of the visits of a line. *Missed*: called sound. *Right first*: the likeliest cause or "
        "group is the true one. *Harmful*: charge advice where the charge is right, or the wrong way round. *Wrong plate*: a sound machine that is not the "
        "plate's; right is to say so, or with a baseline of its own to call it sound. *Bare line*: likewise of a sound machine whose suction line takes up as much heat as a bare one. *Withheld*: no cause named. Where the machine is to be stopped "
        "first, what counts is the likely cause that is said with it. *Said right*: right and right group together, between these limits. Of the water alone, sound says that the water side does what it should, and no more. "
        "Made by `python -m benchmarks.judgement --write`.",
        "",
    ]
    for title, rows in runs.items():
        lines += [f"## {title}", "", head, "|" + "---|" * 12, *(line for how in ways for line in table(rows, how)), ""]
        if any(s.how == "rule of thumb" for s in rows):
            ours, thumb = errors(rows, "full walk"), errors(rows, "rule of thumb")
            lines += [
                f"Answered wrongly (wrong, false alarm, or a moderate or severe fault missed): full walk {ours:.1f} %, rule of thumb {thumb:.1f} %, "
                f"{f'ratio {ours / thumb:.2f}' if thumb else 'of too few visits for a ratio'}.",
                "",
            ]
        for how in [way for way in (*sets, WITH_DISCHARGE, WITH_GAUGES) if any(s.how == way for s in rows)]:
            off, bins = calibration(rows, how)
            lines += [
                f"Calibration, {how}: {off:.1f} points off on average.",
                "",
                "| said, % | visits | said | was |",
                "|---|---|---|---|",
                *bins,
                "",
            ]
    lines += [
        "## Faults, causes and groups",
        "",
        "Groups that a set of readings cannot tell apart are one group there.",
        "",
        *faults_table(),
    ]
    return "\n".join(lines) + "\n"


def speed(seed: int, visits: int = 300) -> str:
    """Milliseconds of an assessment on one core, and of it what is worked out before the diagnosis."""
    rounds = [visit_of(bundle(seed, row)).rounds[0][1] for row in range(visits)]
    began = time.perf_counter()
    for round_ in rounds:
        table_of(round_)
    tables = time.perf_counter() - began
    began = time.perf_counter()
    for round_ in rounds:
        assess(round_)
    whole = time.perf_counter() - began
    each = f"Worked out {1000 * tables / visits:.2f} ms, with the diagnosis {1000 * whole / visits:.2f} ms, ratio {whole / tables:.2f}"
    return f"{each}; 10,000 assessments: {10000 * whole / visits:.1f} s."


def main() -> None:
    """The command line."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=2000)
    parser.add_argument("--seed", type=int, default=9001)
    parser.add_argument("--write", action="store_true")
    chosen = parser.parse_args()
    with Pool() as pool:
        runs = {
            title: [
                s
                for found in pool.imap(
                    scores_or_none,
                    [(chosen.seed + n, row, kind, shifted, heating) for row in range(chosen.count)],
                    chunksize=20,
                )
                for s in found
            ]
            for n, (title, kind, shifted, heating) in enumerate(RUNS)
        }
    page = report(runs, chosen.count, chosen.seed)
    print(page)
    print(speed(chosen.seed))
    if chosen.write:
        PAGE.write_text(page)


def scores_or_none(arguments: tuple[int, int, str, bool, bool]) -> list[Score]:
    """As `scores`; a visit whose readings are out of every range is no visit."""
    try:
        return scores(arguments)
    except EngineError:
        return []


if __name__ == "__main__":
    main()
