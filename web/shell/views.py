"""Error pages: what happened, in plain words, and the way back. A JSON caller gets JSON."""

from django.http import JsonResponse
from django.shortcuts import render

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


def _answer(request, status, advice=""):
    headline, usual = MESSAGES[status]
    advice = advice or usual
    if "application/json" in (request.content_type, request.headers.get("Accept", "")):
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
    return _answer(request, 500)


def csrf_failure(request, reason=""):
    return _answer(request, 403)
