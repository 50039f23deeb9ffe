"""An installation for real: its configuration, what is killed comes back, nothing is left running."""

import http.client
import os
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import pytest

from launch import config, install, serve, statics, upgrade
from launch.elsewhere import TheirDatabase
from launch.fault import LaunchFault
from launch.instance import HOST, PROJECT, Instance, free_port
from launch.processes import who_listens
from tests.launch.test_launch import ask, child_of

pytestmark = pytest.mark.xdist_group("launch")
NAME = "draft.example"


def written(folder: Path, text: str = "") -> Path:
    path = folder / "ruddy.toml"
    path.write_text(f'hosts = ["{NAME}"]\nfolder = "{folder / "data"}"\n{text}')
    return path


def test_the_example_is_a_whole_configuration_with_the_usual_values(tmp_path):
    path = tmp_path / "ruddy.toml"
    path.write_text(config.example())
    found = config.read(path)
    assert found.said == {section: {n: line.usual for n, line in of.items()} for section, of in config.LINES.items()}


@pytest.mark.parametrize(("text", "said"), [
    ("[web]\nprot = 1", "no setting web.prot. Is port meant?"), ("[wbe]\nport = 1", "no setting wbe. Is web meant?"),
    ('[web]\nport = "80"', "web.port is '80'; it wants a whole number"), ("[web]\nport = 99999", "at most 65535"),
    ("[web]\nthreads = 0", "web.threads is 0; it is at least 1"), ("nonsense", "is no TOML"),
    ("[mail]\ntls = 1", "it wants true or false"), ("[proxy]\naddresses = [1]", "it wants a list of texts"),
])  # fmt: skip
def test_what_is_wrong_in_it_is_one_clear_line(tmp_path, text, said):
    with pytest.raises(LaunchFault) as fault:
        config.read(written(tmp_path, text))
    assert said in str(fault.value) and "\n" not in str(fault.value)


@pytest.mark.parametrize(("text", "said"), [
    ('host_pages = "/x"', "hard to guess"), ('[mail]\nhost = "m.example"', "mail.sender is missing"),
    ('[photos]\nbucket = "b"', "photos.bucket needs"), ('[photos]\nendpoint = "store"', "it begins with https://"),
    ("[database]\nmemory_percent = 95", "over 80"), ('[mail]\npassword_file = "/nowhere/x"', "cannot be read"),
])  # fmt: skip
def test_what_cannot_work_is_said_before_anything_starts(tmp_path, text, said):
    done = subprocess.run(
        [sys.executable, "-m", "launch", "serve", "--config", str(written(tmp_path, text))],
        cwd=PROJECT, capture_output=True, text=True,
    )  # fmt: skip
    assert done.returncode == 1 and said in done.stderr and done.stderr.count("\n") == 1


def test_there_is_no_configuration_or_its_secret_is_everybodys(tmp_path):
    with pytest.raises(LaunchFault, match="--example"):
        config.read(tmp_path / "none.toml")
    secret = tmp_path / "word"
    secret.write_text("x")
    found = config.read(written(tmp_path, f'[mail]\npassword_file = "{secret}"'))
    secret.chmod(0o644)
    with pytest.raises(LaunchFault, match="chmod 600"):
        found.secret("mail", "password_file")


@pytest.mark.parametrize("proxy", ["caddy", "nginx"])
def test_the_service_is_sound_and_shut_in_and_the_proxy_is_told(tmp_path, proxy):
    lines = f'[proxy]\ncertificate = "/c.pem"\nkey = "/k.pem"\n[web]\nport = 8999\n[backup]\nfolder = "{tmp_path}"'
    install.install(config.read(written(tmp_path, lines)), tmp_path / "root", proxy)
    unit = tmp_path / "root/etc/systemd/system/ruddy-draft.service"
    verified = subprocess.run(["systemd-analyze", "verify", str(unit)], capture_output=True, text=True)
    assert verified.returncode == 0 and "ruddy-draft" not in verified.stderr, verified.stderr
    shut_in = ["systemd-analyze", "security", "--offline=true", "--threshold=20", str(unit)]
    assert subprocess.run(shut_in, capture_output=True).returncode == 0, "exposed more than 2.0"
    assert f"ReadWritePaths={tmp_path / 'data'} {tmp_path}" in unit.read_text()
    (told,) = [path.read_text() for path in (tmp_path / "root/etc" / proxy / "conf.d").iterdir()]
    assert "127.0.0.1:8999" in told and "/c.pem" in told and NAME in told and "/-/counters/" in told


def test_an_installation_without_a_certificate_is_one_clear_line(tmp_path):
    with pytest.raises(LaunchFault, match=r"proxy.certificate is empty"):
        install.install(config.read(written(tmp_path)), tmp_path, "caddy")


@pytest.mark.parametrize(("days", "ahead", "said"), [
    (5, 6, "has run out"), (5, 0, "runs out within two weeks"), (90, 0, ""),
])  # fmt: skip
def test_a_certificate_that_runs_out_is_said(tmp_path, monkeypatch, days, ahead, said):
    path = tmp_path / "c.pem"
    make = ["openssl", "req", "-x509", "-newkey", "rsa:2048", "-nodes", "-subj", f"/CN={NAME}", "-days", str(days)]
    subprocess.run([*make, "-keyout", str(tmp_path / "k.pem"), "-out", str(path)], check=True, capture_output=True)
    monkeypatch.setattr(serve, "NOW_S", ahead * 86_400)  # as if so many days had gone
    found = serve.certificate_said(config.read(written(tmp_path, f'[proxy]\ncertificate = "{path}"')))
    assert said in found and bool(said) == bool(found)


class Served:
    """`./ruddy serve` as a process of its own, in a folder of its own."""

    def __init__(self, folder: Path):
        self.folder, self.port, self.db_port, self.process = folder, free_port(), free_port(), None
        (folder / "monitor").write_text("count-me")
        (folder / "monitor").chmod(0o600)
        self.config = written(
            folder,
            f"[web]\nport = {self.port}\nworkers = 2\n[database]\nport = {self.db_port}\nmemory_percent = 1\n"
            f'[monitor]\ntoken_file = "{folder / "monitor"}"',
        )

    def start(self) -> str:
        command = [sys.executable, "-u", "-m", "launch", "serve", "--config", str(self.config)]
        self.said = self.folder / "said"
        with self.said.open("w") as out:
            self.process = subprocess.Popen(command, cwd=PROJECT, stdout=out, stderr=out, start_new_session=True)
        self.read = 0
        return self.read_until("answers on")

    def is_running(self) -> bool:
        return self.process is not None and self.process.poll() is None

    def stop(self) -> None:
        if self.is_running():
            self.process.terminate()
            self.process.wait(60)
            assert self.all_ended()

    def read_until(self, words: str) -> str:
        """What was said since the last time, up to these words."""
        deadline = time.monotonic() + 90
        while time.monotonic() < deadline:
            new = self.said.read_text()[self.read :]
            if words in new:
                self.read += new.index(words) + len(words)
                return new
            if self.process.poll() is not None:
                break
            time.sleep(0.1)
        raise AssertionError(f"'{words}' was not said: {self.said.read_text()[self.read :]}")

    def ask(self, path: str, **headers) -> tuple[int, str]:
        """As the proxy asks: by the name people typed, and saying that it was HTTPS."""
        line = http.client.HTTPConnection(HOST, self.port, timeout=20)
        line.request("GET", path, headers={"Host": NAME, "X-Forwarded-Proto": "https", **headers})
        answer = line.getresponse()
        return answer.status, answer.read().decode()

    def until(self, path: str, status: int) -> str:
        """Ask until the answer is this; a machine that is busy may take its time."""
        deadline = time.monotonic() + 60
        while time.monotonic() < deadline:
            try:
                got, text = self.ask(path)
                if got == status:
                    return text
            except OSError:
                pass
            time.sleep(0.2)
        raise AssertionError(f"{path} never answered {status}")

    def pids(self) -> list[int]:
        """Every process that works for it."""
        found = []
        for folder in Path("/proc").glob("[0-9]*"):
            try:
                if str(self.folder).encode() in (folder / "environ").read_bytes() + (folder / "cmdline").read_bytes():
                    found.append(int(folder.name))
            except OSError:
                continue
        return found

    def all_ended(self) -> bool:
        deadline = time.monotonic() + 60
        while time.monotonic() < deadline:
            if not self.pids():
                return True
            time.sleep(0.2)
        return False


@pytest.fixture(scope="module")
def installed():
    found = Served(Path(tempfile.mkdtemp()))
    yield found
    found.stop()
    shutil.rmtree(found.folder)


@pytest.fixture
def served(installed):
    """It, serving."""
    if not installed.is_running():
        installed.start()
    return installed


def test_it_serves_is_healthy_counts_and_says_nothing_else(served):
    assert served.until("/-/ready/", 200) == '{"status": "ready"}'
    assert served.ask("/-/alive/")[0] == 200 and "Sign in" in served.ask("/sign-in/")[1]
    line = http.client.HTTPConnection(HOST, served.port, timeout=20)
    line.request("GET", "/sign-in/", headers={"Host": NAME})
    assert line.getresponse().status == 301, "without TLS only the machine's own questions are answered"
    assert served.ask("/-/counters/")[0] == 404
    counted = served.ask("/-/counters/", Authorization="Bearer count-me")[1]
    assert 'ruddy_requests_total{method="GET",page="accounts:sign_in",status="200"}' in counted
    assert served.ask("/sign-in/", Host="elsewhere.example")[0] == 400
    secrets = (served.folder / "data" / "secrets.env").stat()
    assert secrets.st_mode & 0o777 == 0o600


def test_a_killed_master_worker_queue_and_database_come_back(served):
    for word in ("gunicorn", "db_worker", "keep_time"):
        pid = child_of(served.process.pid, word)
        os.kill(pid, signal.SIGKILL)
        served.read_until("starting it again")
        assert child_of(served.process.pid, word) != pid
        served.until("/-/ready/", 200)
    database = child_of(served.process.pid, "mariadbd")
    os.kill(database, signal.SIGKILL)
    served.read_until("nothing that was stored is lost")
    served.until("/-/ready/", 200)


def test_new_code_is_taken_up_while_requests_go_on(served):
    worker = child_of(child_of(served.process.pid, "gunicorn"), "gunicorn")
    served.process.send_signal(signal.SIGUSR1)
    served.read_until("Taking up the new code")
    deadline = time.monotonic() + 60
    while Path(f"/proc/{worker}").exists():
        assert served.ask("/-/alive/")[0] == 200
        assert time.monotonic() < deadline
    assert served.until("/-/ready/", 200)


def test_what_browsers_load_is_gathered_again_only_where_it_changed(served):
    instance = Instance.served(config.read(served.config))
    manifest, stamp = (instance.home / "static" / name for name in ("staticfiles.json", statics.STAMP))
    before = manifest.stat().st_mtime_ns
    statics.gather(instance)
    assert manifest.stat().st_mtime_ns == before
    stamp.write_text("of other files")
    statics.gather(instance)
    assert manifest.stat().st_mtime_ns > before and stamp.read_text() != "of other files"


def test_an_upgrade_backs_up_and_loses_no_request(served):
    command = [sys.executable, "-m", "launch", "upgrade", "--config", str(served.config)]
    with subprocess.Popen(command, cwd=PROJECT, stdout=subprocess.PIPE, text=True) as upgrade:
        asked = 0
        while upgrade.poll() is None:
            assert served.ask("/sign-in/")[0] == 200
            asked += 1
        said = upgrade.stdout.read()
    assert upgrade.returncode == 0 and asked > 10
    assert "Backup of before" in said and "The way back" in said
    assert list((served.folder / "data" / "before-upgrades").glob("ruddy-*.tar"))


def test_an_upgrade_says_that_it_does_not_get_ready_or_that_nothing_runs(served, monkeypatch):
    instance = Instance.served(config.read(served.config))
    with monkeypatch.context() as broken:
        broken.setattr(upgrade, "is_ready", lambda _: False)
        broken.setattr(upgrade, "READY_WITHIN_S", 0)
        with pytest.raises(LaunchFault, match=r"not ready after 0 s.*The way back: .*before-upgrades/ruddy-"):
            upgrade.upgrade(instance, None)
    served.until("/-/ready/", 200)
    served.stop()
    with pytest.raises(LaunchFault, match="Nothing runs from"):
        upgrade.upgrade(instance, None)


def test_tables_of_a_newer_version_are_refused_and_nobody_is_sent_here(served):
    instance = Instance.served(config.read(served.config))
    ask(instance, "INSERT INTO django_migrations (app, name, applied) VALUES ('visits', '9999_of_tomorrow', NOW())")
    served.process.send_signal(signal.SIGUSR1)  # new processes look anew
    assert "the tables are of another version" in served.until("/-/ready/", 503)
    served.stop()
    with pytest.raises(AssertionError, match=r"(?s)newer version \(visits.9999_of_tomorrow\).*migrate_once' failed"):
        served.start()
    database = serve.database_of(instance)
    database.start()
    ask(instance, "DELETE FROM django_migrations WHERE name = '9999_of_tomorrow'")
    database.stop()
    served.start()
    served.until("/-/ready/", 200)


def test_a_second_one_is_refused_and_names_the_first(served):
    done = subprocess.run(
        [sys.executable, "-m", "launch", "serve", "--config", str(served.config)],
        cwd=PROJECT, capture_output=True, text=True,
    )  # fmt: skip
    assert done.returncode == 1 and f"(process {served.process.pid})" in done.stderr and done.stderr.count("\n") == 1


@pytest.mark.parametrize("how", [signal.SIGKILL, signal.SIGHUP])
def test_nothing_is_left_running_however_it_ends(served, how):
    """Nor after SIGTERM: see stop."""
    served.process.send_signal(how)
    served.process.wait(60)
    assert served.all_ended()


def listener(port: int, folder: Path, word: str) -> subprocess.Popen:
    """A process that holds a port, started with a word."""
    code = f"import socket, time; s = socket.create_server(('{HOST}', {port})); time.sleep(600)"
    found = subprocess.Popen([sys.executable, "-c", code, word], cwd=folder)
    while who_listens(port) is None:
        time.sleep(0.05)
    return found


def test_what_an_earlier_run_left_on_the_port_is_ended_and_another_program_is_named(installed):
    installed.stop()
    served = installed
    left = listener(served.port, PROJECT, "web.wsgi:application")
    assert f"An earlier run still holds port {served.port}" in served.start()
    left.wait(20)
    served.stop()
    other = listener(served.port, PROJECT, "something-else")
    with pytest.raises(AssertionError, match=rf"taken by python.* \(process {other.pid}\)"):
        served.start()
    other.terminate()
    other.wait(20)


def test_a_database_that_is_there_already_is_used_and_each_fault_has_its_remedy(installed, tmp_path):
    """The own database of the instance above stands for one that somebody else runs."""
    installed.stop()
    served = installed
    own = Instance.served(config.read(served.config))
    database = serve.database_of(own)
    database.start()
    word = tmp_path / "word"
    word.write_text(own.secrets()["RUDDY_DB_PASSWORD"])
    word.chmod(0o600)

    def theirs(port=served.db_port, password=word, name="ruddy"):
        text = f'[database]\nhost = "{HOST}"\nport = {port}\nname = "{name}"\npassword_file = "{password}"'
        instance = Instance.served(config.read(written(tmp_path, text)))
        instance.prepare()
        found = serve.database_of(instance)
        assert isinstance(found, TheirDatabase)
        return found

    try:
        assert "The database is MariaDB" in theirs().start()[0]
        wrong = tmp_path / "wrong"
        wrong.write_text("nope")
        wrong.chmod(0o600)
        for found, remedy in (
            (theirs(password=wrong), "is the password in database.password_file right"),
            (theirs(port=free_port()), "is it running, and does it listen"),
        ):
            with pytest.raises(LaunchFault, match=remedy):
                found.start()
    finally:
        database.stop()
