"""A real browser on a live server. Any policy violation, console error or page error fails the test."""

import os
import shutil
import threading
from pathlib import Path

import pytest
from playwright.sync_api import expect

from tests.web.conftest import make_shop

os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"  # Playwright's loop runs beside the ORM here, and only here
expect.set_options(timeout=20_000)  # a bound for what never comes; a busy machine may take its time
# What htmx says of a request that a newer one replaced; of a failed one it says htmx:sendError too.
REPLACED = ("htmx:afterRequest,", "htmx:sendAbort,")
AXE = Path(__file__).parent.parent.parent / "node_modules" / "axe-core" / "axe.min.js"


def pytest_collection_modifyitems(items):
    for item in items:
        if "tests/browser" in str(item.path):
            item.add_marker(pytest.mark.browser)
            item.add_marker(pytest.mark.xdist_group("browser"))


@pytest.fixture(scope="session")
def browser_type_launch_args():
    return {
        "executable_path": shutil.which("chromium-headless-shell"),
        "args": ["--no-sandbox", "--disable-gpu", "--disable-background-networking"],
    }


class Sheet:
    """The sheet in a browser, in a technician's moves."""

    def __init__(self, page, address, shop):
        self.page, self.address, self.shop = page, address, shop
        self.trouble = []
        self.own_doing = ()  # parts of console errors that a test brings about itself
        page.on("console", lambda message: self._note(message.type, message.text))
        page.on("pageerror", lambda error: self.trouble.append(str(error)))

    def _note(self, kind, text):
        if kind == "error" and not any(part in text for part in (*REPLACED, *self.own_doing)):
            self.trouble.append(text)

    def sign_in(self):
        self.page.goto(self.address)
        self.page.get_by_label("Name").fill("ana")
        self.page.get_by_label("Password").fill("quite-long-enough")
        self.page.get_by_role("button", name="Sign in").click()
        return self

    def open(self, at=""):
        """The visit's sheet, at a station or a stop: 'settle', 'read/return_unit'."""
        self.page.goto(f"{self.address}/visits/{self.shop.visit.public_id}/" + (f"#{at}" if at else ""))
        expect(self.outbox).to_have_text("All sent")
        return self

    def sent(self):
        """Wait until everything taken has been answered."""
        expect(self.outbox).not_to_contain_text("unsent")

    def still(self):
        """Wait until the answer to the last change stands."""
        expect(self.page.locator("#verdict")).not_to_have_attribute("aria-busy", "true")

    def go(self, station):
        self.page.locator(f'[data-station-to="{station}"]').click()

    def go_to(self, stop):
        """To a stop, by its place on the drawing where it has one."""
        self.page.evaluate("stop => location.hash = `read/${stop}`", stop)
        self.page.locator(f"#stop-{stop}").wait_for(state="visible")

    def field(self, name):
        return self.page.locator(f'input[data-field="{name}"]')

    def type(self, name, value):
        """Go where a field is, type a value, leave the field."""
        field = self.field(name)
        if not field.is_visible():
            stop = field.evaluate("input => input.closest('.stop')?.dataset.stopId ?? 'settle'")
            self.go("settle") if stop == "settle" else self.go_to(stop)
        field.fill(value)
        field.press("Tab")

    def choose(self, question, degree):
        choice = self.page.locator(f'input[name="see.{question}"][value={degree}]')
        if not choice.is_visible():
            self.go(choice.evaluate("input => input.closest('.station').dataset.at"))
        choice.check()

    def pick(self, select, **what):
        """Choose among what a place offers."""
        select.focus()  # as a hand does before it chooses
        select.select_option(**what)

    def name_probe(self):
        for place in ("outdoor", "return_unit", "supply_plenum"):
            self.go_to(place)
            self.pick(self.page.locator(f'select[name="{place}.instrument"]'), label=self.shop.probe.label)

    def note(self, name):
        return self.page.locator(f'[id="note-{name}"]')

    @property
    def headline(self):
        return self.page.locator("#decision")

    @property
    def outbox(self):
        return self.page.locator(".outbox")

    def mark(self, label):
        return self.page.locator(".mark-words", has_text=label)


class Answering:
    """The live server's application, which knows how many requests it is answering. (Django's own signal of an end does
    not come where the browser has hung up.)
    """

    def __init__(self, application):
        self.application, self.changed, self.count = application, threading.Condition(), 0

    def __call__(self, *request):
        self._add(1)
        try:
            return self.application(*request)
        finally:
            self._add(-1)

    def _add(self, step):
        with self.changed:
            self.count += step
            self.changed.notify_all()

    def is_done(self):
        with self.changed:
            return self.changed.wait_for(lambda: self.count == 0, timeout=20)


@pytest.fixture(scope="session")
def answering(live_server):
    httpd = live_server.thread.httpd
    httpd.set_app(Answering(httpd.get_app()))
    return httpd.get_app()


@pytest.fixture(autouse=True)
def asks_nothing_more(transactional_db, page, answering):
    """A page that still asks (live readings, each second) while the tables are emptied after its test locks what is
    being emptied: it is closed, and what it asked is answered, before.
    """
    yield
    page.close()
    assert answering.is_done()


@pytest.fixture
def shop(transactional_db):
    return make_shop("Ours", "ana")


@pytest.fixture
def sheet(page, live_server, shop):
    found = Sheet(page, live_server.url, shop)
    yield found.sign_in()
    assert found.trouble == []


@pytest.fixture
def serious_faults():
    """Ask axe-core for serious and critical faults of a page, by page.evaluate so that the policy stays in force. only:
    the rules asked for.
    """

    def ask(page, only=()):
        if not page.evaluate("'axe' in window"):
            page.evaluate(AXE.read_text())
        options = {"resultTypes": ["violations"]} | ({"runOnly": list(only)} if only else {})
        found = page.evaluate("options => axe.run(document, options)", options)
        serious = [v for v in found["violations"] if v["impact"] in ("serious", "critical")]
        return [(v["id"], [node["html"][:120] for node in v["nodes"]]) for v in serious]

    return ask
