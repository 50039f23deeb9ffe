"""What a form keeps once: the page gives it a number, so that sending it twice keeps one."""

import uuid
from collections.abc import Callable, Sequence
from typing import TypeVar, cast

from django import forms
from django.db import IntegrityError, models, transaction
from django.http import QueryDict

Row = TypeVar("Row", bound=models.Model)


class NumberUsed(ValueError):
    """A form's number is of something else. kept: what it has kept already, where the person may see that."""

    def __init__(self, kept: models.Model | None):
        super().__init__("that number is of something else")
        self.kept = kept


class NumberedForm(forms.Form):
    """A form whose page gave it a number."""

    number = forms.UUIDField(required=False, initial=uuid.uuid4, widget=forms.HiddenInput)

    def used_already(self, error: NumberUsed, what: str) -> None:
        """Say that the page has kept something else already, and give it a new number:
        kept again, it is another one.
        """
        said = f"This page has kept {error.kept} already." if error.kept else "This page's number is taken."
        self.add_error(None, f"{said} To keep this as another {what}, press Keep again.")
        data = cast(QueryDict, self.data).copy()
        data["number"] = str(uuid.uuid4())
        self.data = data


def keep_once(
    seen: models.QuerySet[Row], number: uuid.UUID | None, row: Row, says: Sequence[str], save: Callable[[], object]
) -> Row:
    """The new row, saved by `save` under the number; or the row that the number has kept already, where that says the
    same.

    seen: the rows the person may see. says: the columns by which two are the same. Raises NumberUsed where the number
    is of something else.
    """
    if number is None:
        save()
        return row
    found = seen.filter(public_id=number).first()
    if found is None:
        row.public_id = number  # type: ignore[attr-defined]  # each of those kept so has one
        try:
            with transaction.atomic():
                save()
            return row
        except IntegrityError:  # sent twice at once, or the number of something the person may not see
            found = seen.filter(public_id=number).first()
    if found is None or any(getattr(found, name) != getattr(row, name) for name in says):
        raise NumberUsed(found)
    return found
