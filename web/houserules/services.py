"""Changing the house rules: leads only, a new version each time."""

from django.db import IntegrityError, transaction

from web.accounts.access import need
from web.accounts.rights import RULES
from web.houserules import bridge
from web.houserules.models import Choices


class Overtaken(Exception):
    """Somebody else chose meanwhile."""


def current(shop) -> Choices | None:
    """The version in force, or None while everything is at its default."""
    return Choices.objects.filter(shop=shop).order_by("-number").first() if shop else None


def rules_of(shop) -> bridge.HouseRules:
    """The house rules in force for a shop."""
    found = current(shop)
    return bridge.rules_from(found.choices, found.number) if found else bridge.rules_from({}, 0)


def tried(shop, rule_id: str, text: str) -> bridge.HouseRules:
    """The rules in force with one alternative tried; nothing is kept. Raises bridge.UnknownChoice."""
    found = current(shop)
    return bridge.rules_from(
        {**(found.choices if found else {}), rule_id: bridge.read_choice(rule_id, text)}, found.number if found else 0
    )


def change(actor, rule_id: str, value, seen_version: int) -> Choices:
    """Choose one alternative. seen_version: the version the person looked at; Overtaken when another came meanwhile."""
    need(actor, RULES, actor.shop_id)
    with transaction.atomic():
        found = current(actor.shop)
        if (found.number if found else 0) != seen_version:
            raise Overtaken
        choices = bridge.differing({**(found.choices if found else {}), rule_id: value})
        try:
            return Choices.objects.create(shop=actor.shop, number=seen_version + 1, choices=choices, chosen_by=actor)
        except IntegrityError as error:
            raise Overtaken from error
