"""A throw-away database for a command: made, used, stopped, removed."""

import os
import shutil
import subprocess
from pathlib import Path

from launch.database import TEST_OPTIONS, Database
from launch.instance import PROJECT, Instance
from launch.processes import ends_with


def run_with_database(command: list[str]) -> int:
    """Run a command with a fresh database of its own; its exit code is ours."""
    instance = Instance.test()
    instance.prepare()
    _sweep(instance.home.parent)
    database = Database(instance, TEST_OPTIONS)
    try:
        database.start()
        return subprocess.run(
            command, cwd=PROJECT, env=instance.environment(), preexec_fn=ends_with(os.getpid())
        ).returncode
    finally:
        database.stop()
        shutil.rmtree(instance.home, ignore_errors=True)


def _sweep(folder: Path) -> None:
    """Take away what tests left that were killed: their databases ended with them."""
    for left in folder.glob("test-*"):
        if not Path(f"/proc/{left.name.removeprefix('test-')}").exists():
            shutil.rmtree(left, ignore_errors=True)
