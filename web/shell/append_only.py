"""Rows that are never changed or deleted: a correction is a new row. web.retention alone takes some away, and keeps
who, what and why.
"""

from django.db import models


class AppendOnlyError(Exception):
    """Somebody tried to change or delete what is kept."""


def _kept(rows):
    raise AppendOnlyError(f"rows of {rows.model.__name__} are kept; web.retention alone removes some")


class KeptQuerySet(models.QuerySet):
    """Rows that nobody deletes."""

    delete = _kept


class AppendOnlyQuerySet(models.QuerySet):
    """Rows that nobody deletes or changes."""

    delete = _kept

    def update(self, **changes):
        raise AppendOnlyError(f"rows of {self.model.__name__} are never changed; store a new one")

    def bulk_update(self, objs, fields, batch_size=None):
        raise AppendOnlyError(f"rows of {self.model.__name__} are never changed; store a new one")

    def bulk_create(self, objs, *args, update_conflicts=False, **more):
        if update_conflicts:
            raise AppendOnlyError(f"rows of {self.model.__name__} are never changed; store a new one")
        return super().bulk_create(objs, *args, **more)


class AppendOnly(models.Model):
    """A row that is stored once."""

    objects = AppendOnlyQuerySet.as_manager()

    class Meta:
        abstract = True

    def save(self, *args, **kwargs):
        if self.pk:
            raise AppendOnlyError(f"a row of {type(self).__name__} is never changed; store a new one")
        super().save(*args, **kwargs)

    def delete(self, *args, **kwargs):
        raise AppendOnlyError(f"a row of {type(self).__name__} is never deleted")
