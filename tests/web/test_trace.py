"""A server error leaves a trace, and the page names it."""

import logging

import pytest
from django.urls import reverse

from web.shell.trace import AboutTheRequest


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
