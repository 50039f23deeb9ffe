"""What is counted for a monitor: requests, how long they take, and work that waits. Shared by all processes of a
machine where PROMETHEUS_MULTIPROC_DIR names a folder.
"""

import os
import time

from prometheus_client import CONTENT_TYPE_LATEST, CollectorRegistry, Counter, Histogram, generate_latest, multiprocess

REQUESTS = Counter("ruddy_requests", "Requests answered", ("page", "method", "status"))
SECONDS = Histogram(
    "ruddy_request_seconds", "How long an answer took", ("page",), buckets=(0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10)
)
HOW = ("GET", "POST", "HEAD", "PUT", "PATCH", "DELETE", "OPTIONS")


class Counted:
    """Counts each answer by its page's name, so that no address of a person or a house is in a counter."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        began = time.monotonic()
        answer = self.get_response(request)
        page = request.resolver_match.view_name if request.resolver_match else "none"
        method = request.method if request.method in HOW else "other"
        REQUESTS.labels(page, method, str(answer.status_code)).inc()
        SECONDS.labels(page).observe(time.monotonic() - began)
        return answer


def told() -> tuple[bytes, str]:
    """The counters as a monitor reads them, and their content type."""
    if not os.environ.get("PROMETHEUS_MULTIPROC_DIR"):
        return generate_latest(), CONTENT_TYPE_LATEST
    registry = CollectorRegistry()
    multiprocess.MultiProcessCollector(registry)
    return generate_latest(registry), CONTENT_TYPE_LATEST
