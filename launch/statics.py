"""The files that browsers load, gathered and compressed beside the data: again where they changed, as it takes time."""

import hashlib

from launch.instance import PROJECT, Instance
from launch.supervisor import manage

OURS = PROJECT / "web" / "static"
SAY_WHAT = (PROJECT / "requirements" / "run.lock", PROJECT / "web" / "settings" / "base.py")  # apps bring their own
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
    total = hashlib.sha256()
    for path in (*SAY_WHAT, *sorted(path for path in OURS.rglob("*") if path.is_file())):
        total.update(str(path.relative_to(PROJECT)).encode() + path.read_bytes())
    return total.hexdigest()
