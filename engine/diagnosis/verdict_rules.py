"""The rules of the one verdict, in this order: stop first, does not count, cause, group, sound, cannot tell.

Each rule is a small function that answers a verdict or None; the first answer decides.
"""

from collections.abc import Callable
from dataclasses import replace

from engine.constants import HUMID_HOUSE_DEW_POINT
from engine.diagnosis.by_rule import (
    restart_group,
)
from engine.diagnosis.cause import (
    CIRCUIT_OR_OUTDOORS,
    DUCT_GROUPS,
    FLOW_GROUPS,
    GROUPS,
    HEALTHY,
    IN_THE_CIRCUIT,
    PROBE,
    is_in,
)
from engine.diagnosis.causes import EVERY_CAUSE, group_of
from engine.diagnosis.conclusion import FEWEST, Conclusion, beside, cause_within
from engine.diagnosis.evidence import is_of_groups, telling
from engine.diagnosis.likelihood import Ranked, explaining, explains, healthy_of_what_shows
from engine.diagnosis.stop_first import ICE, LIQUID_PERHAPS, liquid_not_ruled_out
from engine.diagnosis.verdict import (
    AIRFLOW_GUESSED,
    BY_THE_RULE,
    CANNOT_TELL,
    CAUSE,
    CONTRADICTED,
    DOES_NOT_COUNT,
    GROUP,
    NOT_READ,
    RESTART,
    SOUND,
    SPLIT_ALONE,
    STOP_FIRST,
    SUSPECTS,
    UNEXPLAINED,
    WATER_NOT_READ,
    WATER_SIDE,
    Case,
    Verdict,
)
from engine.expected.schools import FLAT_LOW_F
from engine.quantities.table import Table
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.margin import BORDERLINE, CANT_TELL, IN_RANGE
from engine.validity.conditions import is_restart
from engine.validity.finding import EVERYTHING, SPLIT


def verdict_of(case: Case) -> Verdict:
    """The verdict of the first rule that answers."""
    return next(found for rule in RULES if (found := rule(case)) is not None)


def _stop(case: Case) -> Verdict | None:
    """Stop first, explain after: the likely cause goes with it, unless the readings do not count or ice hides it."""
    if case.urgent is None:
        return None
    explained = case.conclusion.is_fault and not case.withheld and case.urgent.id != ICE
    behind = case.conclusion if explained else Conclusion()
    return Verdict(STOP_FIRST, case.urgent.id, urgent=case.urgent, findings=case.withheld, behind=behind)


def _restart(case: Case) -> Verdict | None:
    """After a thaw, read at once: airflow or a coil that is not fed; never charge."""
    if not is_restart(case.table.measured.round) or EVERYTHING in case.withholds or SPLIT in case.withholds:
        return None
    group = restart_group(case.table)
    return Verdict(GROUP if group else CANNOT_TELL, RESTART, group, quantities=("split", "superheat"))


def _does_not_count(case: Case) -> Verdict | None:
    withholds = case.withholds
    if not withholds or (EVERYTHING not in withholds and _let_through(case, withholds)):
        return None
    return Verdict(DOES_NOT_COUNT, case.withheld[0].id, findings=case.withheld, withholds=withholds)


def _let_through(case: Case, withholds: tuple[str, ...]) -> bool:
    """Whether what is told does not rest on what is withheld: an airflow, and beside a withheld circuit whatever is not
    of it.
    """
    told = case.flow_told or case.conclusion.own_group
    if told in FLOW_GROUPS:
        return True
    if SPLIT in withholds or told in ("", HEALTHY):
        return False
    return told in DUCT_GROUPS


def _flow_by_the_rule(case: Case) -> Verdict | None:
    """Water flow, then airflow, before charge: out of its limits it is told first, unless a fault outside the circuit
    explains the readings.
    """
    group, told = case.flow_told, case.conclusion
    if (
        not group
        or told.group == group
        or (told.is_fault and told.own_group not in (*IN_THE_CIRCUIT, CIRCUIT_OR_OUTDOORS, *FLOW_GROUPS))
    ):
        return None
    of = "water_flow" if group == "water_flow" else "airflow"
    cause, probability = cause_within(group, case.ranked), case.table[of].beyond
    return Verdict(
        CAUSE if cause else GROUP,
        BY_THE_RULE,
        group,
        cause,
        probability,
        told if told.is_fault else Conclusion(),
        case.withheld,
        case.withholds,
        (of,),
    )


def _told(case: Case) -> Verdict | None:
    """A fault that is sure enough. By the air alone, with its flow not measured, low capacity is told only where the
    split or the capacity is out of range.
    """
    told = case.conclusion
    by_air_alone = told.group == CIRCUIT_OR_OUTDOORS and case.airflow is None and not case.unexplained
    if not told.is_fault or by_air_alone:
        return None
    behind = beside(told, case.ranked)
    return Verdict(
        CAUSE if told.cause else GROUP,
        "",
        told.group,
        told.cause,
        told.probability,
        behind,
        case.withheld,
        case.withholds,
        _that_tell(case),
        _not_explained(case, [told.group, *([behind.group] if behind.group else [])]),
    )


MOST_TELLING = 2  # a verdict is read at a glance: what else is out of range is said at its mark


def _that_tell(case: Case) -> tuple[str, ...]:
    """The quantities that a told fault is seen in: of those that speak for it what is out of range or predicted, then
    what no cause is judged by; where there is none, what is borderline or may be out. The capacity is the split again,
    times the airflow.
    """
    told, kinds = case.conclusion, case.ranked.kinds
    grouped = {c: group_of(EVERY_CAUSE[c], kinds) for c in case.ranked.by_cause if c != HEALTHY}
    own = told.cause or next(c for c in grouped if is_in(grouped[c], told.group))
    rival = next((c for c in grouped if c != own and (told.cause or not is_in(grouped[c], told.group))), own)
    out = {*case.unexplained, *(q.id for q in case.table.quantities.values() if q.predicted)}
    speak = telling(own, rival, case.ranked, case.residuals)
    tell = [id_ for id_ in speak if id_ in out]
    tell += [id_ for id_ in case.unexplained if id_ not in kinds and is_of_groups(id_, [told.group])]
    tell = tell or [id_ for id_ in speak if case.table[id_].state in (BORDERLINE, CANT_TELL)]
    return tuple(id_ for id_ in tell if id_ != "capacity" or not {"split", "rise"} & {*tell})[:MOST_TELLING]


def _not_explained(case: Case, groups: list[str]) -> tuple[str, ...]:
    """What is out of range and comes of none of these groups' causes; the capacity goes with the split."""
    if case.conclusion.own_group == PROBE:
        return ()  # a wrong reading may be wrong by any amount
    value = {r.kind.id: r.value for r in case.residuals if r.kind.id != "capacity"}
    return tuple(
        id_
        for id_ in case.unexplained
        if (not explains(case.ranked, groups, id_, value[id_]) if id_ in value else not is_of_groups(id_, groups))
    )


def _water_side_sound(case: Case) -> Verdict | None:
    """Of a ground-source unit whose air was not read: the water side is an answer by itself."""
    residuals, moved = case.residuals, case.table.get("heat_moved")
    if case.airflow is not None or moved is None or moved.state != IN_RANGE or len(residuals) < FEWEST:
        return None
    if case.contradictions or case.unexplained or case.conclusion.is_fault:
        return None
    if next(iter(case.ranked.by_group)) not in (HEALTHY, CIRCUIT_OR_OUTDOORS):
        return None
    shows = healthy_of_what_shows(case.ranked, residuals)
    return Verdict(SOUND, WATER_SIDE, HEALTHY, "", shows) if shows >= SURE_WATER_SIDE else None


def _sound(case: Case) -> Verdict | None:
    if case.conclusion.group != HEALTHY or _why_not_sound(case):
        return None
    likely = case.conclusion.probability
    return Verdict(SOUND, "", HEALTHY, "", likely, quantities=case.worth_a_word, humid=_humid(case.table))


def _why_not_sound(case: Case) -> str:
    """What keeps a machine from being called sound where nothing wrong is the likeliest; '' for nothing."""
    ground = case.table.measured.round.equipment.kind == GROUND_SOURCE
    if case.contradictions:
        return CONTRADICTED
    if case.unexplained:
        return UNEXPLAINED
    if ground:
        return "" if case.table.get("heat_moved") else WATER_NOT_READ
    if case.basics:
        return NOT_READ if any(a.step.id != "airflow" for a in case.basics) else AIRFLOW_GUESSED
    return "" if case.airflow is not None else AIRFLOW_GUESSED


def _humid(table: Table) -> bool:
    """A damp house, where a split lower than people are used to is right."""
    split, dew_point = table.get("split"), table.measured["return_dew_point_f"]
    if split is None or not (split.measured.known and split.expected.known and dew_point.known):
        return False
    return (
        dew_point.value > HUMID_HOUSE_DEW_POINT.value and max(split.measured.value, split.expected.value) < FLAT_LOW_F
    )


def _cannot_tell(case: Case) -> Verdict:
    if liquid_not_ruled_out(case.table):
        return Verdict(CANNOT_TELL, LIQUID_PERHAPS, quantities=("superheat",), suspects=case.suspects)
    reason = _why_not_sound(case) if case.conclusion.group == HEALTHY else _why_open(case)
    if reason == NOT_READ:
        by_air = case.table.over_the_coil
        if by_air is None or not (by_air.measured.known and by_air.expected.known):
            return Verdict(CANNOT_TELL, NOT_READ, quantities=case.unexplained)
        others = (id_ for id_ in case.unexplained if id_ not in (by_air.id, "capacity"))  # that goes with the split
        return Verdict(CANNOT_TELL, SPLIT_ALONE, quantities=(by_air.id, *others))
    verdict = Verdict(CANNOT_TELL, reason, suspects=case.suspects if reason == SUSPECTS else ())
    if reason == CONTRADICTED:
        return replace(verdict, findings=case.contradictions)
    if reason != UNEXPLAINED:
        return verdict
    verdict = replace(verdict, quantities=_explained_first(case))
    among = out_of_range(verdict, case.table, case.ranked)
    if among is case.ranked:
        return verdict  # the diagnosis does not go by it, or nothing moves it so far: no cause is named for it
    return replace(verdict, suspects=_likely(among, case.ranked, LEAST_BEHIND))


def _explained_first(case: Case) -> tuple[str, ...]:
    """What is out of range, first what the likeliest fault explains: headline and causes are then about one thing."""
    likeliest, value = next(iter(case.ranked.by_group)), {r.kind.id: r.value for r in case.residuals}

    def is_of_another(id_: str) -> bool:
        return id_ not in value or not explains(case.ranked, [likeliest], id_, value[id_])

    return tuple(case.unexplained if likeliest == HEALTHY else sorted(case.unexplained, key=is_of_another))


def out_of_range(verdict: Verdict, table: Table, ranked: Ranked) -> Ranked:
    """Only what explains the first quantity that is out of range and that nothing told explains."""
    q = table[verdict.quantities[0]]
    return explaining(ranked, q.id, q.residual.value) if q.residual else ranked


def _likely(among: Ranked, all_: Ranked, least: float) -> tuple[str, ...]:
    """The likeliest two groups among these hypotheses, of those with at least this probability over all."""
    shares = dict(zip(GROUPS, (among.weights @ among.hypotheses.grouped).tolist(), strict=True))
    return tuple(
        sorted((g for g in shares if shares[g] > 0 and all_.by_group[g] >= least), key=lambda g: -shares[g])[:2]
    )


SURE_WATER_SIDE = 0.75  # of what the water can see: the rest is not read (working figure)
LEAST_BEHIND = 0.03  # probability of a fault from which it is named for what is out of range


def _why_open(case: Case) -> str:
    if len(case.residuals) < FEWEST or any(a.step.id != "airflow" for a in case.basics):
        return WATER_NOT_READ if case.table.measured.round.equipment.kind == GROUND_SOURCE else NOT_READ
    if case.contradictions:
        return CONTRADICTED
    return UNEXPLAINED if case.unexplained else SUSPECTS


RULES: tuple[Callable[[Case], Verdict | None], ...] = (
    _stop,
    _restart,
    _does_not_count,
    _flow_by_the_rule,
    _told,
    _water_side_sound,
    _sound,
    _cannot_tell,
)
