"""Background work: in steps that are done once, stopped and taken up again, started once when due, and the lead's."""

import os
import subprocess
import sys
import time
from datetime import timedelta

import pytest
from django.db import connection
from django.urls import reverse
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from tests.web.conftest import words
from web.accounts.models import User
from web.accounts.rights import LEAD
from web.background import services
from web.background.cores import let_go, over_cores, parted
from web.background.kinds import Kind, Step
from web.background.models import FAILED, FINISHED, RUNNING, STOPPED, Work
from web.background.steps import run_step
from web.retention.models import Removal

STEPS = 8


def process_of(_part):
    return os.getpid()


def _count(work):
    """Keeps a row for each step, and fails on the way where it is told to."""
    number = work.done + 1
    Removal.objects.create(table="counted", rows=number, why="a step of a test")
    if work.wants.get("trouble") == number and not work.last_error and work.cursor.get("at") != number:
        raise RuntimeError("the disk is full")
    time.sleep(work.wants.get("seconds", 0.0))
    return Step(1, {"at": number}, ended=number == STEPS, total=STEPS, says=f"{number} counted.")


COUNT = Kind("Counting", _count)
HOURLY = Kind("Counting by the hour", _count, timedelta(hours=1))


@pytest.fixture(autouse=True)
def kinds(settings):
    settings.BACKGROUND_KINDS = {
        "count": "tests.web.test_background.COUNT",
        "hourly": "tests.web.test_background.HOURLY",
    }


@pytest.fixture
def lead(ours):
    ours.person.role = LEAD
    ours.person.save()
    return ours.person


def work_off():
    """What the worker does until nothing is left; on this connection, which the real one would close."""
    while row := DBTaskResult.objects.ready().first():
        row.claim("a test")
        row.task.call(*row.args_kwargs["args"])
        row.set_successful(None)


def counted():
    return list(Removal.objects.order_by("pk").values_list("rows", flat=True))


def test_work_is_done_in_steps_and_says_what_came_of_it(lead):
    work = services.start(lead, "count")
    work_off()
    work.refresh_from_db()
    assert (work.state, work.done, work.percent, work.says) == (FINISHED, STEPS, 100, "8 counted.")
    assert counted() == list(range(1, STEPS + 1))
    assert not run_step(work.pk), "what is finished is not begun again"


def test_stopped_work_goes_on_from_its_last_step(lead):
    work = services.start(lead, "count")
    assert run_step(work.pk) and run_step(work.pk)
    services.stop(lead, work)
    work_off()
    work.refresh_from_db()
    assert (work.state, work.done) == (STOPPED, 2)
    services.go_on(lead, work)
    work_off()
    assert counted() == list(range(1, STEPS + 1))


def test_a_failed_step_leaves_nothing_behind_and_says_why(lead, caplog):
    work = services.start(lead, "count", {"trouble": 3})
    work_off()
    work.refresh_from_db()
    assert (work.state, work.done, work.last_error) == (FAILED, 2, "RuntimeError: the disk is full")
    assert counted() == [1, 2] and "disk is full" in caplog.text
    Work.objects.filter(pk=work.pk).update(wants={})
    services.go_on(lead, work)
    work_off()
    work.refresh_from_db()
    assert (work.state, work.last_error) == (FINISHED, "") and counted() == list(range(1, STEPS + 1))


def test_what_is_due_is_started_once_however_many_schedulers_there_are(lead):
    now = timezone.now().replace(minute=20)
    for minutes in (0, 1, 30):
        services.keep_time(now + timedelta(minutes=minutes))
    assert Work.objects.get().kind == "hourly"
    services.keep_time(now + timedelta(minutes=45))
    assert Work.objects.count() == 2, "the next hour is another"


@pytest.mark.django_db(transaction=True)
def test_a_worker_killed_in_the_middle_loses_nothing_and_doubles_nothing(lead):
    work = services.start(lead, "count", {"seconds": 0.2})
    script = (
        "import django; django.setup()\n"
        "from django.conf import settings\n"
        "from django.core.management import call_command\n"
        "settings.BACKGROUND_KINDS = {'count': 'tests.web.test_background.COUNT'}\n"
        "call_command('db_worker', startup_delay=False, interval=0.1, reload=False, verbosity=0)\n"
    )
    worker = subprocess.Popen(
        [sys.executable, "-c", script], env=os.environ | {"RUDDY_DB_NAME": connection.settings_dict["NAME"]}
    )
    try:
        until = time.monotonic() + 60
        while not 2 <= Work.objects.get(pk=work.pk).done < STEPS:
            assert time.monotonic() < until and worker.poll() is None
            time.sleep(0.05)
    finally:
        worker.kill()
        worker.wait()
    work.refresh_from_db()
    assert work.state == RUNNING and work.done < STEPS and counted() == list(range(1, work.done + 1))
    assert DBTaskResult.objects.filter(status="RUNNING").count() == 1, "the queue believes that somebody still does it"
    services.take_up(timezone.now() - timedelta(minutes=5))
    work_off()
    assert Work.objects.get(pk=work.pk).state == RUNNING, "heard of lately: somebody may still be at it"
    services.take_up(timezone.now())
    work_off()
    assert Work.objects.get(pk=work.pk).state == FINISHED and counted() == list(range(1, STEPS + 1))


def test_the_page_is_the_leads_and_shows_what_runs_and_what_failed(client, lead, theirs):
    client.force_login(lead)
    work = services.start(lead, "count", {"trouble": 3})
    page = client.get(reverse("background:page"))
    assert "Counting Waiting" in words(page) and 'hx-trigger="every 2s"' in page.content.decode()
    work_off()
    assert "It failed: RuntimeError: the disk is full" in words(client.get(reverse("background:listed")))
    assert "Failed" in words(client.get(reverse("background:progress", args=[work.public_id])))
    ended = client.get(reverse("background:progress", args=[work.public_id]), {"page": "whole"})
    assert ended.headers["HX-Refresh"] == "true", "the page that waits for it comes anew"
    client.post(reverse("background:go_on", args=[work.public_id]))
    client.post(reverse("background:stop", args=[work.public_id]))
    work.refresh_from_db()
    assert work.state == STOPPED
    technician = User.objects.create_user("uli", password="quite-long-enough", shop=lead.shop)
    theirs.person.role = LEAD
    theirs.person.save()
    for somebody, refused in ((theirs.person, 404), (technician, 403)):
        client.force_login(somebody)
        assert client.post(reverse("background:go_on", args=[work.public_id])).status_code == refused
    assert client.get(reverse("background:page")).status_code == 403
    work.refresh_from_db()
    assert work.state == STOPPED


def test_the_page_asks_as_much_for_many_as_for_one(client, lead, django_assert_max_num_queries):
    client.force_login(lead)
    for _ in range(30):
        services.start(lead, "count")
    with django_assert_max_num_queries(8):
        page = client.get(reverse("background:page"))
    assert "page 1 of 2 Next" in words(page)
    assert "Before page 2 of 2" in words(client.get(reverse("background:page"), {"page": "2"}))


def test_parts_of_a_step_are_done_on_all_cores_in_order(settings):
    settings.BACKGROUND_PROCESSES = 2
    assert parted([1, 2, 3]) == [[1], [2, 3]] and parted([1]) == [[1]]
    try:
        assert over_cores(sum, parted([1, 2, 3])) == [1, 5]
        assert len({*over_cores(process_of, ["a", "b", "c", "d"])} - {os.getpid()}) in (1, 2)
    finally:
        let_go()
    settings.BACKGROUND_PROCESSES = 1
    assert over_cores(process_of, ["a", "b"]) == [os.getpid()] * 2
