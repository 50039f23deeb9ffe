"""Where what was learnt looks like a fault: machines of a group that all read as if they were low on charge may all be
low on charge. Then the learnt expectation is not used for what the fault would move, and it is said.
"""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from engine.diagnosis.cause import Cause
from engine.diagnosis.causes import Setting, causes_in
from engine.kinds.features import ALL, LEVELS, Place
from engine.kinds.kind import FEWEST, OfSetting, Suspicion
from engine.quantities.residual import KINDS
from engine.readings.round import ORIFICE, TXV
from engine.uncertainty.propagation import K

# What makes offsets suspicious (working figures): they go the fault's way by at least this share of what a moderate one
# would do, in at least this part of what it moves, and the fault explains this much of all offsets together. One
# quantity alone has to say it louder.
LEAST_SHARE, LEAST_PART, EXPLAINED, ALONE = 0.5, 2 / 3, 0.6, 0.75
MODERATE = 1  # level
CONFIRMED_ENOUGH = 1 / 3  # of the machines: a fault they all have would have been found
# Faults of charge and metering are what a whole line may have from the day it was put in; dirt is not.
FROM_THE_FIRST_DAY = ("undercharge", "overcharge", "circuit_short", "high_side", "overfeeding", "starving_valve",
                      "restriction", "non_condensables", "low_blower", "tight_ducts", "low_water_flow")  # fmt: skip


def suspicions_of(found: OfSetting, setting: Setting, machines: Sequence[tuple[Place, bool]]) -> tuple[Suspicion, ...]:
    """The faults that what was learnt looks like, by the widest group that does. machines: each with whether it was
    confirmed.
    """
    groups = [(ALL, "", list(machines))]
    for level in LEVELS:
        of: dict[str, list[tuple[Place, bool]]] = defaultdict(list)
        for place, confirmed in machines:
            of[place.groups[level]].append((place, confirmed))
        groups += [(level, name, members) for name, members in sorted(of.items()) if name]
    said: dict[str, Suspicion] = {}
    for level, name, members in groups:
        if len(members) < FEWEST or np.mean([confirmed for _, confirmed in members]) >= CONFIRMED_ENOUGH:
            continue
        offsets = _offsets(found, [place for place, _ in members])
        for cause in causes_in(setting).values():
            if cause.id in FROM_THE_FIRST_DAY and (moved := _looks_like(cause, setting, offsets)):
                said.setdefault(cause.id, Suspicion(cause.id, level, name, moved))
    return tuple(said.values())


def _offsets(found: OfSetting, places: list[Place]) -> dict[str, float]:
    """Quantity -> where machines of these places lie on average, in the residual's terms."""
    alike: dict[tuple[str, ...], list[Place]] = defaultdict(list)
    for place in places:
        alike[tuple(place.groups.values())].append(place)
    of = [
        (len(same), replace(same[0], features=np.mean([p.features for p in same], axis=0))) for same in alike.values()
    ]
    share = np.array([n for n, _ in of]) / len(places)
    return {
        id_: float(share @ np.array([learnt.at(place)[0] for _, place in of]))
        for id_, learnt in found.learnt.items()
        if id_ in KINDS
    }


def _looks_like(cause: Cause, setting: Setting, offsets: dict[str, float]) -> tuple[str, ...]:
    """The quantities whose offsets go the fault's way, where they make its picture; nothing where they do not."""
    device = setting.device if setting.device in (TXV, ORIFICE) else TXV
    signs = cause.signs_on(device, setting.motor, setting.flow_by)
    level = min(MODERATE, cause.levels - 1)
    told = {k: shifts[level] for k, shifts in signs.items() if k in offsets and _tells(k, shifts[level])}
    if not told:
        return ()
    share = {k: offsets[k] / shift for k, shift in told.items()}
    with_it = [k for k, s in share.items() if s >= LEAST_SHARE]
    weights = np.array([abs(shift) / (KINDS[k].scatter / K) for k, shift in told.items()])
    mean = float(weights @ np.array(list(share.values())) / weights.sum())
    all_ = np.array([o / (KINDS[k].scatter / K) for k, o in offsets.items()])
    of_fault = np.array([offsets[k] / (KINDS[k].scatter / K) for k in told])
    explained = float(of_fault @ of_fault) / max(float(all_ @ all_), 1e-9)
    least = LEAST_SHARE if len(told) > 1 else ALONE
    if len(with_it) < LEAST_PART * len(told) or mean < least or explained < EXPLAINED:
        return ()
    return tuple(with_it)


def _tells(kind: str, shift: float) -> bool:
    """Whether a fault moves a quantity by more than it hardly moves."""
    return abs(shift) > KINDS[kind].scatter / K
