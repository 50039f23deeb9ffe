"""A MariaDB of the project's own: made once, started, watched, stopped.

It listens on loopback only, keeps its data in the instance's folder and reads no system-wide option file, so the
server that Debian's package may run on port 3306 is never touched.
"""

import contextlib
import hashlib
import os
import pwd
import shutil
import signal
import socket
import subprocess
import tempfile
import time
from pathlib import Path

from launch.fault import LaunchFault
from launch.instance import HOST, Instance, port_is_taken
from launch.processes import started, taken_by, undisturbed

DATABASE = "ruddy"
USER = "ruddy"
LONGEST_SOCKET_PATH = 100  # the kernel allows 107 bytes; MariaDB aborts above that
ZONES = Path("/usr/share/zoneinfo")
START_SECONDS = 60
STOP_SECONDS = 30
TEST_OPTIONS = ("--skip-log-bin", "--innodb-flush-log-at-trx-commit=0", "--innodb-doublewrite=0", "--skip-sync-frm")


class Database:
    """The database server of one instance."""

    def __init__(self, instance: Instance, options: tuple[str, ...] = ()):
        self.instance = instance
        self.options = options
        self.data = instance.home / "data"
        self.pid_file = instance.home / "mariadbd.pid"
        self.log = instance.home / "mariadbd.log"
        self.process: subprocess.Popen[bytes] | None = None

    @property
    def socket_path(self) -> Path:
        """Beside the data, or in a private short folder when the project lies too deep."""
        near = self.instance.home / "mariadbd.sock"
        if len(os.fsencode(near)) <= LONGEST_SOCKET_PATH:
            return near
        name = hashlib.sha256(os.fsencode(self.instance.home)).hexdigest()[:12]
        folder = Path(tempfile.gettempdir()) / f"ruddy-{os.getuid()}-{name}"
        folder.mkdir(mode=0o700, exist_ok=True)
        return folder / "db.sock"

    def start(self) -> list[str]:
        """Start the server (making its data first if need be); say what was found on the way, a line each."""
        notes, port = self._clear_stale_pid(), self.instance.db_port
        self.process = None
        if pid := self._running_pid():
            self.stop()
            notes.append(f"The database of an earlier run was still running (process {pid}); it was ended first.")
        if port_is_taken(port):
            raise LaunchFault(
                f"Port {port} for the database is taken by {taken_by(port)}: stop it, or set RUDDY_DB_PORT or "
                "database.port to a free port."
            )
        if not self.data.exists():
            self._create()
        self._launch(self.data, "--port", str(self.instance.db_port), "--bind-address", HOST)
        return notes

    def stop(self) -> None:
        """Shut down cleanly; only a server that does not answer is killed."""
        pid = self.process.pid if self.process else self._running_pid()
        if not pid:
            return
        _signal(pid, signal.SIGTERM)
        if not self._ends_within(pid, STOP_SECONDS):
            _signal(pid, signal.SIGKILL)
            self._ends_within(pid, STOP_SECONDS)
        if self.process:
            self.process.wait()
            self.process = None
        if self.socket_path.parent != self.instance.home:
            shutil.rmtree(self.socket_path.parent, ignore_errors=True)  # the short folder, made for the socket alone

    def _ends_within(self, pid: int, seconds: float) -> bool:
        deadline = time.monotonic() + seconds
        while self._alive(pid) and time.monotonic() < deadline:
            time.sleep(0.05)
        return not self._alive(pid)

    def is_running(self) -> bool:
        """Whether the server process lives."""
        if self.process:
            return self.process.poll() is None
        return bool(self._running_pid())

    # -- making the data --------------------------------------------------------------------------------------------

    def _create(self) -> None:
        """Build the data folder aside and rename it when whole, so that an interrupted first run leaves nothing half
        made.
        """
        fresh = self.instance.home / "data.making"
        shutil.rmtree(fresh, ignore_errors=True)
        fresh.mkdir(mode=0o700)
        self._run(
            [
                "mariadb-install-db",
                "--no-defaults",
                f"--datadir={fresh}",
                f"--user={_user_name()}",
                f"--tmpdir={self._temporary()}",
                "--auth-root-authentication-method=normal",
                "--skip-test-db",
                "--skip-name-resolve",
            ],
            "the database could not be created",
        )
        self._launch(fresh, "--skip-networking")
        try:
            self._sql(self._time_zones(), "mysql")
            self._sql(self._accounts())
        finally:
            self.stop()
        fresh.rename(self.data)

    def _time_zones(self) -> str:
        """The tables that names of time zones are looked up in. The system keeps each zone three times; ours are in
        neither posix nor right, and a third is read in a third of the time.
        """
        if not ZONES.is_dir():
            raise LaunchFault(f"There are no time zones in {ZONES}: install the package tzdata.")
        with tempfile.TemporaryDirectory(dir=self._temporary()) as folder:
            for zone in ZONES.iterdir():
                if zone.name not in ("posix", "right"):
                    (Path(folder) / zone.name).symlink_to(zone)
            return self._run(["mariadb-tzinfo-to-sql", folder], "the time zones could not be read")

    def _accounts(self) -> str:
        words = self.instance.secrets()
        return f"""
            CREATE DATABASE {DATABASE} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;
            CREATE USER '{USER}'@'{HOST}' IDENTIFIED BY '{words["RUDDY_DB_PASSWORD"]}';
            GRANT ALL ON {DATABASE}.* TO '{USER}'@'{HOST}';
            GRANT ALL ON `test\\_%`.* TO '{USER}'@'{HOST}';
            ALTER USER 'root'@'localhost' IDENTIFIED BY '{words["RUDDY_DB_ROOT_PASSWORD"]}';
        """

    # -- running the server -----------------------------------------------------------------------------------------

    def _launch(self, data: Path, *options: str) -> None:
        command = [
            program("mariadbd"),
            "--no-defaults",
            f"--user={_user_name()}",
            f"--datadir={data}",
            f"--tmpdir={self._temporary()}",
            f"--socket={self.socket_path}",
            f"--pid-file={self.pid_file}",
            f"--log-error={self.log}",
            "--skip-name-resolve",
            "--character-set-server=utf8mb4",
            "--collation-server=utf8mb4_unicode_ci",
            "--sql-mode=TRADITIONAL",
            "--default-time-zone=+00:00",
            "--secure-file-priv=" + str(self.instance.home),
            "--local-infile=0",
            *self.options,
            *options,
        ]
        quiet = {"stdin": subprocess.DEVNULL, "stdout": subprocess.DEVNULL, "stderr": subprocess.DEVNULL}
        with undisturbed():
            self.process = started(command, **quiet)
        deadline = time.monotonic() + START_SECONDS
        while time.monotonic() < deadline:
            if self.process.poll() is not None:
                self.process = None
                raise LaunchFault(f"The database stopped while starting ({self._last_error()}). Its log: {self.log}")
            if self.pid_file.exists() and self._greets("--skip-networking" not in options):
                return
            time.sleep(0.05)
        self.stop()
        raise LaunchFault(f"The database did not start within {START_SECONDS} s. Its log: {self.log}")

    def _greets(self, networked: bool) -> bool:
        """Whether the server answers connections with its greeting: only then may it be used, or told to stop."""
        ends: list[tuple[socket.AddressFamily, str | tuple[str, int]]] = [(socket.AF_UNIX, str(self.socket_path))]
        if networked:
            ends.append((socket.AF_INET, (HOST, self.instance.db_port)))
        for family, address in ends:
            with socket.socket(family, socket.SOCK_STREAM) as line:
                line.settimeout(2)
                try:
                    line.connect(address)
                    if not line.recv(1):
                        return False
                except OSError:
                    return False
        return True

    def _temporary(self) -> Path:
        """A folder of its own: a starting server removes whatever temporary tables it finds, other servers' too."""
        folder = self.instance.home / "tmp"
        folder.mkdir(mode=0o700, exist_ok=True)
        return folder

    def _clear_stale_pid(self) -> list[str]:
        if not self.pid_file.exists() or self._running_pid():
            return []
        self.pid_file.unlink()
        self.socket_path.unlink(missing_ok=True)
        return ["The database had not been stopped cleanly; its old process file was removed."]

    def _running_pid(self) -> int | None:
        """The process in the pid file, if it is really a server on this data folder (numbers are used again)."""
        try:
            pid = int(self.pid_file.read_text())
            command = Path(f"/proc/{pid}/cmdline").read_bytes().split(b"\0")
        except (OSError, ValueError):
            return None
        return pid if f"--datadir={self.data}".encode() in command else None

    def _alive(self, pid: int) -> bool:
        if self.process and self.process.pid == pid:
            return self.process.poll() is None
        try:
            state = Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()[0]
            threads = len(os.listdir(f"/proc/{pid}/task"))
        except OSError:
            return False
        return state != "Z" or threads > 1  # a zombie with no thread left has ended; only its parent has not asked yet

    def _last_error(self) -> str:
        lines = self.log.read_text(errors="replace").splitlines() if self.log.exists() else []
        return _telling(lines) if any("[ERROR]" in line for line in lines) else "no error in its log"

    def _sql(self, text: str, database: str = "") -> None:
        command = ["mariadb", "--no-defaults", f"--socket={self.socket_path}", "--user=root", *filter(None, [database])]
        self._run(command, "the database could not be set up", text)

    @staticmethod
    def _run(command: list[str], fault: str, text: str | None = None) -> str:
        command = [program(command[0]), *command[1:]]
        done = subprocess.run(command, input=text, capture_output=True, text=True)
        if done.returncode:
            lines = (done.stderr.strip() or done.stdout.strip() or "no message").splitlines()
            raise LaunchFault(f"{fault.capitalize()}: {_telling(lines)}")
        return done.stdout


def program(name: str) -> str:
    """The path of one of MariaDB's programs; raises LaunchFault where it is missing."""
    found = shutil.which(name, path=f"{os.environ.get('PATH', '')}:/usr/sbin:/sbin")
    if not found:
        raise LaunchFault(f"The program {name} is missing: install the package mariadb-server.")
    return found


def _telling(lines: list[str]) -> str:
    """The line that tells most: the last error that is not just 'Aborting', else the last line."""
    errors = [line.split("[ERROR]", 1)[1].strip() for line in lines if "[ERROR]" in line]
    told = [error for error in errors if "abort" not in error.lower()] or errors
    return told[-1] if told else lines[-1]


def _user_name() -> str:
    return pwd.getpwuid(os.getuid()).pw_name


def _signal(pid: int, number: int) -> None:
    with contextlib.suppress(ProcessLookupError):
        os.kill(pid, number)
