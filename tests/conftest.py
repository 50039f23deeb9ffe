"""What all tests share. Run them with ./ruddy test, which brings the database.

A full run also writes docs/checks.md from the checks the engine tests record; when what is checked has changed against
the committed page, the run fails once, so that the page cannot go stale.
"""

import json
import logging
import os
import tempfile
from pathlib import Path

import pytest
from hypothesis import settings
from moto.server import ThreadedMotoServer

from tests.engine.checks import merge, page, what_is_checked

# The same examples every time, so that a run says something about a change; HYPOTHESIS=explore draws others.
settings.register_profile("ruddy", max_examples=60, deadline=None, derandomize=True)
settings.register_profile("explore", max_examples=300, deadline=None)
settings.load_profile(os.environ.get("HYPOTHESIS", "ruddy"))

PAGE = Path(__file__).parent.parent / "docs" / "checks.md"


def pytest_configure(config):
    if not os.environ.get("RUDDY_DB_PORT"):
        raise pytest.UsageError("No database: run the tests with ./ruddy test (it passes arguments on to pytest).")
    if not hasattr(config, "workerinput") and _is_full(config):
        os.environ["RUDDY_CHECKS"] = tempfile.mkdtemp()  # the workers inherit it


@pytest.fixture(scope="session")
def store_of_others():
    """A store that speaks S3, on loopback: a maintained stand-in, asked through HTTP as any other. Its address."""
    server = ThreadedMotoServer("127.0.0.1", 0, verbose=False)
    server.start()
    yield "http://{}:{}".format(*server.get_host_and_port())
    server.stop()


@pytest.fixture(autouse=True)
def no_part_fails(request):
    """A part of a page that fails is said in its place and the page goes on: here it fails the test, unless the test
    broke it (parts_fail).
    """
    failed = []
    handler = logging.Handler(logging.ERROR)
    handler.emit = lambda record: failed.append(record.getMessage())
    logging.getLogger("web.parts").addHandler(handler)
    yield
    logging.getLogger("web.parts").removeHandler(handler)
    assert request.node.get_closest_marker("parts_fail") or failed == []


def pytest_sessionfinish(session, exitstatus):
    folder = os.environ.get("RUDDY_CHECKS")
    if hasattr(session.config, "workerinput") or not folder or exitstatus != 0:
        return
    rows = merge(json.loads(line) for path in Path(folder).glob("*.jsonl") for line in path.read_text().splitlines())
    before = PAGE.read_text() if PAGE.exists() else ""
    if what_is_checked(before) != what_is_checked(page(rows)):
        PAGE.write_text(page(rows))
        print("\ndocs/checks.md was stale and has been written again: commit it.")
        session.exitstatus = 1


def _is_full(config):
    """Whether everything runs: no path, no -k, no -m."""
    return not (
        config.option.keyword or config.option.markexpr or config.option.collectonly
    ) and config.args == config.getini("testpaths")


@pytest.fixture
def weather(settings):
    """The demo's weather service; without it no reading comes but from the person."""
    settings.WEATHER_SERVICE = "web.demo.weather.at"
