"""Read as the page says, from nothing on, simulated visits come to an end, and nothing is left out on the way."""

import pytest

from benchmarks.judgement import true_causes
from benchmarks.steps import MOST_STEPS, RUNS, followed, visit
from engine.diagnosis.gauges import WARRANTED
from engine.diagnosis.next_steps import is_walked
from engine.report.verdict_words import NOTHING_MORE, verdict_said
from engine.report.words import FAHRENHEIT

CLAMPS = {"suction_at_coil", "suction_outdoor", "true_suction", "amps"}


def visits(kind, heating, count=10):
    for row in range(count):
        name, whole = visit(6200, row, kind, heating)
        yield name, followed(whole, true_causes(name, kind, heating)[0])


@pytest.mark.parametrize(("kind", "heating"), [run[1:] for run in RUNS], ids=[run[0] for run in RUNS])
def test_it_ends_and_leaves_nothing_out(kind, heating):
    """Nothing more to read means that the walk is whole; where a hose may go on, a clamp was there before it."""
    whole, warranted = 0, 0
    for name, done in visits(kind, heating):
        assert len(done.steps) < MOST_STEPS and len({*done.steps}) == len(done.steps), (name, done.steps)
        for end in {"grille", "register"} & {*done.steps}:  # held against the air at the unit
            assert {"return_air", "air"} & {*done.steps[: done.steps.index(end)]}, (name, done.steps)
        diagnosis = done.found.diagnosis
        if verdict_said(done.found, FAHRENHEIT).next_step == NOTHING_MORE:
            assert is_walked(done.found.round, diagnosis.setting), (name, done.steps)
            whole += 1
        if diagnosis.gauges.decides == WARRANTED:
            assert CLAMPS & {*done.steps}, (name, done.steps)
            warranted += 1
    assert whole and (warranted or kind == "ground_source"), "the sample has both"
