"""How a form's field is drawn: label, field, what helps, what is wrong - beside it."""

import uuid
from datetime import UTC, datetime

from django.forms.renderers import TemplatesSetting
from django.utils.dateparse import parse_datetime


class SheetRenderer(TemplatesSetting):
    """Every field group in the sheet's own template."""

    field_template_name = "shell/field.html"


def read_uuid(text: str | None) -> uuid.UUID | None:
    """A public id as it came in an address or a form; None when it is none."""
    try:
        return uuid.UUID(text) if text else None
    except ValueError:
        return None


def read_moment(text: str) -> datetime:
    """A device's time as it came, aware; ValueError or TypeError when it is none."""
    moment = parse_datetime(text)
    if moment is None or not 2000 <= moment.year <= 2200:
        raise ValueError("a time must be ISO 8601")
    return moment if moment.tzinfo else moment.replace(tzinfo=UTC)
