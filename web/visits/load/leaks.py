"""What is on record of a machine's leaks: searches, additions, and whether a search comes before more is added."""

from datetime import datetime

from web.houserules.bridge import SEARCH_NOW, SECOND_ADDITION
from web.visits.load.gauges import standing_of_rounds
from web.visits.load.material import Material, standing
from web.visits.models import ADDED, NOT_SEARCHED, Action, ChargeStep, FollowUp, LeakSearch, Observation, Visit

# What opens a circuit: what is weighed in after it is no loss that was made good.
OPENS = ("compressor_changed", "coil_changed", "metering_device_changed", "leak_repaired")


def leak_search_of_visit(visit: Visit) -> LeakSearch | None:
    """What came of looking for a leak at a visit; the last word counts."""
    return LeakSearch.objects.filter(round__visit=visit).in_order().select_related("person").last()


def searched_at(visit: Visit) -> bool:
    """Whether somebody looked for a leak at a visit."""
    found = leak_search_of_visit(visit)
    return found is not None and found.found != NOT_SEARCHED


def is_asked_about(visit: Visit) -> bool:
    """Whether somebody still has to say what came of looking for the leak: what goes in as a new charge made none
    good.
    """
    return not searched_at(visit) and not is_charged_anew(visit)


def additions_to(system, before: datetime) -> list[ChargeStep]:
    """The steps that put refrigerant into a machine before a moment, the oldest first; one query."""
    rows = ChargeStep.objects.filter(round__visit__system=system, round__started_at__lt=before).select_related("round")
    steps = [step for step in standing_of_rounds(rows.in_order()) if step.way == ADDED]
    return sorted(steps, key=lambda step: step.taken_at)


def is_charged_anew(visit: Visit) -> bool:
    """Whether what goes in at a visit is a charge of its own: at commissioning, or after the circuit was opened."""
    commissioned = Observation.objects.filter(round__visit=visit, seen="visit_kind", degree="commissioning").exists()
    return commissioned or any(row.done in OPENS for row in standing(Action.objects.filter(round__visit=visit)))


def blocked_by(material: Material) -> str:
    """Why nothing more is added before a leak search, or what a follow-up asks for; '' where nothing blocks it."""
    visit, system = material.visit, material.system
    if blocking := FollowUp.objects.filter(system=system, blocks="charge").open().first():
        return f"A follow-up blocks it: {blocking.text}"
    if searched_at(visit):
        return ""
    school = material.rules.leak_search
    if school not in (SEARCH_NOW, SECOND_ADDITION) or is_charged_anew(visit):
        return ""
    if school == SEARCH_NOW:
        return "Search for the leak first: the house rule says before anything is added. Record what came of it below."
    earlier = additions_to(system, visit.started_at)
    if not earlier or _searched_since(system, earlier[-1]):
        return ""
    when = f"{earlier[-1].taken_at:%b %-d, %Y}"
    return f"Refrigerant was added on {when}, and no leak search is on record since. Search first, and record it below."


def _searched_since(system, step: ChargeStep) -> bool:
    since = LeakSearch.objects.filter(round__visit__system=system, round__started_at__gte=step.round.started_at)
    return since.exclude(found=NOT_SEARCHED).exists()
