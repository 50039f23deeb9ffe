"""A bundle that is written is the visit that was read."""

import json
from pathlib import Path

import pytest

from engine.assessment import assess
from engine.report.bundle.reading import visit_of
from engine.report.bundle.writing import bundle_of

EXAMPLES = sorted(Path("docs/examples").glob("*.json"))
LINES = Path("docs/examples/visits.jsonl").read_text().splitlines()
ALL = [pytest.param(path.read_text(), id=path.stem) for path in EXAMPLES] + [
    pytest.param(line, id=f"line {n}") for n, line in enumerate(LINES, 1)
]


@pytest.mark.parametrize("text", ALL)
def test_out_and_in_again_it_is_the_same_and_is_judged_the_same(text):
    visit = visit_of(json.loads(text))
    rounds = [round_ for _, round_ in visit.rounds]
    again = visit_of(json.loads(json.dumps(bundle_of(visit.name, visit.system, rounds, visit.baseline))))
    assert [round_ for _, round_ in again.rounds] == rounds
    assert again.baseline == visit.baseline and (again.name, again.system) == (visit.name, visit.system)
    first, second = (assess(found.rounds[-1][1]).verdict for found in (visit, again))
    assert first == second
