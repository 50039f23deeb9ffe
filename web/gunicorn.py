"""How gunicorn runs the product: beside what the launcher says on its command line."""

import ctypes
import os
import signal

from prometheus_client import multiprocess

graceful_timeout = 20  # a request that goes on when new code comes, or when it stops, is answered first
timeout = 120
keepalive = 5
max_requests, max_requests_jitter = 20_000, 2_000  # so that what leaks, ends
limit_request_line = 8190
forwarded_allow_ips = os.environ.get("RUDDY_PROXIES", "").replace(" ", ",")  # who may say that it was HTTPS
PR_SET_PDEATHSIG = 1


def post_fork(server, worker):
    """A worker ends with its master, whatever ends that: the next one finds the port free."""
    ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGTERM)


def child_exit(server, worker):
    """What a worker that ended has counted stays counted, but for what is counted at a moment."""
    multiprocess.mark_process_dead(worker.pid)
