"""`./ruddy serve`: an installation for real, by its configuration file. TLS is the proxy's: see `./ruddy install`."""

import os
import subprocess

from launch.config import Config
from launch.database import Database
from launch.elsewhere import TheirDatabase
from launch.fault import LaunchFault
from launch.instance import HOST, PROJECT, Instance
from launch.processes import Process
from launch.restore import need_whole
from launch.statics import gather
from launch.supervisor import PYTHON, Stored, Supervisor, manage, queue, say, web_process

LEAST_POOL_MB = 128
NOW_S, SOON_S = 0, 14 * 86_400
WORKERS_PER_CORE, MOST_WORKERS = 2, 16


def run(config: Config) -> int:
    """Serve until stopped. Returns the exit code."""
    instance = Instance.served(config)
    instance.prepare()
    _check(config)
    need_whole(instance)

    def prepare() -> None:
        manage(instance, "migrate_once")
        gather(instance)
        if instance.has_bucket:
            manage(instance, "check_store")

    def ready() -> None:
        if said := certificate_said(config):
            say(said)
        say(f"Ruddy Draft answers on {HOST}:{instance.web_port} for {', '.join(config.of('', 'hosts'))}.")

    workers = config.of("web", "workers") or min(MOST_WORKERS, WORKERS_PER_CORE * (os.cpu_count() or 1))
    web = web_process(instance, workers, config.of("web", "threads"))
    helpers = queue(instance)
    if config.of("backup", "folder"):
        command = [PYTHON, "-m", "launch", "keep-backups", f"--config={config.path}"]
        helpers += (Process("backups", command, PROJECT, instance.environment(), None),)
    return Supervisor(instance, database_of(instance), web, helpers).run(prepare, ready)


def database_of(instance: Instance) -> Stored:
    """The database that the configuration names: its own, sized by the machine's memory, or one that is there."""
    config = instance.config
    if config is None:
        return Database(instance)
    if config.of("database", "host"):
        return TheirDatabase(instance)
    pool_mb = max(LEAST_POOL_MB, _memory_mb() * config.of("database", "memory_percent") // 100)
    return Database(instance, (f"--innodb-buffer-pool-size={pool_mb}M", "--max-connections=300"))


def certificate_said(config: Config) -> str:
    """What is to be said of the proxy's certificate: that it has run out, or soon will; '' where it is good, or where
    this user may not read it.
    """
    path = config.of("proxy", "certificate")
    if not path or not os.access(path, os.R_OK):
        return ""
    asks = ["openssl", "x509", "-noout", "-in", path, "-checkend"]
    for seconds, said in ((NOW_S, "has run out: browsers refuse it"), (SOON_S, "runs out within two weeks")):
        if subprocess.run([*asks, str(seconds)], capture_output=True).returncode:
            return f"The certificate {path} {said}. Put a new one there and reload the proxy."
    return ""


def _memory_mb() -> int:
    return os.sysconf("SC_PAGE_SIZE") * os.sysconf("SC_PHYS_PAGES") // 2**20


def _check(config: Config) -> None:
    """What is wrong with a configuration beyond its form; raises LaunchFault."""
    if config.of("database", "memory_percent") > 80:
        raise LaunchFault(f"{config.path}: database.memory_percent is over 80: the rest needs some memory too.")
    pages = config.of("", "host_pages")
    if pages and (not pages.endswith("/") or pages.startswith("/") or len(pages) < 6):
        raise LaunchFault(f"{config.path}: host_pages is '{pages}': a name hard to guess that ends with a slash.")
    if config.of("mail", "host") and "@" not in config.of("mail", "sender"):
        raise LaunchFault(f"{config.path}: mail.sender is missing: the address that letters come from.")
    if config.of("photos", "bucket") and not (config.of("photos", "key_id") and config.secret("photos", "secret_file")):
        raise LaunchFault(f"{config.path}: photos.bucket needs photos.key_id and photos.secret_file.")
    endpoint = config.of("photos", "endpoint")
    if endpoint and not endpoint.startswith(("https://", "http://")):
        raise LaunchFault(f"{config.path}: photos.endpoint is '{endpoint}'; it begins with https://.")
    if any("/" in host or ":" in host for host in config.of("", "hosts")):
        raise LaunchFault(f"{config.path}: hosts are names alone, without https:// and port.")
