"""What the queue runs: background work, a few seconds at a time, so that one long piece keeps no other waiting."""

import time

from django_tasks import task

from web.background.steps import run_step

TURN_S = 5.0


@task()
def work_on(pk: int) -> None:
    """Do steps of a piece of work for a few seconds, then queue it again."""
    until = time.monotonic() + TURN_S
    while run_step(pk):
        if time.monotonic() > until:
            work_on.enqueue(pk)
            return
