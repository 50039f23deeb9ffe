"""`./ruddy upgrade`: after new code has come, the tables and the running processes take it up, with a way back."""

import http.client
import os
import signal
import time
from pathlib import Path

from launch import backup
from launch.fault import LaunchFault
from launch.instance import HOST, Instance
from launch.statics import gather
from launch.supervisor import holder, manage, say

READY_WITHIN_S = 120


def upgrade(instance: Instance, passphrase: Path | None) -> None:
    """Back up, bring the tables up, let the running processes take up the code. Raises LaunchFault where the code is
    older than the tables, or where it does not get ready.
    """
    running = holder(instance)
    if running is None:
        raise LaunchFault(f"Nothing runs from {instance.home}: its next start brings the tables up by itself.")
    folder = instance.config.of("backup", "folder") if instance.config else ""
    kept = backup.make(instance, Path(folder) if folder else instance.home / "before-upgrades", passphrase)
    say(f"Backup of before: {kept}")
    manage(instance, "migrate_once")  # additive: the code that runs still goes on
    gather(instance)
    os.kill(running, signal.SIGUSR1)
    deadline = time.monotonic() + READY_WITHIN_S
    while not is_ready(instance):
        if time.monotonic() > deadline:
            raise LaunchFault(f"It is not ready after {READY_WITHIN_S} s: see its log. The way back: {kept}")
        time.sleep(0.5)
    say(f"Upgraded to {backup.version()}. The way back: the code of before, and ./ruddy restore {kept}")


def is_ready(instance: Instance) -> bool:
    """Whether the running web server says that it is ready."""
    name = instance.config.of("", "hosts")[0] if instance.config else HOST
    line = http.client.HTTPConnection(HOST, instance.web_port, timeout=10)
    try:
        line.request("GET", "/-/ready/", headers={"Host": name})
        return line.getresponse().status == 200
    except OSError:
        return False
    finally:
        line.close()
