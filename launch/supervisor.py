"""Keeps an instance running: its database, the web server, what works beside it. One signal stops all of it cleanly;
one more takes up new code without losing a request.
"""

import fcntl
import os
import shutil
import signal
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path
from types import FrameType
from typing import IO, Protocol

from launch.fault import LaunchFault
from launch.instance import HOST, PROJECT, Instance, port_is_taken
from launch.processes import STOPS, Process, is_ours, taken_by, who_listens

LOOK_EVERY_S = 0.5
WEB_STARTS_WITHIN_S = 60
EARLIER_ENDS_WITHIN_S = 40
DATABASE_ANSWERS_WITHIN_S = 20  # a web request; the longest of our pages takes one or two
LOCK, APPLICATION = "running.lock", "web.wsgi:application"
PYTHON = sys.executable


class Stored(Protocol):
    """The database of an instance, its own or one that is there already."""

    def start(self) -> list[str]: ...
    def stop(self) -> None: ...
    def is_running(self) -> bool: ...


class Stop(Exception):
    """Somebody asked to stop."""


class Supervisor:
    """Database, web server and helpers of one instance."""

    def __init__(self, instance: Instance, database: Stored, web: Process, helpers: tuple[Process, ...] = ()):
        self.instance, self.database, self.web, self.helpers = instance, database, web, helpers
        self.takes_up = False

    def run(self, prepare: Callable[[], None], ready: Callable[[], None]) -> int:
        """Start all, and keep it running until somebody asks to stop; the exit code.

        prepare: done once the database answers; ready: once the web server does.
        """
        lock = only_one(self.instance)
        free_the_port(self.instance.web_port, "web server", "RUDDY_WEB_PORT or web.port")
        for number in STOPS:  # SIGHUP: the terminal was closed
            signal.signal(number, _on_stop)
        signal.signal(signal.SIGUSR1, self._on_new_code)
        try:
            for note in self.database.start():
                say(note)
            prepare()
            self._serve()
            for helper in self.helpers:
                helper.start()
            ready()
            while True:
                time.sleep(LOOK_EVERY_S)
                self._look_after()
        except Stop:
            say("Stopping ...")
            return 0
        finally:
            for number in (*STOPS, signal.SIGUSR1):
                signal.signal(number, signal.SIG_IGN)
            for process in (*self.helpers, self.web):
                process.stop()
            self.database.stop()
            lock.close()

    def _serve(self) -> None:
        self.web.start()
        deadline = time.monotonic() + WEB_STARTS_WITHIN_S
        while not port_is_taken(self.instance.web_port):
            if not self.web.is_running() or time.monotonic() > deadline:
                raise LaunchFault(f"The web server did not start.{self.web.where}")
            time.sleep(0.05)

    def _look_after(self) -> None:
        """What was killed is started again; what is new is taken up."""
        if not self.database.is_running():
            self._start_database()
        for process in (self.web, *self.helpers):
            if said := process.look_after():
                say(said)
        if self.takes_up:
            self.takes_up = False
            say("Taking up the new code: requests go on.")
            self.web.tell(signal.SIGHUP)
            for helper in self.helpers:
                helper.stop()
                helper.start()

    def _start_database(self) -> None:
        say("The database ended; starting it again.")
        try:
            for note in self.database.start():
                say(note)
        except LaunchFault as fault:  # its disk may be full: it is tried again, and the pages say so meanwhile
            say(f"It does not start: {fault}")
        else:
            say("The database is back; nothing that was stored is lost.")

    def _on_new_code(self, number: int, frame: FrameType | None) -> None:
        self.takes_up = True


def web_process(instance: Instance, workers: int, threads: int) -> Process:
    """The web server."""
    counters = instance.home / "counters"  # of all its processes; of an earlier run they count nothing
    shutil.rmtree(counters, ignore_errors=True)
    counters.mkdir(mode=0o700)
    return gunicorn(instance, "web server", f"{HOST}:{instance.web_port}", workers, threads)


def gunicorn(instance: Instance, name: str, bind: str, workers: int, threads: int, *more: str) -> Process:
    """The product behind an address; its workers end with it."""
    command = [
        str(Path(PYTHON).with_name("gunicorn")),
        APPLICATION,
        "--config=python:web.gunicorn",
        f"--bind={bind}",
        f"--workers={workers}",
        f"--threads={threads}",
        f"--worker-tmp-dir={instance.home}",
        "--log-level=warning",
        *more,
    ]
    environment = instance.environment() | {
        "PROMETHEUS_MULTIPROC_DIR": str(instance.home / "counters"),
        "RUDDY_DB_READ_TIMEOUT": str(DATABASE_ANSWERS_WITHIN_S),
    }
    return Process(name, command, PROJECT, environment, _log(instance, name.split(" ")[0]))


def managed(instance: Instance, name: str, *arguments: str) -> Process:
    """A command of Django's that runs beside the web server."""
    command = [PYTHON, "manage.py", *arguments]
    return Process(name, command, PROJECT, instance.environment(), _log(instance, name))


def _log(instance: Instance, name: str) -> Path | None:
    """A file of its own for the demo; what is served for real writes where the service manager looks."""
    return None if instance.config else instance.home / f"{name}.log"


def queue(instance: Instance) -> tuple[Process, ...]:
    """The queue's worker, and who starts what is due."""
    return (
        managed(instance, "worker", "db_worker", "--no-startup-delay", "--verbosity=0"),
        managed(instance, "scheduler", "keep_time"),
    )


def manage(instance: Instance, *arguments: str) -> None:
    """Run a command of Django's to its end; raises LaunchFault where it fails."""
    done = subprocess.run([PYTHON, "manage.py", *arguments], cwd=PROJECT, env=instance.environment())
    if done.returncode:
        raise LaunchFault(f"'manage.py {arguments[0]}' failed (see above).")


def say(text: str) -> None:
    """One line to the person at the terminal, at once."""
    print(text, flush=True)


def only_one(instance: Instance) -> IO[str]:
    """The lock of an instance's folder, with the number of who holds it; raises LaunchFault where it is held."""
    lock = open(instance.home / LOCK, "a+")  # noqa: SIM115 - held for as long as it runs
    try:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError as error:
        raise LaunchFault(
            f"It is already running from {instance.home} (process {holder(instance) or 'unknown'}): use it, or stop it."
        ) from error
    lock.truncate(0)
    lock.write(str(os.getpid()))
    lock.flush()
    return lock


def holder(instance: Instance) -> int | None:
    """The process that runs an instance now; None for none."""
    try:
        with open(instance.home / LOCK) as lock:
            try:
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except BlockingIOError:
                return int(lock.read())
    except (OSError, ValueError):
        pass
    return None


def free_the_port(port: int, what: str, setting: str) -> None:
    """See to it that a port is free: what an earlier run of ours left on it is ended, and said; another program's is
    named.
    """
    if not port_is_taken(port):
        return
    pid = who_listens(port)
    if pid is not None and is_ours(pid, PROJECT, APPLICATION):
        say(f"An earlier run still holds port {port} (process {pid}); ending it.")
        os.kill(pid, signal.SIGTERM)
        deadline = time.monotonic() + EARLIER_ENDS_WITHIN_S
        while port_is_taken(port) and time.monotonic() < deadline:
            time.sleep(0.1)
    if port_is_taken(port):
        by = taken_by(port)
        raise LaunchFault(f"Port {port} for the {what} is taken by {by}: stop it, or set {setting} to a free port.")


def _on_stop(number: int, frame: FrameType | None) -> None:
    raise Stop
