"""The one way to take away, or to say less of, rows that nobody else may delete or change."""

from django.db import models, transaction

from web.retention.models import Removal


@transaction.atomic
def remove(rows: models.QuerySet, why: str, actor=None) -> int:
    """Delete rows of a table that is kept, with a record of who, what and why; how many went. actor: None for the
    scheduled thinning.
    """
    went, _ = models.QuerySet.delete(rows)
    if went:
        Removal.objects.create(person=actor, table=rows.model._meta.db_table, rows=went, why=why)
    return went


@transaction.atomic
def rewrite(rows: models.QuerySet, says: dict, why: str, actor=None) -> int:
    """Let rows of a table that is kept say something else, with the same record; how many. says: by column."""
    changed = models.QuerySet.update(rows, **says)
    if changed:
        Removal.objects.create(person=actor, table=rows.model._meta.db_table, rows=changed, why=why)
    return changed
