"""A figure and its unit stay on one line."""

import re

from django import template

register = template.Library()
BEFORE_A_UNIT = re.compile(r"(?<=\d) (?=%|±|°|in\.|CFM|BTU|[AWV]\b)|(?<=±) (?=\d)|(?<=in\.) (?=w\.c\.)")


@register.filter
def unbroken(text: str) -> str:
    """'99 %' with a space that no line breaks at."""
    return BEFORE_A_UNIT.sub("\u00a0", text)
