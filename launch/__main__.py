"""`python -m launch demo [--reset] | manage ARGS | with-test-database -- COMMAND`: called by ./ruddy."""

import argparse
import subprocess
import sys

from launch import demo, testing
from launch.fault import LaunchFault
from launch.instance import PROJECT, Instance


def main(arguments: list[str]) -> int:
    """Run one command; a fault of the machine is one line on stderr and exit code 1."""
    parser = argparse.ArgumentParser(prog="ruddy")
    commands = parser.add_subparsers(dest="command", required=True)
    serve = commands.add_parser("demo")
    serve.add_argument("--reset", action="store_true", help="remove the demo's data and start over")
    commands.add_parser("manage").add_argument("rest", nargs=argparse.REMAINDER)
    commands.add_parser("with-test-database").add_argument("rest", nargs=argparse.REMAINDER)
    given = parser.parse_args(arguments)
    try:
        if given.command == "demo":
            return demo.run(given.reset)
        if given.command == "manage":
            return _manage(given.rest)
        return testing.run_with_database(given.rest[1:] if given.rest[:1] == ["--"] else given.rest)
    except LaunchFault as fault:
        print(f"ruddy: {fault}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 130


def _manage(arguments: list[str]) -> int:
    instance = Instance.demo()
    instance.prepare()
    command = [sys.executable, "manage.py", *arguments]
    return subprocess.run(command, cwd=PROJECT, env=instance.environment(demo.SETTINGS)).returncode


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
