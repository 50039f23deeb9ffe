"""The files that browsers load, gathered and compressed beside the data: again where they changed, as it takes time."""

import hashlib

from launch.instance import PROJECT, Instance
from launch.supervisor import manage

OURS = PROJECT / "web" / "static"
SAY_WHAT = (PROJECT / "requirements" / "run.lock", PROJECT / "web" / "settings" / "base.py")  # apps bring their own
STAMP = "gathered"
# What the host's pages never ask for, as they load the small ones: compressing these took half the time.
LEFT_OUT = ("jquery.js", "select2.full.js", "xregexp.js")


def gather(instance: Instance) -> None:
    """Gather them where they are not those that were gathered last; raises LaunchFault."""
    stamp, now = instance.home / "static" / STAMP, _as_they_are()
    if stamp.exists() and stamp.read_text() == now:
        return
    manage(instance, "collectstatic", "--noinput", "--verbosity=0", *(f"--ignore={name}" for name in LEFT_OUT))
    stamp.write_text(now)


def _as_they_are() -> str:
    """A sum that changes with any of them."""
    total = hashlib.sha256()
    for path in (*SAY_WHAT, *sorted(path for path in OURS.rglob("*") if path.is_file())):
        total.update(str(path.relative_to(PROJECT)).encode() + path.read_bytes())
    return total.hexdigest()
