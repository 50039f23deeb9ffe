"""A cluster on this machine: three database nodes (Galera), HAProxy in front of them, two web nodes. Devices write
through both while a database node and a web node are killed and come back. Shows that nothing is lost or doubled and
that all nodes hold the same; it says nothing of how much a cluster carries, since all share these cores.

Run: .venv/bin/python -m tools.cluster_trial (with Debian's mariadb-server, galera-4, rsync and haproxy)
"""

import contextlib
import http.server
import os
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
import time
from dataclasses import replace
from pathlib import Path

from benchmarks.faults import DEVICES, EACH, NAME, Device, make_trial, page
from launch.config import read
from launch.database import program
from launch.dump import tables_of
from launch.instance import HOST, PROJECT, Instance, free_port

NODES, USER_WORD = 3, "trial-word"
SIZE = "SHOW STATUS LIKE 'wsrep_cluster_size'"
ORDINARY = "nobody"  # rsync gives files of root's to nobody
PERSONAL = ("django_session", "accounts_session")  # who was seen when: they go on while nodes are compared


class Node:
    """A database node, and the address at which a proxy asks whether it may be used."""

    def __init__(self, root: Path, number: int):
        self.home, self.number = root / f"node{number}", number
        self.port, self.group, self.ist, self.sst, self.check = (free_port() for _ in range(5))
        (self.home / "tmp").mkdir(parents=True)
        self._own(root)
        self._run("mariadb-install-db", f"--datadir={self.home}/data", "--auth-root-authentication-method=normal",
                  "--skip-test-db", "--skip-name-resolve")  # fmt: skip
        self.process: subprocess.Popen | None = None
        threading.Thread(target=self._answer_checks, daemon=True).start()

    def _own(self, root: Path) -> None:
        if os.getuid() == 0:
            for path in (root, self.home, self.home / "tmp"):
                shutil.chown(path, ORDINARY)

    def _run(self, tool: str, *arguments: str) -> None:
        command = [program(tool), "--no-defaults", *arguments]
        subprocess.run(command, check=True, capture_output=True, user=ORDINARY if os.getuid() == 0 else None)

    def start(self, cluster: str) -> None:
        """Start it; cluster: the addresses of the others, 'gcomm://' for the first of all."""
        listen = f"gmcast.listen_addr=tcp://{HOST}:{self.group};ist.recv_addr={HOST}:{self.ist}"
        command = [
            program("mariadbd"), "--no-defaults", f"--datadir={self.home}/data", f"--tmpdir={self.home}/tmp",
            f"--socket={self.home}/s", f"--pid-file={self.home}/pid", f"--log-error={self.home}/log", f"--port={self.port}",
            f"--bind-address={HOST}", "--skip-name-resolve", "--binlog-format=ROW", "--innodb-autoinc-lock-mode=2",
            "--character-set-server=utf8mb4", "--collation-server=utf8mb4_unicode_ci", "--wsrep-on=ON",
            "--wsrep-provider=/usr/lib/galera/libgalera_smm.so", "--wsrep-cluster-name=trial", "--wsrep-sst-method=rsync",
            f"--wsrep-cluster-address={cluster}", f"--wsrep-node-name=node{self.number}",
            f"--wsrep-node-address={HOST}:{self.group}", f"--wsrep-sst-receive-address={HOST}:{self.sst}",
            f"--wsrep-provider-options={listen}",
        ]  # fmt: skip
        self.process = subprocess.Popen(
            command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, start_new_session=True,
            user=ORDINARY if os.getuid() == 0 else None,
        )  # fmt: skip
        deadline = time.monotonic() + 120
        while not self.is_ready():
            assert self.process.poll() is None and time.monotonic() < deadline, f"see {self.home}/log"
            time.sleep(0.2)

    def ask(self, sql: str) -> str:
        """Ask it as root, by its socket."""
        command = [program("mariadb"), "--no-defaults", f"--socket={self.home}/s", "--user=root", "-N", "-e", sql]
        return subprocess.run(command, capture_output=True, text=True, check=True).stdout.strip()

    def is_ready(self) -> bool:
        """Whether it may be used: it belongs to the cluster and holds all that the others hold."""
        try:
            told = self.ask("SHOW STATUS WHERE Variable_name IN ('wsrep_ready', 'wsrep_local_state')").split()
        except subprocess.CalledProcessError:
            return False
        return told == ["wsrep_local_state", "4", "wsrep_ready", "ON"]

    def _answer_checks(self) -> None:
        node = self

        class Check(http.server.BaseHTTPRequestHandler):
            def do_GET(self):
                with contextlib.suppress(ConnectionError):  # a proxy waits no longer than it must
                    self.send_response(200 if node.is_ready() else 503)
                    self.end_headers()

            def log_message(self, *args):
                """The proxy asks each second: nobody reads that."""

        http.server.ThreadingHTTPServer((HOST, self.check), Check).serve_forever()


def proxy(root: Path, nodes: list[Node], port: int) -> subprocess.Popen:
    """HAProxy: one node takes the writes; where it is not ready, the next one does."""
    servers = "\n".join(
        f"    server node{node.number} {HOST}:{node.port} check port {node.check} inter 500 fall 2 rise 2"
        f" on-marked-down shutdown-sessions{'' if node is nodes[0] else ' backup'}"
        for node in nodes
    )
    (root / "haproxy.cfg").write_text(
        f"global\n    maxconn 500\ndefaults\n    mode tcp\n    timeout connect 3s\n    timeout client 1h\n"
        f"    timeout server 1h\nlisten database\n    bind {HOST}:{port}\n    option httpchk GET /\n{servers}\n"
    )
    return subprocess.Popen([program("haproxy"), "-db", "-f", str(root / "haproxy.cfg")], stderr=subprocess.DEVNULL)


class Web:
    """A web node: `./ruddy serve` with the cluster as its database."""

    def __init__(self, root: Path, number: int, database: int):
        self.folder, self.port = root / f"web{number}", free_port()
        self.folder.mkdir()
        word = self.folder / "word"
        word.write_text(USER_WORD)
        word.chmod(0o600)
        self.config = self.folder / "ruddy.toml"
        self.config.write_text(
            f'hosts = ["{NAME}"]\nfolder = "{self.folder}/data"\n[web]\nport = {self.port}\nworkers = 2\n'
            f'[database]\nhost = "{HOST}"\nport = {database}\npassword_file = "{word}"\n'
        )
        self.instance = Instance.served(read(self.config))

    def start(self) -> None:
        said = (self.folder / "said").open("a")
        command = [sys.executable, "-u", "-m", "launch", "serve", "--config", str(self.config)]
        self.process = subprocess.Popen(command, cwd=PROJECT, stdout=said, stderr=said, start_new_session=True)
        while page(self.port)[0] != 200:
            assert self.process.poll() is None, (self.folder / "said").read_text()[-2000:]
            time.sleep(0.2)


def main() -> None:
    root = Path(tempfile.mkdtemp(prefix="ruddy-cluster-"))
    root.chmod(0o755)
    nodes: list[Node] = []
    webs: list[Web] = []
    balanced = None
    try:
        nodes = [Node(root, number + 1) for number in range(NODES)]
        nodes[0].start("gcomm://")
        _prepare(nodes[0])
        cluster = "gcomm://" + ",".join(f"{HOST}:{node.group}" for node in nodes)
        for node in nodes[1:]:
            node.start(cluster)
        _say(f"{nodes[0].ask(SIZE).split()[-1]} database nodes")
        port = free_port()
        balanced = proxy(root, nodes, port)
        time.sleep(3)
        webs = [Web(root, number + 1, port) for number in range(2)]
        webs[0].start()
        shutil.copytree(webs[0].folder / "data", webs[1].folder / "data", ignore=shutil.ignore_patterns("*.lock"))
        webs[1].start()  # with the same key that signs sessions
        _say("2 web nodes")
        rounds = make_trial(webs[0].instance)
        devices = [Device(rounds[n], webs[n % 2].port) for n in range(DEVICES)]
        for device in devices:
            device.start()
        _until(devices, 1 / 5)
        _say("the database node that takes the writes is killed")
        os.kill(nodes[0].process.pid, signal.SIGKILL)
        nodes[0].process.wait()
        _until(devices, 2 / 5)
        _say("a web node is killed: its devices go to the other one")
        os.killpg(webs[1].process.pid, signal.SIGKILL)
        for device in devices:
            device.port = webs[0].port
        _until(devices, 3 / 5)
        nodes[0].start(cluster)
        _say("the database node is back and holds what the others hold")
        webs[1].process.wait()
        time.sleep(3)
        webs[1].start()
        for device in devices[::2]:
            device.port = webs[1].port
        _say("the web node is back")
        for device in devices:
            device.join(180)
        _compare(nodes, devices, webs[0].instance)
    finally:
        for process in (*(web.process for web in webs if hasattr(web, "process")), balanced):
            if process and process.poll() is None:
                process.terminate()
                process.wait(60)
        for node in nodes:
            if node.process and node.process.poll() is None:
                node.process.kill()
        with contextlib.suppress(OSError):
            shutil.rmtree(root)


def _prepare(node: Node) -> None:
    zones = subprocess.run([program("mariadb-tzinfo-to-sql"), "/usr/share/zoneinfo"], capture_output=True, text=True)
    command = [program("mariadb"), "--no-defaults", f"--socket={node.home}/s", "--user=root", "mysql"]
    subprocess.run(command, input=zones.stdout, text=True, check=True, capture_output=True)
    node.ask(
        "CREATE DATABASE ruddy CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;"
        f"CREATE USER 'ruddy'@'{HOST}' IDENTIFIED BY '{USER_WORD}'; GRANT ALL ON ruddy.* TO 'ruddy'@'{HOST}'"
    )


def _until(devices: list[Device], share: float) -> None:
    deadline = time.monotonic() + 180
    while sum(len(device.acknowledged) for device in devices) < DEVICES * EACH * share:
        assert time.monotonic() < deadline, "the devices do not get on"
        time.sleep(0.02)


def _compare(nodes: list[Node], devices: list[Device], instance: Instance) -> None:
    acknowledged = set().union(*(device.acknowledged for device in devices))
    told = nodes[0].ask("SELECT LOWER(HEX(uuid)), uuid FROM ruddy.visits_reading").splitlines()
    stored = [line.split("\t")[1].replace("-", "") for line in told]
    lost = {one.replace("-", "") for one in acknowledged} - set(stored)
    for node in nodes:  # each by itself, not through the proxy
        node.ask("SET SESSION wsrep_sync_wait = 1; SELECT COUNT(*) FROM ruddy.visits_reading")
    found = [_tables(instance, node) for node in nodes]
    differ = {name for one in found[1:] for name in found[0] if one.get(name) != found[0][name]} - set(PERSONAL)
    tries, failed = (sum(getattr(device, of) for device in devices) for of in ("tries", "failed"))
    _say(
        f"acknowledged {len(acknowledged)} of {DEVICES * EACH}, lost {len(lost)}, doubled {len(stored) - len(set(stored))}; "
        f"sends that failed {failed} of {tries}; tables compared {len(found[0])}, different {sorted(differ) or 'none'}"
    )
    if lost or differ or len(acknowledged) < DEVICES * EACH or len(stored) != len(set(stored)):
        raise SystemExit(1)


def _tables(instance: Instance, node: Node) -> dict:
    """What a node holds, asked of it alone."""
    assert instance.config
    said = {section: dict(lines) for section, lines in instance.config.said.items()}
    said["database"]["port"] = node.port
    return tables_of(replace(instance, config=replace(instance.config, said=said)))


def _say(text: str) -> None:
    print(f"{time.strftime('%H:%M:%S')} {text}", flush=True)


if __name__ == "__main__":
    main()
