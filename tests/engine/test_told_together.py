"""Groups that readings may not tell apart: when they are told together, what is said then, and what is done first."""

from dataclasses import replace

import numpy as np
import pytest

from engine.assessment import assess
from engine.diagnosis.cause import GROUPS, IN_THE_CIRCUIT, JOINT, JOINT_LABELS, PROBE, PROBE_OF
from engine.diagnosis.causes import EVERY_CAUSE, causes_in
from engine.diagnosis.conclusion import LEAST_OF_JOINT, SURE_JOINT, Shown, concluded
from engine.report.mend_words import AFTER_GAUGES, PROVE_FIRST
from plant.machine import Spec
from plant.places import faulty
from tests.engine.rounds import walk, with_readings
from tests.engine.test_causes_elsewhere import cold, ground, read


def in_heating():
    weather = cold(35.0)
    return assess(read(faulty(Spec(kind="heat_pump"), {}, weather), weather, seer=14.0))


def without_air(found):
    return replace(found, readings=tuple(r for r in found.readings if r.place not in ("return_unit", "supply_plenum")))


SETTINGS = {
    "heating": in_heating(),
    "cooling": assess(with_readings(walk(liquid=101.0, coil_line=53.0), ("suction_line_outdoor", "temperature", 56.0))),
    "water": assess(ground()),
    "water alone": assess(without_air(ground())),
    "air and airflow": assess(walk()),
}


def weighed(found, **shares):
    """A ranking in which these causes, each alone, share all probability."""
    ranked = found.diagnosis.ranked
    known = list(causes_in(ranked.hypotheses.setting))
    weights = np.zeros(len(ranked.weights))
    for cause, share in shares.items():
        rows = np.array([tuple(c) == (cause,) for c in ranked.hypotheses.causes])
        weights[rows] += share / rows.sum()
    by_cause = {cause: shares.get(cause, 0.0) for cause in sorted(known, key=lambda c: -shares.get(c, 0.0))}
    by_group = dict.fromkeys(GROUPS, 0.0)
    for cause, share in shares.items():
        by_group[EVERY_CAUSE[cause].group] += share
    by_group = dict(sorted(by_group.items(), key=lambda item: -item[1]))
    return replace(ranked, weights=weights, by_cause=by_cause, by_group=by_group)


def told(where, **shares):
    found = SETTINGS[where]
    return concluded(weighed(found, **shares), found.diagnosis.residuals).group


@pytest.mark.parametrize("together", JOINT)
def test_each_has_a_name_and_what_is_done_first(together):
    """Where both are in the circuit pressures decide; else something is proved before anybody connects."""
    assert together in JOINT_LABELS and all(group in GROUPS for group in JOINT[together])
    first = AFTER_GAUGES if together in IN_THE_CIRCUIT and together not in PROVE_FIRST else PROVE_FIRST
    assert first[together].endswith(".")
    assert (PROBE in JOINT[together]) == (together in PROBE_OF)
    if together in IN_THE_CIRCUIT:
        assert any(group in IN_THE_CIRCUIT for group in JOINT[together])


@pytest.mark.parametrize(
    ("where", "shares", "group"),
    [
        ("heating", {"outdoor_coil": 0.5, "outdoor_probe": 0.5}, "cold_outdoors"),
        ("heating", {"outdoor_coil": 0.5, "supply_probe": 0.5}, ""),  # another probe explains another thing
        ("heating", {"outdoor_coil": 0.94, "outdoor_probe": 0.06}, "outdoor_coil"),  # sure enough by itself
        ("heating", {"outdoor_coil": 0.87, "outdoor_probe": 0.13}, "cold_outdoors"),  # sure, but one look decides
        ("heating", {"outdoor_coil": 0.8, "supply_probe": 0.2}, "outdoor_coil"),
        ("heating", {"outdoor_coil": 0.2, "outdoor_probe": 0.8}, "probe"),  # it is read again either way
        ("heating", {"starving_valve": 0.55, "weak_compressor": 0.4, "healthy": 0.05}, "starved_or_weak"),
        ("heating", {"starving_valve": 0.45, "liquid_clamp": 0.45, "healthy": 0.1}, "cold_liquid"),
        ("heating", {"undercharge": 0.5, "weak_compressor": 0.4, "healthy": 0.1}, "pumps_little"),
        ("heating", {"undercharge": 0.45, "weak_compressor": 0.2, "healthy": 0.35}, ""),  # together not sure enough
        ("heating", {"undercharge": 0.75, "weak_compressor": 0.05, "healthy": 0.2}, ""),  # it is the other alone
        ("cooling", {"undercharge": 0.5, "starving_valve": 0.5}, "not_fed"),
        ("cooling", {"undercharge": 0.5, "dirty_condenser": 0.45, "healthy": 0.05}, "warm_liquid"),
        ("cooling", {"bare_suction_line": 0.5, "suction_clamp": 0.5}, "warm_suction"),
        ("cooling", {"bare_suction_line": 0.5, "liquid_clamp": 0.5}, ""),
        ("cooling", {"overcharge": 0.7, "liquid_clamp": 0.2, "healthy": 0.1}, "cold_liquid"),
        ("cooling", {"overcharge": 0.85, "liquid_clamp": 0.15}, "charge_high"),  # it has to be surer
        ("cooling", {"overcharge": 0.45, "starving_valve": 0.45, "healthy": 0.1}, ""),  # no probe among them
        ("air and airflow", {"undercharge": 0.5, "dirty_condenser": 0.45, "healthy": 0.05}, ""),  # no line was read
        ("air and airflow", {"bare_suction_line": 0.5, "suction_clamp": 0.5}, ""),
        ("cooling", {"undercharge": 0.55, "weak_compressor": 0.45}, "pumps_little"),
        ("water", {"circuit_short": 0.5, "fouled_exchanger": 0.5}, "heat_short"),
        ("water", {"heat_on": 0.2, "supply_probe": 0.8}, "heat_or_probe"),  # a minute's look comes first
        ("water", {"heat_on": 0.9, "return_probe": 0.1}, "heat_or_probe"),
        ("water", {"heat_on": 0.2, "water_probe": 0.8}, "probe"),
        ("water alone", {"heat_on": 0.2, "supply_probe": 0.8}, "probe"),  # no air was read
    ],
)
def test_they_are_told_together_where_both_are_open_and_nothing_else_is(where, shares, group):
    assert told(where, **shares) == group


def test_what_was_told_together_stays_so_while_a_share_wavers():
    found = SETTINGS["heating"]
    ranked = weighed(found, outdoor_coil=0.92, outdoor_probe=0.08)
    assert concluded(ranked, found.diagnosis.residuals).group == "outdoor_coil"
    shown = Shown("cold_outdoors", "", ())
    assert concluded(ranked, found.diagnosis.residuals, shown).group == "cold_outdoors"


def test_once_somebody_has_looked_the_fault_is_told_alone():
    found = SETTINGS["heating"]
    ranked = weighed(found, outdoor_coil=0.8, outdoor_probe=0.2)
    for look, group in ({"outdoor_coil": "iced"}, "outdoor_coil"), ({"filter": "clean"}, "cold_outdoors"):
        assert concluded(ranked, found.diagnosis.residuals, seen=look).group == group


def test_the_bar_is_the_same_for_all_of_them():
    """Just over it is told, just under it is not; and each has to be open by itself."""
    for share, group in ((SURE_JOINT + 0.01, "not_fed"), (SURE_JOINT - 0.01, "")):
        assert told("cooling", undercharge=share / 2, starving_valve=share / 2, healthy=1.0 - share) == group
    open_, shut = LEAST_OF_JOINT + 0.01, LEAST_OF_JOINT - 0.01
    assert told("cooling", starving_valve=0.59, undercharge=open_, healthy=0.41 - open_) == "not_fed"
    assert told("cooling", starving_valve=0.59, undercharge=shut, healthy=0.41 - shut) == ""
