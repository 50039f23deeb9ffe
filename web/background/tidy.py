"""Daily tidying of what nobody needs any more: ended sessions, tallies, queue rows and old records of this work."""

from datetime import timedelta

from django.core.management import call_command
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from web.accounts.models import Tally
from web.background.kinds import Kind, Step
from web.background.models import FINISHED, Work

KEPT_FOR = timedelta(days=1)  # a queue row, once it has run
RECORDED_FOR = timedelta(days=30)  # scheduled work that ended well


def _tidy(work: Work) -> Step:
    call_command("clearsessions")
    now = timezone.now()
    gone, _ = DBTaskResult.objects.finished().filter(finished_at__lt=now - KEPT_FOR).delete()
    ended = Work.objects.filter(due__isnull=False, state=FINISHED, ended_at__lt=now - RECORDED_FOR)
    old, _ = ended.delete()
    Tally.objects.filter(until__lt=now).delete()
    return Step(gone + old, ended=True, says=f"Queue rows removed: {gone}; old records: {old}.")


TIDY = Kind("Daily tidying", _tidy, timedelta(days=1))
