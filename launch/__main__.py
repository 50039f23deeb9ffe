"""`python -m launch demo | serve | ...`: called by ./ruddy, which lists the commands."""

import argparse
import subprocess
import sys
from pathlib import Path

from launch import config, demo, serve, testing
from launch.fault import LaunchFault
from launch.instance import PROJECT, Instance


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
    served = commands.add_parser("serve")
    served.add_argument("--config", type=Path, default=config.USUAL)
    served.add_argument("--example", action="store_true", help="print a configuration with every setting")
    managed = commands.add_parser("manage")
    managed.add_argument("--config", type=Path, default=None)
    managed.add_argument("rest", nargs=argparse.REMAINDER)
    commands.add_parser("with-test-database").add_argument("rest", nargs=argparse.REMAINDER)
    return parser


def _run(given: argparse.Namespace) -> int:
    if given.command == "demo":
        return demo.run(given.reset)
    if given.command == "serve" and given.example:
        print(config.example())
        return 0
    if given.command == "serve":
        return serve.run(config.read(given.config))
    if given.command == "manage":
        return _manage(given.rest, given.config)
    return testing.run_with_database(given.rest[1:] if given.rest[:1] == ["--"] else given.rest)


def _manage(arguments: list[str], path: Path | None) -> int:
    instance = Instance.served(config.read(path)) if path else Instance.demo()
    instance.prepare()
    command = [sys.executable, "manage.py", *arguments]
    return subprocess.run(command, cwd=PROJECT, env=instance.environment()).returncode


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
