"""Starting, stopping and taking up background work."""

from datetime import datetime, timedelta

from django.db import IntegrityError, transaction
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from web.accounts.access import need
from web.accounts.deeds import note
from web.accounts.rights import SHOP
from web.background.kinds import kind_of, scheduled
from web.background.models import FAILED, GOES_ON, STOPPED, WAITING, Work
from web.background.tasks import work_on

SILENT_FOR = timedelta(minutes=1)  # of work that goes on: its worker is gone
GIVEN_UP_AFTER = timedelta(minutes=10)  # of a queued task that nobody ended


@transaction.atomic
def start(actor, kind: str, wants: dict | None = None) -> Work:
    """Start work for the actor's shop. Leads only: it is for the whole shop."""
    need(actor, SHOP, actor.shop_id)
    work = Work.objects.create(shop=actor.shop, kind=kind, wants=wants or {}, started_by=actor)
    note(actor, "work", detail=kind_of(kind).label)
    work_on.enqueue(work.pk)
    return work


def stop(actor, work: Work) -> None:
    """Stop after the step that is being done. What is done stays done."""
    need(actor, SHOP, work.shop_id)
    if Work.objects.filter(pk=work.pk, state__in=GOES_ON).update(state=STOPPED, beat_at=timezone.now()):
        note(actor, "work_stopped", detail=kind_of(work.kind).label)


@transaction.atomic
def go_on(actor, work: Work) -> None:
    """Go on with stopped or failed work from its last step."""
    need(actor, SHOP, work.shop_id)
    went = Work.objects.filter(pk=work.pk, state__in=(STOPPED, FAILED))
    if went.update(state=WAITING, last_error="", ended_at=None, beat_at=timezone.now()):
        work_on.enqueue(work.pk)


def keep_time(now: datetime | None = None) -> None:
    """What is done each minute: start what is due, and take up work whose worker was killed. Two schedulers do it
    once.
    """
    now = now or timezone.now()
    for id_, kind in scheduled().items():
        assert kind.every is not None
        slot = int(now.timestamp() // kind.every.total_seconds())
        _start_due(id_, f"{id_}@{slot}")
    take_up(now - SILENT_FOR)
    lost = DBTaskResult.objects.filter(status="RUNNING", started_at__lt=now - GIVEN_UP_AFTER)
    lost.update(status="FAILED", finished_at=now)


def _start_due(kind: str, due: str) -> None:
    if Work.objects.filter(due=due).exists():
        return
    try:
        with transaction.atomic():
            work_on.enqueue(Work.objects.create(kind=kind, due=due).pk)
    except IntegrityError:  # another scheduler was first
        pass


def take_up(silent_since: datetime) -> None:
    """Put work that goes on, of which nothing was heard since and which waits in no queue, in the queue again."""
    waiting = DBTaskResult.objects.ready().filter(task_path=work_on.module_path)
    queued = {asked["args"][0] for asked in waiting.values_list("args_kwargs", flat=True)}
    for work in Work.objects.filter(state__in=GOES_ON, beat_at__lt=silent_since).exclude(pk__in=queued):
        with transaction.atomic():
            heard = Work.objects.filter(pk=work.pk, beat_at=work.beat_at).update(beat_at=timezone.now())
            if heard:
                work_on.enqueue(work.pk)
