"""Is this process alive, and is it ready for people? And what a monitor reads."""

import secrets

from django.conf import settings
from django.db import DatabaseError, connection
from django.http import Http404, HttpResponse, JsonResponse
from django.views.decorators.http import require_GET

from web.shell import counters as counted
from web.shell import upgrading


@require_GET
def alive(request):
    """The process answers; nothing else is asked."""
    return _said(200, "alive")


@require_GET
def ready(request):
    """Whether people can be sent here: the database answers, and its tables are this code's."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
        if not upgrading.tables_fit():
            return _said(503, "the tables are of another version: ./ruddy upgrade")
    except DatabaseError:
        return _said(503, "the database does not answer")
    return _said(200, "ready")


@require_GET
def counters(request):
    """What was counted since the start, for a monitor that shows the token."""
    shown = request.headers.get("Authorization", "").removeprefix("Bearer ")
    if not settings.MONITOR_TOKEN or not secrets.compare_digest(shown.encode(), settings.MONITOR_TOKEN.encode()):
        raise Http404
    text, kind = counted.told()
    return HttpResponse(text, content_type=kind)


def _said(status: int, words: str) -> JsonResponse:
    answer = JsonResponse({"status": words}, status=status)
    answer["Cache-Control"] = "no-store"
    return answer
