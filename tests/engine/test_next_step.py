"""Read as the page says, from nothing on, simulated visits come to an end, and nothing is left out on the way."""

import pytest

from benchmarks.judgement import HEATING_TRUTH, WATER_TRUTH, truth_of
from benchmarks.steps import MOST_STEPS, RUNS, followed
from engine.diagnosis.cause import HEALTHY
from engine.diagnosis.next_steps import is_walked
from engine.report.bundle.reading import visit_of
from engine.report.verdict_words import NOTHING_MORE, verdict_said
from engine.report.words import FAHRENHEIT
from plant.simulate import bundle

CLAMPS = {"suction_at_coil", "suction_outdoor", "true_suction", "amps"}


def visits(kind, heating, count=10):
    names = WATER_TRUTH if kind == "ground_source" else HEATING_TRUTH if heating else {}
    for row in range(count):
        visit = visit_of(bundle(6200, row, kind, heating=heating, gauges=True, discharge=kind != "ground_source"))
        causes = tuple(names.get(cause, cause) for cause, _ in truth_of(visit.name)) or (HEALTHY,)
        yield visit.name, followed(visit.rounds[0][1], causes)


@pytest.mark.parametrize(("kind", "heating"), [run[1:] for run in RUNS], ids=[run[0] for run in RUNS])
def test_it_ends_and_leaves_nothing_out(kind, heating):
    for name, done in visits(kind, heating):
        assert len(done.steps) < MOST_STEPS and len({*done.steps}) == len(done.steps), (name, done.steps)
        round_, setting = done.found.round, done.found.diagnosis.setting
        if verdict_said(done.found, FAHRENHEIT).next_step == NOTHING_MORE:
            assert is_walked(round_, setting), (name, done.steps)
        if round_.by_gauge:
            assert CLAMPS & {*done.steps}, (name, done.steps)
