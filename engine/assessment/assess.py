"""From a round of readings to its result: numbers with uncertainty, findings, indicators, verdict."""

from collections import defaultdict
from collections.abc import Callable, Sequence
from math import isnan, nan, sqrt

import numpy as np

from engine import VERSION
from engine.air.process import REASONS as APPARATUS_REASONS
from engine.air.state import ALTITUDE_RANGE_FT
from engine.airflow.methods import METHODS, PLANES
from engine.assessment.air_side import RESULTS, air_side
from engine.assessment.inputs import Setup, as_sources, numbers_of, pushes_of, setup_of
from engine.assessment.result import PocketRow, RoundResult
from engine.constants import NOMINAL_CFM_PER_TON
from engine.errors import EngineError, OutOfRange
from engine.expected import schools
from engine.expected.cooling import Machine, out_of_range
from engine.judgement.findings import Evidence, Finding, contradictions, moisture_findings
from engine.judgement.indicators import Indicator, indicator
from engine.judgement.validity import Withheld, withheld_because
from engine.judgement.verdict import Case, Verdict, first_verdict
from engine.readings.round import Round
from engine.readings.vocabulary import GROUND_SOURCE, KINDS, QUANTITIES, quantities_at
from engine.uncertainty.estimate import Estimate
from engine.uncertainty.propagation import Propagated, propagate

TONS_RANGE = (0.75, 10.0)
CHUNK = 200  # rounds computed together: their arrays stay in the processor's cache


def assess(round_: Round) -> RoundResult:
    """Assess one round; raises an EngineError naming the value that is out of range."""
    (result,) = assess_many([round_])
    if isinstance(result, EngineError):
        raise result
    return result


def assess_many(rounds: Sequence[Round]) -> list[RoundResult | EngineError]:
    """Assess many rounds, in order. A round that cannot be assessed answers with its error and stops no other."""
    answers: list[RoundResult | EngineError] = [EngineError("not assessed")] * len(rounds)
    groups: dict[Setup, list[int]] = defaultdict(list)
    for index, round_ in enumerate(rounds):
        try:
            check_round(round_)
        except EngineError as error:
            answers[index] = error
        else:
            groups[setup_of(round_)].append(index)
    for setup, members in groups.items():
        for start in range(0, len(members), CHUNK):
            some = members[start : start + CHUNK]
            for index, result in zip(some, _assess_group(setup, [rounds[i] for i in some]), strict=True):
                answers[index] = result
    return answers


def check_round(round_: Round) -> None:
    """Refuse what no computation should see: altitude, tons, a place, quantity or value outside the vocabulary."""
    if not ALTITUDE_RANGE_FT[0] <= round_.altitude_ft <= ALTITUDE_RANGE_FT[1]:
        raise OutOfRange("altitude", round_.altitude_ft, "ft", *ALTITUDE_RANGE_FT)
    if not TONS_RANGE[0] <= round_.equipment.nominal_tons <= TONS_RANGE[1]:
        raise OutOfRange("nominal tons", round_.equipment.nominal_tons, "tons", *TONS_RANGE)
    if round_.equipment.kind not in KINDS:
        raise EngineError(f"equipment kind '{round_.equipment.kind}' is unknown; known are {', '.join(KINDS)}")
    for reading in round_.readings:
        if reading.quantity not in quantities_at(reading.place):
            raise EngineError(f"there is no reading '{reading.quantity}' at '{reading.place}'")
        what = QUANTITIES[reading.quantity]
        if not what.low <= reading.value <= what.high:
            raise OutOfRange(f"{reading.place} {what.label.lower()}", reading.value, what.unit, what.low, what.high)
        if reading.method and reading.method not in METHODS:
            raise EngineError(f"airflow method '{reading.method}' is unknown; known are {', '.join(METHODS)}")
        if reading.plane and reading.plane not in PLANES:
            raise EngineError(f"airflow plane '{reading.plane}' is unknown; known are {', '.join(PLANES)}")


def _assess_group(setup: Setup, rounds: list[Round]) -> list[RoundResult]:
    numbers, pushes, findings = [], [], []
    for round_ in rounds:
        values = numbers_of(round_)
        push = pushes_of(round_, setup, values)
        found = contradictions(Evidence(round_, values, _input_u95(push)))
        for name in (name for finding in found for name in finding.withholds):
            values[name] = nan
        numbers.append(values)
        pushes.append(push)
        findings.append(found)
    inputs = {name: np.array([row[name] for row in numbers], float) for name in numbers[0]}
    carried = propagate(air_side(setup), inputs, as_sources(pushes))
    school_splits = schools.return_air_split_f(
        Machine(inputs["nominal_tons"], setup.kind, inputs["sensible_share"], inputs["fan_w_per_cfm"]),
        inputs["return_dry_bulb"],
        carried.values["return_wet_bulb_f"],
    )
    return [
        _result(round_, carried, row, findings[row], float(inputs["pressure"][row]), float(school_splits[row]))
        for row, round_ in enumerate(rounds)
    ]


def _input_u95(push: dict[str, dict[str, float]]) -> dict[str, float]:
    squares: dict[str, float] = defaultdict(float)
    for touched in push.values():
        for name, size in touched.items():
            squares[name] += size**2
    return defaultdict(float, {name: sqrt(square) for name, square in squares.items()})


def _result(
    round_: Round, carried: Propagated, row: int, findings: list[Finding], pressure_psia: float, school_split_f: float
) -> RoundResult:
    def estimate(name: str, missing: str = "") -> Estimate:
        unit, needs = RESULTS[name]
        value, u95 = float(carried.values[name][row]), float(carried.u95[name][row])
        if missing or isnan(value):
            return Estimate(None, None, unit, missing or _why_missing(round_, needs, findings))
        return Estimate(value, u95, unit)

    removed = estimate("moisture_removed_lblb")
    findings = findings + moisture_findings(round_, removed.value, removed.u95)
    gained = next((f.message for f in findings if f.id == "moisture_gained"), "")
    outside = _outside_curves(round_, carried, row)
    apparatus_reason = APPARATUS_REASONS[int(np.nan_to_num(carried.values["apparatus_missing"][row], nan=3))]
    quantities = {}
    for name, (_, needs) in RESULTS.items():
        missing = gained if "supply humidity" in needs else ""
        if name.startswith("expected_") or name.endswith(("minus_expected_f", "minus_expected_btuh")):
            missing = missing or outside
        quantities[name] = estimate(name, missing)
    for name in ("apparatus_dew_point_f", "bypass_factor"):
        if not quantities[name].known and apparatus_reason and quantities["gross_btuh"].known:
            quantities[name] = Estimate(None, None, quantities[name].unit, apparatus_reason)
    withheld = withheld_because(round_)
    split_schools = _schools(round_, quantities, outside, school_split_f)
    indicators = _indicators(round_, quantities, split_schools, lambda name: carried.largest(name, row))
    verdict = verdict_of(round_, indicators, findings, withheld)
    return RoundResult(
        engine_version=VERSION,
        rules_version=round_.rules.version,
        quantities=quantities,
        indicators=indicators,
        schools=split_schools,
        pocket=_pocket(quantities),
        findings=tuple(findings),
        withheld=tuple(withheld),
        verdict=verdict,
        apparatus_reason=apparatus_reason,
        expected_reason=outside,
        coil_expected_dry=bool(np.nan_to_num(carried.values["expected_coil_dry"][row])),
        sampled=bool(carried.sampled[row]),
        pressure_psia=pressure_psia,
        supply_region=_supply_region(quantities, carried, row),
        carried=carried,
        row=row,
    )


def verdict_of(
    round_: Round, indicators: tuple[Indicator, Indicator, Indicator], findings: Sequence[Finding], withheld: Sequence[Withheld]
) -> Verdict:
    """The first verdict from split, airflow and capacity as judged."""
    reading = round_.reading("blower", "airflow")
    method = METHODS[reading.method or "nominal_guess"] if reading else None
    seriously_low = round_.rules.airflow_seriously_low_cfm_per_ton
    return first_verdict(Case(*indicators, method, list(findings), list(withheld), _needs(round_), seriously_low))


_NEEDED = {
    "return dry bulb": ("return_unit", ("dry_bulb",)),
    "return humidity": ("return_unit", ("rh", "wet_bulb", "dew_point")),
    "supply dry bulb": ("supply_plenum", ("dry_bulb",)),
    "supply humidity": ("supply_plenum", ("rh", "wet_bulb", "dew_point")),
    "airflow": ("blower", ("airflow",)),
    "outdoor temperature": ("outdoor", ("dry_bulb",)),
}


def _needs(round_: Round) -> list[str]:
    """What a full first verdict still lacks, in walking order."""
    needed = {n: at for n, at in _NEEDED.items() if n != "outdoor temperature" or round_.equipment.kind != GROUND_SOURCE}
    return [need for need, (place, quantities) in needed.items() if round_.reading(place, *quantities) is None]


def _why_missing(round_: Round, needs: tuple[str, ...], findings: list[Finding]) -> str:
    absent = [need for need in needs if need in _NEEDED and round_.reading(*_flat(_NEEDED[need])) is None]
    if absent:
        return f"needs {', '.join(absent)}"
    return next((finding.message for finding in findings if finding.withholds), "cannot be computed from these readings")


def _flat(needed: tuple[str, tuple[str, ...]]) -> tuple[str, ...]:
    return (needed[0], *needed[1])


def _outside_curves(round_: Round, carried: Propagated, row: int) -> str:
    if round_.equipment.kind == GROUND_SOURCE:
        return "there are no published curves for a ground-source unit: compare with its own table"
    outdoor = round_.reading("outdoor", "dry_bulb")
    reasons = out_of_range(
        float(carried.values["expected_wet_bulb_used_f"][row]),
        outdoor.value if outdoor else nan,
        float(carried.values["expected_flow_fraction"][row]),
    )
    return "; ".join(reasons)


def _schools(round_: Round, q: dict[str, Estimate], outside: str, return_air_split_f: float) -> tuple[schools.SplitTarget, ...]:
    expected = q["expected_split_f"]
    return (
        schools.computed(expected.value, round_.rules.split_tolerance_f, outside or expected.missing),
        schools.flat(),
        schools.climate(round_.climate),
        schools.return_air(return_air_split_f),
    )


def _indicators(
    round_: Round, q: dict[str, Estimate], split_schools: tuple[schools.SplitTarget, ...], decided_by: Callable[[str], str]
) -> tuple[Indicator, Indicator, Indicator]:
    """decided_by: the largest error source of a quantity."""
    rules = round_.rules
    school = next(s for s in split_schools if s.school == rules.split_school)
    expected_split, off, split_by = q["expected_split_f"], q["split_minus_expected_f"], "split_minus_expected_f"
    if school.school != "computed":
        known = school.target_f is not None
        expected_split = Estimate(school.target_f, 0.0 if known else None, "°F", "" if known else school.reason)
        off, split_by = _minus(q["split_f"], expected_split), "split_f"
    total = q["expected_total_btuh"]
    tolerance = rules.capacity_tolerance_share * total.value if total.known else None
    flow = q["cfm_per_ton"]
    nominal = Estimate(NOMINAL_CFM_PER_TON.value, 0.0, "CFM/ton")
    flow_tolerance = 0.5 * (rules.airflow_high_cfm_per_ton - rules.airflow_low_cfm_per_ton)
    flow_off = _minus(flow, nominal)
    total_off = q["total_minus_expected_btuh"]
    rows = (
        ("split", "Temperature split", q["split_f"], expected_split, off, school.tolerance_f, school.label, split_by),
        ("airflow", "Airflow per ton", flow, nominal, flow_off, flow_tolerance, "Common practice", "cfm_per_ton"),
        ("capacity", "Capacity", q["total_btuh"], total, total_off, tolerance, "Published curves", "total_minus_expected_btuh"),
    )
    split, airflow, capacity = (indicator(*row[:-1], decided_by(row[-1])) for row in rows)
    return split, airflow, capacity


def _minus(first: Estimate, second: Estimate) -> Estimate:
    if not (first.known and second.known):
        return Estimate(None, None, first.unit, first.missing or second.missing)
    return Estimate(first.value - second.value, first.u95, first.unit)


def _pocket(q: dict[str, Estimate]) -> tuple[PocketRow, ...]:
    rows = (
        ("1.08 × CFM × ΔT", "pocket_sensible_btuh", "sensible_btuh"),
        ("4.5 × CFM × Δh", "pocket_total_btuh", "total_btuh"),
        ("0.68 × CFM × Δgrains", "pocket_latent_btuh", "latent_btuh"),
    )
    return tuple(
        PocketRow(formula, q[pocket].value, q[exact].value)
        for formula, pocket, exact in rows
        if q[pocket].known and q[exact].known and q[exact].value
    )


def _supply_region(q: dict[str, Estimate], carried: Propagated, row: int):
    t, w = q["expected_supply_dry_bulb_f"], q["expected_supply_humidity_ratio"]
    if not (t.known and w.known):
        return None
    cross = float(carried.covariance("expected_supply_dry_bulb_f", "expected_supply_humidity_ratio")[row])
    return t.value, w.value, ((t.u95**2, cross), (cross, w.u95**2))
