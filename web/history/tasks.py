"""Background work: what finished visits came to, for the lists of the due and of the lead."""

from datetime import timedelta

from web.background.kinds import Kind, Step
from web.background.models import Work
from web.history.summaries import summarise, to_summarise

AT_ONCE = 5  # a visit takes some 100 ms where its machine has a long history


def _step(work: Work) -> Step:
    steps = to_summarise(AT_ONCE)
    summarise(*steps)
    done = work.done + len(steps)
    return Step(len(steps), ended=not steps, says=f"{done} visits." if done else "Nothing was finished since.")


SUMMARISE = Kind("What finished visits came to", _step, timedelta(minutes=5))
