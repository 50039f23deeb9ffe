"""`./ruddy demo`: database, migrations, demo data, web server; one Ctrl-C stops it all cleanly."""

import os
import shutil
from dataclasses import replace

from launch import lan
from launch.database import Database
from launch.instance import HOST, PROJECT, Instance
from launch.processes import Process
from launch.statics import gather
from launch.supervisor import PYTHON, Supervisor, manage, only_one, queue, say, web_process

WORKERS, THREADS = 2, 4


def run(reset: bool, on_lan: bool = False) -> int:
    """Serve the demo until stopped; on_lan: to phones in the same network too. Returns the exit code."""
    instance = Instance.demo()
    if on_lan:
        instance = replace(instance, lan=lan.address())
    instance.prepare()
    database = Database(instance)
    if reset:
        _reset(instance, database)

    def prepare() -> None:
        manage(instance, "bring_up_demo")
        gather(instance)

    def ready() -> None:
        say(f"Ruddy Draft is at http://{HOST}:{instance.web_port}/   (Ctrl-C stops it)")
        if instance.lan:
            at = f"{instance.public_address}/"
            say(f"In this network it is at {at}: its certificate is its own, so a phone asks once.")
            manage(instance, "show_code", at)
        manage(instance, "demo_sign_ins")

    web = web_process(instance, WORKERS, THREADS)
    helpers = (_gateway(instance), *queue(instance), *([lan.process(instance)] if instance.lan else []))
    return Supervisor(instance, database, web, helpers).run(prepare, ready)


def _reset(instance: Instance, database: Database) -> None:
    only_one(instance).close()
    database.stop()
    shutil.rmtree(database.data, ignore_errors=True)
    shutil.rmtree(instance.home / "media", ignore_errors=True)
    (instance.home / "secrets.env").unlink(missing_ok=True)
    say("Starting over: the demo's data was removed.")


def _gateway(instance: Instance) -> Process:
    """The simulated gateway, a process of its own that knows the address and its token and nothing else."""
    environment = {name: value for name, value in os.environ.items() if not name.startswith("RUDDY_")} | {
        "RUDDY_GATEWAY_TOKEN": instance.secrets()["RUDDY_GATEWAY_TOKEN"]
    }
    command = [PYTHON, "-m", "plant.gateway", f"--url=http://{HOST}:{instance.web_port}/probes/samples/"]
    return Process("gateway", command, PROJECT, environment, instance.home / "gateway.log")
