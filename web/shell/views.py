"""Error pages: what happened, in plain words, and the way back. A JSON caller gets JSON."""

import sys

from botocore.exceptions import BotoCoreError, ClientError
from django.db import InterfaceError, OperationalError
from django.http import HttpResponse, JsonResponse
from django.shortcuts import render
from django.template.loader import render_to_string

MESSAGES = {
    400: ("That request could not be read.", "Go back, reload the page and try again. Nothing stored was changed."),
    403: ("This is not open to you.", "It may belong to another shop, or you were signed out. Sign in and try again."),
    404: ("There is nothing here.", "The address may be mistyped, or it belongs to another shop."),
    413: ("That is too large.", "Send a smaller file."),
    429: ("That is too often.", "Wait a few minutes, then try again."),
    500: (
        "Something went wrong on our side.",
        "What you stored is safe; unsent readings stay on this device. Try again.",
    ),
}

AWAY = (
    "The record cannot be reached for a moment.",
    "It comes back by itself. What you typed on a sheet stays on this device and is sent then. Try again.",
)


def _answer(request, status, advice=""):
    headline, usual = MESSAGES[status]
    advice = advice or usual
    if _wants_json(request):
        return JsonResponse(
            {"error": headline, "hint": advice, "request": getattr(request, "number", "")}, status=status
        )
    return render(
        request, "shell/error.html", {"headline": headline, "advice": advice, "status": status}, status=status
    )


def bad_request(request, exception=None):
    return _answer(request, 400)


def forbidden(request, exception=None):
    return _answer(request, 403, getattr(exception, "says", ""))


def not_found(request, exception=None):
    return _answer(request, 404)


def too_large(request, most):
    """For what has more than `most` bytes."""
    return _answer(request, 413, f"Here at most {most // 2**20} MB are taken: send a smaller file.")


def too_often(request, wait_s):
    """For whoever has to wait some seconds."""
    answer = _answer(request, 429)
    answer["Retry-After"] = str(wait_s)
    return answer


def server_error(request):
    """What failed is in the log; where it is the database that does not answer, that is said, and asks for nothing of
    it.
    """
    if isinstance(sys.exc_info()[1], OperationalError | InterfaceError | BotoCoreError | ClientError):
        return _away(request)
    return _answer(request, 500)


def _away(request):
    headline, advice = AWAY
    answer: HttpResponse
    if _wants_json(request):
        answer = JsonResponse({"error": headline, "hint": advice, "request": getattr(request, "number", "")})
    else:
        answer = HttpResponse(render_to_string("shell/away.html", {"headline": headline, "advice": advice}))
    answer.status_code = 503
    answer["Retry-After"], answer["Cache-Control"] = "5", "no-store"
    return answer


def _wants_json(request) -> bool:
    return "application/json" in (request.content_type, request.headers.get("Accept", ""))


def csrf_failure(request, reason=""):
    return _answer(request, 403)
