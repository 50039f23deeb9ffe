"""A server error leaves a trace, and the page names it; what the machine asks of itself, and a monitor of it."""

import json
import logging
import threading

import pytest
from django.core.management import call_command
from django.db import OperationalError, connection
from django.db.backends.utils import CursorWrapper
from django.urls import reverse

from web.shell import upgrading
from web.shell.management.commands import migrate_once
from web.shell.trace import AboutTheRequest, JsonLine


@pytest.fixture
def broken(monkeypatch, signed_in):
    def fails(*_args, **_more):
        raise ZeroDivisionError("the sum of nothing")

    monkeypatch.setattr("web.today.views.render", fails)
    signed_in.raise_request_exception = False
    return signed_in


def test_a_server_error_is_logged_with_its_number_and_without_what_was_typed(broken, ours, caplog):
    with caplog.at_level(logging.ERROR, logger="django.request"):
        logging.getLogger("django.request").addHandler(caplog.handler)
        answer = broken.get(reverse("today:today"), {"typed": "hush"})
        logging.getLogger("django.request").removeHandler(caplog.handler)
    (record,) = [r for r in caplog.records if r.levelno == logging.ERROR]
    AboutTheRequest().filter(record)
    assert answer.status_code == 500 and answer.headers["X-Request-ID"] == record.number
    assert record.number in answer.content.decode() and record.person == ours.person.pk
    assert record.where == "GET /" and "hush" not in record.where + record.getMessage()
    assert record.exc_info and "the sum of nothing" in str(record.exc_info[1])


def test_a_page_that_works_says_nothing_of_numbers(signed_in):
    answer = signed_in.get(reverse("today:today"))
    assert answer.headers["X-Request-ID"] not in answer.content.decode()


def test_alive_and_ready_are_told_apart(client, db, monkeypatch):
    """Tables of another version: see tests/launch/test_serve.py, where there are migrations."""
    assert client.get("/-/alive/").json() == {"status": "alive"}
    assert client.get("/-/ready/").json() == {"status": "ready"}

    def away(*_):
        raise OperationalError("gone")

    monkeypatch.setattr(connection, "cursor", away)
    assert client.get("/-/alive/").status_code == 200
    answer = client.get("/-/ready/")
    assert answer.status_code == 503 and answer.json() == {"status": "the database does not answer"}


@pytest.mark.parametrize("accept", ["text/html", "application/json"])
def test_a_database_that_is_away_is_said_without_asking_it(signed_in, monkeypatch, accept):
    def away(*_args, **_more):
        raise OperationalError(2013, "Lost connection")

    monkeypatch.setattr(CursorWrapper, "execute", away)
    signed_in.raise_request_exception = False
    for address in ("/", "/houses/"):
        answer = signed_in.get(address, headers={"accept": accept})
        assert answer.status_code == 503 and answer["Retry-After"] == "5" and answer["Cache-Control"] == "no-store"
        assert "stays on this device" in answer.content.decode()


def test_one_machine_upgrades_at_a_time_and_a_killed_ones_lock_runs_out(transactional_db):
    done = []

    def other():
        upgrading.once(lambda: done.append("other"))
        connection.close()

    waits = threading.Thread(target=other)

    def first():
        waits.start()
        waits.join(1.5)
        done.append("first")

    upgrading.once(first)
    waits.join()
    assert done == ["first", "other"]
    with connection.cursor() as cursor:
        cursor.execute(f"UPDATE {upgrading.LOCK} SET holder = 'killed', until = UNIX_TIMESTAMP() - 1")
    upgrading.once(lambda: done.append("after"))
    assert done[-1] == "after"


def test_a_start_goes_through_the_steps_only_where_there_are_some_to_do(db, monkeypatch):
    called = []
    monkeypatch.setattr(migrate_once, "call_command", lambda name, **_: called.append(name))
    monkeypatch.setattr(upgrading, "once", lambda do: do())
    monkeypatch.setattr(upgrading, "unknown_steps", list)
    for to_do, wanted in (([], []), (["visits.0002_of_tomorrow"], ["migrate"])):
        monkeypatch.setattr(upgrading, "steps_to_do", lambda steps=to_do: steps)
        call_command("migrate_once")
        assert called == wanted


def test_counters_name_pages_and_no_address(client, db, settings):
    settings.MONITOR_TOKEN = "count-me"
    client.get("/houses/1b4e28ba-2fa1-11d2-883f-0016d3cca427/")
    told = client.get("/-/counters/", headers={"authorization": "Bearer count-me"}).content.decode()
    assert 'page="houses:house"' in told and "1b4e28ba" not in told
    assert client.get("/-/counters/", headers={"authorization": "Bearer count-you"}).status_code == 404


def test_a_line_of_the_log_is_json():
    record = logging.LogRecord("web", logging.ERROR, "x", 1, "it %s", ("failed",), None)
    AboutTheRequest().filter(record)
    told = json.loads(JsonLine().format(record))
    assert (told["level"], told["request"], told["logger"], told["message"]) == ("ERROR", "-", "web", "it failed")
