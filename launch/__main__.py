"""`python -m launch demo | serve | ...`: called by ./ruddy, which lists the commands."""

import argparse
import subprocess
import sys
from pathlib import Path

from launch import backup, config, demo, install, restore, serve, testing, upgrade
from launch.fault import LaunchFault
from launch.instance import PROJECT, Instance

OF_BACKUPS = ("backup", "restore", "drill", "upgrade", "keep-backups")


def main(arguments: list[str]) -> int:
    """Run one command; a fault of the machine is one line on stderr and exit code 1."""
    given = _parser().parse_args(arguments)
    try:
        return _run(given)
    except LaunchFault as fault:
        print(f"ruddy: {fault}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 130


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="ruddy")
    commands = parser.add_subparsers(dest="command", required=True)
    shown = commands.add_parser("demo")
    shown.add_argument("--reset", action="store_true", help="remove the demo's data and start over")
    shown.add_argument("--lan", action="store_true", help="show it to phones in this network too")
    served = commands.add_parser("serve")
    served.add_argument("--config", type=Path, default=config.USUAL)
    served.add_argument("--example", action="store_true", help="print a configuration with every setting")
    managed = commands.add_parser("manage")
    managed.add_argument("--config", type=Path, default=None)
    managed.add_argument("rest", nargs=argparse.REMAINDER)
    installed = commands.add_parser("install")
    installed.add_argument("--config", type=Path, default=config.USUAL)
    installed.add_argument("--to", type=Path, default=Path("/"), help="a root folder to write under")
    installed.add_argument("--proxy", choices=("caddy", "nginx"), default="caddy")
    for name in OF_BACKUPS:
        one = commands.add_parser(name)
        one.add_argument("--config", type=Path, default=None)
        one.add_argument("--passphrase-file", type=Path, default=None)
        if name == "backup":
            one.add_argument("folder", type=Path, nargs="?", default=None)
        if name == "restore":
            one.add_argument("file", type=Path)
            one.add_argument("--again", action="store_true", help="after a restore that was broken off: begin anew")
    commands.add_parser("with-test-database").add_argument("rest", nargs=argparse.REMAINDER)
    return parser


def _run(given: argparse.Namespace) -> int:
    if given.command == "demo":
        return demo.run(given.reset, given.lan)
    if given.command == "serve" and given.example:
        print(config.example())
        return 0
    if given.command == "serve":
        return serve.run(config.read(given.config))
    if given.command == "manage":
        return _manage(given.rest, given.config)
    if given.command == "install":
        install.install(config.read(given.config), given.to, given.proxy)
        return 0
    if given.command in OF_BACKUPS:
        return _of_backups(given)
    return testing.run_with_database(given.rest[1:] if given.rest[:1] == ["--"] else given.rest)


def _of_backups(given: argparse.Namespace) -> int:
    instance = _instance(given.config)
    instance.prepare()
    word, folder = given.passphrase_file, None
    if instance.config:
        named = instance.config.of("backup", "passphrase_file")
        word = word or (Path(named) if named else None)
        folder = Path(instance.config.of("backup", "folder") or ".")
    if given.command == "backup":
        print(backup.make(instance, given.folder or folder or Path("."), word))
    elif given.command == "restore":
        restore.restore(instance, serve.database_of(instance), given.file, word, given.again)
    elif given.command == "drill":
        restore.drill(instance)
    elif given.command == "upgrade":
        upgrade.upgrade(instance, word)
    elif instance.config:
        backup.keep(instance.config, instance)
    return 0


def _instance(path: Path | None) -> Instance:
    """The served instance of a configuration, of the usual one where there is that; else the demo."""
    if path is None and not config.USUAL.exists():
        return Instance.demo()
    return Instance.served(config.read(path or config.USUAL))


def _manage(arguments: list[str], path: Path | None) -> int:
    instance = _instance(path)
    instance.prepare()
    command = [sys.executable, "manage.py", *arguments]
    return subprocess.run(command, cwd=PROJECT, env=instance.environment()).returncode


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
