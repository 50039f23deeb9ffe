"""A whole round: the air side with the best authority at hand, and every section whose readings are there.

Airflow: all ways at once, weighed; what is weighed becomes the round's airflow. Expected values: published table, own baseline, physics.
"""

from dataclasses import dataclass, replace
from math import hypot, sqrt

from engine.airflow.drop_ratio import manometer_u95_inwc
from engine.airflow.methods import METHODS
from engine.airflow.weighting import Weighted, weigh
from engine.assessment.airflows import airflows
from engine.assessment.assess import assess, verdict_of
from engine.assessment.balance import ledger_section
from engine.assessment.heating import heating_section, heating_verdict
from engine.assessment.result import RoundResult
from engine.assessment.sections import (
    Section,
    charge_section,
    ducts_section,
    electrical_section,
    lines_section,
    rooms_section,
    statics_of,
    statics_section,
    volumes,
    water_section,
)
from engine.constants import BTUH_PER_TON, DRY_BULB_ACCURACY
from engine.errors import EngineError
from engine.expected.authority import from_published
from engine.expected.cooling import power_fraction
from engine.houserules.rules import HouseRules
from engine.judgement.baseline import Fitness, follow_up, obstacles
from engine.judgement.consistency import airflow_against_static, same_way
from engine.judgement.findings import CONTRADICTION
from engine.judgement.indicators import Indicator, indicator
from engine.judgement.verdict import Verdict
from engine.readings.round import Reading, Round
from engine.readings.vocabulary import GROUND_SOURCE
from engine.refrigerant.lines import LOAD_RANGE
from engine.uncertainty.estimate import Estimate
from engine.uncertainty.sources import since

# Error sources that are the same in a baseline and in a later visit, so that they cancel as far as both feel them alike. The airflow
# method joins them when both used the same one: a table's or a device's error is mostly a lasting one.
LASTING = ("capacity_model", "sensible_share", "fan_power")


@dataclass(frozen=True)
class Whole:
    """A round's air side, indicators and verdict by the best authority, the airflow weighed, and the sections found."""

    mode: str
    air: RoundResult
    indicators: tuple[Indicator, ...]
    verdict: Verdict
    airflow: Weighted | None
    sections: tuple[Section, ...]


def assess_whole(round_: Round, baseline: Round | None = None) -> Whole:
    """Assess everything a round's readings allow; raises an EngineError naming a value out of range. baseline: a sealed healthy round."""
    round_, weighed, caveats = with_weighed_airflow(round_)
    air = assess(round_)
    baseline = with_weighed_airflow(baseline)[0] if baseline else None
    then = assess(baseline) if baseline else None
    if round_.mode == "heating":
        sections = (heating_section(round_), lines_section(round_), statics_section(round_, volumes(round_)["supply"], baseline))
        sections += (electrical_section(round_, None), water_section(round_))
        return Whole("heating", air, (), heating_verdict(sections[0], air.withheld), weighed, tuple(s for s in sections if s))
    indicators = _by_authority(round_, air, then, _method(baseline) if baseline else "")
    wet_bulb, water = air["return_wet_bulb_f"].value, water_section(round_)
    sections = (
        Section("airflow", says=[*(weighed.disagreements if weighed else ()), *caveats]),
        lines_section(round_, _load(round_, air)),
        charge_section(round_, wet_bulb),
        statics_section(round_, volumes(round_)["supply"], baseline),
        electrical_section(round_, air["total_btuh"], _baseline_amps(round_, air, baseline, then)),
        follow_up_section(round_, air, indicators, baseline, then),
        ledger_section(round_, air, water),
        ducts_section(round_, air),
        rooms_section(round_),
        water,
    )
    verdict = verdict_of(round_, indicators, air.findings, air.withheld)
    return Whole("cooling", air, indicators, verdict, weighed, tuple(s for s in sections if s))


def with_weighed_airflow(round_: Round) -> tuple[Round, Weighted | None, list[str]]:
    """The round with one airflow: all airflow readings and the blower table at the measured static, weighed as mass flows."""
    estimates, caveats = airflows(round_)
    volume = volumes(round_)
    if not estimates:
        return round_, None, caveats
    weighed = weigh(estimates, volume)
    read = [r for r in round_.readings if (r.place, r.quantity) == ("blower", "airflow")]
    if len(estimates) == 1 and read:
        return round_, weighed, caveats
    best = max(weighed.weights, key=weighed.weights.get)
    cfm, u95 = weighed.mass_flow_lbh * volume["return"] / 60.0, weighed.u95_lbh * volume["return"] / 60.0
    rest = tuple(r for r in round_.readings if (r.place, r.quantity) != ("blower", "airflow"))
    reading = next((r for r in round_.readings if r.method == best), None)
    reading = reading or Reading("blower", "airflow", cfm, method=best)
    one = replace(reading, value=cfm, plane="return", u95=u95)
    return replace(round_, readings=(*rest, one)), weighed, caveats


def _method(round_: Round) -> str:
    reading = round_.reading("blower", "airflow")
    return (reading.method or "nominal_guess") if reading else ""


def _by_authority(
    round_: Round, air: RoundResult, then: RoundResult | None, method_then: str
) -> tuple[Indicator, Indicator, Indicator]:
    """Split and capacity re-judged where a table or a baseline beats physics; airflow as it is."""
    split, airflow, capacity = air.indicators
    if then is not None and round_.rules.split_school == "computed":
        lasting = LASTING + (("airflow_method",) if method_then == _method(round_) else ())
        split = _against_baseline(split, air, then, "split_minus_expected_f", "expected_split_f", lasting, round_.rules) or split
        capacity = (
            _against_baseline(capacity, air, then, "total_minus_expected_btuh", "expected_total_btuh", lasting, round_.rules)
            or capacity
        )
    table, wet_bulb, outdoor = round_.equipment.performance_table, air["return_wet_bulb_f"], round_.value("outdoor", "dry_bulb")
    if table is not None and wet_bulb.known and outdoor is not None and air["total_btuh"].known:
        try:
            expected = from_published(table, round_.equipment.model, wet_bulb.value, outdoor)
        except EngineError:
            return split, airflow, capacity
        total = air["total_btuh"]
        off = Estimate(total.value - expected.value, hypot(total.u95, expected.u95), "BTU/h")
        tolerance = round_.rules.capacity_tolerance_share * expected.value
        capacity = indicator(
            "capacity",
            "Capacity",
            total,
            expected,
            off,
            tolerance,
            "Published table",
            "airflow_method",
        )
    return split, airflow, capacity


def _against_baseline(
    found: Indicator, now: RoundResult, then: RoundResult, off: str, model: str, lasting: tuple[str, ...], rules: HouseRules
) -> Indicator | None:
    """Measured - (model now + what the baseline differed from the model then), with the errors that last cancelling."""
    if not (now[off].known and then[off].known):
        return None
    u95 = sqrt(sum(push**2 for push in since(_parts(now, off), _parts(then, off), lasting).values()))
    residual = then[off].value
    expected = Estimate(now[model].value + residual, u95, now[model].unit)
    difference = Estimate(now[off].value - residual, u95, now[off].unit)
    tolerance = rules.follow_up_capacity_share * expected.value if found.id == "capacity" else rules.follow_up_split_f
    return indicator(found.id, found.label, found.measured, expected, difference, tolerance, "Own baseline", found.decided_by)


def _parts(result: RoundResult, name: str) -> dict[str, float]:
    index = result.carried.names.index(name)
    return {s.id: float(result.carried.parts[index, i, result.row]) for i, s in enumerate(result.carried.sources)}


def _load(round_: Round, air: RoundResult) -> float:
    """Heat a sound unit would reject today over that at rating: expected capacity over nominal, within what the rule is stated for."""
    total = air["expected_total_btuh"]
    if not total.known:
        return 1.0
    return min(max(total.value / (BTUH_PER_TON.value * round_.equipment.nominal_tons), LOAD_RANGE[0]), LOAD_RANGE[1])


def _baseline_amps(round_: Round, air: RoundResult, baseline: Round | None, then: RoundResult | None) -> float | None:
    """The compressor's amps at baseline, corrected to today's weather by the curves' power."""
    amps = baseline.by_leg("compressor", "current") if baseline else {}
    if not amps or round_.equipment.kind == GROUND_SOURCE:
        return None
    fractions = []
    for at, result in ((round_, air), (baseline, then)):
        wet_bulb, flow, outdoor = (
            result["expected_wet_bulb_used_f"],
            result["expected_flow_fraction"],
            at.value("outdoor", "dry_bulb"),
        )
        if not (wet_bulb.known and flow.known) or outdoor is None:
            return None
        fractions.append(power_fraction(round_.equipment.kind, wet_bulb.value, outdoor, flow.value))
    return max(amps.values()) * fractions[0] / fractions[1]


def follow_up_section(
    round_: Round, air: RoundResult, indicators: tuple[Indicator, ...], baseline: Round | None, then: RoundResult | None
) -> Section:
    """Each quantity against its baseline, corrected to today: as it was, moved, better than possible, can't tell."""
    found = Section("follow_up")
    if baseline is None:
        return found
    rows = []
    for judged, name in ((indicators[0], "split_f"), (indicators[2], "capacity_btuh")):
        if judged.authority == "Own baseline" and judged.measured.known:
            rows.append((name, judged.measured.value, 0.0, judged.expected.value, judged.expected.u95))
    flow = air["cfm_per_ton"], then["cfm_per_ton"]
    if all(f.known for f in flow):
        tons = round_.equipment.nominal_tons
        same = _method(round_) == _method(baseline)
        u95 = 0.0 if same else tons * hypot(flow[0].u95, flow[1].u95)
        rows.append(("airflow_cfm", flow[0].value * tons, u95, flow[1].value * tons, 0.0))
    liquid, was = (r.value("liquid_line_outdoor", "temperature") for r in (round_, baseline))
    outdoor = round_.value("outdoor", "dry_bulb"), baseline.value("outdoor", "dry_bulb")
    if None not in (liquid, was, *outdoor):
        rows.append(
            (
                "liquid_line_f",
                liquid,
                round_.line_u95_f("liquid_line_outdoor"),
                was + outdoor[0] - outdoor[1],
                baseline.line_u95_f("liquid_line_outdoor"),
            )
        )
    drops = round_.value("filter", "pressure_drop"), baseline.value("filter", "pressure_drop")
    if None not in drops:
        rows.append(("filter_drop_inwc", drops[0], manometer_u95_inwc(drops[0]), drops[1], manometer_u95_inwc(drops[1])))
    found.says = [follow_up(*row, rules=round_.rules).sentence for row in rows]
    return found


def baseline_obstacles(round_: Round, air: RoundResult) -> list[str]:
    """Why this round may not become the baseline; empty when it may."""
    wet = {"dry": False, "matted": False, "wet": True}
    off = {"on": False, "off": True}
    return obstacles(
        Fitness(
            condenser_wet=wet.get(round_.observations.get("condenser_coil", "")),
            panel_off=off.get(round_.observations.get("panels", "")),
            settled=not any(w.condition == "settled" for w in air.withheld),
            liquid_line_f=round_.value("liquid_line_outdoor", "temperature") if round_.mode == "cooling" else None,
            outdoor_f=round_.value("outdoor", "dry_bulb"),
            contradictions=sum(f.level == CONTRADICTION for f in air.findings),
            statics_taken=statics_of(round_) is not None,
        )
    )


def rounds_agree(first: Round, second: Round) -> list[str]:
    """What between two rounds cannot be, or cannot be compared: airflow against supply static, probes moved or changed."""
    found = []
    flows, statics = [r.reading("blower", "airflow") for r in (first, second)], [statics_of(r) for r in (first, second)]
    if all(flows) and all(statics):
        u95 = tuple(METHODS[f.method or "nominal_guess"].accuracy * f.value for f in flows)
        read = tuple(abs(s.supply_inwc) for s in statics)
        if min(read) > 0:
            found += airflow_against_static(tuple(f.value for f in flows), u95, read, tuple(manometer_u95_inwc(s) for s in read))
    for place in ("return_unit", "supply_plenum"):
        pair = [r.reading(place, "dry_bulb") for r in (first, second)]
        if all(pair):
            found += same_way(place.replace("_", " "), (pair[0].instrument, pair[1].instrument), (pair[0].spot, pair[1].spot),
                              pair[1].value - pair[0].value, DRY_BULB_ACCURACY.value)  # fmt: skip
    return [f"{d.message} {d.hint}" for d in found]
