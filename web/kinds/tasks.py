"""Background work: learning what sound machines of each kind do, from the shop's confirmed sound visits."""

from datetime import timedelta

from web.accounts.models import Shop
from web.background.kinds import Kind, Step
from web.background.models import Work
from web.houserules.bridge import OWN_VISITS
from web.houserules.services import rules_of
from web.kinds import bridge
from web.kinds.access import confirmed_rounds, lessons_of
from web.kinds.models import BY_BASELINE, Lesson
from web.kinds.services import keep_version
from web.visits.load.for_engine import stored_round
from web.visits.load.material import materials_of
from web.visits.models import Assessment, Round

AT_ONCE = 100  # rounds worked out in a step


def _step(work: Work) -> Step:
    """The next rounds of a shop worked out; after its last, what they teach is learnt and the next shop begins. Of
    scheduled work all shops are gone through.
    """
    after, shops = work.cursor.get("after", 0), Shop.objects.filter(pk__gte=work.cursor.get("shop", 0)).order_by("pk")
    shop = work.shop or shops.first()
    if shop is None:
        return Step(0, work.cursor, ended=True, says="No shop.")
    confirmed = confirmed_rounds(shop)
    keys = [key for key in confirmed if key > after][:AT_ONCE]
    if keys:
        _work_out(shop, {key: confirmed[key] for key in keys})
        total = work.done + len([key for key in confirmed if key > after]) if work.shop else None
        return Step(len(keys), {"shop": shop.pk, "after": keys[-1]}, total=total)
    says = _learn(shop, confirmed, work.started_by)
    following = None if work.shop else shops.exclude(pk=shop.pk).first()
    return Step(0, {"shop": following.pk} if following else {}, ended=following is None, says=says)


def _work_out(shop, confirmed: dict[int, str]) -> None:
    """Keep what these rounds teach; what is kept already, of the same assessment and rules, stays."""
    rounds = Round.objects.filter(pk__in=confirmed).select_related("visit__system__house__shop").order_by("pk")
    said, rules = Assessment.objects.states_of(list(confirmed)), rules_of(shop)
    sound = [
        row for row in rounds
        if row.pk in said and (said[row.pk][1] == bridge.SOUND or confirmed[row.pk] == BY_BASELINE)
    ]  # fmt: skip
    had = set(lessons_of(confirmed).values_list("round", "said", "rules_version", "engine_version", "confirmed_by"))
    missing = [
        row for row in sound
        if (row.pk, said[row.pk][0], rules.version, bridge.VERSION, confirmed[row.pk]) not in had
    ]  # fmt: skip
    still = {row.pk for row in sound} - {row.pk for row in missing}
    Lesson.objects.filter(round__in=set(confirmed) - still).delete()
    materials = materials_of(missing, with_people=False, alone=True)
    machines = [f"{m.round.visit.system.public_id} {m.round.machine}" for m in materials]
    taught = bridge.lessons([stored_round(material) for material in materials], machines)
    for row, content in zip((material.round for material in materials), taught, strict=True):
        if content is None:
            continue
        Lesson.objects.create(
            round=row,
            said=said[row.pk][0],
            rules_version=rules.version,
            engine_version=bridge.VERSION,
            confirmed_by=confirmed[row.pk],
            content=content,
        )


def _learn(shop, confirmed: dict[int, str], actor) -> str:
    contents = list(lessons_of(confirmed).values_list("content", flat=True))
    if not contents:
        return "No sound visit is confirmed yet."
    document, machines = bridge.learnt(contents)
    version = keep_version(shop, OWN_VISITS, document, machines, actor)
    of = "1 machine" if machines == 1 else f"{machines} machines"
    return f"Version {version.number}: learnt from {of}." if version else f"Nothing new: {of}, as before."


LEARN = Kind("Learning what sound machines do", _step, timedelta(days=1))
