"""What a server error leaves behind: one line with time, request, person and path, the traceback under it, and the request's number on the page.

No query, no body and no cookie is logged: they may hold what a person typed, or a secret.
"""

import logging
import secrets


class RequestNumber:
    """Gives every request a number; the answer names it in X-Request-ID."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        request.number = secrets.token_hex(6)
        response = self.get_response(request)
        response.headers["X-Request-ID"] = request.number
        return response


class AboutTheRequest(logging.Filter):
    """Adds to a log record what request it is about: its number, method and path, and the person's number; '-' where there is none."""

    def filter(self, record: logging.LogRecord) -> bool:
        request = getattr(record, "request", None)
        person = getattr(request, "user", None)
        record.number = getattr(request, "number", "-")
        record.where = f"{request.method} {request.path}" if hasattr(request, "path") else "-"
        record.person = person.pk if person is not None and person.is_authenticated else "-"
        return True
