"""A cluster on this machine: three database nodes (Galera), HAProxy in front of them, two web nodes, their photos in a
bucket. Devices write through both while a database node and a web node are killed and come back; then a gateway's
batches go to two database nodes at once, which no proxy of ours would do, so that they contradict each other. Shows that
nothing is lost or doubled and that all nodes hold the same; it says nothing of how much a cluster carries, since all
share these cores.

Run: .venv/bin/python -m tools.cluster_trial (with Debian's mariadb-server, galera-4, rsync and haproxy)
"""

import contextlib
import http.client
import http.server
import io
import logging
import os
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
import time
import uuid
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path

import boto3
from moto.server import ThreadedMotoServer
from PIL import Image

from benchmarks.devices import DEVICES, EACH, NAME, Device, make_trial, page, send_batch
from launch.config import read
from launch.database import program
from launch.dump import tables_of
from launch.instance import HOST, PROJECT, Instance, free_port

NODES, USER_WORD, BUCKET, PHOTOS, BATCHES = 3, "trial-word", "trial", 30, 120
JPEG = b"\xff\xd8"
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

    def __init__(self, root: Path, number: int, database: int, store: str):
        self.folder, self.port = root / f"web{number}", free_port()
        self.folder.mkdir()
        word = self.folder / "word"
        word.write_text(USER_WORD)
        word.chmod(0o600)
        self.config = self.folder / "ruddy.toml"
        self._word, self._store = word, store
        self.use(database)

    def use(self, database: int) -> None:
        """Name the database in the configuration: the proxy's port, or a node's."""
        self.config.write_text(
            f'hosts = ["{NAME}"]\nfolder = "{self.folder}/data"\n[web]\nport = {self.port}\nworkers = 2\n'
            f'[database]\nhost = "{HOST}"\nport = {database}\npassword_file = "{self._word}"\n'
            f'[photos]\nbucket = "{BUCKET}"\nendpoint = "{self._store}"\nregion = "us-east-1"\nkey_id = "trial"\n'
            f'secret_file = "{self._word}"\n'
        )
        self.instance = Instance.served(read(self.config))

    def start(self) -> None:
        said = (self.folder / "said").open("a")
        command = [sys.executable, "-u", "-m", "launch", "serve", "--config", str(self.config)]
        self.process = subprocess.Popen(command, cwd=PROJECT, stdout=said, stderr=said, start_new_session=True)
        while page(self.port)[0] != 200:
            assert self.process.poll() is None, (self.folder / "said").read_text()[-2000:]
            time.sleep(0.2)

    def stop(self) -> None:
        self.process.terminate()
        self.process.wait(60)


class Photographer(Device):
    """A device that sends photos through one web node after the other, each again until it is kept."""

    def __init__(self, visit: str, webs: list[Web]):
        super().__init__("", webs[0].port)
        self.visit, self.webs, self.kept = visit, webs, set[str]()

    def run(self) -> None:
        for n in range(PHOTOS):
            number, picture = str(uuid.uuid4()), _picture(n)
            while number not in self.kept:
                self.tries += 1
                self.port = self.webs[self.tries % len(self.webs)].port
                with contextlib.suppress(OSError, http.client.HTTPException, KeyError):
                    if self._sent(number, picture):
                        self.kept.add(number)
                time.sleep(0.3)

    def _sent(self, number: str, picture: bytes) -> bool:
        parts = [f'--x\r\nContent-Disposition: form-data; name="{name}"\r\n\r\n{value}\r\n'.encode()
                 for name, value in (("id", number), ("subject", "coil"))]  # fmt: skip
        file = b'--x\r\nContent-Disposition: form-data; name="file"; filename="a.jpg"\r\n\r\n'
        body = b"".join((*parts, file, picture, b"\r\n--x--\r\n"))
        status, _ = self._ask("POST", f"/visits/{self.visit}/1/photos/", body, "multipart/form-data; boundary=x")
        if status in (302, 401, 403):
            self._sign_in()
        return status == 200

    def seen(self, number: str) -> bytes:
        """A photo as the web node that is asked now shows it."""
        line = http.client.HTTPConnection(HOST, self.port, timeout=30)
        headers = {"Host": NAME, "X-Forwarded-Proto": "https", "Cookie": self.cookies}
        line.request("GET", f"/visits/photos/{number}/full/", headers=headers)
        return line.getresponse().read()


def _picture(n: int) -> bytes:
    drawn = io.BytesIO()
    Image.new("RGB", (400, 300), (n, 80, 200 - n)).save(drawn, "JPEG")
    return drawn.getvalue()


class Van(threading.Thread):
    """A gateway that sends each batch again until all of it is acknowledged."""

    def __init__(self, port: int, first: int):
        super().__init__(daemon=True)
        self.port, self.first, self.acknowledged, self.tries = port, first, set[int](), 0

    def run(self) -> None:
        for n in range(self.first, self.first + BATCHES):
            sample = {"probe": "clamp", "channel": "temperature", "unit": "degF", "value": 80.0, "sequence": n}
            batch = [sample | {"taken_at": datetime.now(UTC).isoformat()}]
            while n not in self.acknowledged:
                self.tries += 1
                if [one["status"] for one in send_batch(self.port, batch)] in (["stored"], ["duplicate"]):
                    self.acknowledged.add(n)
            time.sleep(0.28)  # a gateway may send six a second


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
        logging.getLogger("werkzeug").setLevel(logging.ERROR)  # it tells each request
        store = ThreadedMotoServer(HOST, 0, verbose=False)
        store.start()
        at = f"http://{HOST}:{store.get_host_and_port()[1]}"
        boto3.client(
            "s3", endpoint_url=at, region_name="us-east-1", aws_access_key_id="x", aws_secret_access_key="x"
        ).create_bucket(Bucket=BUCKET)
        webs = [Web(root, number + 1, port, at) for number in range(2)]
        webs[0].start()
        shutil.copytree(webs[0].folder / "data", webs[1].folder / "data", ignore=shutil.ignore_patterns("*.lock"))
        webs[1].start()  # with the same key that signs sessions
        _say("2 web nodes")
        rounds = make_trial(webs[0].instance)
        devices = [Device(rounds[n][0], webs[n % 2].port) for n in range(DEVICES)]
        photographer = Photographer(rounds[0][1], webs)
        for device in (*devices, photographer):
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
        for device in (*devices, photographer):
            device.join(180)
        _compare_photos(photographer)
        _contradict(nodes, webs)
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


def _compare_photos(photographer: Photographer) -> None:
    """Both web nodes show each photo, the same."""
    shown = []
    for web in photographer.webs:
        photographer.port = web.port
        shown.append([photographer.seen(number) for number in photographer.kept])
    same = sum(one == other and one.startswith(JPEG) for one, other in zip(*shown, strict=True))
    _say(
        f"photos kept {len(photographer.kept)} of {PHOTOS}, shown alike by both web nodes {same}; sends that failed "
        f"{photographer.tries - PHOTOS} of {photographer.tries}"
    )
    if same < PHOTOS:
        raise SystemExit(1)


def _contradict(nodes: list[Node], webs: list[Web]) -> None:
    """Batches of one gateway to two database nodes at once: what one commits the other has to break off and do again."""
    for web, node in zip(webs, nodes[:2], strict=True):
        web.stop()
        web.use(node.port)
        web.start()
    before = sum(_contradicted(node) for node in nodes)
    vans = [Van(webs[n].port, n * BATCHES) for n in range(2)]
    for van in vans:
        van.start()
    for van in vans:
        van.join(180)
    broken_off = sum(_contradicted(node) for node in nodes) - before
    stored = nodes[2].ask("SET SESSION wsrep_sync_wait = 1; SELECT sequence FROM ruddy.probes_sample").split()
    acknowledged = set().union(*(van.acknowledged for van in vans))
    lost = acknowledged - set(map(int, stored))
    tries = sum(van.tries for van in vans)
    _say(
        f"two nodes written to at once: {broken_off} writes broken off by the other node, {tries} sends for "
        f"{len(acknowledged)} of {2 * BATCHES} batches, lost {len(lost)}, doubled {len(stored) - len(set(stored))}"
    )
    if lost or len(acknowledged) < 2 * BATCHES or len(stored) != len(set(stored)):
        raise SystemExit(1)


def _contradicted(node: Node) -> int:
    """How many transactions a node broke off, because another node had committed what contradicts them."""
    told = node.ask("SHOW STATUS WHERE Variable_name IN ('wsrep_local_cert_failures', 'wsrep_local_bf_aborts')")
    return sum(int(line.split()[-1]) for line in told.splitlines())


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
