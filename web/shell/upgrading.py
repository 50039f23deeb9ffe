"""Bringing the tables up to the code, once, however many machines start at the same time; and refusing to run code that
is older than the data.
"""

import secrets
import time
from collections.abc import Callable

from django.db import connection
from django.db.migrations.executor import MigrationExecutor

LASTS_S = 900  # of a lock whose holder was killed
ASKED_EVERY_S = 1.0
LOCK = "ruddy_upgrade_lock"
_known_to_fit: list[bool] = []


class CodeIsOlder(Exception):
    """The tables were made by a newer version: which steps this one does not know."""


def unknown_steps() -> list[str]:
    """Steps that were done to the tables and that this code does not know."""
    loader = MigrationExecutor(connection).loader
    own = {app for app, _ in loader.disk_migrations}
    applied = [(app, name) for app, name in loader.applied_migrations if app in own]
    return sorted(f"{app}.{name}" for app, name in applied if _is_unknown(loader, app, name))


def steps_to_do() -> list[str]:
    """Steps that this code wants and that were not done yet."""
    executor = MigrationExecutor(connection)
    return [f"{step.app_label}.{step.name}" for step, _ in executor.migration_plan(executor.loader.graph.leaf_nodes())]


def tables_fit() -> bool:
    """Whether the tables are this code's. Once they are, a process asks no more: new code comes with a new process."""
    if not _known_to_fit:
        if unknown_steps() or steps_to_do():
            return False
        _known_to_fit.append(True)
    return True


def need_known() -> None:
    """Raise CodeIsOlder where a newer version has been here."""
    if unknown := unknown_steps():
        raise CodeIsOlder(", ".join(unknown[:3]) + (" and more" if len(unknown) > 3 else ""))


def once(do: Callable[[], None], lasts_s: float = LASTS_S) -> None:
    """Do something that only one machine may do at a time: the others wait until it is done, or until the lock of one
    that was killed has run out. The lock is a row, so that it holds on a cluster too.
    """
    holder = secrets.token_hex(8)
    with connection.cursor() as cursor:
        columns = "id TINYINT PRIMARY KEY, holder VARCHAR(16) NOT NULL, until DOUBLE NOT NULL"
        cursor.execute(f"CREATE TABLE IF NOT EXISTS {LOCK} ({columns})")
        cursor.execute(f"INSERT IGNORE INTO {LOCK} VALUES (1, '', 0)")
        while not _taken(cursor, holder, lasts_s):
            time.sleep(ASKED_EVERY_S)
    try:
        do()
    finally:
        with connection.cursor() as cursor:
            cursor.execute(f"UPDATE {LOCK} SET holder = '', until = 0 WHERE id = 1 AND holder = %s", [holder])


def _taken(cursor, holder: str, lasts_s: float) -> bool:
    now = "UNIX_TIMESTAMP(NOW(6))"  # the database's clock: machines differ
    free = f"id = 1 AND (holder = '' OR until < {now})"
    return cursor.execute(f"UPDATE {LOCK} SET holder = %s, until = {now} + %s WHERE {free}", [holder, lasts_s]) == 1


def _is_unknown(loader, app: str, name: str) -> bool:
    replaced = {step for migration in loader.disk_migrations.values() for step in migration.replaces}
    return (app, name) not in loader.disk_migrations and (app, name) not in replaced
