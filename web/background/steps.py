"""Doing background work, step by step.

A step and the record of how far it is are one transaction on a locked row: a killed worker leaves either both or
neither, and two workers never do the same step.
"""

import logging

from django.db import transaction
from django.utils import timezone

from web.background.kinds import kind_of
from web.background.models import FAILED, FINISHED, GOES_ON, LONGEST_TEXT, RUNNING, Work

logger = logging.getLogger(__name__)


def run_step(pk: int) -> bool:
    """Do the next step of work; whether there is another."""
    try:
        with transaction.atomic():
            work = Work.objects.select_for_update(skip_locked=True).filter(pk=pk, state__in=GOES_ON).first()
            if work is None:  # stopped, ended, or another worker has it in hand
                return False
            step = kind_of(work.kind).step(work)
            work.done += step.done
            work.total = step.total if step.total is not None else work.total
            work.cursor, work.beat_at = step.cursor, timezone.now()
            work.state = FINISHED if step.ended else RUNNING
            if step.ended:
                work.says, work.ended_at = step.says[:LONGEST_TEXT], work.beat_at
            work.save()
    except Exception as error:
        logger.exception("Background work %s failed", pk)
        said = f"{type(error).__name__}: {error}"[:LONGEST_TEXT]
        now = timezone.now()
        Work.objects.filter(pk=pk, state__in=GOES_ON).update(state=FAILED, last_error=said, beat_at=now, ended_at=now)
        return False
    return not step.ended
