"""Starting and stopping for real: the faults a machine has, one clear line each, and nothing lost or left running."""

import os
import re
import shutil
import signal
import socket
import ssl
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
from io import StringIO
from pathlib import Path

import pytest
from django.core.management import call_command

from launch import database as database_module
from launch import lan, testing
from launch.database import TEST_OPTIONS, Database
from launch.fault import LaunchFault
from launch.instance import HOST, PROJECT, Instance, free_port, port_from_environment
from launch.processes import LONGEST_LOG_BYTES, Process

pytestmark = pytest.mark.xdist_group("launch")
NOBODY = 65534


def instance_in(home: Path) -> Instance:
    instance = Instance("test", home, free_port(), free_port())
    instance.prepare()
    return instance


@pytest.fixture(scope="module")
def made():
    """One instance for the module: making the data takes seconds. Its path is too deep for a socket beside the data."""
    root = Path(tempfile.mkdtemp())
    instance = instance_in(root / ("deep" * 20) / ("deeper" * 5))
    yield instance
    Database(instance).stop()
    shutil.rmtree(root)


@pytest.fixture
def database(made):
    found = Database(made)  # as the demo runs it, with every commit on disk
    yield found
    Database(made).stop()


def ask(instance, sql):
    """Ask the database over loopback TCP as the product does."""
    command = [
        "mariadb",
        "--no-defaults",
        f"-h{HOST}",
        f"-P{instance.db_port}",
        "-uruddy",
        "--default-character-set=utf8mb4",
        "-N",
        "ruddy",
        "-e",
        sql,
    ]
    environment = {**os.environ, "MYSQL_PWD": instance.secrets()["RUDDY_DB_PASSWORD"]}
    done = subprocess.run(command, env=environment, capture_output=True, text=True)
    assert done.returncode == 0, done.stderr
    return done.stdout.strip()


def test_database_is_private_loopback_only_with_time_zones_and_keeps_its_data(database, made):
    assert database.start() == [] and database.is_running()
    ask(made, "CREATE TABLE kept (n INT PRIMARY KEY); INSERT INTO kept VALUES (7)")
    assert ask(made, "SELECT CONVERT_TZ('2026-07-01 12:00:00', 'UTC', 'America/Denver')") == "2026-07-01 06:00:00"
    assert ask(made, "SELECT @@bind_address, @@character_set_server, @@sql_mode LIKE '%STRICT_ALL%'").split() == [
        HOST,
        "utf8mb4",
        "1",
    ]
    assert made.home.stat().st_mode & 0o777 == 0o700
    assert (made.home / "secrets.env").stat().st_mode & 0o777 == 0o600
    database.stop()
    assert not database.is_running()
    database.start()
    assert ask(made, "SELECT n FROM kept") == "7"


def test_killed_database_starts_again_with_its_data_and_says_so(database, made):
    database.start()
    ask(made, "CREATE TABLE survivor (n INT PRIMARY KEY); INSERT INTO survivor VALUES (8)")
    os.kill(database.process.pid, signal.SIGKILL)
    database.process.wait()
    (note,) = Database(made).start()
    assert "not been stopped cleanly" in note and ask(made, "SELECT n FROM survivor") == "8"


def test_stale_process_number_now_used_by_another_program_is_not_believed(database, made):
    database.pid_file.write_text(str(os.getpid()))
    (note,) = database.start()
    assert "old process file was removed" in note and database.is_running()


def test_database_left_running_is_ended_first(database, made):
    database.start()
    (note,) = Database(made).start()
    assert "still running" in note and ask(made, "SELECT 1") == "1"


def test_taken_database_port_is_one_clear_line(database, made):
    with socket.socket() as other:
        other.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        other.bind((HOST, made.db_port))
        other.listen()
        with pytest.raises(
            LaunchFault, match=rf"^Port {made.db_port} .* taken by .* \(process {os.getpid()}\).*RUDDY_DB_PORT.*$"
        ):
            database.start()


def test_broken_data_is_one_clear_line(tmp_path):
    instance = instance_in(tmp_path / "broken")
    (instance.home / "data").mkdir()
    (instance.home / "data" / "ibdata1").write_text("not a database")
    with pytest.raises(LaunchFault, match="stopped while starting"):
        Database(instance, TEST_OPTIONS).start()


def test_missing_time_zones_are_one_clear_line_and_leave_nothing_half_made(tmp_path, monkeypatch):
    instance = instance_in(tmp_path / "zoneless")
    monkeypatch.setattr(database_module, "ZONES", tmp_path / "none")
    with pytest.raises(LaunchFault, match="install the package tzdata"):
        Database(instance, TEST_OPTIONS).start()
    monkeypatch.undo()
    made = Database(instance, TEST_OPTIONS)
    made.start()
    try:
        zones = ask(
            instance, "SELECT CONVERT_TZ('2026-01-01', 'UTC', 'Asia/Tokyo'), CONVERT_TZ('2026-01-01', 'UTC', 'Etc/UTC')"
        )
        assert zones.split("\t") == ["2026-01-01 09:00:00", "2026-01-01 00:00:00"]
    finally:
        made.stop()


@pytest.mark.parametrize("text", ["80", "abc", "99999"])
def test_a_port_that_is_none_is_one_clear_line(monkeypatch, text):
    monkeypatch.setenv("RUDDY_WEB_PORT", text)
    with pytest.raises(LaunchFault, match=f"RUDDY_WEB_PORT is '{text}'"):
        port_from_environment("RUDDY_WEB_PORT", 8780)


def as_ordinary_user(work) -> str:
    """Run `work` in a child that is not root; what it returned or the fault it raised."""
    reader, writer = os.pipe()
    child = os.fork()
    if child == 0:
        try:
            if os.getuid() == 0:
                os.setgid(NOBODY)
                os.setuid(NOBODY)
            answer = str(work())
        except BaseException as fault:
            answer = f"{type(fault).__name__}: {fault}"
        os.write(writer, answer.encode())
        os._exit(0)
    os.close(writer)
    os.waitpid(child, 0)
    with os.fdopen(reader) as said:
        return said.read()


def test_missing_rights_are_one_clear_line():
    with tempfile.TemporaryDirectory() as folder:
        os.chmod(folder, 0o555)
        said = as_ordinary_user(lambda: instance_in(Path(folder) / "demo"))
    assert re.fullmatch(
        r"LaunchFault: Cannot write to .*demo \(Permission denied\): run as the user that owns it.*", said
    )


def test_what_killed_tests_left_is_swept_and_nothing_else(tmp_path):
    kept = tmp_path / f"test-{os.getpid()}", tmp_path / "demo"
    for folder in (*kept, tmp_path / "test-999999999"):
        (folder / "data").mkdir(parents=True)
    testing._sweep(tmp_path)
    assert sorted(tmp_path.iterdir()) == sorted(kept)


def test_root_leaves_nothing_of_roots_in_somebodys_folder():
    """Backing up or managing as root must not keep the service from its own files."""
    if os.getuid() != 0:
        pytest.skip("only root can become somebody else")
    folder = Path(tempfile.mkdtemp())
    home = folder / "of-nobody"
    home.mkdir()
    os.chown(home, NOBODY, NOBODY)
    folder.chmod(0o755)
    child = os.fork()
    if child == 0:
        Instance("test", home, free_port(), free_port()).prepare()
        Instance("test", home, free_port(), free_port()).secrets()
        os._exit(0)
    os.waitpid(child, 0)
    assert {path.stat().st_uid for path in (home, *home.iterdir())} == {NOBODY}
    shutil.rmtree(folder)


def test_works_as_an_ordinary_user():
    folder = Path(tempfile.mkdtemp())
    if os.getuid() == 0:
        os.chown(folder, NOBODY, NOBODY)

    def work():
        instance = instance_in(folder / "demo")
        database = Database(instance, TEST_OPTIONS)
        database.start()
        answer = ask(instance, "SELECT 6 * 7")
        database.stop()
        return answer

    assert as_ordinary_user(work) == "42"
    shutil.rmtree(folder)


class Demo:
    """`./ruddy demo` as a process of its own."""

    def __init__(self, home: Path, *arguments: str):
        self.ports = {"RUDDY_WEB_PORT": str(free_port()), "RUDDY_DB_PORT": str(free_port())}
        self.environment = {**os.environ, **self.ports, "RUDDY_HOME": str(home)}
        self.start(*arguments)

    def start(self, *arguments: str) -> None:
        self.process = subprocess.Popen(
            [sys.executable, "-u", "-m", "launch", "demo", *arguments],
            cwd=PROJECT,
            env=self.environment,
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
        )

    def read_until(self, words: str) -> str:
        said = ""
        for line in self.process.stdout:
            said += line
            if words in line:
                return said
        raise AssertionError(f"'{words}' was not said: {said}")

    def page(self) -> str:
        with urllib.request.urlopen(f"http://{HOST}:{self.ports['RUDDY_WEB_PORT']}/sign-in/", timeout=20) as response:
            return response.read().decode()

    def stop(self) -> str:
        self.process.send_signal(signal.SIGINT)
        said, _ = self.process.communicate(timeout=60)
        return said


def child_of(parent: int, word: str) -> int:
    """The process that this one started with a word among its arguments, once it is there."""
    while True:
        for folder in Path("/proc").glob("[0-9]*"):
            try:
                of = int(folder.joinpath("stat").read_text().rsplit(")", 1)[1].split()[1])
                if of == parent and word in folder.joinpath("cmdline").read_text():
                    return int(folder.name)
            except OSError:  # it ended meanwhile
                continue
        time.sleep(0.05)


def test_demo_comes_up_survives_a_killed_database_refuses_a_second_start_and_stops_cleanly():
    root = Path(tempfile.mkdtemp())
    demo = Demo(root)
    try:
        said = demo.read_until("Odile")
        assert (
            "demo shop was loaded" in said
            and f"http://{HOST}:{demo.ports['RUDDY_WEB_PORT']}/" in said
            and "password" in said
        )
        assert "Sign in" in demo.page()

        second = subprocess.run(
            [sys.executable, "-m", "launch", "demo"], cwd=PROJECT, env=demo.environment, capture_output=True, text=True
        )
        assert second.returncode == 1 and second.stderr.count("\n") == 1 and "already running" in second.stderr

        drill = subprocess.run(
            [sys.executable, "-m", "launch", "drill"], cwd=PROJECT, env=demo.environment, capture_output=True, text=True
        )
        assert drill.returncode == 0 and "Restored and compared" in drill.stdout, drill.stderr[-2000:]
        assert "3 sheets opened." in drill.stdout

        pid_file = root / "demo" / "mariadbd.pid"
        os.kill(int(pid_file.read_text()), signal.SIGKILL)
        demo.read_until("nothing that was stored is lost")
        assert "Sign in" in demo.page()
        os.kill(child_of(demo.process.pid, "db_worker"), signal.SIGKILL)
        demo.read_until("The worker ended; starting it again")
        worker_pid = child_of(demo.process.pid, "db_worker")
        database_pid = int(pid_file.read_text())
        assert "Stopping" in demo.stop() and demo.process.returncode == 0
        assert not Path(f"/proc/{database_pid}").exists() and not pid_file.exists()
        assert not Path(f"/proc/{worker_pid}").exists()

        demo.start()
        assert "demo shop was loaded" not in demo.read_until("Odile"), "a second run keeps the data"
        demo.stop()

        with socket.socket() as other:
            other.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            other.bind((HOST, int(demo.ports["RUDDY_WEB_PORT"])))
            other.listen()
            demo.start()
            said, _ = demo.process.communicate(timeout=60)
        assert demo.process.returncode == 1 and said.count("\n") == 1 and f"(process {os.getpid()})" in said
    finally:
        if demo.process.poll() is None:
            demo.stop()
        shutil.rmtree(root)


def test_a_phone_in_the_same_network_is_answered_by_tls_and_shown_a_code(tmp_path):
    instance = Instance("demo", tmp_path / "demo", free_port(), free_port(), "web.settings.demo", lan=HOST)
    instance.prepare()
    (instance.home / "counters").mkdir()
    network = lan.process(instance)
    network.start()
    trusted = ssl.create_default_context(cafile=instance.home / f"{HOST}.pem")  # it names the address
    deadline = time.monotonic() + 60
    try:
        while time.monotonic() < deadline:
            try:
                with urllib.request.urlopen(f"{instance.public_address}/-/alive/", context=trusted) as answer:
                    assert answer.read() == b'{"status": "alive"}'
                    break
            except urllib.error.URLError:
                time.sleep(0.2)
        else:
            raise AssertionError(f"nobody answered: {network.log.read_text()}")
    finally:
        network.stop()
    assert (instance.home / f"{HOST}.key").stat().st_mode & 0o777 == 0o600
    shown = StringIO()
    call_command("show_code", instance.public_address, stdout=shown)
    assert shown.getvalue().count("\n") > 10


def test_a_long_log_is_put_aside_at_the_next_start(tmp_path):
    log = tmp_path / "web.log"
    process = Process("web server", ["echo", "begun"], tmp_path, dict(os.environ), log)
    for already, before in ((b"short\n", False), (b"x" * (LONGEST_LOG_BYTES + 1), True)):
        log.write_bytes(already)
        process.start()
        process.process.wait()
        assert log.read_bytes() == (b"begun\n" if before else b"short\nbegun\n")
        assert (tmp_path / "web.before.log").exists() == before
