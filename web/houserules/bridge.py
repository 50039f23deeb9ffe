"""The engine's house rules as the page shows them, and a shop's choices as the engine takes them."""

from engine.errors import EngineError
from engine.houserules.rules import (
    A_FILE,
    DEFAULT,
    NOWHERE,
    OWN_VISITS,
    RULES,
    SEARCH_NOW,
    SECOND_ADDITION,
    HouseRules,
    choose,
)

__all__ = [
    "A_FILE",
    "DEFAULT",
    "NOWHERE",
    "OWN_VISITS",
    "RULES",
    "SEARCH_NOW",
    "SECOND_ADDITION",
    "HouseRules",
    "UnknownChoice",
]
UnknownChoice = EngineError  # raised with words that can be shown


def rules_from(choices: dict, version: int) -> HouseRules:
    """The house rules of a shop's version. A choice that no longer exists falls back to the default of its rule."""
    known = {rule.id: rule for rule in RULES}
    kept = {name: value for name, value in choices.items() if name in known and value in known[name].alternatives}
    return choose(kept, f"{DEFAULT.version}.{version}" if version else DEFAULT.version)


def read_choice(rule_id: str, text: str):
    """A typed or chosen alternative as its rule's value; raises EngineError naming what may be chosen."""
    rule = next((rule for rule in RULES if rule.id == rule_id), None)
    if rule is None:
        raise EngineError(f"There is no house rule '{rule_id}'.")
    for value in rule.alternatives:
        if str(value) == text:
            return value
    raise EngineError(f"{rule.title}: choose one of {', '.join(str(value) for value in rule.alternatives)}.")


def differing(choices: dict) -> dict:
    """Only the choices that differ from the default."""
    return {name: value for name, value in choices.items() if value != getattr(DEFAULT, name)}


def title_of(rule_id: str) -> str:
    """A rule's title; '' for one that does not exist."""
    return next((rule.title for rule in RULES if rule.id == rule_id), "")


def choice_said(rule_id: str, text: str) -> str:
    """An alternative in words, by its rule and as a form sends it; the text itself where there is none such."""
    rule = next((rule for rule in RULES if rule.id == rule_id), None)
    return next((_words(v, rule.unit) for v in rule.alternatives if str(v) == text), text) if rule else text


WORDS = {
    "air_first": "Prove the air first", "at_once": "Connect at once",
    "outdoor_air_first": "Outdoor air, inside, outside", "inside_first": "Inside, then outside",
    "outside_first": "Outside, then inside",
    "computed": "Computed for this air and airflow", "flat": "Flat band", "climate": "By climate",
    "return_air": "Adjusted for return air",
    "search_now": "Before anything is added", "second_addition": "Before a second addition",
    "watch": "Never first: watch what it loses",
    "own_visits": "The shop's own sound visits", "a_file": "A file that was taken in", "nowhere": "Not used",
    "fluid": "From the fluid itself", "pocket": "Pocket factors, 500 and 485",
}  # fmt: skip


def as_shown(rules: HouseRules) -> list[dict]:
    """Every rule as the page shows it: title, reason, alternatives with the one in force and the default marked."""
    return [
        {
            "id": rule.id,
            "title": rule.title,
            "reason": rule.reason,
            "changed": getattr(rules, rule.id) != rule.default,
            "alternatives": [
                {
                    "value": str(v),
                    "words": _words(v, rule.unit),
                    "chosen": v == getattr(rules, rule.id),
                    "default": v == rule.default,
                }
                for v in rule.alternatives
            ],
        }
        for rule in RULES
    ]


def _words(value, unit: str) -> str:
    if isinstance(value, str):
        return WORDS.get(value, value)
    return f"{100 * value:g} %" if unit == "share" else f"{value:g} {unit}".strip()
