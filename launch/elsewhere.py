"""A MariaDB that is there already: asked whether it can be used, never started or stopped."""

import os
import subprocess

from launch.database import program
from launch.fault import LaunchFault
from launch.instance import Instance

REMEDIES = {
    "Access denied": "is the password in database.password_file right, and may database.user use it from here?",
    "Unknown database": "make it: CREATE DATABASE name CHARACTER SET utf8mb4",
    "Unknown MySQL server host": "is database.host spelt right?",
    "Can't connect": "is it running, and does it listen on database.host and database.port?",
}


class TheirDatabase:
    """The database server that an installation shares with others."""

    def __init__(self, instance: Instance):
        self.instance = instance

    def start(self) -> list[str]:
        """See that it answers as it should; raises LaunchFault with a remedy."""
        said = self._ask("SELECT @@version, CONVERT_TZ('2026-07-01 12:00:00', 'UTC', 'America/Denver') IS NULL")
        if said.split()[-1] == "1":
            raise LaunchFault(
                "The database has no time zones, so that dates would be wrong: "
                "mariadb-tzinfo-to-sql /usr/share/zoneinfo | mariadb mysql"
            )
        return [f"The database is MariaDB {said.split()[0]} on {self.instance.environment()['RUDDY_DB_HOST']}."]

    def stop(self) -> None:
        """It is not ours to stop."""

    def is_running(self) -> bool:
        """It is looked after by whoever runs it; its pages say when it is away."""
        return True

    def _ask(self, sql: str) -> str:
        asks, env = client(self.instance)
        done = subprocess.run([*asks, "-N", "-e", sql], env=env, capture_output=True, text=True, timeout=30)
        if done.returncode:
            said = (done.stderr.strip() or "no message").splitlines()[-1]
            remedy = next((how for sign, how in REMEDIES.items() if sign in said), "see the message")
            raise LaunchFault(f"The database cannot be used: {said}: {remedy}")
        return done.stdout


def client(instance: Instance, tool: str = "mariadb", *options: str) -> tuple[list[str], dict[str, str]]:
    """The command line with which a client of MariaDB asks the instance's database, and its environment: the password
    is seen by nobody who lists processes.
    """
    told = instance.environment()
    name, user = told.get("RUDDY_DB_NAME", "ruddy"), told.get("RUDDY_DB_USER", "ruddy")
    where = [f"--host={told['RUDDY_DB_HOST']}", f"--port={told['RUDDY_DB_PORT']}", "--protocol=tcp", f"--user={user}"]
    environment = {**os.environ, "MYSQL_PWD": told["RUDDY_DB_PASSWORD"]}
    where.append("--default-character-set=utf8mb4")
    return [program(tool), "--no-defaults", *where, *options, name], environment
