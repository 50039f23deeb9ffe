"""The files that browsers load, gathered and compressed beside the data: again where they changed, as it takes time."""

import hashlib
from pathlib import Path

from launch.instance import PROJECT, Instance
from launch.supervisor import manage

OURS = PROJECT / "web" / "static"
LOCK = PROJECT / "requirements" / "run.lock"  # other packages bring their own
STAMP = "gathered"


def gather(instance: Instance) -> None:
    """Gather them where they are not those that were gathered last; raises LaunchFault."""
    stamp, now = instance.home / "static" / STAMP, _as_they_are()
    if stamp.exists() and stamp.read_text() == now:
        return
    manage(instance, "collectstatic", "--noinput", "--verbosity=0")
    stamp.write_text(now)


def _as_they_are() -> str:
    """A sum that changes with any of them."""
    total = hashlib.sha256(LOCK.read_bytes())
    for path in sorted(OURS.rglob("*")):
        total.update(_told(path))
    return total.hexdigest()


def _told(path: Path) -> bytes:
    return str(path.relative_to(OURS)).encode() + (path.read_bytes() if path.is_file() else b"")
