"""What a server error leaves behind: one line with time, request, person and path, the traceback under it, and the
request's number on the page.

No query, no body and no cookie is logged: they may hold what a person typed, or a secret.
"""

import json
import logging
import secrets
from collections.abc import Callable
from contextvars import ContextVar
from datetime import UTC, datetime
from typing import TypeVar

from django.db import DatabaseError

Part = TypeVar("Part")
_request: ContextVar = ContextVar("request", default=None)
logger = logging.getLogger("web.parts")


class RequestNumber:
    """Gives every request a number; the answer names it in X-Request-ID."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        request.number = secrets.token_hex(6)
        token = _request.set(request)
        try:
            response = self.get_response(request)
        finally:
            _request.reset(token)
        response.headers["X-Request-ID"] = request.number
        return response


class AboutTheRequest(logging.Filter):
    """Adds to a log record what request it is about: its number, method and path, and the person's number; '-' where
    there is none.
    """

    def filter(self, record: logging.LogRecord) -> bool:
        request = getattr(record, "request", None) or _request.get()
        person = getattr(request, "_cached_user", None)  # as far as it is known: a log asks no database
        record.number = getattr(request, "number", "-")
        record.where = f"{request.method} {request.path}" if hasattr(request, "path") else "-"
        record.person = person.pk if person is not None and person.is_authenticated else "-"
        return True


class JsonLine(logging.Formatter):
    """A record as one line of JSON: time, level, request, person, address, logger, message, traceback."""

    def format(self, record: logging.LogRecord) -> str:
        told = {
            "at": datetime.fromtimestamp(record.created, UTC).isoformat(timespec="milliseconds"),
            "level": record.levelname,
            "request": getattr(record, "number", "-"),
            "person": getattr(record, "person", "-"),
            "where": getattr(record, "where", "-"),
            "logger": record.name,
            "message": record.getMessage(),
        }
        if record.exc_info:
            told["traceback"] = self.formatException(record.exc_info)
        return json.dumps(told, ensure_ascii=False, default=str)


def request_number() -> str:
    """The number of the request that is answered; '' outside of one."""
    return getattr(_request.get(), "number", "")


def or_else(what: str, make: Callable[[], Part], instead: Callable[[], Part]) -> Part:
    """What make gives. Where it fails, the fault is logged with its traceback, and `instead` is taken: one broken part
    spoils no page.

    what: the part and whose it is, for the log: no words of a person. A fault of the database is none of a part: it is
    raised, and asked again.
    """
    try:
        return make()
    except DatabaseError:
        raise
    except Exception:
        logger.exception("%s failed", what)
        return instead()
