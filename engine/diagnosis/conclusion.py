"""What follows from the probabilities: sound, a group of causes, one cause, or nothing yet."""

from collections.abc import Mapping, Sequence, Set
from dataclasses import dataclass

from engine.diagnosis.cause import (
    BESIDE_A_PROBE,
    CHARGE_GROUPS,
    CIRCUIT_OR_OUTDOORS,
    HEALTHY,
    IN_THE_CIRCUIT,
    JOINT,
    PLATE,
    PROBE,
    PROBE_OF,
    SEEN_IN,
    is_in,
)
from engine.diagnosis.causes import EVERY_CAUSE, causes_in, group_of
from engine.diagnosis.likelihood import Ranked, of_group
from engine.diagnosis.observation_likelihoods import speak_of
from engine.quantities.residual import Residual

# How sure to be before it is said. Refrigerant put in or taken out wrongly does harm, so that charge wants more.
# A probe that is told wrong makes everybody read again and trust the machine.
SURE_GROUP, SURE_CHARGE, SURE_PROBE, SURE_CAUSE, SURE_HEALTHY = 0.60, 0.80, 0.65, 0.65, 0.50
# Of a ground-source unit whose airflow is not read this group is half of all there is before anything is known.
SURE_BY_WATER = 0.80
SURE = {HEALTHY: SURE_HEALTHY, PROBE: SURE_PROBE, **dict.fromkeys(CHARGE_GROUPS, SURE_CHARGE)}
# Air that is short by one share everywhere is low airflow on a machine that is short besides, until draw or drops say
# that the machine is another.
TELL_SIZE = ("amps", "filter_drop", "coil_drop", "return_drop", "supply_drop")
# Only an airflow that was measured lets a probe of the air be told wrong, or be told high: what an unknown airflow does
# reads the same, and ducts that are all tight read as one that is high.
OF_A_MEASURED_AIRFLOW = ("supply_probe", "return_probe", "high_airflow")
# Of groups that are told together (working figures): nothing but gauges, and no refrigerant before them, follows.
SURE_JOINT = 0.70
LEAST_OF_JOINT = 0.10  # of each of them: less, and it is the other alone, told where it is sure enough
MORE_LIKELY_THAN_NOT = 0.50  # a cause that is named is that, whatever its share of its group
FEWEST = 2  # quantities: on fewer nothing is concluded
# What was said last stays said until it is this much less likely than it had to be, and causes keep their order until
# they differ by this much: a reading that wavers does not make the page waver.
KEPT_FOR = 0.04


@dataclass(frozen=True)
class Shown:
    """What was said of a round last: its group and cause ('' for none), and its causes in their order."""

    group: str
    cause: str
    causes: tuple[str, ...]


NOTHING_SHOWN = Shown("", "", ())
NOTHING_SEEN: Mapping[str, str] = {}


@dataclass(frozen=True)
class Conclusion:
    """What is wrong as far as it can be told: HEALTHY, a group, or '' for nothing yet; the cause where it is told
    within the group; how likely.
    """

    group: str = ""
    cause: str = ""
    probability: float = 0.0

    @property
    def own_group(self) -> str:
        """The group of the cause that was told, else the group as these readings tell it."""
        return EVERY_CAUSE[self.cause].group if self.cause else self.group

    @property
    def is_fault(self) -> bool:
        """Whether something is wrong."""
        return self.group not in ("", HEALTHY)


def concluded(
    ranked: Ranked, residuals: Sequence[Residual], shown: Shown = NOTHING_SHOWN, seen: Mapping[str, str] = NOTHING_SEEN
) -> Conclusion:
    """What the probabilities allow to be said. shown: what was said last, which stays while it nearly holds; seen: the
    looks that were taken.
    """
    if len(residuals) < FEWEST:
        return Conclusion()
    sure = [group for group, share in ranked.by_group.items() if share >= _enough(group, ranked, shown)]
    if next(iter(ranked.by_group)) == PLATE and not set(TELL_SIZE) & set(ranked.kinds):
        return Conclusion()
    if not sure:
        return _jointly(ranked, shown) or Conclusion()
    if "airflow" not in ranked.kinds and _likeliest_of(sure[0], ranked) in OF_A_MEASURED_AIRFLOW:
        return Conclusion()
    # Of two at once what is outside the circuit is told first: it is mended first, and the circuit is read again.
    group = next((g for g in sure if g not in IN_THE_CIRCUIT), sure[0])
    # What a wrong probe would read like is told with the probe until somebody has looked: that takes a minute. Charge
    # that is sure is told by itself: it has to be so much surer.
    fault = BESIDE_A_PROBE if group == PROBE else group
    alone = group in CHARGE_GROUPS or (group != PROBE and _was_looked_at(group, ranked, seen))
    both = None if alone else _jointly(ranked, shown, {fault, PROBE})
    cause = "" if group == HEALTHY else cause_within(group, ranked, shown)
    return both or Conclusion(group, cause, ranked.by_group[group])


def _likeliest_of(group: str, ranked: Ranked) -> str:
    return next(c for c in ranked.by_cause if group_of(EVERY_CAUSE[c], ranked.kinds) == group)


def _was_looked_at(group: str, ranked: Ranked, seen: Mapping[str, str]) -> bool:
    return any(
        speak_of(seen, cause) for cause in ranked.by_cause if group_of(EVERY_CAUSE[cause], ranked.kinds) == group
    )


def _enough(group: str, ranked: Ranked, shown: Shown) -> float:
    """How likely a group has to be before it is told."""
    sure = SURE.get(group, SURE_GROUP)
    if group == CIRCUIT_OR_OUTDOORS and "heat_moved" in ranked.kinds:
        sure = SURE_BY_WATER
    return sure - (KEPT_FOR if shown.group == group else 0.0)


def beside(told: Conclusion, ranked: Ranked) -> Conclusion:
    """What else is likelier there than not, beside a fault that is told; nothing where it is alone."""
    for group, share in ranked.by_group.items():
        if group != HEALTHY and not is_in(group, told.group) and share >= MORE_LIKELY_THAN_NOT:
            return Conclusion(group, cause_within(group, ranked), share)
    return Conclusion()


def _jointly(ranked: Ranked, shown: Shown, of: Set[str] = frozenset()) -> Conclusion | None:
    """Groups that these readings tell from everything else and not from each other: the first of them and one other at
    least; None where they do not. of: only where these are among them.
    """
    for told, groups in JOINT.items():
        is_seen = told not in SEEN_IN or any(kind in ranked.kinds for kind in SEEN_IN[told])
        if not is_seen or not of <= set(groups):
            continue
        share = float(ranked.weights @ of_group(ranked.hypotheses, told))
        kept = KEPT_FOR if shown.group == told else 0.0
        first, *others = (ranked.by_group[group] >= LEAST_OF_JOINT - kept for group in groups)
        open_ = first and any(others)
        of_it = PROBE not in groups or _likeliest_of(PROBE, ranked) in PROBE_OF[told]
        if open_ and of_it and share >= SURE_JOINT - kept:
            return Conclusion(told, "", share)
    return None


def cause_within(group: str, ranked: Ranked, shown: Shown = NOTHING_SHOWN) -> str:
    """The cause of a group that readings and looks tell from the group's others, or ''. That it is the commonest of
    them is not enough: a dirty condenser is not named where a weak fan would read the same.
    """
    known = causes_in(ranked.hypotheses.setting)
    parts = {c: p for c, p in ranked.by_cause.items() if group_of(EVERY_CAUSE[c], ranked.kinds) == group}
    if not sum(parts.values()) > 0 or len(ranked.kinds) < FEWEST:
        return ""
    by_evidence = {c: p / known[c].prior for c, p in parts.items()}
    cause = max(by_evidence, key=lambda c: by_evidence[c])
    share = by_evidence[cause] / sum(by_evidence.values())
    kept = KEPT_FOR if shown.cause == cause else 0.0
    return cause if share >= SURE_CAUSE - kept and parts[cause] >= MORE_LIKELY_THAN_NOT - kept else ""


def in_kept_order(causes: list[str], by_cause: dict[str, float], before: tuple[str, ...]) -> list[str]:
    """Causes, likeliest first, but two that are nearly as likely stay in the order they had."""
    found = list(causes)
    for _ in found:
        for i in range(len(found) - 1):
            first, second = found[i : i + 2]
            had = second in before and (first not in before or before.index(second) < before.index(first))
            if had and by_cause[first] - by_cause[second] < KEPT_FOR:
                found[i : i + 2] = [second, first]
    return found
