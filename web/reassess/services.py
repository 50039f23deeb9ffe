"""Starting a re-assessment, and what came of it."""

from dataclasses import dataclass

from django.db.models import Count

from web.accounts.access import need
from web.accounts.rights import RULES
from web.background import services as background
from web.background.models import Work
from web.houserules.services import tried
from web.reassess.models import Rejudged

KIND = "reassess"


@dataclass(frozen=True)
class Change:
    """Rounds whose verdict went the same way: what was said, what would be said, and how many."""

    was: str
    now: str
    count: int


def start(actor, since: str = "", machine: str = "", rule: str = "", value: str = "") -> Work:
    """Judge the shop's rounds again, as the actor narrows it: visits since a day (ISO), of a kind of machine. rule,
    value: a house rule tried; none for the engine and the rules of today. Raises UnknownChoice for a rule or value that
    does not exist.
    """
    need(actor, RULES, actor.shop_id)
    wants = {"since": since, "machine": machine}
    if rule:
        tried(actor.shop, rule, value)
        wants |= {"rule": rule, "value": value}
    return background.start(actor, KIND, {name: text for name, text in wants.items() if text})


def changes_of(work: Work) -> list[Change]:
    """The verdicts that would read otherwise, by what they were and would be; the most frequent first."""
    told = ("was_says", "was_gauges", "says", "gauges")
    rows = Rejudged.objects.filter(work=work, moved=True).values(*told).annotate(count=Count("pk")).order_by("-count")
    return [
        Change(_both(row["was_says"], row["was_gauges"]), _both(row["says"], row["gauges"]), row["count"])
        for row in rows
    ]


def _both(says: str, gauges: str) -> str:
    """A headline with the gauge decision: one may move without the other."""
    return f"{says} Gauges: {gauges}."


def moved_rounds(work: Work):
    """The rounds that would read otherwise, the newest first, with what a list shows."""
    moved = Rejudged.objects.filter(work=work, moved=True).order_by("-round")
    return moved.select_related("round__visit__system__house")
