"""What needs more than one moment: steadiness, baseline, follow-up, rounds against each other."""

from dataclasses import replace

import numpy as np
import pytest

from engine.assessment import assess, table_of
from engine.errors import EngineError
from engine.expected.today import from_published
from engine.physics.water.exchanger import Grid
from engine.readings.round import WEATHER_SERVICE, Reading
from engine.readings.steadiness import steadiness
from engine.report.finding_words import OBSTACLES as OBSTACLE_WORDS
from engine.report.finding_words import said
from engine.report.words import FAHRENHEIT
from engine.uncertainty.sources import since
from engine.validity.baseline_fitness import BY_DIAGNOSIS, OBSTACLES
from tests.engine.rounds import walk, with_readings

MINUTES = np.arange(0, 12.01, 0.5)
STATICS = (("return_plenum", "static_pressure", -0.2), ("supply_plenum", "static_pressure", 0.2))


def test_a_first_order_approach_is_not_yet_then_settled_and_the_time_is_told():
    """By construction: x = 55 + 20 exp(-t / 4 min). The change in 3 minutes falls under 0.5 °F at t = 4 ln(20 (e^0.75 -
    1) / 0.5) = 15.2.
    """
    curve = 55 + 20 * np.exp(-MINUTES / 4)
    early = steadiness(MINUTES, curve)
    assert early.state == "not yet" and early.minutes_to_go == pytest.approx(15.2 - 12, abs=0.4)
    later = np.arange(0, 24.01, 0.5)
    assert steadiness(later, 55 + 20 * np.exp(-later / 4)).state == "settled"


def test_a_hunting_valve_is_reported_as_a_swing_with_its_mean():
    found = steadiness(MINUTES, 50 + 2.0 * np.sin(MINUTES * 2 * np.pi / 2.5))
    assert (
        found.state == "swinging"
        and found.mean == pytest.approx(50, abs=0.4)
        and found.range == pytest.approx(4, abs=0.5)
    )
    drifting = steadiness(MINUTES, 50 + 1.5 * MINUTES)
    assert drifting.state == "not yet" and drifting.minutes_to_go is None


def test_noise_within_the_limit_is_settled_and_few_samples_are_too_few():
    noise = np.random.default_rng(3).uniform(-0.2, 0.2, len(MINUTES))
    assert steadiness(MINUTES, 72 + noise).state == "settled"
    assert steadiness([0, 1, 2], [72, 72, 72]).state == "too short" and steadiness([], []).state == "too short"
    with pytest.raises(EngineError, match="rising"):
        steadiness([0, 2, 1, 3], [72] * 4)


def fit(**changed):
    """A round that may become the baseline, unless changed. seen: what was looked at; liquid [°F]."""
    given = {"seen": {"condenser_coil": "dry", "panels": "on"}, "liquid": 100.5} | changed
    return with_readings(walk(**given), *changed.pop("statics", STATICS))


@pytest.mark.parametrize(("id_", "changed"), [
    ("condenser_wet", {"seen": {"condenser_coil": "wet", "panels": "on"}}), ("condenser_not_seen", {"seen": {"panels": "on"}}),
    ("panel_off", {"seen": {"condenser_coil": "dry", "panels": "off"}}), ("panel_not_seen", {"seen": {"condenser_coil": "dry"}}),
    ("strips_not_seen", {"strips": None}), ("capacity_not_seen", {"stages": "two"}),
    ("unsettled", {"minutes": 5.0}), ("liquid_at_outdoor", {"liquid": 90.0}), ("contradictions", {"supply_f": 80.0}),
    ("test_void", {"strips": "on"}), ("other_weather", {"outdoor_f": 55.0}),
    ("no_pressures", {"seen": {"condenser_coil": "dry", "panels": "on", "visit_kind": "first"}}),
    ("not_told_sound", {"cfm": None}),
    ("fault_likelier", {"seen": {"condenser_coil": "dry", "panels": "on", "filter": "blocked"}, "cfm": 820.0}),
])  # fmt: skip
def test_every_obstacle_to_a_baseline_fires_and_a_sound_round_has_none(id_, changed):
    assert assess(fit()).baseline_obstacles == ()
    assert id_ in assess(fit(**changed)).baseline_obstacles
    assert set(OBSTACLE_WORDS) == {*OBSTACLES, *BY_DIAGNOSIS}


def test_the_air_is_read_outdoors_and_at_the_unit_and_not_by_the_weather_service():
    whole = fit()
    for place, quantity in (("return_unit", "dry_bulb"), ("return_unit", "rh"), ("supply_plenum", "dry_bulb")):
        rest = tuple(r for r in whole.readings if (r.place, r.quantity) != (place, quantity))
        assert "air_not_read" in assess(replace(whole, readings=rest)).baseline_obstacles, (place, quantity)
    by_service = tuple(replace(r, source=WEATHER_SERVICE) if r.place == "outdoor" else r for r in whole.readings)
    assert "outdoor_not_read" in assess(replace(whole, readings=by_service)).baseline_obstacles


def test_a_baseline_says_what_it_lacks_of_the_follow_up_walk_of_its_machine():
    assert "liquid_line_outdoor" not in assess(fit()).baseline_lacks
    assert {"filter", "compressor", "suction_line_outdoor"} <= set(assess(fit()).baseline_lacks)
    assert not {"water_in", "true_suction"} & set(assess(fit()).baseline_lacks), "other machines, the other mode"


def test_a_round_without_statics_is_no_baseline():
    assert assess(walk(liquid=100.5, seen={"condenser_coil": "dry", "panels": "on"})).baseline_obstacles == (
        "no_statics",
    )


def follow_up(place, quantity, was, now):
    """One quantity of a machine against its own baseline, where only that reading changed."""
    first, second = (with_readings(walk(liquid=100.5), (place, quantity, value)) for value in (was, now))
    return assess(second, table_of(first))


@pytest.mark.parametrize(("place", "quantity", "id_", "was", "now", "word"), [
    ("filter", "pressure_drop", "filter_drop", 0.09, 0.09, "in range"), ("filter", "pressure_drop", "filter_drop", 0.09, 0.31, "high"),
    ("filter", "pressure_drop", "filter_drop", 0.15, 0.04, "low"),
    ("suction_line_indoor", "temperature", "suction", 52.0, 52.0, "predicted"),
])  # fmt: skip
def test_follow_up_against_the_own_baseline_by_the_one_margin_rule(place, quantity, id_, was, now, word):
    found = follow_up(place, quantity, was, now)
    q = found.table[id_]
    assert q.authority == "own_baseline" and q.word == word
    assert ("better_than_baseline" in {f.id for f in found.findings}) is (word == "low")


def test_the_units_own_table_is_its_own():
    table = Grid(
        "Maker A 36",
        "return wet bulb",
        (59.0, 63.0, 67.0),
        "outdoor",
        (85.0, 95.0),
        ((33e3, 31e3), (35e3, 33e3), (37e3, 35e3)),
    )
    assert from_published(table, "maker a 36", 63.0, 90.0).value == pytest.approx(34000.0)
    with pytest.raises(EngineError, match="own table"):
        from_published(table, "Maker B", 63.0, 90.0)


def test_errors_that_last_cancel_since_the_baseline_and_others_are_two():
    """By hand: 3 and 4 that last are 1 apart; 5 then and 12 now are 13 together (5-12-13 triangle)."""
    apart = since({"model": 4.0, "probe": 12.0}, {"model": 3.0, "probe": 5.0}, ("model",))
    assert apart["model"] == 1.0 and sum(p**2 for s, p in apart.items() if s != "model") == 13.0**2


def rounds_of(flows, statics, share=0.07):
    """Two assessed rounds with these airflows [CFM] and supply statics [in. w.c.]. share: 95 % of the airflow."""
    found = []
    for cfm, static in zip(flows, statics, strict=True):
        given = with_readings(
            walk(cfm=None), ("return_plenum", "static_pressure", -0.2), ("supply_plenum", "static_pressure", static)
        )
        flow = Reading("blower", "airflow", cfm, method="flow_device", plane="return", u95=share * cfm)
        found.append(assess(replace(given, readings=(*given.readings, flow))))
    return found


def test_more_air_must_raise_static_with_its_square():
    first, second = rounds_of((900, 1200), (0.20, 0.355))
    assert second.disagrees_with(first) == ()
    first, second = rounds_of((900, 1200), (0.20, 0.20), 0.05)
    (found,) = second.disagrees_with(first)
    assert "should have risen by about 78 %" in said(found, FAHRENHEIT).message
    first, second = rounds_of((900, 1200), (0.20, 0.20), 0.30)
    assert second.disagrees_with(first) == (), "too blunt to say"


@pytest.mark.parametrize(("spot", "probe", "change", "id_"), [
    ("hole 1", "probe", 3.0, None), ("hole 2", "probe", 3.0, "probe_moved"), ("hole 1", "other", 1.0, "probe_changed"), ("hole 1", "other", 4.0, None),
])  # fmt: skip
def test_a_moved_probe_breaks_the_comparison_and_another_widens_it(spot, probe, change, id_):
    def at(given, **how):
        return replace(
            given,
            readings=tuple(
                replace(r, **how) if (r.place, r.quantity) == ("supply_plenum", "dry_bulb") else r
                for r in given.readings
            ),
        )

    base = walk()
    supply = base.value("supply_plenum", "dry_bulb")
    first = assess(at(base, spot="hole 1"))
    second = assess(at(base, spot=spot, instrument=probe, value=supply + change))
    assert [f.id for f in second.disagrees_with(first)] == ([id_] if id_ else [])
