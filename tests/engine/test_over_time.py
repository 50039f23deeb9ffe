"""What needs more than one moment: steadiness, baseline, follow-up, authority, rounds against each other."""

import numpy as np
import pytest

from engine.errors import EngineError
from engine.expected.authority import from_published
from engine.judgement.baseline import FOLLOW_UP, OBSTACLES, Fitness, follow_up, obstacles
from engine.judgement.consistency import airflow_against_static, same_way
from engine.judgement.steadiness import steadiness
from engine.uncertainty.sources import since
from engine.water.exchanger import Grid

MINUTES = np.arange(0, 12.01, 0.5)
SOUND = Fitness(
    condenser_wet=False, panel_off=False, settled=True, liquid_line_f=99.0, outdoor_f=90.0, contradictions=0, statics_taken=True
)


def test_a_first_order_approach_is_not_yet_then_settled_and_the_time_is_told():
    """By construction: x = 55 + 20 exp(-t / 4 min). The change in 3 minutes falls under 0.5 °F at t = 4 ln(20 (e^0.75 - 1) / 0.5) = 15.2."""
    curve = 55 + 20 * np.exp(-MINUTES / 4)
    early = steadiness(MINUTES, curve)
    assert early.state == "not yet" and early.minutes_to_go == pytest.approx(15.2 - 12, abs=0.4)
    later = np.arange(0, 24.01, 0.5)
    assert steadiness(later, 55 + 20 * np.exp(-later / 4)).state == "settled"


def test_a_hunting_valve_is_reported_as_a_swing_with_its_mean():
    found = steadiness(MINUTES, 50 + 2.0 * np.sin(MINUTES * 2 * np.pi / 2.5))
    assert found.state == "swinging" and found.mean == pytest.approx(50, abs=0.4) and found.range == pytest.approx(4, abs=0.5)
    drifting = steadiness(MINUTES, 50 + 1.5 * MINUTES)
    assert drifting.state == "not yet" and drifting.minutes_to_go is None


def test_noise_within_the_limit_is_settled_and_few_samples_are_too_few():
    noise = np.random.default_rng(3).uniform(-0.2, 0.2, len(MINUTES))
    assert steadiness(MINUTES, 72 + noise).state == "settled"
    assert steadiness([0, 1, 2], [72, 72, 72]).state == "too short" and steadiness([], []).state == "too short"
    with pytest.raises(EngineError, match="rising"):
        steadiness([0, 2, 1, 3], [72] * 4)


BROKEN = {
    "condenser_wet": {"condenser_wet": True}, "condenser_not_seen": {"condenser_wet": None}, "panel_off": {"panel_off": True},
    "panel_not_seen": {"panel_off": None}, "unsettled": {"settled": False}, "liquid_at_outdoor": {"liquid_line_f": 90.0},
    "contradictions": {"contradictions": 1}, "no_statics": {"statics_taken": False},
}  # fmt: skip


def test_every_obstacle_to_a_baseline_fires_and_a_sound_round_has_none():
    assert obstacles(SOUND) == [] and set(BROKEN) == {obstacle.id for obstacle in OBSTACLES}
    for id_, change in BROKEN.items():
        said = next(obstacle.says for obstacle in OBSTACLES if obstacle.id == id_)
        assert obstacles(Fitness(**{**vars(SOUND), **change})) == [said]


@pytest.mark.parametrize(("quantity", "value", "u95", "was", "state"), [
    ("split_f", 20.0, 0.4, 19.0, "as it was"), ("split_f", 24.0, 0.4, 19.0, "moved"), ("split_f", 21.5, 1.5, 19.0, "can't tell yet"),
    ("filter_drop_inwc", 0.31, 0.01, 0.09, "moved"), ("filter_drop_inwc", 0.04, 0.01, 0.12, "better than possible"),
    ("airflow_cfm", 1450.0, 80.0, 1200.0, "better than possible"), ("airflow_cfm", 900.0, 80.0, 1200.0, "moved"),
    ("amps", 9.0, 0.2, 9.4, "as it was"),
])  # fmt: skip
def test_follow_up_against_baseline(quantity, value, u95, was, state):
    found = follow_up(quantity, value, u95, was, 0.0)
    assert found.state == state and found.sentence and quantity in FOLLOW_UP


def test_the_units_own_table_is_its_own():
    table = Grid(
        "Maker A 36", "return wet bulb", (59.0, 63.0, 67.0), "outdoor", (85.0, 95.0), ((33e3, 31e3), (35e3, 33e3), (37e3, 35e3))
    )
    assert from_published(table, "maker a 36", 63.0, 90.0).value == pytest.approx(34000.0)
    with pytest.raises(EngineError, match="own table"):
        from_published(table, "Maker B", 63.0, 90.0)


def test_errors_that_last_cancel_since_the_baseline_and_others_are_two():
    """By hand: 3 and 4 that last are 1 apart; 5 then and 12 now are 13 together (5-12-13 triangle)."""
    apart = since({"model": 4.0, "probe": 12.0}, {"model": 3.0, "probe": 5.0}, ("model",))
    assert apart["model"] == 1.0 and sum(p**2 for s, p in apart.items() if s != "model") == 13.0**2


def test_more_air_must_raise_static_with_its_square():
    ten = (0.10 * 900, 0.10 * 1200)
    assert airflow_against_static((900, 1200), ten, (0.20, 0.35), (0.007, 0.008)) == []
    (found,) = airflow_against_static((900, 1200), (60, 80), (0.20, 0.20), (0.007, 0.007))
    assert "178 %" in found.message and "100 %" in found.message
    assert airflow_against_static((900, 1200), (270, 360), (0.20, 0.20), (0.007, 0.007)) == [], "too blunt to say"


def test_a_moved_probe_breaks_the_comparison_and_another_widens_it():
    assert same_way("supply plenum", ("p1", "p1"), ("hole 1", "hole 1"), 3.0, 0.9) == []
    assert same_way("supply plenum", ("p1", "p1"), ("hole 1", "hole 2"), 3.0, 0.9)[0].id == "probe_moved"
    assert same_way("supply plenum", ("p1", "p2"), ("hole 1", "hole 1"), 1.0, 0.9)[0].id == "probe_changed"
    assert same_way("supply plenum", ("p1", "p2"), ("hole 1", "hole 1"), 4.0, 0.9) == []
