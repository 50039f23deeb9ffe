"""The sound visits of a shop that are confirmed, and so may teach."""

from web.kinds.models import BY_BASELINE, BY_GAUGES, BY_OUTCOME, LeftOut, Lesson
from web.visits.bridge import vocabulary
from web.visits.models import Baseline, HookUp, Outcome, Reading, Round


def confirmed_rounds(shop) -> dict[int, str]:
    """Rounds that were confirmed, by key, and how; those that are left out are not among them. Whether the verdict was
    sound is seen when the round is worked out.
    """
    hooked_up = HookUp.objects.filter(round__visit__shop=shop).values("round__visit")
    pressures = Reading.objects.filter(round__visit__in=hooked_up, place__in=vocabulary.GAUGE_PLACES)
    by_gauges = pressures.values_list("round", flat=True).distinct()
    right = Outcome.objects.counting().filter(shop=shop, right=True).values_list("round", flat=True)
    sealed = Baseline.objects.filter(shop=shop, was_wrong=False).values_list("round", flat=True)
    found = dict.fromkeys(by_gauges, BY_GAUGES) | dict.fromkeys(right, BY_OUTCOME) | dict.fromkeys(sealed, BY_BASELINE)
    return {key: found[key] for key in allowed(shop, found)}


def taught_in(shop):
    """What rounds of the shop taught when it learnt last, without those that are left out now."""
    visits, people = _left_out(shop)
    rows = Lesson.objects.filter(round__visit__shop=shop).exclude(round__visit__in=visits)
    return rows.exclude(round__visit__with_person=None, round__visit__started_by__in=people).exclude(
        round__visit__with_person__in=people
    )


def _left_out(shop) -> tuple[set[int], set[int]]:
    """The visits and the people that teach nothing, by key."""
    out = list(LeftOut.objects.standing(shop).values_list("visit", "person"))
    return {visit for visit, _ in out if visit}, {person for _, person in out if person}


def allowed(shop, keys) -> list[int]:
    """Of these rounds those that are of no practice house and not left out, in order."""
    visits, people = _left_out(shop)
    rows = Round.objects.filter(pk__in=list(keys), visit__shop=shop, visit__is_practice=False)
    held = rows.order_by("pk").values_list("pk", "visit", "visit__started_by", "visit__with_person")
    return [pk for pk, visit, by, now in held if visit not in visits and (now or by) not in people]


def lessons_of(keys):
    """What these rounds teach, as far as it is worked out, in their order."""
    return Lesson.objects.filter(round__in=list(keys)).order_by("round")
