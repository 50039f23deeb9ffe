"""The one way to take rows away that nobody else may delete."""

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
