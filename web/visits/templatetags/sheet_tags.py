"""What the sheet's templates look up by name."""

from django import template

from web.visits.bridge import QUANTITIES

register = template.Library()


@register.filter
def slot(field):
    """The slot a field's readings fill."""
    return QUANTITIES[field.quantity].slot


@register.filter
def engine_unit(field):
    """The unit a field is typed in unless said otherwise."""
    return QUANTITIES[field.quantity].unit


@register.simple_tag
def choice_of(sheet, place, name):
    """The value of a select."""
    return sheet.choices.get(f"{place}.{name}", "")


@register.simple_tag
def observed(sheet, name):
    """The degree seen, or ''."""
    return sheet.observations.get(name, "")


@register.simple_tag
def observation_id(sheet, name):
    """The stored observation's id, or ''."""
    return sheet.observation_ids.get(name, "")
