"""A system check for what MariaDB gets wrong silently."""

from django.core.checks import Error, Tags, register
from django.db import connections


@register(Tags.database)
def time_zones_are_loaded(app_configs, databases, **kwargs):
    """Without MariaDB's time-zone tables date filters match nothing and say nothing."""
    found = []
    for alias in databases or []:
        with connections[alias].cursor() as cursor:
            cursor.execute("SELECT CONVERT_TZ('2026-07-01 12:00:00', 'UTC', 'America/Denver')")
            if cursor.fetchone()[0] is None:
                hint = "Load them: mariadb-tzinfo-to-sql /usr/share/zoneinfo | mariadb mysql"
                found.append(Error("MariaDB has no time-zone tables.", hint=hint, id="shell.E001"))
    return found
