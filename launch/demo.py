"""`./ruddy demo`: database, migrations, demo data, web server; one Ctrl-C stops it all cleanly."""

import fcntl
import os
import shutil
import signal
import subprocess
import sys
import time
from pathlib import Path

from launch.database import Database
from launch.fault import LaunchFault
from launch.instance import HOST, PROJECT, Instance, port_is_taken

SETTINGS = "web.settings.demo"
WORKERS, THREADS = 2, 4


# What runs beside the web server: the queue's worker, and who starts what is due.
HELPERS = {"worker": ("db_worker", "--no-startup-delay", "--verbosity=0"), "scheduler": ("keep_time",)}
AGAIN_AFTER_S = 5.0


class Helper:
    """A process of the product's own that is started again when it ends by itself."""

    def __init__(self, instance: Instance, name: str, *arguments: str):
        self.instance, self.name, self.arguments = instance, name, arguments
        self.process, self.started = self._start(), time.monotonic()

    def _start(self) -> subprocess.Popen:
        log = open(self.instance.home / f"{self.name}.log", "a")  # noqa: SIM115 - the process keeps it
        command = [sys.executable, "manage.py", *self.arguments]
        environment = self.instance.environment(SETTINGS)
        return subprocess.Popen(command, cwd=PROJECT, env=environment, stderr=log, stdout=log, start_new_session=True)

    def look_after(self) -> None:
        """Start it again where it ended, but not over and over at once."""
        if self.process.poll() is not None and time.monotonic() - self.started > AGAIN_AFTER_S:
            say(f"The {self.name} ended; starting it again. Its log: {self.instance.home / f'{self.name}.log'}")
            self.process, self.started = self._start(), time.monotonic()


class Stop(Exception):
    """Somebody asked the demo to stop."""


def run(reset: bool) -> int:
    """Serve the demo until stopped. Returns the exit code."""
    instance = Instance.demo()
    instance.prepare()
    lock = _only_one(instance)
    if port_is_taken(instance.web_port):
        raise LaunchFault(
            f"Port {instance.web_port} for the web server is taken by another program: "
            "stop it, or set RUDDY_WEB_PORT to a free port."
        )
    signal.signal(signal.SIGTERM, _on_signal)
    signal.signal(signal.SIGINT, _on_signal)
    database = Database(instance)
    web = gateway = None
    helpers: list[Helper] = []
    try:
        if reset:
            _reset(instance, database)
        for note in database.start():
            say(note)
        _manage(instance, "migrate", "--verbosity=0")
        _manage(instance, "load_demo")
        _manage(instance, "collectstatic", "--noinput", "--verbosity=0")
        web = _serve(instance)
        gateway = _read_probes(instance)
        helpers = [Helper(instance, name, *command) for name, command in HELPERS.items()]
        say(f"Ruddy Draft is at http://{HOST}:{instance.web_port}/   (Ctrl-C stops it)")
        _manage(instance, "demo_sign_ins")
        return _watch(instance, database, web, helpers)
    except Stop:
        say("Stopping ...")
        return 0
    finally:
        signal.signal(signal.SIGINT, signal.SIG_IGN)
        signal.signal(signal.SIGTERM, signal.SIG_IGN)
        for process in filter(None, (gateway, *(helper.process for helper in helpers), web)):
            process.terminate()
            process.wait()
        database.stop()
        lock.close()


def say(text: str) -> None:
    """One line to the person at the terminal, at once."""
    print(text, flush=True)


def _only_one(instance: Instance):
    lock = open(instance.home / "running.lock", "a+")  # noqa: SIM115 - held for as long as the demo runs
    try:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError as error:
        raise LaunchFault("The demo is already running from this folder: use it, or stop it with Ctrl-C.") from error
    return lock


def _reset(instance: Instance, database: Database) -> None:
    database.stop()
    shutil.rmtree(database.data, ignore_errors=True)
    shutil.rmtree(instance.home / "media", ignore_errors=True)
    (instance.home / "secrets.env").unlink(missing_ok=True)
    say("Starting over: the demo's data was removed.")


def _manage(instance: Instance, *arguments: str) -> None:
    done = subprocess.run([sys.executable, "manage.py", *arguments], cwd=PROJECT, env=instance.environment(SETTINGS))
    if done.returncode:
        raise LaunchFault(f"'manage.py {arguments[0]}' failed (see above).")


def _read_probes(instance: Instance) -> subprocess.Popen:
    """The simulated gateway, a process of its own that knows the address and its token and nothing else."""
    token = instance.secrets()["RUDDY_GATEWAY_TOKEN"]
    environment = {name: value for name, value in os.environ.items() if not name.startswith("RUDDY_")} | {
        "RUDDY_GATEWAY_TOKEN": token
    }
    command = [sys.executable, "-m", "plant.gateway", f"--url=http://{HOST}:{instance.web_port}/probes/samples/"]
    log = open(instance.home / "gateway.log", "w")  # noqa: SIM115 - the process keeps it
    return subprocess.Popen(command, cwd=PROJECT, env=environment, stderr=log, start_new_session=True)


def _serve(instance: Instance) -> subprocess.Popen:
    command = [
        str(Path(sys.executable).with_name("gunicorn")),
        "web.wsgi:application",
        f"--bind={HOST}:{instance.web_port}",
        f"--workers={WORKERS}",
        f"--threads={THREADS}",
        f"--worker-tmp-dir={instance.home}",
        "--log-level=warning",
        f"--error-logfile={instance.home / 'web.log'}",
        "--capture-output",
        "--graceful-timeout=5",
    ]
    # A session of its own: Ctrl-C reaches only this supervisor, which then stops web server and database in order.
    web = subprocess.Popen(command, cwd=PROJECT, env=instance.environment(SETTINGS), start_new_session=True)
    deadline = time.monotonic() + 30
    while not port_is_taken(instance.web_port):
        if web.poll() is not None or time.monotonic() > deadline:
            raise LaunchFault(f"The web server did not start. Its log: {instance.home / 'web.log'}")
        time.sleep(0.05)
    return web


def _watch(instance: Instance, database: Database, web: subprocess.Popen, helpers: list[Helper]) -> int:
    """Keep all running: a killed database, worker or scheduler is started again, a dead web server ends the demo."""
    while True:
        time.sleep(0.5)
        if web.poll() is not None:
            raise LaunchFault(f"The web server stopped by itself. Its log: {instance.home / 'web.log'}")
        if not database.is_running():
            say("The database was killed; starting it again.")
            database.process = None
            for note in database.start():
                say(note)
            say("The database is back; nothing that was stored is lost.")
        for helper in helpers:
            helper.look_after()


def _on_signal(number: int, frame) -> None:
    raise Stop
