"""The engine's version says which engine judged: it changes with what the engine says of the same readings."""

from hashlib import sha256

from engine import VERSION
from engine.assessment import assess_many
from tests.engine.test_jobs import JOBS

# Our own output, and no check of it: only whether it is still the same.
SAYS = {"2026-12-02f": "75c93df215a4"}


def test_an_engine_that_judges_otherwise_has_another_version():
    """Every job's verdict and gauge decision, how likely each group is, and what is expected of each quantity."""
    said = []
    for found in assess_many([job for job, *_ in JOBS.values()]):
        diagnosis = found.diagnosis
        said.append((found.verdict.decides, diagnosis.gauges.decides))
        said.extend((group, f"{probability:.2f}") for group, probability in sorted(diagnosis.ranked.by_group.items()))
        said.extend((q.id, q.state, f"{q.expected.value:.3g}") for q in found.quantities.values() if q.expected.known)
    digest = sha256(repr(said).encode()).hexdigest()[:12]
    assert SAYS.get(VERSION) == digest, (
        f"The engine says something else of the same jobs, or there are other jobs. Write {digest!r} here: beside a new VERSION, "
        "where the one before has left the house."
    )
