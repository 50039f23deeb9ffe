"""How a form's field is drawn: label, field, what helps, what is wrong - beside it."""

import unicodedata
import uuid
from datetime import UTC, datetime

from django.forms.renderers import TemplatesSetting
from django.utils.dateparse import parse_datetime

INVISIBLE = {"Cc", "Cf", "Mn", "Zl", "Zp", "Zs"}  # kinds of characters of which nothing is seen by itself


class SheetRenderer(TemplatesSetting):
    """Every field group in the sheet's own template."""

    field_template_name = "shell/field.html"


def read_uuid(text: str | None) -> uuid.UUID | None:
    """A public id as it came in an address or a form; None when it is none."""
    try:
        return uuid.UUID(text) if text else None
    except ValueError:
        return None


NEVER = datetime.min.replace(tzinfo=UTC)  # the time of what could not be read


def read_moment(text: str) -> datetime:
    """A device's time as it came, aware; ValueError or TypeError when it is none. A clock that was never set is a time
    too: it is corrected later.
    """
    moment = parse_datetime(text)
    if moment is None or not 1900 <= moment.year <= 2500:
        raise ValueError("a time must be ISO 8601")
    return moment if moment.tzinfo else moment.replace(tzinfo=UTC)


def read_text(raw: dict, key: str, longest: int, needed: bool = False) -> str:
    """Text of a JSON object; '' where it is not there and not needed.

    ValueError for what a table or a page could not hold: another type, too long, half a character, control characters,
    nothing that shows.
    """
    text = raw[key] if needed else raw.get(key, "")
    if not isinstance(text, str) or len(text) > longest or (needed and not text):
        raise ValueError(f"{key} must be text of at most {longest} characters")
    kinds = {unicodedata.category(letter) for letter in text}
    if "Cs" in kinds or any(letter not in "\n\t" and unicodedata.category(letter) == "Cc" for letter in text):
        raise ValueError(f"{key} holds a broken character")
    if text and kinds <= INVISIBLE:
        raise ValueError(f"{key} shows nothing")
    return text
