"""Background work on visits."""

from datetime import timedelta

from django.db.models import Max, OuterRef, Q, Subquery
from django.utils import timezone

from web.accounts.models import Shop
from web.background.kinds import Kind, Step
from web.background.models import Work
from web.retention.services import remove
from web.visits.changes.picture_files import forget_strays
from web.visits.models import FINISHED, Assessment, Closing

ROUNDS_AT_ONCE = 500
KEPT_WHOLE_FOR = timedelta(days=1)


def thin_assessments(after: int, most: int = ROUNDS_AT_ONCE) -> tuple[int, int | None]:
    """Of rounds after this one, take away the assessments that a later one of the round replaced; not today's, and not
    what the visit was signed on. Returns how many went, and the last round looked at; None where there was none.
    """
    rounds = list(
        Assessment.objects.filter(round_id__gt=after)
        .order_by("round_id")
        .values_list("round_id", flat=True)
        .distinct()[:most]
    )
    if not rounds:
        return 0, None
    of_these = Assessment.objects.filter(round_id__in=rounds)
    last = of_these.order_by().values("round").annotate(newest=Max("pk")).values_list("newest", flat=True)
    old = of_these.filter(created_at__lt=timezone.now() - KEPT_WHOLE_FOR).exclude(pk__in=list(last))
    return remove(old.exclude(pk__in=_signed_on(rounds)), "a later assessment of the round replaced it"), rounds[-1]


def _signed_on(rounds: list[int]) -> list[int]:
    """The assessments that were the last when the visits of these rounds were finished."""
    until = Assessment.objects.filter(
        round__visit=OuterRef("visit"), round_id__in=rounds, created_at__lte=OuterRef("at")
    )
    endings = Closing.objects.filter(did=FINISHED, visit__rounds__in=rounds)
    newest = endings.annotate(last=Subquery(until.order_by("-id").values("pk")[:1]))
    return list(newest.filter(~Q(last=None)).values_list("last", flat=True))


def _thin(work: Work) -> Step:
    went, last = thin_assessments(work.cursor.get("after", 0))
    gone = work.done + went
    says = f"{gone} replaced assessments were taken away." if gone else "Nothing was replaced since the last time."
    return Step(went, {"after": last}, ended=last is None, says=says)


def _tidy_photos(work: Work) -> Step:
    shop = Shop.objects.filter(pk__gt=work.cursor.get("after", 0)).order_by("pk").first()
    if shop is None:
        return Step(0, work.cursor, ended=True, says=f"{work.done} files without a picture on record were taken away.")
    return Step(forget_strays(shop), {"after": shop.pk})


THIN_ASSESSMENTS = Kind("Thinning replaced assessments", _thin, timedelta(days=1))
TIDY_PHOTOS = Kind("Stray files of photos", _tidy_photos, timedelta(days=1))
